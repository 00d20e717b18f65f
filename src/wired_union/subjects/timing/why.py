"""Why a link of a chain takes what it takes, in words: what it waits for, and what then is done."""

from collections.abc import Callable
from typing import Any

from wired_union.project.timing_model import (
    AirStage,
    Debounce,
    MessageStage,
    Movement,
    PictureStage,
    Sampled,
    SignalStage,
    Stage,
    TaskStage,
    Transfer,
)
from wired_union.subjects.timing.stages import Around
from wired_union.units import show


def why_of(stage: Stage, around: Around) -> str:
    """ "waits up to 20 ms to be looked at, then up to 5.1 ms: runs 1.2 ms, the rest waits for others" """
    tell = WHY.get(type(stage))
    return tell(stage, around) if tell is not None else ""


def _waits(period_s: float, starts: str) -> str:
    return (
        f"waits up to {show(period_s, 's')} for its turn, then " if starts == "by its period" else "started at once, "
    )


def _task(stage: TaskStage, around: Around) -> str:
    found = around.tasks.get(stage.task)
    if found is None or found.response_s is None or found.task.most_s is None:
        return ""
    rest = max(found.response_s - found.task.most_s, 0.0)
    others = f", {show(rest, 's')} behind what goes before it" if rest > 1e-9 else ""
    return f"{_waits(found.task.period_s, stage.starts)}runs up to {show(found.task.most_s, 's')}{others}"


def _message(stage: MessageStage, around: Around) -> str:
    found = around.messages.get(stage.message)
    if found is None or found.response_s is None:
        return ""
    rest = max(found.response_s - found.time_s, 0.0)
    others = f", {show(rest, 's')} behind others" if rest > 1e-9 else ""
    return f"{_waits(found.message.every_s, stage.starts)}{show(found.time_s, 's')} on the wire{others}"


def _air(stage: AirStage, around: Around) -> str:
    found = around.links.get(stage.link)
    if found is None or found.unsized:
        return ""
    hops = f"{found.link.hops} times " if found.link.hops > 1 else ""
    told = "its network takes the rest" if found.foreign else f"{hops}{show(found.airtime_s, 's')} on the air"
    return f"{_waits(found.link.every_s, stage.starts)}{told}"


def _picture(stage: PictureStage, around: Around) -> str:
    found = around.eyes.get(stage.eye)
    if found is None:
        return ""
    p = found.pictures
    return f"looks through {p.per_s:.3g} pictures a second, {show(p.each_s, 's')} each; just missed at the worst"


def _signal(stage: SignalStage, around: Around) -> str:
    found = around.signals.get(stage.signal)
    return "; ".join(found.words) if found is not None else ""


WHY: dict[type[Stage], Callable[[Any, Around], str]] = {
    Debounce: lambda stage, _: "a wait that is meant",
    Sampled: lambda stage, _: f"looks every {show(stage.period_s, 's')}, just missed at the worst,"
                              f" then {show(stage.response_s, 's')}",
    Transfer: lambda stage, _: f"{stage.bytes} bytes at {show(stage.clock_hz, 'Hz')}",
    Movement: lambda stage, _: "as Motion works out",
    TaskStage: _task, MessageStage: _message, AirStage: _air, PictureStage: _picture, SignalStage: _signal,
}  # fmt: skip
