"""What a switching regulator takes at least, as a straight line over what it gives.

Input power P(I) = V·I/η(I), with the efficiency η straight between the points of its curve, is not straight itself. The
line a + b·I through its ends, lowered until it lies under the curve everywhere between, is as close as a line that is
summed over the loads can be: an affine minorant, Hiriart-Urruty & Lemaréchal 2001, B.1.2 (from memory).
"""

from collections.abc import Iterator
from itertools import pairwise
from math import sqrt

import numpy as np

from wired_union.physics.battery import Array
from wired_union.project.model import Regulator
from wired_union.subjects.power.bent import best_curve


def lines_under(regulator: Regulator, count: int, low_a: Array, high_a: Array) -> tuple[Array, Array]:
    """For each mode the line a + b·I in watts under the input power, where `count` give between two currents."""
    found = [_line(regulator, a / count, b / count) for a, b in zip(low_a.tolist(), high_a.tolist(), strict=True)]
    return np.array([count * a for a, _ in found]), np.array([b for _, b in found])


def _line(regulator: Regulator, low_a: float, high_a: float) -> tuple[float, float]:
    pieces = list(_pieces(regulator, low_a, max(high_a, low_a)))
    first, last = _watts(regulator, pieces[0][0], pieces[0][2]), _watts(regulator, pieces[-1][1], pieces[-1][3])
    width = high_a - low_a
    slope = max((last - first) / width, 0.0) if width > 0 else regulator.output_v
    lowest = min(
        _watts(regulator, current, share) - slope * current
        for piece in pieces
        for current, share in _lowest_of(regulator, slope, *piece)
    )
    return lowest - 1e-12, slope


def _watts(regulator: Regulator, current: float, share: float) -> float:
    return regulator.output_v * current / share


def _pieces(regulator: Regulator, low_a: float, high_a: float) -> Iterator[tuple[float, float, float, float]]:
    """Stretches on which the efficiency is straight: from and to which current, the efficiency at both."""
    curve = best_curve(regulator) or ((0.0, 1.0),)
    amperes, shares = [a for a, _ in curve], [e for _, e in curve]
    ends = [low_a, *(a for a in amperes if low_a < a < high_a), high_a]
    at = np.interp(ends, amperes, shares).tolist()
    for (a, b), (p, q) in zip(pairwise(ends), pairwise(at), strict=True):
        yield a, b, p, q


def _lowest_of(
    regulator: Regulator, slope: float, start: float, end: float, share: float, last: float
) -> Iterator[tuple[float, float]]:
    """Where on a stretch P(I) − b·I may be least: its ends, and where the slope of P is b."""
    yield start, share
    yield end, last
    if end <= start or slope <= 0:
        return
    turn = (last - share) / (end - start)
    still = share - turn * start  # efficiency = still + turn·I; dP/dI = V·still/(still + turn·I)²
    if turn and still > 0:
        at = (sqrt(regulator.output_v * still / slope) - still) / turn
        if start < at < end:
            yield at, still + turn * at
