"""Warmth of lumps: what a surface sheds, what a wall lets through, junctions and windings over their surroundings."""

import math

from msgspec import Struct

from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import HUGHES, INCROPERA, JESD51

STILL_AIR_W_PER_M2_K = 10.0
"""Still air and radiation over a warm surface: 8 to 12, common practice."""
AIR_J_PER_M3_K = 1.2 * 1005.0
"""Air of a room: density by heat capacity."""
SOLIDS_J_PER_KG_K = 900.0
"""Boards, plastics, cells and aluminium: 800 to 1 100, common practice."""
STILL, BLOWN = 5.0, 3.86


class Shed(Struct, frozen=True):
    coefficient_w_per_m2_k: float
    rise_k: float


@method(
    "surface-rise",
    source="10 W/m²K in still air; 5 + 3.86·√(v/L) in moving air, never less",
    works=(INCROPERA,),
    checked="values worked by hand; the flat plate in laminar flow, Nu = 0.664·Re^½·Pr^⅓",
    limits="small parts within about 80 K of the air; a fan's air that really reaches it",
)
def surface_rise(heat_w: float, area_m2: float, air_speed_m_s: float = 0.0, length_m: float = 0.05) -> Shed:
    """How far a surface warms above the air around it.

    Args:
        heat_w: what it must shed
        area_m2: surface that the air reaches
        air_speed_m_s: of a fan along it; 0 for still air
        length_m: of the surface along the air
    Returns:
        coefficient_w_per_m2_k: what a square metre sheds for each kelvin
        rise_k: above the air
    Raises:
        ValueError: heat or speed below 0, or an area or a length that is not above 0.
    """
    require(heat_w >= 0 and air_speed_m_s >= 0, "heat and air speed are 0 or more")
    require(area_m2 > 0 and length_m > 0, "area and length are above 0")
    coefficient = shed_w_per_m2_k(air_speed_m_s, length_m)
    return Shed(coefficient, heat_w / (coefficient * area_m2))


def shed_w_per_m2_k(air_speed_m_s: float, length_m: float) -> float:
    """What a square metre sheds to the air for each kelvin."""
    return max(STILL_AIR_W_PER_M2_K, STILL + BLOWN * math.sqrt(air_speed_m_s / length_m) if air_speed_m_s > 0 else 0.0)


class Wall(Struct, frozen=True):
    conductance_w_per_m2_k: float
    heat_w: float


@method(
    "wall-heat",
    source="layers in a row: 1/U = 1/h + Σ d/k + 1/h",
    works=(INCROPERA,),
    checked="values worked by hand",
    limits="flat walls, steady; no bridges of heat through screws and cables",
)
def wall_heat(
    thickness_m: float, conductivity_w_per_m_k: float, area_m2: float, inside_c: float, outside_c: float,
    insulation_m: float = 0.0, insulation_w_per_m_k: float = 0.035,
) -> Wall:  # fmt: skip
    """What goes through a wall with a layer of insulation, air on both sides.

    Args:
        thickness_m: of the wall
        conductivity_w_per_m_k: of the wall: 0.2 for plastics
        area_m2: of the wall
        inside_c: air inside
        outside_c: air outside
        insulation_m: thickness of the layer
        insulation_w_per_m_k: of the layer: 0.035 for foam
    Returns:
        conductance_w_per_m2_k: for a square metre and a kelvin, from air to air
        heat_w: that leaves
    Raises:
        ValueError: a thickness below 0, or a conductivity or an area that is not above 0.
    """
    require(thickness_m >= 0 and insulation_m >= 0, "thicknesses are 0 or more")
    require(min(conductivity_w_per_m_k, insulation_w_per_m_k, area_m2) > 0, "conductivities and area are above 0")
    films = 2 / STILL_AIR_W_PER_M2_K
    through = 1 / (films + thickness_m / conductivity_w_per_m_k + insulation_m / insulation_w_per_m_k)
    return Wall(through, through * area_m2 * (inside_c - outside_c))


class Junction(Struct, frozen=True):
    junction_c: float
    margin_k: float
    most_heat_w: float


@method(
    "junction-temperature",
    source="T = T_air + P·θ",
    works=(JESD51,),
    checked="values worked by hand",
    limits="the resistance from junction to air as the part is really mounted",
)
def junction_temperature(
    heat_w: float, thermal_resistance_k_per_w: float, air_c: float, most_c: float = 125.0
) -> Junction:
    """How warm a junction gets, and how much heat it could bear.

    Args:
        heat_w: what it burns
        thermal_resistance_k_per_w: junction to air
        air_c: air around it
        most_c: hottest that it may be
    Returns:
        junction_c: its temperature
        margin_k: what is left
        most_heat_w: what would bring it to its most
    Raises:
        ValueError: heat below 0, or a resistance that is not above 0.
    """
    require(heat_w >= 0 and thermal_resistance_k_per_w > 0, "heat is 0 or more, the resistance above 0")
    junction = air_c + heat_w * thermal_resistance_k_per_w
    return Junction(junction, most_c - junction, max(most_c - air_c, 0.0) / thermal_resistance_k_per_w)


class WindingTimes(Struct, frozen=True):
    time_constant_s: float
    settled_rise_k: float
    may_last_s: float
    must_rest_s: float


@method(
    "winding-stall",
    source="one lump: T = P·R·(1 − e^(−t/RC)), the current held; again and again over 1 − e^(−(on + rest)/RC)",
    works=(HUGHES,),
    checked="scipy's solve_ivp; energy alone, P·t/C, where it is short against the time constant",
    limits="the can stays as warm as it is; copper's rise in resistance is left out of the heat",
)
def winding_stall(
    heat_w: float, resistance_k_per_w: float, heat_capacity_j_per_k: float, warm_k: float, most_k: float
) -> WindingTimes:
    """How long a winding may be overloaded, and how long it must rest to be as before.

    Args:
        heat_w: what it burns meanwhile
        resistance_k_per_w: from winding to can
        heat_capacity_j_per_k: of the copper
        warm_k: how far it is above the can at the beginning
        most_k: how far it may be
    Returns:
        time_constant_s: of the winding
        settled_rise_k: where it would end
        may_last_s: until it is at its most; without end where it never gets there
        must_rest_s: without current, until it is within a kelvin of where it was
    Raises:
        ValueError: a resistance or capacity that is not above 0, or a beginning that is not below its most.
    """
    require(resistance_k_per_w > 0 and heat_capacity_j_per_k > 0, "resistance and capacity are above 0")
    require(heat_w >= 0 and 0 <= warm_k < most_k, "heat is 0 or more, the beginning from 0 to below its most")
    tau, settled = resistance_k_per_w * heat_capacity_j_per_k, heat_w * resistance_k_per_w
    if not (math.isfinite(tau) and math.isfinite(settled)):
        raise Impossible("figures of no winding: its time constant is not a number")
    lasts = math.inf if settled <= most_k else -tau * math.log1p(-(most_k - warm_k) / (settled - warm_k))
    top = min(settled, most_k)
    near = warm_k + 1.0
    rests = tau * math.log(top / near) if top > near else 0.0
    return WindingTimes(tau, settled, lasts, rests)


def winding_peak_k(
    heat_w: float, resistance_k_per_w: float, time_constant_s: float, on_s: float, rest_s: float
) -> float:
    """How far a winding gets above its can that is overloaded again and again, once that repeats itself.

    One lump: S·(1 − e^(−on/τ))/(1 − e^(−(on + rest)/τ)), S where it would end: the geometric series of what is left of
    each time before. Source: Hughes & Drury, Electric Motors and Drives, on intermittent duty (cited from memory).

    Args:
        heat_w: what it burns while overloaded
        resistance_k_per_w: from winding to can
        time_constant_s: of the winding
        on_s: how long it is overloaded at a time
        rest_s: without current between; endless for once
    Raises:
        ValueError: a time constant that is not above 0, or a time below 0.
    """
    require(time_constant_s > 0 and on_s >= 0 and rest_s >= 0, "the time constant is above 0, times are 0 or more")
    if on_s == 0:
        return 0.0
    risen = -math.expm1(-on_s / time_constant_s)
    return heat_w * resistance_k_per_w * risen / -math.expm1(-(on_s + rest_s) / time_constant_s)
