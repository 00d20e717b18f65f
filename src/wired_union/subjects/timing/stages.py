"""The stages of a chain as times: what is measured, what a bus takes, what Motion works out, what is done again."""

import math
from collections.abc import Mapping

from msgspec import Struct

from wired_union.physics.latency import StageTimes
from wired_union.project.timing_model import (
    Again,
    AirStage,
    Chain,
    MessageStage,
    Movement,
    Sampled,
    Spell,
    Stage,
    TaskStage,
    Transfer,
)
from wired_union.subjects.timing.air import LinkResult
from wired_union.subjects.timing.buses import MessageResult
from wired_union.subjects.timing.results import transfer_time_s
from wired_union.subjects.timing.tasks import TaskResult

MOST = 10_000
"""Stages in a row, those done again counted each time."""


class Takes(Struct, frozen=True):
    """How long one movement of a load takes; what is missing where nothing says."""

    least_s: float = math.nan
    most_s: float = math.nan
    missing: tuple[str, ...] = ()


Movements = Mapping[str, Takes]
"""By the id of a load."""


class Around(Struct, frozen=True):
    """What stages refer to: what Motion moves, tasks and messages."""

    movements: Movements
    tasks: Mapping[str, TaskResult]
    messages: Mapping[str, MessageResult]
    links: Mapping[str, LinkResult]


def times_of(chain: Chain, around: Around) -> tuple[list[list[StageTimes]], tuple[str, ...]]:
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
            times, lacks = _times(stage, around)
            missing += lacks
            found.append([times])
    return found, tuple(missing)


def _times(stage: Stage, around: Around) -> tuple[StageTimes, tuple[str, ...]]:
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
        takes = around.movements.get(stage.load)
        if takes is None:
            return nothing, (f"{stage.name}: what moves",)
        return (False, takes.least_s, takes.most_s) if not takes.missing else nothing, takes.missing
    if isinstance(stage, TaskStage):
        return _of_task(stage, around.tasks.get(stage.task))
    if isinstance(stage, MessageStage):
        return _of_message(stage, around.messages.get(stage.message))
    if isinstance(stage, AirStage):
        return _of_link(stage, around.links.get(stage.link))
    return nothing, ()


def _of_task(stage: TaskStage, result: TaskResult | None) -> tuple[StageTimes, tuple[str, ...]]:
    """From when something is there to be read, at the least right before the task looks, until its run has ended."""
    if result is None:
        return (False, 0.0, 0.0), (f"{stage.name}: which task it is",)
    response = result.response_s
    if response is None or result.bound or not math.isfinite(response):
        return (False, 0.0, 0.0), result.missing or (f"{stage.name}: a time in which {result.task.name} is done",)
    waits = result.task.period_s if stage.starts == "by its period" else 0.0
    return (False, min(result.task.least_s, response), waits + response), ()


def _of_link(stage: AirStage, result: LinkResult | None) -> tuple[StageTimes, tuple[str, ...]]:
    """All its hops one after the other; what collides or fades is lost, and not counted."""
    if result is None:
        return (False, 0.0, 0.0), (f"{stage.name}: which radio link it is",)
    takes = result.airtime_s * result.link.hops
    waits = result.link.every_s if stage.starts == "by its period" else 0.0
    return (False, takes, waits + takes), ()


def _of_message(stage: MessageStage, result: MessageResult | None) -> tuple[StageTimes, tuple[str, ...]]:
    if result is None:
        return (False, 0.0, 0.0), (f"{stage.name}: which message it is",)
    response = result.response_s
    if response is None or not math.isfinite(response):
        return (False, 0.0, 0.0), result.missing or (f"{stage.name}: a time in which {result.message.name} is there",)
    waits = result.message.every_s if stage.starts == "by its period" else 0.0
    return (False, min(result.time_s, response), waits + response), ()
