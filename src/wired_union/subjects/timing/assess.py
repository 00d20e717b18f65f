"""Signal chains: from something sensed to something done, stage by stage."""

from functools import partial

from wired_union.kernel.results import Finding, Measure, Verdict, measure_id
from wired_union.kernel.subject import Assessment, Node
from wired_union.physics.latency import chain_latency, stage_bounds
from wired_union.project.model import Chain, Concept, Spell
from wired_union.subjects.timing.remedies import remedies
from wired_union.subjects.timing.results import ChainResult, StageBar, TimingResult, stage_times
from wired_union.units import show


def assess_timing(concept: Concept) -> TimingResult:
    """Every chain of the concept, end to end."""
    return TimingResult(tuple(_assess_chain(c) for c in concept.chains))


def _assess_chain(chain: Chain) -> ChainResult:
    if not chain.stages:
        return ChainResult(chain, None, (), (f"{chain.name}: its stages",))
    odd = [s.name for s in chain.stages if isinstance(s, Spell) and s.least_s > s.most_s]
    if odd:
        return ChainResult(chain, None, (), tuple(f"{n}: its least time is above its most" for n in odd))
    times = [stage_times(s) for s in chain.stages]
    latency = chain_latency(times)
    bars, at = [], 0.0
    for stage, time in zip(chain.stages, times, strict=True):
        least, most = stage_bounds(*time)
        bars.append(StageBar(stage.name, least, most, at, stage.kind))
        at += most
    return ChainResult(chain, latency, tuple(bars))


TIMING = Node("timing", lambda project: (project.concept.chains,), lambda project, _: assess_timing(project.concept))


def measures(assessment: Assessment) -> list[Measure]:
    """The worst latency of each chain."""
    return [_measure(c) for c in assessment.of(TIMING).chains]


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
    return [f for c in assessment.of(TIMING).chains if (f := _finding(assessment, c)) is not None]


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
        f"“{worst.name}” costs most: up to {show(worst.most_s, 's')}.", (), measure.id,
        partial(remedies, assessment.project, result), of=result.chain.id, of_limit=True,
    )  # fmt: skip
