"""Signal chains: from something sensed to something done, stage by stage."""

import math
from functools import partial

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict, measure_id
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.latency import chain_latency, stage_bounds
from wired_union.project.model import Chain, Concept, Movement, Project, SignalStage
from wired_union.subjects.motion.gives_times import MOTION, MotionResult
from wired_union.subjects.timing.air import AIR, LinkResult
from wired_union.subjects.timing.buses import BUSES, BusResult
from wired_union.subjects.timing.eyes import EYES, EyeResult
from wired_union.subjects.timing.findings import bus_findings, eye_findings, task_findings
from wired_union.subjects.timing.findings_signals import signal_findings
from wired_union.subjects.timing.picture_spread import moved_words
from wired_union.subjects.timing.results import ChainResult, StageBar, TimingResult
from wired_union.subjects.timing.signals import SIGNALS, SignalResult
from wired_union.subjects.timing.stages import Around, Movements, Takes, periods_of, times_of
from wired_union.subjects.timing.tasks import TASKS, ProcessorResult
from wired_union.subjects.timing.why import why_of
from wired_union.units import show


def assess_timing(concept: Concept, around: Around) -> TimingResult:
    """Every chain of the concept, end to end."""
    return TimingResult(tuple(_assess_chain(c, around) for c in concept.chains))


def around_of(
    movements: Movements, processors: tuple[ProcessorResult, ...] = (), buses: tuple[BusResult, ...] = (),
    links: tuple[LinkResult, ...] = (), eyes: tuple[EyeResult, ...] = (), signals: tuple[SignalResult, ...] = (),
) -> Around:  # fmt: skip
    """What stages refer to, by its id."""
    tasks = {t.task.id: t for p in processors for t in p.tasks}
    messages = {m.message.id: m for b in buses for m in b.messages}
    return Around(movements, tasks, messages, {r.link.id: r for r in links},
                  {r.eye.id: r for r in eyes}, {r.signal.id: r for r in signals})  # fmt: skip


def movements_of(concept: Concept, motion: MotionResult) -> Movements:
    """How long one movement of every load takes; unknown while something of it is, or where it does not move."""
    found: dict[str, Takes] = {}
    for load in concept.loads:
        result = motion.of(load.id)
        takes = result.takes_s if result is not None else None
        if result is None or takes is None:
            lacks = result.missing if result is not None else ()
            found[load.id] = Takes(missing=lacks or (f"{load.name}: how long it takes",))
        elif result.missing or not math.isfinite(takes[1]):
            found[load.id] = Takes(missing=result.missing or (f"{load.name}: a time, for it does not move",))
        else:
            found[load.id] = Takes(*takes)
    return found


def _assess_chain(chain: Chain, around: Around) -> ChainResult:
    if not chain.stages:
        return ChainResult(chain, None, (), (f"{chain.name}: its stages",))
    times, missing = times_of(chain, around)
    if missing:
        return ChainResult(chain, None, (), missing)
    whole = [t for each in times for t in each]
    if not whole:
        return ChainResult(chain, None, (), (f"{chain.name}: a stage that takes time",))
    latency = chain_latency(whole)
    bars, at, due = [], 0.0, periods_of(chain, around)
    for stage, each, periods in zip(chain.stages, times, due, strict=True):
        bounds = [stage_bounds(*time) for time in each]
        least, most = sum(b[0] for b in bounds), sum(b[1] for b in bounds)
        bars.append(StageBar(stage.name, least, most, at, stage.kind, why_of(stage, around),
                             periods[0] if len(periods) == 1 else 0.0))  # fmt: skip
        at += most
    periods_s = tuple(p for each in due for p in each)
    return ChainResult(chain, latency, tuple(bars), times=tuple(whole), periods_s=periods_s)


def _reads(project: Project) -> tuple[object, ...]:
    return project.concept.chains, tuple((x.id, x.name) for x in project.concept.loads)


def _passes_signals(project: Project) -> bool:
    return any(isinstance(s, SignalStage) for c in project.concept.chains for s in c.stages)


def _wanted(project: Project, given: Given) -> Movements:
    moves = any(isinstance(s, Movement) for c in project.concept.chains for s in c.stages)
    return movements_of(project.concept, given.of(MOTION)) if moves else NO_MOVEMENTS


NO_MOVEMENTS: Movements = {}
"""Where no chain waits for one: always the same, so that nothing is worked out again for it."""
MOVEMENTS = Node("movements", _reads, _wanted, (MOTION,))
NO_SIGNALS: tuple[SignalResult, ...] = ()
PASSED = Node("signals in chains", lambda project: (project.concept.chains,),
              lambda project, given: given.of(SIGNALS) if _passes_signals(project) else NO_SIGNALS,
              (SIGNALS,))  # fmt: skip
TIMING = Node(
    "timing", lambda project: (project.concept.chains,),
    lambda project, given: assess_timing(
        project.concept, around_of(given.of(MOVEMENTS), given.of(TASKS), given.of(BUSES), given.of(AIR), given.of(EYES),
                           given.of(PASSED))
    ), (MOVEMENTS, TASKS, BUSES, AIR, EYES, PASSED),
)  # fmt: skip


def measures(assessment: Assessment) -> list[Measure]:
    """The worst latency of each chain, the load of each processor, and the share of the time that a bus is in use."""
    found = [_measure(c) for c in assessment.of(TIMING).chains]
    for p in assessment.of(TASKS):
        found.append(
            Measure("load", f"{p.processor.name}, load", p.load, "share", missing=p.missing, of=p.processor.id)
        )
    for b in assessment.of(BUSES):
        found.append(Measure("bus", f"{b.bus.name}, in use", b.share, "share", missing=b.missing, of=b.bus.id))
    return found


def _measure(result: ChainResult) -> Measure:
    latency = result.latency
    if latency is None:
        return Measure("chain", result.chain.name, None, "s", missing=result.missing, of=result.chain.id)
    return Measure("chain", result.chain.name, latency.most_s, "s", low=latency.least_s, high=latency.most_s,
                   of=result.chain.id)  # fmt: skip


def chain_measure(assessment: Assessment, result: ChainResult) -> Measure:
    """A chain's measure with its limit."""
    return assessment.measure(measure_id("chain", result.chain.id))


def findings(assessment: Assessment) -> list[Finding]:
    """One finding a chain that has a limit, with what costs most; one a chain that cannot be worked out."""
    found = [f for c in assessment.of(TIMING).chains if (f := _finding(assessment, c)) is not None]
    return [
        *found,
        *task_findings(assessment),
        *bus_findings(assessment),
        *eye_findings(assessment),
        *signal_findings(assessment),
    ]


def _remedies(project: Project, result: ChainResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies import remedies  # when they are looked at

    return remedies(project, result)


def _finding(assessment: Assessment, result: ChainResult) -> Finding | None:
    measure, latency = chain_measure(assessment, result), result.latency
    if latency is None:
        why = "Add what happens from the first event to the last, in order." if not result.chain.stages else ""
        said = "It has no stages yet." if not result.chain.stages else f"Not known yet: {'; '.join(result.missing)}."
        return Finding("chain", Verdict.UNKNOWN, result.chain.name, said, why, (), measure.id, of=result.chain.id)
    if measure.limit is None:
        return None
    worst = result.bars[result.costliest]
    return Finding(
        "chain", measure.verdict, result.chain.name,
        f"{show(latency.most_s, 's')} worst of the {measure.limit_shown} allowed,"
        f" {show(latency.typical_s, 's')} typical.",
        f"“{worst.name}” costs most: up to {show(worst.most_s, 's')}. {moved_words(assessment, result)}".strip(), (),
        measure.id,
        partial(_remedies, assessment.project, result), of=result.chain.id, of_limit=True,
    )  # fmt: skip
