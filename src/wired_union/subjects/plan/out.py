"""The plan for elsewhere: a calendar (ICS), a workbook (XLSX), a page for the week (PDF). Nothing is sent anywhere."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta, timezone
from typing import Any

from msgspec.structs import asdict

from wired_union.catalogue.sheet_files import Page, book_bytes
from wired_union.kernel.subject import Assessment
from wired_union.picture.palette import LIGHT, WORDS
from wired_union.project.dates import as_day, shown_day
from wired_union.project.model import Project
from wired_union.shipped import ASSETS
from wired_union.subjects.plan.effort import three_of
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.schedule import PLAN, Row, Scheduled
from wired_union.subjects.plan.words import late_words, who_words

WEEK = 7
PAGES = ASSETS / "pages"


class NoPlan(ValueError):
    """There is nothing to write; the text says what is missing."""


def _known(plan: Scheduled) -> list[Row]:
    """Tasks that are to be done and of which it is known when. Raises NoPlan where there is none."""
    found = [r for r in plan.open if not r.lacks and r.finish < 1e5 and r.task.id not in plan.needless]
    if plan.today is None or not found:
        raise NoPlan("No task of the plan is left of which it is known when it is done. Make the plan first.")
    return found


def _is_theirs(row: Row, person: str) -> bool:
    return not person or any(h.person == person for h in row.task.hands)


def plan_calendar(assessment: Assessment, person: str = "") -> bytes:
    """Tasks, milestones and the date as all-day events (RFC 5545); of one person where that is named.

    Raises NoPlan where there is nothing to write.
    """
    from icalendar import Calendar

    plan, project = assessment.of(PLAN), assessment.project
    rows = [r for r in _known(plan) if _is_theirs(r, person)]
    made = Calendar()
    name = next((p.name for p in project.plan.people if p.id == person), "")
    for key, value in (("PRODID", "-//Wired Union//plan//EN"), ("VERSION", "2.0"), ("CALSCALE", "GREGORIAN"),
                       ("X-WR-CALNAME", f"{project.name}{f': {name}' if name else ''}")):  # fmt: skip
        made.add(key, value)
    for row in rows:
        first, last = plan.begins(max(row.start, 0.0)), plan.day(row.finish)
        if first is not None and last is not None:
            words = f"{who_words(project, row.task)}. {late_words(row)}." if row.latest < 1e5 else ""
            made.add_component(
                _event(project, plan, f"task-{row.task.id}", row.task.name, first, max(first, last), words)
            )
    for milestone, on, _ in plan.milestones:
        day = plan.begins(on) if on is not None else None
        if day is not None:
            made.add_component(
                _event(project, plan, f"milestone-{milestone.id}", milestone.name, day, day, milestone.shows)
            )
    date_on = as_day(project.plan.date)
    if date_on is not None:
        made.add_component(_event(project, plan, "date", project.plan.date_name or "The date", date_on, date_on, ""))
    found: bytes = made.to_ical()
    return found


def _event(
    project: Project, plan: Scheduled, uid: str, name: str, first: date, last: date, words: str
) -> Any:  # fmt: skip
    """An all-day event from the first to the last day."""
    from icalendar import Event

    event = Event()
    of = "".join(c if c.isalnum() else "-" for c in project.name.lower())
    event.add("UID", f"{project.concept.id}-{uid}@{of}.union")
    assert plan.today is not None
    event.add("DTSTAMP", datetime(plan.today.year, plan.today.month, plan.today.day, tzinfo=timezone.utc))  # noqa: UP017
    event.add("DTSTART", first)
    event.add("DTEND", last + timedelta(days=1))  # RFC 5545: the day after the last
    event.add("SUMMARY", name)
    if words:
        event.add("DESCRIPTION", words)
    event.add("TRANSP", "TRANSPARENT")
    return event


def plan_pages(assessment: Assessment) -> list[Page]:
    """Plan and orders as pages of a workbook."""
    plan, project = assessment.of(PLAN), assessment.project
    names = {t.id: t.name for t in project.concept.plan_tasks}
    body = []
    for r in plan.rows:
        three = three_of(r.task) or (None, None, None)
        begins, ends = plan.begins(r.start), plan.day(r.finish)
        known = not r.lacks and not r.done
        body.append([
            r.task.name, r.task.kind, who_words(project, r.task),
            begins.isoformat() if begins and known else r.task.begun_on,
            ends.isoformat() if ends and known else r.task.done_on,
            _number(r.slack) if known and r.latest < 1e5 else "", *(_number(x) for x in three),
            "h" if r.task.kind == "work" else "days", "; ".join(names[a.task] for a in r.task.after if a.task in names),
            "; ".join(r.lacks),
        ])  # fmt: skip
    head = ["task", "kind", "who", "begins", "done", "days in hand", "least", "likely", "most", "in", "after",
            "not known yet"]  # fmt: skip
    ordered = [
        [o.row.task.name, _iso(o.day(plan)), _iso(o.day(plan, sure=True)), "yes" if o.shared else "",
         _number(o.row.task.likely_days)]
        for o in orders(assessment)
    ]  # fmt: skip
    return [
        Page("Plan", head, body, frozenset({5, 6, 7, 8})),
        Page(
            "Orders", ["what", "order by", "to be sure by", "every concept needs it", "days"], ordered, frozenset({4})
        ),
    ]


def _number(value: float | None) -> str:
    return f"{round(value, 3):g}" if value is not None and abs(value) < 1e6 else ""


def _iso(day: date | None) -> str:
    return day.isoformat() if day is not None else ""


def plan_book(assessment: Assessment, more: Sequence[Page] = ()) -> bytes:
    """Plan, orders, and what other subjects add, as a workbook. Raises NoPlan where there is no task."""
    if not assessment.project.concept.plan_tasks:
        raise NoPlan("There is no task yet. Make the plan first.")
    return book_bytes([*plan_pages(assessment), *more])


def week_data(assessment: Assessment) -> dict[str, Any]:
    """What the page of the week says: by person, then what comes, what to order, what is due."""
    plan, project = assessment.of(PLAN), assessment.project
    rows = [r for r in _known(plan) if r.start < WEEK]
    assert plan.today is not None
    groups = [(p.name, [r for r in rows if _is_theirs(r, p.id)]) for p in project.plan.people]
    groups.append(("Comes, or is waited for", [r for r in rows if r.task.kind == "wait"]))
    due = [o for o in orders(assessment) if o.sure_days < WEEK]
    return {
        "name": project.name, "today": shown_day(plan.today), "last": shown_day(plan.today + timedelta(days=WEEK - 1)),
        "groups": [{"who": who, "tasks": [_line(plan, r) for r in some]} for who, some in groups if some],
        "orders": [{"name": o.row.task.name, "by": shown_day(d) if (d := o.day(plan)) else "", } for o in due],
        "milestones": [
            {"name": m.name, "on": shown_day(day), "shows": m.shows} for m, on, _ in plan.milestones
            if on is not None and 0 <= on < 2 * WEEK and (day := plan.begins(on)) is not None
        ],
        "colours": asdict(LIGHT), "words": WORDS,
    }  # fmt: skip


def _line(plan: Scheduled, row: Row) -> dict[str, Any]:
    first, last = plan.begins(max(row.start, 0.0)), plan.day(row.finish)
    return {
        "name": row.task.name, "from": shown_day(first) if first else "", "to": shown_day(last) if last else "",
        "hand": late_words(row) if row.latest < 1e5 else "", "late": row.slack < -0.05, "critical": row.is_critical,
    }  # fmt: skip


def week_list(assessment: Assessment) -> bytes:
    """The coming seven days on one page, as PDF. Raises NoPlan where there is nothing to do in them."""
    from wired_union.picture.typeset import typeset

    return typeset(PAGES / "week.typ", week_data(assessment))[0]
