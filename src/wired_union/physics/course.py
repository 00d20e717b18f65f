"""Points of tasks that are done one after the other within a time."""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.method import method, require


class PointsInTime(Struct, frozen=True):
    expected: float
    usual_s: float
    deviation_s: float
    last_lost: float


@method(
    "points-in-time",
    source="E = Σ points·chance·Φ((T − Σt)/√Σs²), sums up to and with each task",
    checked="a million runs drawn with numpy; scipy.stats.norm",
    limits="times independent and normal; a task that fails takes its time as well",
)
def points_in_time(
    points: Sequence[float], chances: Sequence[float], times_s: Sequence[float], deviations_s: Sequence[float],
    allowed_s: float,
) -> PointsInTime:  # fmt: skip
    """What a row of tasks brings on average before time is up.

    Args:
        points: of each task where it succeeds
        chances: that each succeeds
        times_s: usual time of each, with the way there
        deviations_s: standard deviation of each time
        allowed_s: time for all
    Returns:
        expected: points on average
        usual_s: usual time of all
        deviation_s: standard deviation of that
        last_lost: chance that the last is not done in time
    Raises:
        ValueError: lists of different length or empty, a time, deviation or allowed time below 0, a chance outside 0
            to 1.
    """
    require(len({len(points), len(chances), len(times_s), len(deviations_s)}) == 1, "lists are of one length")
    require(len(points) >= 1, "there is a task")
    require(allowed_s >= 0 and all(t >= 0 for t in (*times_s, *deviations_s)), "times are 0 or more")
    require(all(0 <= c <= 1 for c in chances), "a chance is 0 to 1")
    usual = square = expected = inside = 0.0
    for p, c, t, s in zip(points, chances, times_s, deviations_s, strict=True):
        usual, square = usual + t, square + s * s
        inside = chance_in_time(allowed_s, usual, square)
        expected += p * c * inside
    return PointsInTime(expected, usual, math.sqrt(square), 1 - inside)


def chance_in_time(allowed_s: float, usual_s: float, variance_s2: float) -> float:
    """The chance that a normal time is within what is allowed."""
    if variance_s2 <= 0:
        return 1.0 if usual_s <= allowed_s else 0.0
    return 0.5 * math.erfc((usual_s - allowed_s) / math.sqrt(2 * variance_s2))
