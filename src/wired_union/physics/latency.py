"""From something sensed to something done: stages in a row."""

from collections.abc import Sequence
from typing import TypeAlias

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import DAVARE

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
