"""What can be done about a plan that is late: each an edit, worked out on the whole project before it is offered."""

from collections.abc import Iterator
from functools import partial

from wired_union.choose.candidates import candidates, change_for
from wired_union.kernel.results import Offer, Remedy, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project import edits as parts
from wired_union.project.change import Change, by_id, find_item, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.plan_model import PlanTask
from wired_union.project.references import without
from wired_union.subjects.plan import edits
from wired_union.subjects.plan.level import able, best, taken
from wired_union.subjects.plan.schedule import PLAN, Row, Scheduled, planned
from wired_union.subjects.plan.words import hours_words, points_words

MOST_ROWS = 4
"""Tasks of a chain about which something is offered."""


def drop_feature(project: Project, feature_id: str) -> Change:
    """A feature left out: its parts and its tasks go with it."""
    feature = by_id(project.concept.features, feature_id, "feature")
    now = project
    for t in [t for t in project.concept.plan_tasks if t.feature == feature_id]:
        now = edits.remove_task(now, t.id).after
    for p in [p for p in feature.parts if any(i.id == p.item for i in now.concept.items)]:
        now = parts.remove_item(now, p.item).after
    now = with_concept(now, features=tuple(f for f in now.concept.features if f.id != feature_id))
    return Change(project, now, f"{feature.name}: left out")


def remove_feature(project: Project, feature_id: str) -> Change:
    """Nothing is left out, but it is no longer named as something that could be."""
    feature = by_id(project.concept.features, feature_id, "feature")
    gone = without(project.concept, "features", feature_id)
    return Change(project, with_concept(project, **{f: getattr(gone, f) for f in ("features", "plan_tasks")}),
                  f"{feature.name}: stays in any case")  # fmt: skip


def better_order(assessment: Assessment, *, anew: bool = False, tries: int = 400) -> Change | None:
    """A better order, found in a moment; None where none was."""
    found = best(assessment.project, assessment.today, anew=anew, tries=tries)
    if found is None:
        return None
    change = taken(assessment.project, found)
    return change if change.after.concept.plan_tasks != assessment.project.concept.plan_tasks else None


def swap_from_shelf(assessment: Assessment, item_id: str) -> list[tuple[str, Change]]:
    """What of the shelf could stand there at once, of what fits."""
    try:
        find_item(assessment.project, item_id)
        found = candidates(assessment, item_id)
    except ProjectError:
        return []
    stock = [c for c in found.fitting if c.origin in {"owned", "donated"}]
    return [(f"take {c.part.name} from the shelf", change_for(assessment, found.slot, c)) for c in stock[:2]]


def borrow(project: Project, task_id: str) -> Change | None:
    """The part of a delivery is lent by somebody: there at once, at no cost, and not the team's own."""
    task = by_id(project.concept.plan_tasks, task_id, "task")
    if task.comes_from != "delivery" or task.begun_on:
        return None
    change = tried(parts.set_origin, project, task.item, "owned")
    return Change(project, change.after, f"{task.name}: borrowed, not bought") if change is not None else None


def load_h(plan: Scheduled, person: str) -> float:
    """Hours that somebody still has to give to tasks."""
    return sum(plan.effort(n) / max(len(r.task.hands), 1) for n, r in enumerate(plan.rows)
               if not r.done and any(h.person == person for h in r.task.hands))  # fmt: skip


def about_task(assessment: Assessment, row: Row) -> Iterator[tuple[str, Change | None]]:
    """Everything that could be done about one task."""
    project, plan, task = assessment.project, assessment.of(PLAN), row.task
    for k, way in enumerate(task.other_ways):
        yield f"{task.name}: {way.name}", tried(edits.take_way, project, task.id, k)
    if task.comes_from == "making" and task.kind == "wait":
        for m in project.plan.machines:
            hours = hours_words(edits.HERE_H[1])
            yield f"{task.name}: on our {m.name}, {hours} (a guess)", tried(edits.make_here, project, task.id, m.id)
    if task.kind == "wait":
        if task.comes_from == "delivery" and not task.begun_on:
            yield from swap_from_shelf(assessment, task.item)
            yield f"borrow it: {task.name}", borrow(project, task.id)
        return
    yield from _by_others(project, plan, task)


def _by_others(project: Project, plan: Scheduled, task: PlanTask) -> Iterator[tuple[str, Change | None]]:
    """The task given to another, done by one more, or split between two."""
    now = [h.person for h in task.hands]
    others = sorted((p for p in able(project.plan, task) if p.id not in now), key=lambda p: load_h(plan, p.id))
    for p in others[:2]:
        if len(now) <= 1:
            yield f"give {task.name} to {p.name}", tried(edits.give_task, project, task.id, [p.id])
        if now:
            yield f"{p.name} helps with {task.name}", tried(edits.give_task, project, task.id, [*now, p.id])
    if others and now:
        yield f"split {task.name}, half of it to {others[0].name}", _halved(project, task, others[0].id)


def _halved(project: Project, task: PlanTask, other: str) -> Change | None:
    split = tried(edits.split_task, project, task.id)
    if split is None:
        return None
    tasks = split.after.concept.plan_tasks
    second = tasks[next(n for n, t in enumerate(tasks) if t.id == task.id) + 1]
    given = tried(edits.give_task, split.after, second.id, [other])
    return Change(project, given.after, split.sentence) if given is not None else None


def about_features(assessment: Assessment) -> Iterator[tuple[str, Change | None]]:
    """Each feature left out."""
    for f in assessment.project.concept.features:
        worth = f", worth {points_words(f.points)}" if f.points is not None else ""
        yield f"leave out {f.name}{worth}", tried(drop_feature, assessment.project, f.id)


def ways_out(assessment: Assessment, rows: tuple[Row, ...]) -> Offer:
    """What could be done about a chain of tasks: its longest first, a better order, what could be left out."""

    def offer() -> tuple[Remedy, ...]:
        found: list[tuple[str, Change | None]] = []
        todo = [r for r in rows if not r.done and not r.lacks]
        for row in sorted(todo, key=lambda r: r.start - r.finish)[:MOST_ROWS]:
            found += about_task(assessment, row)
        found.append(("a better order", better_order(assessment)))
        found.append(("a better order, tasks given anew", better_order(assessment, anew=True)))
        return possible(*_best_of(assessment, found), *_best_of(assessment, list(about_features(assessment))))

    return offer


MOST_OFFERED = 5
"""Ways out that are worked out on the whole project, of those that move the plan most."""


def _best_of(assessment: Assessment, found: list[tuple[str, Change | None]]) -> list[tuple[str, Change]]:
    """Those that give the plan most days in hand; of equal ones, that of the earlier end."""
    ranked = []
    for n, (label, change) in enumerate(found):
        if change is not None:
            plan = planned(change.after, assessment.today)
            ranked.append((-(plan.slack or 0.0), plan.end, n, label, change))
    return [(label, change) for *_, label, change in sorted(ranked, key=lambda x: x[:3])[:MOST_OFFERED]]


def for_nobody(assessment: Assessment, task: PlanTask) -> Offer:
    """Whom a task that nobody does could be given to."""
    project, plan = assessment.project, assessment.of(PLAN)

    def offer() -> tuple[Remedy, ...]:
        people = sorted(able(project.plan, task), key=lambda p: load_h(plan, p.id))[:3]
        return possible(*((f"give it to {p.name}", tried(edits.give_task, project, task.id, [p.id])) for p in people))

    return offer


def in_hand(assessment: Assessment, task: PlanTask, today: str) -> Offer:
    """A part that is late came after all."""
    project = assessment.project
    return partial(possible, ("it came today", tried(edits.set_task, project, task.id, done_on=today)))
