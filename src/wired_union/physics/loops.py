"""Control loops with a delay: margins over frequency, and the response of a sampled controller with its plant.

Polynomials have the highest power first. Angles in degrees, frequencies in radians a second.
"""

import cmath
import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import ASTROM, SKOGESTAD, ZIEGLER

LOW, HIGH, POINTS = 1e-5, 1e7, 1500
FILTERED = 10.0
"""How many times the derivative's own time the filter on it is shorter: common practice."""


class LoopDelay(Struct, frozen=True):
    crossover_rad_s: float
    phase_margin_deg: float
    phase_lost_deg: float
    margin_left_deg: float
    delay_margin_s: float


class Tuning(Struct, frozen=True):
    gain: float
    integral_s: float
    derivative_s: float


class Transfer(Struct, frozen=True):
    """A rational transfer function."""

    numerator: tuple[float, ...]
    denominator: tuple[float, ...]

    def at(self, w: float) -> complex:
        """Its value at a frequency."""
        s = 1j * w
        return complex(_poly(self.numerator, s) / _poly(self.denominator, s))

    def times(self, other: "Transfer") -> "Transfer":
        return Transfer(multiplied(self.numerator, other.numerator), multiplied(self.denominator, other.denominator))


Row = Sequence[float]
"""Coefficients, the highest power first. Plain numbers: for so few of them they are ten times as quick as arrays."""


def multiplied(one: Row, other: Row) -> tuple[float, ...]:
    """The product of two polynomials."""
    found = [0.0] * (len(one) + len(other) - 1)
    for i, x in enumerate(one):
        for j, y in enumerate(other):
            found[i + j] += x * y
    return tuple(found)


def added(one: Row, other: Row) -> tuple[float, ...]:
    """The sum of two polynomials."""
    wide = max(len(one), len(other))
    long, short = (one, other) if len(one) == wide else (other, one)
    gap = wide - len(short)
    return (*long[:gap], *(x + y for x, y in zip(long[gap:], short, strict=True)))


@lru_cache(maxsize=1024)
def roots_of(coefficients: tuple[float, ...]) -> tuple[complex, ...]:
    """All roots, those at 0 too; not a number where a coefficient is none. Leading zeros count for nothing."""
    first = next((n for n, c in enumerate(coefficients) if c), len(coefficients))
    row = coefficients[first:]
    last = next((n for n, c in enumerate(reversed(row)) if c), 0)
    at_zero, row = (0j,) * last, row[: len(row) - last]
    if len(row) < 2:
        return at_zero
    if len(row) == 2:
        return (complex(-row[1] / row[0]), *at_zero)
    if not all(map(math.isfinite, row)):
        return (complex(math.nan),) * (len(row) - 1)
    companion = np.diag(np.ones(len(row) - 2), -1)
    with np.errstate(over="ignore", invalid="ignore"):
        companion[0] = -np.array(row[1:]) / row[0]
    if not np.isfinite(companion).all():
        return (complex(math.nan),) * (len(row) - 1)
    return (*np.linalg.eigvals(companion).astype(complex).tolist(), *at_zero)


def _poly(coefficients: Sequence[float], s: complex) -> complex:
    value = 0j
    for c in coefficients:
        value = value * s + c
    return value


def pid(
    gain: float, integral_s: float | None, derivative_s: float | None, filter_s: float | None = None
) -> Transfer:  # fmt: skip
    """k·(1 + 1/(Tᵢ·s) + T_d·s/(1 + T_f·s)), any of the last two left out; T_f is T_d/10 where nothing is said."""
    made = Transfer((gain,), (1.0,))
    parts = [made]
    if integral_s:
        parts.append(Transfer((gain,), (integral_s, 0.0)))
    if derivative_s:
        parts.append(
            Transfer((gain * derivative_s, 0.0), (derivative_s / FILTERED if filter_s is None else filter_s, 1.0))
        )
    for part in parts[1:]:
        top = added(multiplied(made.numerator, part.denominator), multiplied(part.numerator, made.denominator))
        made = Transfer(top, multiplied(made.denominator, part.denominator))
    return made


@lru_cache(maxsize=512)
def is_stable(loop: Transfer) -> bool:
    """Whether the closed loop settles without any delay: all roots of its denominator on the left."""
    return all(r.real < 0 for r in roots_of(added(loop.numerator, loop.denominator)))


def crossovers(loop: Transfer) -> list[float]:
    """Frequencies at which its gain is 1, exactly: roots of |N(jw)|² − |D(jw)|² in w²."""
    square = added(_squared(loop.numerator), tuple(-x for x in _squared(loop.denominator)))
    return sorted(math.sqrt(x.real) for x in roots_of(square) if abs(x.imag) <= 1e-9 * abs(x) and x.real > 0)


def _squared(coefficients: Row) -> tuple[float, ...]:
    """|P(jw)|² as a polynomial in w²."""
    even, odd = [0.0] * len(coefficients), [0.0] * len(coefficients)
    for n, c in enumerate(reversed(coefficients)):
        (odd if n % 2 else even)[n] = c * (1.0 if n % 4 < 2 else -1.0)
    whole = added(multiplied(even[::-1], even[::-1]), multiplied(odd[::-1], odd[::-1]))
    return whole[::-1][::2][::-1]


def phase_deg(loop: Transfer, w: float) -> float:
    """Its phase at a frequency, unwrapped from low frequencies upwards by its poles and zeros."""
    angle = 0.0
    for roots, sign in ((roots_of(tuple(loop.numerator)), 1.0), (roots_of(tuple(loop.denominator)), -1.0)):
        for r in roots:
            angle += sign * math.degrees(_turn(r, w))
    lead = loop.numerator[0] / loop.denominator[0] if loop.numerator and loop.numerator[0] else 1.0
    return angle + (0.0 if lead > 0 else 180.0)


def _turn(root: complex, w: float) -> float:
    """Angle of jw − root."""
    return cmath.phase(1j * w - root)


@lru_cache(maxsize=512)
def margins(loop: Transfer, delay_s: float = 0.0) -> LoopDelay | None:
    """The margins at the crossover that bears the least delay; None where its gain never is 1.

    Before any delay the loop must be stable (`is_stable`): then it stays so up to the delay margin.
    """
    found = []
    for w in crossovers(loop):
        margin = (180.0 + phase_deg(loop, w)) % 360.0
        margin = margin - 360.0 if margin > 180.0 and not is_stable(loop) else margin
        lost = math.degrees(w * delay_s)
        found.append(LoopDelay(w, margin, lost, margin - lost, math.radians(margin) / w))
    return min(found, key=lambda m: m.delay_margin_s, default=None)


@method(
    "loop-delay",
    source="|L(jw)| = 1 gives the crossover; the delay takes w·τ off its phase",
    works=(ASTROM,),
    checked="2/(s(0.1s + 1)) by hand, and scipy's frequency responses",
    limits="linear, one delay; a loop that is stable without it",
)
def loop_delay(numerator: Sequence[float], denominator: Sequence[float], delay_s: float) -> LoopDelay:
    """What a delay takes of the phase margin of an open loop, and how much of it the loop could bear.

    Args:
        numerator: of the open loop, the highest power of s first
        denominator: likewise
        delay_s: delay in the loop
    Returns:
        crossover_rad_s: where its gain is 1; of several that which bears the least delay
        phase_margin_deg: without the delay
        phase_lost_deg: what the delay takes
        margin_left_deg: what is left; below 0 it swings up
        delay_margin_s: the longest delay with which it still settles
    Raises:
        ValueError: a loop whose gain never is 1, or a delay below zero.
    """
    require(len(numerator) > 0 and len(denominator) > 0 and denominator[0] != 0, "both polynomials have coefficients")
    require(delay_s >= 0, "the delay is 0 or more")
    sizes = [abs(c) for c in (*numerator, *denominator) if c]
    require(max(sizes) < 1e60 and min(sizes) > 1e-60, "coefficients that are not 0 are between 1e-60 and 1e60")
    require(len(numerator) + len(denominator) <= 24, "polynomials of a degree that can be solved")
    found = margins(Transfer(tuple(map(float, numerator)), tuple(map(float, denominator))), delay_s)
    require(found is not None, "its gain is 1 somewhere")
    assert found is not None
    return found


@method(
    "simc-tuning",
    source="k = T/(K·(τc + θ)), Tᵢ = min(T, 4(τc + θ)); of an integrator k = 1/(K·(τc + θ)), Tᵢ = 4(τc + θ)",
    works=(SKOGESTAD,),
    checked="the rule's own margins: 61° of a first-order plant with τc = θ",
    limits="first order, or an integrator, with a dead time",
)
def simc_tuning(gain: float, time_constant_s: float, delay_s: float, integrates: bool = False) -> Tuning:
    """Settings of a PI controller that are as quick as a dead time lets them be and still smooth.

    Args:
        gain: of the plant; of an integrator what it moves a second
        time_constant_s: of the plant; of an integrator its lag, taken as dead time besides
        delay_s: dead time in the loop
        integrates: whether the plant integrates
    Returns:
        gain: of the controller
        integral_s: its integral time
        derivative_s: 0
    Raises:
        ValueError: a gain of zero, or no delay at all.
    """
    require(gain != 0 and time_constant_s >= 0 and delay_s >= 0, "the gain is not 0, times are 0 or more")
    dead = delay_s + (time_constant_s if integrates else 0.0)
    require(dead > 0, "there is a dead time above 0")
    if integrates:
        return Tuning(1 / (gain * 2 * dead), 8 * dead, 0.0)
    require(time_constant_s > 0, "the time constant is above 0")
    return Tuning(time_constant_s / (gain * 2 * dead), min(time_constant_s, 8 * dead), 0.0)


@method(
    "ziegler-nichols",
    source="PI: 0.45 of the gain at which it swings, 0.83 of that swing's period; PID: 0.6, 0.5 and 0.125",
    works=(ZIEGLER,),
    checked="the swing of an integrator with dead time by hand",
    limits="quarter decay: quick, and swings over",
)
def ziegler_nichols(swings_at_gain: float, period_s: float, derivative: bool = False) -> Tuning:
    """Settings from the gain at which a loop just goes on swinging, and the period of that.

    Args:
        swings_at_gain: gain of a plain P controller at which it does
        period_s: of that swing
        derivative: whether a D part is wanted
    Returns:
        gain: of the controller
        integral_s: its integral time
        derivative_s: its derivative time
    Raises:
        ValueError: a figure that is not above zero.
    """
    require(swings_at_gain > 0 and period_s > 0, "gain and period are above 0")
    if derivative:
        return Tuning(0.6 * swings_at_gain, period_s / 2, period_s / 8)
    return Tuning(0.45 * swings_at_gain, period_s / 1.2, 0.0)


@method(
    "lambda-tuning",
    source="k = T/(K·(λ + θ)), Tᵢ = T; of an integrator k = (2λ + θ)/(K·(λ + θ)²), Tᵢ = 2λ + θ",
    works=(ASTROM,),
    checked="the closed loop of a cancelled lag by scipy: 63 % after λ + θ",
    limits="first order, or an integrator, with a dead time",
)
def lambda_tuning(
    gain: float, time_constant_s: float, delay_s: float, closed_s: float, integrates: bool = False
) -> Tuning:
    """Settings of a PI controller by how slow the closed loop may be.

    Args:
        gain: of the plant; of an integrator what it moves a second
        time_constant_s: of the plant; of an integrator its lag, taken as dead time besides
        delay_s: dead time in the loop
        closed_s: time constant that the closed loop should have
        integrates: whether the plant integrates
    Returns:
        gain: of the controller
        integral_s: its integral time
        derivative_s: 0
    Raises:
        ValueError: a gain of zero, or times that are not above zero together.
    """
    require(gain != 0 and min(time_constant_s, delay_s) >= 0, "the gain is not 0, times are 0 or more")
    require(closed_s > 0, "the closed loop takes some time")
    if integrates:
        dead = delay_s + time_constant_s
        return Tuning((2 * closed_s + dead) / (gain * (closed_s + dead) ** 2), 2 * closed_s + dead, 0.0)
    require(time_constant_s > 0, "the time constant is above 0")
    return Tuning(time_constant_s / (gain * (closed_s + delay_s)), time_constant_s, 0.0)


@method(
    "placement-tuning",
    source="T·s² + s + k·K = 0 with both roots alike: k = 1/(4·K·T)",
    works=(ASTROM,),
    checked="the roots of the closed loop by numpy",
    limits="an integrator with a lag, no dead time: with one it is only nearly critical",
)
def placement_tuning(gain: float, time_constant_s: float) -> Tuning:
    """Gain of a P controller with which an integrator with a lag is critically damped.

    Args:
        gain: what the plant moves a second
        time_constant_s: its lag
    Returns:
        gain: of the controller
        integral_s: 0, none
        derivative_s: 0, none
    Raises:
        ValueError: a gain of zero, or a lag that is not above zero.
    """
    require(gain != 0 and time_constant_s > 0, "the gain is not 0, the lag above 0")
    return Tuning(1 / (4 * gain * time_constant_s), 0.0, 0.0)
