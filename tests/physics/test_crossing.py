"""A whole vehicle at a step against a linear programme, and turning on the spot by hand."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog

from wired_union.physics.crossing import front_at_edge, held_by, rear_at_edge, skid_turn, two_axle_step
from wired_union.physics.wheel import step_friction


def stands(friction: float, points, driven: tuple[bool, bool], weight_x: float) -> bool:
    """Whether contact forces within that friction balance a weight of 1: force, force and moment, by scipy's linprog.

    `points` are two contacts as (x, z, normal); a contact that is not driven has no force across its normal.
    """
    rows = np.zeros((3, 4))
    limits, most = [], []
    for n, ((x, z, (nx, nz)), drives) in enumerate(zip(points, driven, strict=True)):
        for column, (fx, fz) in ((2 * n, (nx, nz)), (2 * n + 1, (nz, -nx))):
            rows[:, column] = fx, fz, x * fz - z * fx
        across = friction if drives else 0.0
        for sign in (1.0, -1.0):
            limit = np.zeros(4)
            limit[2 * n], limit[2 * n + 1] = -across, sign
            limits.append(limit)
            most.append(0.0)
    free = [(0, None), (None, None)] * 2
    return linprog(np.zeros(4), A_ub=limits, b_ub=most, A_eq=rows, b_eq=[0.0, 1.0, weight_x], bounds=free).success


def least_friction(points, driven, weight_x) -> float | None:
    """The least friction of all that balance, among a fine row of them; None where none does."""
    low, high = 0.0, None
    for friction in np.geomspace(1e-3, 50.0, 24):
        if stands(friction, points, driven, weight_x):
            high = friction
            break
        low = friction
    if high is None:
        return None
    for _ in range(20):
        middle = (low + high) / 2
        low, high = (low, middle) if stands(middle, points, driven, weight_x) else (middle, high)
    return high


def same(one: float | None, other: float | None) -> bool:
    return one is other or (one is not None and other is not None and abs(one - other) <= 1e-4 * other)


@pytest.mark.parametrize("driven", ["front", "rear", "both"])
@pytest.mark.parametrize(("base", "to_front", "radius", "step"), [
    (0.30, 0.15, 0.05, 0.010), (0.30, 0.10, 0.06, 0.030), (0.25, 0.17, 0.10, 0.025), (1.20, 0.50, 0.20, 0.060),
])  # fmt: skip
def test_the_least_friction_is_that_of_a_linear_programme(driven, base, to_front, radius, step):
    lean = math.acos(1 - step / radius)
    edge = (-math.sin(lean), math.cos(lean))
    found = two_axle_step(50.0, base, to_front, radius, step, driven)
    wheels = ((driven in ("front", "both")), (driven in ("rear", "both")))
    up_front = [(base + radius * math.sin(lean), step, edge), (0.0, 0.0, (0.0, 1.0))]
    assert same(found.friction_front, least_friction(up_front, wheels, base - to_front))
    up_rear = [(base, 0.0, (0.0, 1.0)), (radius * math.sin(lean), step, edge)]
    assert same(found.friction_rear, least_friction(up_rear, wheels, base - to_front))


def test_a_rear_wheel_that_would_lift_the_front_does_not_climb():
    """All the weight far back: the drive of the rear axle tips the machine up before it lifts it."""
    found = two_axle_step(50.0, 0.12, 0.11, 0.10, 0.03, "rear")
    assert (found.friction_front is not None, found.friction_rear, found.climbs) == (True, None, False)


@pytest.mark.parametrize("driven", ["front", "rear", "both"])
def test_no_step_takes_no_friction_and_one_of_a_radius_is_never_climbed(driven):
    flat = two_axle_step(50.0, 0.3, 0.15, 0.05, 0.0, driven)
    assert (flat.friction_front, flat.friction_rear, flat.climbs) == (0.0, 0.0, True)
    wall = two_axle_step(50.0, 0.3, 0.15, 0.05, 0.05, driven)
    assert (wall.friction_front, wall.friction_rear, wall.climbs) == (None, None, False)


@given(st.floats(0.1, 0.9), st.floats(0.05, 0.95), st.floats(0.01, 0.6))
def test_a_heavier_rear_axle_helps_no_rear_driven_front_and_needs_less_when_both_drive(place, radius, step):
    """More weight behind makes the front lighter to lift; where the rear alone pushes, more grip besides."""
    one = held_by(front_at_edge(1.0, radius, 1 - place, step * radius, "rear"))
    more = held_by(front_at_edge(1.0, radius, 1 - min(place + 0.05, 0.99), step * radius, "rear"))
    assert more.friction < one.friction
    front = held_by(front_at_edge(1.0, radius, 1 - place, step * radius, "front"))
    assert front.friction == pytest.approx(math.tan(math.acos(1 - step)))  # its own load lifts and grips it


@pytest.mark.parametrize("driven", ["front", "rear", "both"])
@pytest.mark.parametrize(("front", "rear"), [(0.06, 0.06), (0.03, 0.08), (0.10, 0.05)])
def test_a_vehicle_that_leans_back_as_by_a_linear_programme(driven, front, rear):
    """The rear axle at the edge with the front one already up: the centre of mass moves back by its height."""
    base, centre, high, step = 0.30, 0.14, 0.15, 0.02
    found = held_by(rear_at_edge(base, front, rear, centre, high, step, driven))
    # turned about the rear axle until the lowest point of the front wheel is on the step, found by halving
    low, steep = 0.0, 0.6
    for _ in range(60):
        pitch = (low + steep) / 2
        down = rear + base * math.sin(pitch) + (front - rear) * math.cos(pitch) - front
        low, steep = (pitch, steep) if down < step else (low, pitch)
    ahead = base * math.cos(pitch) - (front - rear) * math.sin(pitch)
    back = centre * math.cos(pitch) - (high - rear) * math.sin(pitch)
    lean = math.acos(1 - step / rear)
    wheels = ((driven in ("front", "both")), (driven in ("rear", "both")))
    points = [(ahead, step, (0.0, 1.0)), (rear * math.sin(lean), step, (-math.sin(lean), math.cos(lean)))]
    assert same(float(found.friction), least_friction(points, wheels, back))


def test_a_long_vehicle_with_even_load_is_the_simple_case():
    """With the wheelbase long beside the wheel, both driven, half the weight each: tan(θ/2), as `step-climb` has it."""
    found = two_axle_step(50.0, 1e6, 5e5, 0.05, 0.02, "both")
    lean = math.acos(1 - 0.02 / 0.05)
    assert found.friction_front == pytest.approx(math.tan(lean / 2), rel=1e-5)
    assert found.friction_front == pytest.approx(step_friction(0.05, 0.02, 4, 4), rel=1e-5)


def test_turning_on_the_spot_by_hand():
    """Four wheels of 25 N at ±0.15 m dragged sideways with 0.6: 4 · 15 N · 0.15 m = 9 N·m, over 0.3 m of track 30 N."""
    found = skid_turn(100.0, 0.30, 0.30, 0.6, 0.05)
    assert (found.moment_n_m, found.force_per_side_n, found.torque_per_side_n_m) == pytest.approx((9.0, 30.0, 1.5))
