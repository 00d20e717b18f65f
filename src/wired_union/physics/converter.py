"""Regulators: what a linear one burns, what a switching one passes on."""

from bisect import bisect_right
from collections.abc import Sequence
from itertools import pairwise

from msgspec import Struct

from wired_union.physics.constants import ABSOLUTE_ZERO_C
from wired_union.physics.method import method, require
from wired_union.physics.sources import JESD51


class LinearRegulator(Struct, frozen=True):
    input_current_a: float
    loss_w: float
    junction_c: float
    in_regulation: bool


@method(
    "linear-regulator",
    source="energy balance; one thermal resistance",
    works=(JESD51,),
    checked="values worked by hand",
    limits="steady state; one thermal resistance from junction to ambient",
)
def linear_regulator(
    input_voltage_v: float,
    output_voltage_v: float,
    output_current_a: float,
    dropout_v: float = 0.3,
    quiescent_current_a: float = 0.0,
    thermal_resistance_k_per_w: float = 60.0,
    ambient_c: float = 25.0,
) -> LinearRegulator:
    """Input current, heat and junction temperature of a linear regulator.

    Args:
        input_voltage_v: voltage at its input
        output_voltage_v: voltage it is set to
        output_current_a: current its loads draw
        dropout_v: least difference it needs between input and output
        quiescent_current_a: current it uses itself
        thermal_resistance_k_per_w: junction to ambient, as mounted
        ambient_c: temperature of the air around it
    Returns:
        input_current_a: current it draws
        loss_w: heat it makes
        junction_c: temperature of its junction
        in_regulation: whether the input is high enough for the set output
    Raises:
        ValueError: a negative current, voltage or thermal resistance.
    """
    require(input_voltage_v > 0 and output_voltage_v > 0, "input and output voltage are above 0")
    require(output_current_a >= 0 and quiescent_current_a >= 0, "currents are 0 or more")
    require(dropout_v >= 0 and thermal_resistance_k_per_w >= 0, "dropout and thermal resistance are 0 or more")
    require(ambient_c >= ABSOLUTE_ZERO_C, "nothing is colder than −273.15 °C")
    in_regulation = input_voltage_v - output_voltage_v >= dropout_v - 1e-12
    output = output_voltage_v if in_regulation else max(input_voltage_v - dropout_v, 0.0)
    input_current = output_current_a + quiescent_current_a
    loss = input_voltage_v * input_current - output * output_current_a
    return LinearRegulator(input_current, loss, ambient_c + loss * thermal_resistance_k_per_w, in_regulation)


class SwitchingConverter(Struct, frozen=True):
    input_current_a: float
    loss_w: float


@method(
    "switching-converter",
    source="energy balance, P_in = P_out / η",
    checked="values worked by hand",
    limits="steady state, in regulation",
)
def switching_converter(
    input_voltage_v: float, output_voltage_v: float, output_current_a: float, efficiency: float
) -> SwitchingConverter:
    """Input current and loss of a switching converter of known efficiency.

    Args:
        input_voltage_v: voltage at its input
        output_voltage_v: voltage at its output
        output_current_a: current its loads draw
        efficiency: output power over input power, above 0 to 1
    Returns:
        input_current_a: current it draws
        loss_w: heat it makes
    Raises:
        ValueError: efficiency outside 0 to 1, or a negative figure.
    """
    require(input_voltage_v > 0 and output_voltage_v > 0, "input and output voltage are above 0")
    require(output_current_a >= 0, "output current is 0 or more")
    require(0 < efficiency <= 1, "efficiency is above 0 and at most 1")
    power_in = output_voltage_v * output_current_a / efficiency
    return SwitchingConverter(power_in / input_voltage_v, power_in - output_voltage_v * output_current_a)


Curve = Sequence[tuple[float, float]]
"""Points of output current and efficiency, rising."""


def efficiency_at(curve: Curve, output_current_a: float) -> float:
    """Efficiency at a load current from points (current_a, efficiency) in rising order, straight lines between.

    Ends are held level. Source: linear interpolation of the maker's curve.
    """
    at = bisect_right(curve, (output_current_a, 2.0))
    if at == 0:
        return curve[0][1]
    if at == len(curve):
        return curve[-1][1]
    (x0, y0), (x1, y1) = curve[at - 1], curve[at]
    return y0 + (y1 - y0) * (output_current_a - x0) / (x1 - x0)


def envelope(one: Curve, other: Curve) -> Curve:
    """The higher of two curves everywhere, as a curve: its points are theirs, and those at which they cross."""
    amperes = sorted({a for a, _ in (*one, *other)})
    ahead = [efficiency_at(one, a) - efficiency_at(other, a) for a in amperes]
    crossings = [a + (b - a) * d / (d - e) for (a, b), (d, e) in zip(pairwise(amperes), pairwise(ahead), strict=True)
                 if d * e < 0]  # fmt: skip
    return tuple((a, max(efficiency_at(one, a), efficiency_at(other, a))) for a in sorted({*amperes, *crossings}))
