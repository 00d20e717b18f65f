"""When everything is done: each takes what is theirs in the order of the list, and is in one place at a time.

Time is in days from the beginning of today. The day of the date itself is no day to work: all is done before it. What a
task lacks is named, and it counts as done at once: the end is then no later than it will be, and no plan holds by it.
"""

from collections.abc import Mapping
from datetime import date, timedelta
from functools import cached_property, lru_cache

import numpy as np
from msgspec import Struct

from wired_union.kernel.subject import Given, Node
from wired_union.physics.levelling import NEVER, Activity, Floats, Levelled, WorkDays, in_turn, latest, levelled
from wired_union.physics.plan_draws import DRAWS, Holder, drawn, holders, shuffled
from wired_union.physics.statistics import success_interval
from wired_union.project.dates import as_day, days_between
from wired_union.project.model import Project
from wired_union.project.plan_model import Milestone, Plan, PlanTask
from wired_union.subjects.plan.calendars import Rooms, calendar_gaps
from wired_union.subjects.plan.effort import Pace, effort_of, pace_of, three_of
from wired_union.subjects.plan.filled import Facts, facts_of, filled


class Row(Struct, frozen=True):
    """A task as it is planned: instants in days from the beginning of today."""

    task: PlanTask
    start: float
    finish: float
    longest: float
    """when it would be done where it alone takes its longest"""
    latest: float
    """by when it must be done; infinite where nothing waits for it and there is no date"""
    lacks: tuple[str, ...] = ()
    free: float = 0.0
    """days by which it may slip before anything else does"""

    @property
    def slack(self) -> float:
        """Days in hand; below 0 where it is late."""
        return self.latest - self.finish

    @property
    def done(self) -> bool:
        return bool(self.task.done_on)

    @property
    def is_critical(self) -> bool:
        """Whether no day is left."""
        return not self.done and not self.lacks and self.slack < 0.5


class Scheduled(Struct, frozen=True, dict=True, eq=False):
    """A concept's plan on one day; what costs time is worked out when it is first asked for."""

    today: date | None
    deadline: float | None
    """instant of the date"""
    rows: tuple[Row, ...]
    gaps: tuple[str, ...]
    """what no single task lacks: the date, a ring of links"""
    milestones: tuple[tuple[Milestone, float | None, float | None], ...] = ()
    """each with its instant, and when what it needs is done; None for what is not known"""
    pace: Pace | None = None
    ring: tuple[str, ...] = ()
    """names of tasks that wait for each other"""
    needless: tuple[str, ...] = ()
    """ids of tasks that take no time, since their part is there or their runs are made"""
    _network: "Network | None" = None

    @property
    def missing(self) -> tuple[str, ...]:
        """Everything that is not known, in words."""
        return self.gaps + tuple(f"{r.task.name}: {x}" for r in self.rows for x in r.lacks)

    @property
    def open(self) -> tuple[Row, ...]:
        """Tasks that are not done."""
        return tuple(r for r in self.rows if not r.done)

    @cached_property
    def slack(self) -> float | None:
        """Days in hand of the worst chain; None without a date or anything to do."""
        found = [r.slack for r in self.rows if r.latest < NEVER]
        if not found and self.rows and not self.open:
            return self.deadline  # all is done
        return min(found) if found and self.deadline is not None else None

    @property
    def late(self) -> float | None:
        """By how many days the worst of what is due is late, below 0 where none is; None where nothing is due."""
        found = [r.finish - due for r, due in zip(self.rows, self.dues, strict=False) if due < NEVER]
        return max(found, default=None)

    @property
    def end(self) -> float:
        """When the last is done."""
        return max((r.finish for r in self.rows), default=0.0)

    @property
    def order(self) -> tuple[int, ...]:
        """Numbers of the tasks in the order in which they are done."""
        return self._network.order if self._network is not None else ()

    @property
    def dues(self) -> tuple[float, ...]:
        """The instant by which each must be done, by itself."""
        return self._network.due if self._network is not None else ()

    def activity(self, n: int) -> Activity:
        """How a task is scheduled."""
        return self._network.activities[n] if self._network is not None else Activity()

    def effort(self, n: int) -> float:
        """What is left of a task."""
        return float(self._network.likely[n, 0]) if self._network is not None else 0.0

    def row(self, task_id: str) -> Row | None:
        """The row of a task, None where there is none."""
        return next((r for r in self.rows if r.task.id == task_id), None)

    def day(self, instant: float) -> date | None:
        """The day on which an instant lies; what ends at midnight was done the day before."""
        if self.today is None or not abs(instant) < 1e5:
            return None
        return self.today + timedelta(days=int(np.ceil(instant - 1e-9)) - 1)

    def begins(self, instant: float) -> date | None:
        """The day on which something begins."""
        if self.today is None or not abs(instant) < 1e5:
            return None
        return self.today + timedelta(days=int(np.floor(instant + 1e-9)))

    @cached_property
    def chain(self) -> tuple[Row, ...]:
        """What holds the end: from its last task back to the first, each held by the one before."""
        return _chain(self._network, self.rows) if self._network is not None else ()

    @property
    def in_order(self) -> Floats:
        """When all is done in each of 10 000 plans, the earliest first; never where the calendars do not hold it."""
        return self._drawn[0]

    @property
    def holders(self) -> tuple[Holder, ...]:
        """What holds the date: shares of the spread of the end."""
        return self._drawn[1]

    @cached_property
    def _drawn(self) -> tuple[Floats, tuple[Holder, ...]]:
        """Ends, and what holds them; the durations themselves are not kept, for they are many."""
        if self._network is None:
            return np.zeros(DRAWS), ()
        effort, ends = self._network.drawn()
        done = np.isfinite(ends)
        return np.sort(ends), holders(effort[:, done], ends[done]) if done.any() else ()

    @cached_property
    def unspread(self) -> tuple[str, ...]:
        """Tasks of which it is not known how much their durations may differ."""
        return tuple(
            f"{r.task.name}: how little and how much it may take"
            for r in self.open if not r.lacks and three_of(r.task) is None
        )  # fmt: skip

    @cached_property
    def chance(self) -> float | None:
        """Share of 10 000 plans that are done by the date."""
        if self.deadline is None or self._network is None:
            return None
        return float((self.in_order <= self.deadline + 1e-9).mean())

    @cached_property
    def sure(self) -> tuple[float, float] | None:
        """Between what the chance is, for all that ten thousand plans can tell: Wilson's interval."""
        if self.chance is None:
            return None
        count = len(self.in_order)
        found = success_interval(round(self.chance * count), count)
        return found.wilson_lower, found.wilson_upper

    def by(self, share: float) -> float:
        """The instant by which so many of the plans are done."""
        count = len(self.in_order)
        return float(self.in_order[min(max(int(np.ceil(share * count)) - 1, 0), count - 1)])


class Network(Struct, frozen=True, eq=False):
    """Tasks as they are levelled."""

    tasks: tuple[PlanTask, ...]
    activities: tuple[Activity, ...]
    counts: tuple[int, ...]
    order: tuple[int, ...]
    likely: Floats
    """(tasks, 1)"""
    plan: Levelled
    factor: float
    floor: Floats
    """least that each takes, since it is not here yet"""
    lacking: frozenset[int]
    due: tuple[float, ...]

    def drawn(self) -> tuple[Floats, Floats]:
        """Durations of every task in every draw, and when all is done."""
        effort = np.empty((len(self.tasks), DRAWS))
        for n, task in enumerate(self.tasks):
            three = three_of(task)
            if three is None or n in self.lacking or task.done_on or three[1] <= 0:
                effort[n] = self.likely[n]
                continue
            scale = self.likely[n, 0] / three[1] if task.kind == "work" else 1.0
            effort[n] = np.maximum(drawn(*three, shuffled(task.id)) * scale, self.floor[n])
        found = levelled(self.activities, self.counts, effort, self.order)
        return effort, found.finish.max(axis=0)


def _chain(network: Network, rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """From the task that is worst back along what held each of them."""
    finish = network.plan.finish[:, 0]
    before: dict[int, list[tuple[int, float]]] = {}
    for one, other, lag in network.plan.arcs:
        before.setdefault(other, []).append((one, lag))
    now = min(range(len(rows)), key=lambda n: (rows[n].slack, -rows[n].finish)) if rows else None
    found: list[Row] = []
    while now is not None and len(found) <= len(rows):
        found.append(rows[now])
        held = max(before.get(now, ()), key=lambda x: finish[x[0]] + x[1], default=None)
        now = held[0] if held is not None and finish[held[0]] > 0 else None
    return tuple(reversed(found))


NO_FACTS = Facts((), ())


def schedule(
    plan: Plan, written: tuple[PlanTask, ...], milestones: tuple[Milestone, ...], day: str, facts: Facts = NO_FACTS
) -> Scheduled:  # fmt: skip
    """A concept's plan as it stands on a day, "" where that is not known."""
    taken = filled(written, facts)
    tasks, today = taken.tasks, as_day(day)
    deadline = days_between(today, plan.date) if today is not None else None
    pace = pace_of(tasks)
    if today is None or not tasks:
        why = ("which day it is",) if today is None else ("what is to be done",)
        rows = tuple(Row(t, 0.0, 0.0, 0.0, NEVER) for t in tasks)
        return Scheduled(today, _instant(deadline), rows, why, pace=pace)
    unsaid = dict(taken.gaps)
    gaps = [*_date_gaps(plan), *calendar_gaps(plan)]
    factor = pace.factor if plan.own_pace and pace is not None else 1.0
    due = _dues(tasks, milestones, today, _instant(deadline))
    network, lacks, ring = _network(plan, tasks, today, factor, due)
    gaps += [f"tasks wait for each other in a ring: {', '.join(tasks[n].name for n in ring)}"] if ring else []
    late = latest(network.activities, network.likely[:, 0].tolist(), network.plan, network.order, due)
    free = _free(network, late)
    rows = tuple(
        _row(network, n, late[n], (unsaid[t.id],) if t.id in unsaid else lacks.get(n, ()), free[n])
        for n, t in enumerate(tasks)
    )  # fmt: skip
    shown = tuple(_milestone(m, rows, today) for m in milestones)
    return Scheduled(today, _instant(deadline), rows, tuple(gaps), shown, pace, tuple(tasks[n].name for n in ring),
                     taken.needless, network)  # fmt: skip


def _instant(days: int | None) -> float | None:
    return float(days) if days is not None else None


def _date_gaps(plan: Plan) -> list[str]:
    if as_day(plan.date) is not None:
        return []
    return [f"the date: “{plan.date}” is no day" if plan.date else "the date by which all must be done"]


def _network(
    plan: Plan, tasks: tuple[PlanTask, ...], today: date, factor: float, due: list[float]
) -> tuple[Network, dict[int, tuple[str, ...]], tuple[int, ...]]:  # fmt: skip
    """Tasks as they are levelled, what each lacks, and those on a ring."""
    rooms = Rooms(plan, today)
    place = {t.id: n for n, t in enumerate(tasks)}
    things = things_of(plan)
    counts = (*(1 for _ in plan.people), *(m.count for m in plan.machines))
    lacks: dict[int, tuple[str, ...]] = {}
    activities, likely, floor = [], [], []
    for n, task in enumerate(tasks):
        a, hours, least, gaps = _activity(plan, task, rooms, things, place, today, factor)
        activities.append(a)
        likely.append(hours)
        floor.append(least)
        if gaps:
            lacks[n] = gaps
    wanted = sorted(range(len(tasks)), key=lambda n: (not tasks[n].begun_on, n))
    order, ring = in_turn(activities, wanted)
    for n in ring:  # a ring is opened, and named: its tasks wait for nothing
        activities[n] = Activity((), activities[n].takes, activities[n].days, activities[n].not_before)
    effort = np.array(likely)[:, None]
    found = levelled(activities, counts, effort, order)
    for n in np.flatnonzero(np.isinf(found.finish[:, 0])).tolist():
        if n not in lacks and not any(before in lacks for before, _ in activities[n].after):
            lacks[n] = ("it is not done within three years; give it more hours a week",)
    if lacks and any(np.isinf(found.finish[:, 0])):
        activities = [Activity(a.after) if n in lacks else a for n, a in enumerate(activities)]
        effort = np.where(np.isin(np.arange(len(tasks)), list(lacks))[:, None], 0.0, effort)
        found = levelled(activities, counts, effort, order)
    network = Network(tasks, tuple(activities), counts, tuple(order), effort, found, factor, np.array(floor),
                      frozenset(lacks), tuple(due))  # fmt: skip
    return network, lacks, ring


def things_of(plan: Plan) -> dict[str, int]:
    """Numbers of what tasks take: people, then machines."""
    ids = [*(p.id for p in plan.people), *(m.id for m in plan.machines)]
    return {i: k for k, i in enumerate(ids)}


def _activity(
    plan: Plan, task: PlanTask, rooms: Rooms, things: Mapping[str, int], place: Mapping[str, int], today: date,
    factor: float,
) -> tuple[Activity, float, float, tuple[str, ...]]:  # fmt: skip
    """How a task is scheduled: with how much of what, the least that it takes, and what it lacks."""
    after = tuple((place[x.task], x.lag_days) for x in task.after if x.task in place)
    if task.done_on:
        on = days_between(today, task.done_on)
        if on is None:
            return Activity(), 0.0, 0.0, (f"when it was done: “{task.done_on}” is no day",)
        if on > 0:
            return Activity(), 0.0, 0.0, (f"whether it is done: {task.done_on} is still to come",)
        return Activity(not_before=min(on + 1.0, 0.0)), 0.0, 0.0, ()
    gaps = list(_day_gaps(task))
    effort, least, more = effort_of(task, today, factor)
    gaps += more
    begins = days_between(today, task.not_before)
    if task.kind == "wait":
        begun = days_between(today, task.begun_on)
        if begun is not None:
            return Activity(not_before=float(begun)), effort, least, tuple(gaps)
        return Activity(after, (), None, float(max(begins or 0, 0))), effort, least, tuple(gaps)
    people = frozenset(h.person for h in task.hands)
    gaps += _hand_gaps(plan, task, people, rooms)
    if gaps:
        return Activity(after, (), None, float(max(begins or 0, 0))), 0.0, 0.0, tuple(gaps)
    takes = tuple((things[x], 1) for x in (*sorted(people), *([task.machine] if task.machine else [])))
    days: WorkDays = rooms.together(people, task.machine)
    return Activity(after, takes, days, float(max(begins or 0, 0))), effort, least, ()


def _day_gaps(task: PlanTask) -> list[str]:
    named = (("not before", task.not_before), ("due", task.due), ("begun", task.begun_on))
    return [f"{word} “{text}”, which is no day" for word, text in named if text and as_day(text) is None]


def _hand_gaps(plan: Plan, task: PlanTask, people: frozenset[str], rooms: Rooms) -> list[str]:
    """Why nobody can do it."""
    if not people and not task.machine:
        return ["who does it"]
    names = {p.id: p for p in plan.people}
    unsaid = [f"{names[p].name}'s hours a week" for p in sorted(people) if names[p].hours_a_week is None]
    if unsaid:
        return unsaid
    never = rooms.together(people, task.machine).done[-1] <= 0
    return ["a day on which all who do it are there"] if never else []


def _dues(
    tasks: tuple[PlanTask, ...], milestones: tuple[Milestone, ...], today: date, deadline: float | None
) -> list[float]:  # fmt: skip
    """The instant by which each must be done: the date, its own day, the milestones that need it."""
    found = []
    for task in tasks:
        own = days_between(today, task.due)
        due = [] if deadline is None else [deadline]
        due += [own + 1.0] if own is not None else []
        due += [float(on) for m in milestones if any(x.task == task.id for x in m.after)
                if (on := days_between(today, m.on)) is not None]  # fmt: skip
        found.append(min(due, default=NEVER) if not task.done_on else NEVER)
    return found


def _free(network: Network, late: list[float]) -> list[float]:
    """Days by which each may slip before what waits for it, or for whom does it, begins later."""
    start, finish = network.plan.start[:, 0], network.plan.finish[:, 0]
    found = [x - float(f) if f < NEVER else 0.0 for x, f in zip(late, finish, strict=True)]
    for before, after, lag in network.plan.arcs:
        if start[after] < NEVER:
            found[before] = min(found[before], float(start[after] - finish[before]) - lag)
    return found


def _row(network: Network, n: int, late: float, lacks: tuple[str, ...], free: float) -> Row:
    task, plan = network.tasks[n], network.plan
    start, finish = float(plan.start[n, 0]), float(plan.finish[n, 0])
    three, longest = three_of(task), finish
    if three is not None and not lacks and not task.done_on and three[1] > 0:
        most = float(network.likely[n, 0]) * three[2] / three[1] if task.kind == "work" else three[2]
        days = network.activities[n].days
        longest = start + most if days is None else float(days.finish(np.array([start]), np.array([most]))[0])
    return Row(task, start, finish, max(longest, finish), late, lacks, free)


def _milestone(
    milestone: Milestone, rows: tuple[Row, ...], today: date
) -> tuple[Milestone, float | None, float | None]:  # fmt: skip
    """Its instant, and when what it needs is done."""
    on, wanted = days_between(today, milestone.on), {x.task for x in milestone.after}
    needed = [r for r in rows if r.task.id in wanted]
    done = max((r.finish for r in needed), default=None)
    known = needed and all(not r.lacks for r in needed)
    return milestone, _instant(on), done if known else None


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    return project.plan, concept.plan_tasks, concept.milestones, facts_of(project)


@lru_cache(maxsize=32)
def _scheduled(
    plan: Plan, tasks: tuple[PlanTask, ...], milestones: tuple[Milestone, ...], day: str, facts: Facts
) -> Scheduled:  # fmt: skip
    """`schedule`, kept: many alternatives of a part come after as many days as each other."""
    return schedule(plan, tasks, milestones, day, facts)


def planned(project: Project, today: str) -> Scheduled:
    """The plan of the concept at work as it stands on a day."""
    concept = project.concept
    return _scheduled(project.plan, concept.plan_tasks, concept.milestones, today, facts_of(project))


def _work(project: Project, given: Given) -> Scheduled:
    return planned(project, given.today)


PLAN = Node("plan", _read, _work, dated=True)
