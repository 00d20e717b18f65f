"""A whole vehicle at a step, and turning on the spot. Plane statics."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require

DRIVEN = ("front", "rear", "both")


class TwoAxleStep(Struct, frozen=True):
    friction_front: float | None
    friction_rear: float | None
    climbs: bool


class Axle(Struct, frozen=True):
    """An axle at the edge of a step: least friction that takes it up, and the driven wheels' part in that.

    Forces are shares of the weight; "edge" is the axle at the step, "floor" the other one.
    """

    friction: float
    edge_normal: float
    edge_drive: float
    floor_drive: float


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
    front = front_axle(wheelbase_m, centre_to_front_m, wheel_radius_m, step_m, driven)
    rear = rear_axle(wheelbase_m, centre_to_front_m, wheel_radius_m, step_m, driven)
    front_needs, rear_needs = (axle.friction if axle is not None else None for axle in (front, rear))
    return TwoAxleStep(front_needs, rear_needs, front_needs is not None and rear_needs is not None)


def front_axle(wheelbase_m: float, to_front_m: float, radius_m: float, step_m: float, driven: str) -> Axle | None:
    """The front axle at the edge, the rear one on the floor; None where no friction takes it up.

    The edge pushes along the line to the axle, which leans back by θ = acos(1 − h/r), and by the drive across it; all
    outer forces and their moments balance. With both driven, both use up the same friction: the least that does it.
    """
    if step_m >= radius_m:
        return None
    cos = 1 - step_m / radius_m
    sin = math.sqrt(1 - cos * cos)
    share = wheelbase_m - to_front_m
    along, across = wheelbase_m * cos + radius_m * sin, wheelbase_m * sin + radius_m * (1 - cos)
    if driven == "front":
        normal = share / (along + across * sin / cos)
        return Axle(sin / cos, normal, normal * sin / cos, 0.0)
    if driven == "rear":
        normal = share / along
        return Axle(normal * sin / (1 - normal * cos), normal, 0.0, normal * sin)
    return _both(share, along, across, sin, cos)


def rear_axle(wheelbase_m: float, to_front_m: float, radius_m: float, step_m: float, driven: str) -> Axle | None:
    """The rear axle at the edge, the front one ahead of it on the floor above; None where no friction takes it up.

    Where the drive of the rear wheels would lift the front off the floor before it lifts the machine, none does.
    """
    if step_m >= radius_m:
        return None
    cos = 1 - step_m / radius_m
    sin = math.sqrt(1 - cos * cos)
    along, across = wheelbase_m * cos - radius_m * sin, wheelbase_m * sin - radius_m * (1 - cos)
    if along <= 0:
        return None
    if driven == "rear":
        normal = to_front_m / (along + across * sin / cos)
        found = Axle(sin / cos, normal, normal * sin / cos, 0.0)
        return found if normal / cos <= 1 else None
    if driven == "front":
        normal = to_front_m / along
        return Axle(normal * sin / (1 - normal * cos), normal, 0.0, normal * sin) if normal * cos < 1 else None
    found_both = _both(to_front_m, along, across, sin, cos)
    if found_both is None or found_both.edge_normal * (cos + found_both.friction * sin) > 1:
        return None
    return found_both


def _both(share_m: float, along_m: float, across_m: float, sin: float, cos: float) -> Axle | None:
    """Both axles driven: μ/(1 + μ²) = N·sin θ with N = a/(B + μ·C), a quadratic in μ; its least root above 0."""
    square, straight, fixed = across_m - share_m * sin, along_m, -share_m * sin
    inside = straight**2 - 4 * square * fixed
    if inside < 0:
        return None
    friction = -2 * fixed / (straight + math.sqrt(inside))
    normal = share_m / (along_m + friction * across_m)
    return Axle(friction, normal, friction * normal, friction * (1 - normal * (cos + friction * sin)))


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
