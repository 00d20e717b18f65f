"""What a loop makes of a step in figures, what prediction is worth, and a plant from a measured step."""

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.battery import Array
from wired_union.physics.loops import Transfer
from wired_union.physics.method import method, require
from wired_union.physics.sampled import Run, Sampled, run_of, sampled_swing, worst_swing
from wired_union.physics.sources import ASTROM, ASTROM_WITTENMARK, SMITH

NEAR, POINTS = 0.05, 2000


class StepTold(Struct, frozen=True):
    overshoot: float
    rise_time_s: float
    settling_time_s: float
    final: float
    swing: float
    most_output: float


class Prediction(Struct, frozen=True):
    swing_without: float
    swing_with: float
    gain: float


class StepFit(Struct, frozen=True):
    gain: float
    time_constant_s: float
    delay_s: float
    residual_sd: float


@method(
    "pid-step",
    source="the plant by the exponential of its matrix between instants, u = k·(e + Σe·T/Tᵢ − T_d·ẏ) held a period",
    works=(ASTROM_WITTENMARK,),
    checked="scipy's and the control package's step responses at a short period",
    limits="linear plant; the integral stops where the output is all there is",
)
def pid_step(
    numerator: Sequence[float], denominator: Sequence[float], gain: float, integral_s: float, derivative_s: float,
    period_s: float, delay_s: float, most: float, until_s: float,
) -> StepTold:  # fmt: skip
    """What a PID controller that runs once a period makes of a step of 1.

    Args:
        numerator: of the plant, the highest power of s first
        denominator: likewise, of a higher degree
        gain: of the controller
        integral_s: its integral time; 0 for none
        derivative_s: its derivative time, filtered by a tenth of it; 0 for none
        period_s: how often it runs
        delay_s: from its output until that acts
        most: the most that it can give, either way
        until_s: how long it is looked at
    Returns:
        overshoot: share above 1
        rise_time_s: from 10 % to 90 %; infinite where it never gets there
        settling_time_s: until it stays within 5 % of 1; infinite where it does not
        final: where it is at the end
        swing: from lowest to highest in its last third
        most_output: the most that the controller gave
    Raises:
        ValueError: a plant that is not strictly proper, or times that are not above zero.
    """
    require(0 < len(numerator) < len(denominator) <= 8 and denominator[0] != 0, "a plant of a degree of 1 to 7")
    require(period_s > 0 and until_s >= period_s, "the period is above 0, and fits what is looked at")
    require(min(integral_s, derivative_s, delay_s) >= 0 and most > 0, "times are 0 or more, the most is above 0")
    require(until_s / period_s <= 1e5, "at most 100 000 periods are looked at")
    _of_one_world(*numerator, *denominator, gain, integral_s, derivative_s, period_s, delay_s)
    require(
        max(map(abs, denominator)) * until_s < FAR * abs(denominator[0]), "its lags are of one world with its times"
    )
    controller = Sampled(gain, integral_s or None, derivative_s or None, period_s, delay_s, most)
    plant = Transfer(tuple(map(float, numerator)), tuple(map(float, denominator)))
    return step_told(run_of(plant, controller, until_s, max(POINTS, round(until_s / period_s))))


def step_told(run: Run, step: float = 1.0) -> StepTold:
    """A run in figures, as shares of its step."""
    y, times = run.y / step, run.times_s
    off = np.flatnonzero(np.abs(y - 1) > NEAR)
    settled = 0 if not len(off) else int(off[-1]) + 1
    low, high = np.flatnonzero(y >= 0.1), np.flatnonzero(y >= 0.9)
    rise = float(times[high[0]] - times[low[0]]) if len(high) else math.inf
    return StepTold(max(float(y.max()) - 1, 0.0), rise, float(times[settled]) if settled < len(y) else math.inf,
                    float(y[-1]), worst_swing(y), float(np.abs(run.given).max()))  # fmt: skip


@method(
    "prediction-gain",
    source="states moved on by the model over the delay, with what was given meanwhile; poles of the sampled loop",
    works=(SMITH, ASTROM_WITTENMARK),
    checked="an exact model has the poles of the loop without delay: theorem, by numpy",
    limits="a plant of one lag, with an integrator or without; both states are measured",
)
def prediction_gain(
    plant_gain: float, time_constant_s: float, integrates: bool, control_gain: float, speed_gain: float,
    period_s: float, delay_s: float, ahead: int, gain_off: float = 0.0, time_off: float = 0.0,
) -> Prediction:  # fmt: skip
    """What predicting over a delay is worth, by a model that is off by so much: where it helps, and where it hurts.

    Args:
        plant_gain: of the plant; of an integrator what it moves a second
        time_constant_s: its lag
        integrates: whether it integrates
        control_gain: for the error
        speed_gain: for how fast it moves; only of a plant that integrates
        period_s: how often the controller runs
        delay_s: in the loop
        ahead: periods that it predicts
        gain_off: share by which the model's gain is above the plant's
        time_off: share by which the model's lag is above the plant's
    Returns:
        swing_without: what is left of the slowest swing after a period without prediction; above 1 it grows
        swing_with: the same with it
        gain: how many times faster it comes to rest with it; below 1 it hurts, below 0 it swings up
    Raises:
        ValueError: a lag, gain or period that is not above zero, or more than 40 periods.
    """
    require(min(plant_gain, time_constant_s, period_s) > 0, "gain, lag and period are above 0")
    require(
        delay_s >= 0 and 0 <= ahead <= 40 and delay_s <= 40 * period_s, "a delay and a prediction of 0 to 40 periods"
    )
    require(min(gain_off, time_off) > -1, "a model is off by more than −100 %")
    require(period_s / time_constant_s < FAR and time_constant_s / period_s < FAR, "period and lag are of one world")
    _of_one_world(plant_gain, time_constant_s, control_gain, speed_gain, 1 + gain_off, 1 + time_off, period_s)
    down = (time_constant_s, 1.0, 0.0) if integrates else (time_constant_s, 1.0)
    plant = Transfer((plant_gain,), down)
    model = Transfer((plant_gain * (1 + gain_off),), (down[0] * (1 + time_off), *down[1:]))
    plain = Sampled(control_gain, None, None, period_s, delay_s, speed_gain=speed_gain if integrates else 0.0)
    without = sampled_swing(plant, plain) or 0.0
    ahead_of = sampled_swing(plant, replace(plain, ahead=ahead, model=model)) or 0.0
    return Prediction(without, ahead_of, quicker(without, ahead_of))


FAR, LARGEST = 1e9, 1e15


def _of_one_world(*figures: float) -> None:
    """Raise ValueError for figures so large that none of their products can be told."""
    require(all(abs(x) < LARGEST for x in figures), "figures are below 1e15")


def quicker(without: float, ahead: float) -> float:
    """How many times faster a swing dies away with prediction; infinite where it does so only with it."""
    if ahead >= 1:
        return -1.0
    if without >= 1:
        return math.inf
    return math.log(max(ahead, 1e-300)) / math.log(max(without, 1e-300))


@method(
    "step-fit",
    source="least squares of K·u·(1 − e^(−(t − θ)/T)), or of its integral, over the measured step",
    works=(ASTROM,),
    checked="steps by scipy with noise: gain, lag and dead time found again",
    limits="one lag with dead time; a step that is made at once and held",
)
def step_fit(
    times_s: Sequence[float], values: Sequence[float], step: float, integrates: bool = False
) -> StepFit:  # fmt: skip
    """Gain, lag and dead time of a plant from what it did after a step of its input.

    Args:
        times_s: since the step, rising
        values: of what is controlled
        step: of the input
        integrates: whether it moves on as long as the input is there
    Returns:
        gain: what comes out for one of what goes in; of an integrator in a second
        time_constant_s: its lag
        delay_s: before anything moves
        residual_sd: of what is left over, in the values' unit
    Raises:
        ValueError: fewer than 8 points, times that do not rise, no step, or values that never move.
    """
    t, y = np.asarray(times_s, dtype=float), np.asarray(values, dtype=float)
    require(len(t) == len(y) and len(t) >= 8, "at least 8 points, a value for each time")
    require(
        bool(np.isfinite(t).all() and np.isfinite(y).all() and (np.diff(t) > 0).all()), "times rise, values are numbers"
    )
    require(step != 0 and t[-1] > 0, "a step, and times after it")
    y = y - y[t <= 0].mean() if (t <= 0).any() else y - y[0]
    require(float(np.ptp(y)) > 0, "values that move")
    lag, late, residual = _best_lag(t, y, step, integrates=integrates)
    form = _shape(t, lag, late, integrates=integrates) * step
    return StepFit(float(form @ y) / float(form @ form), lag, late, residual)


def _shape(t: Array, lag_s: float, late_s: float, *, integrates: bool) -> Array:
    """What a plant of gain 1 does after a step of 1; shape of the times."""
    since = np.maximum(t - late_s, 0.0)
    rise: Array = 1 - np.exp(-since / lag_s)
    return since - lag_s * rise if integrates else rise


def _best_lag(t: Array, y: Array, step: float, *, integrates: bool) -> tuple[float, float, float]:
    """Lag, dead time and standard deviation of what is left over, by least squares from several starts."""
    from scipy.optimize import least_squares  # heavy: only when a step is read

    span = float(t[-1])

    def left(p: Array) -> Array:
        form = _shape(t, math.exp(p[0]), p[1], integrates=integrates) * step
        size = float(form @ form)
        found: Array = y - form * (float(form @ y) / size if size > 0 else 0.0)
        return found

    starts = [(math.log(span * lag), span * late) for lag in (0.03, 0.1, 0.3) for late in (0.0, 0.05, 0.2)]
    bounds = ([math.log(span * 1e-4), 0.0], [math.log(span * 10), span * 0.9])
    best = min((least_squares(left, x0, bounds=bounds) for x0 in starts), key=lambda f: float(f.cost))
    residual = float(np.sqrt(2 * best.cost / max(len(t) - 3, 1)))
    return math.exp(float(best.x[0])), float(best.x[1]), residual
