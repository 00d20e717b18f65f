"""Copper wire by American gauge: size, resistance, and the voltage lost on the way there and back."""

import math

from msgspec import Struct

from wired_union.physics.constants import ABSOLUTE_ZERO_C
from wired_union.physics.method import method, require
from wired_union.physics.sources import ASTM_B258, IEC_60028, SAE_AS50881

COPPER_RESISTIVITY_OHM_M = 1.7241e-8  # annealed copper at 20 °C, IEC 60028
COPPER_TEMPERATURE_COEFFICIENT_PER_K = 0.00393


class WireGauge(Struct, frozen=True):
    diameter_m: float
    area_m2: float
    resistance_ohm_per_m: float


@method(
    "wire-gauge",
    source="d = 0.127 mm · 92^((36 − n)/39); ρ = 0.017241 Ω·mm²/m",
    works=(ASTM_B258, IEC_60028),
    checked="known rows of the table, from memory",
    limits="solid annealed copper at 20 °C; 0 is 1/0, −3 is 4/0",
)
def wire_gauge(awg: int) -> WireGauge:
    """Diameter, area and resistance of a wire by its American gauge number.

    Args:
        awg: gauge number, −3 (4/0) to 40
    Returns:
        diameter_m: diameter of the bare conductor
        area_m2: cross-section of the conductor
        resistance_ohm_per_m: resistance of one metre
    Raises:
        ValueError: a gauge outside −3 to 40.
    """
    require(-3 <= awg <= 40, "gauge is from −3 (4/0) to 40")
    diameter = 0.127e-3 * 92 ** ((36 - awg) / 39)
    area = math.pi * diameter**2 / 4
    return WireGauge(diameter, area, COPPER_RESISTIVITY_OHM_M / area)


def copper_warmth(temperature_c: float) -> float:
    """Resistance of copper over its resistance at 20 °C, by IEC 60028; what `voltage-drop` counts with."""
    return 1 + COPPER_TEMPERATURE_COEFFICIENT_PER_K * (temperature_c - 20)


class VoltageDrop(Struct, frozen=True):
    drop_v: float
    loss_w: float


@method(
    "voltage-drop",
    source="two wires, α = 0.00393 /K",
    works=(ASTM_B258, IEC_60028),
    checked="values worked by hand",
    limits="direct current, both wires alike",
)
def voltage_drop(length_m: float, awg: int, current_a: float, temperature_c: float = 20.0) -> VoltageDrop:
    """Voltage and power lost in a pair of wires.

    Args:
        length_m: length one way; the current also flows back
        awg: gauge number of both wires
        current_a: current through them
        temperature_c: temperature of the copper
    Returns:
        drop_v: voltage lost in both wires together
        loss_w: heat in both wires together
    Raises:
        ValueError: a negative length, or a gauge that does not exist.
    """
    require(length_m >= 0, "length is 0 or more")
    require(temperature_c >= ABSOLUTE_ZERO_C, "nothing is colder than −273.15 °C")
    drop = 2 * length_m * wire_gauge(awg).resistance_ohm_per_m * copper_warmth(temperature_c) * current_a
    return VoltageDrop(drop, drop * current_a)


class Ampacity(Struct, frozen=True):
    ampacity_a: float


_FREE_AIR_A = {
    -3: 380, -2: 328, -1: 283, 0: 245, 1: 211, 2: 181, 4: 135, 6: 101, 8: 73, 10: 55, 12: 41, 14: 32, 16: 22, 18: 16,
    20: 11, 22: 7, 24: 3.5, 26: 2.2, 28: 1.4, 30: 0.86, 32: 0.53, 34: 0.33, 36: 0.21, 40: 0.08,
}  # fmt: skip
_BUNDLED = {1: 1.0, 3: 0.8, 6: 0.65, 12: 0.55, 24: 0.45, 40: 0.4}


@method(
    "wire-ampacity",
    source="common table for single wires in free air",
    works=(SAE_AS50881,),
    checked="the heat that a wire sheds by Churchill and Chu's correlation: never above it",
    limits="copper, insulation for 105 °C, air of 25 °C, not coiled or boxed in",
)
def wire_ampacity(awg: int, wires_in_bundle: int = 1) -> Ampacity:
    """Current that a wire carries all day without getting too hot to touch its insulation.

    Args:
        awg: gauge number, −3 (4/0) to 40
        wires_in_bundle: loaded wires that lie together
    Returns:
        ampacity_a: most lasting current of each
    Raises:
        ValueError: a gauge outside −3 to 40, or no wire.
    """
    require(-3 <= awg <= 40, "gauge is from −3 (4/0) to 40")
    require(wires_in_bundle >= 1, "a bundle has at least one wire")
    thinner = min(g for g in _FREE_AIR_A if g >= awg)  # between two rows the thinner counts
    fuller = min((n for n in _BUNDLED if n >= wires_in_bundle), default=40)
    return Ampacity(_FREE_AIR_A[thinner] * _BUNDLED[fuller])


class WireMade(Struct, frozen=True):
    mass_kg_per_m: float
    diameter_m: float


COPPER_KG_M3, PVC_KG_M3 = 8890.0, 1350.0
STRANDED, INSULATION_M = 1.25, 0.65e-3
"""A stranded conductor is a quarter thicker than a solid one; insulation of PVC on both sides: common practice."""


@method(
    "wire-mass",
    source="copper of its gauge and a sleeve of PVC around it, 0.33 mm a side",
    works=(ASTM_B258, IEC_60028),
    checked="7.2 g/m of insulated AWG 20 and 24 g/m of AWG 14, usual hook-up wire, from memory, within a fifth",
    limits="stranded hook-up wire for 300 V; a sheath around several comes on top",
)
def wire_mass(awg: int, wires: int = 1) -> WireMade:
    """What insulated wires weigh, and how thick they are together.

    Args:
        awg: gauge number, −3 (4/0) to 40
        wires: that lie together
    Returns:
        mass_kg_per_m: of all of them
        diameter_m: over all of them, laid round
    Raises:
        ValueError: a gauge that does not exist, or no wire.
    """
    require(wires >= 1, "there is at least one wire")
    copper = wire_gauge(awg)
    inside = STRANDED * copper.diameter_m
    outside = inside + INSULATION_M
    sleeve = math.pi * (outside**2 - inside**2) / 4
    each = copper.area_m2 * COPPER_KG_M3 + sleeve * PVC_KG_M3
    around = outside * (1.0 if wires == 1 else 1.2 * math.sqrt(wires))
    return WireMade(wires * each, around)


class WarmAmpacity(Struct, frozen=True):
    ampacity_a: float


@method(
    "warm-ampacity",
    source="a wire's rise over the air goes with its current squared: √((insulation − air)/(insulation − 25 °C))",
    works=(SAE_AS50881,),
    checked="25 °C leaves it as it is; half way up to the insulation leaves 0.707",
    limits="steady current; for a wire whose ampacity is given in air of 25 °C",
)
def warm_ampacity(ampacity_a: float, air_c: float, insulation_c: float = 105.0) -> WarmAmpacity:
    """What a wire carries in warmer air.

    Args:
        ampacity_a: in air of 25 °C
        air_c: air around it
        insulation_c: that its insulation bears
    Returns:
        ampacity_a: in that air, 0 where the air is as hot as the insulation bears
    Raises:
        ValueError: insulation that does not bear 25 °C.
    """
    require(insulation_c > 25.0, "insulation bears more than 25 °C")
    return WarmAmpacity(ampacity_a * math.sqrt(max(insulation_c - air_c, 0.0) / (insulation_c - 25.0)))


class WireTemperature(Struct, frozen=True):
    temperature_c: float


@method(
    "wire-temperature",
    source="air + (I/ampacity)² · (insulation − 25 °C): the rise goes with the heat, the heat with the current squared",
    works=(SAE_AS50881,),
    checked="no current leaves the air's; the ampacity in air of 25 °C brings it to what its insulation bears",
    limits="steady current; for a wire whose ampacity is given in air of 25 °C",
)
def wire_temperature(
    current_a: float, ampacity_a: float, air_c: float, insulation_c: float = 105.0
) -> WireTemperature:  # fmt: skip
    """How warm the copper of a wire gets.

    Args:
        current_a: that flows for long
        ampacity_a: in air of 25 °C
        air_c: air around it
        insulation_c: that its insulation bears
    Returns:
        temperature_c: of its copper
    Raises:
        ValueError: an ampacity of zero or less, or insulation that does not bear 25 °C.
    """
    require(ampacity_a > 0, "ampacity is above 0")
    require(insulation_c > 25.0, "insulation bears more than 25 °C")
    return WireTemperature(air_c + (current_a / ampacity_a) ** 2 * (insulation_c - 25.0))
