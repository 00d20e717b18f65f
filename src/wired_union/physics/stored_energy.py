"""Energy stored and let go: springs, and air in a tank."""

import math
from itertools import pairwise

from msgspec import Struct

from wired_union.physics.constants import AIR_HEAT_RATIO, AMBIENT_PRESSURE_PA
from wired_union.physics.method import method, require

PROFILE = 24
"""Points of a force curve beyond its first."""
MOST_PRESSED = 0.99
"""Share of its gas that a spring may press away: at more it is liquid, or burst."""


class SpringShot(Struct, frozen=True):
    energy_j: float
    peak_force_n: float
    release_speed_m_s: float


@method(
    "spring-energy",
    source="Hooke's law, E = ½·k·x² + F₀·x; energy balance",
    checked="values worked by hand, and its curve in eleven points",
    limits="linear spring; the mass includes a third of the spring's own",
)
def spring_energy(
    stiffness_n_per_m: float, travel_m: float, mass_kg: float, efficiency: float = 1.0, preload_n: float = 0.0
) -> SpringShot:  # fmt: skip
    """Energy of a loaded spring, and the speed it gives a mass.

    Args:
        stiffness_n_per_m: force for each metre
        travel_m: how far it is loaded
        mass_kg: mass that it throws
        efficiency: share of the energy it gives back
        preload_n: force before it is loaded
    Returns:
        energy_j: energy stored
        peak_force_n: force when fully loaded
        release_speed_m_s: speed of the mass when the spring has run out
    Raises:
        ValueError: figures out of range.
    """
    require(stiffness_n_per_m > 0 and travel_m > 0 and mass_kg > 0, "stiffness, travel and mass are above 0")
    require(0 < efficiency <= 1, "the efficiency is above 0 and at most 100 %")
    require(preload_n >= 0, "the preload is 0 or more")
    energy = stiffness_n_per_m * travel_m**2 / 2 + preload_n * travel_m
    return SpringShot(energy, preload_n + stiffness_n_per_m * travel_m, math.sqrt(2 * efficiency * energy / mass_kg))


class Pulled(Struct, frozen=True):
    """A spring over a travel: its energy in J, and points of travel in m and force in N."""

    energy_j: float
    profile: tuple[tuple[float, float], ...]


def gas_spring(first_n: float, last_n: float, made_for_m: float, travel_m: float) -> Pulled:
    """A closed gas spring that rises from one force to another over the travel that it is made for.

    Boyle's law, F = F₀/(1 − x/L) and E = −F₀·L·ln(1 − x/L), where L is the length at which its gas would be nothing:
    the gas keeps its temperature, and the air outside is little against its pressure. Raises ValueError for forces that
    do not rise from above 0, or a travel that leaves next to none of L.
    """
    require(0 < first_n < last_n, "a gas spring's force rises, from above 0")
    length = made_for_m * last_n / (last_n - first_n)
    require(travel_m <= MOST_PRESSED * length, "the gas would be next to nothing: take a shorter travel")
    points = ((x, first_n / (1 - x / length)) for x in _along(travel_m))
    return Pulled(-first_n * length * math.log1p(-travel_m / length), tuple(points))


def rubber_pulled(first_n: float, last_n: float, free_m: float, made_for_m: float, travel_m: float) -> Pulled:
    """An elastic that was stretched to a first force, and rises to another over the travel that it is made for.

    The ideal rubber of Treloar, The Physics of Rubber Elasticity (from memory): force goes with λ − λ⁻², energy with
    (λ² + 2/λ − 3)/2, λ being its length over its free length. Loading; what it gives back is less (hysteresis). Raises
    ValueError for figures that are not above 0.
    """
    require(
        min(free_m, made_for_m, travel_m) > 0 and last_n > first_n >= 0, "lengths and the rise in force are above 0"
    )

    def stress(x: float) -> float:  # λ − λ⁻² and λ² + 2/λ − 3 by the stretch, λ − 1: small ones do not cancel
        stretch = x / free_m
        return stretch * (3 + 3 * stretch + stretch**2) / (1 + stretch) ** 2

    scale, most = (last_n - first_n) / stress(made_for_m), travel_m / free_m
    energy = first_n * travel_m + scale * free_m * most**2 * (3 + most) / (1 + most) / 2
    return Pulled(energy, tuple((x, first_n + scale * stress(x)) for x in _along(travel_m)))


def _along(travel_m: float) -> list[float]:
    return [travel_m * n / PROFILE for n in range(PROFILE + 1)]


def curve_energy_j(travels_m: tuple[float, ...], forces_n: tuple[float, ...]) -> float:
    """Energy under a measured force curve: trapezoids between its points."""
    pairs = list(zip(travels_m, forces_n, strict=True))
    return sum((b[0] - a[0]) * (a[1] + b[1]) / 2 for a, b in pairwise(pairs))


class TankShot(Struct, frozen=True):
    isothermal_energy_j: float
    adiabatic_energy_j: float
    isothermal_speed_m_s: float
    adiabatic_speed_m_s: float
    pressure_after_pa: float
    shots: int


@method(
    "tank-shot",
    source="work of an expanding ideal gas, isothermal and adiabatic (γ = 1.4)",
    checked="scipy's quad over the pressure",
    limits="no losses in valve and pipe: a real shot lies under the adiabatic bound",
)
def tank_shot(
    volume_m3: float, pressure_pa: float, bore_m: float, stroke_m: float, mass_kg: float, least_pressure_pa: float = 0.0
) -> TankShot:  # fmt: skip
    """What a tank of compressed air does through a cylinder: bounds of energy and speed, and how many shots it holds.

    Args:
        volume_m3: volume of the tank
        pressure_pa: gauge pressure before the shot
        bore_m: bore of the cylinder
        stroke_m: stroke of the cylinder
        mass_kg: mass that it throws
        least_pressure_pa: gauge pressure under which a shot is no longer worth it
    Returns:
        isothermal_energy_j: work when the air keeps its temperature, the most there can be
        adiabatic_energy_j: work when no heat gets in
        isothermal_speed_m_s: speed of the mass then
        adiabatic_speed_m_s: speed of the mass then
        pressure_after_pa: gauge pressure after one shot, once warm again
        shots: shots until the least pressure
    Raises:
        ValueError: figures that are not above zero, or air that is spent before the end of the stroke.
    """
    require(min(volume_m3, pressure_pa, bore_m, stroke_m, mass_kg) > 0, "figures are above 0")
    require(0 <= least_pressure_pa < pressure_pa, "the least pressure is from 0 to below the pressure")
    swept = math.pi / 4 * bore_m**2 * stroke_m
    start, end = volume_m3, volume_m3 + swept
    absolute = pressure_pa + AMBIENT_PRESSURE_PA
    require(
        absolute * (start / end) ** AIR_HEAT_RATIO >= AMBIENT_PRESSURE_PA,
        "the air is spent before the end of the stroke: take a shorter stroke, a smaller bore or more pressure",
    )
    push_back = AMBIENT_PRESSURE_PA * swept
    isothermal = absolute * start * math.log(end / start) - push_back
    power = AIR_HEAT_RATIO - 1
    adiabatic = absolute * start / power * (1 - (start / end) ** power) - push_back
    after = absolute * start / end - AMBIENT_PRESSURE_PA
    shots = _shots(absolute, AMBIENT_PRESSURE_PA + least_pressure_pa, start / end)
    speeds = [math.sqrt(2 * max(e, 0.0) / mass_kg) for e in (isothermal, adiabatic)]
    return TankShot(isothermal, adiabatic, speeds[0], speeds[1], after, shots)


def _shots(pressure_pa: float, least_pa: float, left_each: float) -> int:
    """How often a pressure may fall by a share before it lies at the least, both absolute."""
    shots = 0
    while pressure_pa > least_pa and shots < 10_000:
        shots += 1
        pressure_pa *= left_each
    return shots
