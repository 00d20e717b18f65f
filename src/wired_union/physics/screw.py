"""Power screws: torque, self-locking, buckling and whirling."""

import math

from msgspec import Struct

from wired_union.physics.constants import MILD_STEEL_YIELD_PA, STEEL_DENSITY_KG_M3, STEEL_MODULUS_PA
from wired_union.physics.method import method, require
from wired_union.physics.sources import BLEVINS, EULER, SHIGLEY


class Leadscrew(Struct, frozen=True):
    raising_torque_n_m: float
    lowering_torque_n_m: float
    efficiency: float
    self_locking: bool


@method(
    "leadscrew",
    source="square thread, unrolled into a wedge",
    works=(f"{SHIGLEY}, section 8-2",),
    checked="the worked example of the book, from memory",
    limits="square thread; collar with its own friction",
)
def leadscrew(
    force_n: float, mean_diameter_m: float, lead_m: float, friction: float, collar_friction: float = 0.0,
    collar_diameter_m: float = 0.0,
) -> Leadscrew:  # fmt: skip
    """Torque that raises and lowers a load on a screw, and whether the screw holds it by itself.

    Args:
        force_n: load along the screw
        mean_diameter_m: mean diameter of the thread
        lead_m: travel of one turn
        friction: friction in the thread
        collar_friction: friction at the collar
        collar_diameter_m: mean diameter of the collar
    Returns:
        raising_torque_n_m: torque that raises the load
        lowering_torque_n_m: torque that lowers it; below zero it runs down by itself
        efficiency: share of the work that reaches the load
        self_locking: whether the thread alone holds the load
    Raises:
        ValueError: figures out of range, or friction so high that the screw jams.
    """
    require(force_n >= 0 and mean_diameter_m > 0 and lead_m > 0, "force is 0 or more, diameter and lead are above 0")
    require(friction >= 0 and collar_friction >= 0 and collar_diameter_m >= 0, "frictions and collar are 0 or more")
    around = math.pi * mean_diameter_m
    require(around > friction * lead_m, "the screw jams: friction × lead is above its circumference")
    collar = force_n * collar_friction * collar_diameter_m / 2
    half = force_n * mean_diameter_m / 2
    raising = half * (lead_m + friction * around) / (around - friction * lead_m) + collar
    lowering = half * (friction * around - lead_m) / (around + friction * lead_m) + collar
    ideal = force_n * lead_m / (2 * math.pi)
    return Leadscrew(raising, lowering, ideal / raising if raising else 0.0, friction * around > lead_m)


# end fixity -> (effective length factor of a column, first root of a whirling shaft)
ENDS = {
    "fixed-free": (2.0, 1.875104), "supported": (1.0, math.pi), "fixed-supported": (0.699, 3.926602),
    "fixed": (0.5, 4.730041),
}  # fmt: skip


class Buckling(Struct, frozen=True):
    critical_load_n: float
    slenderness: float


@method(
    "euler-buckling",
    source="F = π²·E·I/(c·L)²",
    works=(EULER, f"{SHIGLEY}, section 4-12"),
    checked="values worked by hand",
    limits="slender straight columns; a short one (slenderness under 100 for steel) crushes first",
)
def euler_buckling(
    diameter_m: float, length_m: float, ends: str = "supported", modulus_pa: float = STEEL_MODULUS_PA
) -> Buckling:  # fmt: skip
    """Push at which a round rod bends out sideways.

    Args:
        diameter_m: diameter of the rod, a screw's root
        length_m: length between its ends
        ends: fixed-free, supported, fixed-supported or fixed
        modulus_pa: modulus of elasticity
    Returns:
        critical_load_n: push at which it buckles
        slenderness: effective length over radius of gyration
    Raises:
        ValueError: figures that are not above zero, or ends that are not known.
    """
    require(diameter_m > 0 and length_m > 0 and modulus_pa > 0, "diameter, length and modulus are above 0")
    require(ends in ENDS, f"ends are {', '.join(ENDS)}, not “{ends}”")
    effective = ENDS[ends][0] * length_m
    moment = math.pi * diameter_m**4 / 64
    return Buckling(math.pi**2 * modulus_pa * moment / effective**2, effective / (diameter_m / 4))


@method(
    "column-buckling",
    source="Euler's column, and J. B. Johnson's parabola for stocky ones",
    works=(f"{SHIGLEY}, sections 4-12 and 4-13",),
    checked="both curves and their slopes where they meet",
    limits="straight column, central load; yields like mild steel unless given (250 MPa, EN 10025)",
)
def column_buckling(
    diameter_m: float, length_m: float, ends: str = "supported", modulus_pa: float = STEEL_MODULUS_PA,
    yield_pa: float = MILD_STEEL_YIELD_PA,
) -> Buckling:  # fmt: skip
    """Push at which a round rod of any length fails: by bending out where it is slender, else by yielding on the way.

    Args:
        diameter_m: diameter of the rod, a screw's root
        length_m: length between its ends
        ends: fixed-free, supported, fixed-supported or fixed
        modulus_pa: modulus of elasticity
        yield_pa: yield strength
    Returns:
        critical_load_n: push at which it fails
        slenderness: effective length over radius of gyration
    Raises:
        ValueError: figures that are not above zero, or ends that are not known.
    """
    require(yield_pa > 0, "the yield strength is above 0")
    euler = euler_buckling(diameter_m, length_m, ends, modulus_pa)
    area = math.pi * diameter_m**2 / 4
    if euler.slenderness >= math.sqrt(2 * math.pi**2 * modulus_pa / yield_pa):
        return euler
    lost = (yield_pa * euler.slenderness / (2 * math.pi)) ** 2 / modulus_pa
    return Buckling(area * (yield_pa - lost), euler.slenderness)


class CriticalSpeed(Struct, frozen=True):
    speed_rad_s: float


@method(
    "screw-critical-speed",
    source="whirling of a uniform shaft",
    works=(f"{BLEVINS}, table 8-1",),
    checked="the beam as an eigenvalue problem by scipy",
    limits="solid round shaft by itself; common practice stays under 80 %",
)
def screw_critical_speed(
    diameter_m: float, length_m: float, ends: str = "supported", modulus_pa: float = STEEL_MODULUS_PA,
    density_kg_m3: float = STEEL_DENSITY_KG_M3,
) -> CriticalSpeed:  # fmt: skip
    """Speed at which a screw starts to whirl.

    Args:
        diameter_m: root diameter of the screw
        length_m: length between its bearings
        ends: fixed-free, supported, fixed-supported or fixed
        modulus_pa: modulus of elasticity
        density_kg_m3: density
    Returns:
        speed_rad_s: critical speed
    Raises:
        ValueError: figures that are not above zero, or ends that are not known.
    """
    require(min(diameter_m, length_m, modulus_pa, density_kg_m3) > 0, "figures are above 0")
    require(ends in ENDS, f"ends are {', '.join(ENDS)}, not “{ends}”")
    root = ENDS[ends][1]
    return CriticalSpeed((root / length_m) ** 2 * diameter_m / 4 * math.sqrt(modulus_pa / density_kg_m3))
