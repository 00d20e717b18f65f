"""Wheels or tracks: a slope, a step, grip and speed."""

import math

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.wheel import drive_torque, highest_step_m, step_climb
from wired_union.picture.shapes import Kit, Line, Poly, Ring, Shape
from wired_union.project.motion_model import WheelLoad
from wired_union.subjects.motion.kind import LoadKind, Scene, all_day, known, tone, turns
from wired_union.subjects.motion.results import Check, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, blank, scale_bar
from wired_union.units import show


def wheel_radius_m(scene: Scene, load: WheelLoad) -> float | None:
    wheel = scene.item(load.wheel)
    return wheel.part.wheel.diameter_m / 2 if wheel is not None and wheel.part.wheel is not None else None


def wheel_torques(load: WheelLoad, mass_kg: float, radius_m: float) -> tuple[float, float, float, float]:
    """Torque at one motor's shaft: usual, on the slope, at the step; and the grip the slope takes."""
    ratio, driven = load.ratio, load.driven_wheels
    usual = drive_torque(mass_kg, load.usual_slope_deg, load.rolling_resistance, 0.0, radius_m, driven)
    slope = drive_torque(mass_kg, load.slope_deg, load.rolling_resistance, load.acceleration_m_s2, radius_m, driven)
    step = 0.0
    if 0 < load.step_m < radius_m:
        lift = step_climb(mass_kg * G / load.wheels, radius_m, load.step_m)
        pushed = lift.push_n * radius_m / driven if driven < load.wheels else 0.0
        step = max(lift.torque_n_m, pushed)
    elif load.step_m:
        step = math.inf
    torques = (max(usual.torque_per_wheel_n_m, 0.0), max(slope.torque_per_wheel_n_m, 0.0), step)
    return torques[0] / ratio, torques[1] / ratio, torques[2] / ratio, max(slope.friction_needed, 0.0)


def usual_torque_n_m(load: WheelLoad, scene: Scene) -> float | None:
    """Torque at one motor's shaft on most of the way; None where the wheel or the mass is not known."""
    radius = wheel_radius_m(scene, load)
    return wheel_torques(load, scene.mass_kg, radius)[0] if radius and scene.mass_kg > 0 else None


def carried(load: WheelLoad, scene: Scene) -> LoadResult:
    radius = wheel_radius_m(scene, load)
    missing = (*scene.lacks, *(() if radius else ("which wheel it runs on",)))
    if radius is None or scene.drive is None:
        return LoadResult(load, missing=missing)
    drive, ratio = scene.drive, load.ratio
    usual, slope, step, grip = wheel_torques(load, scene.mass_kg, radius)
    wheel = scene.item(load.wheel)
    ground = load.friction or (wheel.part.wheel.friction if wheel is not None and wheel.part.wheel else None)
    weight = scene.mass_kg * G / load.wheels
    stops = highest_step_m(drive.stall_n_m * ratio, weight, radius)
    fastest = max(drive.motor.speed_at(drive.sag_v, slope), 0.0) / ratio * radius
    speed = check_of("speed", load.speed_m_s, fastest, "m/s") if load.speed_m_s else None
    checks = known(
        check_of("slope", slope * ratio, drive.stall_n_m * ratio, "N·m"),
        check_of("step", step * ratio, drive.stall_n_m * ratio, "N·m") if load.step_m else None,
        Check("grip", "grip", grip / ground, grip, ground) if ground else None,
        speed, all_day(scene, drive.motor.current_at(usual)),
    )  # fmt: skip
    tones = {c.id: tone(c) for c in checks}
    rows = (
        Row("needs per wheel, slope", show(slope * ratio, "N·m"), tones.get("slope", "")),
        Row("needs per wheel, step", show(step * ratio, "N·m") if load.step_m else "no step", tones.get("step", "")),
        Row("grip it takes", f"{grip:.2f} of {ground:.2f}" if ground else f"{grip:.2f}; ground not given",
            tones.get("grip", "")),
        Row("step that stops it", show(stops, "m")),
        Row("fastest on the slope", show(fastest, "m/s"), tones.get("speed", "")),
    )  # fmt: skip
    points = [drive.point("usual", usual), drive.point("slope", slope)]
    if 0 < step < math.inf:
        points.append(drive.point("step", step))
    facts = {"radius_m": radius, "step_m": load.step_m, "slope_deg": load.slope_deg, "weight_n": weight,
             "torque_n_m": (step if 0 < step < math.inf else slope) * ratio, "stops_m": stops}  # fmt: skip
    return LoadResult(load, checks, rows, tuple(points), drive, () if ground else ("grip of the ground",),
                      speed_m_s=fastest, facts=facts, turns_hz=turns(drive, points[1], ratio, "wheel"))  # fmt: skip


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


KIND = LoadKind(
    WheelLoad,
    "wheels or tracks",
    carried,
    drawn,
    asked=lambda load: f"{load.slope_deg:g}° slope · {show(load.step_m, 'm')} step",
    dragged=lambda result: {"slope_deg": 30.0, "step_m": 1.1 * result.facts.get("radius_m", 0.05)},
    usual_torque_n_m=usual_torque_n_m,
    carries_all=True,
)
