"""Who does what, in which order: sought on the plan as it is, proven where it can be."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.physics.level_search import Answer, Question, better_order
from wired_union.physics.levelling import Activity
from wired_union.project.change import Change, with_concept
from wired_union.project.dates import as_day
from wired_union.project.model import Project
from wired_union.project.plan_model import Hand, Person, Plan, PlanTask
from wired_union.subjects.plan.calendars import Rooms
from wired_union.subjects.plan.effort import effort_of
from wired_union.subjects.plan.filled import facts_of, filled
from wired_union.subjects.plan.schedule import Scheduled, planned, things_of


class Spread(Struct, frozen=True):
    """What was asked, who could do each task, and the best found so far."""

    hands: tuple[tuple[tuple[str, ...], ...], ...]
    """of each task, the people of each way"""
    answer: Answer


def able(plan: Plan, task: PlanTask) -> tuple[Person, ...]:
    """Those who can do a task and have hours for it."""
    wanted = task.skill.strip().lower()
    return tuple(
        p for p in plan.people
        if p.hours_a_week and (not wanted or any(s.name.strip().lower() == wanted for s in p.skills))
    )  # fmt: skip


def ways_of(plan: Plan, task: PlanTask, anew: bool) -> tuple[tuple[str, ...], ...]:
    """The people of each way a task could be done by: as it is, or by anybody who can where that is open."""
    now = tuple(dict.fromkeys(h.person for h in task.hands))
    if task.kind == "wait" or task.done_on or (not now and task.machine):
        return (now,)
    if now and (not anew or task.begun_on or len(now) > 1):
        return (now,)
    found = tuple((p.id,) for p in able(plan, task))
    return (now, *(f for f in found if f != now)) if now else found or ((),)


def search(project: Project, today: str, *, anew: bool = False, tries: int = 1500) -> Iterator[Spread]:
    """Orders with who does what, each better than the one before.

    Args:
        today: the day from which on
        anew: whether what somebody alone has may go to another who can
        tries: how many moves are tried
    """
    plan, concept = project.plan, project.concept
    day = as_day(today)
    if day is None or not concept.plan_tasks:
        return
    now = planned(project, today)
    hands = tuple(ways_of(plan, t, anew) for t in concept.plan_tasks)
    asked = _question(project, now, hands)
    for answer in better_order(asked, now.order, [0] * len(hands), tries):
        yield Spread(hands, answer)


def _question(project: Project, now: Scheduled, hands: tuple[tuple[tuple[str, ...], ...], ...]) -> Question:
    plan, day = project.plan, now.today
    assert day is not None
    rooms = Rooms(plan, day)
    things = things_of(plan)
    counts = (*(1 for _ in plan.people), *(m.count for m in plan.machines))
    factor = now.pace.factor if plan.own_pace and now.pace is not None else 1.0
    tasks = filled(project.concept.plan_tasks, facts_of(project)).tasks
    ways, effort = [], []
    for n, task in enumerate(tasks):
        a = now.activity(n)
        each, takes = [], 0.0
        for people in hands[n]:
            if not people or task.kind == "wait" or task.done_on:
                each.append(a)
                takes = now.effort(n)
                continue
            days = rooms.together(frozenset(people), task.machine)
            busy = tuple((things[x], 1) for x in (*people, *([task.machine] if task.machine else [])))
            takes = effort_of(task, day, factor)[0]
            if days.done[-1] > 0:
                each.append(Activity(a.after, busy, days, a.not_before))
        ways.append(tuple(each) or (a,))
        effort.append(takes)
    return Question(tuple(ways), counts, tuple(effort), tuple(now.dues))


def taken(project: Project, found: Spread) -> Change:
    """The plan in that order, with who does what."""
    tasks = project.concept.plan_tasks
    new = []
    for n in found.answer.order:
        people = found.hands[n][found.answer.ways[n]] if found.hands[n] else ()
        task = tasks[n]
        now = tuple(h.person for h in task.hands)
        new.append(task if people == now else task.but(hands=tuple(Hand(person=p) for p in people)))
    moved = sum(a.hands != b.hands for a, b in zip(sorted(tasks, key=_id), sorted(new, key=_id), strict=True))
    said = f"a better order{f', {moved} tasks with somebody else' if moved else ''}"
    return Change(project, with_concept(project, plan_tasks=tuple(new)), said)


def _id(task: PlanTask) -> str:
    return task.id


def best(project: Project, today: str, *, anew: bool = False, tries: int = 1500) -> Spread | None:
    """The last of `search`; None where there is nothing to put in order."""
    found = None
    for found in search(project, today, anew=anew, tries=tries):  # noqa: B007
        pass
    return found
