"""Edits of processors with their tasks, and of buses with their messages."""

from collections.abc import Sequence
from functools import partial
from typing import Any

from wired_union.project.air_model import RadioLink
from wired_union.project.change import Change, by_id, checked_name, figures_of, new_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.loop_model import Loop
from wired_union.project.model import Project
from wired_union.project.signal_model import Signal
from wired_union.project.timing_model import (
    Bus,
    Eye,
    Message,
    Packet,
    PacketField,
    Processor,
    Task,
)
from wired_union.project.value import checked, made
from wired_union.project.way_model import Way
from wired_union.units import plain_words

add_processor = partial(add_listed, room="processors", of_kind=Processor, word="processor")
set_processor = partial(set_listed, room="processors", word="processor")
remove_processor = partial(remove_listed, room="processors", word="processor")
add_bus = partial(add_listed, room="buses", of_kind=Bus, word="bus")
set_bus = partial(set_listed, room="buses", word="bus")
remove_bus = partial(remove_listed, room="buses", word="bus")
add_message = partial(add_listed, room="messages", of_kind=Message, word="message")
set_message = partial(set_listed, room="messages", word="message")
remove_message = partial(remove_listed, room="messages", word="message")
add_loop = partial(add_listed, room="control_loops", of_kind=Loop, word="control loop")
set_loop = partial(set_listed, room="control_loops", word="control loop")
remove_loop = partial(remove_listed, room="control_loops", word="control loop")
add_link = partial(add_listed, room="radio_links", of_kind=RadioLink, word="radio link")
set_link = partial(set_listed, room="radio_links", word="radio link")
remove_link = partial(remove_listed, room="radio_links", word="radio link")
add_eye = partial(add_listed, room="eyes", of_kind=Eye, word="eye")
set_eye = partial(set_listed, room="eyes", word="eye")
remove_eye = partial(remove_listed, room="eyes", word="eye")
add_signal = partial(add_listed, room="signals", of_kind=Signal, word="signal")
set_signal = partial(set_listed, room="signals", word="signal")
remove_signal = partial(remove_listed, room="signals", word="signal")
add_way = partial(add_listed, room="ways", of_kind=Way, word="way")
set_way = partial(set_listed, room="ways", word="way")
remove_way = partial(remove_listed, room="ways", word="way")
add_packet = partial(add_listed, room="packets", of_kind=Packet, word="packet")
set_packet = partial(set_listed, room="packets", word="packet")
remove_packet = partial(remove_listed, room="packets", word="packet")
remove_task = partial(remove_listed, room="tasks", word="task")


def add_task(project: Project, name: str, processor: str, **figures: Any) -> Change:
    """One more task, right after the others: its priority is below theirs until it is said."""
    below = max((t.priority for t in project.concept.tasks if t.processor == processor), default=0) + 1
    figures = {"priority": min(below, 1000), **figures}
    return _sensible(add_listed(project, "tasks", Task, "task", name, processor=processor, **figures))


def set_task(project: Project, value_id: str, **figures: Any) -> Change:
    """Other figures of a task. Raises ProjectError where it would run shorter than it runs at the least."""
    return _sensible(set_listed(project, "tasks", value_id, "task", **figures))


def _sensible(change: Change) -> Change:
    for task in change.after.concept.tasks:
        if task.most_s is not None and task.least_s > task.most_s:
            raise ProjectError(f"{task.name}: its shortest run is above its longest. Change the other one first.")
    return change


def add_field(project: Project, packet_id: str, name: str, **figures: Any) -> Change:
    """One more number in a packet, from 0 to 100 in steps of 1 until it is said."""
    packet = by_id(project.concept.packets, packet_id, "packet")
    name = checked_name(name, "field")
    with figures_of(name):
        field = made(PacketField, id=new_id(name, (f.id for f in packet.fields)), name=name, **figures)
    return _with_fields(project, packet, (*packet.fields, field), f"{packet.name}: {name} added")


def set_field(project: Project, packet_id: str, field_id: str, **figures: Any) -> Change:
    """Other figures of one of its numbers. Raises ProjectError where its largest value is not above its smallest."""
    packet = by_id(project.concept.packets, packet_id, "packet")
    old = by_id(packet.fields, field_id, "field")
    with figures_of(old.name):
        new = checked(old, **figures)
    if new.least >= new.most:
        raise ProjectError(f"{new.name}: its largest value must be above its smallest. Change the other one first.")
    said = ", ".join(f"{plain_words(f)} {getattr(new, f)}" for f in figures)
    return _with_fields(project, packet, replaced(packet.fields, old, new), f"{packet.name}: {new.name}, {said}")


def remove_field(project: Project, packet_id: str, field_id: str) -> Change:
    packet = by_id(project.concept.packets, packet_id, "packet")
    gone = by_id(packet.fields, field_id, "field")
    fields = tuple(f for f in packet.fields if f is not gone)
    return _with_fields(project, packet, fields, f"{packet.name}: without {gone.name}")


def _with_fields(project: Project, packet: Packet, fields: tuple[PacketField, ...], sentence: str) -> Change:
    packets = replaced(project.concept.packets, packet, packet.but(fields=fields))
    return Change(project, with_concept(project, packets=packets), sentence)


def order_tasks(project: Project, order: Sequence[str]) -> Change:
    """Give tasks priorities in that order, 1 first; interrupts keep theirs."""
    place = {task_id: n for n, task_id in enumerate(order, 1)}
    names = [by_id(project.concept.tasks, task_id, "task").name for task_id in order]
    tasks = tuple(t.but(priority=place[t.id]) if t.id in place else t for t in project.concept.tasks)
    return Change(project, with_concept(project, tasks=tasks), f"priorities: {', '.join(names)}")


def order_messages(project: Project, order: Sequence[str]) -> Change:
    """Give messages priorities in that order, 1 first."""
    place = {message_id: n for n, message_id in enumerate(order, 1)}
    names = [by_id(project.concept.messages, message_id, "message").name for message_id in order]
    messages = tuple(m.but(priority=place[m.id]) if m.id in place else m for m in project.concept.messages)
    return Change(project, with_concept(project, messages=messages), f"priorities: {', '.join(names)}")
