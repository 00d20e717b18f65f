"""What could be done about a loop that rings or swings: less gain, settings by a published rule, less delay."""

import math
from collections.abc import Iterator

from msgspec.structs import replace

from wired_union.kernel.results import Remedy, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.physics.loops import is_stable, margins, pid, simc_tuning
from wired_union.physics.sampled import settles_sampled
from wired_union.project.change import Change
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.edits_shared import set_loop
from wired_union.subjects.timing.loops import ENOUGH_DEG, LoopResult
from wired_union.subjects.timing.remedies import remedies as chain_remedies
from wired_union.units import show

HALVINGS, OF_CHAIN = 40, 3
Way = tuple[str, Change | None]


def remedies(assessment: Assessment, r: LoopResult) -> tuple[Remedy, ...]:
    """Of the loop's own settings first, then what shortens its chain."""
    chain = next((c for c in assessment.of(TIMING).chains if c.chain.id == r.loop.chain), None)
    shorter = chain_remedies(assessment.project, chain)[:OF_CHAIN] if chain is not None and chain.bars else ()
    return (*possible(*_settings(assessment, r)), *shorter)


def _settings(assessment: Assessment, r: LoopResult) -> Iterator[Way]:
    project, loop = assessment.project, r.loop
    if r.plant is None or r.delay_s is None:
        return
    if (calm := calmer_gain(r)) is not None:
        yield f"a gain of {calm:.3g}", tried(set_loop, project, value_id=loop.id, control_gain=calm)
    if (rule := by_simc(r)) is not None:
        gain, integral = rule
        words = f"gain {gain:.3g}, integral time {show(integral, 's')} (SIMC)"
        change = tried(set_loop, project, value_id=loop.id, control_gain=gain, integral_s=integral, derivative_s=None)
        yield words, change
    if loop.sample_s / 2 > 0.1 * r.delay_s:
        words = f"run it every {show(loop.sample_s / 2, 's')}"
        yield words, tried(set_loop, project, value_id=loop.id, sample_s=loop.sample_s / 2)


def calmer_gain(r: LoopResult) -> float | None:
    """The largest gain below the present one that leaves enough phase, to three figures; None where none does."""
    loop, low, high = r.loop, 0.0, r.loop.control_gain

    def calm(gain: float) -> bool:
        assert r.plant is not None
        whole = r.plant.times(pid(gain, loop.integral_s, loop.derivative_s))
        if not is_stable(whole):
            return False
        found, run = margins(whole, r.delay_s or 0.0), replace(r.sampled(), gain=gain, most=math.inf)
        if settles_sampled(r.plant, run) is False:
            return False
        return found is None or found.margin_left_deg >= ENOUGH_DEG

    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if calm(middle) else (low, middle)
    gain = float(f"{low * 0.99:.3g}")
    return gain if gain > loop.control_gain * 1e-3 and gain < loop.control_gain and calm(gain) else None


def by_simc(r: LoopResult) -> tuple[float, float] | None:
    """Gain and integral time by SIMC for a plant of one lag, or of an integrator with one."""
    if r.plant is None or r.delay_s is None or r.delay_s <= 0:
        return None
    gain, time = r.plant.numerator[0], r.plant.denominator[0]
    found = simc_tuning(gain, time, r.delay_s, integrates=len(r.plant.denominator) == 3)
    return float(f"{found.gain:.3g}"), float(f"{found.integral_s:.3g}")
