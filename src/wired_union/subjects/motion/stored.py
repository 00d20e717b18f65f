"""Stored energy next to the direct motor: what a spring or tank gives at once, and what winding it takes."""

import math

import numpy as np

from wired_union.physics.constants import AMBIENT_PRESSURE_PA
from wired_union.physics.stored_energy import curve_energy_j, spring_energy, tank_shot
from wired_union.project.model import Item
from wired_union.project.motion_model import StoredLoad
from wired_union.subjects.motion.results import Check, Drive, LoadResult, Row, check_of
from wired_union.units import show

STEPS = 200
CAUTION = (
    "Stored energy releases at once: keep out of its line, wear eye protection, unload it before work. Your lab's rules"
    " come first."
)


def stored_load(load: StoredLoad, store: Item | None, drive: Drive | None, lacks: tuple[str, ...]) -> LoadResult:
    """A spring, an elastic or a tank that throws a mass; and the direct motor for the same task."""
    part = store.part if store is not None else None
    if part is not None and part.tank is not None:
        return _tank(load, part.tank.volume_m3, part.tank.max_pressure_pa)
    if load.curve:
        travel, share = load.curve[-1][0], 1.0
        profile = load.curve
        energy = curve_energy_j(tuple(x for x, _ in load.curve), tuple(f for _, f in load.curve))
        force = max(f for _, f in load.curve)
    elif part is not None and part.spring is not None:
        travel = load.travel_m or part.spring.travel_m
        count = store.count if store is not None else 1
        stiffness, share = part.spring.stiffness_n_per_m * count, part.spring.efficiency
        shot = spring_energy(stiffness, travel, load.mass_kg, share)
        energy, force = shot.energy_j, shot.peak_force_n
        profile = ((0.0, 0.0), (travel, force))
    else:
        return LoadResult(load, missing=("which spring, elastic or tank stores the energy",), notes=(CAUTION,))
    reached = math.sqrt(2 * share * energy / load.mass_kg)
    needed = load.mass_kg * load.release_speed_m_s**2 / 2
    checks: list[Check] = [check_of("energy", needed, share * energy, "J")]
    rows = [Row("energy stored", show(energy, "J")), Row("speed at release", show(reached, "m/s")),
            Row("force when loaded", show(force, "N"))]  # fmt: skip
    facts = {"travel_m": travel, "force_n": force, "energy_j": energy, "speed_m_s": reached, "mass_kg": load.mass_kg}
    if part is not None and part.spring is not None and travel > part.spring.travel_m:
        checks.append(check_of("travel", travel, part.spring.travel_m, "m"))
    if drive is None:
        return LoadResult(load, tuple(checks), tuple(rows), missing=lacks, notes=(CAUTION,), speed_m_s=reached,
                          facts=facts)  # fmt: skip
    arm = load.winding_diameter_m / 2 / load.ratio
    torque = force * arm
    time = winding_time_s(drive, arm, profile)
    brake = drive.motor.speed_at(drive.nominal_v, 0.0) * arm
    direct = direct_speed_m_s(drive, load.mass_kg, travel)
    checks.append(check_of("winding", torque, drive.stall_n_m, "N·m"))
    if load.recharge_s:
        checks.append(check_of("recharge", time, load.recharge_s, "s"))
    rows += [
        Row("loaded again in", show(time, "s")),
        Row("motor becomes a brake from", show(brake, "m/s"), "tight" if brake < load.release_speed_m_s else ""),
        Row("the motor alone would reach", show(direct, "m/s"),
            "breaks" if direct < load.release_speed_m_s else ""),
    ]  # fmt: skip
    notes = [CAUTION]
    if brake < load.release_speed_m_s:
        notes.append(f"Above {show(brake, 'm/s')} the motor holds the load back: let it free-wheel at release.")
    facts |= {"direct_m_s": direct, "brake_m_s": brake}
    points = (drive.point("half wound", torque / 2), drive.point("fully wound", torque))
    return LoadResult(load, tuple(checks), tuple(rows), points, drive, notes=tuple(notes), speed_m_s=reached,
                      facts=facts)  # fmt: skip


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


def _tank(load: StoredLoad, volume_m3: float, pressure_pa: float) -> LoadResult:
    shot = tank_shot(volume_m3, pressure_pa, load.bore_m, load.stroke_m, load.mass_kg)
    needed = load.mass_kg * load.release_speed_m_s**2 / 2
    rows: tuple[Row, ...] = (
        Row("energy, adiabatic to isothermal", f"{show(shot.adiabatic_energy_j, 'J')} to"
            f" {show(shot.isothermal_energy_j, 'J')}"),
        Row("speed at release, at most", show(shot.adiabatic_speed_m_s, "m/s")),
        Row("pressure after a shot", show(shot.pressure_after_pa, "Pa")),
    )  # fmt: skip
    checks = [check_of("energy", needed, shot.adiabatic_energy_j, "J")]
    if load.pump_flow_m3_s:
        time = volume_m3 * (pressure_pa - shot.pressure_after_pa) / (AMBIENT_PRESSURE_PA * load.pump_flow_m3_s)
        rows = (*rows, Row("pumped up again in", show(time, "s")))
        if load.recharge_s:
            checks.append(check_of("recharge", time, load.recharge_s, "s"))
    facts = {"travel_m": load.stroke_m, "energy_j": shot.adiabatic_energy_j, "speed_m_s": shot.adiabatic_speed_m_s,
             "mass_kg": load.mass_kg, "force_n": pressure_pa * math.pi / 4 * load.bore_m**2}  # fmt: skip
    note = "Valve and pipe take their share: a real shot lies under the adiabatic bound."
    return LoadResult(load, tuple(checks), rows, notes=(CAUTION, note), speed_m_s=shot.adiabatic_speed_m_s,
                      facts=facts)  # fmt: skip
