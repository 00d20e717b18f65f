"""Joints and bodies that turn: arms against gravity, slews by a reaction wheel, flaps in a stream of air."""

import math

from msgspec import Struct

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
