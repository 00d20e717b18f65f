"""What could shorten a signal chain."""

from wired_union.kernel.results import Remedy, tried
from wired_union.project.model import MessageStage, PictureStage, Project, Sampled, TaskStage, Transfer
from wired_union.subjects.timing.buses import on_wire_s
from wired_union.subjects.timing.edits import set_stage
from wired_union.subjects.timing.edits_shared import set_bus, set_eye, set_task
from wired_union.subjects.timing.eyes import assess_eye
from wired_union.subjects.timing.remedies_shared import NEXT_CLOCK_HZ as NEXT_BUS_HZ
from wired_union.subjects.timing.results import ChainResult, transfer_time_s
from wired_union.units import show

MOST_OFFERED = 5
NEXT_CLOCK_HZ = {"i2c": (100e3, 400e3, 1e6), "uart": (9600.0, 38400.0, 115200.0), "spi": (1e6, 8e6, 20e6)}


def remedies(project: Project, chain: ChainResult) -> tuple[Remedy, ...]:
    """What could be tried on the stages, the one that frees most first. A wait that is meant is left as it is."""
    found: list[tuple[float, Remedy]] = []
    for index, stage in enumerate(chain.chain.stages):
        if isinstance(stage, Sampled):
            found.extend(_sampled_remedies(project, chain.chain.id, index, stage))
        elif isinstance(stage, Transfer):
            found.extend(_faster_bus(project, chain.chain.id, index, stage))
        elif isinstance(stage, TaskStage):
            found.extend(_task_remedies(project, chain.chain.id, index, stage))
        elif isinstance(stage, MessageStage):
            found.extend(_message_remedies(project, chain.chain.id, index, stage))
        elif isinstance(stage, PictureStage):
            found.extend(cheaper_pictures(project, stage.eye))
    found.sort(key=lambda x: -x[0])
    return tuple(remedy for _, remedy in found if remedy.change is not None)[:MOST_OFFERED]


def _sampled_remedies(project: Project, chain: str, index: int, stage: Sampled) -> list[tuple[float, Remedy]]:
    half = stage.period_s / 2
    faster = tried(set_stage, project, chain, index, period_s=half)
    interrupt = tried(set_stage, project, chain, index, kind="event", least_s=stage.response_s, most_s=stage.response_s)
    return [
        (half, Remedy(f"poll “{stage.name}” every {show(half, 's')}", faster)),
        (stage.period_s, Remedy(f"interrupt instead of polling “{stage.name}”", interrupt)),
    ]


def _task_remedies(project: Project, chain: str, index: int, stage: TaskStage) -> list[tuple[float, Remedy]]:
    """Started at once instead of by its period; twice as often; before the others."""
    task = next((t for t in project.concept.tasks if t.id == stage.task), None)
    if task is None:
        return []
    found = []
    if stage.starts == "by its period":
        at_once = tried(set_stage, project, chain, index, starts="at once")
        half = tried(set_task, project, task.id, period_s=task.period_s / 2)
        found = [(task.period_s, Remedy(f"start “{task.name}” at once, by an interrupt", at_once)),
                 (task.period_s / 2, Remedy(f"“{task.name}” every {show(task.period_s / 2, 's')}", half))]  # fmt: skip
    if task.priority > 1 and not task.interrupt:
        urgent = tried(set_task, project, task.id, priority=1)
        found.append((0.0, Remedy(f"“{task.name}” the most urgent", urgent)))
    return found


def _message_remedies(project: Project, chain: str, index: int, stage: MessageStage) -> list[tuple[float, Remedy]]:
    """A faster bus; sent at once instead of by its period."""
    message = next((m for m in project.concept.messages if m.id == stage.message), None)
    bus = next((b for b in project.concept.buses if message is not None and b.id == message.bus), None)
    if message is None or bus is None:
        return []
    found = []
    if stage.starts == "by its period":
        at_once = tried(set_stage, project, chain, index, starts="at once")
        found.append((message.every_s, Remedy(f"send “{message.name}” at once", at_once)))
    clock = next((c for c in NEXT_BUS_HZ[bus.kind] if c > bus.clock_hz), None)
    if clock is not None:
        speed = f"{clock:.0f} baud" if bus.kind == "uart" else show(clock, "Hz")
        saved = on_wire_s(message, bus) * (1 - bus.clock_hz / clock)
        faster = tried(set_bus, project, value_id=bus.id, clock_hz=clock)
        found.append((saved, Remedy(f"{bus.name} at {speed}", faster)))
    return found


OFTEN, MUCH = 0.5, 4.0
CHEAPER = {"learned things": "edges and shapes", "edges and shapes": "a colour"}


def cheaper_pictures(project: Project, eye_id: str) -> list[tuple[float, Remedy]]:
    """A smaller picture, a part of it, a cheaper way of looking, a faster computer: with the age that each saves."""
    eye = next((e for e in project.concept.eyes if e.id == eye_id), None)
    if eye is None:
        return []
    half = {"pixels_wide": max(eye.pixels_wide // 2, 1), "pixels_high": max(eye.pixels_high // 2, 1)}
    measured = {} if eye.frame_s is None else {"frame_s": eye.frame_s / 4}
    ways: list[tuple[str, dict[str, object]]] = [
        (f"pictures of {half['pixels_wide']} × {half['pixels_high']}", {**half, **measured}),
        ("look through half of the picture", {"region": eye.region * OFTEN,
                                              **({"frame_s": eye.frame_s * OFTEN} if eye.frame_s else {})}),
        ("a computer four times as fast", {"operations_hz": eye.operations_hz * MUCH,
                                           **({"frame_s": eye.frame_s / MUCH} if eye.frame_s else {})}),
    ]  # fmt: skip
    if eye.looks_for in CHEAPER and eye.frame_s is None:
        ways.append((f"look for {CHEAPER[eye.looks_for]} instead", {"looks_for": CHEAPER[eye.looks_for]}))
    now, found = assess_eye(eye).pictures.oldest_s, []
    for words, figures in ways:
        change = tried(set_eye, project, value_id=eye.id, **figures)
        found.append((now - assess_eye(eye.but(**figures)).pictures.oldest_s, Remedy(f"{eye.name}: {words}", change)))
    return found


def _faster_bus(project: Project, chain: str, index: int, stage: Transfer) -> list[tuple[float, Remedy]]:
    quicker = next((c for c in NEXT_CLOCK_HZ[stage.bus] if c > stage.clock_hz), None)
    if quicker is None:
        return []
    saved = transfer_time_s(stage) * (1 - stage.clock_hz / quicker)
    speed = f"{quicker:.0f} baud" if stage.bus == "uart" else show(quicker, "Hz")
    change = tried(set_stage, project, chain, index, clock_hz=quicker)
    return [(saved, Remedy(f"run “{stage.name}” at {speed}", change))]
