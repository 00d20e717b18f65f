"""Streaks, rates against each other, spread and numbers of runs, against counting out, scipy.stats and handbooks."""

import itertools
import math

import numpy as np
import pytest
import scipy.special
import scipy.stats
from hypothesis import given, settings
from hypothesis import strategies as st
from statsmodels.stats.proportion import proportion_confint

from wired_union.physics.beta import beta_quantile, beta_share, t_quantile, t_tails
from wired_union.physics.course import points_in_time
from wired_union.physics.runs_of_trials import (
    _power,
    box_figures,
    compare_means,
    compare_rates,
    mean_interval,
    runs_to_tell_apart,
    streak_chance,
    streak_length,
    tolerance_interval,
)
from wired_union.physics.statistics import success_interval


def longest(row) -> int:
    return max((len(list(g)) for good, g in itertools.groupby(row) if good), default=0)


@pytest.mark.parametrize("rate", [0.0, 0.3, 0.5, 0.9, 1.0])
@pytest.mark.parametrize("length", [1, 2, 5, 10])
def test_streaks_are_those_of_every_row_of_ten(rate, length):
    """Counted out: each of the 1024 rows with its chance."""
    chance = sum(rate ** sum(row) * (1 - rate) ** (10 - sum(row))
                 for row in itertools.product((0, 1), repeat=10) if longest(row) >= length)  # fmt: skip
    assert streak_chance(rate, length, 10).probability == pytest.approx(chance, abs=1e-12)


def test_a_long_row_is_that_of_a_chain_of_states():
    """A chain whose state is the streak so far, its matrix to the power of the attempts."""
    rate, length, attempts = 0.8, 12, 500
    step = np.zeros((length + 1, length + 1))
    for n in range(length):
        step[n, n + 1], step[n, 0] = rate, 1 - rate
    step[length, length] = 1.0
    assert streak_chance(rate, length, attempts).probability == pytest.approx(
        np.linalg.matrix_power(step, attempts)[0, length], abs=1e-10
    )


def test_five_in_a_row_come_by_luck():
    """Of ten coins a streak of five heads comes in 112 of 1024 rows, and one of three in 520: counted out."""
    assert streak_chance(0.5, 5, 10).probability == pytest.approx(112 / 1024)
    assert streak_chance(0.5, 3, 10).probability == pytest.approx(520 / 1024)
    assert streak_length(0.5, 10).longest == 3
    assert streak_length(1.0, 10).longest == 10
    assert streak_length(0.0, 10).longest == 0
    assert streak_chance(0.9, 20, 10).probability == 0.0


@pytest.mark.parametrize(("attempts", "rate"), [(10, 0.5), (10, 0.8), (12, 0.3)])
def test_the_usual_longest_streak_is_the_last_that_half_of_all_rows_hold(attempts, rate):
    chances = dict.fromkeys(range(attempts + 1), 0.0)
    for row in itertools.product((0, 1), repeat=attempts):
        chances[longest(row)] += rate ** sum(row) * (1 - rate) ** (attempts - sum(row))
    expected = max(k for k in chances if sum(c for j, c in chances.items() if j >= k) >= 0.5)
    assert streak_length(rate, attempts).longest == expected


@given(st.integers(1, 40), st.integers(1, 40), st.data())
@settings(max_examples=150)
def test_two_rates_are_compared_as_scipy_does(n, m, data):
    a, b = data.draw(st.integers(0, n)), data.draw(st.integers(0, m))
    found = compare_rates(a, n, b, m)
    assert found.p_value == pytest.approx(scipy.stats.fisher_exact([[a, n - a], [b, m - b]])[1], rel=1e-6)
    other = compare_rates(b, m, a, n)
    assert found.p_value == pytest.approx(other.p_value)
    assert found.difference_lower == pytest.approx(-other.difference_upper)
    assert -1 <= found.difference_lower <= found.difference <= found.difference_upper <= 1


def test_two_rates_by_the_table():
    """9/10 and 5/10: 0.141 (methods.md). Newcombe 1998, method 10, 56/70 and 48/80: 0.0524 to 0.3339, from memory."""
    assert compare_rates(9, 10, 5, 10).p_value == pytest.approx(0.141, abs=5e-4)
    assert compare_rates(9, 10, 5, 10).ratio == pytest.approx(1.8)
    found = compare_rates(56, 70, 48, 80)
    assert (found.difference_lower, found.difference_upper) == (
        pytest.approx(0.0524, abs=5e-5), pytest.approx(0.3339, abs=5e-5))  # fmt: skip
    assert compare_rates(1, 2, 0, 3).ratio is None


@pytest.mark.parametrize(("a", "b", "runs"), [(0.7, 0.9, 8), (0.2, 0.95, 6), (0.5, 0.55, 9), (0.0, 1.0, 4)])
def test_the_power_is_that_of_all_tables(a, b, runs):
    """Every table that may come, with scipy's Fisher's test."""
    chance = sum(
        scipy.stats.binom.pmf(x, runs, a) * scipy.stats.binom.pmf(y, runs, b)
        for x in range(runs + 1) for y in range(runs + 1)
        if scipy.stats.fisher_exact([[x, runs - x], [y, runs - y]])[1] <= 0.05 * (1 + 1e-9)
    )  # fmt: skip
    assert _power(a, b, runs, 0.05) == pytest.approx(chance, abs=1e-9)


def test_seventy_from_ninety_takes_seventy_runs_of_each():
    """The usual formula without correction gives 62 (n = (z₁√(2p̄q̄) + z₂√(p₁q₁ + p₂q₂))²/d²); the exact test asks more."""
    found = runs_to_tell_apart(0.7, 0.9).runs_each
    z1, z2, mid = 1.959964, 0.841621, 0.8
    usual = (z1 * math.sqrt(2 * mid * (1 - mid)) + z2 * math.sqrt(0.7 * 0.3 + 0.9 * 0.1)) ** 2 / 0.2**2
    assert usual == pytest.approx(61.6, abs=0.1)
    assert usual <= found <= usual * 1.25
    assert _power(0.7, 0.9, found, 0.05) >= 0.8 > _power(0.7, 0.9, found - 1, 0.05)
    assert runs_to_tell_apart(0.0, 1.0).runs_each == 4  # 4 and 4 of 8: 2 in 70 tables
    with pytest.raises(ValueError, match="closer"):
        runs_to_tell_apart(0.5, 0.51)


@given(st.lists(st.floats(-1e6, 1e6), min_size=1, max_size=60))
def test_boxes_are_those_of_numpy_and_matplotlib(values):
    from matplotlib.cbook import boxplot_stats

    found, theirs = box_figures(values), boxplot_stats(values)[0]
    assert (found.lower_quartile, found.median, found.upper_quartile) == pytest.approx(
        np.percentile(values, [25, 50, 75]), abs=1e-6)  # fmt: skip
    assert (found.whisker_low, found.whisker_high) == pytest.approx((theirs["whislo"], theirs["whishi"]), abs=1e-6)
    assert sorted(found.outliers) == pytest.approx(sorted(theirs["fliers"]))


def test_tolerance_factors_are_those_of_the_handbook():
    """NIST/SEMATECH 7.2.6.3: n = 43, 90 % with 99 %: 2.217. Tables of exact factors: n = 10, 95 % with 95 %: 3.379
    (Howe 3.382), from memory.
    """
    assert tolerance_interval(43, 0.90, 0.99).factor == pytest.approx(2.217, abs=1e-3)
    assert tolerance_interval(10, 0.95, 0.95).factor == pytest.approx(3.379, rel=5e-3)


@given(st.lists(st.floats(-1e3, 1e3), min_size=2, max_size=40), st.floats(0.5, 0.999))
def test_means_are_those_of_scipy(values, confidence):
    found, n = mean_interval(values, confidence), len(values)
    half = scipy.stats.t.ppf((1 + confidence) / 2, n - 1) * np.std(values, ddof=1) / math.sqrt(n)
    assert found.mean == pytest.approx(np.mean(values), abs=1e-9)
    assert (found.lower, found.upper) == pytest.approx((found.mean - half, found.mean + half), abs=1e-6)
    side = scipy.stats.t.ppf(confidence, n - 1) * np.std(values, ddof=1) / math.sqrt(n)
    assert (found.one_sided_lower, found.one_sided_upper) == pytest.approx(
        (found.mean - side, found.mean + side), abs=1e-6
    )
    assert mean_interval(values[::-1], confidence).mean == pytest.approx(found.mean)


@given(st.floats(0.5, 5000), st.floats(0.5, 5000), st.floats(0, 1))
@settings(max_examples=300)
def test_the_beta_function_is_that_of_scipy(a, b, x):
    assert beta_share(a, b, x) == pytest.approx(scipy.special.betainc(a, b, x), rel=1e-8, abs=1e-12)


@given(st.integers(1, 100_000), st.integers(1, 100_000), st.floats(1e-4, 1 - 1e-4))
@settings(max_examples=200, deadline=None)
def test_its_inverse_is_that_of_scipy(a, b, share):
    assert beta_quantile(a, b, share) == pytest.approx(scipy.special.betaincinv(a, b, share), rel=1e-7)


@given(st.integers(1, 2000), st.floats(1e-4, 1 - 1e-4))
@settings(max_examples=200)
def test_students_t_is_that_of_scipy(free, share):
    t = t_quantile(share, free)
    assert t == pytest.approx(scipy.stats.t.ppf(share, free), rel=1e-7, abs=1e-9)
    assert t_tails(t, free) == pytest.approx(2 * min(share, 1 - share), rel=1e-6)
    assert t_quantile(0.5, free) == 0.0
    assert t_quantile(0.5 + 1e-12, free) == pytest.approx(1e-12 / scipy.stats.t.pdf(0, free), rel=1e-2, abs=0)


@given(st.lists(st.floats(-100, 100), min_size=2, max_size=20), st.lists(st.floats(-100, 100), min_size=2, max_size=20))
def test_two_means_are_compared_as_scipy_does(a, b):
    if np.std(a) < 1e-6 or np.std(b) < 1e-6:
        return
    found = compare_means(a, b)
    assert found.difference == pytest.approx(np.mean(a) - np.mean(b), abs=1e-9)
    assert found.p_value == pytest.approx(scipy.stats.ttest_ind(a, b, equal_var=False).pvalue, rel=1e-6, abs=1e-12)
    assert compare_means([1.0, 1.0], [1.0, 1.0]).p_value == 1.0
    assert compare_means([1.0, 1.0], [2.0, 2.0]).p_value == 0.0


def test_points_in_time_are_those_of_runs_drawn():
    draw = np.random.default_rng(2)
    points, chances, times, spreads = [10, 30, 20], [0.9, 0.5, 1.0], [20, 40, 30], [3, 8, 5]
    ends = np.cumsum(draw.normal(times, spreads, (400_000, 3)), axis=1)
    got = ((ends <= 85) * (draw.random(ends.shape) < chances)) @ points
    found = points_in_time(points, chances, times, spreads, 85)
    assert found.expected == pytest.approx(float(got.mean()), rel=2e-3)
    assert found.last_lost == pytest.approx(scipy.stats.norm.sf(85, 90, math.sqrt(98)), rel=1e-9)
    assert (found.usual_s, found.deviation_s) == pytest.approx((90, math.sqrt(98)))
    assert points_in_time([5], [1], [10], [0], 10).expected == 5
    assert points_in_time([5], [1], [10], [0], 9.9).expected == 0


@pytest.mark.parametrize(("good", "runs"), [(0, 5), (5, 5), (18, 20), (47, 56), (195, 200)])
def test_intervals_of_rates_are_those_of_statsmodels(good, runs):
    found = success_interval(good, runs, 0.9)
    exact = proportion_confint(good, runs, 0.1, method="beta")
    wilson = proportion_confint(good, runs, 0.1, method="wilson")
    assert (found.exact_lower, found.exact_upper) == pytest.approx(exact, abs=1e-9)
    assert (found.wilson_lower, found.wilson_upper) == pytest.approx(wilson, abs=1e-9)
