"""Settings of a loop by several published rules, side by side with what each does."""

import math
from collections.abc import Iterator
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.loops import Tuning, lambda_tuning, placement_tuning, simc_tuning, ziegler_nichols
from wired_union.physics.sampled import MOST_AHEAD, run_of
from wired_union.physics.step import step_told
from wired_union.project.loop_model import Loop
from wired_union.subjects.timing.loops import LoopResult, with_margins
from wired_union.subjects.timing.picture_loop import span_s
from wired_union.subjects.timing.plants import one_lag
from wired_union.units import show

CLOSED = 3.0
"""How many dead times the closed loop of the λ rule takes: common practice."""
WANTED_DEG = 60.0
"""Margin to which today's ratio of P to I to D is scaled: common practice, 45 to 60."""
HALVINGS, SCALINGS, POINTS, MOST_PERIODS = 80, 22, 800, 4000
Figures = dict[str, Any]
PID: Figures = {"controller": "PID", "predicts_s": 0.0, "speed_gain": 0.0}


class Tuned(Struct, frozen=True):
    """What a rule says, and what the loop then does."""

    rule: str
    figures: Figures
    left_deg: float
    overshoot: float
    settles_s: float | None
    """until it stays within 5 %; None where it does not in what is looked at"""
    noise: float | None
    """effective, of what it gives; None where its sensor is taken as without any"""

    @property
    def words(self) -> str:
        """ "SIMC: gain 0.70, I 5.7 s; 47° left, 24 % over, settles in 4.1 s" """
        integral, ahead, speed = (self.figures.get(f) for f in ("integral_s", "predicts_s", "speed_gain"))
        parts = [f"gain {self.figures['control_gain']:.3g}", f"I {show(integral, 's')}" if integral else "no I"]
        if self.figures["controller"] == "state feedback":
            parts[1] = f"{speed:.3g} against its speed"
        if ahead:
            parts.append(f"{show(ahead, 's')} ahead")
        settles = f"settles in {show(self.settles_s, 's')}" if self.settles_s is not None else "does not settle soon"
        over = show(self.overshoot, "share") if self.overshoot > 5e-4 else "nothing"
        shaken = f", noise of {self.noise:.2g} in what it gives" if self.noise is not None else ""
        return f"{self.rule}: {', '.join(parts)}; {self.left_deg:.0f}° left, {over} over, {settles}{shaken}"


def tunings(r: LoopResult) -> list[Tuned]:
    """Each rule that goes with the plant, tried on the loop with its delay; those that swing up are left out."""
    if r.plant is None or not r.delay_s or not r.known or not one_lag(r.plant):
        return []
    return [t for rule, found in _rules(r) if (t := tried_on(r, rule, found)) is not None]


def _rules(r: LoopResult) -> Iterator[tuple[str, Figures]]:
    assert r.plant is not None
    assert r.delay_s is not None
    gain, lag = r.plant.numerator[0], r.plant.denominator[0]
    integrates = len(r.plant.denominator) == 3
    dead = r.delay_s + (lag if integrates else 0.0)
    yield "SIMC", as_pi(simc_tuning(gain, lag, r.delay_s, integrates))
    yield "λ of three delays", as_pi(lambda_tuning(gain, lag, r.delay_s, CLOSED * dead, integrates))
    swing = swings_at(r)
    if swing is not None:
        yield "Ziegler and Nichols", as_pi(ziegler_nichols(*swing))
    if integrates:
        yield "critically damped", as_pi(placement_tuning(gain, lag))
    if (scaled := same_ratio(r)) is not None:
        yield f"today's ratio, for {WANTED_DEG:g}°", scaled
    if (placed := placed_ahead(r)) is not None:
        yield "both roots alike, predicting", placed


def as_pi(tuning: Tuning) -> Figures:
    """Figures of a loop with those settings, to three digits."""
    integral = float(f"{tuning.integral_s:.3g}") or None
    return {**PID, "control_gain": float(f"{tuning.gain:.3g}"), "integral_s": integral, "derivative_s": None}


def same_ratio(r: LoopResult) -> Figures | None:
    """Times as they are, and the gain at which so much margin is left; None where no gain leaves it."""
    if r.loop.controller != "PID" or r.loop.predicts_s:
        return None

    def left(gain: float) -> float:
        found = with_margins(replace(r, loop=r.loop.but(control_gain=gain), margins=None))
        return found.left_deg or 0.0

    low, high = r.loop.control_gain * 1e-3, r.loop.control_gain * 1e3
    if left(low) < WANTED_DEG:
        return None
    for _ in range(SCALINGS):
        middle = math.sqrt(low * high)
        low, high = (middle, high) if left(middle) >= WANTED_DEG else (low, middle)
    return {**PID, "control_gain": float(f"{low * 0.995:.3g}")}


def placed_ahead(r: LoopResult) -> Figures | None:
    """State feedback with both roots at one over the delay, which is predicted; None where that is too many periods."""
    assert r.plant is not None
    assert r.delay_s is not None
    loop, integrates = r.loop, len(r.plant.denominator) == 3
    periods = round((r.delay_s - loop.sample_s / 2) / loop.sample_s)
    if not 0 < periods < MOST_AHEAD:
        return None
    gain, lag = r.plant.numerator[0], r.plant.denominator[0]
    closed = max(r.delay_s, CLOSED * loop.sample_s)
    first = lag / (gain * closed**2) if integrates else (lag / closed - 1) / gain
    second = max((2 * lag / closed - 1) / gain, 0.0) if integrates else 0.0
    if first <= 0:
        return None
    return {"controller": "state feedback", "control_gain": float(f"{first:.3g}"),
            "speed_gain": float(f"{second:.3g}"), "predicts_s": periods * loop.sample_s}  # fmt: skip


def swings_at(r: LoopResult) -> tuple[float, float] | None:
    """Gain of a plain P controller at which the loop just goes on swinging, and the period of that."""
    assert r.plant is not None
    lag, integrates, delay = r.plant.denominator[0], len(r.plant.denominator) == 3, r.delay_s or 0.0

    def late_rad(w: float) -> float:
        return (math.pi / 2 if integrates else 0.0) + math.atan(w * lag) + w * delay

    low, high = 0.0, math.pi / max(delay, 1e-12)
    if late_rad(high) < math.pi:
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if late_rad(middle) < math.pi else (low, middle)
    size = abs(r.plant.at(high))
    return (1 / size, 2 * math.pi / high) if size > 0 and high > 0 else None


def tried_on(r: LoopResult, rule: str, figures: Figures) -> Tuned | None:
    """A loop with other settings, and what it then does; None where it swings up."""
    assert r.plant is not None
    if not math.isfinite(figures["control_gain"]) or figures["control_gain"] <= 0:
        return None
    found = with_margins(replace(r, loop=r.loop.but(**figures), margins=None, settles=True, sampled_settles=True))
    if found.left_deg is None or found.left_deg <= 0:
        return None
    until = min(3 * span_s(found), MOST_PERIODS * found.loop.sample_s)
    told = step_told(run_of(r.plant, replace(found.sampled(), noise=0.0), until, POINTS), found.loop.step)
    settles = told.settling_time_s if math.isfinite(told.settling_time_s) else None
    return Tuned(rule, figures, found.left_deg, told.overshoot, settles, found.noise_out)


def taken(_: Loop, tuned: Tuned) -> Figures:
    """The figures of a loop with those settings."""
    return tuned.figures
