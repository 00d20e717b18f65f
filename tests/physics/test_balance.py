"""Centres, contacts and edges: against the handbook, a linear programme, and the hull of scipy."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog
from scipy.spatial import ConvexHull

from wired_union.physics.balance import (
    box_inertia,
    centre_of_mass,
    edges_of,
    support_polygon,
    uneven_loads,
    wheel_loads,
)

LENGTH = st.floats(-2.0, 2.0).map(lambda x: round(x, 3))
POINT = st.tuples(LENGTH, LENGTH)
MASS = st.floats(0.01, 50.0)


def test_an_even_box_as_in_the_tables():
    """A rod of 1 m and 12 kg about its middle: m·l²/12 (rigid-body tables)."""
    rod = box_inertia(12.0, 1.0, 0.0, 0.0)
    assert (rod.about_x_kg_m2, rod.about_y_kg_m2, rod.about_z_kg_m2) == (0.0, 1.0, 1.0)


@given(st.lists(st.tuples(MASS, LENGTH, LENGTH, LENGTH), min_size=1, max_size=8), LENGTH, st.integers(0, 7))
def test_a_part_moved_moves_the_centre_by_its_share(parts, by, which):
    which %= len(parts)
    masses, x, y, z = (list(row) for row in zip(*parts, strict=True))
    before = centre_of_mass(masses, x, y, z)
    x[which] += by
    after = centre_of_mass(masses, x, y, z)
    assert after.centre_x_m - before.centre_x_m == pytest.approx(by * masses[which] / sum(masses), abs=1e-12)
    assert (after.centre_y_m, after.centre_z_m) == (before.centre_y_m, before.centre_z_m)


@given(st.lists(POINT, min_size=3, max_size=20))
def test_the_polygon_is_the_hull(points):
    """Against scipy.spatial (Qhull): the same area, wherever that finds one."""
    arms = np.array(points) - np.array(points[0])
    if np.linalg.matrix_rank(arms, tol=1e-2) < 2:
        return
    corners = np.array(support_polygon(points))
    x, y = corners.T
    area = (x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2
    assert area == pytest.approx(ConvexHull(np.array(points)).volume, rel=1e-9)
    for edge in edges_of(support_polygon(points)):
        assert min(edge.distance_m(p) for p in points) >= -1e-9


@given(st.lists(POINT, min_size=3, max_size=8, unique=True), st.lists(st.floats(0.05, 1.0), min_size=8, max_size=8))
def test_loads_balance_and_are_among_those_that_statics_allows(points, shares):
    """Sum and both moments; each load within what a linear programme finds least and most for that contact."""
    arms = np.array(points) - np.mean(points, axis=0)
    if np.linalg.svd(arms, compute_uv=False)[-1] < 0.1:
        return
    weight = np.array(shares[: len(points)]) / sum(shares[: len(points)])
    centre = weight @ np.array(points)
    found = wheel_loads(*zip(*points, strict=True), 100.0, *centre)
    loads = np.array(found.load_n)
    assert loads.sum() == pytest.approx(100.0)
    assert loads @ np.array(points) == pytest.approx(100.0 * centre, abs=1e-6)
    rows, wanted = np.vstack([np.ones(len(points)), np.array(points).T]), 100.0 * np.array([1.0, *centre])
    for n, load in enumerate(loads):
        one = np.eye(len(points))[n]
        least, most = (sign * linprog(sign * one, A_eq=rows, b_eq=wanted).fun for sign in (1, -1))
        assert least - 1e-6 <= load <= most + 1e-6
    assert all(found.load_n[n - 1] == 0 for n in found.lifted)


def test_three_contacts_are_exact():
    """A stool of three legs, the weight over one of them: that one carries all (moments)."""
    loads = wheel_loads([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], 9.0, 1 / 3, 1 / 3).load_n
    assert loads == pytest.approx([3.0, 3.0, 3.0])
    assert wheel_loads([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], 9.0, 1.0, 0.0).load_n == pytest.approx([0.0, 9.0, 0.0])


def test_what_would_pull_the_floor_up_is_off_it():
    """A square with the weight near one corner: equal springs would pull at the far one, so that one is off."""
    found = wheel_loads([1.0, 1.0, -1.0, -1.0], [1.0, -1.0, 1.0, -1.0], 100.0, 0.8, 0.8)
    assert found.lifted == [4]
    assert found.load_n == pytest.approx([80.0, 10.0, 10.0, 0.0])


@pytest.mark.parametrize(
    ("x", "y", "centre", "said"),
    [
        ([0.0, 1.0, 2.0], [0.0, 0.0, 0.0], (1.0, 0.0), "the contacts do not lie on a line"),
        ([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], (2.0, 0.0), "the centre of mass lies beyond the contacts"),
        ([0.0, 1.0], [0.0, 0.0], (0.5, 0.0), "three contacts or more, with an x and a y each"),
    ],
)
def test_contacts_that_hold_nothing_up_are_refused(x, y, centre, said):
    with pytest.raises(ValueError, match=said):
        wheel_loads(x, y, 10.0, *centre)


def test_an_edge_knows_which_way_is_in():
    square = support_polygon([(0.0, 0.0), (2.0, 0.0), (2.0, 1.0), (0.0, 1.0), (1.0, 0.5)])
    assert len(square) == 4
    assert sorted(e.distance_m((0.5, 0.25)) for e in edges_of(square)) == pytest.approx([0.25, 0.5, 0.75, 1.5])
    assert math.isclose(min(e.distance_m((3.0, 0.5)) for e in edges_of(square)), -1.0)


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.tuples(st.floats(-1, 1), st.floats(-1, 1)), min_size=3, max_size=7, unique=True),
    st.lists(st.floats(0.05, 1), min_size=7, max_size=7),
)
def test_an_uneven_floor_allows_what_a_linear_programme_allows(points, shares):
    """Least and most of each load that balances weight and moments: scipy's linear programme, one a bound."""
    weights = np.array(shares[: len(points)]) / sum(shares[: len(points)])
    centre = tuple((weights[:, None] * np.array(points)).sum(axis=0))
    rows = np.vstack([np.ones(len(points)), np.array(points).T])
    if np.linalg.matrix_rank(rows, tol=1e-3) < 3:
        return
    found = uneven_loads(points, 50.0, centre)
    even = wheel_loads([x for x, _ in points], [y for _, y in points], 50.0, *centre).load_n
    for n, (least, most) in enumerate(found):
        for sign, mine in ((1, least), (-1, most)):
            cost = np.zeros(len(points))
            cost[n] = sign
            solved = linprog(cost, A_eq=rows, b_eq=50.0 * np.array([1.0, *centre]), bounds=(0, None))
            assert mine == pytest.approx(sign * solved.fun, abs=2e-3)
        assert least - 1e-6 <= even[n] <= most + 1e-6


def test_a_table_on_three_legs_by_hand():
    """A square with the weight in its middle: any leg carries nothing to half of it."""
    square = [(1.0, 1.0), (1.0, -1.0), (-1.0, -1.0), (-1.0, 1.0)]
    assert uneven_loads(square, 40.0, (0.0, 0.0)) == tuple(pytest.approx((0.0, 20.0)) for _ in square)
    with pytest.raises(ValueError, match="beyond"):
        uneven_loads(square, 40.0, (2.0, 0.0))
