"""What could be done about a task or a message that is late: another order, less often, no waits, a faster bus."""

import math
from collections.abc import Iterator

from wired_union.kernel.results import Remedy, Verdict, possible, tried
from wired_union.physics.tasks import working_order
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.project.timing_model import Message, Task
from wired_union.subjects.timing.buses import BusResult, MessageResult
from wired_union.subjects.timing.edits_shared import (
    order_messages,
    order_tasks,
    set_bus,
    set_message,
    set_processor,
    set_task,
)
from wired_union.subjects.timing.tasks import ProcessorResult, TaskResult, shared_of
from wired_union.units import show

Way = tuple[str, Change | None]
NEXT_CLOCK_HZ = {"i2c": (100e3, 400e3, 1e6), "uart": (9600.0, 19200.0, 38400.0, 57600.0, 115200.0),
                 "spi": (1e6, 4e6, 8e6, 20e6), "can": (125e3, 250e3, 500e3, 1e6), "one-wire": ()}  # fmt: skip
"""Speeds that most parts know: common practice."""
OF_EACH, SHORT_S = 2, 0.001
NEXT_BUFFER = (64, 128, 256, 512, 1024, 2048)


def task_remedies(project: Project, p: ProcessorResult, late: TaskResult) -> tuple[Remedy, ...]:
    """Each worked out on the whole project by whoever shows it."""
    return possible(*_of_tasks(project, p, late))


def _of_tasks(project: Project, p: ProcessorResult, late: TaskResult) -> Iterator[Way]:
    loop = p.processor.way == "plain loop"
    own = [t.task for t in p.tasks if t.task.core == late.task.core]
    if not loop and (order := _order(p, own)) is not None:
        names = ", ".join(t.name for t in order)
        yield f"the order {names}", tried(order_tasks, project, [t.id for t in order])
    for task in own:
        if loop and task.waits_s > 0:
            words = f"no wait in “{task.name}”: look at the clock, and go on"
            yield words, tried(set_task, project, task.id, waits_s=0.0)
    if loop and len(own) > 1:
        change = tried(set_processor, project, value_id=p.processor.id, way="pre-emptive")
        yield "let urgent tasks break in on others", change
    run = late.task.most_s
    if not late.task.interrupt and run is not None and run <= SHORT_S:
        yield f"“{late.task.name}” as an interrupt", tried(set_task, project, late.task.id, interrupt=True)
    yield from _less_often(project, own)
    if p.processor.cores > 1:
        other = late.task.core % p.processor.cores + 1
        yield f"“{late.task.name}” on core {other}", tried(set_task, project, late.task.id, core=other)


def _order(p: ProcessorResult, own: list[Task]) -> list[Task] | None:
    """An order of what is no interrupt by which all are in time, where it is another and there is one."""
    tasks, always = [t for t in own if not t.interrupt], [t for t in own if t.interrupt]
    preemptive = p.processor.way == "pre-emptive"
    if any(t.most_s is None for t in own) or len(tasks) < 2 or (always and not preemptive):
        return None
    found = working_order([shared_of(t) for t in tasks], [t.deadline_s or t.period_s for t in tasks],
                          preemptive=preemptive, always=[shared_of(t) for t in always])  # fmt: skip
    if found is None:
        return None
    order = [tasks[n] for n in found]
    apart = len({t.priority for t in tasks}) == len(tasks)
    return order if not apart or [t.id for t in order] != [t.id for t in tasks] else None


def bus_remedies(project: Project, b: BusResult, m: MessageResult) -> tuple[Remedy, ...]:
    """Likewise for a message that is late, or loses bytes."""
    return possible(*_of_bus(project, b, m))


def _of_bus(project: Project, b: BusResult, m: MessageResult) -> Iterator[Way]:
    bus, own = b.bus, [x.message for x in b.messages]
    if m.overrun is not None and m.overrun.verdict is not Verdict.HOLDS:
        yield from _kept(project, b, m)
    if m.check is None or m.check.verdict is Verdict.HOLDS:
        return
    yield from _faster(project, b)
    if bus.kind == "can" and (order := _by_deadline(own)) != [x.id for x in sorted(own, key=lambda x: x.priority)]:
        names = ", ".join(next(x.name for x in own if x.id == i) for i in order)
        yield f"the order {names}", tried(order_messages, project, order)
    yield from _fewer(project, b)


def load_remedies(project: Project, p: ProcessorResult) -> tuple[Remedy, ...]:
    """What makes a processor less busy: its heaviest tasks less often, on another core, without waits."""
    return possible(*_of_load(project, p))


def _of_load(project: Project, p: ProcessorResult) -> Iterator[Way]:
    own = [t.task for t in p.tasks]
    yield from _less_often(project, own)
    for task in own:
        if p.processor.way == "plain loop" and task.waits_s > 0:
            words = f"no wait in “{task.name}”: look at the clock, and go on"
            yield words, tried(set_task, project, task.id, waits_s=0.0)
    if p.processor.cores > 1 and own:
        heaviest = max(own, key=lambda t: (t.most_s or 0.0) / t.period_s)
        other = heaviest.core % p.processor.cores + 1
        yield f"“{heaviest.name}” on core {other}", tried(set_task, project, heaviest.id, core=other)


def share_remedies(project: Project, b: BusResult) -> tuple[Remedy, ...]:
    """What leaves a bus more time: a quicker clock, its heaviest messages less often."""
    return possible(*_faster(project, b), *_fewer(project, b))


def _less_often(project: Project, own: list[Task]) -> Iterator[Way]:
    heavy = sorted((t for t in own if t.most_s), key=lambda t: -((t.most_s or 0.0) + t.waits_s) / t.period_s)
    for task in heavy[:OF_EACH]:
        words = f"“{task.name}” every {show(2 * task.period_s, 's')}"
        yield words, tried(set_task, project, task.id, period_s=2 * task.period_s)


def _faster(project: Project, b: BusResult) -> Iterator[Way]:
    bus = b.bus
    for clock in [c for c in NEXT_CLOCK_HZ[bus.kind] if c > bus.clock_hz][:OF_EACH]:
        speed = f"{clock:.0f} baud" if bus.kind == "uart" else show(clock, "Hz")
        yield f"{bus.name} at {speed}", tried(set_bus, project, value_id=bus.id, clock_hz=clock)


def _fewer(project: Project, b: BusResult) -> Iterator[Way]:
    for result in sorted(b.messages, key=lambda x: -x.time_s / x.message.every_s)[:OF_EACH]:
        every = 2 * result.message.every_s
        words = f"“{result.message.name}” every {show(every, 's')}"
        yield words, tried(set_message, project, value_id=result.message.id, every_s=every)


def _by_deadline(own: list[Message]) -> list[str]:
    return [x.id for x in sorted(own, key=lambda x: (x.deadline_s or x.every_s, x.id))]


def _kept(project: Project, b: BusResult, m: MessageResult) -> Iterator[Way]:
    """More bytes kept, or read more often."""
    check = m.overrun
    if check is not None and math.isfinite(check.needed):
        room = next((n for n in NEXT_BUFFER if n * 0.8 >= check.needed), None)
        if room is not None:
            yield f"a buffer of {room} bytes", tried(set_bus, project, value_id=b.bus.id, buffer_bytes=room)
    reader = next((t for t in project.concept.tasks if t.id == m.message.read_by), None)
    if reader is not None and check is not None and math.isfinite(check.use):
        period = float(f"{reader.period_s / max(check.use / 0.8, 1.25):.2g}")
        yield f"“{reader.name}” every {show(period, 's')}", tried(set_task, project, reader.id, period_s=period)
