"""Levels of signals: what each family of parts gives and reads, what is left between two, and dividers."""

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import JESD7, JESD8, UM10204_LEVELS

FAMILIES = ("CMOS", "TTL", "I2C", "open drain", "contact")


class Levels(Struct, frozen=True):
    output_high_v: float
    output_low_v: float
    input_high_v: float
    input_low_v: float


@method(
    "logic-levels",
    source="the interface standards for 1.8, 2.5, 3.3 V and 5 V CMOS, and TTL; 0.7 and 0.3 of the supply in between",
    works=(JESD8, JESD7, UM10204_LEVELS),
    checked="rows of the standards' tables, from memory: 3.3 V 2.0 and 0.8 V, 2.5 V 1.7 and 0.7 V, 1.8 V 0.65 and 0.35",
    limits="at the standard's test current; a pin that gives more is off by more; a contact is as good as its pull-up",
)
def logic_levels(family: str, supply_v: float) -> Levels:
    """What a part of a family gives as high and low, and what it reads as such.

    Args:
        family: CMOS, TTL, I2C, open drain or contact
        supply_v: of its signals
    Returns:
        output_high_v: a high is at least this
        output_low_v: a low is at most this
        input_high_v: read as high from here
        input_low_v: read as low up to here
    Raises:
        ValueError: a family that does not exist, or a supply that is not above 0.
    """
    require(family in FAMILIES, f"family is one of {', '.join(FAMILIES)}")
    require(supply_v > 0, "supply is above 0")
    if family == "TTL":
        return Levels(min(2.4, supply_v), min(0.4, supply_v), 2.0, 0.8)
    if family == "I2C":
        return Levels(supply_v, min(0.4, supply_v), 0.7 * supply_v, 0.3 * supply_v)
    high, low = _cmos_inputs(supply_v)
    if family == "CMOS":
        given = supply_v - 0.45 if supply_v < 2.0 else supply_v - 0.2 if supply_v < 4.0 else supply_v - 0.6
        return Levels(max(given, 0.0), 0.45 if supply_v < 2.0 else 0.2 if supply_v < 4.0 else 0.33, high, low)
    return Levels(supply_v, 0.0 if family == "contact" else 0.4, high, low)


def _cmos_inputs(supply_v: float) -> tuple[float, float]:
    """Thresholds of an input: the standard's where it is for that supply, 0.7 and 0.3 of it otherwise."""
    if 3.0 <= supply_v <= 3.6:
        return 2.0, 0.8
    if 2.3 <= supply_v <= 2.7:
        return 1.7, 0.7
    if 1.65 <= supply_v <= 1.95:
        return 0.65 * supply_v, 0.35 * supply_v
    return 0.7 * supply_v, 0.3 * supply_v


class Margins(Struct, frozen=True):
    high_v: float
    low_v: float


@method(
    "noise-margins",
    source="what is given less what is read, high and low",
    works=(JESD8,),
    checked="TTL to TTL: 0.4 V either way",
    limits="direct current; a long line rings besides",
)
def noise_margins(output_high_v: float, output_low_v: float, input_high_v: float, input_low_v: float) -> Margins:
    """What a disturbance may take from a signal before it is read wrong; below 0 it always may be.

    Args:
        output_high_v: a high is at least this
        output_low_v: a low is at most this
        input_high_v: read as high from here
        input_low_v: read as low up to here
    Returns:
        high_v: to spare when high
        low_v: to spare when low
    Raises:
        ValueError: thresholds the wrong way round.
    """
    require(input_high_v >= input_low_v, "an input reads high above where it reads low")
    return Margins(output_high_v - input_high_v, input_low_v - output_low_v)


class Divider(Struct, frozen=True):
    output_v: float
    source_ohm: float
    current_a: float


@method(
    "voltage-divider",
    source="two resistors in series; seen from the middle they lie side by side (Thévenin)",
    checked="12 V over 10 and 3.3 kΩ: 2.977 V and 2.481 kΩ, worked by hand",
    limits="nothing drawn from the middle",
)
def voltage_divider(input_v: float, upper_ohm: float, lower_ohm: float) -> Divider:
    """What two resistors leave of a voltage.

    Args:
        input_v: over both
        upper_ohm: from the input to the middle
        lower_ohm: from the middle to ground
    Returns:
        output_v: in the middle
        source_ohm: resistance it is seen through
        current_a: drawn all the time
    Raises:
        ValueError: a resistor that is not above 0.
    """
    require(min(upper_ohm, lower_ohm) > 0, "resistors are above 0")
    whole = upper_ohm + lower_ohm
    return Divider(input_v * lower_ohm / whole, upper_ohm * lower_ohm / whole, input_v / whole)
