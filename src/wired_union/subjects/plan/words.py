"""Days, hours and people of a plan in words."""

from wired_union.project.dates import shown_day
from wired_union.project.model import Project
from wired_union.project.plan_model import PlanTask
from wired_union.subjects.plan.schedule import Row, Scheduled
from wired_union.units import show


def day_words(plan: Scheduled, instant: float) -> str:
    """ "9 Dec", the day on which something is done; "never" beyond the calendars."""
    day = plan.day(instant)
    return shown_day(day) if day is not None else "never"


def begin_words(plan: Scheduled, instant: float) -> str:
    """ "9 Dec", the day on which something begins."""
    day = plan.begins(instant)
    return shown_day(day) if day is not None else "never"


def in_hand_words(days: float) -> str:
    """ "4 d"; whole days, since nobody counts in less."""
    return f"{round(days):d} d" if abs(days) >= 1 else "under a day" if days > 0 else "no day"


def days_words(days: float) -> str:
    """ "4 days", "1 day"."""
    if not abs(days) < 1e6:
        return "for ever"
    whole = round(abs(days))
    return f"{whole} {'day' if whole == 1 else 'days'}"


def hours_words(hours: float) -> str:
    """ "27 h", and never in days: nobody works all day and night."""
    return f"{hours:.3g} h" if hours < 1e4 else f"{hours:.0f} h"


def points_words(points: float) -> str:
    """ "1 point", "3 points" """
    return f"{show(points)} {'point' if points == 1 else 'points'}"


def who_words(project: Project, task: PlanTask) -> str:
    """ "Mika, Jo", "all", "supplier", "nobody yet" """
    names = {p.id: p.name for p in project.plan.people}
    if task.kind == "wait":
        return {"delivery": "supplier", "making": "workshop"}.get(task.comes_from, "")
    found = [names[h.person] for h in task.hands if h.person in names]
    if len(found) > 2 and len(found) == len([p for p in project.plan.people if p.hours_a_week]):
        return "all"
    machine = next((m.name for m in project.plan.machines if m.id == task.machine), "")
    return ", ".join(found) or machine or "nobody yet"


def late_words(row: Row) -> str:
    """ "3 days late", "4 days in hand" """
    if row.slack < -0.05:
        return f"{days_words(row.slack) if row.slack < -0.5 else 'part of a day'} late"
    return f"{days_words(row.slack)} in hand" if row.slack >= 0.5 else "no day in hand"
