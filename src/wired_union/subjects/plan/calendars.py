"""Calendars: how many hours each person and machine gives to the project on each day, from today on."""

from collections.abc import Iterable, Iterator
from datetime import date

import numpy as np

from wired_union.physics.levelling import Floats, WorkDays, work_days
from wired_union.project.dates import as_day, days_between
from wired_union.project.plan_model import WEEKDAYS, Calendar, Closed, Machine, Person, Plan

HORIZON = 1100
"""Days that are looked at: three years; what is not done by then is not known."""


def calendar_gaps(plan: Plan) -> Iterator[str]:
    """Days of calendars that are no days: what they close is not known."""
    named = [("nobody works", plan.calendar.closed)]
    named += [(f"{p.name} is away", p.away) for p in plan.people]
    named += [(f"{m.name} is closed", m.closed) for m in plan.machines]
    for who, closed in named:
        for c in closed:
            for text in filter(None, (c.first, c.last)):
                if as_day(text) is None:
                    yield f"when {who}: “{text}” is no day"


def _shut(open_days: Floats, closed: Iterable[Closed], today: date) -> Floats:
    """Days without those that are closed."""
    found = open_days.copy()
    for c in closed:
        first, last = days_between(today, c.first), days_between(today, c.last or c.first)
        if first is not None and last is not None and last >= 0:
            found[max(first, 0) : last + 1] = 0.0
    return found


def worked_days(calendar: Calendar, today: date) -> Floats:
    """1 on each day from today on that is worked, else 0."""
    week = np.array([1.0 if d in calendar.worked else 0.0 for d in WEEKDAYS])
    days = week[(today.weekday() + np.arange(HORIZON)) % 7]
    return _shut(days, calendar.closed, today)


def hours_of(person: Person, calendar: Calendar, today: date) -> Floats:
    """Hours of each day that a person gives; none where nobody said how many a week."""
    days = len(calendar.worked)
    if person.hours_a_week is None or not days:
        return np.zeros(HORIZON)
    return _shut(worked_days(calendar, today), person.away, today) * (person.hours_a_week / days)


def machine_hours(machine: Machine, calendar: Calendar, today: date) -> Floats:
    """Hours of each day for which one of these machines can be used."""
    days = np.ones(HORIZON) if machine.weekends else worked_days(calendar, today)
    return _shut(days, machine.closed, today) * machine.hours_a_day


class Rooms:
    """Calendars of those who do a task together, each made once."""

    def __init__(self, plan: Plan, today: date) -> None:
        self._plan, self._today = plan, today
        self.people = {p.id: hours_of(p, plan.calendar, today) for p in plan.people}
        self.machines = {m.id: machine_hours(m, plan.calendar, today) for m in plan.machines}
        self._made: dict[tuple[frozenset[str], str], WorkDays] = {}

    def together(self, people: frozenset[str], machine: str) -> WorkDays:
        """All of them at once: their hours add, on days on which all of them and the machine are there."""
        if (people, machine) not in self._made:
            self._made[people, machine] = work_days(self._rate(people, machine))
        return self._made[people, machine]

    def _rate(self, people: frozenset[str], machine: str) -> Floats:
        each = [self.people[p] for p in sorted(people)]
        if not each:
            return self.machines[machine]
        rate = np.where(np.min(each, axis=0) > 0, np.sum(each, axis=0), 0.0)
        return np.where(self.machines[machine] > 0, rate, 0.0) if machine else rate
