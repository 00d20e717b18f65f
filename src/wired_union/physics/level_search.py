"""A better order for tasks that share people: by the latest finish first, then by moving one task at a time.

A schedule is made from an order by `levelling.levelled`; here the same is done with plain numbers, for one set of
durations, since it is done some thousand times.
"""

import random
from bisect import bisect_left
from collections.abc import Iterator, Sequence

from msgspec import Struct

from wired_union.physics.levelling import NEVER, Activity, WorkDays, in_turn


class Question(Struct, frozen=True):
    """What is to be put in order.

    Args:
        ways: of each task, the ways it can be done: by whom
        counts: how many there are of each thing that they take
        effort: of each task, work or days
        due: instant by which each is to be done; infinite where nothing asks
    """

    ways: tuple[tuple[Activity, ...], ...]
    counts: tuple[int, ...]
    effort: tuple[float, ...]
    due: tuple[float, ...]


class Answer(Struct, frozen=True):
    """An order with the way of each task, by how much the worst is late (below 0: in hand), and what bounds that."""

    order: tuple[int, ...]
    ways: tuple[int, ...]
    late: float
    bound: float

    @property
    def proven(self) -> bool:
        """Whether no order can do better."""
        return self.late <= self.bound + 1e-9


class _Days:
    """A calendar as plain lists."""

    def __init__(self, days: WorkDays) -> None:
        self.rate, self.done = days.rate.tolist()[:-1], days.done.tolist()

    def run(self, ready: float, effort: float) -> float:
        """When so much is done that is begun at `ready` or after."""
        day = int(ready) if ready < len(self.rate) else len(self.rate)
        so_far = self.done[day] + (self.rate[day] * (ready - day) if day < len(self.rate) else 0.0)
        target = so_far + effort
        if target > self.done[-1] + 1e-9:
            return NEVER
        last = min(max(bisect_left(self.done, target - 1e-12) - 1, 0), len(self.rate) - 1)
        rate = self.rate[last]
        return max(last + ((target - self.done[last]) / rate if rate > 0 else 0.0), ready)


class _Bench:
    """What stays the same while orders are tried."""

    def __init__(self, asked: Question) -> None:
        self.asked = asked
        self.days: dict[int, _Days] = {}
        for a in (a for ways in asked.ways for a in ways if a.days is not None):
            self.days.setdefault(id(a.days), _Days(a.days))  # type: ignore[arg-type]

    def finishes(self, order: Sequence[int], ways: Sequence[int]) -> list[float]:
        """The finish of each task in an order, each by the way that is given."""
        free = [[0.0] * count for count in self.asked.counts]
        finish = [0.0] * len(order)
        for n in order:
            self._one(n, self.asked.ways[n][ways[n]], finish, free)
        return finish

    def _one(self, n: int, a: Activity, finish: list[float], free: list[list[float]]) -> None:
        ready, effort = self._ready(a, finish, free), self.asked.effort[n]
        finish[n] = ready + effort if a.days is None or effort <= 0 else self.days[id(a.days)].run(ready, effort)
        for thing, many in a.takes:
            free[thing][:many] = [finish[n]] * many

    @staticmethod
    def _ready(a: Activity, finish: list[float], free: list[list[float]]) -> float:
        ready = a.not_before
        for before, lag in a.after:
            ready = max(ready, finish[before] + lag)
        for thing, many in a.takes:
            free[thing].sort()
            ready = max(ready, free[thing][many - 1])
        return ready

    def greedy(self, order: Sequence[int]) -> list[int]:
        """Of each task in an order, the way by which it is done first; of equal ones, by whom has least to do."""
        free = [[0.0] * count for count in self.asked.counts]
        finish, chosen = [0.0] * len(order), [0] * len(order)
        given = [0.0] * len(self.asked.counts)
        for n in order:
            done = []
            for k, a in enumerate(self.asked.ways[n]):
                ready, effort = self._ready(a, finish, free), self.asked.effort[n]
                at = ready + effort if a.days is None or effort <= 0 else self.days[id(a.days)].run(ready, effort)
                done.append((at, sum(given[t] for t, _ in a.takes), k))
            chosen[n] = min(done)[2]
            a = self.asked.ways[n][chosen[n]]
            self._one(n, a, finish, free)
            for thing, many in a.takes:
                given[thing] += self.asked.effort[n] * many
        return chosen

    def score(self, finish: Sequence[float]) -> tuple[float, float]:
        """By how much the worst is late, then the sum of all finishes."""
        worst = max((f - d for f, d in zip(finish, self.asked.due, strict=True) if d < NEVER), default=0.0)
        return worst, sum(min(f, 1e6) for f in finish)


def better_order(
    asked: Question, order: Sequence[int], ways: Sequence[int] | None = None, tries: int = 2000, seed: int = 1
) -> Iterator[Answer]:
    """The best so far, each time a better one is found, and at the end once more.

    Args:
        order: in which they are now, each behind those before it
        ways: by which each is done now; none where that is open
        tries: how many moves of one task are tried
        seed: of the moves, so that the same question has the same answer
    """
    bench, count = _Bench(asked), len(asked.ways)
    bound = lateness_bound(asked)
    starts = [(list(order), list(ways))] if ways is not None else []
    for first in (list(order), _by_latest(asked, order)):
        starts.append((first, bench.greedy(first)))
    best = min(((bench.score(bench.finishes(o, w)), o, w) for o, w in starts), key=lambda x: x[0])
    yield Answer(tuple(best[1]), tuple(best[2]), best[0][0], bound)
    dice = random.Random(seed)
    activities = [w[0] for w in asked.ways]
    for _ in range(tries if count > 1 else 0):
        if best[0][0] <= bound + 1e-9:
            break
        moved, chosen = list(best[1]), list(best[2])
        n = dice.randrange(count)
        if len(asked.ways[n]) > 1 and dice.random() < 0.4:
            chosen[n] = dice.randrange(len(asked.ways[n]))
        else:
            moved.remove(n)
            moved.insert(dice.randrange(count), n)
            moved = in_turn(activities, moved)[0]
        score = bench.score(bench.finishes(moved, chosen))
        if score <= best[0]:
            better = score[0] < best[0][0] - 1e-9
            best = (score, moved, chosen)
            if better:
                yield Answer(tuple(moved), tuple(chosen), score[0], bound)
    yield Answer(tuple(best[1]), tuple(best[2]), best[0][0], bound)


def _alone(asked: Question, order: Sequence[int]) -> list[float]:
    """The finish of each where nobody is ever busy, by the quickest way of each."""
    bench, finish = _Bench(asked), [0.0] * len(asked.ways)
    for n in order:
        done = []
        for a in asked.ways[n]:
            ready = max([a.not_before, *(finish[b] + lag for b, lag in a.after)])
            effort = asked.effort[n]
            done.append(ready + effort if a.days is None or effort <= 0 else bench.days[id(a.days)].run(ready, effort))
        finish[n] = min(done)
    return finish


def _by_latest(asked: Question, order: Sequence[int]) -> list[int]:
    """Tasks by their latest finish where nobody is ever busy (Kolisch 1996): what must be done first comes first."""
    activities = [w[0] for w in asked.ways]
    latest = list(asked.due)
    end = max(_alone(asked, order), default=0.0)
    latest = [min(x, end) if x == NEVER else x for x in latest]
    for n in reversed(order):
        for before, lag in activities[n].after:
            at = latest[n] - lag
            days = activities[n].days
            begin = at - asked.effort[n] if days is None else days.latest_begin(at, asked.effort[n])
            latest[before] = min(latest[before], max(begin, -1e6))
    return in_turn(activities, sorted(range(len(latest)), key=lambda n: (latest[n], n)))[0]


def lateness_bound(asked: Question) -> float:
    """By how much the worst is late at least: by its links alone, or since all work takes all people so long."""
    order = in_turn([w[0] for w in asked.ways], range(len(asked.ways)))[0]
    alone = _alone(asked, order)
    worst = max((f - d for f, d in zip(alone, asked.due, strict=True) if d < NEVER), default=-NEVER)
    return max([worst, *(_busy(asked, thing) for thing in range(len(asked.counts)))])


def _busy(asked: Question, thing: int) -> float:
    """The same for one thing: all that only it can do, one after the other, by the last that any of it is due."""
    only = [n for n, ways in enumerate(asked.ways) if all(any(t == thing for t, _ in a.takes) for a in ways)]
    days = {id(a.days): a.days for n in only for a in asked.ways[n]}
    if not only or len(days) > 1 or any(asked.due[n] == NEVER for n in only):
        return -NEVER
    work = sum(asked.effort[n] * min(dict(a.takes)[thing] for a in asked.ways[n]) for n in only) / asked.counts[thing]
    first = min(a.not_before for n in only for a in asked.ways[n])
    calendar = next(iter(days.values()))
    end = first + work if calendar is None else _Days(calendar).run(max(first, 0.0), work)
    return end - max(asked.due[n] for n in only)
