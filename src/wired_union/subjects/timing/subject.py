"""Timing: from something sensed to something done."""

from wired_union.kernel.results import Finding, Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.timing.about import ABOUT, METHODS
from wired_union.subjects.timing.air import AIR, ON_AIR, wished
from wired_union.subjects.timing.assess import MOVEMENTS, PASSED, TIMING, findings, measures
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.eyes import EYES
from wired_union.subjects.timing.findings_air import air_findings, air_measures
from wired_union.subjects.timing.findings_loops import loop_findings, loop_measures
from wired_union.subjects.timing.findings_ways import way_findings
from wired_union.subjects.timing.loops import LOOPS
from wired_union.subjects.timing.packets import PACKETS
from wired_union.subjects.timing.pick import SharedPick, TimingPick
from wired_union.subjects.timing.signals import SIGNALS, TURNS
from wired_union.subjects.timing.tasks import TASKS
from wired_union.subjects.timing.ways import SPEEDS, WAYS
from wired_union.units import show


def _costliest(assessment: Assessment, measure: Measure) -> TimingPick:
    result = next((c for c in assessment.of(TIMING).chains if c.chain.id == measure.of), None)
    return TimingPick(measure.of, result.costliest if result is not None and result.bars else 0)


def _stages(assessment: Assessment, measure: Measure) -> list[Driver]:
    result = next((c for c in assessment.of(TIMING).chains if c.chain.id == measure.of), None)
    bars = result.bars if result is not None else ()
    return [Driver(b.name, b.most_s, show(b.most_s, "s"), "plum") for b in sorted(bars, key=lambda b: -b.most_s)]


def _measures(assessment: Assessment) -> list[Measure]:
    return [*measures(assessment), *loop_measures(assessment), *air_measures(assessment)]


def _findings(assessment: Assessment) -> list[Finding]:
    return [*findings(assessment), *loop_findings(assessment), *air_findings(assessment), *way_findings(assessment)]


def _link(assessment: Assessment, measure: Measure) -> SharedPick:
    links = assessment.of(AIR)
    return SharedPick("radio_links", measure.of or (links[0].link.id if links else ""))


def _loop(_: Assessment, measure: Measure) -> SharedPick:
    return SharedPick("control_loops", measure.of)


def _verdict(assessment: Assessment) -> Verdict | None:
    found, links = [*assessment.own_verdicts("timing")], assessment.of(AIR)
    found += [v for p in assessment.of(TASKS) if (v := p.verdict) is not None]
    found += [r.verdict for r in assessment.of(LOOPS)] + [wished(r, links) for r in links]
    found += [r.verdict for r in assessment.of(EYES)] + [r.verdict for r in assessment.of(SIGNALS)]
    found += [r.verdict for r in assessment.of(WAYS)]
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
    about=ABOUT,
    view="view:TimingView",
    methods=METHODS,
    nodes=(MOVEMENTS, TASKS, PACKETS, BUSES, AIR, ON_AIR, EYES, TURNS, SIGNALS, PASSED, TIMING, LOOPS, SPEEDS, WAYS),
    measures=_measures, findings=_findings,
    hard_findings=lambda _: (),
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
                          about="how far it has turned before it acts on what it saw"),
              MeasureKind("air", "share", "React", select=_link,
                          about="share of the hour that all its radios are on the air"),
              MeasureKind("link-margin", "dB", "React", "at least", each=True, select=_link,
                          about="how far what arrives is above what a receiver needs"),
              MeasureKind("link-together", "dB", "React", "at least", each=True, select=_link,
                          about="the same by the best of the links that stand in for each other")),
    section="section:section",
)  # fmt: skip
