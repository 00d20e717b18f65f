"""A whole vehicle at a step, and turning on the spot. Plane statics."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require

DRIVEN = ("front", "rear", "both")


class TwoAxleStep(Struct, frozen=True):
    friction_front: float | None
    friction_rear: float | None
    climbs: bool


@method("two-axle-step",
        source="plane statics of the level vehicle as the wheel leaves the floor; drive torque reacts on the body",
        limits="both wheels of an axle at once, rigid wheels, one friction everywhere, no run-up")  # fmt: skip
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
    wheels = wheelbase_m, wheel_radius_m, wheel_radius_m
    front = front_at_edge(*wheels, wheelbase_m - centre_to_front_m, step_m, driven)
    rear = rear_at_edge(*wheels, wheelbase_m - centre_to_front_m, None, step_m, driven)
    front_needs, rear_needs = (axle.friction if axle is not None else None for axle in (front, rear))
    return TwoAxleStep(front_needs, rear_needs, front_needs is not None and rear_needs is not None)


class Touch(Struct, frozen=True):
    """Where a wheel touches, in a plane: its place, how far what pushes it leans back, and whether it is driven."""

    x_m: float
    z_m: float
    lean_rad: float
    driven: bool


class Held(Struct, frozen=True):
    """Two wheels that hold a vehicle up: the friction both use, and what each bears and drives with, by the weight."""

    friction: float
    normal: tuple[float, float]
    drive: tuple[float, float]


def front_at_edge(
    wheelbase_m: float, front_radius_m: float, rear_radius_m: float, centre_x_m: float, step_m: float, driven: str
) -> Held | None:
    """The front axle at the edge of a step, the rear one on the floor; None where no friction does it.

    The vehicle is level: the wheel is just about to leave the floor.

    Args:
        wheelbase_m: from the rear axle forward to the front one
        front_radius_m: radius of the front wheels
        rear_radius_m: radius of the rear wheels, which does not matter here
        centre_x_m: from the rear axle forward to the centre of mass
        step_m: height of the step
        driven: front, rear or both
    """
    if step_m >= front_radius_m:
        return None
    lean = math.acos(1 - step_m / front_radius_m)
    edge = Touch(wheelbase_m + front_radius_m * math.sin(lean), step_m, lean, driven != "rear")
    return held_by(edge, Touch(0.0, 0.0, 0.0, driven != "front"), centre_x_m)


def rear_at_edge(
    wheelbase_m: float, front_radius_m: float, rear_radius_m: float, centre_x_m: float, centre_z_m: float | None,
    step_m: float, driven: str,
) -> Held | None:  # fmt: skip
    """The rear axle at the edge, the front one on the floor above; None where no friction does it.

    With the height of the centre of mass the vehicle leans back as far as it does then; with None it is taken as level.
    """
    if step_m >= rear_radius_m:
        return None
    lean = math.acos(1 - step_m / rear_radius_m)
    edge = Touch(rear_radius_m * math.sin(lean), step_m, lean, driven != "front")
    if centre_z_m is None:
        return held_by(edge, Touch(wheelbase_m, 0.0, 0.0, driven != "rear"), centre_x_m)
    apart, higher = math.hypot(wheelbase_m, front_radius_m - rear_radius_m), front_radius_m - rear_radius_m
    if step_m + higher >= apart:
        return None
    pitch = math.asin((step_m + higher) / apart) - math.asin(higher / apart)
    ahead = math.sqrt(apart**2 - (step_m + higher) ** 2)
    back = centre_x_m * math.cos(pitch) - (centre_z_m - rear_radius_m) * math.sin(pitch)
    return held_by(edge, Touch(ahead, step_m, 0.0, driven != "rear"), back)


def held_by(one: Touch, other: Touch, weight_x_m: float) -> Held | None:
    """Least friction, the same at both, with which two wheels hold a weight of 1 in balance; None where none does.

    With normals N and drives μ·N the level and upright forces and the moments balance: without N that is a quadratic
    in μ. Its least root at which both wheels press is taken.
    """
    if one.lean_rad == other.lean_rad == 0:
        share = (weight_x_m - other.x_m) / (one.x_m - other.x_m)
        return Held(0.0, (share, 1 - share), (0.0, 0.0)) if 0 <= share <= 1 else None
    (x1, z1, m1), (x2, z2, m2) = _lines(one), _lines(other)
    turned = _minus(_times(x1, z2), _times(x2, z1))
    balance = _minus(_minus(_times(x1, m2), _times(x2, m1)), tuple(weight_x_m * c for c in turned))
    for friction in _roots(balance):
        a, b, c, d = (_at(line, friction) for line in (z1, z2, m1, m2))
        if (whole := a * d - b * c) == 0:
            continue
        first, second = (d - weight_x_m * b) / whole, (weight_x_m * a - c) / whole
        straight = first * _at(x1, friction) + second * _at(x2, friction)
        if min(first, second) >= -1e-12 and abs(straight) <= 1e-9 * (1 + abs(first) + abs(second)):
            drives = friction * first if one.driven else 0.0, friction * second if other.driven else 0.0
            return Held(friction, (first, second), drives)
    return None


Polynomial = tuple[float, ...]
"""Coefficients, that of the power 0 first."""


def _lines(touch: Touch) -> tuple[Polynomial, Polynomial, Polynomial]:
    """Level and upright part and moment of what a wheel gives for a normal of 1, each straight in the friction."""
    sin, cos, driven = math.sin(touch.lean_rad), math.cos(touch.lean_rad), float(touch.driven)
    level, upright = (-sin, driven * cos), (cos, driven * sin)
    return level, upright, _minus(tuple(touch.x_m * c for c in upright), tuple(touch.z_m * c for c in level))


def _times(one: Polynomial, other: Polynomial) -> Polynomial:
    return one[0] * other[0], one[0] * other[1] + one[1] * other[0], one[1] * other[1]


def _minus(one: Polynomial, other: Polynomial) -> Polynomial:
    return tuple(a - b for a, b in zip(one, other, strict=True))


def _at(line: Polynomial, x: float) -> float:
    return line[0] + line[1] * x


def _roots(polynomial: Polynomial) -> list[float]:
    """Roots above 0 of a polynomial of the second order or less, the least first."""
    fixed, straight, square = polynomial
    size = max(map(abs, polynomial))
    if abs(square) <= 1e-14 * size:
        return [r for r in [-fixed / straight if straight else -1.0] if r > 0]
    inside = straight**2 - 4 * square * fixed
    if inside < 0:
        return []
    half = -(straight + math.copysign(math.sqrt(inside), straight)) / 2
    found = [half / square, fixed / half if half else -1.0]
    return sorted(r for r in found if r > 0)


class SkidTurn(Struct, frozen=True):
    moment_n_m: float
    force_per_side_n: float
    torque_per_side_n_m: float


@method("skid-turn", source="Wong, Theory of Ground Vehicles: μ·W·L/2 for four wheels",
        limits="four wheels that carry alike and slip sideways; slow, level ground")  # fmt: skip
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
