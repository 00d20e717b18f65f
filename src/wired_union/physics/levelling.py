"""When tasks are done by people who cannot be in two places: one pass in a fixed order, for many durations at once.

Time is in days from the beginning of the first. Everybody takes what is theirs in the order that is given, so that a
later delivery or one more link can never make an end earlier; a better order is sought apart (`better_order`).
"""

import heapq
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Floats = NDArray[np.float64]
NEVER = float("inf")


class WorkDays(Struct, frozen=True, eq=False):
    """How much is done on each day, and all that was done before it; a day's work is spread evenly over it."""

    rate: Floats
    """of each day, and 0 behind the last"""
    done: Floats
    """before each day, and before the day behind the last"""
    open_from: Floats
    """the first day from each on at which something is done"""

    @property
    def last(self) -> int:
        """How many days there are."""
        return len(self.rate) - 1

    def worked(self, at: Floats) -> Floats:
        """All that is done by an instant."""
        at = np.minimum(at, self.last)
        day = at.astype(np.intp)
        return np.asarray(self.done[day] + self.rate[day] * (at - day))

    def begin(self, ready: Floats) -> Floats:
        """The first instant from `ready` on at which something is done; never where there is none."""
        return np.asarray(np.maximum(ready, self.open_from[np.minimum(ready, self.last).astype(np.intp)]))

    def finish(self, begun: Floats, effort: Floats) -> Floats:
        """When so much more is done; never where the days do not hold it."""
        target = self.worked(begun) + effort
        day = np.maximum(np.searchsorted(self.done, target - 1e-12) - 1, 0)
        day = np.minimum(day, self.last)
        rate = self.rate[day]
        with np.errstate(divide="ignore", invalid="ignore"):
            at = np.where(rate > 0, day + (target - self.done[day]) / rate, np.where(effort > 0, NEVER, begun))
        return np.asarray(np.maximum(at, begun))

    def latest_begin(self, finish: float, effort: float) -> float:
        """The last instant from which so much is done by `finish`; below 0 it is told by the usual rate."""
        if effort <= 0:
            return finish
        usual = self._usual
        before = finish * usual if finish < 0 else float(self.worked(np.array([finish]))[0])
        target = before - effort
        if target < -1e-9:
            return target / usual if usual > 0 else -NEVER
        day = int(np.searchsorted(self.done, max(target, 0.0) + 1e-12, side="right")) - 1
        rate = float(self.rate[day])
        return day + (max(target, 0.0) - float(self.done[day])) / rate if rate > 0 else float(day)

    @property
    def _usual(self) -> float:
        """What is done on a day of the first month, on average; of all days where nothing is done in it."""
        month = min(28, self.last)
        total, days = (self.done[month], month) if self.done[month] > 0 else (self.done[-1], self.last)
        return float(total) / max(days, 1)


def work_days(rate: Floats) -> WorkDays:
    """Days with so much done on each."""
    day = np.where(rate > 0, np.arange(len(rate), dtype=float), NEVER)
    first = np.minimum.accumulate(day[::-1])[::-1]
    done = np.concatenate([[0.0], np.cumsum(rate)])
    return WorkDays(np.append(rate, 0.0), done, np.append(first, NEVER))


class Activity(Struct, frozen=True):
    """A task as it is scheduled."""

    after: tuple[tuple[int, float], ...] = ()
    """numbers of those before it, each with the days between"""
    takes: tuple[tuple[int, int], ...] = ()
    """numbers of what it takes, each with how many of it"""
    days: WorkDays | None = None
    """when it is worked at; all the time where there is none"""
    not_before: float = 0.0


class Levelled(Struct, frozen=True, eq=False):
    """Starts and finishes, (tasks, draws), and by which arcs those before held those after."""

    start: Floats
    finish: Floats
    arcs: tuple[tuple[int, int, float], ...]
    """(before, after, days between): what waits for what, by links and by who is busy, in the first draw"""


def levelled(activities: Sequence[Activity], counts: Sequence[int], effort: Floats, order: Sequence[int]) -> Levelled:
    """Every task as early as its place in the order allows.

    Args:
        activities: the tasks
        counts: how many there are of each thing that they take
        effort: (tasks, draws) of work, or days where a task is not worked at
        order: numbers of the tasks, each behind those before it
    """
    draws = effort.shape[1]
    start, finish = np.zeros((len(activities), draws)), np.zeros((len(activities), draws))
    free = [np.zeros((count, draws)) for count in counts]
    holder = [[-1] * count for count in counts]
    arcs: list[tuple[int, int, float]] = []
    for n in order:
        a = activities[n]
        ready = np.full(draws, a.not_before)
        for before, lag in a.after:
            np.maximum(ready, finish[before] + lag, out=ready)
            arcs.append((before, n, lag))
        for thing, many in a.takes:
            # those that are free first are taken; each stays with whom it was taken by last
            if len(free[thing]) > 1:
                by_time = np.argsort(free[thing], axis=0, kind="stable")
                holder[thing] = [holder[thing][k] for k in by_time[:, 0]]
                free[thing] = np.take_along_axis(free[thing], by_time, axis=0)
            np.maximum(ready, free[thing][many - 1], out=ready)
            arcs += [(holder[thing][k], n, 0.0) for k in range(many) if holder[thing][k] >= 0]
        if a.days is None:
            start[n], finish[n] = ready, ready + effort[n]
        else:
            start[n] = np.where(effort[n] > 0, a.days.begin(ready), ready)
            finish[n] = a.days.finish(start[n], effort[n])
        for thing, many in a.takes:
            free[thing][:many] = finish[n]
            holder[thing][:many] = [n] * many
    return Levelled(start, finish, tuple(dict.fromkeys(arcs)))


def in_turn(activities: Sequence[Activity], wanted: Sequence[int]) -> tuple[list[int], tuple[int, ...]]:
    """The wanted order, but each behind those before it; and those that wait for each other in a ring.

    Whoever comes first in `wanted` among those that can be done comes next; those on a ring, and behind one, come
    last, as wanted.
    """
    place = {n: k for k, n in enumerate(wanted)}
    waits = [len({b for b, _ in a.after}) for a in activities]
    then: list[list[int]] = [[] for _ in activities]
    for n, a in enumerate(activities):
        for before in {b for b, _ in a.after}:
            then[before].append(n)
    can = [(place[n], n) for n, count in enumerate(waits) if not count]
    heapq.heapify(can)
    order: list[int] = []
    while can:
        _, n = heapq.heappop(can)
        order.append(n)
        for m in then[n]:
            waits[m] -= 1
            if not waits[m]:
                heapq.heappush(can, (place[m], m))
    ring = tuple(n for n in wanted if waits[n] > 0)
    return [*order, *ring], ring


def latest(
    activities: Sequence[Activity], effort: Sequence[float], plan: Levelled, order: Sequence[int],
    due: Sequence[float],
) -> list[float]:  # fmt: skip
    """The latest finish of each task by which all that waits for it still is done by what it is due.

    Args:
        effort: of each
        plan: how they are levelled
        order: in which they are
        due: instant by which each must be done; infinite where nothing asks
    """
    then: list[list[tuple[int, float]]] = [[] for _ in activities]
    for before, after, lag in plan.arcs:
        then[before].append((after, lag))
    found = list(due)
    for n in reversed(order):
        for after, lag in then[n]:
            days = activities[after].days
            begin = found[after] - effort[after] if days is None else days.latest_begin(found[after], effort[after])
            if found[after] < NEVER:
                found[n] = min(found[n], begin - lag)
    return found
