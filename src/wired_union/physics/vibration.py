"""Natural frequencies of simple mounts."""

import math
from typing import NamedTuple

from wired_union.physics.method import method, require

FIRST_ROOT = 1.875104
BEAM_SHARE = 0.2357  # 33/140: share of a cantilever's mass that moves with its tip


class Frequency(NamedTuple):
    frequency_hz: float


@method("natural-frequency", source="Blevins, Formulas for Natural Frequency", limits="one mass on a spring, undamped")
def natural_frequency(stiffness_n_per_m: float, mass_kg: float) -> Frequency:
    """Frequency at which a mass swings on a spring.

    Args:
        stiffness_n_per_m: stiffness of the mount
        mass_kg: mass on it
    Returns:
        frequency_hz: natural frequency
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(stiffness_n_per_m > 0 and mass_kg > 0, "stiffness and mass are above 0")
    return Frequency(math.sqrt(stiffness_n_per_m / mass_kg) / (2 * math.pi))


@method("cantilever-frequency", source="Blevins, β₁L = 1.8751; with a tip mass Rayleigh's 33/140 of the beam",
        limits="uniform slender beam clamped at one end")  # fmt: skip
def cantilever_frequency(
    length_m: float, modulus_pa: float, second_moment_m4: float, mass_per_length_kg_per_m: float,
    tip_mass_kg: float = 0.0,
) -> Frequency:  # fmt: skip
    """First frequency of a beam clamped at one end, with or without a mass at its tip.

    Args:
        length_m: length of the beam
        modulus_pa: modulus of elasticity
        second_moment_m4: second moment of its section
        mass_per_length_kg_per_m: mass of a metre of it
        tip_mass_kg: mass at its tip
    Returns:
        frequency_hz: first natural frequency
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(min(length_m, modulus_pa, second_moment_m4, mass_per_length_kg_per_m) > 0, "figures are above 0")
    require(tip_mass_kg >= 0, "the mass at the tip is 0 or more")
    rigidity = modulus_pa * second_moment_m4
    if tip_mass_kg == 0:
        omega = (FIRST_ROOT / length_m) ** 2 * math.sqrt(rigidity / mass_per_length_kg_per_m)
    else:
        moving = tip_mass_kg + BEAM_SHARE * mass_per_length_kg_per_m * length_m
        omega = math.sqrt(3 * rigidity / (moving * length_m**3))
    return Frequency(omega / (2 * math.pi))
