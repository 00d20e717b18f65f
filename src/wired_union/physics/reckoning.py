"""Dead reckoning of two wheels: where it thinks it is after a way, and where it is."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import BORENSTEIN


class Reckoned(Struct, frozen=True):
    heading_deg: float
    across_m: float
    along_m: float
    spread_across_m: float
    spread_along_m: float


@method(
    "dead-reckoning",
    source="heading off by s·e/b + drift·s/v; across R(1 − cos ψ), along R sin ψ; spreads grow with √s and s^1.5",
    works=(BORENSTEIN,),
    checked="ten thousand drives by numpy, step by step",
    limits="a straight way meant, small errors of each kind; slips are each by themselves",
)
def dead_reckoning(
    distance_m: float, track_m: float, wheel_unlike: float = 0.0, scale_error: float = 0.0,
    drift_rad_s: float = 0.0, speed_m_s: float = 1.0, slip_m_per_root_m: float = 0.0,
    turn_rad_per_root_m: float = 0.0, offset_rad: float = 0.0,
) -> Reckoned:  # fmt: skip
    """How far off a machine is that counts its wheels' turns, after a way that was meant to be straight.

    Args:
        distance_m: of the way
        track_m: from the left wheel to the right one
        wheel_unlike: by what share the right wheel is larger than the left one
        scale_error: by what share both turn out larger than they are taken to be
        drift_rad_s: of a gyro that holds the heading; 0 where wheels do
        speed_m_s: at which it drives; only a drift asks for it
        slip_m_per_root_m: spread of what slips along, after a metre
        turn_rad_per_root_m: spread of the heading by slips, after a metre
        offset_rad: by how much its heading is off where it sets out: a compass beside iron, what was turned before
    Returns:
        heading_deg: by how much it is turned, by what is always the same
        across_m: how far it is beside its way, by the same
        along_m: how far ahead of where it thinks it is
        spread_across_m: standard deviation across, by slips
        spread_along_m: standard deviation along, by slips
    Raises:
        ValueError: a distance, track or speed that is not above zero, or a spread below zero.
    """
    require(min(distance_m, track_m, speed_m_s) > 0, "distance, track and speed are above 0")
    require(slip_m_per_root_m >= 0 and turn_rad_per_root_m >= 0, "spreads are 0 or more")
    require(max(abs(wheel_unlike), abs(scale_error)) < 1, "errors are shares below 1")
    driven = distance_m * (1 + scale_error)
    turned = driven * wheel_unlike / track_m + drift_rad_s * distance_m / speed_m_s
    half = turned / 2
    chord = driven * (math.sin(half) / half if abs(half) > 1e-9 else 1.0)
    spread = turn_rad_per_root_m * distance_m**1.5 / math.sqrt(3)
    return Reckoned(math.degrees(turned + offset_rad), chord * math.sin(half + offset_rad),
                    chord * math.cos(half + offset_rad) - distance_m, spread,
                    slip_m_per_root_m * math.sqrt(distance_m))  # fmt: skip
