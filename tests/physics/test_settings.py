"""Effects of settings, wear, reach of a link and capability, against statsmodels, scipy.stats and samples drawn."""

import itertools
import math

import numpy as np
import pytest
import scipy.stats
import statsmodels.api as sm
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.settings import factorial_effects, link_reach, process_capability, wear_rate


def mixes(count, times):
    return [row for row in itertools.product((-1.0, 1.0), repeat=count) for _ in range(times)]


@pytest.mark.parametrize(("count", "times"), [(1, 3), (2, 2), (3, 2), (4, 1)])
def test_effects_are_those_of_statsmodels(count, times):
    rows = mixes(count, times)
    rows = rows[:-1] if times > 1 else rows  # not balanced
    draw = np.random.default_rng(count)
    values = [10 + 3 * row[0] - sum(row[1:]) + draw.normal(0, 0.7) for row in rows]
    found = factorial_effects([x for row in rows for x in row], values)
    pairs = list(itertools.combinations(range(count), 2))
    design = sm.add_constant(np.array([[*row, *(row[a] * row[b] for a, b in pairs)] for row in rows]))
    theirs = sm.OLS(values, design).fit()
    assert found.effects == pytest.approx(tuple(2 * theirs.params[1:]), abs=1e-9)
    assert found.standard_error == pytest.approx(2 * max(theirs.bse[1:]))
    assert found.p_values == pytest.approx(tuple(theirs.pvalues[1:]), abs=1e-9)
    assert found.degrees == theirs.df_resid


def test_the_pilot_plant_of_the_book():
    """Box, Hunter & Hunter, table 5.1: temperature, concentration, catalyst → yield; effects 23, −5, 1.5, T·K 10. From
    memory: means of two runs each, given here as both runs alike but for the spread.
    """
    yields = [60, 72, 54, 68, 52, 83, 45, 80]
    rows = [(t, c, k) for k in (-1.0, 1.0) for c in (-1.0, 1.0) for t in (-1.0, 1.0)]
    twice = [(row, y + off) for row, y in zip(rows, yields, strict=True) for off in (-1, 1)]
    found = factorial_effects([x for row, _ in twice for x in row], [y for _, y in twice])
    assert found.effects == pytest.approx((23.0, -5.0, 1.5, 1.5, 10.0, 0.0))


def test_runs_that_cannot_tell_effects_apart_are_refused():
    with pytest.raises(ValueError, match="told apart"):
        factorial_effects([-1, 1], [1.0, 2.0])
    with pytest.raises(ValueError, match="told apart"):
        factorial_effects([x for x in (-1, 1) * 4 for _ in range(2)], [1.0] * 8)  # both always changed together
    for bad in (([], []), ([1, 1, 1], [1, 2]), ([0.5, 1], [1, 2])):
        with pytest.raises(ValueError, match=r"."):
            factorial_effects(*bad)


@given(st.lists(st.floats(-100, 100), min_size=4, max_size=30))
@settings(max_examples=60, deadline=None)
def test_wear_is_the_slope_of_scipy(values):
    found = wear_rate(values)
    theirs = scipy.stats.linregress(range(len(values)), values)
    assert found.rate == pytest.approx(theirs.slope, abs=1e-9)
    if theirs.stderr > 1e-9:
        half = scipy.stats.t.ppf(0.975, len(values) - 2) * theirs.stderr
        assert (found.lower, found.upper) == pytest.approx((theirs.slope - half, theirs.slope + half), abs=1e-7)
        assert found.p_value == pytest.approx(theirs.pvalue, abs=1e-7)


def test_wear_without_spread_is_sure():
    assert wear_rate([1.0, 2.0, 3.0, 4.0]).p_value == 0.0
    assert wear_rate([2.0, 2.0, 2.0]).p_value == 1.0
    with pytest.raises(ValueError, match="three runs"):
        wear_rate([1.0, 2.0])


@pytest.mark.parametrize("seed", range(5))
def test_the_reach_is_that_of_statsmodels(seed):
    draw = np.random.default_rng(seed)
    distances = np.array([20.0, 50, 100, 200, 400, 800])
    sent = np.full(6, 60)
    got = draw.binomial(sent, 1 / (1 + (distances / 350) ** 2.5))
    found = link_reach(distances, got, sent, 0.9)
    design = sm.add_constant(np.log(distances))
    theirs = sm.GLM(np.column_stack([got, sent - got]), design, family=sm.families.Binomial()).fit(tol=1e-12)
    a, b = theirs.params
    assert found.slope == pytest.approx(b, rel=1e-6)
    assert found.reach_m == pytest.approx(math.exp((math.log(9) - a) / b), rel=1e-6)
    slope = np.array([-1 / b, -(math.log(9) - a) / b / b])
    half = 1.959964 * math.sqrt(slope @ theirs.cov_params() @ slope)
    assert found.upper_m == pytest.approx(found.reach_m * math.exp(half), rel=1e-5)
    assert found.lower_m == pytest.approx(found.reach_m * math.exp(-half), rel=1e-5)


def test_ninety_five_of_a_hundred_intervals_hold_the_reach():
    draw = np.random.default_rng(1)
    distances = np.array([50.0, 100, 200, 300, 400, 600])
    true = 300 * (1 / 9) ** (1 / 3)
    inside = made = 0
    for _ in range(1000):
        got = draw.binomial(100, 1 / (1 + (distances / 300) ** 3))
        found = link_reach(distances, got, [100] * 6, 0.9)
        made += 1
        inside += found.lower_m <= true <= found.upper_m
    assert 0.92 <= inside / made <= 0.98


@pytest.mark.parametrize(("d", "r", "n"), [
    ([10, 20], [5, 5], [5, 5]), ([10, 20], [2, 5], [5, 5]), ([10, 10], [5, 2], [5, 5]), ([0, 1], [5, 2], [5, 5]),
    ([10, 20], [6, 2], [5, 5]), ([10], [5], [5]), ([10, 20, 30], [9, 9, 0], [9, 9, 9]),
])  # fmt: skip
def test_counts_that_say_nothing_of_the_reach_are_refused(d, r, n):
    with pytest.raises(ValueError, match=r"."):
        link_reach(d, r, n, 0.9)


def test_capability_by_hand_and_its_bound_by_samples():
    found = process_capability(16.0, 1.0, 50, 10.0, 20.0)
    assert (found.bias, found.cp, found.cpk) == pytest.approx((1.0, 10 / 6, 4 / 3))
    assert found.outside == pytest.approx(scipy.stats.norm.sf(4) + scipy.stats.norm.cdf(-6), rel=1e-9)
    draw = np.random.default_rng(2)
    below = 0
    for _ in range(4000):
        x = draw.normal(16, 1, 50)
        below += process_capability(float(x.mean()), float(x.std(ddof=1)), 50, 10, 20).cpk_lower <= 4 / 3
    assert below / 4000 == pytest.approx(0.95, abs=0.02)
    for bad in ((1, 1, 5, 3, 3), (1, 0, 5, 0, 3), (1, 1, 1, 0, 3), (1, 1, 5, 0, 3, 1.0)):
        with pytest.raises(ValueError, match=r"."):
            process_capability(*bad)
