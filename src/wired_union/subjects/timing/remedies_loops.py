"""What could be done about a loop that rings or swings: less gain, settings by a published rule, less delay."""

from collections.abc import Iterator

from msgspec.structs import replace

from wired_union.kernel.results import Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.physics.loops import simc_tuning
from wired_union.physics.sampled import MOST_AHEAD
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.edits_shared import set_loop
from wired_union.subjects.timing.loops import ENOUGH_DEG, LoopResult, with_margins
from wired_union.subjects.timing.plants import one_lag
from wired_union.subjects.timing.remedies import remedies as chain_remedies
from wired_union.subjects.timing.tunings import PID
from wired_union.units import show

HALVINGS, OF_CHAIN = 30, 3
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
    yield from _switched(project, r) if r.switches else _smooth(project, r)
    if loop.sample_s / 2 > 0.1 * r.delay_s:
        words = f"run it every {show(loop.sample_s / 2, 's')}"
        yield words, tried(set_loop, project, value_id=loop.id, sample_s=loop.sample_s / 2)


def _smooth(project: Project, r: LoopResult) -> Iterator[Way]:
    """Less gain; a published rule; its delay predicted."""
    loop = r.loop
    if (calm := calmer_gain(r)) is not None:
        yield f"a gain of {calm:.3g}", tried(set_loop, project, value_id=loop.id, control_gain=calm)
    if (rule := by_simc(r)) is not None:
        gain, integral = rule
        words = f"gain {gain:.3g}, integral time {show(integral, 's')} (SIMC)"
        change = tried(set_loop, project, value_id=loop.id, control_gain=gain, integral_s=integral, derivative_s=None,
                       **PID)  # fmt: skip
        yield words, change
    ahead = predicted_s(r)
    if ahead and not loop.predicts_s:
        words = f"predict {show(ahead, 's')} ahead, by its model"
        yield words, tried(set_loop, project, value_id=loop.id, predicts_s=ahead)
    if loop.swings is not None and r.rest_verdict in {Verdict.BREAKS, Verdict.TIGHT}:
        half = loop.control_gain / 2
        yield f"half the gain, {half:.3g}", tried(set_loop, project, value_id=loop.id, control_gain=half)
    if loop.swings is not None and loop.integral_s and loop.backlash:
        yield "no I part: it hunts across the play", tried(set_loop, project, value_id=loop.id, integral_s=None)


def _switched(project: Project, r: LoopResult) -> Iterator[Way]:
    """A narrower band; a PI controller instead."""
    loop = r.loop
    if loop.band > 0:
        yield "half the dead band", tried(set_loop, project, value_id=loop.id, band=loop.band / 2)
    if (rule := by_simc(r)) is not None:
        gain, integral = rule
        words = f"a PI controller instead: gain {gain:.3g}, integral time {show(integral, 's')} (SIMC)"
        yield words, tried(set_loop, project, value_id=loop.id, control_gain=gain, integral_s=integral, **PID)


def predicted_s(r: LoopResult) -> float:
    """Its delay in whole periods, where it can be predicted; 0 where it can not."""
    if r.plant is None or r.delay_s is None or not one_lag(r.plant):
        return 0.0
    periods = round((r.delay_s - r.loop.sample_s / 2) / r.loop.sample_s)
    return periods * r.loop.sample_s if 0 < periods < MOST_AHEAD else 0.0


def calmer_gain(r: LoopResult) -> float | None:
    """The largest gain below the present one that leaves enough phase, to three figures; None where none does."""
    loop, low, high = r.loop, 0.0, r.loop.control_gain

    def calm(gain: float) -> bool:
        found = with_margins(replace(r, loop=loop.but(control_gain=gain), margins=None, settles=True))
        return (found.left_deg or 0.0) >= ENOUGH_DEG

    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if middle > 0 and calm(middle) else (low, middle)
    gain = float(f"{low * 0.99:.3g}")
    return gain if gain > loop.control_gain * 1e-3 and gain < loop.control_gain and calm(gain) else None


def by_simc(r: LoopResult) -> tuple[float, float] | None:
    """Gain and integral time by SIMC for a plant of one lag, or of an integrator with one."""
    if r.plant is None or r.delay_s is None or r.delay_s <= 0 or not one_lag(r.plant):
        return None
    gain, time = r.plant.numerator[0], r.plant.denominator[0]
    found = simc_tuning(gain, time, r.delay_s, integrates=len(r.plant.denominator) == 3)
    return float(f"{found.gain:.3g}"), float(f"{found.integral_s:.3g}")
