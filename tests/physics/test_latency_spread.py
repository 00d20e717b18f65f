"""Chains over all phases: sums of alike stages by hand, random ones by numpy, ages by running every phase."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.latency import chain_age, chain_latency, chain_spread, spread_of


def test_two_alike_stages_are_a_triangle_and_three_a_parabola():
    """Irwin and Hall: of two, 1 of 0 to 2 is the half, 0.2 lies 0.02 below; of three, 1 has 1/6 below."""
    two = chain_spread([(False, 0.0, 1.0)] * 2, 0.2)
    assert (two.median_s, two.within) == pytest.approx((1.0, 0.02), abs=2e-3)
    assert two.ninety_s == pytest.approx(2 - np.sqrt(0.2), abs=2e-3)
    assert chain_spread([(True, 1.0, 0.0)] * 3, 1.0).within == pytest.approx(1 / 6, abs=2e-3)


def test_what_hardly_varies_is_spread_over_what_floats_can_tell():
    assert chain_spread([(False, 0.0, 5e-324)], 1.0).within == 1.0
    assert chain_spread([(False, 0.0, 1e-300), (False, 0.2, 0.2)], 1.0).within == 1.0


def test_what_never_varies_is_all_at_one_time():
    found = chain_spread([(False, 0.2, 0.2)], 0.3)
    assert (found.median_s, found.within) == (0.2, 1.0)
    assert chain_spread([(False, 0.2, 0.2)], 0.1).within == 0.0


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(st.floats(0, 0.1), st.floats(0, 0.5)), min_size=1, max_size=8), st.floats(0.1, 0.9))
def test_random_stages_spread_as_numpy_says(stages, share):
    bounds = [(False, low, low + wide) for low, wide in stages]
    draws = sum(np.random.default_rng(n).uniform(b[1], b[2], 20_000) for n, b in enumerate(bounds))
    limit = float(np.quantile(draws, share))
    whole = chain_latency(bounds)
    if whole.most_s - whole.least_s > 1e-3:
        assert chain_spread(bounds, limit).within == pytest.approx(share, abs=0.02)
    times, done = spread_of(bounds)
    assert (np.diff(done) >= -1e-12).all()
    assert times[-1] == pytest.approx(whole.most_s)


def run_every_phase(periods, responses):
    """Two samplers in a row, the second reading the newest that the first gave, at every phase between them."""
    (t1, t2), (r1, r2) = periods, responses
    reaction = age = kept = 0.0
    for phase in np.linspace(0, t2, 101):
        starts = phase + t2 * np.arange(60)
        newest = np.floor((starts - r1) / t1 + 1e-9)
        known = newest >= 0
        starts, newest = starts[known], newest[known]
        age = max(age, float((starts + r2 - newest * t1).max()))
        kept = max(kept, float((starts[1:] + r2 - newest[:-1] * t1).max()))
        for k in range(1, int(newest[-1]) + 1):  # happened right after sample k − 1
            acted = starts[np.flatnonzero(newest >= k)[0]] + r2
            reaction = max(reaction, float(acted - (k - 1) * t1))
    return reaction, age, kept


@pytest.mark.parametrize(
    ("periods", "responses"), [((0.2, 0.3), (0.05, 0.1)), ((0.5, 0.2), (0.1, 0.1)), ((0.3, 0.3), (0.0, 0.2))]
)
def test_no_phase_reacts_later_or_acts_on_older_than_is_said(periods, responses):
    found = chain_age([(True, p, r) for p, r in zip(periods, responses, strict=True)], list(periods))
    reaction, age, kept = run_every_phase(periods, responses)
    for seen, said in ((reaction, found.reaction_s), (age, found.age_s), (kept, found.kept_s)):
        assert 0.75 * said <= seen <= said + 1e-9
    assert found.age_s == pytest.approx(found.reaction_s - periods[1])


def test_a_chain_without_periods_is_as_old_as_it_is_late():
    found = chain_age([(False, 0.1, 0.2), (False, 0.0, 0.3)], [0.0, 0.0])
    assert (found.reaction_s, found.age_s, found.kept_s) == pytest.approx((0.5, 0.5, 0.5))


@given(st.lists(st.floats(0.01, 1.0), min_size=1, max_size=6), st.integers(0, 5), st.floats(0.1, 0.99))
def test_a_shorter_period_never_makes_a_chain_later(periods, which, share):
    """A law of the issue: of a sampler."""
    which %= len(periods)
    before = chain_age([(True, p, 0.01) for p in periods], periods)
    shorter = [p * share if n == which else p for n, p in enumerate(periods)]
    after = chain_age([(True, p, 0.01) for p in shorter], shorter)
    assert after.reaction_s <= before.reaction_s
    assert after.kept_s <= before.kept_s + 1e-12
