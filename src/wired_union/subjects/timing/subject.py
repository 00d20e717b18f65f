"""Timing: from something sensed to something done."""

from wired_union.kernel.results import Finding, Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.timing.assess import MOVEMENTS, TIMING, findings, measures
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.findings_loops import loop_findings, loop_measures
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.pick import SharedPick, TimingPick
from wired_union.subjects.timing.tasks import TASKS
from wired_union.units import show


def _costliest(assessment: Assessment, measure: Measure) -> TimingPick:
    result = next((c for c in assessment.of(TIMING).chains if c.chain.id == measure.of), None)
    return TimingPick(measure.of, result.costliest if result is not None and result.bars else 0)


def _stages(assessment: Assessment, measure: Measure) -> list[Driver]:
    result = next((c for c in assessment.of(TIMING).chains if c.chain.id == measure.of), None)
    bars = result.bars if result is not None else ()
    return [Driver(b.name, b.most_s, show(b.most_s, "s"), "plum") for b in sorted(bars, key=lambda b: -b.most_s)]


def _measures(assessment: Assessment) -> list[Measure]:
    return [*measures(assessment), *loop_measures(assessment)]


def _findings(assessment: Assessment) -> list[Finding]:
    return [*findings(assessment), *loop_findings(assessment)]


def _loop(_: Assessment, measure: Measure) -> SharedPick:
    return SharedPick("control_loops", measure.of)


def _verdict(assessment: Assessment) -> Verdict | None:
    found = [*assessment.own_verdicts("timing")]
    found += [v for p in assessment.of(TASKS) if (v := p.verdict) is not None]
    found += [r.verdict for r in assessment.of(LOOPS)]
    return worst([*found, *(v for b in assessment.of(BUSES) if (v := b.verdict) is not None)])


def _processor(_: Assessment, measure: Measure) -> SharedPick:
    return SharedPick("processors", measure.of)


def _tasks(assessment: Assessment, measure: Measure) -> list[Driver]:
    found = next((p for p in assessment.of(TASKS) if p.processor.id == measure.of), None)
    tasks = [t.task for t in found.tasks] if found is not None else []
    shares = [(t.name, (t.most_s or 0.0) / t.period_s) for t in tasks]
    return [Driver(name, s, show(s, "share"), "plum") for name, s in sorted(shares, key=lambda x: -x[1])]


def _bus(_: Assessment, measure: Measure) -> SharedPick:
    return SharedPick("buses", measure.of)


def _messages(assessment: Assessment, measure: Measure) -> list[Driver]:
    found = next((b for b in assessment.of(BUSES) if b.bus.id == measure.of), None)
    messages = found.messages if found is not None else ()
    shares = [(m.message.name, m.time_s / m.message.every_s) for m in messages]
    return [Driver(name, s, show(s, "share"), "slate") for name, s in sorted(shares, key=lambda x: -x[1])]


SUBJECT = Subject(
    id="timing", title="Timing", group="BUDGET",
    about=(
        "Worst: every stage at its most, every sample just missed. Typical: every stage in its middle. Least: every"
        " stage at its shortest. Stages are taken as not synchronised with each other.",
        "Tasks: the worst response over all instances of the longest busy period, by their priorities; alike, each may"
        " have to wait for the other. Cores are looked at one by one. A wait counts as if the task kept the processor:"
        " true of a plain loop, a bound elsewhere. A plain loop answers after a whole pass at the worst. The lanes show"
        " everything due at once and each run at its longest.",
        "Buses: CAN exactly by priority, frames stuffed at the worst, no errors on the wire; several frames as if"
        " others could come in between. Other buses one after the other as they are asked for. A UART's receiver loses"
        " what it cannot keep until its task has read. A wait that is meant is never offered as a gain. Not checked:"
        " what a task costs to switch, caches, locks across cores.",
        "Loops: linear plants of one lag, with an integrator or without; a motor's from its winding, its load and its"
        " inertia. The delay is the chain's worst with half a period that each output is held. The margin is that of"
        " the crossover that bears the least; 45° is asked for (common practice). The response is of the sampled"
        " controller itself, with its limit. Left out: noise, backlash, friction.",
    ),
    view="view:TimingView",
    methods=("chain-latency", "uart-time", "i2c-time", "spi-time", "response-times",
             "utilisation-bound", "audsley-order", "super-loop", "can-frame-bits", "can-response-times",
             "one-wire-time", "loop-delay", "simc-tuning", "ziegler-nichols", "lora-airtime"),
    nodes=(MOVEMENTS, TASKS, BUSES, TIMING, LOOPS), measures=_measures, findings=_findings, hard_findings=lambda _: (),
    verdict=_verdict,
    explains=(MeasureKind("chain", "s", "React", each=True, select=_costliest, drivers=_stages,
                          about="worst case of the chain, end to end"),
              MeasureKind("load", "share", "React", each=True, select=_processor, drivers=_tasks,
                          about="share of the time that a processor runs, at the most"),
              MeasureKind("bus", "share", "React", each=True, select=_bus, drivers=_messages,
                          about="share of the time that a bus is in use, at the most"),
              MeasureKind("phase-margin", "°", "React", "at least", each=True, select=_loop,
                          about="phase margin that the delay leaves a control loop"),
              MeasureKind("delay-margin", "s", "React", "at least", each=True, select=_loop,
                          about="delay that a control loop could still bear"),
              MeasureKind("aim-error", "°", "React", each=True, select=_loop,
                          about="how far it has turned before it acts on what it saw")),
    section="section:section",
)  # fmt: skip
