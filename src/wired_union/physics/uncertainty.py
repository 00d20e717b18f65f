"""What several doubts come to together, what a converter adds, and where a throw lands."""

import math
from collections.abc import Sequence
from statistics import NormalDist

from msgspec import Struct

from wired_union.physics.beta import t_quantile
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2
from wired_union.physics.method import method, require
from wired_union.physics.sources import GUM, GUM_G, KESTER


class CombinedUncertainty(Struct, frozen=True):
    combined: float
    expanded: float
    worst: float
    largest_share: float
    largest: int


@method(
    "combined-uncertainty",
    source="u = √Σ(c·u)², expanded k = 2; worst case Σ|c·u|·√3 of even spreads",
    works=(GUM,),
    checked="worked by hand; a million draws with numpy",
    limits="contributions that do not hang together, small enough for a straight line",
)
def combined_uncertainty(
    standard_uncertainties: Sequence[float], sensitivities: Sequence[float]
) -> CombinedUncertainty:
    """Several independent doubts together.

    Args:
        standard_uncertainties: standard deviation of each contribution
        sensitivities: how much the result changes with each
    Returns:
        combined: standard uncertainty of the result
        expanded: twice that, about 95 of 100
        worst: all at the end of an even spread, the same way
        largest_share: part of the variance that the largest contribution has
        largest: which one that is, from 1
    Raises:
        ValueError: no contribution, lists of different length, or a negative uncertainty.
    """
    require(len(standard_uncertainties) == len(sensitivities) >= 1, "there is one sensitivity for each uncertainty")
    require(all(u >= 0 for u in standard_uncertainties), "uncertainties are 0 or more")
    parts = [abs(c) * u for u, c in zip(standard_uncertainties, sensitivities, strict=True)]
    combined = math.hypot(*parts)
    most = max(range(len(parts)), key=lambda n: parts[n])
    share = (parts[most] / combined) ** 2 if combined > 0 else 0.0
    return CombinedUncertainty(combined, 2 * combined, math.fsum(parts) * math.sqrt(3), share, most + 1)


class CoverageFactor(Struct, frozen=True):
    degrees: float
    factor: float


@method(
    "coverage-factor",
    source="ν = (Σu²)²/Σ(u⁴/νᵢ), Student's t with ν degrees of freedom",
    works=(GUM_G,),
    checked="JCGM 100 annex H.1 (end gauge): 16.7 degrees, 2.92 at 99 of 100, from memory; scipy.stats.t",
    limits="independent contributions, none of few readings larger than all others",
)
def coverage_factor(
    standard_uncertainties: Sequence[float], degrees: Sequence[float], confidence: float
) -> CoverageFactor:  # fmt: skip
    """By how much to widen a combined standard uncertainty so that so many of a hundred results lie inside.

    Args:
        standard_uncertainties: of each contribution, in the unit of the result
        degrees: degrees of freedom of each; inf where its spread is known
        confidence: share of results inside
    Returns:
        degrees: degrees of freedom of them together; inf where all are known
        factor: times the combined standard uncertainty
    Raises:
        ValueError: lists of different length, none, a negative uncertainty, degrees below 1, or a confidence that is
            no share between 0 and 1.
    """
    require(len(standard_uncertainties) == len(degrees) >= 1, "there are degrees of freedom for each uncertainty")
    require(all(u >= 0 for u in standard_uncertainties), "uncertainties are 0 or more")
    require(all(d >= 1 for d in degrees), "degrees of freedom are 1 or more")
    require(0 < confidence < 1, "confidence is between 0 and 1")
    most = max(standard_uncertainties)
    parts = [u / most for u in standard_uncertainties] if most > 0 else [0.0]
    few = math.fsum(p**4 / d for p, d in zip(parts, degrees, strict=False))
    free = math.fsum(p * p for p in parts) ** 2 / few if few > 0 else math.inf
    if free > MANY:
        return CoverageFactor(free, NormalDist().inv_cdf((1 + confidence) / 2))
    return CoverageFactor(free, t_quantile((1 + confidence) / 2, free))


MANY = 1e6
"""Degrees of freedom from which on Student's t is the normal distribution in every digit that is shown."""


class AdcNoise(Struct, frozen=True):
    step_v: float
    quantisation_v: float
    noise_v: float
    effective_bits: float


@method(
    "adc-noise",
    source="step = reference/2ⁿ, step/√12 of quantisation, with the noise before it √(a² + b²)",
    works=(KESTER,),
    checked="a million draws with numpy; 12 bits of 3.3 V: 0.806 mV a step",
    limits="noise of many steps or none that repeats; no offset or bend of the converter",
)
def adc_noise(reference_v: float, bits: int, noise_v: float) -> AdcNoise:
    """What a converter tells apart, and what noise leaves of its bits.

    Args:
        reference_v: voltage of the full scale
        bits: of the converter
        noise_v: standard deviation of the noise before it
    Returns:
        step_v: one step
        quantisation_v: standard deviation that steps alone make
        noise_v: both together
        effective_bits: bits of a converter without noise that is as good
    Raises:
        ValueError: a reference of zero or less, bits outside 1 to 32, or negative noise.
    """
    require(reference_v > 0, "reference is above 0")
    require(1 <= bits <= 32, "bits are 1 to 32")
    require(noise_v >= 0, "noise is 0 or more")
    step = reference_v / 2**bits
    own = step / math.sqrt(12)
    both = math.hypot(own, noise_v)
    return AdcNoise(step, own, both, math.log2(reference_v / (both * math.sqrt(12))))


class ProjectileRange(Struct, frozen=True):
    range_m: float
    apex_m: float
    time_s: float


@method(
    "projectile-range",
    source="x = v·cos θ·t, z = h + v·sin θ·t − g·t²/2",
    checked="10 m/s at 45° from the ground: 10.197 m; scipy.integrate.solve_ivp",
    limits="no drag; it lands at height 0",
)
def projectile_range(speed_m_s: float, angle_deg: float, height_m: float = 0.0) -> ProjectileRange:
    """Where a throw lands.

    Args:
        speed_m_s: as it leaves
        angle_deg: above level
        height_m: that it leaves from
    Returns:
        range_m: how far it lands
        apex_m: how high it comes
        time_s: how long it flies
    Raises:
        ValueError: a negative speed or height, or an angle outside −90 to 90.
    """
    require(speed_m_s >= 0 and height_m >= 0, "speed and height are 0 or more")
    require(-90 <= angle_deg <= 90, "angle is −90 to 90")
    across, up = (speed_m_s * f(math.radians(angle_deg)) for f in (math.cos, math.sin))
    time = (up + math.sqrt(up * up + 2 * STANDARD_GRAVITY_M_S2 * height_m)) / STANDARD_GRAVITY_M_S2
    apex = height_m + max(up, 0.0) ** 2 / (2 * STANDARD_GRAVITY_M_S2)
    return ProjectileRange(across * time, apex, time)
