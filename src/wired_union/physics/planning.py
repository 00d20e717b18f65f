"""Times of tasks that are only guessed, and of tasks that wait for each other."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import KELLEY, MALCOLM


class ThreePoint(Struct, frozen=True):
    mean: float
    sd: float


@method(
    "three-point",
    source="mean (a + 4m + b)/6, standard deviation (b − a)/6",
    works=(MALCOLM,),
    checked="worked by hand; scipy.stats.beta of the shape that the approximation stands for",
    limits="an approximation of a beta distribution; ends that are hardly ever reached",
)
def three_point(least: float, likely: float, most: float) -> ThreePoint:
    """A time that is guessed by three figures.

    Args:
        least: where all goes well
        likely: as it usually is
        most: where much goes wrong
    Returns:
        mean: on average
        sd: standard deviation
    Raises:
        ValueError: figures that are not in this order.
    """
    require(least <= likely <= most, "least, likely, most come in this order")
    return ThreePoint((least + 4 * likely + most) / 6, (most - least) / 6)


class CriticalPath(Struct, frozen=True):
    start: tuple[float, ...]
    finish: tuple[float, ...]
    slack: tuple[float, ...]
    critical: tuple[int, ...]


@method(
    "critical-path",
    source="forwards the latest finish before, backwards the earliest start after; slack is the gap",
    works=(KELLEY,),
    checked="networkx.dag_longest_path on random networks; every way through small ones",
    limits="durations certain; who does them is not counted",
)
def critical_path(durations: Sequence[float], follows: Sequence[float]) -> CriticalPath:
    """When tasks can begin, and which of them hold the end.

    Args:
        durations: of each task
        follows: pairs one behind the other, a task and the one that follows it, by their numbers from 1
    Returns:
        start: earliest start of each
        finish: earliest finish of each
        slack: by how much each may be late before the end is
        critical: numbers of those that have none
    Raises:
        ValueError: no task, a negative duration, half a pair, a number that is none, or tasks that wait for each other
            in a ring.
    """
    count = len(durations)
    require(count >= 1 and all(d >= 0 for d in durations), "there is a task, and no duration is below 0")
    require(len(follows) % 2 == 0, "pairs are two numbers each")
    require(all(x == int(x) and 1 <= x <= count for x in follows), f"numbers of tasks are 1 to {count}")
    after: list[list[int]] = [[] for _ in durations]
    for one, other in zip(follows[::2], follows[1::2], strict=True):
        after[int(one) - 1].append(int(other) - 1)
    order, start = _forwards(durations, after)
    finish = [s + d for s, d in zip(start, durations, strict=True)]
    end = max(finish)
    latest = [end] * count
    for n in reversed(order):
        latest[n] = min((latest[m] - durations[m] for m in after[n]), default=end)
    slack = tuple(late - f for late, f in zip(latest, finish, strict=True))
    critical = tuple(n for n, gap in enumerate(slack, 1) if gap <= 1e-9 * max(end, 1e-300))
    return CriticalPath(tuple(start), tuple(finish), slack, critical)


def _forwards(durations: Sequence[float], after: list[list[int]]) -> tuple[list[int], list[float]]:
    """An order in which each comes after what it waits for, and when each can begin. Raises Impossible for a ring."""
    waits = [0] * len(durations)
    for m in (m for some in after for m in some):
        waits[m] += 1
    order = [n for n, count in enumerate(waits) if not count]
    start = [0.0] * len(durations)
    for n in order:  # grows while it is walked
        for m in after[n]:
            start[m] = max(start[m], start[n] + durations[n])
            waits[m] -= 1
            if not waits[m]:
                order.append(m)
    if len(order) < len(durations):
        raise Impossible("some tasks wait for each other in a ring: open it")
    return order, start
