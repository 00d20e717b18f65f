"""Stored energy next to the direct motor: what a spring or tank gives at once, and what winding it takes."""

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.constants import AMBIENT_PRESSURE_PA
from wired_union.physics.method import Impossible
from wired_union.physics.stored_energy import (
    Pulled,
    curve_energy_j,
    gas_spring,
    rubber_pulled,
    spring_energy,
    tank_shot,
)
from wired_union.picture.shapes import Box, Kit, Line, Poly, Shape
from wired_union.project.model import Item, Part
from wired_union.project.motion_model import StoredLoad
from wired_union.project.part_model import Spring
from wired_union.subjects.motion.kind import NO_TORQUE, LoadKind, Scene, Torques, known, motors_of, shared, sharing
from wired_union.subjects.motion.results import Check, Drive, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import arrow, blank
from wired_union.units import show

STEPS = 200
CAUTION = (
    "Stored energy releases at once: keep out of its line, wear eye protection, unload it before work. Your lab's rules"
    " come first."
)


class Charge(Struct, frozen=True):
    """What a spring or a measured curve stores: its travel, energy, most force, the share that comes out, its curve."""

    travel_m: float
    energy_j: float
    force_n: float
    share: float
    profile: tuple[tuple[float, float], ...]
    most_travel_m: float | None = None


def carried(load: StoredLoad, scene: Scene) -> LoadResult:
    """A spring, an elastic or a tank that throws a mass; and the direct motor for the same task."""
    store = scene.item(load.store)
    if store is not None and store.part.tank is not None:
        pressure = min(load.pressure_pa or store.part.tank.max_pressure_pa, 1e9)
        return _tank(load, store.part.tank.volume_m3 * store.count, pressure, store.part.tank.max_pressure_pa)
    charge = charge_of(load, store)
    if charge is None:
        return LoadResult(load, missing=(_lacking(store),), notes=(CAUTION,))
    reached = math.sqrt(2 * charge.share * charge.energy_j / load.mass_kg)
    needed = load.mass_kg * load.release_speed_m_s**2 / 2
    checks = [check_of("energy", needed, charge.share * charge.energy_j, "J")]
    if charge.most_travel_m is not None and charge.travel_m > charge.most_travel_m:
        checks.append(check_of("travel", charge.travel_m, charge.most_travel_m, "m"))
    rows = (Row("energy stored", show(charge.energy_j, "J")), Row("speed at release", show(reached, "m/s")),
            Row("force when loaded", show(charge.force_n, "N")))  # fmt: skip
    facts = {"travel_m": charge.travel_m, "force_n": charge.force_n, "energy_j": charge.energy_j,
             "speed_m_s": reached, "mass_kg": load.mass_kg}  # fmt: skip
    thrown = LoadResult(load, tuple(checks), rows, missing=scene.lacks, notes=(CAUTION,), speed_m_s=reached,
                        facts=facts)  # fmt: skip
    if not load.actuator:
        return replace(thrown, rows=(*rows, Row("loaded", "by hand")), missing=())
    return thrown if scene.drive is None else _wound(load, thrown, charge, scene, scene.drive)


def charge_of(load: StoredLoad, store: Item | None) -> Charge | None:
    """What is stored, by the measured curve before the spring's figures; None where neither is given.

    Copies of the store pull side by side, and give back the share that the part says, whichever it is known by.
    """
    spring, count = (store.part.spring, store.count) if store is not None else (None, 1)
    own = spring.travel_m if spring is not None else None
    if load.curve:
        profile = tuple((x, f * count) for x, f in load.curve)
        travels, forces = tuple(x for x, _ in profile), tuple(f for _, f in profile)
        share = spring.efficiency if spring is not None else 1.0
        return Charge(travels[-1], curve_energy_j(travels, forces), max(forces), share, profile, own)
    pulled = _pulled(spring, load.travel_m or spring.travel_m) if spring is not None else None
    if spring is None or pulled is None:
        return None
    profile = tuple((x, f * count) for x, f in pulled.profile)
    return Charge(profile[-1][0], pulled.energy_j * count, profile[-1][1], spring.efficiency, profile, own)


def _pulled(spring: Spring, travel_m: float) -> Pulled | None:
    """One spring over a travel by its own law; None where a figure of that is missing, or it cannot go so far."""
    first, last = spring.preload_n, spring.preload_n + spring.stiffness_n_per_m * spring.travel_m
    try:
        if spring.law == "gas":
            return gas_spring(first, last, spring.travel_m, travel_m)
        if spring.law == "rubber":
            free = spring.free_length_m
            return rubber_pulled(first, last, free, spring.travel_m, travel_m) if free is not None else None
    except Impossible:
        return None
    shot = spring_energy(spring.stiffness_n_per_m, travel_m, 1.0, 1.0, first)
    return Pulled(shot.energy_j, ((0.0, first), (travel_m, shot.peak_force_n)))


def _lacking(store: Item | None) -> str:
    """What is missing of what stores the energy."""
    spring = store.part.spring if store is not None else None
    if spring is None or store is None:
        return "which spring, elastic or tank stores the energy"
    if spring.law == "rubber":
        return f"{store.name}: its length before it is stretched"
    return f"{store.name}: the force at the start of its travel, and a travel that leaves its gas room"


def torques(load: StoredLoad, scene: Scene) -> Torques | None:
    """At the motor that winds it: half of the way as usual, where the force is greatest at most."""
    charge = charge_of(load, scene.item(load.store))
    store = scene.item(load.store)
    if charge is None or (store is not None and store.part.tank is not None):
        return None
    travels, forces = zip(*charge.profile, strict=True)
    half = float(np.interp((travels[0] + travels[-1]) / 2, travels, forces))
    arm = load.winding_diameter_m / 2
    return shared(load, scene, half * arm, charge.force_n * arm)


def _wound(load: StoredLoad, thrown: LoadResult, charge: Charge, scene: Scene, drive: Drive) -> LoadResult:
    """What winding it takes, and what the motors alone would do."""
    count, passed = motors_of(load, scene), load.gear_efficiency or 1.0
    arm = load.winding_diameter_m / 2 / load.ratio
    own, besides = torques(load, scene) or NO_TORQUE, scene.others.most_n_m
    torque = own.most_n_m + besides
    time = winding_time_s(drive, arm, tuple((x, f / count / passed + besides / arm) for x, f in charge.profile))
    brake = drive.motor.speed_at(drive.nominal_v, 0.0) * arm
    direct = direct_speed_m_s(drive, load.mass_kg / count, charge.travel_m)
    checks = known(
        *thrown.checks, check_of("winding", torque, drive.stall_n_m, "N·m"),
        check_of("recharge", time, load.recharge_s, "s") if load.recharge_s else None,
    )  # fmt: skip
    slow = brake < load.release_speed_m_s
    rows = (
        *thrown.rows, Row("loaded again in", show(time, "s")),
        Row("motor becomes a brake from", show(brake, "m/s"), "tight" if slow else ""),
        Row("the motor alone would reach", show(direct, "m/s"),
            "breaks" if direct < load.release_speed_m_s else ""), *sharing(load, scene),
    )  # fmt: skip
    notes = thrown.notes
    if slow:
        notes += (f"Above {show(brake, 'm/s')} the motor holds the load back: let it free-wheel at release.",)
    points = (drive.point("half wound", own.usual_n_m + besides), drive.point("fully wound", torque))
    return LoadResult(load, checks, rows, points, drive, notes=notes, speed_m_s=thrown.speed_m_s, takes_s=(time, time),
                      facts={**thrown.facts, "direct_m_s": direct, "brake_m_s": brake})  # fmt: skip


def winding_time_s(drive: Drive, arm_m: float, profile: tuple[tuple[float, float], ...]) -> float:
    """Time to wind against a force that depends on the travel: ∫ dx / v(F(x)), midpoint rule; inf where it stalls.

    Args:
        drive: the motor
        arm_m: radius it winds on, less the further gear
        profile: points of travel in m and force in N, rising in travel
    """
    travels, forces = [x for x, _ in profile], [f for _, f in profile]
    if drive.stall_n_m < max(forces) * arm_m:
        return math.inf
    width = (travels[-1] - travels[0]) / STEPS
    at = np.interp(travels[0] + width * (np.arange(STEPS) + 0.5), travels, forces)
    speeds = [drive.motor.speed_at(drive.sag_v, float(f) * arm_m) * arm_m for f in at]
    return sum(width / v for v in speeds) if min(speeds) > 0 else math.inf


def direct_speed_m_s(drive: Drive, mass_kg: float, travel_m: float) -> float:
    """The fastest that the motor alone could throw the mass over the same travel: its most power all the way.

    With constant power P over a distance x, v³ = 3·P·x/m; the most power is at half the no-load speed, T·ω/4.
    """
    power = drive.motor.stall_torque_at(drive.nominal_v) * drive.motor.speed_at(drive.nominal_v, 0.0) / 4
    return float((3 * max(power, 0.0) * travel_m / mass_kg) ** (1 / 3))


def _tank(load: StoredLoad, volume_m3: float, pressure_pa: float, rating_pa: float) -> LoadResult:
    shot = tank_shot(volume_m3, pressure_pa, load.bore_m, load.stroke_m, load.mass_kg)
    needed = load.mass_kg * load.release_speed_m_s**2 / 2
    share, lacks = 1.0 if load.valve_share is None else load.valve_share, _unknown_of_tank(load)
    energy, reached = share * shot.adiabatic_energy_j, math.sqrt(share) * shot.adiabatic_speed_m_s
    rows: tuple[Row, ...] = (
        Row("energy, adiabatic to isothermal", f"{show(shot.adiabatic_energy_j, 'J')} to"
            f" {show(shot.isothermal_energy_j, 'J')}"),
        Row("speed at release" if load.valve_share else "speed at release, at most", show(reached, "m/s")),
        Row("pressure after a shot", show(shot.pressure_after_pa, "Pa")),
    )  # fmt: skip
    checks = [check_of("energy", needed, energy, "J"), _whole(check_of("pressure", pressure_pa, rating_pa, "Pa"))]
    if load.pump_flow_m3_s:
        time = volume_m3 * (pressure_pa - shot.pressure_after_pa) / (AMBIENT_PRESSURE_PA * load.pump_flow_m3_s)
        rows = (*rows, Row("pumped up again in", show(time, "s")))
        if load.recharge_s:
            checks.append(check_of("recharge", time, load.recharge_s, "s"))
    facts = {"travel_m": load.stroke_m, "energy_j": energy, "speed_m_s": reached, "mass_kg": load.mass_kg,
             "force_n": pressure_pa * math.pi / 4 * load.bore_m**2}  # fmt: skip
    note = "Valve and pipe take their share: a real shot lies under the adiabatic bound."
    return LoadResult(load, tuple(checks), rows, missing=lacks, notes=(CAUTION, note), speed_m_s=reached, facts=facts)


def _unknown_of_tank(load: StoredLoad) -> tuple[str, ...]:
    """What nothing says of a shot of air."""
    found = []
    if load.valve_share is None:
        found.append("how much of the air's energy valve and pipe let through")
    if load.recharge_s is not None and load.pump_flow_m3_s is None:
        found.append("how much air the pump gives")
    return tuple(found)


def _whole(check: Check) -> Check:
    """A rating that is meant to be used whole: it breaks only beyond it."""
    return check if check.use > 1 else replace(check, use=check.use * 0.8)


_OF_TANK = frozenset({"pressure_pa", "valve_share", "bore_m", "stroke_m", "pump_flow_m3_s"})
_WINDING = frozenset({"winding_diameter_m", "ratio", "mode", "motors"})


def unused(load: StoredLoad, part_of: Callable[[str], Part | None]) -> frozenset[str]:
    """A spring has no pressure, a tank no travel, and what is loaded by hand is not wound."""
    part = part_of(load.store)
    if part is not None and part.tank is not None:
        return frozenset({"winding_diameter_m", "ratio", "travel_m", "curve"})
    by_hand = frozenset() if load.actuator else _WINDING
    return by_hand | (_OF_TANK if part is not None or load.curve else frozenset())


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """The store and the motor for the same task, one above the other, each as long as the speed it gives."""
    f = result.facts
    if "speed_m_s" not in f:
        return blank(kit, "Say which spring, elastic or tank stores the energy.")
    wanted = float(result.load.release_speed_m_s)  # type: ignore[union-attr]
    rows = [("stored", f["speed_m_s"], "moss"), ("wanted", wanted, "ink")]
    if "direct_m_s" in f:
        rows += [("motor alone", f["direct_m_s"], "copper"), ("motor brakes from", f["brake_m_s"], "breaks")]
    most = max(v for _, v, _ in rows)
    left, row = kit.px(104), kit.px(26)
    top = height * 0.40
    coils = 14
    spring_w = width * 0.34
    y = height * 0.18
    points = [(left + spring_w * k / coils, y + (kit.px(10) if k % 2 else -kit.px(10))) for k in range(coils + 1)]
    end = left + spring_w
    shapes: list[Shape] = [
        Line(left, y - kit.px(16), left, y + kit.px(16), "ink", 3.0),
        Poly(tuple(points), "moss", width=2.0),
        Box(end, y - kit.px(13), kit.px(26), kit.px(26), "slate_soft", "slate", 3),
    ]
    shapes += arrow(end + kit.px(30), y, end + kit.px(60), y, "slate")
    said = f"{show(f['energy_j'], 'J')} over {show(f['travel_m'], 'm')}"
    shapes.append(kit.figures(left - kit.px(8), y, said, "small", "ink", bold=True, anchor="end"))
    for k, (name, speed, ink) in enumerate(rows):
        at = top + row * k
        length = (width - left - kit.px(80)) * speed / most
        shapes += [
            kit.words(0, at, name, "small"),
            Box(left, at - kit.px(7), max(length, 1.5), kit.px(14), ink, radius=1.5),
            kit.figures(left + length + 6, at, show(speed, "m/s"), "base", bold=True),
        ]
    return shapes


KIND = LoadKind(
    StoredLoad,
    "stored energy",
    carried,
    drawn,
    asked=lambda load: f"{show(load.mass_kg, 'kg')} at {show(load.release_speed_m_s, 'm/s')}",
    dragged=lambda _: {"release_speed_m_s": 12.0, "mass_kg": 1.0},
    shown="next to the motor alone",
    torques=torques,
    unused=unused,
)
