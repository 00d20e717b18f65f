"""A gripper that holds by friction, closed by a screw, a lever or a pinion."""

import math

from wired_union.physics.shock import gripper_force
from wired_union.picture.shapes import Box, Kit, Line, Shape
from wired_union.project.motion_model import GripLoad
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    motors_of,
    shared,
    sharing,
    with_others,
)
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arrow, scale_bar
from wired_union.units import show


def finger_force(load: GripLoad) -> float:
    """Force of each finger: friction holds what the weight and the swing pull, so many times over."""
    return gripper_force(
        load.held_kg, load.friction, load.acceleration_m_s2, load.fingers, load.factor
    ).force_per_finger_n


def grip_torque(load: GripLoad, force_n: float) -> float:
    """Torque at its last gear: the work of all fingers over one turn, of which friction in between takes its share."""
    return load.fingers * force_n * load.advance_m / (2 * math.pi * load.efficiency)


def torques(load: GripLoad, scene: Scene) -> Torques:
    """It goes on pressing, so that counts as usual too."""
    most = grip_torque(load, finger_force(load))
    return shared(load, scene, most, most)


def carried(load: GripLoad, scene: Scene) -> LoadResult:
    force = finger_force(load)
    rows = [Row("each finger presses with", show(force, "N")),
            Row("torque that presses", show(grip_torque(load, force), "N·m")),
            Row("opens in turns", f"{load.opening_m / load.advance_m:.2f}"), *sharing(load, scene)]  # fmt: skip
    facts = {"opening_m": load.opening_m, "force_n": force, "held_kg": load.held_kg, "fingers": float(load.fingers)}
    crush = check_of("crushing", force, load.most_force_n, "N") if load.most_force_n else None
    if scene.drive is None:
        return LoadResult(load, known(crush), tuple(rows), missing=scene.lacks, facts=facts)
    drive = scene.drive
    torque = with_others(torques(load, scene), scene).most_n_m
    free = max(drive.motor.speed_at(drive.sag_v, scene.others.most_n_m), 0.0) / load.ratio
    speed = free * load.advance_m / (2 * math.pi)
    time = load.opening_m / speed if speed > 0 else math.inf
    blocked = max(drive.stall_n_m - scene.others.most_n_m, 0.0) * load.torque_ratio * motors_of(load, scene)
    most = blocked * 2 * math.pi * load.efficiency / (load.fingers * load.advance_m)
    rows.append(Row("blocked, each finger presses with", show(most, "N")))
    rows.append(Row("closes in", show(time, "s")))
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        crush,
        check_of("blocked force", most, load.most_force_n, "N", extra=", where nothing limits its current")
        if load.most_force_n else None,
        check_of("time", time, load.time_s, "s") if load.time_s else None,
        all_day(scene, drive.motor.current_at(torque)),
    )  # fmt: skip
    notes = ("It holds only while it has power, unless its screw holds by itself.",)
    points = (drive.point("closing", scene.others.most_n_m), drive.point("gripping", torque))
    return LoadResult(load, checks, tuple(rows), points, drive, notes=notes, facts=facts, takes_s=(time, time))


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """Two fingers from above, and what they hold."""
    f = result.facts
    wide = 2 * f["opening_m"]
    scale = Scale(min(width * 0.34 / wide, (height - kit.px(70)) / wide), width * 0.36, height * 0.5)
    half, tall = f["opening_m"] * 0.5, f["opening_m"]
    x0, y0 = scale.at(-half, tall / 2)
    x1, y1 = scale.at(half, -tall / 2)
    shapes: list[Shape] = [Box(x0, y0, x1 - x0, y1 - y0, "soft", "line")]
    shapes.append(kit.figures((x0 + x1) / 2, (y0 + y1) / 2, show(f["held_kg"], "kg"), "small", "mute", anchor="middle"))
    for side in (-1, 1):
        x, top = scale.at(side * (half + 0.002), tall * 0.6)
        _, bottom = scale.at(0, -tall * 0.6)
        shapes.append(Line(x, top, x, bottom, "copper", 6.0))
        far = x + side * kit.px(46)
        shapes += arrow(far, (y0 + y1) / 2, x + side * 4, (y0 + y1) / 2, "slate")
    shapes.append(
        kit.figures(x1 + kit.px(16), (y0 + y1) / 2 - kit.px(10), show(f["force_n"], "N"), "small", "slate", bold=True)
    )
    return [*shapes, *scale_bar(kit, scale.px, height)]


KIND = LoadKind(
    GripLoad,
    "gripper",
    carried,
    drawn,
    asked=lambda load: f"{show(load.held_kg, 'kg')} by {load.fingers} fingers",
    dragged=lambda _: {"held_kg": 2.0, "friction": 1.5, "factor": 5.0},
    torques=torques,
    sets_current=True,
)
