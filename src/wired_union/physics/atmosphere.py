"""The standard atmosphere, and falling through it under a canopy."""

import math

from msgspec import Struct

from wired_union.physics.constants import AIR_CONSTANT_J_PER_KG_K as R_AIR
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.method import method, require
from wired_union.physics.sources import ISO_2533

EARTH_RADIUS_M = 6_356_766.0
# geopotential base in m, temperature there in K, lapse in K/m: ISO 2533:1975, table 4
LAYERS = (
    (-2000.0, 301.15, -0.0065), (0.0, 288.15, -0.0065), (11_000.0, 216.65, 0.0), (20_000.0, 216.65, 0.001),
    (32_000.0, 228.65, 0.0028), (47_000.0, 270.65, 0.0), (51_000.0, 270.65, -0.0028), (71_000.0, 214.65, -0.002),
)  # fmt: skip
TOP_M = 80_000.0


class Air(Struct, frozen=True):
    temperature_k: float
    pressure_pa: float
    density_kg_m3: float


@method(
    "standard-atmosphere",
    works=(ISO_2533,),
    checked="the ambiance package",
    limits="−2 to 80 km; a standard day, not today's weather",
)
def standard_atmosphere(altitude_m: float) -> Air:
    """Temperature, pressure and density of the air at a height.

    Args:
        altitude_m: geometric height above the sea
    Returns:
        temperature_k: temperature
        pressure_pa: pressure
        density_kg_m3: density
    Raises:
        ValueError: a height outside the standard.
    """
    height = EARTH_RADIUS_M * altitude_m / (EARTH_RADIUS_M + altitude_m)
    require(-2000 <= height <= TOP_M, "the standard runs from −2 to 80 km")
    pressure = 101_325.0
    if height < 0:
        temperature = 288.15 - 0.0065 * height
        pressure *= (temperature / 288.15) ** (G / (0.0065 * R_AIR))
        return Air(temperature, pressure, pressure / (R_AIR * temperature))
    layers = LAYERS[1:]
    for (base, start, lapse), above in zip(layers, (*layers[1:], (TOP_M + 1, 0.0, 0.0)), strict=True):
        up = min(height, above[0]) - base
        temperature = start + lapse * up
        if lapse:
            pressure *= (temperature / start) ** (-G / (lapse * R_AIR))
        else:
            pressure *= math.exp(-G * up / (R_AIR * start))
        if height <= above[0]:
            break
    return Air(temperature, pressure, pressure / (R_AIR * temperature))


class Descent(Struct, frozen=True):
    speed_m_s: float


@method(
    "descent-rate",
    source="drag balance, m·g = ½·ρ·v²·C_D·A",
    checked="its reverse, canopy-diameter",
    limits="steady fall, canopy fully open",
)
def descent_rate(mass_kg: float, area_m2: float, drag_coefficient: float, density_kg_m3: float = 1.225) -> Descent:
    """Steady speed of something that falls with drag.

    Args:
        mass_kg: mass that falls
        area_m2: area that the drag coefficient is given for
        drag_coefficient: drag coefficient
        density_kg_m3: density of the air
    Returns:
        speed_m_s: steady speed
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(min(mass_kg, area_m2, drag_coefficient, density_kg_m3) > 0, "figures are above 0")
    return Descent(math.sqrt(2 * mass_kg * G / (density_kg_m3 * drag_coefficient * area_m2)))


class CanopySize(Struct, frozen=True):
    diameter_m: float
    area_m2: float


@method(
    "canopy-diameter",
    source="drag balance, m·g = ½·ρ·v²·C_D·A",
    checked="its reverse, descent-rate",
    limits="flat diameter; steady fall",
)
def canopy_diameter(
    mass_kg: float, speed_m_s: float, drag_coefficient: float, density_kg_m3: float = 1.225
) -> CanopySize:  # fmt: skip
    """Diameter of a round canopy that lets something down at a speed.

    Args:
        mass_kg: mass that falls
        speed_m_s: speed wanted
        drag_coefficient: drag coefficient by the canopy's flat area
        density_kg_m3: density of the air
    Returns:
        diameter_m: flat diameter
        area_m2: flat area
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(min(mass_kg, speed_m_s, drag_coefficient, density_kg_m3) > 0, "figures are above 0")
    area = 2 * mass_kg * G / (density_kg_m3 * drag_coefficient * speed_m_s**2)
    return CanopySize(math.sqrt(4 * area / math.pi), area)


def fall_time_s(mass_kg: float, area_m2: float, drag_coefficient: float, from_m: float, to_m: float) -> float:
    """Time to fall steadily between two heights of the standard atmosphere: ∫ dh / v(h), Simpson's rule."""
    if from_m <= to_m:
        return 0.0
    steps = 64
    width = (from_m - to_m) / steps
    slow = []
    for n in range(steps + 1):
        density = standard_atmosphere(to_m + n * width).density_kg_m3
        slow.append(1.0 / descent_rate(mass_kg, area_m2, drag_coefficient, density).speed_m_s)
    return width / 3 * (slow[0] + slow[-1] + 4 * sum(slow[1:-1:2]) + 2 * sum(slow[2:-1:2]))
