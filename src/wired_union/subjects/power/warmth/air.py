"""The air outside over the mission, as the brief has it, and the sun on what stands in it."""

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Brief
from wired_union.project.warmth_model import AirAt

DAWN_H, NOON_H, WARMEST_H, DUSK_H = 6.0, 12.0, 15.0, 18.0
"""Coldest a little before sunrise, warmest three hours after noon: common practice."""
HOUR_S, DAY_H = 3600.0, 24.0


class Air(Struct, frozen=True, eq=False):
    """Air outside in each step, and the share of the strongest sun."""

    name: str
    outside_c: Array
    sun: Array


def airs(brief: Brief, times_s: Array) -> tuple[Air, ...]:
    """What the parts are put through, at the middle of each step: two airs that stand, or one that moves."""
    curve, low, high = brief.air, brief.coldest_c, brief.hottest_c
    if curve.kind == "steady":
        still = np.zeros(len(times_s))
        return Air("warmest", still + high, still + 1.0), Air("coldest", still + low, still)
    hours = (curve.begins_h + times_s / HOUR_S) % DAY_H
    if curve.kind == "day":
        return (Air("day and night", _by_day(hours, low, high), _sun(hours)),)
    if curve.kind == "ramp":
        return (
            Air(
                "chamber", _ramp(times_s, low, high, curve.rate_k_per_min / 60.0, curve.hold_s), np.zeros(len(times_s))
            ),
        )
    return (Air("typed", _typed(times_s, curve.points, low), _sun(hours)),)


def _by_day(hours: Array, low: float, high: float) -> Array:
    """Half a cosine from the coldest at dawn to the warmest in the afternoon, and another back to dawn."""
    since = (hours - DAWN_H) % DAY_H
    rising = WARMEST_H - DAWN_H
    angle = np.where(since < rising, since / rising, 1 + (since - rising) / (DAY_H - rising)) * math.pi
    found: Array = (low + high) / 2 - (high - low) / 2 * np.cos(angle)
    return found


def _sun(hours: Array) -> Array:
    """Half a sine from six to six."""
    found: Array = np.maximum(np.sin((hours - DAWN_H) / (DUSK_H - DAWN_H) * math.pi), 0.0)
    return found


def _ramp(times_s: Array, low: float, high: float, rate_k_per_s: float, hold_s: float) -> Array:
    """From the coldest, held, up to the warmest, held, and down again."""
    rise = max((high - low) / rate_k_per_s, 1e-9)
    knots = np.cumsum([0.0, hold_s, rise, hold_s, rise])
    return np.interp(times_s % knots[-1], knots, [low, low, high, high, low])


def _typed(times_s: Array, points: Sequence[AirAt], low: float) -> Array:
    """Straight between what was typed; the coldest air while nothing is."""
    if not points:
        return np.zeros(len(times_s)) + low
    known = sorted(points, key=lambda p: p.at_s)
    return np.interp(times_s, [p.at_s for p in known], [p.air_c for p in known])
