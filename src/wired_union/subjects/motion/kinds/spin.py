"""A launcher wheel or roller: energy comes out of a turning wheel shot by shot."""

import math

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Verdict
from wired_union.physics.motor import spin_up_time
from wired_union.picture.shapes import Kit, Ring, Shape
from wired_union.project.motion_model import SpinLoad
from wired_union.subjects.motion.kind import LoadKind, Scene, motors_of, reflected, sharing
from wired_union.subjects.motion.results import Drive, LoadResult, Row, check_of, steady
from wired_union.subjects.motion.scale import Scale, arc, arrow, scale_bar
from wired_union.units import show


class Shot(Struct, frozen=True):
    """What one shot does to the wheel."""

    before_rad_s: float
    """Speed before it, so that the wanted speed is reached though the wheel slows."""
    after_rad_s: float
    energy_j: float
    """Energy that the wheel loses: the piece's, and what slips on the way."""
    most_m_s: float
    """Speed at release if the wheel did not slow."""


def shot_of(load: SpinLoad, inertia_kg_m2: float) -> Shot:
    """One shot, by the impulse on the wheel: while a piece slips, it takes m·v from the rim whatever rubs.

    I·(ω₀ − ω₁) = m·v·r and v = grip·r·ω₁, so ω₀ = v/(grip·r)·(1 + grip·m·r²/I). A rolling piece takes a little less, so
    this is the lower bound of its speed; the upper one is a wheel that does not slow. Source: impulse and momentum.
    """
    r, grip = load.wheel_diameter_m / 2, max(load.grip, 1e-6)
    after = load.release_speed_m_s / (grip * r)
    before = after * (1 + grip * load.shot_mass_kg * r**2 / inertia_kg_m2)
    return Shot(before, after, inertia_kg_m2 * (before**2 - after**2) / 2, grip * r * before)


def rotor_inertia_kg_m2(load: SpinLoad, scene: Scene) -> float | None:
    """Inertia of the rotors at the wheel: through both gears, squared; None where a figure is missing."""
    motor = scene.actuator.part.motor if scene.actuator is not None else None
    if motor is None or motor.rotor_inertia_kg_m2 is None or motor.gear_ratio is None:
        return None
    return motor.rotor_inertia_kg_m2 * (motor.gear_ratio * load.ratio) ** 2 * motors_of(load, scene)


def carried(load: SpinLoad, scene: Scene) -> LoadResult:
    rotor = rotor_inertia_kg_m2(load, scene)
    inertia = load.inertia_kg_m2 + (rotor or 0.0)
    shot, stored = shot_of(load, inertia), load.shot_mass_kg * load.release_speed_m_s**2 / 2
    lost = 1 - shot.after_rad_s / shot.before_rad_s
    rows = [
        Row("turns at", show(shot.before_rad_s, "rad/s")),
        Row("speed at release", f"{show(load.release_speed_m_s, 'm/s')} to {show(shot.most_m_s, 'm/s')}"),
        Row("energy of one shot", show(stored, "J")),
        Row("the wheel loses", show(shot.energy_j, "J")),
        Row("speed it loses a shot", show(lost, "share"), "" if lost <= 0.2 else "tight"),
        *sharing(load, scene),
    ]
    facts = {"diameter_m": load.wheel_diameter_m, "turn_rad_s": shot.before_rad_s, "speed_m_s": load.release_speed_m_s}
    found = LoadResult(load, rows=tuple(rows), missing=scene.lacks, facts=facts, speed_m_s=load.release_speed_m_s)
    return found if scene.drive is None else _driven(load, scene, scene.drive, found, shot, inertia, rotor is not None)


def _driven(
    load: SpinLoad, scene: Scene, drive: Drive, found: LoadResult, shot: Shot, inertia: float, rotor_known: bool
) -> LoadResult:  # fmt: skip
    """Whether its motor reaches that speed, and how soon again after a shot."""
    free = max(drive.motor.speed_at(drive.sag_v, scene.others.usual_n_m), 0.0) / load.ratio
    checks, rows, missing = [check_of("speed", shot.before_rad_s, free, "rad/s")], list(found.rows), found.missing
    up = math.inf
    if shot.before_rad_s < free:
        stall = (drive.stall_n_m - scene.others.usual_n_m) * load.torque_ratio * motors_of(load, scene)
        up = spin_up_time(inertia, shot.before_rad_s, free, stall).time_s
        again = spin_up_time(inertia, shot.before_rad_s, free, stall, shot.after_rad_s).time_s
        rows += [Row("spin-up takes", show(up, "s")), Row("back at speed after a shot", show(again, "s"))]
        if load.every_s:
            rhythm = check_of("rhythm", again, load.every_s, "s")
            checks.append(rhythm)
            if not rotor_known and rhythm.verdict is not Verdict.BREAKS:  # a heavy rotor takes longer
                missing = (*missing, f"{drive.item.name}: its rotor inertia and gear")
    hertz = shot.before_rad_s / (2 * math.pi)
    return replace(found, checks=tuple(checks), rows=tuple(rows), points=(drive.point("at speed", 0.0),), drive=drive,
                   missing=missing, takes_s=(up, up), turning=(steady("wheel", hertz),))  # fmt: skip


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
    inertia=lambda load, scene: reflected(load, scene, load.inertia_kg_m2),
)
