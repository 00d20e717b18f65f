"""A whole vehicle at a step, and turning on the spot. Plane statics."""

import math
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.method import method, require
from wired_union.physics.sources import WONG

DRIVEN = ("front", "rear", "both")


class TwoAxleStep(Struct, frozen=True):
    friction_front: float | None
    friction_rear: float | None
    climbs: bool


@method(
    "two-axle-step",
    source="plane statics of the level vehicle as the wheel leaves the floor; drive torque reacts on the body",
    checked="a linear programme by scipy",
    limits="both wheels of an axle at once, rigid wheels, one friction everywhere, no run-up",
)
def two_axle_step(
    weight_n: float, wheelbase_m: float, centre_to_front_m: float, wheel_radius_m: float, step_m: float,
    driven: str = "both",
) -> TwoAxleStep:  # fmt: skip
    """Least friction with which a vehicle of two axles gets over a step, first one axle, then the other.

    Args:
        weight_n: weight of the whole
        wheelbase_m: from axle to axle
        centre_to_front_m: from the front axle back to the centre of mass
        wheel_radius_m: radius of a wheel
        step_m: height of the step
        driven: which axle is driven: front, rear or both
    Returns:
        friction_front: least friction with which the front axle goes up; none where no friction does it
        friction_rear: least friction with which the rear axle follows; none where no friction does it
        climbs: whether any friction takes both up
    Raises:
        ValueError: a figure that is not above zero, a centre that is not between the axles, or an unknown axle.
    """
    require(weight_n > 0 and wheel_radius_m > 0 and wheelbase_m > 0, "weight, radius and wheelbase are above 0")
    require(step_m >= 0, "the step is 0 or more")
    require(0 < centre_to_front_m < wheelbase_m, "the centre of mass lies between the axles")
    require(driven in DRIVEN, "driven is front, rear or both")
    if step_m == 0:
        return TwoAxleStep(0.0, 0.0, True)
    centre = wheelbase_m - centre_to_front_m
    front = held_by(front_at_edge(wheelbase_m, wheel_radius_m, centre, step_m, driven)).friction
    rear = held_by(rear_at_edge(wheelbase_m, wheel_radius_m, wheel_radius_m, centre, None, step_m, driven)).friction
    front_needs, rear_needs = (float(needs) if np.isfinite(needs) else None for needs in (front, rear))
    return TwoAxleStep(front_needs, rear_needs, front_needs is not None and rear_needs is not None)


class Touch(Struct, frozen=True):
    """Where a wheel touches, in a plane: its place, how far what pushes it leans back, and whether it is driven.

    Figures or arrays of figures, one for each case.
    """

    x_m: Any
    z_m: Any
    lean_rad: Any
    driven: Any
    """1 where it is driven, else 0"""


class AtStep(Struct, frozen=True):
    """A vehicle at a step: the wheels of the axle at its edge, those on the floor, and where the weight is."""

    edge: Touch
    floor: Touch
    weight_x_m: Any


class Held(Struct, frozen=True):
    """Two wheels that hold a vehicle up: the friction both use, and what each bears and drives with, by the weight.

    Arrays, one figure for each case; nan where no friction does it.
    """

    friction: Array
    normal: tuple[Array, Array]
    drive: tuple[Array, Array]


def front_at_edge(wheelbase_m: float, front_radius_m: float, centre_x_m: Any, step_m: Any, driven: str) -> AtStep:
    """The front axle at the edge of a step, the rear one on the floor, level: the wheel is about to leave the floor.

    Args:
        wheelbase_m: from the rear axle forward to the front one
        front_radius_m: radius of the front wheels
        centre_x_m: from the rear axle forward to the centre of mass; a figure, or an array of cases
        step_m: height of the step; likewise
        driven: front, rear or both
    """
    lean = _lean(step_m, front_radius_m)
    edge = Touch(wheelbase_m + front_radius_m * np.sin(lean), step_m, lean, driven != "rear")
    return AtStep(edge, Touch(0.0, 0.0, 0.0, driven != "front"), centre_x_m)


def rear_at_edge(
    wheelbase_m: float, front_radius_m: float, rear_radius_m: float, centre_x_m: Any, centre_z_m: Any, step_m: Any,
    driven: str,
) -> AtStep:  # fmt: skip
    """The rear axle at the edge, the front one on the floor above.

    With the height of the centre of mass the vehicle leans back as far as it does then; with None it is taken as level.
    Args and shapes as of `front_at_edge`.
    """
    lean = _lean(step_m, rear_radius_m)
    edge = Touch(rear_radius_m * np.sin(lean), step_m, lean, driven != "front")
    if centre_z_m is None:
        return AtStep(edge, Touch(wheelbase_m, 0.0, 0.0, driven != "rear"), centre_x_m)
    higher = front_radius_m - rear_radius_m
    apart = math.hypot(wheelbase_m, higher)
    with np.errstate(invalid="ignore"):
        pitch = np.arcsin((step_m + higher) / apart) - math.asin(higher / apart)
        ahead = np.sqrt(apart**2 - (step_m + higher) ** 2)
    back = centre_x_m * np.cos(pitch) - (centre_z_m - rear_radius_m) * np.sin(pitch)
    return AtStep(edge, Touch(ahead, step_m, 0.0, driven != "rear"), back)


def _lean(step_m: Any, radius_m: float) -> Array:
    """How far back the line from an edge to the axle leans; nan for a step as high as the radius or higher."""
    cos = 1 - np.asarray(step_m, float) / radius_m
    return np.arccos(np.where(cos > 0, cos, np.nan))


def held_by(at: AtStep) -> Held:
    """Least friction, the same at both, with which two wheels hold a weight of 1 in balance.

    With normals N and drives μ·N the level and upright forces and the moments balance: without N that is a quadratic
    in μ. Its least root at which both wheels press is taken.
    """
    weight_x_m = at.weight_x_m
    (x1, z1, m1), (x2, z2, m2) = _lines(at.edge), _lines(at.floor)
    turned = _minus(_times(x1, z2), _times(x2, z1))
    balance = _minus(_minus(_times(x1, m2), _times(x2, m1)), tuple(weight_x_m * c for c in turned))
    with np.errstate(divide="ignore", invalid="ignore"):
        friction = _roots(balance)
        a, b, c, d = (_at(line, friction) for line in (z1, z2, m1, m2))
        whole = a * d - b * c
        first, second = (d - weight_x_m * b) / whole, (weight_x_m * a - c) / whole
        left = np.abs(first * _at(x1, friction) + second * _at(x2, friction))
        good = (np.minimum(first, second) >= -1e-12) & (left <= 1e-9 * (1 + np.abs(first) + np.abs(second)))
        friction = np.where(good, friction, np.inf)
    second_root = friction[1] < friction[0]
    friction, first, second = (np.where(second_root, v[1], v[0]) for v in (friction, first, second))
    friction = np.where(np.isfinite(friction), friction, np.nan)
    none = 0 * friction  # nan where there is none
    first, second = first + none, second + none
    return Held(friction, (first, second), (friction * first * at.edge.driven, friction * second * at.floor.driven))


Polynomial = tuple[Any, ...]
"""Coefficients, that of the power 0 first; each a figure or an array of cases."""


def _lines(touch: Touch) -> tuple[Polynomial, Polynomial, Polynomial]:
    """Level and upright part and moment of what a wheel gives for a normal of 1, each straight in the friction."""
    sin, cos, driven = np.sin(touch.lean_rad), np.cos(touch.lean_rad), touch.driven * 1.0
    level, upright = (-sin, driven * cos), (cos, driven * sin)
    return level, upright, _minus(tuple(touch.x_m * c for c in upright), tuple(touch.z_m * c for c in level))


def _times(one: Polynomial, other: Polynomial) -> Polynomial:
    return one[0] * other[0], one[0] * other[1] + one[1] * other[0], one[1] * other[1]


def _minus(one: Polynomial, other: Polynomial) -> Polynomial:
    return tuple(a - b for a, b in zip(one, other, strict=True))


def _at(line: Polynomial, x: Array) -> Array:
    found: Array = line[0] + line[1] * x
    return found


def _roots(polynomial: Polynomial) -> Array:
    """The two roots of each case, in rows; inf for one that is not above 0 or is none."""
    fixed, straight, square = np.broadcast_arrays(*(np.asarray(c, float) for c in polynomial))
    half = -(straight + np.copysign(np.sqrt(straight**2 - 4 * square * fixed), straight)) / 2
    found = np.stack([half / square, fixed / half])
    return np.where(found > 0, found, np.inf)


class BellyClearance(Struct, frozen=True):
    height_m: float


@method(
    "belly-clearance",
    source="plane geometry: the edge of a step in the frame of a vehicle that stands over it",
    checked="the vehicle rolled over the step by scipy's brentq, place by place",
    limits="a square step, both wheels of an axle at once, rigid wheels and ground",
)
def belly_clearance(
    wheelbase_m: float, front_radius_m: float, rear_radius_m: float, step_m: float, from_m: float, to_m: float
) -> BellyClearance:
    """How high over the floor something under a vehicle must be, so that a step does not touch it on the way over.

    Args:
        wheelbase_m: from axle to axle
        front_radius_m: radius of the front wheels
        rear_radius_m: radius of the rear wheels
        step_m: height of the step
        from_m: where it begins, forward of the rear axle; below 0 for a tail
        to_m: where it ends; beyond the wheelbase for a nose
    Returns:
        height_m: least height of its underside while the vehicle stands level
    Raises:
        ValueError: a figure that is not above zero, wheels in each other, an end before its beginning, or a step as
            high as a wheel's radius or higher.
    """
    require(min(front_radius_m, rear_radius_m) > 0 and step_m >= 0, "radii are above 0, the step is 0 or more")
    require(step_m < min(front_radius_m, rear_radius_m), "a wheel never climbs a step as high as its radius")
    require(wheelbase_m >= front_radius_m + rear_radius_m, "the wheels stand beside each other")
    require(from_m <= to_m, "it begins before it ends")
    found = heights_under(wheelbase_m, front_radius_m, rear_radius_m, step_m, np.array([from_m]), np.array([to_m]))
    return BellyClearance(float(found[0]))


def heights_under(
    wheelbase_m: float, front_radius_m: float, rear_radius_m: float, step_m: float, from_m: Array, to_m: Array
) -> Array:
    """The height of `belly_clearance` for several things at once: arrays of one figure each.

    Seen from the vehicle, a step comes along the floor to the front wheel, follows its rim, goes straight back to the
    rear wheel while the vehicle leans by θ, and follows that rim. The floor rises behind it meanwhile: as far back as
    r·sin θ it touches the rim on its way, beyond that it is highest at the whole θ. The step is highest where the
    straight line meets the rear rim, and falls from there to both sides.
    """
    higher = front_radius_m - rear_radius_m
    apart = math.hypot(wheelbase_m, higher)
    lean = math.asin((step_m + higher) / apart) - math.asin(higher / apart)
    sin, cos = math.sin(lean), math.cos(lean)
    met = math.sqrt(step_m * (2 * rear_radius_m - step_m))  # from the rear axle to the edge as it meets the rim
    top = met * cos + (step_m - rear_radius_m) * sin, (step_m - rear_radius_m) * cos - met * sin + rear_radius_m
    front = math.sqrt(step_m * (2 * front_radius_m - step_m))

    def at(x: Array) -> Array:
        straight = top[1] - (x - top[0]) * math.tan(lean)
        rear_rim = rear_radius_m - np.sqrt(rear_radius_m**2 - np.clip(x, -rear_radius_m, rear_radius_m) ** 2)
        ahead = np.clip(x - wheelbase_m, 0.0, front)
        front_rim = front_radius_m - np.sqrt(front_radius_m**2 - ahead**2)
        behind = rear_radius_m * (1 - 1 / cos) - x * math.tan(lean)
        where = [x <= -rear_radius_m * sin, x <= top[0], x < wheelbase_m]
        return np.select(where, [behind, rear_rim, np.maximum(straight, 0.0)], front_rim)

    ends = np.maximum(at(from_m), at(to_m))
    return np.maximum(np.where((from_m <= top[0]) & (to_m >= top[0]), np.maximum(ends, top[1]), ends), 0.0)


class SkidTurn(Struct, frozen=True):
    moment_n_m: float
    force_per_side_n: float
    torque_per_side_n_m: float


@method(
    "skid-turn",
    source="μ·W·L/2 for four wheels",
    works=(WONG,),
    checked="values worked by hand",
    limits="four wheels that carry alike and slip sideways; slow, level ground",
)
def skid_turn(
    weight_n: float, wheelbase_m: float, track_m: float, lateral_friction: float, wheel_radius_m: float
) -> SkidTurn:
    """What it takes to turn a vehicle with fixed wheels on the spot.

    Args:
        weight_n: weight of the whole
        wheelbase_m: from axle to axle
        track_m: from the left wheels to the right ones
        lateral_friction: friction of a wheel that is dragged sideways
        wheel_radius_m: radius of a wheel
    Returns:
        moment_n_m: moment that turns it against the scrub
        force_per_side_n: force that the wheels of one side push with, those of the other against it
        torque_per_side_n_m: torque of all wheels of one side
    Raises:
        ValueError: a figure that is not above zero, or a friction below zero.
    """
    require(min(weight_n, wheelbase_m, track_m, wheel_radius_m) > 0, "weight, lengths and radius are above 0")
    require(lateral_friction >= 0, "the friction is 0 or more")
    moment = lateral_friction * weight_n * wheelbase_m / 2
    return SkidTurn(moment, moment / track_m, moment / track_m * wheel_radius_m)
