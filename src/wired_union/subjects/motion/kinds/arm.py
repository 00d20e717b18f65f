"""An arm on a joint, over a range of angles."""

import math

from wired_union.physics.turning import joint_torque
from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.motion_model import ArmLoad
from wired_union.subjects.motion.kind import LoadKind, Scene, all_day, known, turns
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, scale_bar
from wired_union.units import show

ANGLES = 37


def arm_torque(load: ArmLoad) -> tuple[float, float]:
    """Most torque at the joint over the range of angles, and the angle it is at."""
    span = load.to_deg - load.from_deg
    angles = [load.from_deg + span * k / (ANGLES - 1) for k in range(ANGLES)]
    return max(
        (joint_torque(load.payload_kg, load.reach_m, a, load.link_mass_kg, load.reach_m,
                      load.acceleration_rad_s2).torque_n_m, a)
        for a in angles
    )  # fmt: skip


def usual_torque_n_m(load: ArmLoad, _: Scene) -> float:
    """Torque at the motor's shaft where it is most."""
    return max(arm_torque(load)[0], 0.0) / load.ratio


def carried(load: ArmLoad, scene: Scene) -> LoadResult:
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
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        check_of("speed", load.speed_rad_s, turn, "rad/s") if load.speed_rad_s else None,
        all_day(scene, drive.motor.current_at(torque)),
    )
    points = (drive.point("level", max(held.torque_n_m, 0.0) / load.ratio), drive.point("most", torque))
    return LoadResult(load, checks, tuple(rows), points, drive, facts=facts,
                      turns_hz=turns(drive, points[1], load.ratio, "arm"))  # fmt: skip


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
    usual_torque_n_m=usual_torque_n_m,
    reach_m=lambda load: load.reach_m,
)
