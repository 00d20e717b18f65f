"""What there is to say of standing: the tip angle, what it lacks, and what moves it."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict, nothing_to_offer, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Concept, Pose, Project
from wired_union.project.place_words import said_move
from wired_union.subjects.mass.balance import AS_IT_STANDS, BALANCE, Balance, Lump, Tip, corners_of
from wired_union.subjects.mass.best_place import best_place
from wired_union.subjects.mass.place_edits import move_places
from wired_union.units import show

STEPS_M = (0.02, 0.04, 0.08)
"""How far a part is moved at a time, to see what that does."""
MOST_MOVED = 3


def is_asked(concept: Concept) -> bool:
    """Whether anything says where things are."""
    return bool(concept.feet) or any(i.places for i in concept.items) or any(s.room for s in concept.subsystems)


def tip_measures(assessment: Assessment) -> Iterator[Measure]:
    """The slope at which it tips over its first edge, at least, as far as places and masses are known."""
    if not is_asked(assessment.project.concept):
        return
    worst = assessment.of(BALANCE).worst
    first = worst.first
    least, most = (first.least_deg, first.most_deg) if first is not None else (None, None)
    yield Measure("tip-angle", "Tip angle", least, "°", direction="at least", low=least, high=most,
                  missing=assessment.of(BALANCE).lacking)  # fmt: skip


def tip_findings(assessment: Assessment) -> Iterator[Finding]:
    """The limit on the tip angle, with the edge; a machine that falls over as it stands breaks without one."""
    if not is_asked(assessment.project.concept):
        return
    every, measure = assessment.of(BALANCE), assessment.measure("tip-angle")
    worst, lacking = every.worst, every.lacking
    balance, first = worst.balance, worst.first
    if first is None or (lacking and measure.verdict is not Verdict.BREAKS and first.most_deg >= 0):
        if measure.limit is not None:
            yield Finding(
                "tip-angle", Verdict.UNKNOWN, "Tip angle", f"Not known yet: {'; '.join(lacking)}.",
                "Until it is known nothing says whether it stands.", (), "tip-angle",
            )  # fmt: skip
        return
    falls = first.most_deg < 0
    if not falls and measure.limit is None:
        return
    where = pose_words(assessment.project.concept, worst.pose)
    what = f"{_range(first)} {first.way}{where}, of the {measure.limit_shown} wanted."
    yield Finding(
        "tip-angle", Verdict.BREAKS if falls else measure.verdict, "Tip angle",
        f"It falls over{where or ' as it stands'}." if falls else what, _why(balance, first),
        tuple(x.item.id for x in movable_lumps(balance)[:1]), "tip-angle",
        partial(_moves, assessment.project, balance, first) if falls or measure.verdict.rank < 2 else nothing_to_offer,
        hard=falls, of_limit=not falls,
    )  # fmt: skip


def hard_tip_findings(assessment: Assessment) -> Iterator[Finding]:
    """What falls over as it stands."""
    first = assessment.of(BALANCE).worst.first if is_asked(assessment.project.concept) else None
    return (f for f in tip_findings(assessment) if f.hard) if first is not None and first.most_deg < 0 else iter(())


def pose_words(concept: Concept, pose: Pose) -> str:
    """ " in “Corer down” (Core)"; "" for as it stands."""
    if pose is AS_IT_STANDS:
        return ""
    modes = {m.id: m.name for m in concept.modes}
    named = ", ".join(modes[m.mode] for m in pose.modes if m.mode in modes)
    return f" in “{pose.name}”{f' ({named})' if named else ''}"


def _range(tip: Tip) -> str:
    least, most = f"{tip.least_deg:.1f}", f"{tip.most_deg:.1f}"
    return f"{least}°" if least == most else f"{least}° to {most}°"


def _why(balance: Balance, tip: Tip) -> str:
    centre = balance.centre
    assert centre is not None
    inside = tip.edge.distance_m(centre[:2])
    where = f"{show(inside, 'm')} inside of" if inside >= 0 else f"{show(-inside, 'm')} beyond"
    return (
        f"The centre of mass is {show(centre[2] - balance.floor_m, 'm')} high, {where} the edge it tips over {tip.way}."
    )


def movable_lumps(balance: Balance) -> list[Lump]:
    """Single parts with a place that are no wheels, heaviest first."""
    found = [x for x in balance.lumps if x.item.count == 1 and x.item.part.wheel is None]
    return sorted(found, key=lambda x: -x.most_kg)


def _moves(project: Project, balance: Balance, tip: Tip) -> tuple[Remedy, ...]:
    """The heaviest parts away from the edge, and lower where there is room under them."""
    found = []
    for lump in movable_lumps(balance)[:MOST_MOVED]:
        for step in STEPS_M[1:]:
            dx, dy = (round(step * v, 4) for v in tip.edge.inwards)
            name = lump.item.name
            found.append((f"{name} {said_move(dx, dy, 0.0)}", tried(move_places, project, lump.item.id, dx, dy, 0.0)))
        under = min(z for _, _, z in corners_of(lump)) - balance.floor_m
        if under > STEPS_M[1]:
            lower = tried(move_places, project, lump.item.id, 0.0, 0.0, -STEPS_M[1])
            found.append((f"{lump.item.name} {said_move(0.0, 0.0, -STEPS_M[1])}", lower))
    for lump in movable_lumps(balance)[:1]:
        found.append((f"{lump.item.name} where it stands best", tried(best_place, project, lump.item.id)))
    return possible(*found)
