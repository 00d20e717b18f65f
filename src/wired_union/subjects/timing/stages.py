"""The stages of a chain as times: what is measured, what a bus takes, what Motion works out, what is done again."""

import math
from collections.abc import Callable, Mapping
from typing import Any

from msgspec import Struct

from wired_union.physics.latency import StageTimes
from wired_union.project.timing_model import (
    Again,
    AirStage,
    Chain,
    MessageStage,
    Movement,
    PictureStage,
    Sampled,
    SignalStage,
    Spell,
    Stage,
    TaskStage,
    Transfer,
)
from wired_union.subjects.timing.air import LinkResult
from wired_union.subjects.timing.buses import MessageResult
from wired_union.subjects.timing.eyes import EyeResult
from wired_union.subjects.timing.results import transfer_time_s
from wired_union.subjects.timing.signals import SignalResult
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
    eyes: Mapping[str, EyeResult]
    signals: Mapping[str, SignalResult]


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


def periods_of(chain: Chain, around: Around) -> list[list[float]]:
    """For each stage the periods at which it looks, as `times_of` has its times; 0 where it is started at once."""
    found: list[list[float]] = []
    for stage in chain.stages:
        if isinstance(stage, Again):
            found.append([p for each in found[-stage.stages :] for p in each] * stage.times)
        else:
            found.append([_period(stage, around)])
    return found


def _period(stage: Stage, around: Around) -> float:
    if isinstance(stage, Sampled):
        return stage.period_s
    if isinstance(stage, TaskStage | MessageStage | AirStage) and stage.starts == "by its period":
        task, message, link = (around.tasks.get(stage.task) if isinstance(stage, TaskStage) else None,
                               around.messages.get(stage.message) if isinstance(stage, MessageStage) else None,
                               around.links.get(stage.link) if isinstance(stage, AirStage) else None)  # fmt: skip
        if task is not None:
            return task.task.period_s
        if message is not None:
            return message.message.every_s
        return link.link.every_s if link is not None else 0.0
    if isinstance(stage, SignalStage):
        wire = around.signals.get(stage.signal)
        return 1 / wire.signal.frequency_hz if wire is not None and wire.signal.kind != "encoder" else 0.0
    if isinstance(stage, PictureStage):
        eye = around.eyes.get(stage.eye)
        return 1 / eye.pictures.per_s if eye is not None else 0.0
    return 0.0


NOTHING: StageTimes = (False, 0.0, 0.0)
Told = tuple[StageTimes, tuple[str, ...]]
"""The times of a stage, and what is missing of them."""


def _times(stage: Stage, around: Around) -> Told:
    if isinstance(stage, Spell):
        odd = stage.least_s > stage.most_s
        return (False, stage.least_s, stage.most_s), (f"{stage.name}: its least time is above its most",) * odd
    return TIMES[type(stage)](stage, around)


def _of_movement(stage: Movement, around: Around) -> Told:
    takes = around.movements.get(stage.load)
    if takes is None:
        return NOTHING, (f"{stage.name}: what moves",)
    return (False, takes.least_s, takes.most_s) if not takes.missing else NOTHING, takes.missing


def _of_transfer(stage: Transfer, _: Around) -> Told:
    time = transfer_time_s(stage)
    return (False, time, time), ()


def _of_picture(stage: PictureStage, around: Around) -> Told:
    """From what happens right before a picture, or right after one, until it is known."""
    eye = around.eyes.get(stage.eye)
    if eye is None:
        return NOTHING, (f"{stage.name}: which eye it is",)
    return (False, eye.pictures.youngest_s, eye.pictures.oldest_s), ()


def _of_signal(stage: SignalStage, around: Around) -> Told:
    """Until a frame is out, or a sample is converted; until an edge is counted."""
    result = around.signals.get(stage.signal)
    if result is None:
        return NOTHING, (f"{stage.name}: which wire it is",)
    if result.least_s is None or result.most_s is None:
        return NOTHING, result.missing or (f"{stage.name}: a time in which it is through",)
    return (False, result.least_s, result.most_s), ()


def _of_task(stage: TaskStage, around: Around) -> Told:
    """From when something is there to be read, at the least right before the task looks, until its run has ended."""
    result = around.tasks.get(stage.task)
    if result is None:
        return (False, 0.0, 0.0), (f"{stage.name}: which task it is",)
    response = result.response_s
    if response is None or result.bound or not math.isfinite(response):
        return (False, 0.0, 0.0), result.missing or (f"{stage.name}: a time in which {result.task.name} is done",)
    waits = result.task.period_s if stage.starts == "by its period" else 0.0
    return (False, min(result.task.least_s, response), waits + response), ()


def _of_link(stage: AirStage, around: Around) -> Told:
    """All its hops one after the other; what collides or fades is lost, and not counted."""
    result = around.links.get(stage.link)
    if result is None:
        return (False, 0.0, 0.0), (f"{stage.name}: which radio link it is",)
    if result.unsized:
        return (False, 0.0, 0.0), result.missing
    if result.foreign and result.missing:
        return NOTHING, result.missing
    least, most = result.takes_s
    waits = result.link.every_s if stage.starts == "by its period" else 0.0
    return (False, least, waits + most), ()


def _of_message(stage: MessageStage, around: Around) -> Told:
    result = around.messages.get(stage.message)
    if result is None:
        return (False, 0.0, 0.0), (f"{stage.name}: which message it is",)
    response = result.response_s
    if response is None or not math.isfinite(response):
        return (False, 0.0, 0.0), result.missing or (f"{stage.name}: a time in which {result.message.name} is there",)
    waits = result.message.every_s if stage.starts == "by its period" else 0.0
    return (False, min(result.time_s, response), waits + response), ()


TIMES: dict[type[Stage], Callable[[Any, Around], Told]] = {
    Sampled: lambda stage, _: ((True, stage.period_s, stage.response_s), ()),
    Transfer: _of_transfer,
    Movement: _of_movement,
    TaskStage: _of_task,
    MessageStage: _of_message,
    AirStage: _of_link,
    PictureStage: _of_picture,
    SignalStage: _of_signal,
}
