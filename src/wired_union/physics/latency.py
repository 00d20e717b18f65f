"""From something sensed to something done: stages in a row."""

from collections.abc import Sequence
from typing import TypeAlias

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.method import method, require
from wired_union.physics.sources import DAVARE, FEIERTAG, FELLER

StageTimes: TypeAlias = tuple[bool, float, float]
"""(sampled, least_s, most_s), or (True, period_s, response_s) for a sampled stage."""


class ChainLatency(Struct, frozen=True):
    least_s: float
    typical_s: float
    most_s: float


@method(
    "chain-latency",
    source="most: Σ(Tᵢ + Rᵢ) for sampled stages",
    works=(DAVARE,),
    checked="values worked by hand",
    limits="stages not synchronised with each other; typical is the middle of each stage",
)
def chain_latency(stages: Sequence[StageTimes]) -> ChainLatency:
    """Least, typical and most time from the first stage's event to the last stage's end.

    Args:
        stages: each least:most, or sampled:period:response
    Returns:
        least_s: every stage at its shortest; a sample falls right after the event
        typical_s: every stage in its middle; a sample falls half a period after the event
        most_s: every stage at its longest; each sample has just been missed
    Raises:
        ValueError: no stage, a negative time, or least above most.
    """
    require(len(stages) > 0, "a chain has at least one stage")
    least = typical = most = 0.0
    for sampled, first, second in stages:
        low, high = stage_bounds(sampled, first, second)
        least, typical, most = least + low, typical + (low + high) / 2, most + high
    return ChainLatency(least, typical, most)


def stage_bounds(sampled: bool, first_s: float, second_s: float) -> tuple[float, float]:
    """Least and most of one stage; a sampled one takes its response, and up to a period of waiting before it."""
    require(first_s >= 0 and second_s >= 0, "times are 0 or more")
    if sampled:
        return second_s, first_s + second_s
    require(first_s <= second_s, "the least time of a stage is at most its most")
    return first_s, second_s


class ChainSpread(Struct, frozen=True):
    median_s: float
    ninety_s: float
    ninety_nine_s: float
    within: float


class ChainAge(Struct, frozen=True):
    reaction_s: float
    age_s: float
    kept_s: float


GRID = 2000
"""Points of a distribution."""


def spread_of(stages: Sequence[StageTimes]) -> tuple[Array, Array]:
    """Times from least to most, and the share of all cases that are done by then; shapes (GRID + 1,).

    Each stage is anywhere between its least and its most, alike and by itself: the density is the convolution of all.
    """
    bounds = [stage_bounds(*s) for s in stages]
    low, wide = sum(b[0] for b in bounds), [b[1] - b[0] for b in bounds]
    whole = sum(wide)
    times: Array = low + whole * np.arange(GRID + 1) / GRID
    if whole / GRID <= 0:
        return times, np.ones(GRID + 1)
    step = whole / GRID
    density = np.array([1.0])
    for w in sorted(wide):
        if w > 0:
            density = np.convolve(density, _cells(w / step))
    done = np.concatenate([[0.0], np.cumsum(density)])[: GRID + 1]
    done = np.pad(done, (0, max(GRID + 1 - len(done), 0)), constant_values=1.0)
    return times, done / done[-1]


def _cells(wide: float) -> Array:
    """A width in cells, the last of them filled as far as it goes; of one cell at the least."""
    full = int(wide)
    cells = np.ones(full + 1)
    cells[-1] = wide - full
    cells = cells if cells[-1] > 1e-9 or not full else cells[:-1]
    found: Array = cells / cells.sum() if full else np.ones(1)
    return found


@method(
    "chain-spread",
    source="density of a sum as the convolution of each stage's: alike from its least to its most",
    works=(FELLER,),
    checked="two and three alike stages by hand (a triangle, a parabola), ten thousand random ones by numpy",
    limits="phases are at random and stages know nothing of each other; the real mix inside a stage is not known",
)
def chain_spread(stages: Sequence[StageTimes], limit_s: float) -> ChainSpread:
    """How a chain's times spread where every phase is as likely as any other.

    Args:
        stages: each least:most, or sampled:period:response
        limit_s: time that is allowed
    Returns:
        median_s: half of all cases are quicker
        ninety_s: nine of ten are
        ninety_nine_s: ninety-nine of a hundred are
        within: share of all cases that are within the limit
    Raises:
        ValueError: no stage, a negative time, or least above most.
    """
    require(len(stages) > 0 and limit_s >= 0, "a chain has at least one stage, the limit is 0 or more")
    times, done = spread_of(stages)
    if times[-1] <= times[0]:
        return ChainSpread(float(times[0]), float(times[0]), float(times[0]), float(limit_s >= times[0]))
    at = [float(np.interp(p, done, times)) for p in (0.5, 0.9, 0.99)]
    return ChainSpread(at[0], at[1], at[2], float(np.interp(limit_s, times, done, left=0.0, right=1.0)))


@method(
    "chain-age",
    source="reaction Σ(Tᵢ + Rᵢ); age in force the same from the first sample on; when acted on less the last period",
    works=(FEIERTAG, DAVARE),
    checked="every phase of two and three samplers on a fine grid, simulated: never above, and nearly reached",
    limits="stages not synchronised; each reads the newest value when it begins",
)
def chain_age(stages: Sequence[StageTimes], periods_s: Sequence[float]) -> ChainAge:
    """How late something is acted on, against how old what is acted on may be.

    Args:
        stages: each least:most, or sampled:period:response; a wait for a period counts in its most
        periods_s: of each stage that looks once a period; 0 for one that is started by what comes before
    Returns:
        reaction_s: from something happening until it is acted on, at the worst
        age_s: from when it was sampled until it is acted on, at the worst
        kept_s: the same until the next is acted on: how old what is in force may be
    Raises:
        ValueError: no stage, or not as many periods.
    """
    require(len(stages) > 0 and len(stages) == len(periods_s), "a period for each stage, 0 for none")
    most = [stage_bounds(*s)[1] for s in stages]
    first = next((i for i, p in enumerate(periods_s) if p > 0), None)
    before = sum(most[:first]) if first is not None else 0.0
    last = next((p for p in reversed(periods_s) if p > 0), 0.0)
    whole = sum(most)
    return ChainAge(whole, whole - before - last, whole - before)
