"""Edits of processors with their tasks, and of buses with their messages."""

from collections.abc import Sequence
from functools import partial
from typing import Any

from wired_union.project.change import Change, by_id, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.timing_model import Bus, Loop, Message, Processor, RadioLink, Task

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
