"""Findings of analogue chains and surfaces: what lacks, is too coarse or too slow, or folds into what is measured."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.subjects.bench.chains import CHAINS, TIMES_FASTER, Chained
from wired_union.subjects.bench.map_edits import set_chain
from wired_union.subjects.bench.surfaces import SURFACED, Surfaced
from wired_union.units import show


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    for c in assessment.of(CHAINS):
        yield from _chain(assessment, c)
    for s in assessment.of(SURFACED):
        yield from _surface(s)


def _chain(assessment: Assessment, c: Chained) -> Iterator[Finding]:
    chain = c.chain
    items, measure = (chain.item,) if chain.item else (), f"error:{chain.id}"
    if c.missing:
        yield Finding("chain-gap", Verdict.UNKNOWN, chain.name, f"Not known yet: {'; '.join(c.missing[:3])}.",
                      "What is not known is not nothing.", items, measure, of=chain.id)  # fmt: skip
        return
    if c.verdict is Verdict.BREAKS:
        unit = chain.unit
        yield Finding("chain", Verdict.TIGHT, f"{chain.name}: too coarse",
                      f"Off by up to {show(c.error, unit)}, where {show(chain.wanted, unit)} is wanted: steps of"
                      f" {show(c.step, unit)}, noise of {show(c.noise, unit)}, hum of {show(c.hum, unit)}.",
                      "Noise averages out, a hum that folds in does not.", items, measure,
                      partial(_ways, assessment, c), of=chain.id,
                      use=c.error / chain.wanted if c.error and chain.wanted else None)  # fmt: skip
    fastest, rate = chain.fastest_hz or 0.0, chain.sample_hz or 0.0
    if fastest * TIMES_FASTER > rate:
        worse = "folds: it is seen as something slower" if 2 * fastest > rate else "is seen with few samples"
        change = tried(set_chain, assessment.project, value_id=chain.id, sample_hz=fastest * TIMES_FASTER)
        yield Finding("chain-slow", Verdict.TIGHT, f"{chain.name}: sampled too slowly",
                      f"{show(rate, 'Hz')} for changes of {show(fastest, 'Hz')}: the fastest {worse}.",
                      "Ten samples for each of the fastest changes: common practice.", items, measure,
                      partial(possible, (f"{show(fastest * TIMES_FASTER, 'Hz')}", change)), of=chain.id)  # fmt: skip
    if c.kept < KEEPS:
        yield Finding("chain-filter", Verdict.TIGHT, f"{chain.name}: the filter takes what is measured",
                      f"{show(1 - c.kept, 'share')} of the fastest change, at {show(fastest, 'Hz')}.",
                      "A corner at three times the fastest change takes 5 %.", items, measure, of=chain.id)  # fmt: skip


KEEPS = 0.94
"""Of the fastest change, what must be left: common practice."""


def _ways(assessment: Assessment, c: Chained) -> tuple[Remedy, ...]:
    """Samples to average, a filter, each worked out."""
    project, of = assessment.project, c.chain.id
    count, corner = c.averaged_that_does(), c.corner_that_does()
    ways: list[Remedy] = []
    if count is not None and count > c.chain.averaged:
        ways += possible((f"average {count} samples", tried(set_chain, project, value_id=of, averaged=count)))
    if corner is not None:
        change = tried(set_chain, project, value_id=of, corner_hz=corner)
        ways += possible((f"a filter at {show(corner, 'Hz')}", change))
    return (*ways, Remedy("a sensor with more volts for one of its unit, or a gain before the converter"))


def _surface(s: Surfaced) -> Iterator[Finding]:
    surface, measure = s.surface, f"error:{s.surface.id}"
    if s.missing and surface.points:
        yield Finding("surface-gap", Verdict.UNKNOWN, surface.name, f"Not known yet: {s.missing[0]}.",
                      "What is not known is not nothing.", (), measure, of=surface.id)  # fmt: skip
    if s.verdict is Verdict.BREAKS:
        yield Finding("surface", Verdict.TIGHT, f"{surface.name}: not good enough",
                      f"Off by up to {show(s.error, surface.unit)}, {show(surface.wanted, surface.unit)} is wanted.",
                      "More points narrow the surface; the noise of one reading stays.", (), measure,
                      of=surface.id, use=s.error / surface.wanted if s.error and surface.wanted else None)  # fmt: skip
