"""Sudden forces: a drop, a canopy that opens, a wheel out of balance, and what a gripper must hold against."""

import math

from msgspec import Struct

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.method import method, require
from wired_union.physics.sources import KNACKE, SHIGLEY


class DropLoad(Struct, frozen=True):
    force_n: float
    deflection_m: float


@method(
    "drop-load",
    source="energy, m·g·(1 + √(1 + 2·h·k/(m·g)))",
    works=(f"{SHIGLEY}, section 4-17",),
    checked="its motion by scipy's solve_ivp",
    limits="one spring takes it all, nothing is lost; a light spring, no rebound",
)
def drop_load(mass_kg: float, drop_m: float, stiffness_n_per_m: float) -> DropLoad:
    """Largest force when a mass drops on something springy.

    Args:
        mass_kg: mass that drops
        drop_m: how far it falls before it touches
        stiffness_n_per_m: stiffness of what it drops on, or of its own feet
    Returns:
        force_n: largest force
        deflection_m: how far the spring gives
    Raises:
        ValueError: a mass or stiffness that is not above zero, or a drop below zero.
    """
    require(
        mass_kg > 0 and stiffness_n_per_m > 0 and drop_m >= 0, "mass and stiffness are above 0, the drop is 0 or more"
    )
    weight = mass_kg * G
    force = weight * (1 + math.sqrt(1 + 2 * drop_m * stiffness_n_per_m / weight))
    return DropLoad(force, force / stiffness_n_per_m)


class Shock(Struct, frozen=True):
    force_n: float


@method(
    "opening-shock",
    source="infinite mass, ½·ρ·v²·C_D·A·C_x",
    works=(KNACKE,),
    checked="values worked by hand",
    limits="a bound: as if nothing slowed down while the canopy fills",
)
def opening_shock(
    density_kg_m3: float, speed_m_s: float, area_m2: float, drag_coefficient: float, opening_factor: float = 1.8
) -> Shock:  # fmt: skip
    """Most that a canopy pulls as it opens.

    Args:
        density_kg_m3: density of the air
        speed_m_s: speed as it opens
        area_m2: area of the canopy, flat
        drag_coefficient: drag coefficient by that area
        opening_factor: overshoot of the force while it fills
    Returns:
        force_n: largest pull, a bound
    Raises:
        ValueError: a figure below zero, or an opening factor below 1.
    """
    require(min(density_kg_m3, speed_m_s, area_m2, drag_coefficient) >= 0, "figures are 0 or more")
    require(opening_factor >= 1, "the opening factor is 1 or more")
    return Shock(density_kg_m3 / 2 * speed_m_s**2 * area_m2 * drag_coefficient * opening_factor)


class GripperForce(Struct, frozen=True):
    force_per_finger_n: float


@method(
    "gripper-force",
    source="Coulomb friction, m·(g + a)·factor/(μ·fingers)",
    checked="values worked by hand",
    limits="held by friction alone, pulled straight up; fingers press alike",
)
def gripper_force(
    mass_kg: float, friction: float, acceleration_m_s2: float = 0.0, fingers: int = 2, factor: float = 2.0
) -> GripperForce:  # fmt: skip
    """Force with which each finger must press so that nothing slips.

    Args:
        mass_kg: mass that is held
        friction: friction between finger and thing
        acceleration_m_s2: acceleration upwards besides gravity
        fingers: how many fingers press
        factor: safety factor
    Returns:
        force_per_finger_n: force of each finger
    Raises:
        ValueError: mass, friction or factor that is not above zero, no finger, or a fall.
    """
    require(mass_kg > 0 and friction > 0 and factor > 0, "mass, friction and factor are above 0")
    require(fingers >= 1, "there is one finger or more")
    require(acceleration_m_s2 > -G, "the acceleration is above that of a free fall")
    return GripperForce(mass_kg * (G + acceleration_m_s2) * factor / (friction * fingers))


@method("imbalance-force", source="m·e·ω²", checked="values worked by hand", limits="a stiff rotor")
def imbalance_force(mass_kg: float, eccentricity_m: float, speed_rad_s: float) -> Shock:
    """Force that turns round with a rotor whose centre of mass is beside its axis.

    Args:
        mass_kg: mass of the rotor
        eccentricity_m: from the axis to its centre of mass
        speed_rad_s: how fast it turns
    Returns:
        force_n: force on its bearings
    Raises:
        ValueError: a mass or eccentricity below zero.
    """
    require(min(mass_kg, eccentricity_m) >= 0, "mass and eccentricity are 0 or more")
    return Shock(mass_kg * eccentricity_m * speed_rad_s**2)
