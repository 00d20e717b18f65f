"""Joints and bodies that turn: arms against gravity, slews by a reaction wheel, flaps in a stream of air."""

import math

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.method import method, require


class JointTorque(Struct, frozen=True):
    torque_n_m: float
    inertia_kg_m2: float


@method(
    "joint-torque",
    source="sum of moments; a uniform link, m·L²/3",
    checked="moments by hand",
    limits="one joint, level axis, rigid link",
)
def joint_torque(
    payload_kg: float, reach_m: float, angle_deg: float, link_mass_kg: float = 0.0, link_length_m: float = 0.0,
    acceleration_rad_s2: float = 0.0,
) -> JointTorque:  # fmt: skip
    """Torque that holds and accelerates an arm at an angle.

    Args:
        payload_kg: mass at the end
        reach_m: from the joint to that mass
        angle_deg: angle above level
        link_mass_kg: mass of the arm itself
        link_length_m: length of the arm
        acceleration_rad_s2: angular acceleration upwards
    Returns:
        torque_n_m: torque at the joint
        inertia_kg_m2: inertia about the joint
    Raises:
        ValueError: a mass or length below zero.
    """
    require(min(payload_kg, reach_m, link_mass_kg, link_length_m) >= 0, "masses and lengths are 0 or more")
    inertia = payload_kg * reach_m**2 + link_mass_kg * link_length_m**2 / 3
    moment = payload_kg * reach_m + link_mass_kg * link_length_m / 2
    return JointTorque(G * moment * math.cos(math.radians(angle_deg)) + inertia * acceleration_rad_s2, inertia)


class Pendulum(Struct, frozen=True):
    period_s: float
    energy_j: float
    holding_n_m: float


@method(
    "pendulum",
    source="T = 2π·√(I/(m·g·d)) / agm(1, cos(A/2)), Gauss's mean, exact at any amplitude",
    checked="scipy's complete elliptic integral, and its motion by solve_ivp",
    limits="one rigid body on a level axis, no friction",
)
def pendulum(mass_kg: float, centre_m: float, inertia_kg_m2: float, amplitude_deg: float = 1.0) -> Pendulum:
    """How a body on a joint swings by itself.

    Args:
        mass_kg: mass that swings
        centre_m: from the joint to its centre of mass
        inertia_kg_m2: its inertia about the joint
        amplitude_deg: how far it swings to either side of hanging down
    Returns:
        period_s: time to and fro
        energy_j: energy of the swing, from its lowest to its end
        holding_n_m: torque that holds it at the end of its swing, or the most on the way where that is more
    Raises:
        ValueError: a figure that is not above zero, or an amplitude of 180° or more.
    """
    require(min(mass_kg, centre_m, inertia_kg_m2) > 0, "mass, distance and inertia are above 0")
    require(0 < amplitude_deg < 180, "the amplitude is above 0° and below 180°")
    swing = math.radians(amplitude_deg)
    weight = mass_kg * G * centre_m
    one, other = 1.0, math.cos(swing / 2)
    while abs(one - other) > 1e-15 * one:
        one, other = (one + other) / 2, math.sqrt(one * other)
    held = weight * math.sin(min(swing, math.pi / 2))
    return Pendulum(2 * math.pi * math.sqrt(inertia_kg_m2 / weight) / one, weight * (1 - math.cos(swing)), held)


def swing_torques(
    mass_kg: float, centre_m: float, inertia_kg_m2: float, amplitude_deg: float, period_s: float, instants: int
) -> tuple[Array, Array]:
    """Speed and torque at its joint over one to and fro, θ = A·cos ωt: I·θ'' + m·g·d·sin θ."""
    at = np.linspace(0.0, 2 * math.pi, instants)
    swing, pace = math.radians(amplitude_deg), 2 * math.pi / period_s
    angle = swing * np.cos(at)
    pulled = mass_kg * G * centre_m * np.sin(angle) - inertia_kg_m2 * pace**2 * angle
    return -swing * pace * np.sin(at), pulled


class Slew(Struct, frozen=True):
    torque_n_m: float
    momentum_n_m_s: float
    wheel_speed_change_rad_s: float


@method(
    "reaction-wheel-slew",
    source="conservation of angular momentum; full on, then full back",
    checked="its own motion, stepped",
    limits="one axis, no outside torque",
)
def reaction_wheel_slew(body_inertia_kg_m2: float, angle_deg: float, time_s: float, wheel_inertia_kg_m2: float) -> Slew:
    """What a reaction wheel must give to turn a body by an angle in a time.

    Args:
        body_inertia_kg_m2: inertia of the body
        angle_deg: angle to turn
        time_s: time for it, from rest to rest
        wheel_inertia_kg_m2: inertia of the wheel
    Returns:
        torque_n_m: torque of the wheel, 4·J·θ/t²
        momentum_n_m_s: most momentum it takes up, 2·J·θ/t
        wheel_speed_change_rad_s: change of its speed
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(min(body_inertia_kg_m2, angle_deg, time_s, wheel_inertia_kg_m2) > 0, "figures are above 0")
    angle = math.radians(angle_deg)
    torque, momentum = 4 * body_inertia_kg_m2 * angle / time_s**2, 2 * body_inertia_kg_m2 * angle / time_s
    return Slew(torque, momentum, momentum / wheel_inertia_kg_m2)


class Flap(Struct, frozen=True):
    drag_n: float
    weight_n: float
    lift_ratio: float


@method(
    "airflow-flap",
    source="drag, ½·ρ·v²·C_D·A, against weight",
    checked="values worked by hand",
    limits="flat flap across an even stream",
)
def airflow_flap(
    mass_kg: float, area_m2: float, speed_m_s: float, drag_coefficient: float = 1.2, density_kg_m3: float = 1.225
) -> Flap:  # fmt: skip
    """Drag of a stream of air on a flap, against the flap's weight.

    Args:
        mass_kg: mass of the flap
        area_m2: area across the stream
        speed_m_s: speed of the air
        drag_coefficient: drag coefficient, about 1.2 for a flat plate
        density_kg_m3: density of the air
    Returns:
        drag_n: drag on it
        weight_n: its weight
        lift_ratio: drag over weight; from 1 the stream carries it
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(min(mass_kg, area_m2, speed_m_s, drag_coefficient, density_kg_m3) > 0, "figures are above 0")
    drag = density_kg_m3 * speed_m_s**2 * drag_coefficient * area_m2 / 2
    return Flap(drag, mass_kg * G, drag / (mass_kg * G))
