"""The stages of a chain as times: what is measured, what a bus takes, what Motion works out, what is done again."""

import math
from collections.abc import Mapping

from msgspec import Struct

from wired_union.physics.latency import StageTimes
from wired_union.project.model import Again, Chain, Movement, Sampled, Spell, Stage, Transfer
from wired_union.subjects.timing.results import transfer_time_s

MOST = 10_000
"""Stages in a row, those done again counted each time."""


class Takes(Struct, frozen=True):
    """How long one movement of a load takes; what is missing where nothing says."""

    least_s: float = math.nan
    most_s: float = math.nan
    missing: tuple[str, ...] = ()


Movements = Mapping[str, Takes]
"""By the id of a load."""


def times_of(chain: Chain, movements: Movements) -> tuple[list[list[StageTimes]], tuple[str, ...]]:
    """For each stage the times that it stands for, one or, done again, many; and what is missing."""
    found: list[list[StageTimes]] = []
    missing: list[str] = []
    for stage in chain.stages:
        if isinstance(stage, Again):
            block = [t for times in found[-stage.stages :] for t in times]
            fits = len(block) * stage.times <= MOST
            missing += [] if fits else [f"{stage.name}: fewer than {MOST} stages in a row"]
            found.append(block * stage.times if fits else [])
        else:
            times, lacks = _times(stage, movements)
            missing += lacks
            found.append([times])
    return found, tuple(missing)


def _times(stage: Stage, movements: Movements) -> tuple[StageTimes, tuple[str, ...]]:
    nothing = (False, 0.0, 0.0)
    if isinstance(stage, Sampled):
        return (True, stage.period_s, stage.response_s), ()
    if isinstance(stage, Transfer):
        time = transfer_time_s(stage)
        return (False, time, time), ()
    if isinstance(stage, Spell):
        odd = stage.least_s > stage.most_s
        return (False, stage.least_s, stage.most_s), (f"{stage.name}: its least time is above its most",) * odd
    if isinstance(stage, Movement):
        takes = movements.get(stage.load)
        if takes is None:
            return nothing, (f"{stage.name}: what moves",)
        return (False, takes.least_s, takes.most_s) if not takes.missing else nothing, takes.missing
    return nothing, ()
