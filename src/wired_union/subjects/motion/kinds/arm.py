"""An arm on a joint, over a range of angles."""

import math

from wired_union.physics.turning import JointTorque, joint_torque
from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.motion_model import ArmLoad
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    motors_of,
    reflected,
    shared,
    sharing,
    turns,
    with_others,
)
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, scale_bar
from wired_union.units import show


def arm_torque(load: ArmLoad) -> tuple[float, float]:
    """Largest torque at the joint over the range of angles, whichever way it turns, and the angle it is at.

    Gravity's is G·moment·cos: largest in size at the angle nearest to level, which need not be an end of the range. An
    acceleration can go either way, so it adds.
    """
    low, high = sorted((load.from_deg, load.to_deg))
    levels = [180.0 * k for k in range(math.ceil(low / 180), math.floor(high / 180) + 1)]
    angle = max((*levels[:2], low, high), key=lambda a: abs(math.cos(math.radians(a))))
    level = _held(load)
    gravity = 0.0 if load.axis == "upright" else abs(level.torque_n_m * math.cos(math.radians(angle)))
    return gravity + level.inertia_kg_m2 * load.acceleration_rad_s2, angle


def _held(load: ArmLoad) -> JointTorque:
    """The arm held level."""
    return joint_torque(load.payload_kg, load.reach_m, 0.0, load.link_mass_kg, load.reach_m)


def torques(load: ArmLoad, scene: Scene) -> Torques:
    """It has to be held where it is hardest, so that counts as usual too."""
    most, _ = arm_torque(load)
    return shared(load, scene, most, most)


def carried(load: ArmLoad, scene: Scene) -> LoadResult:
    most, angle = arm_torque(load)
    held, count = _held(load), motors_of(load, scene)
    rows = [Row("most torque at the joint", show(most, "N·m")), Row("at an angle of", f"{angle:.0f}°"),
            Row("inertia about the joint", show(held.inertia_kg_m2, "kg·m²")), *sharing(load, scene)]  # fmt: skip
    facts = {"from_deg": load.from_deg, "to_deg": load.to_deg, "reach_m": load.reach_m, "angle_deg": angle,
             "torque_n_m": most, "payload_kg": load.payload_kg}  # fmt: skip
    if scene.drive is None:
        return LoadResult(load, rows=tuple(rows), missing=scene.lacks, facts=facts)
    drive = scene.drive
    torque = with_others(torques(load, scene), scene).most_n_m
    turn = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio
    rows.append(Row("fastest there", show(turn, "rad/s")))
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        check_of("speed", load.speed_rad_s, turn, "rad/s") if load.speed_rad_s else None,
        all_day(scene, drive.motor.current_at(torque)),
    )
    level = 0.0 if load.axis == "upright" else held.torque_n_m
    points = (drive.point("level", level / load.torque_ratio / count), drive.point("most", torque))
    angle_rad, free = math.radians(abs(load.to_deg - load.from_deg)), drive.motor.speed_at(drive.nominal_v, 0.0)
    slow = angle_rad / turn if turn > 0 else math.inf
    quick = angle_rad * load.ratio / free if free > 0 else math.inf
    return LoadResult(load, checks, tuple(rows), points, drive, facts=facts, takes_s=(min(quick, slow), slow),
                      turning=turns(scene, points, points[1], load.ratio, "arm"))  # fmt: skip


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    scale = Scale(min(width * 0.42, height * 0.42) / f["reach_m"], width * 0.3, height * 0.55)
    shapes: list[Shape] = [arc(scale, f["reach_m"], f["from_deg"], f["to_deg"], "line", 1.4)]
    for angle, ink, thick in (
        (f["from_deg"], "unknown", 3.0),
        (f["to_deg"], "unknown", 3.0),
        (f["angle_deg"], "ink", 6.0),
    ):
        a = math.radians(angle)
        end = scale.at(f["reach_m"] * math.cos(a), f["reach_m"] * math.sin(a))
        shapes.append(Line(*scale.at(0, 0), *end, ink, thick))
    a = math.radians(f["angle_deg"])
    x, y = scale.at(f["reach_m"] * math.cos(a), f["reach_m"] * math.sin(a))
    shapes += arrow(x, y, x, y + kit.px(42), "slate")
    shapes.append(kit.figures(x + 8, y + kit.px(30), show(f["payload_kg"] * 9.80665, "N"), "small", "slate", bold=True))
    shapes.append(Ring(*scale.at(0, 0), kit.px(9), "copper", 1.0, (), "copper"))
    x0, y0 = scale.at(0, 0)
    shapes.append(
        kit.figures(x0 - 14, y0 - 12, show(f["torque_n_m"], "N·m"), "small", "copper", bold=True, anchor="end")
    )
    for angle in (f["from_deg"], f["to_deg"]):
        a = math.radians(angle)
        px, py = scale.at(f["reach_m"] * 1.08 * math.cos(a), f["reach_m"] * 1.08 * math.sin(a))
        shapes.append(kit.figures(px, py, f"{angle:g}°", "small", "mute"))
    return [*shapes, *scale_bar(kit, scale.px, height)]


KIND = LoadKind(
    ArmLoad,
    "arm on a joint",
    carried,
    drawn,
    asked=lambda load: f"{show(load.payload_kg, 'kg')} at {show(load.reach_m, 'm')}",
    dragged=lambda _: {"payload_kg": 2.0, "reach_m": 0.8},
    torques=torques,
    sets_current=True,
    inertia=lambda load, scene: reflected(load, scene, _held(load).inertia_kg_m2),
    reach_m=lambda load, _: load.reach_m,
)
