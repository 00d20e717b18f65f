"""What a node of the tree gets over all modes, and its worst moment, in words."""

import math

from wired_union.subjects.power.assess import PowerResult
from wired_union.units import show


def range_of(result: PowerResult, item_id: str) -> str:
    """ "gets 8.8 V to 14.6 V, lowest in Drive; at most 11.2 A, in Drive"; "" where there are no modes.

    Raises KeyError where no pack feeds it.
    """
    if not result.modes:
        return ""
    (low, low_mode), (most, most_mode) = result.lowest_v(item_id), result.most(item_id, "current_a")
    high = result.full_v.get(item_id, math.nan)
    known = low == low and high == high
    gets = f"gets {show(low, 'V')} to {show(high, 'V')}" if known else "what it gets is not known"
    lowest = f", lowest in {low_mode.name}" if low_mode is not None and low == low else ""
    takes = f"; at most {show(most, 'A')}, in {most_mode.name}" if most_mode is not None and most == most else ""
    return f"{gets}{lowest}{takes}"
