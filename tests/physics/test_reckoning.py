"""Dead reckoning against drives step by step, slips drawn by numpy."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.reckoning import dead_reckoning


@given(
    unlike=st.floats(-0.05, 0.05), scale=st.floats(-0.05, 0.05), drift=st.floats(-0.02, 0.02), way=st.floats(0.5, 20.0)
)
def test_a_drive_step_by_step_ends_where_it_says(unlike, scale, drift, way):
    """Ten thousand steps: each wheel its own way, the heading from their difference and the gyro's drift."""
    track, speed, steps = 0.3, 0.8, 10_000
    step = way * (1 + scale) / steps
    turn = step * unlike / track + drift * way / speed / steps
    heading = turn * (np.arange(steps) + 0.5)
    x, y = step * np.cos(heading).sum(), step * np.sin(heading).sum()
    found = dead_reckoning(way, track, unlike, scale, drift, speed)
    assert found.across_m == pytest.approx(y, abs=1e-6 * way)
    assert found.along_m == pytest.approx(x - way, abs=1e-6 * way)
    assert found.heading_deg == pytest.approx(math.degrees(turn * steps))


def test_slips_spread_as_ten_thousand_drives_do():
    rng, way, steps = np.random.default_rng(4), 9.0, 300
    turns = rng.normal(0, 0.01 * math.sqrt(way / steps), (10_000, steps))
    heading = np.cumsum(turns, axis=1)
    across = (np.sin(heading) * way / steps).sum(axis=1)
    along = rng.normal(0, 0.02 * math.sqrt(way / steps), (10_000, steps)).sum(axis=1)
    found = dead_reckoning(way, 0.3, slip_m_per_root_m=0.02, turn_rad_per_root_m=0.01)
    assert found.spread_across_m == pytest.approx(across.std(), rel=0.03)
    assert found.spread_along_m == pytest.approx(along.std(), rel=0.03)
    assert (found.across_m, found.along_m, found.heading_deg) == (0.0, 0.0, 0.0)


def test_wheels_unlike_by_a_percent_bend_a_way_of_four_metres():
    """Borenstein and Feng's example of unlike wheels, in kind: 1 % over 0.3 m of track is 7.6° and 0.27 m after 4 m."""
    found = dead_reckoning(4.0, 0.3, 0.01)
    assert found.heading_deg == pytest.approx(7.64, abs=0.01)
    assert found.across_m == pytest.approx(0.266, abs=0.001)
