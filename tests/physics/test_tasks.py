"""Worst responses of tasks and messages: published sets, a run of simpy, and every order tried."""

import itertools
import math

import numpy as np
import pytest
import simpy
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.bus import can_frame_bits, one_wire_time
from wired_union.physics.runs import Release, run_tasks
from wired_union.physics.schedule import response_times
from wired_union.physics.tasks import (
    Shared,
    audsley_order,
    can_response_times,
    preempted,
    queued,
    room_for,
    super_loop,
    utilisation_bound,
)

SETS = st.lists(st.tuples(st.integers(1, 6), st.integers(6, 40), st.integers(0, 5)), min_size=1, max_size=5)
"""Runs, periods and jitters of a few tasks in whole ticks."""


def seen_by_simpy(tasks: list[tuple[int, int, int]], *, preempts: bool, seed: int, until: int = 600) -> list[float]:
    """Longest response of each task on a resource of simpy, periodic from random offsets, late by up to its jitter."""
    rng = np.random.default_rng(seed)
    world = simpy.Environment()
    processor = (simpy.PreemptiveResource if preempts else simpy.PriorityResource)(world, capacity=1)
    worst = [0.0] * len(tasks)

    def job(n: int, arrived: float):
        left = float(tasks[n][0])
        while left > 0:
            began = None
            with processor.request(priority=(n, arrived)) as turn:
                try:
                    yield turn
                    began = world.now
                    yield world.timeout(left)
                    left = 0
                except simpy.Interrupt:  # even in the very instant in which it got its turn
                    left -= world.now - began if began is not None else 0.0
        worst[n] = max(worst[n], world.now - arrived)

    def task(n: int, offset: int):
        yield world.timeout(offset)
        for _ in itertools.count():
            start = world.now
            late = int(rng.integers(0, tasks[n][2] + 1)) if tasks[n][2] else 0
            world.process(released(n, start, late))
            yield world.timeout(tasks[n][1])

    def released(n: int, arrived: float, late: int):
        yield world.timeout(late)
        yield from job(n, arrived)

    for n in range(len(tasks)):
        world.process(task(n, int(rng.integers(0, tasks[n][1]))))
    world.run(until=until)
    return worst


@settings(max_examples=40, deadline=None)
@given(tasks=SETS, preempts=st.booleans(), seed=st.integers(0, 1000))
def test_no_response_that_simpy_runs_is_above_its_bound(tasks, preempts, seed):
    shared = [Shared(float(c), float(t), float(j)) for c, t, j in tasks]
    bounds = (preempted if preempts else queued)(shared)
    for bound, seen in zip(bounds, seen_by_simpy(tasks, preempts=preempts, seed=seed), strict=True):
        assert math.isnan(bound) or seen <= bound + 1e-6


@settings(max_examples=60, deadline=None)
@given(tasks=st.lists(st.tuples(st.integers(1, 4), st.integers(8, 30)), min_size=1, max_size=4))
def test_the_bound_is_reached_when_all_are_released_at_once(tasks):
    """Preemptive, no jitter: the worst of all is seen in a run from a common start (Liu and Layland's critical instant)."""
    bounds = preempted([Shared(float(c), float(t)) for c, t in tasks])
    if any(math.isinf(b) for b in bounds):
        return
    releases = [Release(float(k * t), n, float(c)) for n, (c, t) in enumerate(tasks) for k in range(4000 // t)]
    run = run_tasks(releases, list(range(len(tasks))), 3000.0)
    assert [run.worst_s(n) for n in range(len(tasks))] == pytest.approx(bounds)


def test_a_long_deadline_is_met_by_a_later_instance():
    """Lehoczky 1990, from memory: C 52, 52 T 100, 140: the first instance of the second, and a later one, are the worst."""
    assert preempted([Shared(52.0, 100.0), Shared(52.0, 140.0)])[1] == pytest.approx(156.0)
    assert preempted([Shared(26.0, 70.0), Shared(62.0, 100.0)])[1] == pytest.approx(118.0)  # not the first: 114
    ours = response_times([3, 3, 5], [7, 12, 20]).response_s
    assert preempted([Shared(3, 7), Shared(3, 12), Shared(5, 20)]) == pytest.approx(ours)
    assert math.isinf(preempted([Shared(6, 10), Shared(5, 10)])[1])


def test_what_locks_or_is_longer_below_holds_the_urgent_up():
    assert preempted([Shared(1, 10), Shared(4, 50, 0.0, 3.0)])[0] == pytest.approx(4.0)
    assert queued([Shared(1, 10), Shared(4, 50)])[0] == pytest.approx(5.0)
    assert preempted([Shared(1, 10, 2.0)])[0] == pytest.approx(3.0)  # released late, counted from when it was due


def test_three_messages_as_published():
    """Davis and others 2007, table 1 from memory: 1 ms each, every 2.5, 3.5 and 3.5 ms; the last is late only later."""
    found = can_response_times([1e-3] * 3, [2.5e-3, 3.5e-3, 3.5e-3], bit_time_s=8e-6)
    assert found.response_s == pytest.approx([2e-3, 3e-3, 3.5e-3])
    assert found.utilisation == pytest.approx(0.4 + 2 / 3.5)


def stuffed(bits: str) -> int:
    """Length after a bit was put in behind every five alike."""
    out, last, alike = 0, "", 0
    for bit in bits:
        alike = alike + 1 if bit == last else 1
        last, out = bit, out + 1
        if alike == 5:
            last, alike, out = ("0" if bit == "1" else "1"), 1, out + 1
    return out


@pytest.mark.parametrize("extended", [False, True])
@pytest.mark.parametrize("data", range(9))
def test_no_frame_is_longer_than_is_said_and_the_worst_is_as_long(data, extended):
    """Stuffed bit by bit: 00000, then 1111 0000 and so on, is the worst; 13 bits at the end are never stuffed."""
    open_bits = (54 if extended else 34) + 8 * data
    worst = ("00000" + "11110000" * 20)[:open_bits]
    assert stuffed(worst) + 13 == can_frame_bits(data, extended).bits
    rng = np.random.default_rng(data)
    for _ in range(50):
        assert stuffed("".join(rng.choice(["0", "1"], open_bits))) + 13 <= can_frame_bits(data, extended).bits
    assert (can_frame_bits(8).bits, can_frame_bits(8, True).bits) == (135, 160)


@settings(max_examples=60, deadline=None)
@given(tasks=st.lists(st.tuples(st.integers(1, 5), st.integers(8, 25), st.integers(5, 25)), min_size=1, max_size=4),
       preemptive=st.booleans())  # fmt: skip
def test_an_order_is_found_whenever_one_of_all_does_it(tasks, preemptive):
    worst = preempted if preemptive else queued

    def works(order) -> bool:
        found = worst([Shared(float(tasks[n][0]), float(tasks[n][1])) for n in order])
        return all(r <= tasks[n][2] for r, n in zip(found, order, strict=True))

    any_does = any(works(order) for order in itertools.permutations(range(len(tasks))))
    found = audsley_order(*(list(map(float, each)) for each in zip(*tasks, strict=True)), preemptive=preemptive)
    assert found.schedulable == any_does
    assert not any_does or works([n - 1 for n in found.order])


def test_bounds_of_the_load_as_published():
    """Liu and Layland's table, from memory: 1, 0.8284, 0.7798; ln 2 for many."""
    assert [round(utilisation_bound(n).bound, 4) for n in (1, 2, 3)] == [1.0, 0.8284, 0.7798]
    assert utilisation_bound(10_000).bound == pytest.approx(math.log(2), abs=1e-4)


def test_a_plain_loop_answers_after_a_whole_pass_at_the_worst():
    """The loop run step by step: arrivals at random, each served when its task has its turn after it arrived."""
    runs, waits = [0.002, 0.005, 0.001], [0.0, 0.02, 0.0]
    found = super_loop(runs, waits)
    assert found.pass_s == pytest.approx(0.028)
    rng, worst = np.random.default_rng(1), [0.0, 0.0, 0.0]
    for n in range(3):
        turns, t = [], 0.0
        for k in itertools.count():
            if t > 30:
                break
            if k % 3 == n:
                turns.append((t, t + runs[n] + waits[n]))
            t += runs[k % 3] + waits[k % 3]
        for arrival in rng.uniform(0, 29, 4000):
            worst[n] = max(worst[n], next(end for start, end in turns if start >= arrival) - arrival)
    for seen, bound in zip(worst, found.response_s, strict=True):
        assert bound * 0.98 < seen <= bound
    slowed = super_loop(runs, waits, [0.001], [0.01])
    assert slowed.pass_s == pytest.approx(0.032)  # four interrupts come in 32 ms
    assert math.isinf(super_loop([0.001], None, [0.01], [0.01]).pass_s)


def test_what_still_fits_fits_and_a_little_more_does_not():
    tasks, due = [Shared(1, 5), Shared(2, 10)], [5.0, 10.0]
    room = room_for(tasks, due, 20.0, 2, preemptive=True)
    assert room == pytest.approx(12.0, rel=1e-4)  # all that is left of two tens, as the load then is 1
    assert preempted([*tasks, Shared(room * 1.001, 20.0)])[2] > 20.0
    assert one_wire_time(10).time_s == pytest.approx(960e-6 + 80 * 70e-6)


@settings(max_examples=60, deadline=None)
@given(st.integers(17, 60), st.integers(0, 10_000), st.floats(0.2, 1.05), st.booleans(), st.floats(0, 1e-4))
def test_many_at_once_are_as_each_by_itself(count, seed, load, preempts, tick):
    """The rows of one matrix against one row at a time: tight loads, lateness and blocking included."""
    rng = np.random.default_rng(seed)
    shares = rng.dirichlet(np.ones(count)) * load
    periods = np.sort(rng.uniform(0.01, 1.0, count))
    tasks = [Shared(float(s * p), float(p), float(rng.uniform(0, p / 4)), float(rng.uniform(0, 0.002)))
             for s, p in zip(shares, periods, strict=True)]  # fmt: skip
    together = preempted(tasks) if preempts else queued(tasks, tick)
    above = [list(range(n)) for n in range(count)]
    alone = preempted(tasks, above) if preempts else queued(tasks, tick, above)
    assert together == pytest.approx(alone, rel=1e-7, nan_ok=True)
