"""Lumps in many ways at once are each of them alone, heaters and groups included."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.lumps import Heater, Lumps, warmed
from wired_union.physics.lumps_ways import Ways, warmed_ways

BASE = Lumps(np.array([20.0, 60.0, 400.0, 30.0, 50.0, 80.0]), ((0, 1, 0.4), (1, 2, 1.3), (3, 4, 0.2)),
             np.array([0.0, 0.05, 0.7, 0.3, 0.0, 0.25]))  # fmt: skip
"""Three in a row, two of which one is shut in, one alone."""
HEATERS = (Heater(1, 1, 3.0, 12.0), Heater(3, 4, 2.0, 15.0))


def drawn(count, seed):
    dice = np.random.default_rng(seed)

    def times(wide):
        return np.exp(dice.normal(0, 0.4, (count, wide)))

    links = np.array([w for _, _, w in BASE.links]) * times(3)
    ways = Ways(
        BASE.capacity_j_per_k * times(6), links, BASE.outside_w_per_k * times(6), np.array([3.0, 2.0]) * times(2)
    )
    return ways, dice.uniform(0, 1, (40, 2)), dice.uniform(0, 4, (count, 2, 6)), dice.uniform(-15, 30, 40)


@pytest.mark.parametrize("heaters", [(), HEATERS, HEATERS[:1]])
@settings(max_examples=15, deadline=None)
@given(st.integers(0, 10_000), st.floats(1.0, 900.0))
def test_each_way_is_the_same_lumps_alone(heaters, seed, step_s):
    ways, signals, into, outside = drawn(4, seed)
    start = np.linspace(-5.0, 20.0, 6)
    with_air = np.concatenate([into, ways.outside_w_per_k[:, None]], axis=1)
    found = warmed_ways(BASE, ways, np.column_stack([signals, outside]), with_air, step_s, start, heaters)
    for k in range(4):
        own = Lumps(ways.capacity_j_per_k[k],
                    tuple((a, b, float(w)) for (a, b, _), w in zip(BASE.links, ways.link_w_per_k[k], strict=True)),
                    ways.outside_w_per_k[k])  # fmt: skip
        alone = [Heater(h.warms, h.feels, float(w), h.holds_c)
                 for h, w in zip(heaters, ways.heater_w[k], strict=False)]  # fmt: skip
        expected = warmed(own, signals @ into[k], outside, step_s, start, alone).end_c
        assert np.abs(found[k] - expected).max() < 1e-7
