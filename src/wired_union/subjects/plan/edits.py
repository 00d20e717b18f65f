"""Edits of a plan: tasks, who does them, what they wait for, how far they have got; people, machines, calendars."""

from collections.abc import Iterable, Sequence
from typing import Any

from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    new_id,
    replaced,
    with_concept,
)
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, changed_one, name_of, one_more, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.plan_model import (
    WEEKDAYS,
    After,
    Calendar,
    Closed,
    Hand,
    Machine,
    Milestone,
    OtherWay,
    Person,
    Plan,
    PlanTask,
    Skill,
    Weekday,
)
from wired_union.project.references import forgotten
from wired_union.project.value import Value, checked, made
from wired_union.units import UnitError, parse, plain_words, show_named

DAYS = ("not_before", "due", "begun_on", "done_on", "on", "date", "first", "last")
"""Fields that hold a day."""


def _days_checked(figures: dict[str, Any]) -> dict[str, Any]:
    """Figures with every day as 2026-11-28. Raises ProjectError for what is no day."""
    return {f: checked_day(v) if f in DAYS and isinstance(v, str) else v for f, v in figures.items()}


# tasks


def add_task(project: Project, name: str, **figures: Any) -> Change:
    """One more task, at the end of the list."""
    change = add_listed(project, "plan_tasks", PlanTask, "task", name, **_days_checked(figures))
    check_guesses(change.after.concept.plan_tasks[-1])
    return change


def set_task(project: Project, task_id: str, **figures: Any) -> Change:
    """Other figures of a task. Raises ProjectError for what cannot be."""
    change = set_listed(project, "plan_tasks", task_id, "task", **_days_checked(figures))
    check_guesses(by_id(change.after.concept.plan_tasks, task_id, "task"))
    return change


def check_guesses(task: PlanTask) -> None:
    """Raise ProjectError where least, likely and most are not in this order."""
    for three, word in (((task.least_h, task.likely_h, task.most_h), "hours"),
                        ((task.least_days, task.likely_days, task.most_days), "days")):  # fmt: skip
        said = [x for x in three if x is not None]
        if said != sorted(said):
            raise ProjectError(f"{task.name}: least, likely and most {word} must come in this order. "
                               "Change the one that is furthest out first.")  # fmt: skip


def remove_task(project: Project, task_id: str) -> Change:
    """One task less; what waited for it waits for what it waited for."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    bridged = project
    for other in project.concept.plan_tasks:
        link = next((a for a in other.after if a.task == task_id), None)
        if link is None:
            continue
        known = {a.task for a in other.after}
        more = tuple(a for a in task.after if a.task not in known and a.task != other.id)
        new = other.but(after=(*other.after, *more))
        bridged = with_concept(bridged, plan_tasks=replaced(bridged.concept.plan_tasks, other, new))
    after = remove_listed(bridged, "plan_tasks", task_id, "task").after
    return Change(project, after, f"{task.name}: not done")


def give_task(project: Project, task_id: str, people: Sequence[str]) -> Change:
    """Those who do a task, all at once. Raises ProjectError for somebody who is not there."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    names = [by_id(project.plan.people, p, "person").name for p in dict.fromkeys(people)]
    new = task.but(hands=tuple(Hand(person=p) for p in dict.fromkeys(people)))
    return _with_task(project, task, new, f"{task.name}: by {' and '.join(names) or 'nobody yet'}")


def add_link(project: Project, task_id: str, before: str, lag_days: float = 0.0) -> Change:
    """A task waits for another. Raises ProjectError where they would wait for each other."""
    tasks = project.concept.plan_tasks
    task, other = by_id(tasks, task_id, "task"), by_id(tasks, before, "task")
    if task is other or task_id in _all_before(tasks, before):
        raise ProjectError(f"{other.name} waits for {task.name} already: they would wait for each other for ever. "
                           "Take that link away first.")  # fmt: skip
    with figures_of(task.name):
        link = made(After, task=before, lag_days=lag_days)
    kept = tuple(a for a in task.after if a.task != before)
    return _with_task(project, task, task.but(after=(*kept, link)), f"{task.name}: after {other.name}")


def remove_link(project: Project, task_id: str, before: str) -> Change:
    """A task no longer waits for another."""
    tasks = project.concept.plan_tasks
    task = by_id(tasks, task_id, "task")
    name = by_id(tasks, before, "task").name
    kept = tuple(a for a in task.after if a.task != before)
    return _with_task(project, task, task.but(after=kept), f"{task.name}: no longer after {name}")


def _all_before(tasks: Iterable[PlanTask], task_id: str) -> set[str]:
    """Ids of all that a task waits for, however far back."""
    known = {t.id: t for t in tasks}
    found: set[str] = set()
    due = [task_id]
    while due:
        due += [a.task for a in known[due.pop()].after if a.task in known and a.task not in found]
        found |= set(due)
    return found


def move_task(project: Project, task_id: str, place: int) -> Change:
    """A task at another place of the list: who does several does them in its order."""
    tasks = project.concept.plan_tasks
    task = by_id(tasks, task_id, "task")
    left = [t for t in tasks if t is not task]
    place = min(max(place, 0), len(left))
    return Change(project, with_concept(project, plan_tasks=(*left[:place], task, *left[place:])),
                  f"{task.name}: {'first' if not place else f'after {left[place - 1].name} in the list'}")  # fmt: skip


def reach(project: Project, task_id: str, factor: float) -> Change:
    """A task that takes so many times what it was said to: its end was dragged."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    fields = ("least_h", "likely_h", "most_h") if task.kind == "work" else ("least_days", "likely_days", "most_days")
    figures = {f: float(f"{v * factor:.3g}") for f in fields if (v := getattr(task, f)) is not None}
    if not figures:
        raise ProjectError(f"Say first how long {task.name} takes.")
    if task.left_h is not None:
        figures = {"left_h": float(f"{task.left_h * factor:.3g}")}
    return set_task(project, task_id, **figures)


def split_task(project: Project, task_id: str) -> Change:
    """Two halves of a task, one behind the other in the list; both wait for the same, what waited waits for both."""
    tasks = project.concept.plan_tasks
    task = by_id(tasks, task_id, "task")
    if task.kind == "wait" or task.done_on:
        raise ProjectError(f"{task.name} can not be split: only work that is still to be done can.")
    halves = {f: v / 2 for f in ("least_h", "likely_h", "most_h", "left_h") if (v := getattr(task, f)) is not None}
    name = checked_name(f"{task.name[:108]}, 2nd half", "task")
    fresh = {"spent_h": None, "begun_on": "", "comes_from": "", "of": "", "item": "", "subsystem": "", "processor": ""}
    second = task.but(id=new_id(name, (t.id for t in tasks)), name=name, **fresh, **halves)
    found: list[PlanTask] = []
    for t in tasks:
        link = next((a for a in t.after if a.task == task_id), None)
        if t is task:
            found += [t.but(**halves), second]
        else:
            found.append(t.but(after=(*t.after, link.but(task=second.id))) if link is not None else t)
    return Change(project, with_concept(project, plan_tasks=tuple(found)), f"{task.name}: split in two halves")


HERE_H = (4.0, 8.0, 16.0)
"""Hours on a machine of a part that nobody has made before: a guess."""


def make_here(project: Project, task_id: str, machine_id: str) -> Change:
    """What somebody else was to make is made on a machine of our own, in hours that are a guess until they are said."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    machine = by_id(project.plan.machines, machine_id, "machine")
    hours = dict(zip(("least_h", "likely_h", "most_h"), HERE_H, strict=True)) if task.likely_h is None else {}
    new = task.but(kind="work", machine=machine_id, begun_on="", **hours)
    return _with_task(project, task, new, f"{task.name}: on our {machine.name}")


def take_way(project: Project, task_id: str, way: int) -> Change:
    """Another way to get the same: its days stand for what was said, what it costs more is the part's."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    if not 0 <= way < len(task.other_ways):
        raise ProjectError(f"{task.name} has no such way any more.")
    taken = task.other_ways[way]
    new = task.but(kind="wait", least_days=taken.least_days, likely_days=taken.likely_days, most_days=taken.most_days,
                   begun_on="", other_ways=tuple(w for w in task.other_ways if w is not taken))  # fmt: skip
    change = _with_task(project, task, new, f"{task.name}: {taken.name}")
    return Change(project, _dearer(change.after, task, taken.more), change.sentence)


def _dearer(project: Project, task: PlanTask, more: float) -> Project:
    """The project with the part of a task dearer by so much all together. Raises ProjectError where it has no price."""
    item = next((i for i in project.concept.items if i.id == task.item), None)
    if not more:
        return project
    if item is None or item.part.price is None:
        raise ProjectError(
            f"{task.name} costs more that way, but belongs to no part with a price. Say the price first."
        )
    with figures_of(item.name):
        part = checked(item.part, price=max(item.part.price + more / item.count, 0.0))
    return with_concept(project, items=replaced(project.concept.items, item, item.but(part=part)))


def add_way(project: Project, task_id: str, **figures: Any) -> Change:
    """One more way to get the same."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    with figures_of(task.name):
        way = made(OtherWay, **figures)
    if not way.least_days <= way.likely_days <= way.most_days:
        raise ProjectError("Least, likely and most days must come in this order.")
    return _with_task(
        project, task, task.but(other_ways=(*task.other_ways, way)), f"{task.name}: could also {way.name}"
    )


def _with_task(project: Project, old: PlanTask, new: PlanTask, sentence: str) -> Change:
    tasks = replaced(project.concept.plan_tasks, old, new)
    return Change(project, with_concept(project, plan_tasks=tasks), sentence)


# milestones


def add_milestone(project: Project, name: str, **figures: Any) -> Change:
    """One more day by which something must be shown."""
    return add_listed(project, "milestones", Milestone, "milestone", name, **_days_checked(figures))


def set_milestone(project: Project, milestone_id: str, **figures: Any) -> Change:
    return set_listed(project, "milestones", milestone_id, "milestone", **_days_checked(figures))


def remove_milestone(project: Project, milestone_id: str) -> Change:
    return remove_listed(project, "milestones", milestone_id, "milestone")


def needs_task(project: Project, milestone_id: str, task_id: str, needed: bool = True) -> Change:
    """Whether a milestone needs a task."""
    found = project.concept.milestones
    old, task = by_id(found, milestone_id, "milestone"), by_id(project.concept.plan_tasks, task_id, "task")
    kept = tuple(a for a in old.after if a.task != task_id)
    new = old.but(after=(*kept, After(task=task_id)) if needed else kept)
    said = f"{old.name}: {'needs' if needed else 'no longer needs'} {task.name}"
    return Change(project, with_concept(project, milestones=replaced(found, old, new)), said)


# people, machines, calendar


def _with_plan(project: Project, sentence: str, **new: Any) -> Change:
    plan: Plan = project.plan.but(**new)
    return Change(project, project.but(plan=plan), sentence)


def set_plan(project: Project, **figures: Any) -> Change:
    """Other figures of the plan as a whole: its date."""
    with figures_of("The plan"):
        plan = checked(project.plan, **_days_checked(figures))
    said = ", ".join(f"{plain_words(f)} {_said(f, getattr(plan, f))}" for f in figures)
    return Change(project, project.but(plan=plan), f"The plan: {said}")


def _said(field: str, value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return show_named(field, value) if isinstance(value, int | float) else str(value or "none")


def add_person(project: Project, name: str, **figures: Any) -> Change:
    return _add(project, "people", Person, "person", name, figures)


def set_person(project: Project, person_id: str, **figures: Any) -> Change:
    return _set(project, "people", person_id, "person", figures)


def remove_person(project: Project, person_id: str) -> Change:
    """Somebody leaves: what was theirs is nobody's."""
    return _remove(project, "people", person_id, "person")


def set_skills(project: Project, person_id: str, text: str) -> Change:
    """What somebody can do, between commas."""
    names = dict.fromkeys(x.strip().lower() for x in text.split(",") if x.strip())
    with figures_of("Skills"):
        skills = tuple(made(Skill, name=n) for n in names)
    return _set(project, "people", person_id, "person", {"skills": skills}, ", ".join(names) or "nothing named")


def add_machine(project: Project, name: str, **figures: Any) -> Change:
    return _add(project, "machines", Machine, "machine", name, figures)


def set_machine(project: Project, machine_id: str, **figures: Any) -> Change:
    return _set(project, "machines", machine_id, "machine", figures)


def remove_machine(project: Project, machine_id: str) -> Change:
    return _remove(project, "machines", machine_id, "machine")


def _add(project: Project, room: str, kind: type[Value], word: str, name: str, figures: dict[str, Any]) -> Change:
    listed = getattr(project.plan, room)
    value = one_more(kind, word, name, (x.id for x in listed), figures)
    return _with_plan(project, f"{name_of(project, value)}: one more {word}", **{room: (*listed, value)})


def _set(project: Project, room: str, value_id: str, word: str, figures: dict[str, Any], said: str = "") -> Change:
    listed = getattr(project.plan, room)
    old, new = changed_one(listed, value_id, word, figures)
    said = said or ", ".join(f"{plain_words(f)} {_said(f, getattr(new, f))}" for f in figures)
    return _with_plan(project, f"{new.name}: {said}", **{room: replaced(listed, old, new)})


def _remove(project: Project, room: str, value_id: str, word: str) -> Change:
    listed = getattr(project.plan, room)
    old = by_id(listed, value_id, word)
    bare = _with_plan(project, "", **{room: tuple(x for x in listed if x is not old)}).after
    return Change(project, forgotten(bare, room, value_id), f"{old.name}: not there any more")


def set_worked(project: Project, days: Iterable[str]) -> Change:
    """The days of the week on which the team works."""
    wanted = set(days)
    worked: tuple[Weekday, ...] = tuple(d for d in WEEKDAYS if d in wanted)
    calendar: Calendar = project.plan.calendar.but(worked=worked)
    return _with_plan(project, f"worked on {', '.join(worked) or 'no day'}", calendar=calendar)


def close(
    project: Project, first: str, last: str = "", why: str = "", *, person: str = "", machine: str = ""
) -> Change:
    """Days on which nobody works, or somebody is away, or a machine is closed."""
    first, last = checked_day(first), checked_day(last)
    if not first:
        raise ProjectError("Say the first day, as 2026-12-01.")
    if last and last < first:
        raise ProjectError("The last day is before the first. Give the first day first.")
    closed = Closed(first=first, last=last if last != first else "", why=why.strip())
    return _closing(project, person, machine, lambda some: (*some, closed), _span(closed))


def reopen(project: Project, closed: Closed, *, person: str = "", machine: str = "") -> Change:
    """Such days are worked again."""
    return _closing(project, person, machine, lambda some: tuple(c for c in some if c != closed),
                    f"{_span(closed)} is open again")  # fmt: skip


def _span(closed: Closed) -> str:
    return f"{closed.first}{f' to {closed.last}' if closed.last else ''}{f', {closed.why}' if closed.why else ''}"


def _closing(project: Project, person: str, machine: str, change: Any, said: str) -> Change:
    plan = project.plan
    if person:
        who = by_id(plan.people, person, "person")
        people = replaced(plan.people, who, who.but(away=change(who.away)))
        return _with_plan(project, f"{who.name} away: {said}", people=people)
    if machine:
        what = by_id(plan.machines, machine, "machine")
        machines = replaced(plan.machines, what, what.but(closed=change(what.closed)))
        return _with_plan(project, f"{what.name} closed: {said}", machines=machines)
    calendar: Calendar = plan.calendar.but(closed=change(plan.calendar.closed))
    return _with_plan(project, f"nobody works: {said}", calendar=calendar)


def close_words(project: Project, text: str, *, person: str = "", machine: str = "") -> Change:
    """ "2026-12-07, 2026-12-11, exams": first day, last day, why. Raises ProjectError for what is no day."""
    first, _, rest = text.partition(",")
    last, _, why = rest.partition(",")
    if last.strip() and not any(c.isdigit() for c in last):
        last, why = "", rest
    return close(project, first, last, why, person=person, machine=machine)


def read_way(text: str) -> dict[str, Any]:
    """ "buy 2 locally; 1; 2; 4; 18": called, days at least, usually, at most, what it costs more.

    Raises ProjectError for what cannot be read.
    """
    parts = [p.strip() for p in text.split(";")]
    if len(parts) < 4 or not parts[0]:
        raise ProjectError(
            "Write it like “buy 2 locally; 1; 2; 4; 18”: called, days at least, usually, at most, more money."
        )
    try:
        least, likely, most = (parse(p, "days") for p in parts[1:4])
        more = parse(parts[4], "£") if len(parts) > 4 and parts[4] else 0.0
    except UnitError as error:
        raise ProjectError(str(error)) from error
    return {"name": parts[0], "least_days": least, "likely_days": likely, "most_days": most, "more": more}
