"""What a task takes from the project where the team did not say it: days of delivery from the part, hours from a trial.

So a part that is swapped for another, or found on the shelf, moves the plan at once.
"""

from msgspec import Struct

from wired_union.project.model import Project
from wired_union.project.plan_model import PlanTask

OWN_MACHINE_DAYS = (14.0, 18.0, 21.0)
"""Custom parts take two to three weeks: common practice."""
RUN_S = 600.0
"""Ten minutes a run, all told, where the trial does not say: a guess."""


class PartFacts(Struct, frozen=True):
    """What the plan reads of a part."""

    origin: str
    days: float | None


class TrialFacts(Struct, frozen=True):
    """What the plan reads of a trial."""

    runs: int | None
    """still to be made; None where nobody decided how many"""
    run_s: float


class Facts(Struct, frozen=True):
    """What the plan reads of the rest of the project: parts and trials that a task names, no others."""

    parts: tuple[tuple[str, PartFacts], ...]
    trials: tuple[tuple[str, TrialFacts], ...]


def facts_of(project: Project) -> Facts:
    """What the plan of the concept at work reads of its parts and trials."""
    tasks = [t for t in project.concept.plan_tasks if not t.done_on]
    items = {t.item for t in tasks if t.comes_from in BY_PART and t.kind == "wait"}
    tried = {t.of for t in tasks if t.comes_from == "trial"}
    parts = tuple((i.id, PartFacts(i.origin, i.part.delivery_days)) for i in project.concept.items if i.id in items)
    trials = []
    for t in (t for t in project.trials if t.id in tried):
        made = sum(not r.struck for r in t.runs)
        left = max(t.planned - made, 0) if t.planned is not None else None
        trials.append((t.id, TrialFacts(left, t.run_s if t.run_s is not None else RUN_S)))
    return Facts(parts, tuple(trials))


BY_PART = frozenset({"delivery", "making"})
"""Where tasks come from that take the days of a part."""


class Filled(Struct, frozen=True):
    """Tasks with what they take from the project, and what of that is not known."""

    tasks: tuple[PlanTask, ...]
    gaps: tuple[tuple[str, str], ...]
    """(task, what) """
    needless: tuple[str, ...]
    """ids of tasks whose part is in hand, or whose runs are made: they take no time"""


def filled(tasks: tuple[PlanTask, ...], facts: Facts) -> Filled:
    """Every task with what it takes."""
    parts, trials = dict(facts.parts), dict(facts.trials)
    found, gaps, needless = [], [], []
    for task in tasks:
        new, gap = task, ""
        if not task.done_on:
            if task.comes_from in BY_PART and task.item and task.kind == "wait":
                new, gap = _by_part(task, parts[task.item])
            elif task.comes_from == "trial":
                new, gap = _by_trial(task, trials.get(task.of))
        found.append(new)
        gaps += [(task.id, gap)] if gap else []
        needless += [task.id] if new is not task and _takes_none(new) else []
    return Filled(tuple(found), tuple(gaps), tuple(needless))


def _takes_none(task: PlanTask) -> bool:
    return task.likely_days == 0 if task.kind == "wait" else task.likely_h == 0


def _no_time(task: PlanTask) -> PlanTask:
    if task.kind == "wait":
        return task.but(least_days=0.0, likely_days=0.0, most_days=0.0)
    return task.but(kind="wait", least_days=0.0, likely_days=0.0, most_days=0.0)


def _by_part(task: PlanTask, part: PartFacts) -> tuple[PlanTask, str]:
    """A delivery by its part: nothing to wait for where it is there."""
    if part.origin != "to buy" and not task.begun_on:
        return _no_time(task), ""
    if task.likely_days is not None:
        return task, ""
    if part.days is None:
        return task, "how many days the part takes to come" if task.comes_from == "delivery" else ""
    least, likely, most = spread_of(part.days)
    return task.but(least_days=least, likely_days=likely, most_days=most), ""


def spread_of(days: float) -> tuple[float, float, float]:
    """How a delivery of so many days may turn out: a third sooner, or half as long again and two days (a guess)."""
    return days * 2 / 3, days, days * 1.5 + 2


def _by_trial(task: PlanTask, trial: TrialFacts | None) -> tuple[PlanTask, str]:
    """Hours by the runs that are still to be made."""
    if trial is None:
        return _no_time(task), ""
    if task.likely_h is not None:
        return task, ""
    if trial.runs is None:
        return task, "how many runs the trial is to have"
    hours = trial.runs * trial.run_s / 3600
    return task.but(least_h=hours * 0.7, likely_h=hours, most_h=hours * 2), ""
