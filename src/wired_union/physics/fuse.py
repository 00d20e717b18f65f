"""Fuses: what one bears for a while before it may open."""

import math
from itertools import pairwise

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import ISO_8820

_LEAST_S = ((1.1, 360_000.0), (1.35, 0.75), (1.6, 0.25), (2.0, 0.15), (3.5, 0.04), (6.0, 0.02))
"""Times the rating, and the shortest time in which it may open."""


class Borne(Struct, frozen=True):
    current_a: float


@method(
    "fuse-bears",
    source="shortest opening times of blade fuses",
    works=(ISO_8820,),
    checked="points of the table, from memory",
    limits="air of 23 °C; between the points of the table along a straight line of the logarithms",
)
def fuse_bears(rating_a: float, time_s: float) -> Borne:
    """Current that a blade fuse surely bears for a time: it may open above it.

    Args:
        rating_a: what is printed on it
        time_s: how long the current flows
    Returns:
        current_a: most current that it surely bears so long
    Raises:
        ValueError: a rating or a time that is not above zero.
    """
    require(rating_a > 0 and time_s > 0, "rating and time are above 0")
    if time_s >= _LEAST_S[0][1]:
        return Borne(rating_a)
    if time_s <= _LEAST_S[-1][1]:
        return Borne(_LEAST_S[-1][0] * rating_a)
    for (low, slow), (high, fast) in pairwise(_LEAST_S):
        if fast <= time_s <= slow:
            share = math.log(slow / time_s) / math.log(slow / fast)
            return Borne(rating_a * low * (high / low) ** share)
    raise AssertionError("the table covers every time")
