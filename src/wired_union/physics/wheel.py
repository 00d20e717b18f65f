"""Wheels on a slope and at a step, and when a machine tips. Statics."""

import math

from msgspec import Struct

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.method import method, require


class DriveTorque(Struct, frozen=True):
    torque_per_wheel_n_m: float
    friction_needed: float


@method(
    "drive-torque",
    source="statics",
    checked="values worked by hand",
    limits="driven wheels share the force evenly and carry the whole weight",
)
def drive_torque(
    mass_kg: float, slope_deg: float, rolling_resistance: float, acceleration_m_s2: float, wheel_radius_m: float,
    driven_wheels: float,
) -> DriveTorque:  # fmt: skip
    """Torque at each driven wheel to climb, roll and accelerate, and the grip that takes.

    Args:
        mass_kg: mass of the whole
        slope_deg: slope it climbs
        rolling_resistance: rolling resistance as a share of the weight on the wheels
        acceleration_m_s2: acceleration up the slope
        wheel_radius_m: radius of a wheel
        driven_wheels: how many wheels are driven
    Returns:
        torque_per_wheel_n_m: torque at one driven wheel
        friction_needed: friction between wheel and ground that this takes
    Raises:
        ValueError: mass, radius or number of wheels that is not above zero, or a slope of 90° or more.
    """
    require(mass_kg > 0 and wheel_radius_m > 0 and driven_wheels > 0, "mass, radius and driven wheels are above 0")
    require(-90 < slope_deg < 90, "the slope is below 90°")
    require(rolling_resistance >= 0, "the rolling resistance is 0 or more")
    slope = math.radians(slope_deg)
    weight = mass_kg * G
    force = weight * (math.sin(slope) + rolling_resistance * math.cos(slope)) + mass_kg * acceleration_m_s2
    return DriveTorque(force * wheel_radius_m / driven_wheels, force / (weight * math.cos(slope)))


class StepClimb(Struct, frozen=True):
    torque_n_m: float
    push_n: float


@method(
    "step-climb",
    source="moments about the edge, W·√(h(2r − h))",
    checked="moments by hand",
    limits="one rigid wheel at a time, lifting off the ground; no run-up",
)
def step_climb(wheel_load_n: float, wheel_radius_m: float, step_m: float) -> StepClimb:
    """Torque at a wheel, or push at its axle, that lifts it over a step.

    Args:
        wheel_load_n: weight on the wheel
        wheel_radius_m: radius of the wheel
        step_m: height of the step
    Returns:
        torque_n_m: torque at the wheel
        push_n: level push at the axle that does it instead
    Raises:
        ValueError: a step as high as the radius or higher, which no wheel climbs.
    """
    require(wheel_radius_m > 0 and wheel_load_n >= 0 and step_m >= 0, "radius is above 0, load and step are 0 or more")
    require(step_m < wheel_radius_m, f"a wheel never climbs a step as high as its radius, {wheel_radius_m:.4g} m")
    torque = wheel_load_n * math.sqrt(step_m * (2 * wheel_radius_m - step_m))
    return StepClimb(torque, torque / (wheel_radius_m - step_m))


def step_friction(wheel_radius_m: float, step_m: float, wheels: int, driven_wheels: int) -> float:
    """Least friction with which an axle of two wheels is taken over a step by itself and the rest.

    All wheels carry the same; the vehicle stands level, as a wheel leaves the floor. An edge at the angle
    θ = acos(1 − h/r) holds a driven wheel by a force that leans back by θ − φ at most, φ = atan μ, an undriven one by
    θ; the other driven wheels push with μ of what they carry. Source: plane statics; with all wheels driven and half
    the weight on each axle it is tan(θ/2).

    Args:
        wheel_radius_m: radius of a wheel
        step_m: height of the step, below the radius
        wheels: how many wheels carry the weight
        driven_wheels: how many of them are driven
    """
    lean = math.tan(math.acos(1 - step_m / wheel_radius_m))
    led, rest, still = _axles(wheels, driven_wheels)
    if rest == 0:
        own = lean
    else:  # led·tan(θ − φ) = μ·rest, with tan(θ − φ) = (tan θ − μ)/(1 + μ·tan θ)
        k = rest / led
        own = 2 * lean / (math.sqrt((1 + k) ** 2 + 4 * k * lean**2) + 1 + k)
    return max(own, still * lean / driven_wheels)


def steepest_lean(friction: float, wheels: int, driven_wheels: int) -> float:
    """Largest tan θ of an edge that a friction takes an axle over: `step_friction` the other way round."""
    led, rest, still = _axles(wheels, driven_wheels)
    k = rest / led
    left = 1 - k * friction**2
    own = (1 + k) * friction / left if left > 0 else math.inf
    return min(own, friction * driven_wheels / still) if still else own


def _axles(wheels: int, driven_wheels: int) -> tuple[int, int, int]:
    """Driven wheels of the axle at the edge, driven wheels behind it, and undriven ones that may stand there."""
    axle = min(2, wheels)
    led = min(axle, driven_wheels)
    return led, driven_wheels - led, min(axle, wheels - driven_wheels)


class TipAngle(Struct, frozen=True):
    angle_deg: float


@method(
    "tip-angle",
    source="statics: moments about the edge",
    checked="moments solved by scipy's brentq",
    limits="rigid, on firm ground; what pushes lasts",
)
def tip_angle(
    half_base_m: float, centre_height_m: float, acceleration_m_s2: float = 0.0, push_n: float = 0.0,
    push_height_m: float = 0.0, weight_n: float = 0.0,
) -> TipAngle:  # fmt: skip
    """Slope at which a machine tips over the edge of its base, at rest or while it brakes or is pushed.

    Args:
        half_base_m: from below the centre of mass to the edge it tips over, level
        centre_height_m: height of the centre of mass
        acceleration_m_s2: how hard it brakes, starts or turns towards the edge
        push_n: push along the slope towards the edge
        push_height_m: how high it is pushed
        weight_n: weight of the machine; only a push asks for it
    Returns:
        angle_deg: slope at which it tips; below 0 where it tips on the flat, −90 where nothing would hold it
    Raises:
        ValueError: a base or height that is not above zero, another figure below zero, a push without a weight.
    """
    require(half_base_m > 0 and centre_height_m > 0, "base and height are above 0")
    require(min(acceleration_m_s2, push_n, push_height_m, weight_n) >= 0, "acceleration, push and weight are 0 or more")
    require(push_n == 0 or weight_n > 0, "a push asks for the weight")
    at_rest = math.degrees(math.atan2(half_base_m, centre_height_m))
    pushed = push_n * push_height_m / weight_n / math.hypot(half_base_m, centre_height_m) if push_n else 0.0
    return TipAngle(disturbed_deg(at_rest, acceleration_m_s2, pushed))


def disturbed_deg(at_rest_deg: float, acceleration_m_s2: float, pushed: float) -> float:
    """Slope at which it tips, from the one at rest: α = φ − asin(a/g·cos φ + P·z/(W·R)); −90 where nothing holds it.

    `pushed` is P·z/(W·R), with R from the edge to the centre of mass. From W·(d·cos α − h·sin α) = m·a·h + P·z with
    d = R·sin φ and h = R·cos φ.
    """
    lean = acceleration_m_s2 / G * math.cos(math.radians(at_rest_deg)) + pushed
    return at_rest_deg - math.degrees(math.asin(lean)) if lean < 1 else -90.0
