"""Natural frequencies of simple mounts."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import BLEVINS

FIRST_ROOT = 1.875104


class Frequency(Struct, frozen=True):
    frequency_hz: float


@method(
    "natural-frequency",
    source="√(k/m)/2π",
    works=(f"{BLEVINS}, table 6-2",),
    checked="a cantilever with a heavy tip",
    limits="one mass on a spring, undamped",
)
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


@method(
    "cantilever-frequency",
    source="β₁L = 1.8751; with a tip mass μ, 1 + cos β cosh β = μβ(sin β cosh β − cos β sinh β)",
    works=(f"{BLEVINS}, table 8-1",),
    checked="finite differences, solved by scipy",
    limits="uniform slender beam clamped at one end",
)
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
    beam = mass_per_length_kg_per_m * length_m
    root = _clamped_root(tip_mass_kg / beam)
    omega = (root / length_m) ** 2 * math.sqrt(modulus_pa * second_moment_m4 / mass_per_length_kg_per_m)
    return Frequency(omega / (2 * math.pi))


def _clamped_root(tip_share: float) -> float:
    """First βL of a beam with a mass at its tip, by halving: it falls from 1.8751 as that mass grows."""
    low, high = 0.0, FIRST_ROOT + 1e-6
    for _ in range(60):
        b = (low + high) / 2
        bending = 1 + math.cos(b) * math.cosh(b)
        tip = tip_share * b * (math.sin(b) * math.cosh(b) - math.cos(b) * math.sinh(b))
        low, high = (b, high) if bending > tip else (low, b)
    return (low + high) / 2
