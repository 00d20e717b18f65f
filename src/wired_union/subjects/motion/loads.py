"""Each kind of load: what it needs from statics and the linear motor model, and what its part gives.

A new kind is a model, a function here, and a line in KINDS.
"""

import math
from collections.abc import Callable
from typing import Any

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.physics.atmosphere import descent_rate, fall_time_s, standard_atmosphere
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.motor import spin_up_time
from wired_union.physics.screw import euler_buckling, leadscrew, screw_critical_speed
from wired_union.physics.turning import airflow_flap, joint_torque, reaction_wheel_slew
from wired_union.physics.wheel import drive_torque, highest_step_m, step_climb
from wired_union.project.model import Concept, Item
from wired_union.project.motion_model import (
    ArmLoad,
    CanopyLoad,
    DrumLoad,
    FlapLoad,
    ScrewLoad,
    SlewLoad,
    SpinLoad,
    StoredLoad,
    WheelLoad,
)
from wired_union.subjects.motion.results import Check, Drive, LoadResult, Point, Row, check_of
from wired_union.subjects.motion.stored import stored_load
from wired_union.units import show

BUCKLING_RESERVE = 3.0  # common practice: a third of Euler's load at the most
WHIRL_SHARE = 0.8  # common practice: under 80 % of the critical speed
ANGLES = 37


class Scene(Struct, frozen=True):
    """What a load's function looks at."""

    concept: Concept
    mass_kg: float
    drive: Drive | None
    actuator: Item | None
    duty: float
    """Largest share of the time that the part works in any mode."""
    lacks: tuple[str, ...]
    """What is missing of the motor, in words."""

    def item(self, item_id: str) -> Item | None:
        return next((i for i in self.concept.items if i.id == item_id), None)


def all_day(scene: Scene, usual_a: float) -> Check | None:
    """Warmth: the current over the time, root of the mean square, against what the motor carries all day."""
    if scene.drive is None:
        return None
    heat = usual_a * math.sqrt(scene.duty)
    return check_of(
        "all day", heat, scene.drive.continuous_a, "A", extra=f" at {show(scene.duty, 'share')} of the time"
    )


def _checks(*found: Check | None) -> tuple[Check, ...]:
    return tuple(c for c in found if c is not None)


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


def _wheels(load: WheelLoad, scene: Scene) -> LoadResult:
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
    checks = _checks(
        check_of("slope", slope * ratio, drive.stall_n_m * ratio, "N·m"),
        check_of("step", step * ratio, drive.stall_n_m * ratio, "N·m") if load.step_m else None,
        Check("grip", "grip", grip / ground, f"{grip:.2f} of {ground:.2f}") if ground else None,
        speed, all_day(scene, drive.motor.current_at(usual)),
    )  # fmt: skip
    tone = {c.id: _tone(c) for c in checks}
    rows = (
        Row("needs per wheel, slope", show(slope * ratio, "N·m"), tone.get("slope", "")),
        Row("needs per wheel, step", show(step * ratio, "N·m") if load.step_m else "no step", tone.get("step", "")),
        Row("grip it takes", f"{grip:.2f} of {ground:.2f}" if ground else f"{grip:.2f}; ground not given",
            tone.get("grip", "")),
        Row("step that stops it", show(stops, "m")),
        Row("fastest on the slope", show(fastest, "m/s"), tone.get("speed", "")),
    )  # fmt: skip
    points = [drive.point("usual", usual), drive.point("slope", slope)]
    if 0 < step < math.inf:
        points.append(drive.point("step", step))
    facts = {"radius_m": radius, "step_m": load.step_m, "slope_deg": load.slope_deg, "weight_n": weight,
             "torque_n_m": (step if 0 < step < math.inf else slope) * ratio, "stops_m": stops}  # fmt: skip
    return LoadResult(load, checks, rows, tuple(points), drive, () if ground else ("grip of the ground",),
                      speed_m_s=fastest, facts=facts, turns_hz=_turns(drive, points[1], ratio, "wheel"))  # fmt: skip


def _tone(check: Check) -> str:
    return check.verdict.value if check.verdict in {Verdict.BREAKS, Verdict.TIGHT} else ""


def _turns(drive: Drive, point: Point, ratio: float, what: str) -> tuple[tuple[str, float], ...]:
    """What turns how often: the load, and the rotor where its gear is known."""
    found = [(what, max(point.speed_rad_s, 0.0) / ratio / (2 * math.pi))]
    gear = drive.item.part.motor.gear_ratio if drive.item.part.motor else None
    if gear and gear > 1:
        found.append(("rotor", max(point.speed_rad_s, 0.0) * gear / (2 * math.pi)))
    return tuple(found)


def arm_torque(load: ArmLoad) -> tuple[float, float]:
    """Most torque at the joint over the range of angles, and the angle it is at."""
    span = load.to_deg - load.from_deg
    angles = [load.from_deg + span * k / (ANGLES - 1) for k in range(ANGLES)]
    return max(
        (joint_torque(load.payload_kg, load.reach_m, a, load.link_mass_kg, load.reach_m,
                      load.acceleration_rad_s2).torque_n_m, a)
        for a in angles
    )  # fmt: skip


def _arm(load: ArmLoad, scene: Scene) -> LoadResult:
    most, angle = arm_torque(load)
    held = joint_torque(load.payload_kg, load.reach_m, 0.0, load.link_mass_kg, load.reach_m)
    motor = scene.actuator.part.motor if scene.actuator is not None else None
    rows = [Row("most torque at the joint", show(most, "N·m")), Row("at an angle of", f"{angle:.0f}°"),
            Row("inertia about the joint", show(held.inertia_kg_m2, "kg·m²"))]  # fmt: skip
    facts = {"from_deg": load.from_deg, "to_deg": load.to_deg, "reach_m": load.reach_m, "angle_deg": angle,
             "torque_n_m": most, "payload_kg": load.payload_kg}  # fmt: skip
    if scene.drive is None:
        stall = motor.stall_torque_n_m if motor is not None else None
        if stall is None:
            return LoadResult(load, rows=tuple(rows), missing=scene.lacks, facts=facts)
        lacks = (f"{scene.actuator.name}: its speed without load",) if load.speed_rad_s and scene.actuator else ()
        return LoadResult(load, (check_of("torque", most / load.ratio, stall, "N·m"),), tuple(rows), missing=lacks,
                          facts=facts)  # fmt: skip
    drive = scene.drive
    torque = max(most, 0.0) / load.ratio
    turn = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio
    rows.append(Row("fastest there", show(turn, "rad/s")))
    checks = _checks(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        check_of("speed", load.speed_rad_s, turn, "rad/s") if load.speed_rad_s else None,
        all_day(scene, drive.motor.current_at(torque)),
    )
    points = (drive.point("level", max(held.torque_n_m, 0.0) / load.ratio), drive.point("most", torque))
    return LoadResult(load, checks, tuple(rows), points, drive, facts=facts,
                      turns_hz=_turns(drive, points[1], load.ratio, "arm"))  # fmt: skip


def drum_torque(load: DrumLoad, acceleration_m_s2: float = 0.0) -> float:
    """Torque at the motor's shaft that lifts the load."""
    return load.payload_kg * (G + acceleration_m_s2) * load.drum_diameter_m / 2 / load.ratio


def _drum(load: DrumLoad, scene: Scene) -> LoadResult:
    torque, steady = drum_torque(load, load.acceleration_m_s2), drum_torque(load)
    facts = {"diameter_m": load.drum_diameter_m, "payload_kg": load.payload_kg, "force_n": load.payload_kg * G}
    rows = [Row("pull on the rope", show(load.payload_kg * (G + load.acceleration_m_s2), "N")),
            Row("torque at the drum", show(torque * load.ratio, "N·m"))]  # fmt: skip
    if scene.drive is None:
        return LoadResult(load, rows=tuple(rows), missing=scene.lacks, facts=facts)
    drive = scene.drive
    speed = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio * load.drum_diameter_m / 2
    rows.append(Row("fastest lift", show(speed, "m/s")))
    checks = _checks(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        check_of("speed", load.speed_m_s, speed, "m/s") if load.speed_m_s else None,
        all_day(scene, drive.motor.current_at(steady)),
    )
    points = (drive.point("lifting", steady), drive.point("starting", torque))
    return LoadResult(load, checks, tuple(rows), points, drive, speed_m_s=speed, facts=facts,
                      turns_hz=_turns(drive, points[0], load.ratio, "drum"))  # fmt: skip


def screw_torque(load: ScrewLoad, force_n: float) -> float:
    """Torque at the motor's shaft that raises the load."""
    screw = leadscrew(force_n, load.mean_diameter_m, load.lead_m, load.friction, load.collar_friction,
                      load.collar_diameter_m)  # fmt: skip
    return screw.raising_torque_n_m / load.ratio


def _screw(load: ScrewLoad, scene: Scene) -> LoadResult:
    facts = {"force_n": load.force_n, "stroke_m": load.stroke_m, "diameter_m": load.mean_diameter_m,
             "lead_m": load.lead_m}  # fmt: skip
    notes = [] if load.limit_switches else ["No switch at the ends: the motor stalls there and draws its most."]
    notes += [] if load.hand_release else ["No hand release: when the power fails it stays where it is."]
    thrust = scene.actuator.part.thrust if scene.actuator is not None else None
    if thrust is not None:
        return _thrust(load, scene, facts, tuple(notes))
    screw = leadscrew(load.force_n, load.mean_diameter_m, load.lead_m, load.friction, load.collar_friction,
                      load.collar_diameter_m)  # fmt: skip
    root = max(load.mean_diameter_m - load.lead_m / 2, 1e-4)
    bends = euler_buckling(root, load.stroke_m, load.ends).critical_load_n
    whirl = screw_critical_speed(root, load.stroke_m, load.ends).speed_rad_s
    if not screw.self_locking:
        notes.append("The thread does not hold by itself: the load runs down when the motor is off.")
    rows = [
        Row("torque that raises", show(screw.raising_torque_n_m, "N·m")),
        Row("torque that lowers", show(screw.lowering_torque_n_m, "N·m")),
        Row("holds by itself", "yes" if screw.self_locking else "no", "" if screw.self_locking else "tight"),
        Row("efficiency", show(screw.efficiency, "share")), Row("buckles at", show(bends, "N")),
        Row("whirls at", show(whirl, "rad/s")),
    ]  # fmt: skip
    buckling = check_of("buckling", load.force_n * BUCKLING_RESERVE, bends, "N", extra=", three times the force")
    if scene.drive is None:
        return LoadResult(load, (buckling,), tuple(rows), missing=scene.lacks, notes=tuple(notes), facts=facts)
    drive, torque = scene.drive, screw.raising_torque_n_m / load.ratio
    turn = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio
    speed = turn * load.lead_m / (2 * math.pi)
    time = load.stroke_m / speed if speed > 0 else math.inf
    free = max(drive.motor.speed_at(drive.nominal_v, 0.0), 0.0) / load.ratio
    rows.append(Row("one stroke takes", show(time, "s")))
    usual = load.force_n if load.usual_force_n is None else load.usual_force_n
    checks = _checks(
        check_of("torque", torque, drive.stall_n_m, "N·m"), buckling,
        check_of("whirling", free, WHIRL_SHARE * whirl, "rad/s", extra=", 80 % of the critical speed"),
        check_of("time", time, load.time_s, "s") if load.time_s else None,
        all_day(scene, drive.motor.current_at(screw_torque(load, usual))),
    )  # fmt: skip
    points = (drive.point("usual", screw_torque(load, usual)), drive.point("most force", torque))
    return LoadResult(load, checks, tuple(rows), points, drive, notes=tuple(notes), speed_m_s=speed, facts=facts,
                      turns_hz=_turns(drive, points[1], load.ratio, "screw"))  # fmt: skip


def _thrust(load: ScrewLoad, scene: Scene, facts: dict[str, float], notes: tuple[str, ...]) -> LoadResult:
    """An actuator with a screw of its own: force against speed is a straight line."""
    item = scene.actuator
    assert item is not None
    assert item.part.thrust is not None
    thrust = item.part.thrust
    missing = [f"{item.name}: its {w}" for w, v in (("most force", thrust.max_force_n),
               ("speed without load", thrust.no_load_speed_m_s), ("stroke", thrust.stroke_m)) if v is None]  # fmt: skip
    if missing:
        return LoadResult(load, missing=tuple(missing), notes=notes, facts=facts)
    most, free, stroke = thrust.max_force_n or 0.0, thrust.no_load_speed_m_s or 0.0, thrust.stroke_m or 0.0
    speed = max(free * (1 - load.force_n / most), 0.0)
    time = load.stroke_m / speed if speed > 0 else math.inf
    checks = _checks(
        check_of("force", load.force_n, most, "N"),
        check_of("stroke", load.stroke_m, stroke, "m"),
        check_of("time", time, load.time_s, "s") if load.time_s else None,
    )
    # the stroke is used whole: it counts as breaking only beyond it
    checks = tuple(c._replace(use=c.use if c.use > 1 else c.use * 0.8) if c.id == "stroke" else c for c in checks)
    rows = (Row("force", f"{show(load.force_n, 'N')} of {show(most, 'N')}"),
            Row("speed under it", show(speed, "m/s")), Row("one stroke takes", show(time, "s")),
            Row("stroke", f"{show(load.stroke_m, 'm')} of {show(stroke, 'm')}"))  # fmt: skip
    return LoadResult(load, checks, rows, notes=notes, speed_m_s=speed, facts=facts)


def _spin(load: SpinLoad, scene: Scene) -> LoadResult:
    turn = load.release_speed_m_s / max(load.grip, 1e-6) / (load.wheel_diameter_m / 2)
    shot = load.shot_mass_kg * load.release_speed_m_s**2 / 2
    stored = load.inertia_kg_m2 * turn**2 / 2
    after = math.sqrt(max(turn**2 - 2 * shot / load.inertia_kg_m2, 0.0))
    rows = [
        Row("turns at", show(turn, "rad/s")),
        Row("energy of one shot", show(shot, "J")),
        Row("energy in the wheel", show(stored, "J")),
        Row("speed it loses a shot", show(1 - after / turn, "share"), "" if after >= 0.8 * turn else "tight"),
    ]
    facts = {"diameter_m": load.wheel_diameter_m, "turn_rad_s": turn, "speed_m_s": load.release_speed_m_s}
    if scene.drive is None:
        return LoadResult(load, rows=tuple(rows), missing=scene.lacks, facts=facts)
    drive = scene.drive
    free = drive.motor.speed_at(drive.sag_v, 0.0) / load.ratio
    rotor = drive.item.part.motor.rotor_inertia_kg_m2 if drive.item.part.motor else None
    missing: tuple[str, ...] = ()
    inertia = load.inertia_kg_m2 + (rotor or 0.0) * load.ratio**2  # without the rotor's the times are the least
    checks = [check_of("speed", turn, free, "rad/s"), check_of("energy", shot, stored, "J")]
    if turn < free:
        stall = drive.stall_n_m * load.ratio
        up = spin_up_time(inertia, turn, free, stall).time_s
        again = spin_up_time(inertia, turn, free, stall, min(after, turn)).time_s
        rows += [Row("spin-up takes", show(up, "s")), Row("back at speed after a shot", show(again, "s"))]
        if load.every_s:
            rhythm = check_of("rhythm", again, load.every_s, "s")
            checks.append(rhythm)
            if rotor is None and rhythm.verdict is not Verdict.BREAKS:  # a heavy rotor takes longer
                missing = (f"{drive.item.name}: its rotor inertia",)
    point = drive.point("at speed", 0.0)
    return LoadResult(load, tuple(checks), tuple(rows), (point,), drive, missing, speed_m_s=load.release_speed_m_s,
                      facts=facts, turns_hz=(("wheel", turn / (2 * math.pi)),))  # fmt: skip


def _slew(load: SlewLoad, scene: Scene) -> LoadResult:
    fly = scene.actuator.part.flywheel if scene.actuator is not None else None
    facts = {"angle_deg": load.angle_deg, "time_s": load.time_s}
    if fly is None:
        return LoadResult(load, missing=("which reaction wheel turns it",), facts=facts)
    need = reaction_wheel_slew(load.body_inertia_kg_m2, load.angle_deg, load.time_s, fly.inertia_kg_m2)
    checks = (
        check_of("torque", need.torque_n_m, fly.max_torque_n_m, "N·m"),
        check_of("wheel speed", need.wheel_speed_change_rad_s, fly.max_speed_rad_s, "rad/s"),
    )
    rows = (Row("torque", show(need.torque_n_m, "N·m")), Row("momentum", f"{need.momentum_n_m_s:.3g}\u202fN·m·s"),
            Row("wheel speeds up by", show(need.wheel_speed_change_rad_s, "rad/s")))  # fmt: skip
    return LoadResult(load, checks, rows, facts=facts,
                      turns_hz=(("reaction wheel", need.wheel_speed_change_rad_s / (2 * math.pi)),))  # fmt: skip


def _canopy(load: CanopyLoad, scene: Scene) -> LoadResult:
    canopy = scene.actuator.part.canopy if scene.actuator is not None else None
    mass = load.mass_kg or scene.mass_kg
    facts = {"speed_m_s": load.speed_m_s, "opening_m": load.opening_m, "ground_m": load.ground_m}
    if canopy is None or scene.actuator is None:
        return LoadResult(load, missing=("which parachute lets it down",), facts=facts)
    area = math.pi / 4 * canopy.diameter_m**2 * scene.actuator.count
    low, high = (standard_atmosphere(h).density_kg_m3 for h in (load.ground_m, load.opening_m))
    lands = descent_rate(mass, area, canopy.drag_coefficient, low).speed_m_s
    opens = descent_rate(mass, area, canopy.drag_coefficient, high).speed_m_s
    time = fall_time_s(mass, area, canopy.drag_coefficient, load.opening_m, load.ground_m)
    drift = load.wind_m_s * time
    checks = _checks(
        check_of("landing speed", lands, load.speed_m_s, "m/s"),
        check_of("drift", drift, load.drift_m, "m") if load.drift_m else None,
    )
    rows = (Row("lands at", show(lands, "m/s")), Row("falls under the open canopy at", show(opens, "m/s")),
            Row("on the way down", show(time, "s")), Row("drifts", show(drift, "m")),
            Row("mass that comes down", show(mass, "kg")))  # fmt: skip
    facts |= {"diameter_m": canopy.diameter_m, "lands_m_s": lands, "drift_m": drift, "time_s": time}
    return LoadResult(load, checks, rows, speed_m_s=lands, facts=facts)


def _flap(load: FlapLoad, scene: Scene) -> LoadResult:
    flow = airflow_flap(load.mass_kg, load.area_m2, load.air_speed_m_s, load.drag_coefficient)
    rows = (Row("drag", show(flow.drag_n, "N")), Row("weight", show(flow.weight_n, "N")),
            Row("drag over weight", f"{flow.lift_ratio:.2f}"))  # fmt: skip
    facts = {"drag_n": flow.drag_n, "weight_n": flow.weight_n}
    return LoadResult(load, (check_of("lift", flow.weight_n, flow.drag_n, "N"),), rows, facts=facts)


def _stored(load: StoredLoad, scene: Scene) -> LoadResult:
    return stored_load(load, scene.item(load.store), scene.drive, scene.lacks)


KINDS: dict[str, Callable[[Any, Scene], LoadResult]] = {
    "wheels": _wheels, "arm": _arm, "drum": _drum, "screw": _screw, "spin": _spin, "stored": _stored, "slew": _slew,
    "canopy": _canopy, "flap": _flap,
}  # fmt: skip
