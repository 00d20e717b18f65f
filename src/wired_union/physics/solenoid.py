"""Solenoids: how their force falls with the gap, and how long a stroke takes."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import WOODSON


class Pull(Struct, frozen=True):
    force_n: float
    stroke_time_s: float


def gap_force(closed_force_n: float, open_force_n: float, stroke_m: float, gap_m: float) -> float:
    """Force at a gap: F = F₀/(1 + x/a)², through the force closed and that at the whole stroke."""
    if closed_force_n <= open_force_n:
        return open_force_n
    inner = stroke_m / (math.sqrt(closed_force_n / open_force_n) - 1)
    return closed_force_n / (1 + gap_m / inner) ** 2


def stroke_work_j(closed_force_n: float, open_force_n: float, stroke_m: float, gap_m: float) -> float:
    """Work of closing a gap: the integral of `gap_force`, F₀·x/(1 + x/a)."""
    if closed_force_n <= open_force_n:
        return open_force_n * gap_m
    inner = stroke_m / (math.sqrt(closed_force_n / open_force_n) - 1)
    return closed_force_n * gap_m / (1 + gap_m / inner)


@method(
    "solenoid-force",
    source="force of an air gap, F = µ₀·A·(N·I)²/2g²",
    works=(WOODSON,),
    checked="its work by scipy's quad",
    limits="iron not saturated, current settled; force follows the square of the voltage",
)
def solenoid_force(
    closed_force_n: float, open_force_n: float, stroke_m: float, gap_m: float, load_force_n: float,
    moving_mass_kg: float, rise_time_s: float,
) -> Pull:  # fmt: skip
    """Force of a solenoid at a gap, and how long it takes to close it against a load.

    Args:
        closed_force_n: force when closed
        open_force_n: force at its whole stroke
        stroke_m: its whole stroke
        gap_m: gap it begins from
        load_force_n: force it works against
        moving_mass_kg: plunger and what it carries
        rise_time_s: until its current stands
    Returns:
        force_n: force at that gap
        stroke_time_s: current rising and then the way, at the mean of what is left over
    Raises:
        ValueError: a figure below zero, a gap beyond its stroke, or a load that it does not pull at the beginning.
    """
    require(min(closed_force_n, open_force_n, stroke_m, moving_mass_kg) > 0, "forces, stroke and mass are above 0")
    require(0 < gap_m <= stroke_m * (1 + 1e-9), "the gap is above 0 and at most its stroke")
    require(load_force_n >= 0 and rise_time_s >= 0, "load and rise time are 0 or more")
    force = gap_force(closed_force_n, open_force_n, stroke_m, gap_m)
    require(force > load_force_n, f"it does not move: {force:.4g} N at the beginning against {load_force_n:.4g} N")
    over_n = stroke_work_j(closed_force_n, open_force_n, stroke_m, gap_m) / gap_m - load_force_n
    return Pull(force, rise_time_s + math.sqrt(2 * gap_m * moving_mass_kg / over_n))


class Released(Struct, frozen=True):
    energy_j: float
    release_time_s: float
    free_wheel_time_s: float


@method(
    "coil-release",
    source="L·i′ = −R·i − V_clamp until i = 0, solved exactly; ½·L·I²",
    works=(WOODSON,),
    checked="scipy's solve_ivp",
    limits="iron not saturated; the clamp holds its voltage, a plain diode about 0.7 V",
)
def coil_release(inductance_h: float, resistance_ohm: float, current_a: float, clamp_v: float) -> Released:
    """How long the current of a coil lasts once its switch opens, and what its clamp must take.

    Args:
        inductance_h: of the coil
        resistance_ohm: of the coil
        current_a: as the switch opens
        clamp_v: at which the clamp holds the coil: about 0.7 for a plain diode, more for a quicker release
    Returns:
        energy_j: that it holds
        release_time_s: until no current flows
        free_wheel_time_s: the same with a plain diode of 0.7 V
    Raises:
        ValueError: figures that are not above 0.
    """
    require(min(inductance_h, resistance_ohm, current_a, clamp_v) > 0, "all four figures are above 0")
    times = [inductance_h / resistance_ohm * math.log1p(current_a * resistance_ohm / v) for v in (clamp_v, 0.7)]
    require(all(math.isfinite(t) for t in times), "figures of no coil: its times are not numbers")
    return Released(0.5 * inductance_h * current_a**2, *times)
