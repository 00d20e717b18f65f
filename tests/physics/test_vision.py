"""Pictures looked through one by one: a camera run in time, and a pixel by hand."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from wired_union.physics.vision import WORK, picture_age, pixel_at_target


@pytest.mark.parametrize(("each", "rate"), [(0.005, 30.0), (0.04, 30.0), (0.31, 15.0)])
def test_ages_are_those_of_a_camera_run_picture_by_picture(each, rate):
    """Frames at whole periods; the next one is taken when the last is known. Ten thousand things happen at random."""
    found = picture_age(1000, 1.0, 1000 / each, rate, 0.01, 0.02)
    taken, t = [], 0.0
    while t < 200:
        taken.append((t, t + 0.03 + each))
        t = max(t + 1 / rate, math.ceil((t + 0.03 + each) * rate - 1e-6) / rate)
    starts = np.array([s for s, _ in taken])
    happened = np.random.default_rng(2).uniform(0, 190, 10_000)
    ages = np.array([taken[k][1] for k in np.searchsorted(starts, happened)]) - happened
    assert found.youngest_s <= ages.min() < found.youngest_s + 0.02
    assert found.oldest_s >= ages.max() > found.oldest_s - 0.02
    assert found.per_s == pytest.approx(len(taken) / 200, rel=0.01)


@given(pixels=st.floats(1e3, 1e7), fewer=st.floats(0.05, 1.0), rate=st.floats(1.0, 100.0))
def test_fewer_pixels_are_never_older(pixels, fewer, rate):
    now = picture_age(pixels, WORK["edges and shapes"], 1e9, rate, 0.01, 0.01)
    less = picture_age(pixels * fewer, WORK["edges and shapes"], 1e9, rate, 0.01, 0.01)
    assert less.oldest_s <= now.oldest_s + 1e-9
    assert less.per_s >= now.per_s - 1e-9


def test_a_pixel_at_two_metres_by_hand():
    """60° are 2.309 m at 2 m: 3.61 mm of 640 pixels; at 0.5 m/s and 10 pictures a second 50 mm, 13.9 pixels."""
    found = pixel_at_target(2.0, 60.0, 640, 0.5, 10.0)
    assert found.pixel_m == pytest.approx(4 * math.tan(math.radians(30)) / 640)
    assert (found.moved_m, found.moved_pixels) == (pytest.approx(0.05), pytest.approx(13.86, abs=0.01))
