"""Boxes against scipy's linear programme and points by the thousand; views against trigonometry by hand."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog
from scipy.spatial.transform import Rotation

from wired_union.physics.boxes import box_of, met_at, overlap_m, overlapping
from wired_union.physics.sight import beam_grid, field_of_view, ground_band

PLACE = st.tuples(*[st.floats(-0.3, 0.3)] * 3)
SIDES = st.tuples(*[st.floats(0.02, 0.4)] * 3)
BOXES = st.builds(box_of, PLACE, SIDES, st.floats(-180, 180), st.floats(-90, 90))


def common_room(one, other):
    """Most room that a point has on all sides within both boxes: a linear programme; below 0 there is none."""
    rows, bounds = [], []
    for box in (one, other):
        axes = np.array(box.axes)
        for sign in (1, -1):
            for axis, half in zip(axes, box.half, strict=True):
                rows.append([*(sign * axis), 1.0])
                bounds.append(half + sign * float(axis @ np.array(box.middle)))
    found = linprog([0, 0, 0, -1], A_ub=rows, b_ub=bounds, bounds=[(None, None)] * 4)
    return -found.fun


@settings(max_examples=120, deadline=None)
@given(BOXES, BOXES)
def test_boxes_overlap_just_when_they_have_a_point_in_common(one, other):
    room, deep = common_room(one, other), overlap_m(one, other)
    if abs(room) > 1e-6:
        assert (deep > 0) == (room > 0)
    if deep > 0:
        assert deep >= 2 * room - 1e-7  # a ball of that room in both keeps them together until it is left
        assert overlapping([one, other]) == [(0, 1)]
    assert overlap_m(other, one) == pytest.approx(deep)


@given(st.lists(BOXES, max_size=12))
def test_no_pair_that_overlaps_is_left_out(boxes):
    near = set(overlapping(boxes))
    for b in range(len(boxes)):
        for a in range(b):
            assert (a, b) in near or overlap_m(boxes[a], boxes[b]) <= 1e-12


def test_two_boxes_by_hand():
    """Side by side along x, 100 mm each, 90 mm apart; and one that is turned by 45° reaches 41.4 mm further."""
    one = box_of((0, 0, 0), (0.1, 0.1, 0.1))
    assert overlap_m(one, box_of((0.09, 0, 0), (0.1, 0.1, 0.1))) == pytest.approx(0.01)
    assert overlap_m(one, box_of((0.12, 0, 0), (0.1, 0.1, 0.1))) == pytest.approx(-0.02)
    assert overlap_m(one, box_of((0.12, 0, 0), (0.1, 0.1, 0.1), 45.0)) == pytest.approx(
        0.05 + 0.05 * math.sqrt(2) - 0.12
    )


def test_a_part_is_tilted_and_then_turned_as_scipy_turns():
    box = box_of((0, 0, 0), (0.2, 0.1, 0.05), 30.0, 20.0)
    turned = Rotation.from_euler("ZY", [30.0, -20.0], degrees=True)
    assert np.array(box.axes) == pytest.approx(turned.as_matrix().T)


@settings(max_examples=60, deadline=None)
@given(BOXES, PLACE, st.integers(0, 10**6))
def test_a_ray_meets_a_box_where_its_points_first_lie_in_it(box, start, seed):
    ways = np.random.default_rng(seed).normal(size=(6, 3))
    ways /= np.linalg.norm(ways, axis=1)[:, None]
    steps = np.linspace(0, 2, 4001)
    axes, middle, half = np.array(box.axes), np.array(box.middle), np.array(box.half)
    for way, met in zip(ways, met_at([box], start, ways)[0], strict=True):
        inside = (np.abs((np.array(start) + steps[:, None] * way - middle) @ axes.T) <= half + 1e-9).all(axis=1)
        if inside.any():
            assert met == pytest.approx(steps[inside.argmax()], abs=2e-3)
        else:
            grazing = (np.abs((np.array(start) + steps[:, None] * way - middle) @ axes.T) <= half + 2e-3).all(axis=1)
            assert met == math.inf or grazing.any()


def test_a_picture_by_hand():
    """53.13° is 2·atan(½): as wide as it is far away; 320 pixels over a metre are 3.125 mm each."""
    seen = field_of_view(1.0, 2 * math.degrees(math.atan(0.5)), 40.0, 320)
    assert (seen.width_m, seen.pixel_m) == pytest.approx((1.0, 1 / 320))
    assert seen.height_m == pytest.approx(2 * math.tan(math.radians(20)))
    assert field_of_view(1.0, 60.0, 40.0).pixel_m is None


def test_the_ground_in_view_by_hand():
    """300 mm up, looking 45° down with 30°: from 60° to 30° below level, 0.3/tan."""
    band = ground_band(0.3, -45.0, 30.0)
    assert band.near_m == pytest.approx(0.3 / math.tan(math.radians(60)))
    assert band.far_m == pytest.approx(0.3 / math.tan(math.radians(30)))
    assert ground_band(0.3, 0.0, 30.0).far_m is None
    assert ground_band(0.3, 30.0, 30.0).near_m is None
    assert ground_band(0.3, -85.0, 30.0).near_m < 0  # behind itself


@given(st.floats(0.005, 0.05), st.floats(0.001, 0.004))
def test_a_thing_slid_through_beams_step_by_step(pitch, beam):
    """Wherever it is, a thing of that width covers a whole beam; one a little narrower slips through somewhere."""
    sure = beam_grid(pitch, beam, 0.2, beam).surely_seen_m
    beams = np.arange(-3, 4) * pitch

    def slips(width):
        at = np.linspace(0, pitch, 400)[:, None]
        covered = (at - width / 2 <= beams - beam / 2 + 1e-12) & (beams + beam / 2 <= at + width / 2 + 1e-12)
        return not covered.any(axis=1).all()

    assert not slips(sure * 1.0001)
    assert slips(sure - pitch / 100)


def test_how_well_a_beam_is_aimed_by_hand():
    assert beam_grid(0.02, 0.002, 0.2, 0.006).tolerance_deg == pytest.approx(math.degrees(math.atan(0.002 / 0.2)))


@pytest.mark.parametrize(
    "call",
    [lambda: field_of_view(1, 180, 10), lambda: field_of_view(-1, 10, 10), lambda: ground_band(0, -10, 10),
     lambda: ground_band(1, -10, 200), lambda: beam_grid(0, 1, 1, 1), lambda: beam_grid(0.1, 0.01, 0.1, 0.001)],
)  # fmt: skip
def test_what_cannot_be_is_refused(call):
    with pytest.raises(ValueError, match=r"are|is"):
        call()
