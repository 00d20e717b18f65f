"""A roller or belt that draws pieces in, squeezed against a wall or ramp."""

import math

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.motion_model import IntakeLoad
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    shared,
    sharing,
    turns,
    with_others,
)
from wired_union.subjects.motion.results import Drive, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, scale_bar
from wired_union.units import show


def wanted_m_s(load: IntakeLoad) -> float:
    """Speed of a piece at which so many pass in a second as are wanted, one behind the other."""
    return load.pieces_per_s * load.piece_m / load.pieces_at_once if load.pieces_per_s else 0.0


def pull_n(load: IntakeLoad, speed_m_s: float) -> float:
    """Force along the ramp on one piece: friction behind it, its weight, and speeding it up within its own length.

    Source: statics; a = v²/(2·s).
    """
    ramp = math.radians(load.ramp_deg)
    behind = load.ramp_friction * (load.squeeze_n + load.piece_kg * G * math.cos(ramp))
    up = load.piece_kg * (G * math.sin(ramp) + speed_m_s**2 / (2 * load.piece_m))
    return max(behind + up, 0.0)


def torques(load: IntakeLoad, scene: Scene) -> Torques:
    """At the speed that is wanted, pieces under it all the time; one that slips asks for no more than its friction."""
    speed = max(wanted_m_s(load), load.least_m_s or 0.0)
    force = min(pull_n(load, speed), load.friction * load.squeeze_n)
    torque = force * load.pieces_at_once * load.roller_m / 2
    return shared(load, scene, torque, torque)


def carried(load: IntakeLoad, scene: Scene) -> LoadResult:
    speed = max(wanted_m_s(load), load.least_m_s or 0.0)
    pull, grips = pull_n(load, speed), load.friction * load.squeeze_n
    rows = (Row("pulls each piece with", show(pull, "N")), Row("grips it with at most", show(grips, "N")),
            Row("pieces must go", show(speed, "m/s")) if speed else Row("pieces must go", "at no set speed"),
            *sharing(load, scene))  # fmt: skip
    facts = {"roller_m": load.roller_m, "piece_m": load.piece_m, "ramp_deg": load.ramp_deg, "pull_n": pull}
    grip = check_of("grip", pull, grips, "N", extra=" before the piece slips")
    if scene.drive is None:
        return LoadResult(load, (grip,), rows, missing=scene.lacks, facts=facts)
    return _driven(load, scene, scene.drive, LoadResult(load, (grip,), rows, facts=facts))


def _driven(load: IntakeLoad, scene: Scene, drive: Drive, found: LoadResult) -> LoadResult:
    """What its motor makes of it: from the worst sag under pieces to a full pack with none."""
    torque = with_others(torques(load, scene), scene).most_n_m
    by_turn = load.roller_m / 2 / load.ratio * (0.5 if load.rolls else 1.0)
    slow = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) * by_turn
    missing = (f"{drive.item.name}: its highest voltage",) if scene.full_v is None and load.most_m_s else ()
    quick = max(drive.motor.speed_at(scene.full_v or drive.nominal_v, 0.0), 0.0) * by_turn
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        *found.checks,
        check_of("pieces", wanted_m_s(load), slow, "m/s") if load.pieces_per_s else None,
        check_of("lifting", load.least_m_s, slow, "m/s", extra=", else it does not lift them")
        if load.least_m_s
        else None,
        check_of("throwing", quick, load.most_m_s, "m/s", extra=", or it throws them") if load.most_m_s else None,
        all_day(scene, drive.motor.current_at(torque)),
    )
    rows = (*found.rows, Row("pieces go", f"{show(slow, 'm/s')} to {show(quick, 'm/s')}"),
            Row("pieces a second, at least", f"{slow * load.pieces_at_once / load.piece_m:.1f}"))  # fmt: skip
    points = (drive.point("empty", scene.others.most_n_m), drive.point("pieces under it", torque))
    return LoadResult(load, checks, rows, points, drive, missing=missing, facts=found.facts, speed_m_s=slow,
                      turning=turns(scene, points, points[0], load.ratio, "roller"))  # fmt: skip


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """From the side: roller, piece, ramp; the piece as a ball of its length."""
    f = result.facts
    r, s, ramp = f["roller_m"] / 2, f["piece_m"] / 2, math.radians(f["ramp_deg"])
    tall = 2 * r + 2 * s
    scale = Scale(min((height - kit.px(70)) / tall, width * 0.3 / tall), width * 0.36, height * 0.52)
    along, out = (math.cos(ramp), math.sin(ramp)), (-math.sin(ramp), math.cos(ramp))

    def at(t: float, n: float) -> tuple[float, float]:
        return scale.at(along[0] * t + out[0] * n, along[1] * t + out[1] * n)

    shapes: list[Shape] = [
        Line(*at(-2.2 * s, -s), *at(2.6 * s, -s), "ink", 3.0),
        Ring(*at(0, 0), s * scale.px, "slate", 1.4, (), "slate_soft"),
        Ring(*at(0, s + r), r * scale.px, "ink", 2.0, (), "soft"),
    ]
    cx, cy = at(0, s + r)
    shapes.append(arc(Scale(scale.px, cx, cy), r * 0.6, 150, 30, "copper"))
    shapes += arrow(*at(0, 0), *at(1.9 * s, 0), "slate")
    x, y = at(2.1 * s, 0)
    shapes.append(kit.figures(x, y, show(f["pull_n"], "N"), "small", "slate", bold=True))
    return [*shapes, *scale_bar(kit, scale.px, height)]


KIND = LoadKind(
    IntakeLoad,
    "roller that draws in",
    carried,
    drawn,
    asked=lambda load: f"{show(load.piece_kg, 'kg')} up {load.ramp_deg:g}°",
    dragged=lambda _: {"squeeze_n": 40.0, "friction": 1.5},
    torques=torques,
    sets_current=True,
)
