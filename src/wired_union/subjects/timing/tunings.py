"""Settings of a loop by several published rules, side by side with what each does."""

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.loops import (
    Tuning,
    is_stable,
    lambda_tuning,
    margins,
    pid,
    placement_tuning,
    simc_tuning,
    ziegler_nichols,
)
from wired_union.physics.sampled import settles_sampled, step_response
from wired_union.project.timing_model import Loop
from wired_union.subjects.timing.loops import LoopResult
from wired_union.subjects.timing.picture_loop import span_s
from wired_union.units import show

CLOSED = 3.0
"""How many dead times the closed loop of the λ rule takes: common practice."""
NEAR, HALVINGS = 0.05, 80


class Tuned(Struct, frozen=True):
    """What a rule says, and what the loop then does."""

    rule: str
    gain: float
    integral_s: float | None
    left_deg: float
    overshoot: float
    settles_s: float | None
    """until it stays within 5 %; None where it does not in what is looked at"""

    @property
    def words(self) -> str:
        """ "SIMC: gain 0.70, I 5.7 s; 47° left, 24 % over, settles in 4.1 s" """
        integral = f", I {show(self.integral_s, 's')}" if self.integral_s else ", no I"
        settles = f"settles in {show(self.settles_s, 's')}" if self.settles_s is not None else "does not settle soon"
        over = show(self.overshoot, "share") if self.overshoot > 5e-4 else "nothing"
        return f"{self.rule}: gain {self.gain:.3g}{integral}; {self.left_deg:.0f}° left, {over} over, {settles}"


def tunings(r: LoopResult) -> list[Tuned]:
    """Each rule that goes with the plant, tried on the loop with its delay; those that swing up are left out."""
    if r.plant is None or not r.delay_s or not r.known:
        return []
    return [t for rule, found in _rules(r) if (t := _tried(r, rule, found)) is not None]


def _rules(r: LoopResult) -> list[tuple[str, Tuning]]:
    assert r.plant is not None
    assert r.delay_s is not None
    gain, lag = r.plant.numerator[0], r.plant.denominator[0]
    integrates = len(r.plant.denominator) == 3
    dead = r.delay_s + (lag if integrates else 0.0)
    found = [("SIMC", simc_tuning(gain, lag, r.delay_s, integrates)),
             ("λ of three delays", lambda_tuning(gain, lag, r.delay_s, CLOSED * dead, integrates))]  # fmt: skip
    swing = swings_at(r)
    if swing is not None:
        found.append(("Ziegler and Nichols", ziegler_nichols(*swing)))
    if integrates:
        found.append(("critically damped", placement_tuning(gain, lag)))
    return found


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


def _tried(r: LoopResult, rule: str, tuning: Tuning) -> Tuned | None:
    assert r.plant is not None
    gain, integral = float(f"{tuning.gain:.3g}"), float(f"{tuning.integral_s:.3g}") or None
    whole = r.plant.times(pid(gain, integral, None))
    found = margins(whole, r.delay_s or 0.0) if is_stable(whole) else None
    if found is None or found.margin_left_deg <= 0:
        return None
    loop = r.loop.but(control_gain=gain, integral_s=integral, derivative_s=None)
    tried = LoopResult(loop, r.plant, r.delay_s, found)
    if settles_sampled(r.plant, replace(tried.sampled(), most=math.inf)) is False:
        return None
    times, y = step_response(r.plant, tried.sampled(), 3 * span_s(tried))
    off = np.flatnonzero(np.abs(y - 1) > NEAR)
    last = int(off[-1]) if len(off) else -1
    settles = float(times[last + 1]) if last + 1 < len(times) else None
    return Tuned(rule, gain, integral, found.margin_left_deg, max(float(y.max()) - 1, 0.0), settles)


def taken(loop: Loop, tuned: Tuned) -> dict[str, float | None]:
    """The figures of a loop with those settings."""
    return {"control_gain": tuned.gain, "integral_s": tuned.integral_s, "derivative_s": None}
