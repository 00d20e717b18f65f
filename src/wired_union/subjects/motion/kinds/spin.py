"""A launcher wheel or roller: energy comes out of a turning wheel shot by shot."""

import math

from wired_union.kernel.results import Verdict
from wired_union.physics.motor import spin_up_time
from wired_union.picture.shapes import Kit, Ring, Shape
from wired_union.project.motion_model import SpinLoad
from wired_union.subjects.motion.kind import LoadKind, Scene
from wired_union.subjects.motion.results import LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, scale_bar
from wired_union.units import show


def carried(load: SpinLoad, scene: Scene) -> LoadResult:
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


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    r = f["diameter_m"] / 2
    px = height * 0.3 / r
    scale = Scale(px, width * 0.4, height * 0.45)
    x, y = scale.at(0, r)
    shapes: list[Shape] = [
        Ring(*scale.at(0, 0), r * px, "ink", 2.0, (), "soft"),
        arc(scale, r * 0.6, 200, 60, "copper"),
        Ring(x, y - kit.px(9), kit.px(8), "slate", 1.4, (), "slate_soft"),
    ]
    shapes += arrow(x + kit.px(10), y - kit.px(9), x + kit.px(80), y - kit.px(9), "slate")
    shapes.append(kit.figures(x + kit.px(86), y - kit.px(9), show(f["speed_m_s"], "m/s"), "small", "slate", bold=True))
    shapes.append(
        kit.figures(*scale.at(0, 0), show(f["turn_rad_s"], "rad/s"), "small", "copper", bold=True, anchor="middle")
    )
    return [*shapes, *scale_bar(kit, px, height)]


KIND = LoadKind(
    SpinLoad,
    "launcher wheel or roller",
    carried,
    drawn,
    asked=lambda load: f"{show(load.shot_mass_kg, 'kg')} at {show(load.release_speed_m_s, 'm/s')}",
    dragged=lambda _: {"release_speed_m_s": 20.0},
)
