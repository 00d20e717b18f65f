"""Tasks from a sheet: every row with its figures, or what is wrong in it. Nothing is taken before it is looked at."""

from collections.abc import Iterable
from typing import Any

from msgspec import Struct

from wired_union import units
from wired_union.project.change import Change, new_id, with_concept
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.pasted import rows_of
from wired_union.project.plan_model import After, Hand, PlanTask
from wired_union.project.value import made
from wired_union.subjects.plan.edits import check_guesses
from wired_union.subjects.plan.schedule import planned

COLUMNS = {
    "task": "name", "name": "name", "title": "name", "kind": "kind", "who": "who", "by": "who", "person": "who",
    "least": "least", "likely": "likely", "usually": "likely", "hours": "likely", "most": "most", "in": "in",
    "unit": "in", "skill": "skill", "after": "after", "waits for": "after", "not before": "not_before", "due": "due",
    "begun": "begun_on", "begins": "", "ordered": "begun_on", "done": "done_on", "spent": "spent_h", "left": "left_h",
}  # fmt: skip
"""Headings that are understood, and what they are; one without meaning is left out."""
DAYS = ("not_before", "due", "begun_on", "done_on")


class ReadRow(Struct, frozen=True):
    """A row of the sheet: its number, what it is called, and the task, or what is wrong."""

    number: int
    name: str
    task: PlanTask | None
    after: tuple[str, ...] = ()
    """names of the tasks that it waits for"""
    wrong: tuple[str, ...] = ()


class ReadTasks(Struct, frozen=True):
    """A sheet of tasks that was read."""

    rows: tuple[ReadRow, ...]
    left_out: tuple[str, ...]
    """headings that mean nothing here"""

    @property
    def good(self) -> tuple[ReadRow, ...]:
        return tuple(r for r in self.rows if r.task is not None and not r.wrong)


def read_tasks(project: Project, text: str) -> ReadTasks:
    """Every row of a sheet. Raises ProjectError where it has no heading that says which column holds the tasks."""
    rows = rows_of(text)
    heads = [c.strip().lower() for c in rows[0]] if rows else []
    kinds = [COLUMNS.get(h) for h in heads]
    if "name" not in kinds:
        raise ProjectError(
            "No column is called task. The first row holds the headings: task, who, least, likely, most, "
            "in (h or days), after, due."
        )
    left_out = tuple(h for h, k in zip(heads, kinds, strict=True) if k is None and h)
    found: list[ReadRow] = []
    taken = {t.id for t in project.concept.plan_tasks}
    for n, row in enumerate(rows[1:], 2):
        cells = {k: c.strip() for k, c in zip(kinds, row, strict=False) if k and c.strip()}
        one = _row(project, cells, n, taken)
        taken |= {one.task.id} if one.task is not None else set()
        found.append(one)
    return ReadTasks(_with_links(project, found), left_out)


def _row(project: Project, cells: dict[str, str], number: int, taken: set[str]) -> ReadRow:
    name = cells.get("name", "")
    wrong: list[str] = []
    figures: dict[str, Any] = {}
    is_wait = cells.get("kind", "").lower() == "wait" or cells.get("in", "").lower() in {"days", "day", "d"}
    unit = "days" if is_wait else "h"
    for word in ("least", "likely", "most"):
        _take(figures, wrong, f"{word}_{'days' if is_wait else 'h'}", cells.get(word, ""), unit)
    for field in ("spent_h", "left_h"):
        _take(figures, wrong, field, cells.get(field, ""), "h")
    for field in DAYS:
        try:
            figures |= {field: checked_day(cells[field])} if field in cells else {}
        except ProjectError as error:
            wrong.append(str(error))
    hands, unknown = _people(project, cells.get("who", ""))
    wrong += [f"nobody is called “{x}”; add them first" for x in unknown]
    figures |= {"kind": "wait" if is_wait else "work", "hands": hands, "skill": cells.get("skill", "")}
    task = None
    try:
        task = made(PlanTask, id=new_id(name or "task", taken), name=name, **figures)
        check_guesses(task)
    except ProjectError as error:
        wrong.append(units.plain_words(str(error)) if not name else str(error))
    after = tuple(x.strip() for x in cells.get("after", "").split(";") if x.strip())
    return ReadRow(number, name or "no name", task, after, tuple(wrong))


def _take(figures: dict[str, Any], wrong: list[str], field: str, text: str, unit: str) -> None:
    if not text:
        return
    try:
        figures[field] = units.parse(text, unit)
    except units.UnitError as error:
        wrong.append(str(error))


def _people(project: Project, text: str) -> tuple[tuple[Hand, ...], list[str]]:
    """Who does it, between commas; a supplier or workshop is nobody of the team."""
    known = {p.name.lower(): p.id for p in project.plan.people}
    named = [x.strip() for x in text.split(",") if x.strip()]
    if named == ["all"]:
        return tuple(Hand(person=p) for p in known.values()), []
    hands = tuple(Hand(person=known[x.lower()]) for x in dict.fromkeys(named) if x.lower() in known)
    unknown = [x for x in named if x.lower() not in known and x.lower() not in {"supplier", "workshop", "nobody yet"}]
    return hands, unknown


def _with_links(project: Project, rows: Iterable[ReadRow]) -> tuple[ReadRow, ...]:
    """Rows with what they wait for by name; of what is not there, and of rings, it is said."""
    found = list(rows)
    ids = {t.name.lower(): t.id for t in project.concept.plan_tasks}
    ids |= {r.name.lower(): r.task.id for r in found if r.task is not None and not r.wrong}
    new = []
    for r in found:
        gone = [x for x in r.after if x.lower() not in ids]
        wrong = (*r.wrong, *(f"waits for “{x}”, which is neither here nor in the plan" for x in gone))
        links = tuple(After(task=ids[x.lower()]) for x in dict.fromkeys(r.after) if x.lower() in ids)
        task = r.task.but(after=links) if r.task is not None else None
        new.append(ReadRow(r.number, r.name, task, r.after, wrong))
    return tuple(new)


def take_tasks(project: Project, read: ReadTasks, today: str) -> Change:
    """All good rows added to the plan. Raises ProjectError where none is good, or they would wait in a ring."""
    tasks = tuple(r.task for r in read.good if r.task is not None)
    known = {t.id for t in (*project.concept.plan_tasks, *tasks)}
    tasks = tuple(t.but(after=tuple(a for a in t.after if a.task in known)) for t in tasks)
    if not tasks:
        raise ProjectError("No row can be taken. Each says what is wrong with it.")
    after = with_concept(project, plan_tasks=(*project.concept.plan_tasks, *tasks))
    ring = planned(after, today or "2026-01-01").ring
    if ring:
        raise ProjectError(
            f"These wait for each other in a ring: {', '.join(ring)}. Take one “after” out of the sheet."
        )
    return Change(project, after, f"{len(tasks)} more {'task' if len(tasks) == 1 else 'tasks'} from a sheet")
