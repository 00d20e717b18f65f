"""The best order of a course, and what to leave out, proven.

Looked through are all orders of trips, all choices of tasks in each (in their order, or in any where the trip allows
it), that begin no task after the time is up at the usual pace. Partial plans that end at the same place with the same
tasks still open are held against each other: one that is no later, no less sure and worth no less makes the other
needless (dynamic programming with labels; Desrochers & Soumis 1988). What could still be won is bounded by filling
the time that is left with the best points per second, for each moment at which the time may run out.
"""

import math
from bisect import bisect_right
from collections.abc import Iterator
from itertools import pairwise
from operator import itemgetter
from typing import Any

from msgspec import Struct

from wired_union.subjects.trials.course import Ground, Leg, Plan, walk

BEAM, MOST_LABELS = 24, 200_000
"""Partial plans kept in the first, quick look; most that are kept in all."""
STEEPEST = 0.24197072451914337
"""Largest t·φ(t), at t = 1: how fast Φ(t·r) moves with the logarithm of r."""


def _upper_tail(mark: float) -> float:
    return 0.5 * math.erfc(mark / math.sqrt(2))


MARKS = tuple(n / 2 for n in range(-8, 9))
"""Moments at which time may run out, in standard deviations."""
SHARES = (1 - _upper_tail(MARKS[0]), *(_upper_tail(a) - _upper_tail(b) for a, b in pairwise(MARKS)))
"""How much each of them counts: no less than the normal distribution has before it."""


class Best(Struct, frozen=True):
    """The best plan found, its points on average, and the most that any could bring: proven where they are one."""

    plan: Plan
    points: float
    most: float
    orders: int
    """Orders of trips that there are."""

    @property
    def proven(self) -> bool:
        return self.most <= self.points + 1e-9


class Looking(Struct, frozen=True):
    """How far the search is."""

    share: float


class _Room(Struct, frozen=True):
    """Where partial plans meet: trips that are done, the one that is driven (−1 between two), what of it is still open,
    the place, and what is fitted.
    """

    done: int
    trip: int
    open: int
    place: int
    last: int


class _Labels:
    """Partial plans in one room: their times, variances, points, and the ones before them."""

    def __init__(self) -> None:
        self.parts: list[tuple[Any, Any, Any, Any]] = []

    def add(self, usual: Any, square: Any, points: Any, steps: Any) -> None:
        self.parts.append((usual, square, points, steps))

    def all(self) -> tuple[Any, Any, Any, Any]:
        import numpy as np

        columns = tuple(np.concatenate(c) for c in zip(*self.parts, strict=True))
        return columns[0], columns[1], columns[2], columns[3]


def best_order(ground: Ground, stop: int = MOST_LABELS) -> Iterator[Looking | Best]:
    """Looks as it goes, then gives the best plan. Beyond `stop` partial plans it says what it has, not proven."""
    quick = _Search(ground, BEAM, stop)
    for _ in quick.run():
        pass
    whole = _Search(ground, None, stop)
    whole.best, whole.plan = quick.best, quick.plan
    yield from whole.run()
    most = whole.most if whole.gave_up else whole.best
    yield Best(whole.plan, walk(ground, whole.plan).points, max(most, whole.best),
               math.factorial(len([t for t in ground.trips if t])))  # fmt: skip


class _Search:
    """One look through all rooms, from the first to the last trip."""

    def __init__(self, ground: Ground, beam: int | None, stop: int) -> None:
        self.ground, self.beam, self.stop = ground, beam, stop
        self.best = 0.0
        self.plan: Plan = ()
        self.most, self.gave_up, self.kept = 0.0, False, 0
        self.rooms: dict[_Room, _Labels] = {}
        self.came: list[tuple[int, Any, int, int]] = []
        """Blocks of partial plans: the number of the first, those before each, and the trip and task that came last."""
        self.steps = 1
        self.all_open = [sum(1 << n for n, leg in enumerate(t) if leg.known and leg.worth > 0) for t in ground.trips]
        self.trips = [n for n, bits in enumerate(self.all_open) if bits]
        self.fitted = [ground.fitted.index(f) for f in ground.fitted]
        self.ways = _least_ways(ground)

    def run(self) -> Iterator[Looking]:
        import numpy as np

        start = _Room(0, -1, 0, 0, -1)
        self.rooms[start] = _Labels()
        self.rooms[start].add(np.zeros(1), np.zeros(1), np.zeros(1), np.zeros(1, int))
        for count in range(len(self.trips) + 1):
            yield Looking(count / (len(self.trips) + 1))
            for room in [r for r in self.rooms if r.trip < 0 and r.done.bit_count() == count]:
                self._between(room, self.rooms.pop(room))
            while inside := [r for r in self.rooms if r.trip >= 0]:
                most = max(r.open.bit_count() for r in inside)
                for room in [r for r in inside if r.open.bit_count() == most]:
                    self._within(room, self.rooms.pop(room))
                    if self.gave_up:
                        return
                yield Looking(count / (len(self.trips) + 1))

    # from room to room

    def _between(self, room: _Room, labels: _Labels) -> None:
        """Begin each trip that is not done yet."""
        kept = self._pruned(room, labels)
        if kept is None:
            return
        for trip in self.trips:
            if room.done >> trip & 1:
                continue
            mean, square = self.ground.change(room.last, trip)
            inside = _Room(room.done | 1 << trip, trip, self.all_open[trip], 0, self.fitted[trip])
            self._join(inside, kept[0] + mean, kept[1] + square, kept[2], kept[3])

    def _within(self, room: _Room, labels: _Labels) -> None:
        """Do one task more of the trip, or drive back."""
        kept = self._pruned(room, labels)
        if kept is None:
            return
        usual, square, points, steps = kept
        if room.open != self.all_open[room.trip]:  # a trip with no task is not begun at all
            back, back_square = self.ground.drive(room.place, 0)
            self._join(_Room(room.done, -1, 0, 0, room.last), usual + back, square + back_square, points, steps)
        for n, leg in enumerate(self.ground.trips[room.trip]):
            if room.open >> n & 1:
                after = room.open & ~(1 << n) if self.ground.any_order[room.trip] else room.open >> (n + 1) << (n + 1)
                self._do(room, n, leg, after, kept)

    def _do(self, room: _Room, n: int, leg: Leg, after: int, kept: tuple[Any, Any, Any, Any]) -> None:
        import numpy as np

        usual, square, points, steps = kept
        way, way_square = self.ground.drive(room.place, leg.place)
        begins = usual + way <= self.ground.allowed_s
        if not begins.any():
            return
        at = usual[begins] + way + leg.usual_s
        spread = square[begins] + way_square + leg.variance_s2
        won = points[begins] + leg.worth * _in_time(self.ground.allowed_s, at, spread)
        made = self.steps + np.arange(len(won))
        self.came.append((self.steps, steps[begins], room.trip, n))
        self.steps += len(won)
        top = int(np.argmax(won))
        if won[top] > self.best + 1e-12:
            self.best, self.plan = float(won[top]), self._traced(int(made[top]))
        on = at <= self.ground.allowed_s  # what is late at the usual pace begins nothing more
        if on.any():
            self._join(_Room(room.done, room.trip, after, leg.place, room.last), at[on], spread[on], won[on], made[on])

    def _join(self, room: _Room, usual: Any, square: Any, points: Any, steps: Any) -> None:
        self.rooms.setdefault(room, _Labels()).add(usual, square, points, steps)

    def _traced(self, step: int) -> Plan:
        """The plan that a partial plan stands for."""
        found: list[tuple[int, list[int]]] = []
        while step > 0:
            first, before, trip, task = self.came[bisect_right(self.came, step, key=itemgetter(0)) - 1]
            step = int(before[step - first])
            if not found or found[-1][0] != trip:
                found.append((trip, []))
            found[-1][1].append(task)
        return tuple((trip, tuple(reversed(tasks))) for trip, tasks in reversed(found))

    # what is needless

    def _pruned(self, room: _Room, labels: _Labels) -> tuple[Any, Any, Any, Any] | None:
        """Partial plans of a room that could still become the best; None where none could."""
        import numpy as np

        usual, square, points, steps = labels.all()
        open_ = self._open(room)
        if not open_:
            return None
        bound = points + self._most(open_, usual, square)
        can = bound > self.best + 1e-9
        if not can.any():
            return None
        usual, square, points, steps, bound = usual[can], square[can], points[can], steps[can], bound[can]
        keep = _undominated(usual, square, points, open_)
        if self.beam is not None and len(keep) > self.beam:
            keep = keep[np.argsort(-bound[keep], kind="stable")[: self.beam]]
        self.kept += len(keep)
        if self.kept > self.stop:
            self.gave_up = True
            self.most = max([float(bound[keep].max()), *(self._bound(r, rest) for r, rest in self.rooms.items())])
        return usual[keep], square[keep], points[keep], steps[keep]

    def _bound(self, room: _Room, labels: _Labels) -> float:
        usual, square, points, _ = labels.all()
        open_ = self._open(room)
        return float((points + self._most(open_, usual, square)).max()) if open_ else 0.0

    def _open(self, room: _Room) -> list[Leg]:
        """Tasks that may still be done."""
        mine = self.ground.trips[room.trip] if room.trip >= 0 else ()
        inside = [leg for n, leg in enumerate(mine) if room.open >> n & 1]
        others = (t for t in self.trips if not room.done >> t & 1)
        return inside + [leg for t in others for leg in self.ground.trips[t] if leg.known and leg.worth > 0]

    def _most(self, open_: list[Leg], usual: Any, square: Any) -> Any:
        """The most points that open tasks could still bring on average.

        A task that ends at x brings at most worth·G(x), G falling from 1 to 0: a mixture of deadlines, each filled
        with the most points per second (Dantzig 1957). G takes the least variance before the deadline, the most after.
        """
        import numpy as np

        takes = {leg: leg.usual_s + self.ways[leg.place] for leg in open_}
        order = sorted(open_, key=lambda leg: -leg.worth / takes[leg])
        times = np.concatenate([[0.0], np.cumsum([takes[leg] for leg in order])])
        worth = np.concatenate([[0.0], np.cumsum([leg.worth for leg in order])])
        left = self.ground.allowed_s - usual
        least = np.sqrt(square + min(leg.variance_s2 for leg in open_))
        most = np.sqrt(square + self._all_variance(open_))
        ends = np.array([left + mark * (least if mark < 0 else most) for mark in MARKS])
        return np.array(SHARES) @ np.interp(np.maximum(ends, 0.0), times, worth) + _upper_tail(MARKS[-1]) * worth[-1]

    def _all_variance(self, open_: list[Leg]) -> float:
        """No less than the variance that all that is still to come can add."""
        ground = self.ground
        far = max((max(row) for row in ground.drive_s), default=0.0)
        drives = 2 * len(open_) * (far * ground.drive_spread) ** 2
        return math.fsum(leg.variance_s2 for leg in open_) + drives + len(self.trips) * ground.change_variance_s2


def _least_ways(ground: Ground) -> list[float]:
    """No more than the drive to each place takes: none where it has several tasks."""
    counts: dict[int, int] = {0: 1}
    for leg in (leg for trip in ground.trips for leg in trip if leg.known):
        counts[leg.place] = counts.get(leg.place, 0) + 1
    return [
        0.0 if counts.get(n, 0) != 1 or n == 0 else min((row[m] for m in counts if m != n), default=0.0)
        for n, row in enumerate(ground.drive_s)
    ]


def _undominated(usual: Any, square: Any, points: Any, open_: list[Leg]) -> Any:
    """Numbers of partial plans that no other makes needless.

    One that is no later, no less sure and worth no less does as well in all that is done in time at the usual pace. In
    the one task that may end after, a less sure time can gain: by no more than worth·0.242·(s₂/s₁ − 1), which the
    other must be worth more.
    """
    import numpy as np

    order = np.lexsort((square, -points, usual))
    v, p = square[order], points[order]
    if len(order) > SIFTED:
        order = order[_sifted(v, p, open_)]
        v, p = square[order], points[order]
    most = max(leg.worth for leg in open_)
    spread = np.sqrt(v + min(leg.variance_s2 for leg in open_))
    alive = np.ones(len(order), bool)
    for first in range(0, len(order), BLOCK):
        ahead = alive.copy()
        ahead[min(first + BLOCK, len(order)) :] = False
        by, of = np.nonzero(ahead)[0], np.arange(first, min(first + BLOCK, len(order)))
        with np.errstate(divide="ignore", invalid="ignore"):
            wider = spread[of][:, None] / spread[by] - 1
        gain = np.where(wider > 0, most * np.minimum(STEEPEST * wider, 1.0), 0.0)
        beaten = (v[of][:, None] >= v[by] - 1e-12) & (p[of][:, None] <= p[by] - gain + 1e-12) & (by < of[:, None])
        alive[of] = ~beaten.any(axis=1)
    return order[alive]


BLOCK = 256
SIFTED = 3000


def _sifted(v: Any, p: Any, open_: list[Leg]) -> Any:
    """A first sieve for very many: numbers that are worth more than the best before them that is no less sure."""
    import numpy as np

    least, most = min(leg.variance_s2 for leg in open_), max(leg.worth for leg in open_)
    keep = np.ones(len(p), bool)
    for cut in np.quantile(v, (0.1, 0.25, 0.5, 0.75)):
        surer = np.where(v <= cut, p, -np.inf)
        best = np.maximum.accumulate(np.concatenate([[-np.inf], surer[:-1]]))
        gain = most * STEEPEST * (np.sqrt((v + least) / max(float(v.min()) + least, 1e-300)) - 1)
        keep &= ~((v > cut) & (p <= best - gain))
    return keep


def _in_time(allowed_s: float, usual: Any, square: Any) -> Any:
    """Chances that normal times are within what is allowed."""
    import numpy as np
    from scipy.special import ndtr

    with np.errstate(divide="ignore", invalid="ignore"):
        z = (allowed_s - usual) / np.sqrt(square)
    sure = np.where(usual <= allowed_s, 1.0, 0.0)
    return np.where(square > 0, ndtr(z), sure)
