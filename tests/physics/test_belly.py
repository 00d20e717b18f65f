"""What hangs under a vehicle on its way over a step, against the vehicle rolled over it place by place."""

import math

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from scipy.optimize import brentq

from wired_union.physics.crossing import belly_clearance


def axle_height(x: float, radius: float, step: float) -> float:
    """Of a wheel that rolls along the floor to a step at 0, around its edge, and on."""
    if x >= 0:
        return step + radius
    if x > -math.sqrt(step * (2 * radius - step)):
        return step + math.sqrt(radius**2 - x**2)
    return radius


def rolled(wheelbase: float, front: float, rear: float, step: float, begins: float, ends: float) -> float:
    """Height over its own floor to which the ground comes between two places, over a fine row of positions."""
    apart, level = math.hypot(wheelbase, front - rear), math.atan2(front - rear, wheelbase)
    highest = 0.0
    for front_x in np.linspace(-2 * front - 0.02, 1.5 * wheelbase + rear, 900):
        high = axle_height(front_x, front, step)

        def off(rear_x: float, at=front_x, high=high) -> float:
            return math.hypot(at - rear_x, high - axle_height(rear_x, rear, step)) - apart

        rear_x = brentq(off, front_x - apart * 1.5, front_x - apart * 0.3)
        rear_z = axle_height(rear_x, rear, step)
        lean = math.atan2(high - rear_z, front_x - rear_x) - level
        ground = np.concatenate(
            [np.linspace(rear_x - 1.0, 0.0, 200), np.zeros(30), np.linspace(0.0, front_x + 1.0, 200)]
        )
        heights = np.concatenate([np.zeros(200), np.linspace(0.0, step, 30), np.full(200, step)])
        x = (ground - rear_x) * math.cos(lean) + (heights - rear_z) * math.sin(lean)
        z = (heights - rear_z) * math.cos(lean) - (ground - rear_x) * math.sin(lean) + rear
        under = (x >= begins) & (x <= ends)
        if under.any():
            highest = max(highest, float(z[under].max()))
    return highest


@pytest.mark.parametrize(
    ("front", "rear", "step", "begins", "ends"),
    [
        (0.06, 0.06, 0.03, 0.0, 0.3), (0.06, 0.06, 0.03, 0.12, 0.18), (0.06, 0.06, 0.03, 0.0, 0.02),
        (0.06, 0.06, 0.03, -0.2, -0.1), (0.06, 0.06, 0.03, 0.32, 0.33), (0.06, 0.06, 0.03, 0.4, 0.5),
        (0.05, 0.09, 0.03, 0.05, 0.25), (0.09, 0.05, 0.03, 0.05, 0.25), (0.09, 0.05, 0.045, -0.1, 0.5),
    ],
)  # fmt: skip
def test_the_step_comes_as_high_as_a_vehicle_rolled_over_it_finds(front, rear, step, begins, ends):
    needed = belly_clearance(0.3, front, rear, step, begins, ends).height_m
    assert needed == pytest.approx(rolled(0.3, front, rear, step, begins, ends), abs=0.0012)


def test_what_sits_just_behind_the_rear_axle_is_met_by_the_floor_that_rolls_along_the_rim():
    """Plane geometry: within r·sin of the lean the floor passes there at the rim's own height, whatever the step."""
    for step in (0.042, 0.046875):
        needed = belly_clearance(0.3, 0.05, 0.06, step, -0.0078125, -0.0078125).height_m
        assert needed == pytest.approx(0.06 - (0.06**2 - 0.0078125**2) ** 0.5, rel=1e-9)


@example(step=0.046875, begins=-0.0078125, wide=0.0, more=0.0)
@example(step=0.046875, begins=0.29296875, wide=0.0, more=0.0)
@given(step=st.floats(0.001, 0.049), begins=st.floats(-0.3, 0.6), wide=st.floats(0.0, 0.5), more=st.floats(0.0, 0.5))
def test_a_lower_step_and_less_beneath_never_ask_for_more(step, begins, wide, more):
    """A nose ahead of the wheels needs the step's own height; nothing under a vehicle needs more than a wheel's."""
    own = belly_clearance(0.3, 0.05, 0.06, step, begins, begins + wide).height_m
    # close behind the front axle a higher step asks for some micrometres less: none that a ruler shows
    assert belly_clearance(0.3, 0.05, 0.06, step * 0.9, begins, begins + wide).height_m <= own + 2e-5
    assert belly_clearance(0.3, 0.05, 0.06, step, begins - more, begins + wide + more).height_m >= own - 1e-12
    assert own <= 0.12 + 0.3 * step / 0.3
    assert belly_clearance(0.3, 0.05, 0.06, step, 0.36, 0.5).height_m == pytest.approx(step)


def test_what_is_no_vehicle_over_a_step_is_refused():
    for figures in (
        (0.3, 0.05, 0.05, 0.05, 0.0, 0.3),
        (0.05, 0.05, 0.05, 0.01, 0.0, 0.1),
        (0.3, 0.05, 0.05, 0.01, 0.2, 0.1),
    ):
        with pytest.raises(ValueError, match=r"never climbs|beside each other|begins before"):
            belly_clearance(*figures)
