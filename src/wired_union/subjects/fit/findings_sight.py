"""Findings of what sensors see, and of rows of beams."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project
from wired_union.subjects.fit.edits import set_beams, set_sight
from wired_union.subjects.fit.sights import HIDDEN, SEEN, BeamsResult, SightResult
from wired_union.units import show

AT_ONCE, LOOK_UP_DEG, IN_HAND = 0.5, (10.0, 20.0), 0.05
"""Share of a view that may hide before it is no view; how much further up is offered; what beams keep in hand."""


def finds_lacks(r: SightResult) -> tuple[str, ...]:
    """What keeps it from being known that it finds a thing: figures, a range that is too short, what is in the way."""
    s, lacks = r.sight, list(r.missing)
    if r.reaches is Verdict.BREAKS:
        lacks.append(f"{s.name}: it does not see from {show(s.from_m, 'm')} to {show(s.to_m, 'm')}")
    if r.smallest_m is None:
        return tuple(lacks)  # which is enough not to know it
    if r.hidden_share > HIDDEN:
        lacks.append(f"{s.name}: what hides behind {r.hidden[0][0]}")
    elif r.look is not None and r.hides_unknown:
        lacks += [f"{n}: its place and size, it may be in the way" for n in r.hides_unknown[:3]]
    if r.swept is not None and r.swept.step_deg is None:
        lacks.append(f"{s.name}: the time of a sweep and readings a second")
    return tuple(lacks)


def sight_findings(assessment: Assessment) -> Iterator[Finding]:
    """Everything that is not seen, or slips between beams."""
    seen = assessment.of(SEEN)
    for r in seen.sights:
        said = (_finds(assessment, r), _reach(r), _hidden(assessment.project, r), _sweep(assessment.project, r))
        yield from (f for f in said if f is not None)
    for row in seen.rows:
        found = (_pitch(assessment.project, row), _aim(row), _upright(row))
        yield from (f for f in found if f is not None)


def _ids(r: SightResult) -> tuple[str, ...]:
    return (r.sight.item,) if r.sight.item else ()


def _wanted(r: SightResult) -> str:
    return f"{show(r.sight.from_m, 'm')} to {show(r.sight.to_m, 'm')}"


def _finds(assessment: Assessment, r: SightResult) -> Finding | None:
    measure = assessment.measure(f"finds:{r.sight.id}")
    if measure.limit is None:
        return None
    what = f"{measure.shown} of {measure.limit_shown}, from {_wanted(r)}."
    why = f"Not known yet: {'; '.join(measure.missing)}." if measure.missing else ""
    return Finding("finds", measure.verdict, f"{r.sight.name} finds what is small", what, why, _ids(r), measure.id,
                   partial(_sharper, assessment.project, r, measure.limit), of=r.sight.id, of_limit=True)  # fmt: skip


def _reach(r: SightResult) -> Finding | None:
    if r.reaches not in {Verdict.BREAKS, Verdict.TIGHT}:
        return None
    s, words = r.sight, "just sees" if r.reaches is Verdict.TIGHT else "does not see"
    what = f"It sees from {show(s.least_m or 0.0, 'm')} to {show(s.most_m, 'm')}; {_wanted(r)} is wanted."
    return Finding("reach", r.reaches, f"{s.name} {words} that far", what, "", _ids(r), f"finds:{s.id}", of=s.id)


def _hidden(project: Project, r: SightResult) -> Finding | None:
    s, title = r.sight, f"{r.sight.name} looks at its own machine"
    if r.hidden_share > HIDDEN:
        name, share = r.hidden[0]
        verdict = Verdict.BREAKS if r.hidden_share > AT_ONCE else Verdict.UNKNOWN if r.hides_unknown else Verdict.TIGHT
        least = "At least " if r.hides_unknown else ""
        whole = show(r.hidden_share, fraction=True)
        what = f"{least}{whole} of its view hides, {show(share, fraction=True)} behind {name}."
        return Finding("hidden", verdict, title, what, "Parts count as boxes.", _ids(r), f"finds:{s.id}",
                       partial(_lifted, project, r), of=s.id, use=r.hidden_share / HIDDEN)  # fmt: skip
    if r.look is None or not r.hides_unknown:
        return None
    what = f"Not known yet: {'; '.join(f'{n}: its place and size' for n in r.hides_unknown[:3])}."
    return Finding("hidden", Verdict.UNKNOWN, f"{s.name} may look at its own machine", what, "", _ids(r),
                   f"finds:{s.id}", of=s.id)  # fmt: skip


def _sweep(project: Project, r: SightResult) -> Finding | None:
    s = r.sight
    if r.swept is None or r.swept.step_deg is None or r.swept.step_deg <= s.wide_deg:
        return None
    what = f"It turns {show(r.swept.step_deg, '°')} between two readings and sees {show(s.wide_deg, '°')}."
    return Finding("sweep", Verdict.BREAKS, f"{s.name} sweeps too fast", what,
                   "Between two readings a thing slips through.", _ids(r), f"finds:{s.id}",
                   partial(_slower, project, r), of=s.id, use=r.swept.step_deg / s.wide_deg)  # fmt: skip


def _sharper(project: Project, r: SightResult, limit_m: float) -> tuple[Remedy, ...]:
    """More pixels, by which it finds a thing of that size."""
    if r.smallest_m is None or r.smallest_m <= limit_m or r.sight.pixels_wide is None:
        return ()
    more = int(r.sight.pixels_wide * r.smallest_m / limit_m) + 1
    change = tried(partial(set_sight, value_id=r.sight.id, pixels_wide=more), project)
    return possible((f"{more} pixels from side to side", change))


def _lifted(project: Project, r: SightResult) -> tuple[Remedy, ...]:
    """Look a little further up, which shows less of the machine's own front."""
    s = r.sight
    ways = [(f"look {by:g}° further up", tried(partial(set_sight, value_id=s.id, pitch_deg=s.pitch_deg + by), project))
            for by in LOOK_UP_DEG]  # fmt: skip
    return possible(*ways)


def _slower(project: Project, r: SightResult) -> tuple[Remedy, ...]:
    """A sweep so slow that each reading meets the next."""
    s = r.sight
    if not s.readings_per_s:
        return ()
    slow = float(f"{s.sweep_deg / s.wide_deg / s.readings_per_s * 1.01:.3g}")
    return possible((f"a sweep of {show(slow, 's')}", tried(partial(set_sight, value_id=s.id, sweep_s=slow), project)))


def _pitch(project: Project, r: BeamsResult) -> Finding | None:
    b = r.row
    if b.smallest_m is None:
        return None
    use = r.surely_seen_m / b.smallest_m
    if (verdict := share_verdict(use, IN_HAND)) is Verdict.HOLDS:
        return None
    pitch = float(f"{(b.smallest_m - b.beam_m) * 0.94:.3g}")
    closer = tried(partial(set_beams, value_id=b.id, pitch_m=pitch), project) if pitch > 0 else None
    title = f"A thing slips through {b.name}" if verdict is Verdict.BREAKS else f"{b.name} is just close enough"
    what = f"It surely breaks a beam from {show(r.surely_seen_m, 'm')} on; {show(b.smallest_m, 'm')} is wanted."
    offer = partial(possible, (f"beams {show(pitch, 'm')} apart", closer))
    return Finding("beams", verdict, title, what, offer=offer, of=b.id, detail="pitch", use=use)


def _aim(r: BeamsResult) -> Finding | None:
    b = r.row
    if b.aimed_deg is None:
        return None
    use = b.aimed_deg / r.tolerance_deg if r.tolerance_deg else float("inf")
    if (verdict := share_verdict(use)) is Verdict.HOLDS:
        return None
    what = f"To {show(r.tolerance_deg, '°')}; it is aimed to {show(b.aimed_deg, '°')}."
    return Finding("beams", verdict, f"{b.name} must be aimed better", what, "A wider receiver forgives more.", (),
                   of=b.id, detail="aim", use=use)  # fmt: skip


def _upright(r: BeamsResult) -> Finding | None:
    b = r.row
    if r.upright_breaks is None or r.upright_breaks != r.flat_breaks:
        return None
    what = f"Both break {r.upright_breaks} of {b.beams} beams."
    return Finding("beams", Verdict.BREAKS, f"{b.name} does not tell upright from flat", what,
                   "A beam between the two heights does.", (), of=b.id, detail="upright")  # fmt: skip
