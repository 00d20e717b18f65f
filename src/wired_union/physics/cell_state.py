"""What cells still give when they are cool or worn: share of their capacity, and times their resistance."""

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.method import method, require

FULL_C, FREEZING_C = 10.0, 0.0
"""From here up a cell gives what it does in a room but for a twentieth, which the reserve holds; and where only a
measurement can tell."""
OHM_EACH_LOST = 5.0
"""A cell at the end of its life has lost a fifth of its capacity and doubled its resistance."""


RISES_AT = 0.3
"""Charge from which on a cell's resistance rises: common practice."""


def rises_by(charge: float | Array, empty_times: float) -> Array:
    """Times its resistance of a cell with some charge left: level, then along a straight line to when it is empty.

    Source: common practice, from memory.
    """
    short = (RISES_AT - charge) / RISES_AT
    return np.asarray(1 + (empty_times - 1) * np.maximum(short, 0.0))


class CellState(Struct, frozen=True):
    capacity_share: float
    resistance_times: float


NEW = CellState(1.0, 1.0)


@method(
    "cool-cell",
    source="common practice, from memory: cells fall to a share of their capacity at freezing",
    checked="both ends, and the middle by hand; an Arrhenius law of 44 kJ/mol doubles resistance over the same 10 K",
    limits="0 °C and above: below freezing only a measurement says; from 10 °C up as in a room",
)
def cool_cell(temperature_c: float, share_at_0_c: float, times_at_0_c: float) -> CellState:
    """What a cell gives in the cool as against a room: capacity along a line, resistance along an exponential.

    Args:
        temperature_c: how cold the cell is
        share_at_0_c: share of its capacity that it gives at 0 °C
        times_at_0_c: its resistance at 0 °C over that in a room
    Returns:
        capacity_share: share of its capacity that it gives
        resistance_times: its resistance over that in a room
    Raises:
        ValueError: below freezing, or a share or ratio that cannot be.
    """
    require(temperature_c >= FREEZING_C, "below 0 °C only a measured discharge says what a cell gives")
    require(0 < share_at_0_c <= 1 and times_at_0_c >= 1, "the share lies above 0 up to 1, the ratio is 1 or more")
    cooled = max(FULL_C - temperature_c, 0.0) / (FULL_C - FREEZING_C)
    return CellState(1 - (1 - share_at_0_c) * cooled, times_at_0_c**cooled)


@method(
    "worn-cell",
    source="common practice, from memory: at the end of its life a cell has lost a fifth and doubled its resistance",
    checked="new, and at the end of its life",
    limits="between them and beyond along a straight line",
)
def worn_cell(worn_share: float) -> CellState:
    """What a cell gives that has aged.

    Args:
        worn_share: share of its capacity that it has lost for good
    Returns:
        capacity_share: share of its capacity that is left
        resistance_times: its resistance over that of a new one
    Raises:
        ValueError: a share that is not from 0 up to, and not including, 1.
    """
    require(0 <= worn_share < 1, "the share that is lost lies from 0 up to below 1")
    return CellState(1 - worn_share, 1 + OHM_EACH_LOST * worn_share)


def state_of(
    coldest_c: float, measured_at_c: float | None, worn_share: float, share_at_0_c: float, times_at_0_c: float
) -> CellState:
    """A cell's state as against its figures: those measured where it is as cold hold as they are.

    Below freezing it is that of freezing: what is lost besides is not known, which its user has to say.
    """
    worn = worn_cell(worn_share)
    here = cool_cell(max(coldest_c, FREEZING_C), share_at_0_c, times_at_0_c)
    there = cool_cell(max(measured_at_c, FREEZING_C), share_at_0_c, times_at_0_c) if measured_at_c is not None else NEW
    share, times = (
        min(here.capacity_share / there.capacity_share, 1.0),
        max(here.resistance_times / there.resistance_times, 1.0),
    )
    return CellState(share * worn.capacity_share, times * worn.resistance_times)
