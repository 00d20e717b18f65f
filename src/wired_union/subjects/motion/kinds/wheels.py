"""Wheels or tracks: a slope, a step, grip and speed."""

import math

from msgspec import Struct

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.crossing import skid_turn
from wired_union.physics.wheel import drive_torque, steepest_lean, step_climb, step_friction
from wired_union.picture.shapes import Kit, Line, Poly, Ring, Shape
from wired_union.project.motion_model import WheelLoad
from wired_union.subjects.mass.gives import Stance
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    motors_of,
    reflected,
    sharing,
    tone,
    turns,
)
from wired_union.subjects.motion.kinds.wheel_belly import belly_of
from wired_union.subjects.motion.kinds.wheel_step import Steps, steps_of
from wired_union.subjects.motion.results import Check, Drive, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, blank, scale_bar
from wired_union.units import show


def wheel_radius_m(scene: Scene, load: WheelLoad) -> float | None:
    wheel = scene.item(load.wheel)
    return wheel.part.wheel.diameter_m / 2 if wheel is not None and wheel.part.wheel is not None else None


class Needs(Struct, frozen=True):
    """What wheels take: torque at one wheel, and the friction with the ground."""

    usual_n_m: float
    slope_n_m: float
    step_n_m: float
    slope_grip: float
    step_grip: float
    steps: Steps | None = None
    """What steps take of the whole vehicle, where places say how it stands."""
    step_lacks: tuple[str, ...] = ()
    """What keeps the step from being worked out, in words."""
    grip_lacks: tuple[str, ...] = ()
    """What keeps the weight on the driven wheels from being known; the grip is then the least that it may take."""


def wheel_needs(load: WheelLoad, mass_kg: float, radius_m: float, stance: Stance | None = None) -> Needs:
    """Torque at one driven wheel: usual, on the slope, at the step; and the grip that slope and step take.

    Every wheel carries alike where places do not say how it stands.
    """
    driven = min(load.driven_wheels, load.wheels)
    usual = drive_torque(mass_kg, load.usual_slope_deg, load.rolling_resistance, 0.0, radius_m, driven)
    slope = drive_torque(mass_kg, load.slope_deg, load.rolling_resistance, load.acceleration_m_s2, radius_m, driven)
    steps = steps_of(stance.axles, load.step_m) if stance is not None and stance.axles is not None else None
    if steps is None:
        step, grip = step_needs(mass_kg * G / load.wheels, radius_m, load.step_m, load.wheels, driven)
    else:
        at = steps.at(load.step_m)
        step, grip = float(steps.torque_m[at]) * mass_kg * G, float(steps.friction[at])
    share, grip_lacks = _share(load, stance)
    step_lacks = stance.lacks if stance is not None and load.step_m and step < math.inf else ()
    return Needs(max(usual.torque_per_wheel_n_m, 0.0), max(slope.torque_per_wheel_n_m, 0.0), step,
                 max(slope.friction_needed, 0.0) / share, grip, steps, step_lacks, grip_lacks)  # fmt: skip


def _share(load: WheelLoad, stance: Stance | None) -> tuple[float, tuple[str, ...]]:
    """Share of the weight on the driven wheels: even while nothing has a place, then by places; else all of it."""
    if stance is None:
        return min(load.driven_wheels, load.wheels) / load.wheels, ()
    if stance.pressed is None:
        return 1.0, stance.lacks or ("what presses on its driven wheels",)
    return max(stance.pressed, 1e-9), ()


def step_needs(wheel_load_n: float, radius_m: float, step_m: float, wheels: int, driven: int) -> tuple[float, float]:
    """Torque at one driven wheel and friction that take an axle of two wheels over a step; infinite where none does."""
    if step_m <= 0:
        return 0.0, 0.0
    if step_m >= radius_m:
        return math.inf, math.inf
    lift = step_climb(wheel_load_n, radius_m, step_m)
    pushed = lift.push_n * min(2, wheels - driven) * radius_m / driven if driven < wheels else 0.0
    return max(lift.torque_n_m, pushed), step_friction(radius_m, step_m, wheels, driven)


def motors_each(load: WheelLoad, scene: Scene) -> tuple[float, float]:
    """Share of all driven wheels' torque that each motor gives, and how many wheels it turns against a step.

    Fewer motors than driven wheels turn several each, of which two may stand at the step; more share a wheel.
    """
    each = min(load.driven_wheels, load.wheels) / motors_of(load, scene)
    return each, min(each, 2.0)


def torques(load: WheelLoad, scene: Scene) -> Torques | None:
    """At one motor's shaft; None where the wheel or the mass is not known."""
    radius = wheel_radius_m(scene, load)
    if not radius or scene.mass_kg <= 0:
        return None
    needs = wheel_needs(load, scene.mass_kg, radius)
    each, at_step = motors_each(load, scene)
    step = needs.step_n_m * at_step if needs.step_n_m < math.inf else 0.0
    return Torques(needs.usual_n_m * each / load.torque_ratio, max(needs.slope_n_m * each, step) / load.torque_ratio)


def inertia(load: WheelLoad, scene: Scene) -> float | None:
    """Of the whole machine on its driven wheels; their own, next to that, is left out."""
    radius = wheel_radius_m(scene, load)
    return None if not radius or scene.mass_kg <= 0 else reflected(load, scene, scene.mass_kg * radius**2)


def carried(load: WheelLoad, scene: Scene) -> LoadResult:
    radius = wheel_radius_m(scene, load)
    missing = (*scene.lacks, *(() if radius else ("which wheel it runs on",)))
    if radius is None or scene.drive is None:
        return LoadResult(load, missing=missing)
    return _carried(load, scene, scene.drive, _at_motor(load, scene, radius), radius)


def _at_motor(load: WheelLoad, scene: Scene, radius: float) -> Needs:
    """The same at the shaft of each motor, with what it moves besides."""
    needs, others = wheel_needs(load, scene.mass_kg, radius, scene.stance), scene.others
    each, at_step = motors_each(load, scene)
    at_step = each if needs.steps is not None else at_step  # all of them push, not those at the edge alone
    return Needs(
        needs.usual_n_m * each / load.torque_ratio + others.usual_n_m,
        needs.slope_n_m * each / load.torque_ratio + others.most_n_m,
        needs.step_n_m * at_step / load.torque_ratio + others.most_n_m if load.step_m else 0.0,
        needs.slope_grip,
        needs.step_grip,
        needs.steps,
        needs.step_lacks,
        needs.grip_lacks,
    )


def _carried(load: WheelLoad, scene: Scene, drive: Drive, own: Needs, radius: float) -> LoadResult:
    """What follows from the torques at one motor's shaft."""
    ratio, gear, ground = load.ratio, load.torque_ratio, _ground(load, scene)
    stepped = load.step_m and not own.step_lacks
    belly = belly_of(load, scene, radius)
    fastest = max(drive.motor.speed_at(drive.sag_v, own.slope_n_m), 0.0) / ratio * radius
    checks = known(
        check_of("slope", own.slope_n_m * gear, drive.stall_n_m * gear, "N·m"),
        check_of("step", own.step_n_m * gear, drive.stall_n_m * gear, "N·m") if stepped else None,
        _grips("grip", own.slope_grip, ground, sure=bool(load.friction) and not own.grip_lacks),
        _grips("step grip", own.step_grip, ground, sure=bool(load.friction)) if stepped else None,
        check_of("speed", load.speed_m_s, fastest, "m/s") if load.speed_m_s else None,
        all_day(scene, drive.motor.current_at(own.usual_n_m)),
        belly.check,
        *_turning(load, scene, drive, ground),
    )  # fmt: skip
    stops = min(highest_step(load, scene, drive, radius, ground, own.steps), belly.stops_m)
    points = [drive.point("usual", own.usual_n_m), drive.point("slope", own.slope_n_m)]
    if stepped and own.step_n_m < math.inf:
        points.append(drive.point("step", own.step_n_m))
    hardest = own.step_n_m if stepped and own.step_n_m < math.inf else own.slope_n_m
    facts = {"radius_m": radius, "step_m": load.step_m, "slope_deg": load.slope_deg, "stops_m": stops,
             "weight_n": scene.mass_kg * G / load.wheels, "torque_n_m": hardest * gear}  # fmt: skip
    ground_lacks = () if load.friction else ("the grip of the ground",)
    lacks = tuple(dict.fromkeys(
        (*ground_lacks, *own.grip_lacks, *own.step_lacks, *belly.lacks, *_turn_lacks(load, scene))
    ))  # fmt: skip
    return LoadResult(load, checks, _rows(load, scene, own, checks, ground, stops, fastest), tuple(points), drive,
                      lacks, speed_m_s=fastest, facts=facts,
                      turning=turns(scene, points, points[1], ratio, "wheel"))  # fmt: skip


def _turning(load: WheelLoad, scene: Scene, drive: Drive, ground: float | None) -> tuple[Check | None, ...]:
    """Turning on the spot: torque of each motor and grip of the driven wheels against wheels dragged sideways."""
    sideways = _sideways(load, ground)
    axles = scene.stance.axles if scene.stance is not None else None
    if not load.turns_on_spot or axles is None or sideways is None or axles.track_m <= 0:
        return ()
    radius = max(axles.front.radius_m, axles.rear.radius_m)
    turn = skid_turn(scene.mass_kg * G, axles.wheelbase_m, axles.track_m, sideways, radius)
    each = 2 * turn.torque_per_side_n_m / motors_of(load, scene) / load.torque_ratio + scene.others.most_n_m
    share, lacks = _share(load, scene.stance)
    grip = 2 * turn.force_per_side_n / (scene.mass_kg * G) / share
    return (check_of("turn", each * load.torque_ratio, drive.stall_n_m * load.torque_ratio, "N·m"),
            _grips("turn grip", grip, ground, sure=bool(load.friction) and not lacks))  # fmt: skip


ROLLERS = 0.05
"""Friction of a wheel of rollers that is dragged sideways: 0.03 to 0.1, common practice."""


def _sideways(load: WheelLoad, ground: float | None) -> float | None:
    """Friction of what is dragged sideways: as measured, else by what it rolls on. Casters only roll."""
    if load.sideways_friction is not None:
        return load.sideways_friction
    return {"roller wheels": ROLLERS, "casters at one end": load.rolling_resistance}.get(load.rolls_on, ground)


def _turn_lacks(load: WheelLoad, scene: Scene) -> tuple[str, ...]:
    """What keeps turning on the spot from being worked out, in words."""
    if not load.turns_on_spot or (scene.stance is not None and scene.stance.axles is not None):
        return ()
    return scene.stance.lacks if scene.stance is not None else ("where its wheels stand",)


def _grips(name: str, needed: float, ground: float | None, *, sure: bool) -> Check | None:
    """Grip against what there is. Where that, or what presses, is the most that it can be, only what slips is sure."""
    if ground is None or (not sure and needed <= ground):
        return None
    return Check(name, "grip", needed / ground, needed, ground)


def _ground(load: WheelLoad, scene: Scene) -> float | None:
    """Grip of the ground: what is said of it, else the most there is, what the wheel has on a hard dry floor."""
    wheel = scene.item(load.wheel)
    return load.friction or (wheel.part.wheel.friction if wheel is not None and wheel.part.wheel else None)


def _rows(
    load: WheelLoad, scene: Scene, own: Needs, checks: tuple[Check, ...], ground: float | None, stops: float,
    fastest: float,
) -> tuple[Row, ...]:  # fmt: skip
    tones = {c.id: tone(c) for c in checks}
    driven = min(load.driven_wheels, load.wheels)
    step_grip = f"{own.step_grip:.2f}" if own.step_grip < math.inf else "more than there is"

    def of_ground(needed: str, lacks: tuple[str, ...]) -> str:
        if lacks:
            return "not known"
        if load.friction is None:
            return f"{needed}; {ground:.2f} on a hard dry floor" if ground else f"{needed}; ground not given"
        return f"{needed} of {ground:.2f}"

    step_words = "no step" if not load.step_m else "not known" if own.step_lacks else show(own.step_n_m, "N·m")
    stop_words = "not known" if own.step_lacks else f"{'' if load.friction else 'at most '}{show(stops, 'm')}"
    rows = [
        Row("each motor needs, slope", show(own.slope_n_m, "N·m"), tones.get("slope", "")),
        Row("each motor needs, step", step_words, tones.get("step", "")),
        Row("grip it takes, slope", of_ground(f"{own.slope_grip:.2f}", own.grip_lacks), tones.get("grip", "")),
        *_of_step(load, own, of_ground(step_grip, own.step_lacks), tones.get("step grip", "")),
        *(Row("its belly clears", c.said, tones["belly"]) for c in checks if c.id == "belly"),
        Row("step that stops it", stop_words),
        Row("fastest on the slope", show(fastest, "m/s"), tones.get("speed", "")),
        Row("driven wheels carry", _carry_words(load, scene, driven)),
    ]
    for c in checks:
        if c.id == "turn":
            rows.append(Row("each motor needs, turn", show(c.needed, c.unit), tones[c.id]))
            taken = scene.drive.point("turn", c.needed / load.torque_ratio).current_a if scene.drive else 0.0
            rows.append(Row("each motor takes, turn", show(taken, "A")))
        elif c.id == "turn grip":
            rows.append(Row("grip it takes, turn", c.said, tones[c.id]))
    motors = motors_of(load, scene)
    if motors != driven:
        rows.append(Row("driven by", f"{motors} motor{'' if motors == 1 else 's'} for {driven} driven wheels"))
    return (*rows, *(r for r in sharing(load, scene) if r.name != "shared by"))


def _of_step(load: WheelLoad, own: Needs, grip: str, grip_tone: str) -> list[Row]:
    """The grip that a step takes, and which axle takes more where places say it."""
    if not load.step_m:
        return []
    rows = [Row("grip it takes, step", grip, grip_tone)]
    if own.steps is not None:
        rear = own.steps.rear_harder[own.steps.at(load.step_m)]
        rows.append(Row("the harder axle", "rear, with the front up" if rear else "front"))
    return rows


def _carry_words(load: WheelLoad, scene: Scene, driven: int) -> str:
    """Share of the weight on the driven wheels, and how that is known."""
    if scene.stance is None:
        return f"{show(driven / load.wheels, 'share')} if all carry alike"
    if (pressed := scene.stance.pressed) is None:
        return "not known"
    return f"{show(pressed, 'share')}{' at least' if pressed < 1 else ''}, by their places"


def highest_step(
    load: WheelLoad, scene: Scene, drive: Drive, radius: float, ground: float | None, steps: Steps | None = None
) -> float:  # fmt: skip
    """The step that stops it, by torque or by grip: where `step_needs`, or the whole vehicle, takes all there is.

    At an edge that leans by θ a wheel of load W takes W·r·sin θ to lift itself, W·tan θ to be pushed.
    """
    weight, driven = scene.mass_kg * G / load.wheels * radius, min(load.driven_wheels, load.wheels)
    each, at_step = motors_each(load, scene)
    given = (drive.stall_n_m - scene.others.most_n_m) * load.torque_ratio
    if given <= 0:
        return 0.0
    if steps is not None:
        return steps.highest(ground, given / each / (scene.mass_kg * G))
    given /= at_step
    leans = [math.asin(min(given / weight, 1.0))]
    if driven < load.wheels:
        leans.append(math.atan(given * driven / (weight * min(2, load.wheels - driven))))
    if ground:
        leans.append(math.atan(steepest_lean(ground, load.wheels, driven)))
    return radius * (1 - math.cos(min(leans)))


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    facts = result.facts
    r = facts.get("radius_m")
    if r is None:
        return blank(kit, "Say which wheel it runs on.")
    step, slope = min(facts["step_m"], r * 1.4), math.radians(facts["slope_deg"])
    scale = Scale(min(height * 0.30, width * 0.2) / r, width * 0.42, height * 0.52)

    def turned(x: float, y: float) -> tuple[float, float]:
        return scale.at(x * math.cos(slope) - y * math.sin(slope), x * math.sin(slope) + y * math.cos(slope))

    edge = math.sqrt(max(step * (2 * r - step), 0.0)) if step < r else r
    ground = [turned(-2.2 * r, -r), turned(edge, -r), turned(edge, -r + step), turned(2.3 * r, -r + step)]
    shapes: list[Shape] = [
        Poly(tuple(ground), "ink", width=2.0),
        Ring(*scale.at(0, 0), r * scale.px, "ink", 2.0, (), "soft"),
        Ring(*scale.at(0, 0), r * scale.px * 0.72, "line", 1.2, ()),
        Ring(*scale.at(0, 0), kit.px(10), "copper", 1.0, (), "copper"),
    ]
    shapes.append(arc(scale, r * 0.5, 200, 60, "copper"))
    if step:
        shapes.append(Line(*scale.at(0, 0), *turned(edge, -r + step), "ink", 1.2, (4.0, 3.0)))
        text = show(facts["step_m"], "m")
        shapes.append(kit.figures(*turned(edge + 0.12 * r, -r + step / 2), f" {text} step", "small", "ink"))
    shapes += _forces(facts, kit, scale, r)
    shapes.append(kit.figures(*turned(1.3 * r, -1.32 * r), f"{facts['slope_deg']:g}° slope", "small", "mute"))
    return [*shapes, *scale_bar(kit, scale.px, height)]


def _forces(facts: dict[str, float], kit: Kit, scale: Scale, r: float) -> list[Shape]:
    """The weight on a wheel, and the torque that turns it."""
    (x, y), tall = scale.at(0, 0), r * scale.px
    weight, torque = show(facts["weight_n"], "N"), show(facts["torque_n_m"], "N·m")
    beside = scale.at(-1.25 * r, 0)[0]
    return [
        *arrow(x, y, x, y + tall * 0.78, "slate"),
        kit.figures(x - kit.px(8), y + tall * 0.72, weight, "small", "slate", bold=True, anchor="end"),
        kit.figures(beside, y - tall * 0.5, torque, "small", "copper", bold=True, anchor="end"),
    ]


def _unused(load: WheelLoad) -> frozenset[str]:
    found = {"driven_axle"} if load.driven_wheels >= load.wheels else set()
    return frozenset(found if load.turns_on_spot else found | {"sideways_friction"})


KIND = LoadKind(
    WheelLoad,
    "wheels or tracks",
    carried,
    drawn,
    asked=lambda load: f"{load.slope_deg:g}° slope · {show(load.step_m, 'm')} step",
    dragged=lambda result: {"slope_deg": 30.0, "step_m": 1.1 * result.facts.get("radius_m", 0.05)},
    torques=torques,
    sets_current=True,
    inertia=inertia,
    carries_all=True,
    by_total_mass=lambda _: True,
    unused=lambda load, _: _unused(load),
)
