"""Worst responses of tasks and messages that share one processor or one bus, exactly, by their priorities.

The highest priority first everywhere. Times in seconds. "Grows without limit" is inf; what is not worked out because a
busy period would be too long is nan.
"""

import itertools
import math
from collections.abc import Callable, Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.physics.battery import Array
from wired_union.physics.method import method, require
from wired_union.physics.sources import AUDSLEY, DAVIS_CAN, LIU

ROUNDING = 1e-9
"""Share by which sums of floats may miss the whole number that they stand for."""
MOST_ROUNDS, MOST_INSTANCES, BISECTIONS = 20_000, 5_000, 18
ROUNDS_TOGETHER = 200
"""Steps of all rows together; a row that needs more is worked out by itself."""
FEW = 16
"""So many tasks are added up one by one; more by numpy."""


class Shared(Struct, frozen=True):
    """What a task or message asks for: how long, how often at the most, and how late it may be released."""

    run_s: float
    period_s: float
    jitter_s: float = 0.0
    holds_s: float = 0.0
    """How long at a time it lets nothing else run, where it could."""


class Responses(Struct, frozen=True):
    response_s: list[float]
    utilisation: float


class UtilisationBound(Struct, frozen=True):
    bound: float


class Order(Struct, frozen=True):
    order: list[int]
    schedulable: bool


class LoopTimes(Struct, frozen=True):
    pass_s: float
    response_s: list[float]


@method(
    "utilisation-bound",
    source="n·(2^(1/n) − 1)",
    works=(LIU,),
    checked="the paper's table for 1, 2, 3 tasks and ln 2, from memory",
    limits="sufficient, not necessary; preemptive, the shorter period first, deadlines as the periods",
)
def utilisation_bound(tasks: int) -> UtilisationBound:
    """Load up to which so many tasks always meet their periods.

    Args:
        tasks: how many
    Returns:
        bound: share of the processor
    Raises:
        ValueError: no task.
    """
    require(tasks >= 1, "there is at least one task")
    return UtilisationBound(tasks * (2 ** (1 / tasks) - 1))


def preempted(tasks: Sequence[Shared], above: Sequence[Sequence[int]] | None = None) -> list[float]:
    """Worst response of each task where a higher one runs at once, deadlines of any length.

    Source: Tindell, Burns and Wellings 1994: w(q) = (q+1)·C + B + Σ⌈(w+J)/T⌉·C over all instances q of the busy
    period, R = J + w(q) − q·T. Exact but for B, the longest that a lower one lets nothing else run.

    Args:
        tasks: the highest priority first
        above: for each, the places of those that go before it; all before it in the list when not given
    """
    if above is None:
        return _in_order(tasks, [t.holds_s for t in tasks], preempts=True, tick_s=0.0)
    return [
        worst_response(own, [tasks[k] for k in above[n]], _longest(tasks, "holds_s", {n, *above[n]}))
        for n, own in enumerate(tasks)
    ]


def _longest(tasks: Sequence[Shared], figure: str, without: set[int]) -> float:
    return max((getattr(t, figure) for k, t in enumerate(tasks) if k not in without), default=0.0)


def _in_order(tasks: Sequence[Shared], holding: Sequence[float], *, preempts: bool, tick_s: float) -> list[float]:
    """Each below all before it in the list, held up by the longest of what is behind it."""
    below = [0.0, *itertools.accumulate(reversed(holding), max)]
    every, held = _Demand(tasks), [below[len(tasks) - 1 - n] for n in range(len(tasks))]
    known = _together(tasks, held, preempts=preempts, tick_s=tick_s) if len(tasks) > FEW else {}
    return [
        known[n] if n in known else _response(own, every.first(n), held[n], preempts=preempts, tick_s=tick_s)
        for n, own in enumerate(tasks)
    ]


def _together(
    tasks: Sequence[Shared], held: Sequence[float], *, preempts: bool, tick_s: float
) -> dict[int, float]:  # fmt: skip
    """The same of all whose busy period has one instance, every one of them a row of one matrix; by their places."""
    run, period, late = (np.array([getattr(t, f) for t in tasks]) for f in ("run_s", "period_s", "jitter_s"))
    above = np.tril(np.ones((len(tasks), len(tasks))), -1) * run
    load, held_s = np.cumsum(run / period), np.array(held)
    rows = np.flatnonzero(load < 1 - ROUNDING)
    if not len(rows):
        return {}
    above, own, lates = above[rows], run[rows], np.cumsum(run * late / period)[rows]
    least = (held_s[rows] + lates) / (1 - load[rows]) * (1 - 2 * ROUNDING)

    def started(until: Array) -> Array:
        found: Array = np.einsum("ij,ij->i", np.ceil((until[:, None] + late) / period * (1 - ROUNDING)), above)
        return found

    def ended(until: Array) -> Array:
        if preempts or tick_s > 0:
            return started(until + (0.0 if preempts else tick_s))
        begun = np.floor((until[:, None] + late) / period * (1 + ROUNDING)) + 1
        found: Array = np.einsum("ij,ij->i", begun, above)
        return found

    def own_work(until: Array) -> Array:
        found: Array = np.ceil((until + late[rows]) / period[rows] * (1 - ROUNDING)) * own
        return found

    first = np.maximum(held_s[rows] + above.sum(axis=1) + own, least)
    busy, settled = _fixed(lambda t: held_s[rows] + started(t) + own_work(t), first)
    single = settled & (np.ceil((busy + late[rows]) / period[rows] * (1 - ROUNDING)) <= 1)
    fixed = held_s[rows] + (own if preempts else 0.0)
    spare = 1 - (load[rows] - own / period[rows])
    before = lates - own * late[rows] / period[rows]
    begin = np.maximum(fixed + (0.0 if preempts else above.sum(axis=1)), (fixed + before) / spare * (1 - 2 * ROUNDING))
    waited, done = _fixed(lambda t: fixed + ended(t), begin)
    ends = late[rows] + waited + (0.0 if preempts else own)
    return {int(n): float(e) for n, e, ok in zip(rows, ends, single & done, strict=True) if ok}


def _fixed(longer: Callable[[Array], Array], start: Array) -> tuple[Array, NDArray[np.bool_]]:
    """Each row's first moment at which nothing more has come in, from below; and whether it was reached."""
    now = start
    for _ in range(ROUNDS_TOGETHER):
        after = longer(now)
        rests = after <= now * (1 + ROUNDING)
        now = np.where(rests, np.where(after > 0, np.minimum(after, now), now), after)
        if rests.all():
            break
    return now, rests


def queued(tasks: Sequence[Shared], tick_s: float = 0.0, above: Sequence[Sequence[int]] | None = None) -> list[float]:
    """Worst response of each where what runs, or is sent, is finished first.

    Source: George, Rivierre and Spuri 1996; Davis and others 2007 for messages: w(q) = B + q·C + Σ⌈(w+J+τ)/T⌉·C,
    R = J + w(q) − q·T + C, B the longest lower one.

    Args:
        tasks: the highest priority first
        tick_s: how long before its start a higher one still goes first: a bit of a bus; 0 for tasks
        above: as of `preempted`
    """
    if above is None:
        return _in_order(tasks, [t.run_s for t in tasks], preempts=False, tick_s=tick_s)
    return [
        worst_response(own, [tasks[k] for k in above[n]], _longest(tasks, "run_s", {n, *above[n]}), preempts=False,
                       tick_s=tick_s)
        for n, own in enumerate(tasks)
    ]  # fmt: skip


def worst_response(
    own: Shared, higher: Sequence[Shared], held_s: float = 0.0, *, preempts: bool = True, tick_s: float = 0.0
) -> float:
    """Worst response of one below some others; `held_s` is the longest that what is below it may keep it waiting."""
    return _response(own, _Demand(higher), held_s, preempts=preempts, tick_s=tick_s)


def _response(own: Shared, above: "_Demand", held_s: float, *, preempts: bool, tick_s: float) -> float:
    whole = above.load + own.run_s / own.period_s
    if whole > 1 + ROUNDING or (whole > 1 - ROUNDING and held_s > 0):
        return math.inf
    busy = _busy_period(own, above, held_s)
    if math.isnan(busy):
        return math.nan
    instances = _starts((busy + own.jitter_s) / own.period_s)
    if instances > MOST_INSTANCES:
        return math.nan
    worst, waited = 0.0, 0.0
    for q in range(max(instances, 1)):
        waited = _waited(own, above, held_s, q, waited, preempts=preempts, tick_s=tick_s)
        ends = waited if preempts else waited + own.run_s
        worst = max(worst, own.jitter_s + ends - q * own.period_s)
    return worst


class _Demand:
    """What some ask for together up to a moment; many at once by numpy."""

    def __init__(self, shared: Sequence[Shared]) -> None:
        self._each = [(s.run_s, s.period_s, s.jitter_s) for s in shared]
        self._arrays = np.array(self._each).T if len(self._each) > FEW else None
        self._sums = list(itertools.accumulate(self._each, _added, initial=(0.0, 0.0, 0.0)))
        self.load, self.late_s, self.run_s = self._sums[-1]

    def first(self, count: int) -> "_Demand":
        """The same of the first so many."""
        made = _Demand.__new__(_Demand)
        made._each, made._sums = self._each[:count], self._sums
        made._arrays = self._arrays[:, :count] if self._arrays is not None and count > FEW else None
        made.load, made.late_s, made.run_s = self._sums[count]
        return made

    def started(self, until_s: float) -> float:
        """Work that has come in before a moment."""
        if self._arrays is not None:
            run, period, late = self._arrays
            return float(np.ceil((until_s + late) / period * (1 - ROUNDING)) @ run)
        return sum(_starts((until_s + late) / period) * run for run, period, late in self._each)

    def released(self, until_s: float) -> float:
        """Work that has come in up to a moment and at it."""
        if self._arrays is not None:
            run, period, late = self._arrays
            return float((np.floor((until_s + late) / period * (1 + ROUNDING)) + 1) @ run)
        return sum(
            (math.floor((until_s + late) / period * (1 + ROUNDING)) + 1) * run for run, period, late in self._each
        )

    def least_s(self, fixed_s: float) -> float:
        """A moment before which work that comes in besides so much is surely not done."""
        left = 1 - self.load
        return (fixed_s + self.late_s) / left * (1 - 2 * ROUNDING) if left > ROUNDING else 0.0


def _added(sums: tuple[float, float, float], each: tuple[float, float, float]) -> tuple[float, float, float]:
    """Load, lateness that loads, and runs, with one more."""
    run, period, late = each
    return sums[0] + run / period, sums[1] + run * late / period, sums[2] + run


def _busy_period(own: Shared, above: _Demand, held_s: float) -> float:
    """How long it goes on without a pause from its worst start; nan where that is too long to be worked out."""
    everyone = above.load + own.run_s / own.period_s
    busy = held_s + above.run_s + own.run_s
    if everyone < 1 - ROUNDING:
        late = above.late_s + own.run_s * own.jitter_s / own.period_s
        busy = max(busy, (held_s + late) / (1 - everyone) * (1 - 2 * ROUNDING))
    for _ in range(MOST_ROUNDS):
        own_work = _starts((busy + own.jitter_s) / own.period_s) * own.run_s
        longer = held_s + above.started(busy) + own_work
        if longer <= busy * (1 + ROUNDING):
            return busy
        busy = longer
    return math.nan


def _waited(
    own: Shared, above: _Demand, held_s: float, q: int, start_s: float, *, preempts: bool, tick_s: float
) -> float:  # fmt: skip
    """Until instance q has ended where others preempt; until it starts where they do not."""
    fixed = held_s + (q + preempts) * own.run_s
    waited = max(fixed + (0.0 if preempts else above.run_s), start_s, above.least_s(fixed))
    while True:
        if preempts:
            others = above.started(waited)
        else:
            others = above.started(waited + tick_s) if tick_s > 0 else above.released(waited)
        longer = fixed + others
        if longer <= waited * (1 + ROUNDING):
            return longer if longer > 0 else waited
        waited = longer


def _starts(periods: float) -> int:
    """How often something starts in so many of its periods; a whole number that floats overshoot stays that number."""
    return math.ceil(periods * (1 - ROUNDING))


@method(
    "can-response-times",
    source="w = B + q·C + Σ⌈(w + J + τ)/T⌉·C over all instances of the busy period",
    works=(DAVIS_CAN,),
    checked="the paper's three messages, from memory, and a bus run bit by bit",
    limits="no errors on the bus; each node sends its own messages by their priority",
)
def can_response_times(
    frame_time_s: Sequence[float], period_s: Sequence[float], deadline_s: Sequence[float] | None = None,
    jitter_s: Sequence[float] | None = None, bit_time_s: float = 2e-6,
) -> Responses:  # fmt: skip
    """Worst time from when a message is queued until it has arrived, the highest priority first.

    Args:
        frame_time_s: how long each takes on the bus
        period_s: least time between two of them
        deadline_s: time allowed; it does not change the response, and is checked to be above zero
        jitter_s: how late each may be queued, 0 when not given
        bit_time_s: one bit of the bus
    Returns:
        response_s: worst response of each; inf where it grows without limit
        utilisation: share of the time that the bus is in use
    Raises:
        ValueError: lists of different length, or a time that is not above zero.
    """
    count = len(frame_time_s)
    late = [0.0] * count if jitter_s is None else list(jitter_s)
    due = list(period_s) if deadline_s is None else list(deadline_s)
    require(count > 0 and len(period_s) == len(late) == len(due) == count, "lists of the same length")
    require(all(x > 0 for x in (*frame_time_s, *period_s, *due)), "times are above 0")
    require(all(x >= 0 for x in late) and bit_time_s > 0, "jitter is 0 or more, a bit above 0")
    messages = [Shared(*each) for each in zip(frame_time_s, period_s, late, strict=True)]
    return Responses(queued(messages, bit_time_s), sum(m.run_s / m.period_s for m in messages))


@method(
    "audsley-order",
    source="the lowest place goes to any task that meets its deadline there, then the next",
    works=(AUDSLEY,),
    checked="all orders of small sets, tried one by one",
    limits="preemptive, or each run finished first; finds an order whenever there is one",
)
def audsley_order(
    execution_s: Sequence[float], period_s: Sequence[float], deadline_s: Sequence[float], preemptive: bool = True
) -> Order:
    """An order of priorities by which every task meets its deadline.

    Args:
        execution_s: longest run of each task
        period_s: least time between two starts
        deadline_s: time allowed to each
        preemptive: whether a higher one runs at once, or what runs is finished first
    Returns:
        order: numbers of the tasks, from 1, the most urgent first; empty where no order does it
        schedulable: whether there is one
    Raises:
        ValueError: lists of different length, or a time that is not above zero.
    """
    count = len(execution_s)
    require(count > 0 and len(period_s) == len(deadline_s) == count, "lists of the same length")
    require(all(x > 0 for x in (*execution_s, *period_s, *deadline_s)), "times are above 0")
    tasks = [Shared(run, period) for run, period in zip(execution_s, period_s, strict=True)]
    order = working_order(tasks, deadline_s, preemptive=preemptive)
    return Order([n + 1 for n in order or ()], order is not None)


def working_order(
    tasks: Sequence[Shared], deadline_s: Sequence[float], *, preemptive: bool, always: Sequence[Shared] = ()
) -> tuple[int, ...] | None:
    """Places of the tasks, the most urgent first, by which all meet their deadlines; None where no order does it.

    What is in `always` goes before all of them.
    """
    left, order = list(range(len(tasks))), list[int]()
    while left:
        lowest = next(
            (n for n in reversed(left) if _fits_below(tasks, n, left, order, deadline_s, preemptive, always)), None
        )
        if lowest is None:
            return None
        left.remove(lowest)
        order.insert(0, lowest)
    return tuple(order)


def _fits_below(
    tasks: Sequence[Shared], n: int, left: Sequence[int], lower: Sequence[int], deadline_s: Sequence[float],
    preemptive: bool, always: Sequence[Shared],
) -> bool:  # fmt: skip
    """Whether a task meets its deadline below all that are left."""
    higher = [*always, *(tasks[k] for k in left if k != n)]
    held = max((tasks[k].holds_s if preemptive else tasks[k].run_s for k in lower), default=0.0)
    response = worst_response(tasks[n], higher, held, preempts=preemptive, tick_s=0.0)
    return response <= deadline_s[n] * (1 + ROUNDING)


@method(
    "super-loop",
    source="one pass is the sum of all runs and waits; what just missed its turn waits a whole pass",
    checked="the loop run step by step over random arrivals",
    limits="each task once a pass, in a fixed order; interrupts take what they take off the top",
)
def super_loop(
    execution_s: Sequence[float], waits_s: Sequence[float] | None = None,
    interrupt_s: Sequence[float] | None = None, interrupt_period_s: Sequence[float] | None = None,
) -> LoopTimes:  # fmt: skip
    """Longest pass of a plain loop that calls its tasks one after the other, and the worst response of each.

    Args:
        execution_s: longest run of each task, without its waits
        waits_s: how long each sits in a blocking wait, 0 when not given
        interrupt_s: longest run of each interrupt
        interrupt_period_s: least time between two of each
    Returns:
        pass_s: longest time from one call of a task to the next; inf where interrupts take all
        response_s: from an event right after its task looked, until that task has dealt with it
    Raises:
        ValueError: lists of different length, or a time below zero.
    """
    waits = [0.0] * len(execution_s) if waits_s is None else list(waits_s)
    require(len(execution_s) > 0 and len(waits) == len(execution_s), "lists of the same length")
    runs, periods = list(interrupt_s or ()), list(interrupt_period_s or ())
    require(len(runs) == len(periods) and all(p > 0 for p in periods), "each interrupt has a run and a period above 0")
    require(min([*execution_s, *waits, *runs]) >= 0, "times are 0 or more")
    interrupts = [Shared(run, period) for run, period in zip(runs, periods, strict=True)]
    whole = stretched(sum(execution_s), sum(waits), interrupts)
    each = [stretched(sum(execution_s) + e, sum(waits) + w, interrupts)
            for e, w in zip(execution_s, waits, strict=True)]  # fmt: skip
    return LoopTimes(whole, each)


def stretched(run_s: float, waits_s: float, interrupts: Sequence[Shared]) -> float:
    """How long work and waits take at the most while interrupts come in between; inf where those take all."""
    load = sum(t.run_s / t.period_s for t in interrupts)
    if load > 1 - ROUNDING:
        return math.inf
    long = run_s + waits_s
    for _ in range(MOST_ROUNDS):
        longer = run_s + waits_s + sum(_starts((long + t.jitter_s) / t.period_s) * t.run_s for t in interrupts)
        if longer <= long * (1 + ROUNDING):
            return long
        long = longer
    return math.nan


def room_for(
    tasks: Sequence[Shared], deadline_s: Sequence[float], period_s: float, place: int, *, preemptive: bool,
    at_least_s: float = 0.0,
) -> float:  # fmt: skip
    """Longest run of one more task of a period, at a place of the order, with which all still meet their deadlines.

    0 where that is not more than `at_least_s`. What is above it and is broken in on by nothing below is not asked.
    """
    due = [*deadline_s[:place], period_s, *deadline_s[place:]]

    def fits(run_s: float) -> bool:
        more = [*tasks[:place], Shared(run_s, period_s), *tasks[place:]]
        first = place if preemptive else 0
        return all(_in_time(more, n, due[n], preemptive) for n in range(first, len(more)))

    low, high = at_least_s, period_s
    if not fits(low * (1 + ROUNDING)):
        return 0.0
    for _ in range(BISECTIONS):
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return low


def _in_time(tasks: Sequence[Shared], n: int, due_s: float, preemptive: bool) -> bool:
    lower = tasks[n + 1 :]
    held = max((t.holds_s if preemptive else t.run_s for t in lower), default=0.0)
    return worst_response(tasks[n], tasks[:n], held, preempts=preemptive) <= due_s * (1 + ROUNDING)
