"""Fuses: what one bears for a while before it may open."""

import math
from itertools import pairwise

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import ISO_8820

_LEAST_S = ((1.1, 360_000.0), (1.35, 0.75), (1.6, 0.25), (2.0, 0.15), (3.5, 0.04), (6.0, 0.02))
"""Times the rating, and the shortest time in which it may open."""
START_S = 0.2
"""How long a motor draws its starting current at the least: common practice for small geared motors."""
_LEVELS = 40


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


class Strained(Struct, frozen=True):
    share: float
    """Current over what the fuse surely bears for as long as it has been above that, where that is highest."""
    current_a: float
    time_s: float


@method(
    "fuse-start",
    source="every current of a start against the time for which at least that much flows",
    works=(ISO_8820,),
    checked="a start so short or so long that it stands, by hand; a dense grid of currents",
    limits="a start that dies away with one time constant, counted as 0.2 s at the least",
)
def fuse_start(rating_a: float, start_current_a: float, settled_current_a: float, time_constant_s: float) -> Strained:
    """How near a start comes to opening a blade fuse.

    Args:
        rating_a: what is printed on it
        start_current_a: current as the start begins
        settled_current_a: current once it is over
        time_constant_s: time constant with which it dies away
    Returns:
        share: of what it surely bears, where that is highest
        current_a: the current at which it is
        time_s: for how long at least that much flows
    Raises:
        ValueError: figures below zero, a rating that is not above it, or a start below what it settles to.
    """
    require(rating_a > 0 and min(settled_current_a, time_constant_s) >= 0, "rating is above 0, the rest 0 or more")
    require(start_current_a >= settled_current_a, "a start takes no less than what it settles to")
    worst = Strained(0.0, start_current_a, START_S)
    for n in range(_LEVELS + 1):
        left = 1 - n / (_LEVELS + 1)
        current = settled_current_a + (start_current_a - settled_current_a) * left
        time = max(START_S, -time_constant_s * math.log(left))
        share = current / fuse_bears(rating_a, time).current_a
        worst = max(worst, Strained(share, current, time), key=lambda s: s.share)
    return worst
