"""Capacity and resistance of a pack from a discharge that was measured: time, volts and amperes."""

import math

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array, Chemistry
from wired_union.physics.method import require

GOLDEN, STEPS, MOST_TIMES, LEAST_POINTS = (math.sqrt(5) - 1) / 2, 90, 6.0, 8
VARIES = 0.05
"""Spread of the current, as a share of its mean, from which the resistance shows in the volts."""


class DischargeFit(Struct, frozen=True, eq=False):
    """What fits best, and how well."""

    capacity_ah: float
    resistance_ohm: float
    rms_v: float
    most_off_v: float
    drawn_ah: float
    """Charge that was drawn while it was measured."""
    fitted_v: Array
    resistance_shows: bool
    """Whether the current varied enough to tell the resistance from the curve of the cells."""


def fit_discharge(times_s: Array, volts: Array, amperes: Array, chemistry: Chemistry, series: int) -> DischargeFit:
    """Least squares of V = n·E(1 − Q/C) − R·I over capacity C and resistance R, from full.

    R is the line through what E leaves, for each C; C is sought by golden section. Source: least squares; Kiefer 1953,
    Proceedings of the American Mathematical Society 4 (golden section; cited from memory).

    Raises ValueError: fewer than eight points, times that do not rise, or nothing drawn.
    """
    require(len(times_s) == len(volts) == len(amperes), "time, volts and amperes have as many figures each")
    require(len(times_s) >= LEAST_POINTS, f"at least {LEAST_POINTS} points")
    require(bool((np.diff(times_s) > 0).all()), "times rise from line to line")
    require(bool(np.isfinite(np.concatenate([times_s, volts, amperes])).all()), "every figure is a number")
    drawn = np.concatenate([[0.0], np.cumsum((amperes[1:] + amperes[:-1]) / 2 * np.diff(times_s))]) / 3600
    most = float(drawn.max())
    require(most > 0 and bool((np.diff(drawn) >= -1e-9 * most).all()), "the pack is discharged all the while")
    square = float(amperes @ amperes)

    def at(capacity: float) -> tuple[float, float, Array]:
        """Sum of squares, resistance and volts for a capacity."""
        rest = series * np.interp(1 - drawn / capacity, chemistry.charge, chemistry.open_circuit_v)
        ohm = max(float(amperes @ (rest - volts)) / square, 0.0)
        fitted = rest - ohm * amperes
        return float(((volts - fitted) ** 2).sum()), ohm, fitted

    low, high = most, most * MOST_TIMES
    one, other = high - GOLDEN * (high - low), low + GOLDEN * (high - low)
    for _ in range(STEPS):
        if at(one)[0] <= at(other)[0]:
            high, other = other, one
            one = high - GOLDEN * (high - low)
        else:
            low, one = one, other
            other = low + GOLDEN * (high - low)
    capacity = (low + high) / 2
    squares, ohm, fitted = at(capacity)
    spread = float(amperes.std() / amperes.mean())
    off = float(np.abs(volts - fitted).max())
    return DischargeFit(capacity, ohm, math.sqrt(squares / len(volts)), off, most, fitted, spread >= VARIES)
