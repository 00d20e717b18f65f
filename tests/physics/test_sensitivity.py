"""Shares of a spread against Sobol's g-function and Ishigami's, whose shares are known in closed form."""

import numpy as np
import pytest
from scipy import stats

from wired_union.physics.sensitivity import bell, even_draws, first_order_shares


def test_sobols_g_function_has_the_shares_that_sobol_gives_it():
    """g = Π (|4x − 2| + a)/(1 + a): Vᵢ = (1/3)/(1 + aᵢ)², V = Π(1 + Vᵢ) − 1. Saltelli et al., Global Sensitivity Analysis:
    The Primer (2008), section 2.9 (cited from memory)."""
    a = np.array([0.0, 1.0, 4.5, 9.0, 99.0])
    x = even_draws(10_000, len(a), 1)
    g = ((np.abs(4 * x - 2) + a) / (1 + a)).prod(axis=1)
    own = (1 / 3) / (1 + a) ** 2
    exact = own / ((1 + own).prod() - 1)
    assert first_order_shares(x, g) == pytest.approx(exact, abs=0.02)


def test_ishigamis_function_too():
    """sin x₁ + 7 sin² x₂ + 0.1 x₃⁴ sin x₁: 0.3139, 0.4424, 0 (Ishigami & Homma 1990; cited from memory)."""
    x = (even_draws(10_000, 3, 2) * 2 - 1) * np.pi
    y = np.sin(x[:, 0]) + 7 * np.sin(x[:, 1]) ** 2 + 0.1 * x[:, 2] ** 4 * np.sin(x[:, 0])
    assert first_order_shares(x, y) == pytest.approx([0.3139, 0.4424, 0.0], abs=0.02)


def test_of_a_sum_each_makes_the_share_of_its_variance_and_nothing_spreads_of_nothing():
    x = bell(even_draws(10_000, 3, 3))
    assert first_order_shares(x, x @ np.array([3.0, 4.0, 0.0])) == pytest.approx([9 / 25, 16 / 25, 0.0], abs=0.02)
    assert not first_order_shares(x, np.ones(len(x))).any()


def test_what_has_no_part_in_it_has_no_share_even_of_few_draws():
    """Means of a dozen draws differ by chance: uncorrected that would pass for 8 % of the spread here."""
    found = []
    for seed in range(20):
        x = bell(even_draws(400, 6, seed))
        found.append(first_order_shares(x, x[:, 0])[1:].mean())
    assert np.mean(found) < 0.03


def test_draws_are_even_and_bells_are_those_of_scipy():
    x = even_draws(1000, 2, 4)
    assert np.sort((x * 1000).astype(int), axis=0)[:, 0].tolist() == list(range(1000))
    assert (even_draws(1000, 2, 4) == x).all()
    assert stats.kstest(bell(x[:, 0]), "norm").pvalue > 0.9
