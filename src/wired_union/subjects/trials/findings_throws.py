"""Findings of throws: what lacks, what misses the band or the wall, which angle or speed would land in its middle."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.subjects.trials.throw_edits import set_throw
from wired_union.subjects.trials.throws import THROWS, Thrown
from wired_union.units import show

SELDOM = 0.9
"""Throws that land as wanted, below which it is said: common practice."""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    for t in assessment.of(THROWS):
        measure = f"throw:{t.throw.id}"
        if t.missing:
            yield Finding("throw-gap", Verdict.UNKNOWN, t.throw.name, f"Not known yet: {'; '.join(t.missing[:3])}.",
                          "What is not known is not nothing.", (), measure, of=t.throw.id)  # fmt: skip
        elif t.inside is not None and t.inside < SELDOM:
            missed = (1 - t.inside) / (1 - SELDOM)
            told = f"{show(1 - t.inside, 'share')} miss, {show(missed, fraction=True)} of the tenth that may."
            yield Finding("throw", Verdict.TIGHT, f"{t.throw.name}: misses too often", f"{_where(t)} {told}",
                          "Where it lands spreads as its speed and angle do.", (), measure,
                          partial(_ways, assessment, t), of=t.throw.id, use=missed)  # fmt: skip


def _where(t: Thrown) -> str:
    low, high = t.ends
    said = f"{show(t.range_m, 'm')} as usual, {show(low, 'm')} to {show(high, 'm')} eight times in ten."
    clear = t.clearance_m
    if t.throw.wall_m is None:
        return said
    if clear is None:
        return f"{said} It does not come as far as the wall."
    return f"{said} {show(abs(clear), 'm')} {'over' if clear > 0 else 'under'} the top of the wall as usual."


def _ways(assessment: Assessment, t: Thrown) -> tuple[Remedy, ...]:
    """Angles and the speed that land in the middle of the band."""
    middle = t.middle_m
    if middle is None:
        return (Remedy("a steadier throw: less spread of speed and angle"),)
    ways: list[Remedy] = []
    project, of = assessment.project, t.throw.id
    for angle in t.angles_for(middle):
        ways += possible((f"at {show(angle, '°')}", tried(set_throw, project, of, angle_deg=angle)))
    speed = t.speed_for(middle)
    if speed is not None:
        ways += possible((f"at {show(speed, 'm/s')}", tried(set_throw, project, of, speed_m_s=speed)))
    return (*ways, Remedy("a steadier throw: less spread of speed and angle"))
