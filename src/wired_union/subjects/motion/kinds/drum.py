"""A lift or winch: a load on a drum."""

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.picture.shapes import Box, Kit, Line, Ring, Shape
from wired_union.project.motion_model import DrumLoad
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    reflected,
    shared,
    sharing,
    turns,
    with_others,
)
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, scale_bar
from wired_union.units import show


def drum_torque(load: DrumLoad, acceleration_m_s2: float = 0.0) -> float:
    """Torque at the drum that lifts the load."""
    return load.payload_kg * (G + acceleration_m_s2) * load.drum_diameter_m / 2


def torques(load: DrumLoad, scene: Scene) -> Torques:
    """Usually it lifts without hurry."""
    return shared(load, scene, drum_torque(load), drum_torque(load, load.acceleration_m_s2))


def carried(load: DrumLoad, scene: Scene) -> LoadResult:
    needed = with_others(torques(load, scene), scene)
    steady, torque = needed.usual_n_m, needed.most_n_m
    facts = {"diameter_m": load.drum_diameter_m, "payload_kg": load.payload_kg, "force_n": load.payload_kg * G}
    at_drum = drum_torque(load, load.acceleration_m_s2)
    rows = [Row("pull on the rope", show(load.payload_kg * (G + load.acceleration_m_s2), "N")),
            Row("torque at the drum", show(at_drum, "N·m")), *sharing(load, scene)]  # fmt: skip
    if scene.drive is None:
        return LoadResult(load, rows=tuple(rows), missing=scene.lacks, facts=facts)
    drive = scene.drive
    speed = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio * load.drum_diameter_m / 2
    rows.append(Row("fastest lift", show(speed, "m/s")))
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        check_of("speed", load.speed_m_s, speed, "m/s") if load.speed_m_s else None,
        all_day(scene, drive.motor.current_at(steady)),
    )
    points = (drive.point("lifting", steady), drive.point("starting", torque))
    return LoadResult(load, checks, tuple(rows), points, drive, speed_m_s=speed, facts=facts,
                      turning=turns(scene, points, points[0], load.ratio, "drum"))  # fmt: skip


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    r = f["diameter_m"] / 2
    px = height * 0.18 / r
    scale = Scale(px, width * 0.4, height * 0.3)
    x, y = scale.at(r, 0)
    shapes: list[Shape] = [
        Ring(*scale.at(0, 0), r * px, "ink", 2.0, (), "soft"),
        Ring(*scale.at(0, 0), kit.px(6), "copper", 1.0, (), "copper"),
        Line(x, y, x, height * 0.7, "ink", 1.6),
        Box(x - kit.px(20), height * 0.7, kit.px(40), kit.px(24), "slate_soft", "slate", 2),
    ]
    shapes.append(
        kit.figures(x + kit.px(28), height * 0.7 + kit.px(12), show(f["force_n"], "N"), "small", "slate", bold=True)
    )
    return [*shapes, *scale_bar(kit, px, height)]


KIND = LoadKind(
    DrumLoad,
    "lift on a drum",
    carried,
    drawn,
    asked=lambda load: f"lifts {show(load.payload_kg, 'kg')}",
    dragged=lambda _: {"payload_kg": 10.0},
    torques=torques,
    sets_current=True,
    inertia=lambda load, scene: reflected(load, scene, load.payload_kg * (load.drum_diameter_m / 2) ** 2),
)
