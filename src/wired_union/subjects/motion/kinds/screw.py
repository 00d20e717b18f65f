"""A screw that pushes, by a motor or an actuator with a screw of its own."""

import math
from collections.abc import Callable

from msgspec.structs import replace

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.method import require
from wired_union.physics.screw import column_buckling, leadscrew, screw_critical_speed
from wired_union.physics.solenoid import gap_force, solenoid_force
from wired_union.picture.shapes import Box, Kit, Line, Shape
from wired_union.project.model import Item, Part, Thrust
from wired_union.project.motion_model import ScrewLoad
from wired_union.subjects.motion.kind import (
    NO_TORQUE,
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
from wired_union.subjects.motion.results import Drive, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arrow, scale_bar
from wired_union.units import show

SOLENOIDS = ("solenoid",)
"""Classes of actuator that pull by a magnet, not by a screw."""
PLUNGER_SHARE = 0.2  # common practice: a fifth of a small solenoid's mass moves
BUCKLING_RESERVE = 3.0  # common practice: a third of Euler's load at the most
WHIRL_SHARE = 0.8  # common practice: under 80 % of the critical speed


def screw_torque(load: ScrewLoad, force_n: float) -> float:
    """Torque at the screw that raises the load."""
    return leadscrew(force_n, load.mean_diameter_m, load.lead_m, load.friction, load.collar_friction,
                     load.collar_diameter_m).raising_torque_n_m  # fmt: skip


def torques(load: ScrewLoad, scene: Scene) -> Torques | None:
    """At its motor, where it has one; an actuator has a screw of its own."""
    if scene.actuator is not None and scene.actuator.part.thrust is not None:
        return None
    usual = load.force_n if load.usual_force_n is None else load.usual_force_n
    return shared(load, scene, screw_torque(load, usual), screw_torque(load, load.force_n))


def inertia(load: ScrewLoad, scene: Scene) -> float | None:
    """Of what it raises, a weight of its force, through the lead; an actuator's own screw says nothing."""
    if scene.actuator is not None and scene.actuator.part.thrust is not None:
        return None
    return reflected(load, scene, load.force_n / G * (load.lead_m / (2 * math.pi)) ** 2)


def root_diameter_m(load: ScrewLoad) -> float:
    """Diameter at the root of a square thread: half a pitch below the mean; the pitch is the lead over the starts."""
    root = load.mean_diameter_m - load.lead_m / load.starts / 2
    require(root > 0, "the pitch leaves no core: give the threads side by side as starts, or a larger diameter")
    return root


def carried(load: ScrewLoad, scene: Scene) -> LoadResult:
    facts = {"force_n": load.force_n, "stroke_m": load.stroke_m, "diameter_m": load.mean_diameter_m,
             "lead_m": load.lead_m}  # fmt: skip
    notes = [] if load.limit_switches else ["No switch at the ends: the motor stalls there and draws its most."]
    notes += [] if load.hand_release else ["No hand release: when the power fails it stays where it is."]
    thrust = scene.actuator.part.thrust if scene.actuator is not None else None
    if thrust is not None and scene.actuator is not None and scene.actuator.part.kind in SOLENOIDS:
        return _pulled(load, scene, scene.actuator, thrust, {**facts, "plain": 1.0})
    if thrust is not None:
        return _thrust(load, scene, facts, tuple(notes))
    screw = leadscrew(load.force_n, load.mean_diameter_m, load.lead_m, load.friction, load.collar_friction,
                      load.collar_diameter_m)  # fmt: skip
    root = root_diameter_m(load)
    bends = column_buckling(root, load.stroke_m, load.ends).critical_load_n
    whirl = screw_critical_speed(root, load.stroke_m, load.ends).speed_rad_s
    if not screw.self_locking:
        notes.append("The thread does not hold by itself: the load runs down when the motor is off.")
    rows = [
        Row("torque that raises", show(screw.raising_torque_n_m, "N·m")),
        Row("torque that lowers", show(screw.lowering_torque_n_m, "N·m")),
        Row("holds by itself", "yes" if screw.self_locking else "no", "" if screw.self_locking else "tight"),
        Row("efficiency", show(screw.efficiency, "share")), Row("buckles at", show(bends, "N")),
        Row("whirls at", show(whirl, "rad/s")), *sharing(load, scene),
    ]  # fmt: skip
    each = load.force_n / motors_of(load, scene) * BUCKLING_RESERVE
    buckling = check_of("buckling", each, bends, "N", extra=", three times the force")
    if scene.drive is None:
        return LoadResult(load, (buckling,), tuple(rows), missing=scene.lacks, notes=tuple(notes), facts=facts)
    found = LoadResult(load, (buckling,), tuple(rows), drive=scene.drive, notes=tuple(notes), facts=facts)
    return _driven(load, scene, scene.drive, found, whirl)


def _driven(load: ScrewLoad, scene: Scene, drive: Drive, found: LoadResult, whirl: float) -> LoadResult:
    """What a motor makes of the screw: its torque, how fast it goes, how warm it gets."""
    needed = with_others(torques(load, scene) or NO_TORQUE, scene)
    usual, torque = needed.usual_n_m, needed.most_n_m
    turn = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio
    speed = turn * load.lead_m / (2 * math.pi)
    time = load.stroke_m / speed if speed > 0 else math.inf
    free = max(drive.motor.speed_at(drive.nominal_v, 0.0), 0.0) / load.ratio
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"), *found.checks,
        check_of("whirling", free, WHIRL_SHARE * whirl, "rad/s", extra=", 80 % of the critical speed"),
        check_of("time", time, load.time_s, "s") if load.time_s else None,
        all_day(scene, drive.motor.current_at(usual)),
    )  # fmt: skip
    points = (drive.point("usual", usual), drive.point("most force", torque))
    quick = 2 * math.pi * load.stroke_m / (free * load.lead_m) if free > 0 else math.inf
    return replace(found, checks=checks, rows=(*found.rows, Row("one stroke takes", show(time, "s"))), points=points,
                   speed_m_s=speed, takes_s=(min(quick, time), time),
                   turning=turns(scene, points, points[1], load.ratio, "screw"))  # fmt: skip


def _pulled(load: ScrewLoad, scene: Scene, item: Item, thrust: Thrust, facts: dict[str, float]) -> LoadResult:
    """A solenoid: weakest at the beginning of its stroke; its force follows the square of the voltage."""
    rated = item.part.load.rated_v if item.part.load is not None else None
    figures = (("force when closed", thrust.max_force_n), ("force at its whole stroke", thrust.open_force_n),
               ("stroke", thrust.stroke_m), ("mass", item.part.mass_kg))  # fmt: skip
    missing = [f"{item.name}: its {words}" for words, value in figures if not value]
    missing += [] if rated else [f"{item.name}: the voltage its figures are given at"]
    missing += [f"{item.name}: its rise time"] if load.time_s and thrust.rise_time_s is None else []
    missing += scene.lacks if scene.sag_v is None else ()
    if missing or scene.sag_v is None or rated is None:
        return LoadResult(load, missing=tuple(missing), facts=facts)
    share, stroke = motors_of(load, scene) * min(scene.sag_v / rated, 1.0) ** 2, thrust.stroke_m or 0.0
    closed, weak = (thrust.max_force_n or 0.0) * share, (thrust.open_force_n or 0.0) * share
    gap = min(load.stroke_m, stroke)
    beginning = gap_force(closed, weak, stroke, gap)
    time = math.inf
    if beginning > load.force_n:
        plunger = PLUNGER_SHARE * (item.part.mass_kg or 0.0) * motors_of(load, scene)
        rise = thrust.rise_time_s or 0.0
        time = solenoid_force(closed, weak, stroke, gap, load.force_n, plunger, rise).stroke_time_s
    checks = known(
        check_of("force", load.force_n, beginning, "N", extra=", at the beginning of its stroke"),
        check_of("stroke", load.stroke_m, stroke, "m"),
        check_of("time", time, load.time_s, "s") if load.time_s else None,
    )
    checks = tuple(replace(c, use=c.use if c.use > 1 else c.use * 0.8) if c.id == "stroke" else c for c in checks)
    rows = (Row("force at the beginning", show(beginning, "N")), Row("force when closed", show(closed, "N")),
            Row("one stroke takes", show(time, "s")), *sharing(load, scene))  # fmt: skip
    notes = ("It holds only while it is on, and its coil gets hot: see how long it may be on at a time.",)
    return LoadResult(load, checks, rows, notes=notes, facts=facts, takes_s=(time, time))


def _thrust(load: ScrewLoad, scene: Scene, facts: dict[str, float], notes: tuple[str, ...]) -> LoadResult:
    """An actuator with a screw of its own: force against speed is a straight line, both in proportion to its voltage.

    More than its rated voltage makes it faster; it bears no more than the force it is made for.
    """
    item = scene.actuator
    assert item is not None
    assert item.part.thrust is not None
    thrust = item.part.thrust
    missing = [f"{item.name}: its {w}" for w, v in (("most force", thrust.max_force_n),
               ("speed without load", thrust.no_load_speed_m_s), ("stroke", thrust.stroke_m)) if v is None]  # fmt: skip
    rated = item.part.load.rated_v if item.part.load is not None else None
    missing += [] if rated else [f"{item.name}: the voltage its figures are given at"]
    if scene.sag_v is None:
        missing += scene.lacks
    if missing or rated is None or scene.sag_v is None:
        return LoadResult(load, missing=tuple(missing), notes=notes, facts=facts)
    volts, full = scene.sag_v / rated, (thrust.max_force_n or 0.0) * motors_of(load, scene)
    most, free, stroke = full * min(volts, 1.0), (thrust.no_load_speed_m_s or 0.0) * volts, thrust.stroke_m or 0.0
    speed = max(free * (1 - load.force_n / (full * volts)), 0.0)
    time = load.stroke_m / speed if speed > 0 else math.inf
    checks = known(
        check_of("force", load.force_n, most, "N"),
        check_of("stroke", load.stroke_m, stroke, "m"),
        check_of("time", time, load.time_s, "s") if load.time_s else None,
    )
    # the stroke is used whole: it counts as breaking only beyond it
    checks = tuple(replace(c, use=c.use if c.use > 1 else c.use * 0.8) if c.id == "stroke" else c for c in checks)
    rows = (Row("force", f"{show(load.force_n, 'N')} of {show(most, 'N')}"),
            Row("speed under it", show(speed, "m/s")), Row("one stroke takes", show(time, "s")),
            Row("stroke", f"{show(load.stroke_m, 'm')} of {show(stroke, 'm')}"), *sharing(load, scene))  # fmt: skip
    quick = load.stroke_m / free if free > 0 else math.inf
    return LoadResult(load, checks, rows, notes=notes, speed_m_s=speed, facts=facts, takes_s=(min(quick, time), time))


_THREAD = frozenset({"ratio", "gear_efficiency", "mean_diameter_m", "lead_m", "starts", "friction", "collar_friction",
                     "collar_diameter_m", "ends"})  # fmt: skip


def unused(load: ScrewLoad, part_of: Callable[[str], Part | None]) -> frozenset[str]:
    """An actuator has a thread of its own, a solenoid none, nor ends to switch."""
    part = part_of(load.actuator)
    if part is None or part.thrust is None:
        return frozenset()
    switches = {"limit_switches", "hand_release"} if part.kind in SOLENOIDS else set()
    return _THREAD | switches


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    f = result.facts
    length = f["stroke_m"] * 1.35
    px = min(width * 0.72 / length, height * 4 / length)
    scale = Scale(px, width * 0.12, height * 0.45)
    d = max(f["diameter_m"] * px, kit.px(8))
    x0, y0 = scale.at(0, 0)
    x1 = x0 + length * px
    shapes: list[Shape] = [
        Box(x0 - kit.px(34), y0 - kit.px(16), kit.px(34), kit.px(32), "copper_soft", "copper", 3),
        Box(x0, y0 - d / 2, x1 - x0, d, "soft", "ink", 1),
    ]
    turns = 0 if "plain" in f else min(max(round(length / f["lead_m"]), 8), 70)
    for k in range(turns):
        x = x0 + (x1 - x0) * (k + 0.5) / turns
        shapes.append(Line(x - 2, y0 + d / 2, x + 2, y0 - d / 2, "mute", 1.0))
    nut = x0 + (x1 - x0) * 0.55
    shapes.append(Box(nut - kit.px(13), y0 - d / 2 - kit.px(9), kit.px(26), d + kit.px(18), "slate_soft", "slate", 3))
    shapes += arrow(nut + kit.px(90), y0 - d / 2 - kit.px(20), nut + kit.px(18), y0 - d / 2 - kit.px(20), "slate")
    shapes.append(
        kit.figures(nut + kit.px(94), y0 - d / 2 - kit.px(20), show(f["force_n"], "N"), "small", "slate", bold=True)
    )
    y = y0 + d / 2 + kit.px(24)
    end = x0 + f["stroke_m"] * px
    shapes += [
        Line(x0, y, end, y, "mute", 1.2),
        Line(x0, y - 4, x0, y + 4, "mute"),
        Line(end, y - 4, end, y + 4, "mute"),
        kit.figures(
            (x0 + end) / 2, y + kit.px(11), f"stroke {show(f['stroke_m'], 'm')}", "small", "mute", anchor="middle"
        ),
    ]
    return [*shapes, *scale_bar(kit, px, height)]


KIND = LoadKind(
    ScrewLoad,
    "screw",
    carried,
    drawn,
    asked=lambda load: f"{show(load.force_n, 'N')} over {show(load.stroke_m, 'm')}",
    dragged=lambda _: {"force_n": 300.0},
    torques=torques,
    sets_current=True,
    inertia=inertia,
    unused=unused,
)
