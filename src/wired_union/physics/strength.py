"""What beams, plates and bolts do under a load, and what heat and tolerances do to lengths. Linear elasticity."""

import math
from collections.abc import Sequence
from itertools import pairwise

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import BLEVINS, ROARK, SHIGLEY, TIMOSHENKO

BEAMS = {"cantilever": (1 / 3, 1.0, 1 / 2), "simple": (1 / 48, 1 / 4, 1 / 16), "fixed": (1 / 192, 1 / 8, 0.0)}
"""Deflection by F·L³/(E·I), moment by F·L and end slope by F·L²/(E·I), of each support."""
CLAMPED = ((1.0, 0.00126, 0.0513), (1.2, 0.00172, 0.0639), (1.4, 0.00207, 0.0726), (1.6, 0.00230, 0.0780),
           (1.8, 0.00245, 0.0812), (2.0, 0.00254, 0.0829), (math.inf, 0.00260, 0.0833))  # fmt: skip
"""Clamped plates by the ratio of their sides, ν = 0.3: deflection by q·b⁴/D, moment at the long edge by q·b²."""


class Beam(Struct, frozen=True):
    deflection_m: float
    moment_n_m: float
    slope_rad: float


def _support(support: str, known: Sequence[str]) -> str:
    require(support in known, f"the support is {', '.join(known[:-1])} or {known[-1]}")
    return support


@method(
    "beam-deflection",
    source="Euler and Bernoulli's beam",
    works=(f"{ROARK}, table 8.1",),
    checked="a frame of finite elements, and its own energy",
    limits="slender, elastic, small deflections; one load: at a cantilever's end, else in the middle",
)
def beam_deflection(
    load_n: float, length_m: float, modulus_pa: float, second_moment_m4: float, support: str = "cantilever"
) -> Beam:  # fmt: skip
    """How far a beam bends under one load, and the moment that it bears.

    Args:
        load_n: the load
        length_m: free length of the beam
        modulus_pa: modulus of elasticity
        second_moment_m4: second moment of its section
        support: cantilever, simple (rests on both ends) or fixed (clamped at both)
    Returns:
        deflection_m: deflection where the load is
        moment_n_m: largest bending moment
        slope_rad: slope at its free or resting end; 0 for fixed
    Raises:
        ValueError: a length, modulus or second moment that is not above zero, or an unknown support.
    """
    require(min(length_m, modulus_pa, second_moment_m4) > 0, "length, modulus and second moment are above 0")
    bend, moment, slope = BEAMS[_support(support, tuple(BEAMS))]
    soft = load_n * length_m**2 / (modulus_pa * second_moment_m4)
    return Beam(bend * soft * length_m, moment * load_n * length_m, slope * soft)


class BeamFrequency(Struct, frozen=True):
    frequency_hz: float


@method(
    "beam-frequency",
    source="frequency equation of the loaded beam",
    works=(f"{BLEVINS}, table 8-1",),
    checked="a frame of finite elements",
    limits="uniform slender beam, one stiff mass: at a cantilever's end, else in the middle; undamped",
)
def beam_frequency(
    load_mass_kg: float, beam_mass_kg: float, length_m: float, modulus_pa: float, second_moment_m4: float,
    support: str = "cantilever",
) -> BeamFrequency:  # fmt: skip
    """First natural frequency of a beam with a mass on it, its own mass counted exactly.

    Args:
        load_mass_kg: mass on the beam
        beam_mass_kg: mass of the beam itself
        length_m: free length of the beam
        modulus_pa: modulus of elasticity
        second_moment_m4: second moment of its section
        support: cantilever, simple (rests on both ends) or fixed (clamped at both)
    Returns:
        frequency_hz: first natural frequency
    Raises:
        ValueError: a figure that is not above zero, no mass at all, or an unknown support.
    """
    require(min(length_m, modulus_pa, second_moment_m4) > 0, "length, modulus and second moment are above 0")
    require(min(load_mass_kg, beam_mass_kg) >= 0 < load_mass_kg + beam_mass_kg, "masses are 0 or more, not both 0")
    bend = BEAMS[_support(support, tuple(BEAMS))][0]
    stiff = modulus_pa * second_moment_m4 / length_m**3
    if beam_mass_kg <= 1e-9 * load_mass_kg:
        return BeamFrequency(math.sqrt(stiff / bend / load_mass_kg) / (2 * math.pi))
    root = _first_root(support, load_mass_kg / beam_mass_kg)
    return BeamFrequency(root**2 * math.sqrt(stiff / beam_mass_kg) / (2 * math.pi))


def _first_root(support: str, load_share: float) -> float:
    """First βL at which the beam's end or middle bears the swinging mass; by halving from the bare beam's down."""
    low, high = 0.0, {"cantilever": 1.8751041, "simple": math.pi, "fixed": 4.7300408}[support]
    for _ in range(60):
        y = (low + high) / 2
        low, high = (y, high) if _held(support, y) > load_share * y else (low, y)
    return (low + high) / 2


def _held(support: str, y: float) -> float:
    """Force by which a beam shaken at βL = y still holds its mass, over the deflection there; falls to 0 when bare.

    From w'''' = β⁴w with the ends of each support: shear over deflection, in E·I·β³.
    """
    if support == "cantilever":
        bent = math.sin(y) * math.cosh(y) - math.cos(y) * math.sinh(y)
        return (1 + math.cos(y) * math.cosh(y)) / bent
    half = y / 2
    if support == "simple":  # 4·cos/(sin − cos·tanh)
        return 4 * math.cos(half) / (math.sin(half) - math.cos(half) * math.tanh(half))
    a, b = math.cos(half) - math.cosh(half), math.sin(half) - math.sinh(half)
    c, d = math.sin(half) + math.sinh(half), math.cos(half) + math.cosh(half)
    return 2 * (c * d - a * b) / (a * a + b * c)


class Plate(Struct, frozen=True):
    deflection_m: float
    stress_pa: float


@method(
    "plate-deflection",
    source="Navier's series; table of clamped plates",
    works=(f"{TIMOSHENKO}, articles 28 and 44",),
    checked="finite differences; the table's first row, from memory",
    limits="flat, even, rectangular, load spread evenly; deflections below half the thickness",
)
def plate_deflection(
    load_n: float, length_m: float, width_m: float, thickness_m: float, modulus_pa: float, poisson: float = 0.3,
    support: str = "simple",
) -> Plate:  # fmt: skip
    """How far a plate bends in the middle under a load spread evenly over it, and its largest stress.

    Args:
        load_n: the whole load
        length_m: one side
        width_m: the other side
        thickness_m: thickness
        modulus_pa: modulus of elasticity
        poisson: Poisson's ratio; clamped plates are worked out for 0.3
        support: simple (rests on all edges) or clamped (held fast along them)
    Returns:
        deflection_m: deflection in the middle
        stress_pa: largest bending stress
    Raises:
        ValueError: a figure that is not above zero, a ratio beyond 0 to 0.5, or an unknown support.
    """
    require(min(length_m, width_m, thickness_m, modulus_pa) > 0, "sides, thickness and modulus are above 0")
    require(0 <= poisson <= 0.5, "Poisson's ratio is from 0 to 0.5")
    a, b = max(length_m, width_m), min(length_m, width_m)
    pressure, stiff = load_n / (a * b), modulus_pa * thickness_m**3 / (12 * (1 - poisson**2))
    clamped = _support(support, ("simple", "clamped")) == "clamped"
    bend, moment = _clamped(a / b) if clamped else _navier(a / b, poisson)
    return Plate(bend * pressure * b**4 / stiff, 6 * moment * pressure * b**2 / thickness_m**2)


def _clamped(ratio: float) -> tuple[float, float]:
    """Deflection by q·b⁴/D and moment by q·b²; straight over 1/ratio between the rows of the table."""
    for (r0, w0, m0), (r1, w1, m1) in pairwise(CLAMPED):
        if ratio <= r1:
            part = (1 / r0 - 1 / ratio) / (1 / r0 - (0.0 if math.isinf(r1) else 1 / r1))
            return w0 + part * (w1 - w0), m0 + part * (m1 - m0)
    return CLAMPED[-1][1:]


def _navier(ratio: float, poisson: float) -> tuple[float, float]:
    """Deflection by q·b⁴/D and larger moment by q·b² in the middle of a plate that rests on its edges."""
    bend = long = short = 0.0
    for m in range(1, 80, 2):
        for n in range(1, 80, 2):
            sign = (-1) ** ((m + n) // 2 - 1)
            mm, nn = (m / ratio) ** 2, float(n * n)
            term = sign / (m * n * (mm + nn) ** 2)
            bend += term
            long += term * (mm + poisson * nn)
            short += term * (nn + poisson * mm)
    return 16 / math.pi**6 * bend, 16 / math.pi**4 * max(long, short)


class BoltGroup(Struct, frozen=True):
    shear_n: list[float]
    most_n: float


@method(
    "bolt-group",
    source="shear of bolts by V/n and M·r/Σr²",
    works=(f"{SHIGLEY}, section 8-12",),
    checked="balance of forces and moments",
    limits="like bolts, stiff plates, friction between them not counted",
)
def bolt_group(
    x_m: Sequence[float], y_m: Sequence[float], force_x_n: float, force_y_n: float, at_x_m: float, at_y_m: float
) -> BoltGroup:
    """Shear on each bolt of a group that holds a force beside its middle.

    Args:
        x_m: where each bolt is, along x
        y_m: where each bolt is, along y
        force_x_n: the force, along x
        force_y_n: the force, along y
        at_x_m: where the force acts, along x
        at_y_m: where the force acts, along y
    Returns:
        shear_n: shear on each bolt
        most_n: the largest of them
    Raises:
        ValueError: lists of different length, no bolt, or one place for all and a force beside it.
    """
    require(len(x_m) == len(y_m) >= 1, "one bolt or more, with an x and a y each")
    count = len(x_m)
    middle_x, middle_y = math.fsum(x_m) / count, math.fsum(y_m) / count
    arms = [(x - middle_x, y - middle_y) for x, y in zip(x_m, y_m, strict=True)]
    moment = (at_x_m - middle_x) * force_y_n - (at_y_m - middle_y) * force_x_n
    spread = math.fsum(x * x + y * y for x, y in arms)
    require(spread > 0 or moment == 0, "bolts in one place hold no moment")
    turn = moment / spread if spread else 0.0
    shear = [math.hypot(force_x_n / count - turn * y, force_y_n / count + turn * x) for x, y in arms]
    return BoltGroup(shear, max(shear))


class ToleranceStack(Struct, frozen=True):
    worst_m: float
    root_sum_square_m: float


@method(
    "tolerance-stack",
    source="sum of the deviations, and root of their squares",
    works=(f"{SHIGLEY}, section 1-13",),
    checked="values worked by hand",
    limits="the root of squares for independent, centred deviations; the worst case for any",
)
def tolerance_stack(tolerances_m: Sequence[float]) -> ToleranceStack:
    """What tolerances in a row add up to.

    Args:
        tolerances_m: each as plus or minus so much
    Returns:
        worst_m: sum of all, plus or minus
        root_sum_square_m: root of the sum of their squares, plus or minus
    Raises:
        ValueError: no tolerance, or a negative one.
    """
    require(len(tolerances_m) > 0 and min(tolerances_m) >= 0, "tolerances are 0 or more, and there is one at least")
    return ToleranceStack(math.fsum(tolerances_m), math.hypot(*tolerances_m))


class ThermalGrowth(Struct, frozen=True):
    growth_m: float


@method(
    "thermal-growth",
    source="linear expansion, α·L·ΔT",
    checked="values worked by hand",
    limits="free to grow, the same temperature throughout",
)
def thermal_growth(length_m: float, expansion_per_k: float, temperature_change_k: float) -> ThermalGrowth:
    """How much longer a thing gets when it warms up.

    Args:
        length_m: its length
        expansion_per_k: expansion of its material for a kelvin, a share of the length
        temperature_change_k: how much warmer it gets
    Returns:
        growth_m: how much longer it is then
    Raises:
        ValueError: a length below zero.
    """
    require(length_m >= 0, "the length is 0 or more")
    return ThermalGrowth(length_m * expansion_per_k * temperature_change_k)
