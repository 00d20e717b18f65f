"""How much a task takes: what is said, what is left of it, and the team's own pace."""

from collections.abc import Sequence
from datetime import date

from msgspec import Struct

from wired_union.physics.plan_methods import own_pace
from wired_union.project.dates import days_between
from wired_union.project.plan_model import PlanTask

LEAST_TASKS = 3
"""Finished tasks from which on a pace is told: common practice."""


class Pace(Struct, frozen=True):
    """How many times what is said the team's tasks take."""

    factor: float
    lower: float | None
    upper: float | None
    tasks: int


def pace_of(tasks: Sequence[PlanTask]) -> Pace | None:
    """The team's own pace, from tasks that are done and of which the hours were written down."""
    done = [
        (t.likely_h, t.spent_h) for t in tasks
        if t.kind == "work" and t.done_on and t.likely_h and t.spent_h
    ]  # fmt: skip
    if len(done) < LEAST_TASKS:
        return None
    found = own_pace([a for a, _ in done if a], [b for _, b in done if b])
    return Pace(found.factor, found.lower, found.upper, found.count)


def likely_of(task: PlanTask) -> float | None:
    """What it usually takes: hours of work, or days."""
    return task.likely_h if task.kind == "work" else task.likely_days


def three_of(task: PlanTask) -> tuple[float, float, float] | None:
    """Least, likely and most; None where one is not said or they are not in this order."""
    if task.kind == "work":
        three = (task.least_h, task.likely_h, task.most_h)
    else:
        three = (task.least_days, task.likely_days, task.most_days)
    least, likely, most = three
    if least is None or likely is None or most is None or not least <= likely <= most:
        return None
    return least, likely, most


def _order_gaps(task: PlanTask) -> list[str]:
    least, likely, most = (
        (task.least_h, task.likely_h, task.most_h) if task.kind == "work"
        else (task.least_days, task.likely_days, task.most_days)
    )  # fmt: skip
    if likely is None:
        return ["how long it takes"]
    wrong = (least is not None and least > likely) or (most is not None and most < likely)
    return ["least, likely and most in this order"] if wrong else []


def effort_of(task: PlanTask, today: date, factor: float) -> tuple[float, float, list[str]]:
    """What is left to be done, the least that is, and what is not known of it."""
    gaps, likely = _order_gaps(task), likely_of(task)
    if likely is None or gaps:
        return 0.0, 0.0, gaps
    if task.kind == "wait":
        return _wait(task, likely, today)
    if task.left_h is not None:
        return task.left_h, 0.0, []
    left = likely * factor - (task.spent_h or 0.0)
    if task.spent_h and left <= 0:
        return 0.0, 0.0, ["how many hours are left, since more went into it than was said"]
    return left, 0.0, []


def _wait(task: PlanTask, likely: float, today: date) -> tuple[float, float, list[str]]:
    """Days from when it was begun, or will be: what is not here today comes tomorrow at the earliest."""
    begun = days_between(today, task.begun_on)
    if begun is None:
        return likely, 0.0, []
    if begun > 0:
        return likely, 0.0, []
    least = 1.0 - begun
    longest = task.most_days if task.most_days is not None else likely
    if longest < -begun:
        return least, least, ["when it comes, since it should be here by now"]
    return max(likely, least), least, []
