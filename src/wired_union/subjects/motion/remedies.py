"""What could be done about a load that is not carried: another gear, motor, wheel, ratio or lead, more motors."""

import math
from collections.abc import Iterator
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Remedy, Verdict, possible, tried
from wired_union.physics.motor import MotorConstants
from wired_union.physics.stepper import StepperConstants
from wired_union.project.change import Change
from wired_union.project.model import AnyLoad, Part, Project
from wired_union.project.motion_model import GripLoad, IntakeLoad, JointLoad, ScrewLoad, WheelLoad
from wired_union.project.part_edits import set_count, swap_part
from wired_union.subjects.mass.gives import move_places
from wired_union.subjects.motion.edits import drive_wheels, set_load
from wired_union.subjects.motion.gears import other_ratios, same_motor
from wired_union.subjects.motion.results import Check, LoadResult, continuous_current_a
from wired_union.subjects.motion.usual import mover_of
from wired_union.units import show

GEARED = {"slope", "step", "turn", "torque", "speed", "pieces", "lifting"}
"""Checks that another gear of the same motor may mend."""
DRIVEN = {*GEARED, "all day", "winding", "time", "recharge", "rhythm"}
"""Checks that another motor may mend."""
OF_EACH = 2
IN_HAND = 0.8
"""Share of a rating that a suggested part is loaded with at the most: common practice."""


def remedies(project: Project, result: LoadResult, check: Check) -> tuple[Remedy, ...]:
    """Edits that may mend a check, each a few of its kind; the ripple says what they do."""
    gears = other_ratios(project, result) if check.id in GEARED else []
    found = [Remedy(f"take {g.part.name}", g.change) for g in gears if g.mends(result, check.id)][:OF_EACH]
    if check.id in DRIVEN:
        found += _motors(project, result, check)
    if isinstance(result.load, WheelLoad):
        found += _wheels(project, result, result.load, check)
    if isinstance(result.load, JointLoad) and check.id in {"torque", "all day"}:
        found += _sprung(project, result.load, result.facts["weight"])
    if check.id in {"grip", "crushing", "blocked force", "throwing"}:
        found += _held_otherwise(project, result.load, check)
    return (*found, *_otherwise_geared(project, result, check))


def _sprung(project: Project, load: JointLoad, weight: float) -> Iterator[Remedy]:
    """A spring that lifts half of what the joint holds at the worst, so that it pushes as much as it is pulled."""
    field, unit = ("spring_n", "N") if load.turns == "slide" else ("spring_n_m", "N·m")
    lifts = float(f"{getattr(load, field) + weight / 2:.2g}")
    if lifts > 0:
        words = f"a spring that lifts it with {show(lifts, unit)}"
        yield from possible((words, tried(set_load, project, load.id, **{field: lifts})))


RUBBER = 0.8
"""Friction of rubber on most dry things: common practice."""


def _held_otherwise(project: Project, load: AnyLoad, check: Check) -> Iterator[Remedy]:
    """Rubber where friction holds; a roller pressed harder; a finger less; a roller turned slower."""
    ways: list[tuple[str, dict[str, float]]] = []
    if isinstance(load, GripLoad | IntakeLoad) and load.friction < RUBBER and check.id in {"grip", "crushing"}:
        ways.append((f"rubber on it, friction {RUBBER:g}", {"friction": RUBBER}))
    if isinstance(load, IntakeLoad) and check.id == "grip" and load.friction * IN_HAND > load.ramp_friction:
        rest = check.needed - load.ramp_friction * load.squeeze_n
        squeeze = float(f"{rest / (load.friction * IN_HAND - load.ramp_friction) * 1.01:.3g}")
        ways.append((f"squeeze with {show(squeeze, 'N')}", {"squeeze_n": squeeze}))
    if isinstance(load, GripLoad) and check.id == "crushing" and load.factor > 1 and math.isfinite(check.use):
        factor = max(float(f"{load.factor / check.use * 0.99:.2g}"), 1.0)
        ways.append((f"grip with {factor:g} times the least", {"factor": factor}))
    if check.id in {"throwing", "blocked force"} and math.isfinite(check.use):
        slower = load.ratio * (check.use / IN_HAND if check.id == "throwing" else IN_HAND / check.use)
        ratio = float(f"{slower:.2g}")
        passes = load.gear_efficiency or GEAR_PASSES
        ways.append((f"a ratio of {ratio:g}:1 behind the motor", {"ratio": ratio, "gear_efficiency": passes}))
    yield from possible(*((words, tried(set_load, project, load.id, **new)) for words, new in ways))


WEAK, SLOW = (
    {"torque", "slope", "step", "turn", "winding"},
    {"speed", "time", "recharge", "rhythm", "pieces", "lifting"},
)
"""Checks that more torque at the load mends, and those that more speed does."""


def _otherwise_geared(project: Project, result: LoadResult, check: Check) -> Iterator[Remedy]:
    """The ratio behind the motor, the lead of a screw, one more motor: so far that a fifth stays in hand."""
    load, drive = result.load, result.drive
    if drive is None or check.use <= IN_HAND or not math.isfinite(check.use) or check.id not in WEAK | SLOW:
        return
    more = check.use / IN_HAND if check.id in WEAK else IN_HAND / check.use
    ratio = float(f"{load.ratio * more:.2g}")
    yield from possible((f"a ratio of {ratio:g}:1 behind the motor", tried(partial(geared, load), project, ratio)))
    if isinstance(load, ScrewLoad):
        lead = float(f"{load.lead_m / more:.2g}")
        words = f"a screw with a lead of {show(lead, 'm')}"
        yield from possible((words, tried(set_load, project, load.id, lead_m=lead)))
    if check.id in WEAK and not load.motors and not isinstance(load, WheelLoad):
        words = f"one more {drive.item.name}, sharing the load"
        yield from possible((words, tried(set_count, project, drive.item.id, drive.item.count + 1)))


GEAR_PASSES = 0.95
"""What a pair of spur gears or a toothed belt passes on: common practice."""


def geared(load: AnyLoad, project: Project, ratio: float) -> Change:
    """Another ratio behind the motor, of gears that lose what is usual where nobody says how much."""
    passes = load.gear_efficiency or GEAR_PASSES
    return set_load(project, load.id, ratio=ratio, gear_efficiency=passes)


def _motors(project: Project, result: LoadResult, check: Check) -> tuple[Remedy, ...]:
    """Other motors of the same class that carry it with a fifth in hand, the lightest first."""
    drive = result.drive
    if drive is None or not result.points:
        return ()
    item, same = drive.item, {p.id for p in same_motor(drive.item.part)}
    fitting = [
        p for p in of_kind(item.part.kind)
        if p.id != item.part.id and p.id not in same and _carries(p, result, check)
    ]  # fmt: skip
    fitting.sort(key=lambda p: (p.mass_kg or 0.0, p.id))
    return possible(*((f"take {p.name}", tried(swap_part, project, item.id, p)) for p in fitting[:OF_EACH]))


def _carries(part: Part, result: LoadResult, check: Check) -> bool:
    """Whether a motor, at the voltage the present one gets, has the torque, the speed and the warmth to spare."""
    drive, motor, load = result.drive, mover_of(part), part.load
    if drive is None or motor is None or load is None:
        return False
    least, most = load.supply_min_v, load.supply_max_v
    if least is None or most is None or not least <= drive.sag_v <= most or drive.nominal_v > most:
        return False
    hardest = max(p.torque_n_m for p in result.points)
    usual = result.points[0].torque_n_m
    warm = motor.current_at(usual) <= IN_HAND * (continuous_current_a(part) or 0.0)
    return hardest <= IN_HAND * motor.stall_torque_at(drive.sag_v) and warm and _fast(motor, result, check)


def _fast(motor: MotorConstants | StepperConstants, result: LoadResult, check: Check) -> bool:
    """Whether a motor is no slower than what is asked, or than the present one where nothing is."""
    drive = result.drive
    assert drive is not None
    torque = result.points[-1].torque_n_m
    now = max(drive.motor.speed_at(drive.sag_v, torque), 0.0)
    wanted = now * max((c.use for c in result.checks if c.id == "speed" and c.use != float("inf")), default=0.0)
    return motor.speed_at(drive.sag_v, torque) >= (now if check.id == "speed" else wanted)


def _least_wheel_m(result: LoadResult, check: Check) -> float:
    """Least diameter of a wheel for a step: an edge leans by its height over the radius, so both grow alike."""
    stops = result.facts.get("stops_m", 0.0)
    if check.id not in {"step", "step grip"} or stops <= 0 or check.verdict is not Verdict.BREAKS:
        return 0.0
    return 2 * result.facts["radius_m"] * result.facts["step_m"] / stops


def _higher(project: Project, check: Check) -> Iterator[Remedy]:
    """What a step touches, moved up by what it lacks."""
    item = next((i for i in project.concept.items if i.id == check.of), None)
    if item is not None and math.isfinite(check.use):
        up = math.ceil((check.needed / IN_HAND - check.given) * 1000) / 1000
        words = f"{item.name} {show(up, 'm')} higher"
        yield from possible((words, tried(move_places, project, item.id, 0.0, 0.0, up)))


MOST_GRIP = 1.0
"""More friction than this no wheel has on a floor that can be counted on: common practice."""


def _wheels(project: Project, result: LoadResult, load: WheelLoad, check: Check) -> Iterator[Remedy]:
    """Larger wheels of the catalogue, the least that may do first; driving more of them; ground and tread that grip."""
    if check.id == "belly":
        yield from _higher(project, check)
    if check.id in {"grip", "step grip", "turn grip"} and load.friction and check.needed <= MOST_GRIP:
        grip = math.ceil(check.needed * 100) / 100
        words = f"ground and tread that grip {grip:.2f} at least"
        yield from possible((words, tried(set_load, project, load.id, friction=grip)))
    if check.id in {"grip", "step grip", "slope"} and load.driven_wheels < load.wheels:
        words = f"drive all {load.wheels} wheels"
        yield from possible((words, tried(partial(drive_wheels, project, load.id), load.wheels)))
    wheel = next((i for i in project.concept.items if i.id == load.wheel), None)
    too_small = check.id == "step" and check.use == math.inf  # else a larger one only asks for more torque
    if not (too_small or check.id in {"step grip", "speed", "belly"}) or wheel is None or wheel.part.wheel is None:
        return
    least = max(wheel.part.wheel.diameter_m * 1.001, 2 * load.step_m * 1.001, _least_wheel_m(result, check))
    larger: dict[float, Part] = {}
    for part in of_kind("wheel"):
        if part.wheel is not None and part.wheel.diameter_m >= least:
            larger.setdefault(part.wheel.diameter_m, part)
    yield from possible(*(
        (f"a larger wheel, {larger[d].name}", tried(swap_part, project, wheel.id, larger[d]))
        for d in sorted(larger)[:OF_EACH]
    ))  # fmt: skip
