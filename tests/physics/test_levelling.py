"""Plans of people who cannot be in two places: against an exact program, a published problem, closed forms."""

import math
import random
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
import scipy.stats
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import Bounds, LinearConstraint, milp

from wired_union.physics.level_search import Question, better_order
from wired_union.physics.levelling import NEVER, Activity, in_turn, levelled, work_days
from wired_union.physics.plan_draws import drawn, holders, shuffled
from wired_union.physics.plan_methods import chance_in_time, level_resources, own_pace
from wired_union.physics.planning import critical_path, three_point
from wired_union.physics.prices import learning_factor

PUBLISHED = Path(__file__).parents[1] / "reference" / "j301_1.sm"


def published():
    """Durations, needs, links and counts of j301_1, as the source package psplib 0.4.0 carries it."""
    lines = PUBLISHED.read_text().splitlines()
    first = next(n for n, x in enumerate(lines) if x.startswith("PRECEDENCE")) + 2
    after = [[int(x) for x in line.split()[3:]] for line in lines[first : first + 32]]
    first = next(n for n, x in enumerate(lines) if x.startswith("REQUESTS")) + 3
    rows = [[int(x) for x in line.split()] for line in lines[first : first + 32]]
    links = [(n + 1, m) for n, some in enumerate(after) for m in some]
    return [r[2] for r in rows], [r[3:] for r in rows], links, [int(x) for x in lines[-2].split()]


def test_a_published_problem_is_solved_as_published():
    """MPM time 38 stands in the file; the least makespan 43 is from memory (Kolisch & Sprecher 1997)."""
    durations, needs, links, counts = published()
    alone = critical_path(durations, [x for pair in links for x in pair])
    assert max(alone.finish) == 38
    before = [[a - 1 for a, b in links if b == n + 1] for n in range(32)]
    ways = tuple(
        (Activity(after=tuple((b, 0.0) for b in before[n]), takes=tuple((k, c) for k, c in enumerate(needs[n]) if c)),)
        for n in range(32)
    )
    asked = Question(ways, tuple(counts), tuple(map(float, durations)), (NEVER,) * 31 + (0.0,))
    *_, best = better_order(asked, range(32), tries=4000)
    assert best.late == 43
    assert best.bound <= 43
    plan = levelled([w[0] for w in ways], counts, np.array(durations, float)[:, None], best.order)
    assert plan.finish.max() == 43
    for t in range(43):
        at = [n for n in range(32) if plan.start[n, 0] <= t < plan.finish[n, 0]]
        assert all(sum(needs[n][k] for n in at) <= counts[k] for k in range(4))


def by_program(durations, links, people):
    """The least end by a program over all times: HiGHS."""
    count, horizon = len(durations), sum(durations)
    times = range(horizon + 1)
    at = {(n, t): n * (horizon + 1) + t for n in range(count) for t in times}
    size = len(at) + 1
    rows, low, high = [], [], []

    def row(pairs, a, b):
        line = np.zeros(size)
        for k, v in pairs:
            line[k] += v
        rows.append(line)
        low.append(a)
        high.append(b)

    for n in range(count):
        row([(at[n, t], 1) for t in times], 1, 1)
        row([(size - 1, 1), *((at[n, t], -(t + durations[n])) for t in times)], 0, np.inf)
    for a, b in links:
        row([*((at[b, t], t) for t in times), *((at[a, t], -t) for t in times)], durations[a], np.inf)
    for person in set(people) - {0}:
        for t in times:
            busy = [
                (at[n, s], 1) for n in range(count) if people[n] == person for s in times if s <= t < s + durations[n]
            ]
            if busy:
                row(busy, 0, 1)
    cost = np.zeros(size)
    cost[-1] = 1
    bounds = Bounds(np.zeros(size), np.append(np.ones(size - 1), horizon))
    found = milp(
        cost,
        constraints=LinearConstraint(np.array(rows), low, high),
        bounds=bounds,
        integrality=np.append(np.ones(size - 1), 0),
    )
    return round(found.fun)


@pytest.mark.parametrize("seed", range(12))
def test_levelled_plans_against_an_exact_program(seed):
    dice = random.Random(seed)
    count = dice.randint(4, 8)
    durations = [dice.randint(1, 5) for _ in range(count)]
    people = [dice.randint(0, 2) for _ in range(count)]
    links = [(a, b) for a in range(count) for b in range(a + 1, count) if dice.random() < 0.25]
    exact = by_program(durations, links, people)
    found = level_resources(durations, [x + 1 for pair in links for x in pair], people)
    assert found.end == exact
    assert found.earliest_end <= exact
    for n in range(count):
        assert found.finish[n] == found.start[n] + durations[n]
    assert all(found.start[b] >= found.finish[a] for a, b in links)
    for person in (1, 2):
        theirs = sorted((found.start[n], found.finish[n]) for n in range(count) if people[n] == person)
        assert all(a[1] <= b[0] for a, b in pairwise(theirs))


@pytest.mark.parametrize(
    ("durations", "follows", "people"),
    [
        ([], [], []),
        ([1, -1], [], []),
        ([1, 1], [1, 2, 2, 1], []),
        ([1, 1], [1, 3], []),
        ([1, 1], [], [1]),
        ([1], [1], []),
    ],
)
def test_what_is_no_plan_is_refused(durations, follows, people):
    with pytest.raises(ValueError, match=r"."):
        level_resources(durations, follows, people)


def walked(rate, begun, effort):
    """When so much is done, walking from day to day."""
    day, left, at = int(begun), effort, begun
    while left > 1e-12:
        if day >= len(rate):
            return math.inf
        can = rate[day] * (day + 1 - at)
        if can >= left - 1e-12:
            return at + left / rate[day]
        left, day = left - can, day + 1
        at = float(day)
    return at


@given(st.lists(st.sampled_from([0.0, 2.0, 3.0, 8.0]), min_size=1, max_size=20), st.floats(0, 18), st.floats(0.1, 40))
def test_work_goes_on_from_day_to_day(rate, ready, effort):
    days = work_days(np.array(rate))
    begun = days.begin(np.array([ready]))[0]
    assert begun == math.inf or (begun >= ready and rate[int(begun)] > 0 and not any(rate[int(ready) + 1 : int(begun)]))
    found = days.finish(np.array([ready]), np.array([effort]))[0]
    assert found == pytest.approx(walked(rate, ready, effort))
    if math.isfinite(found):
        back = days.latest_begin(found, effort)
        assert back >= ready - 1e-6
        assert days.finish(np.array([back]), np.array([effort]))[0] == pytest.approx(found)


@given(st.randoms(use_true_random=False), st.integers(1, 9))
def test_an_order_is_worked_out_the_same_one_by_one_and_all_at_once(dice, count):
    calendars = [None, work_days(np.array([3.0, 0.0] * 200)), work_days(np.array([5.0, 2.0] * 200))]
    counts = (1, 2)
    ways = tuple(
        (
            Activity(
                tuple((b, dice.choice([0.0, 1.5])) for b in range(n) if dice.random() < 0.3),
                tuple((k, dice.randint(1, counts[k])) for k in range(2) if dice.random() < 0.6),
                dice.choice(calendars),
                dice.choice([0.0, 2.5]),
            ),
        )
        for n in range(count)
    )
    effort = tuple(dice.choice([0.0, 1.0, 4.5, 7.0]) for _ in range(count))
    asked = Question(ways, counts, effort, (1.0,) * count)
    *_, best = better_order(asked, range(count), [0] * count, tries=30)
    plan = levelled([w[0] for w in ways], counts, np.array(effort)[:, None], best.order)
    assert plan.finish[:, 0].max() - 1.0 == pytest.approx(best.late)
    assert best.bound <= best.late + 1e-9
    first = levelled(
        [w[0] for w in ways], counts, np.array(effort)[:, None], in_turn([w[0] for w in ways], range(count))[0]
    )
    assert best.late <= first.finish.max() - 1.0 + 1e-9


def test_those_on_a_ring_are_named_and_come_last():
    ring = [Activity(after=((1, 0.0),)), Activity(after=((0, 0.0),)), Activity(), Activity(after=((0, 0.0),))]
    assert in_turn(ring, range(4)) == ([2, 0, 1, 3], (0, 1, 3))


@pytest.mark.parametrize("likely", [0.0, 1.0, 4.0, 9.0, 10.0])
def test_durations_are_those_of_the_beta_distribution(likely):
    """Shapes 1 + 4(m − a)/(b − a): scipy.stats.beta."""
    found = np.sort(drawn(0.0, likely, 10.0, shuffled("a")))
    shape = scipy.stats.beta(1 + 0.4 * likely, 1 + 0.4 * (10 - likely), scale=10.0)
    even = (np.arange(len(found)) + 0.5) / len(found)
    assert np.abs(found - shape.ppf(even)).max() < 0.02
    assert found.mean() == pytest.approx(three_point(0, likely, 10).mean, abs=2e-3)
    assert found.std() == pytest.approx(shape.std(), rel=2e-3)
    assert drawn(3.0, 3.0, 3.0, shuffled("a")).tolist() == [3.0] * 10_000


def test_the_chance_of_one_of_two_and_of_the_later_of_two():
    """Closed forms: the distribution itself, its square for the later of two, its convolution for two in a row."""
    shape = scipy.stats.beta(1 + 4 * 2 / 8, 1 + 4 * 6 / 8, loc=1, scale=8)
    for date in (3.0, 4.0, 6.0):
        one = chance_in_time([1], [3], [9], date)
        assert one.chance == pytest.approx(shape.cdf(date), abs=2e-3)
        later = chance_in_time([1, 1], [3, 3], [9, 9], date)
        assert later.chance == pytest.approx(shape.cdf(date) ** 2, abs=0.01)
    assert one.mean == pytest.approx(shape.mean(), rel=1e-3)
    assert one.sd == pytest.approx(shape.std(), rel=5e-3)
    assert one.nine_of_ten == pytest.approx(shape.ppf(0.9), rel=2e-3)
    grid = np.linspace(1, 9, 4001)
    both = np.trapezoid(shape.pdf(grid) * shape.cdf(8.0 - grid), grid)
    assert chance_in_time([1, 1], [3, 3], [9, 9], 8.0, [1, 2]).chance == pytest.approx(both, abs=0.012)
    alone = chance_in_time([1, 1], [3, 3], [9, 9], 8.0, people=[1, 1])
    assert alone == chance_in_time([1, 1], [3, 3], [9, 9], 8.0, [1, 2])  # one person does one after the other
    with pytest.raises(ValueError, match="in this order"):
        chance_in_time([2], [1], [3], 4.0)


def test_what_holds_the_end_is_its_share_of_the_spread():
    """Of a sum, the share of each is its variance over that of the sum."""
    effort = np.array([drawn(0, 2, 4, shuffled("a")), drawn(0, 4, 8, shuffled("b")), np.full(10_000, 3.0)])
    found = holders(effort, effort.sum(axis=0))
    assert [h.task for h in found] == [1, 0]
    assert [h.share for h in found] == pytest.approx([0.8, 0.2], abs=0.02)
    assert holders(np.ones((1, 10_000)), np.ones(10_000)) == ()


def test_the_team_s_own_pace():
    """scipy.stats.ttest_1samp on the logarithms."""
    said, taken = [2.0, 4.0, 3.0, 6.0], [3.0, 9.0, 4.0, 8.0]
    found = own_pace(said, taken, 0.9)
    logs = np.log(np.array(taken) / said)
    low, high = scipy.stats.ttest_1samp(logs, 0).confidence_interval(0.9)
    assert found.factor == pytest.approx(scipy.stats.gmean(np.array(taken) / said))
    assert (found.lower, found.upper) == pytest.approx((math.exp(low), math.exp(high)))
    assert own_pace([2.0], [5.0]) == type(found)(2.5, None, None, 1)
    with pytest.raises(ValueError, match="above 0"):
        own_pace([0.0], [1.0])


def test_hands_that_learn():
    """Wright 1936, from memory: each doubling takes the same share; the sum counted out."""
    assert learning_factor(1, 0.8).last == 1.0
    assert [learning_factor(2**n, 0.8).last for n in range(1, 5)] == pytest.approx([0.8**n for n in range(1, 5)])
    for rate in (0.5, 0.7, 0.95, 1.0):
        for quantity in (1, 7, 1000, 30_000):
            summed = math.fsum(n ** math.log2(rate) for n in range(1, quantity + 1)) / quantity
            assert learning_factor(quantity, rate).mean == pytest.approx(summed, rel=1e-6)
    with pytest.raises(ValueError, match=r"from 0\.5 to 1"):
        learning_factor(3, 1.2)
