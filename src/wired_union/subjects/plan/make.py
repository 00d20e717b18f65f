"""A plan made from the project: what is to come, to be made, joined, woken, tried and decided, for the team to correct.

Hours are guesses by count, and say so in the task's spread; days come from the parts themselves.
"""

from datetime import timedelta
from typing import Any

from wired_union.project.change import Change, new_id, with_concept
from wired_union.project.dates import as_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Item, Project
from wired_union.project.plan_model import After, CameFrom, Hand, Milestone, PlanTask
from wired_union.subjects.bench.gives import kind_of
from wired_union.subjects.plan.edits import remove_task
from wired_union.subjects.plan.filled import OWN_MACHINE_DAYS
from wired_union.subjects.plan.level import best, taken

HOURS: dict[CameFrom, tuple[float, float, float]] = {
    "check": (0.15, 0.25, 0.5), "drawing": (1.5, 3.0, 6.0), "finishing": (0.5, 1.0, 2.0),
    "cables": (0.3, 0.5, 1.0), "program": (1.0, 2.0, 5.0),
    "bench": (0.25, 0.5, 1.5), "question": (3.0, 6.0, 12.0), "assembly": (0.3, 0.5, 1.0),
}  # fmt: skip
"""Least, likely and most hours of one: a part to check, to draw, to finish, a cable, a processor's task, a part to
wake, a test, a part to assemble. Guesses for a team that has not done it before."""
WAKES = {
    "power": "power",
    "rail": "power",
    "converter": "power",
    "logic": "controllers",
    "link": "controllers",
    "sensor": "sensors",
    "driver": "what moves",
    "motion": "what moves",
}
"""What is woken together."""
ASSEMBLY_DAYS = 7
"""Assembly begins a week before the date: common practice."""


NAMED_BY: dict[CameFrom, str] = {
    "delivery": "item", "making": "item", "drawing": "item", "finishing": "item", "check": "subsystem",
    "program": "processor",
}  # fmt: skip
"""The field of a task that says which one it comes from."""


def named_by(source: CameFrom) -> str:
    """The field that says which part, subsystem or processor a task comes from, or which of something else."""
    return NAMED_BY.get(source, "of")


class _Maker:
    """Collects tasks that the plan does not have yet."""

    def __init__(self, concept: Concept) -> None:
        self.tasks = list(concept.plan_tasks)
        self.known: dict[tuple[CameFrom, str], str] = {
            (t.comes_from, getattr(t, named_by(t.comes_from))): t.id for t in concept.plan_tasks if t.comes_from
        }
        self.added = 0

    def add(self, name: str, source: CameFrom, of: str, after: list[str], **figures: Any) -> str:
        """The task of a source; made where there is none. What it waits for is only said when it is made."""
        if (source, of) in self.known:
            return self.known[source, of]
        links = tuple(After(task=a) for a in dict.fromkeys(after))
        task = PlanTask(id=new_id(name, (t.id for t in self.tasks)), name=name[:120], comes_from=source,
                        after=links, **figures).but(**{named_by(source): of})  # fmt: skip
        self.tasks.append(task)
        self.known[source, of] = task.id
        self.added += 1
        return task.id

    def work(
        self, name: str, source: CameFrom, of: str, after: list[str], count: float, skill: str, due: str = ""
    ) -> str:  # fmt: skip
        """Work of so many of its kind."""
        least, likely, most = (float(f"{h * count:.3g}") for h in HOURS[source])
        return self.add(name, source, of, after, least_h=least, likely_h=likely, most_h=most, skill=skill,
                        due=due)  # fmt: skip


def _day(text: str) -> str:
    return text if as_day(text) is not None else ""


def is_own(item: Item) -> bool:
    """Whether a part is one that the team makes, or has made."""
    return item.part.kind == "structure"


def missing_tasks(project: Project) -> tuple[PlanTask, ...]:
    """All tasks of the concept at work, those that it has first, then what the project calls for besides."""
    made, concept = _Maker(project.concept), project.concept
    for q in sorted((q for q in concept.questions if not q.answer), key=lambda q: -(q.risk_days or 0.0)):
        made.work(f"Test: {q.question}"[:120], "question", q.id, [], 1, "workshop", due=_day(q.date))
    there = _parts(made, concept)
    joined = [made.work("Make the cables", "cables", "", list(there.values()), len(concept.cables), "electronics")
              ] if concept.cables else []  # fmt: skip
    programs = [
        made.work(f"Program: {p.name}"[:120], "program", p.id, [], n, "code")
        for p in concept.processors if (n := sum(t.processor == p.id for t in concept.tasks))
    ]  # fmt: skip
    woken = _wakings(made, concept, there, joined)
    before = [*there.values(), *joined, *programs, *woken]
    together = [made.work("Assembly", "assembly", "", before, max(len(concept.items), 1), "")] if concept.items else []
    for trial in project.trials:
        if trial.concept in {"", concept.id} and trial.planned is not None and not trial.question:
            made.add(f"Runs: {trial.name}"[:120], "trial", trial.id, together)
    return tuple(made.tasks)


def _parts(made: _Maker, concept: Concept) -> dict[str, str]:
    """What must be done before each part is there: by subsystem, the check of what came."""
    last: dict[str, list[str]] = {}
    for item in concept.items:
        if item.origin != "to buy":
            continue
        if is_own(item):
            drawn = made.work(f"Draw: {item.name}"[:120], "drawing", item.id, [], 1, "drawing")
            days = {} if item.part.delivery_days is not None else dict(
                zip(("least_days", "likely_days", "most_days"), OWN_MACHINE_DAYS, strict=True))  # fmt: skip
            came = made.add(f"{item.name} made"[:120], "making", item.id, [drawn], kind="wait", **days)
            came = made.work(f"Finish: {item.name}"[:120], "finishing", item.id, [came], 1, "workshop")
        else:
            came = made.add(f"{item.name} comes"[:120], "delivery", item.id, [], kind="wait")
        last.setdefault(item.subsystem, []).append(came)
    names = {s.id: s.name for s in concept.subsystems}
    return {
        lane: made.work(f"Check what came: {names[lane]}"[:120], "check", lane, came, len(came), "")
        for lane, came in last.items()
    }  # fmt: skip


def _wakings(made: _Maker, concept: Concept, there: dict[str, str], joined: list[str]) -> list[str]:
    """What is woken on the bench, in its order; each group after the one before."""
    groups: dict[str, list[Item]] = {}
    woken = {w.item for w in concept.wakings if w.woken_on}
    for item in concept.items:
        kind = kind_of(item)
        if kind is not None and item.id not in woken:
            groups.setdefault(WAKES[kind], []).append(item)
    found: list[str] = []
    for group in dict.fromkeys(WAKES.values()):
        items = groups.get(group)
        if items:
            after = [*(there[i.subsystem] for i in items if i.subsystem in there), *joined, *found[-1:]]
            found.append(made.work(f"Wake {group}", "bench", group, after, len(items), "electronics"))
    return found


def make_plan(project: Project, today: str) -> Change:
    """The plan with every task that the project calls for, given to who can do it, in a good order.

    Raises ProjectError where there is nothing to add.
    """
    concept = project.concept
    tasks = missing_tasks(project)
    added = len(tasks) - len(concept.plan_tasks)
    if not added:
        raise ProjectError(
            "The plan has every task already that the parts, cables, bench, trials and questions ask for."
        )
    after = with_concept(project, plan_tasks=tasks, milestones=_with_assembly(project, tasks))
    found = best(after, today, tries=300)
    if found is not None:
        after = taken(after, found).after
    after = _assembly_by_all(after)
    return Change(project, after, f"the plan: {added} more {'task' if added == 1 else 'tasks'} from the project")


def _assembly_by_all(project: Project) -> Project:
    """Everybody who has hours assembles."""
    people = tuple(Hand(person=p.id) for p in project.plan.people if p.hours_a_week)
    tasks = project.concept.plan_tasks
    if not people:
        return project
    return with_concept(project, plan_tasks=tuple(
        t.but(hands=people) if t.comes_from == "assembly" and len(t.hands) <= 1 and not t.begun_on else t for t in tasks
    ))  # fmt: skip


def _with_assembly(project: Project, tasks: tuple[PlanTask, ...]) -> tuple[Milestone, ...]:
    """The milestones, with the day on which all must be there for assembly."""
    found, day = project.concept.milestones, as_day(project.plan.date)
    assembly = next((t for t in tasks if t.comes_from == "assembly"), None)
    if day is None or assembly is None or any(m.id == "assembly" for m in found):
        return found
    on = (day - timedelta(days=ASSEMBLY_DAYS)).isoformat()
    return (*found, Milestone(id="assembly", name="All there for assembly", on=on, after=assembly.after,
                              shows="every part made, checked and woken by itself"))  # fmt: skip


def tidy(project: Project, tasks: tuple[str, ...]) -> Change:
    """The plan without tasks that take no time."""
    now = project
    for task in tasks:
        now = remove_task(now, task).after
    return Change(project, now, f"the plan: {len(tasks)} tasks less, which take no time")
