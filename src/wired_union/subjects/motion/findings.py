"""What there is to say of the loads to move."""

import math
from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, measure_id, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project
from wired_union.subjects.motion.assess import MOTION, MotionResult
from wired_union.subjects.motion.results import Check, LoadResult
from wired_union.subjects.motion.room import room_findings
from wired_union.subjects.motion.shaking import shake_findings
from wired_union.subjects.power.gives import follow_movement
from wired_union.units import show

AGREES = 0.02
"""How far the time of a phase may be from that of the movement it follows."""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """What breaks or is tight, what is missing, what shakes, what does not fit."""
    project, result = assessment.project, assessment.of(MOTION)
    for r in result.loads:
        yield from (_gap(r, gap) for gap in r.missing)
        for check in r.checks:
            if check.verdict in {Verdict.BREAKS, Verdict.TIGHT}:
                made = _finding(project, r, check)
                yield made.while_unknown(r.missing[0], f"{r.load.name}: {check.name}") if r.missing else made
    yield from shake_findings(result)
    yield from _unheard(result)
    yield from _phases(project, result)
    yield from room_findings(assessment)


def _unheard(result: MotionResult) -> Iterator[Finding]:
    """What swings nobody knows how often; rotors that may shake it, and turn nobody knows how fast."""
    if any(r.turning for r in result.loads):
        for mount in result.unheard:
            yield Finding(
                "shake-gap", Verdict.UNKNOWN, f"{mount.name} may shake",
                f"Not known yet: {mount.name}: its frequency, or its stiffness and mass.",
                "How often it swings by itself says what shakes it.", of=mount.id, detail="mount",
            )  # fmt: skip
    if not result.shakes:
        return
    items = {r.drive.item.id: r.drive.item for r in result.loads if r.drive is not None and r.turning}
    for item in items.values():
        name = item.name
        if item.part.motor is not None and item.part.motor.gear_ratio is None:
            yield Finding(
                "shake-gap", Verdict.UNKNOWN, f"{name} may shake it", f"Not known yet: {name}: its gear ratio.",
                "How fast its rotor turns says what it shakes.", (item.id,), of=item.id,
            )  # fmt: skip


def _phases(project: Project, result: MotionResult) -> Iterator[Finding]:
    """Phases that should last as long as a movement, and no longer do."""
    names = {m.id: m.name for m in project.concept.modes}
    for index, phase in enumerate(project.concept.mission.phases):
        moved = result.of(phase.load) if phase.load else None
        if moved is None:
            continue
        title, of = f"Phase {index + 1}, {names[phase.mode]}", str(index)
        takes = moved.takes_s[1] if moved.takes_s is not None and not moved.missing else math.inf
        if not math.isfinite(takes):
            yield Finding("phase", Verdict.UNKNOWN, title, f"Not known yet: how long {moved.load.name} takes.",
                          "The phase should last as long as that.", _mover(moved), of=of)  # fmt: skip
        elif abs(phase.duration_s / takes - 1) > AGREES:
            verdict = Verdict.BREAKS if phase.duration_s < takes else Verdict.TIGHT
            change = tried(follow_movement, project, index, phase.load, takes)
            yield Finding(
                "phase", verdict, title,
                f"It lasts {show(phase.duration_s, 's')}; one movement of {moved.load.name} takes {show(takes, 's')}.",
                "Runtime is worked out from what the phase lasts.", _mover(moved), of=of,
                offer=partial(possible, (f"let it last {show(takes, 's')}", change)),
                use=takes / phase.duration_s if verdict is Verdict.BREAKS else None,
            )  # fmt: skip


def hard_findings(assessment: Assessment) -> Iterator[Finding]:
    """What does not do what is asked of it, and what does not fit."""
    for r in assessment.of(MOTION).loads:
        yield from (_finding(assessment.project, r, c) for c in r.checks if c.use > 1)
    yield from room_findings(assessment)


def _gap(result: LoadResult, gap: str) -> Finding:
    return Finding("motion-gap", Verdict.UNKNOWN, result.load.name, f"Not known yet: {gap}.",
                   "Until it is known nothing says whether it moves.", _mover(result),
                   measure_id("motion", result.load.id), of=result.load.id, detail=gap)  # fmt: skip


def _mover(result: LoadResult) -> tuple[str, ...]:
    return (result.load.actuator,) if result.load.actuator else ()


_HOLDS = {
    "belly": "just clears the step with its belly",
    "slope": "just climbs the slope", "step": "just climbs the step", "speed": "is just fast enough",
    "turn": "just turns on the spot", "turn grip": "just grips as it turns on the spot",
    "grip": "just grips", "step grip": "just grips at the step", "force": "has little force to spare",
    "torque": "has little torque to spare", "energy": "has little energy to spare", "all day": "runs warm",
    "time": "takes nearly all the time there is", "crushing": "nearly crushes what it holds",
    "opening shock": "is nearly torn as it opens", "floats": "just floats", "across": "hardly rights itself sideways",
    "along": "hardly rights itself lengthwise", "righting": "hardly rights itself", "lean": "hangs nearly askew",
    "blocked force": "nearly crushes what it holds when it goes on pressing", "pieces": "just takes as many pieces",
    "lifting": "is just fast enough to lift them", "throwing": "nearly throws them",
}  # fmt: skip
_FAILS = {
    "belly": "sits on the step with its belly",
    "slope": "does not climb the slope", "step": "stops at the step", "speed": "is too slow", "grip": "slips",
    "turn": "does not turn on the spot", "turn grip": "slips as it turns on the spot",
    "step grip": "slips at the step", "force": "has too little force", "torque": "has too little torque",
    "energy": "has too little energy", "lift": "stays shut: its weight is more than the drag",
    "landing speed": "comes down too fast", "drift": "drifts too far", "buckling": "buckles", "whirling": "whirls",
    "stroke": "does not reach that far", "travel": "is loaded beyond its travel", "all day": "overheats",
    "pressure": "is set above the tank's rating", "rhythm": "is not back at speed in time",
    "recharge": "takes too long to load again", "wheel speed": "turns its wheel too fast", "time": "takes too long",
    "winding": "stalls before it is wound", "crushing": "crushes what it holds",
    "opening shock": "is torn as it opens", "floats": "sinks", "across": "turns over sideways",
    "along": "turns over lengthwise", "righting": "turns over", "lean": "hangs askew",
    "blocked force": "crushes what it holds when it goes on pressing", "pieces": "takes too few pieces",
    "lifting": "is too slow to lift them", "throwing": "throws them",
}  # fmt: skip


def _remedies(project: Project, result: LoadResult, check: Check) -> tuple[Remedy, ...]:
    from wired_union.subjects.motion.remedies import remedies  # when they are looked at

    return remedies(project, result, check)


def _finding(project: Project, result: LoadResult, check: Check) -> Finding:
    fails = check.use > 1
    words = (_FAILS if fails else _HOLDS).get(
        check.id, f"{'has too little' if fails else 'is near its limit of'} {check.name}"
    )
    why = (
        "Most torque is at zero speed; a ratio that gives torque takes speed." if check.id in {"speed", "slope"} else ""
    )

    return Finding(
        "motion", check.verdict, f"{result.load.name} {words}", f"{check.said}.", why, _mover(result),
        measure_id("motion", result.load.id), partial(_remedies, project, result, check),
        hard=fails, of=result.load.id,
        detail=check.id, use=check.use,
    )  # fmt: skip
