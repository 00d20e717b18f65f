"""The course as it is planned: when each task is done, the points that brings, and what may be lost.

Every trip begins at the start; the machine drives to each task and back, and is fitted with what the next trip carries
where that is something else. After the last task nothing needs to be driven.
"""

import math
from collections.abc import Mapping, Sequence
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.course import chance_in_time
from wired_union.project.course_model import CourseTask
from wired_union.project.model import Concept, Project
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.shown import TrialResult

SURE = 0.9
"""Courses out of ten in which points or time count as reached: common practice."""
FINEST = 4000
"""Sums of points that are told apart; beyond that the nearest of so many."""


class Leg(Struct, frozen=True):
    """One task as the search and the plan see it: its place by number, mean and variance of its time, what it is worth
    on average.
    """

    task: CourseTask
    points: float
    chance: float
    usual_s: float
    variance_s2: float
    place: int
    known: bool = True
    """Whether all of its figures are; one that is left out may lack some."""
    measured: str = ""
    """What its runs said in the place of guesses, in words."""

    @property
    def worth(self) -> float:
        return self.points * self.chance


class Ground(Struct, frozen=True, dict=True):
    """A course with every figure known: trips of legs, ways between places, what changes cost."""

    allowed_s: float
    trips: tuple[tuple[Leg, ...], ...]
    names: tuple[str, ...]
    any_order: tuple[bool, ...]
    fitted: tuple[str, ...]
    drive_s: tuple[tuple[float, ...], ...]
    """Between places by number; 0 is the start."""
    drive_spread: float
    change_s: float
    change_variance_s2: float

    def drive(self, one: int, other: int) -> tuple[float, float]:
        """Mean and variance of a drive."""
        time = self.drive_s[one][other]
        return time, (time * self.drive_spread) ** 2

    def change(self, before: int, after: int) -> tuple[float, float]:
        """Mean and variance of what is changed between two trips; −1 before the first."""
        if before < 0 or self.fitted[before] == self.fitted[after]:
            return 0.0, 0.0
        return self.change_s, self.change_variance_s2


Plan = tuple[tuple[int, tuple[int, ...]], ...]
"""Trips in their order, each by its number with the numbers of its tasks in theirs."""


class Done(Struct, frozen=True):
    """One task of a plan: which, when it begins and is done, and the chance that this is in time."""

    trip: int
    leg: Leg
    from_s: float
    at_s: float
    variance_s2: float
    in_time: float


class Walked(Struct, frozen=True, dict=True):
    """A plan walked through."""

    ground: Ground
    plan: Plan
    done: tuple[Done, ...]

    @cached_property
    def points(self) -> float:
        """Points on average."""
        return math.fsum(d.leg.worth * d.in_time for d in self.done)

    @property
    def usual_s(self) -> float:
        return self.done[-1].at_s if self.done else 0.0

    def time_s(self, share: float) -> float:
        """Time that so many courses stay within."""
        from statistics import NormalDist

        spread = math.sqrt(self.done[-1].variance_s2) if self.done else 0.0
        return self.usual_s + spread * NormalDist().inv_cdf(share)

    @property
    def last_lost(self) -> float:
        """The chance that the last task is not done in time."""
        return 1 - self.done[-1].in_time if self.done else 0.0

    @cached_property
    def driven_s(self) -> float:
        """Usual time that is not spent at a task."""
        return self.usual_s - math.fsum(d.leg.usual_s for d in self.done)

    @cached_property
    def spread(self) -> tuple[tuple[float, float], ...]:
        """Points with the chance of exactly so many, in their order. As many tasks as there is time for are done, each
        with its own chance.
        """
        now, whole = {0.0: 1.0}, {0.0: 0.0}
        inside = [1.0, *(d.in_time for d in self.done), 0.0]
        for k in range(len(self.done) + 1):
            ends_here = max(inside[k] - inside[k + 1], 0.0)
            for p, chance in now.items():
                whole[p] = whole.get(p, 0.0) + chance * ends_here
            if k < len(self.done):
                now = _one_more(now, self.done[k].leg)
        return tuple(sorted(whole.items()))

    def reached(self, share: float) -> float:
        """Points that so many courses reach at least."""
        above = 0.0
        for p, chance in reversed(self.spread):
            above += chance
            if above >= share - 1e-12:
                return p
        return 0.0


def _one_more(now: Mapping[float, float], leg: Leg) -> dict[float, float]:
    """Sums of points with one task more."""
    made: dict[float, float] = {}
    for p, chance in now.items():
        for sum_, share in ((p, 1 - leg.chance), (p + leg.points, leg.chance)):
            if share > 0:
                key = round(sum_, 9)
                made[key] = made.get(key, 0.0) + chance * share
    if len(made) <= FINEST:
        return made
    step = max(made) / FINEST
    coarse: dict[float, float] = {}
    for p, chance in made.items():
        key = math.floor(p / step) * step  # never more points than there are
        coarse[key] = coarse.get(key, 0.0) + chance
    return coarse


def walk(ground: Ground, plan: Plan) -> Walked:
    """Every task of a plan with when it is done."""
    done: list[Done] = []
    now = square = 0.0
    before = -1
    for trip, numbers in plan:
        if not numbers:
            continue
        steps = [ground.change(before, trip)]
        here = 0
        for n in numbers:
            leg = ground.trips[trip][n]
            steps.append(ground.drive(here, leg.place))
            now, square = now + sum(s[0] for s in steps), square + sum(s[1] for s in steps)
            begin = now
            now, square, here, steps = now + leg.usual_s, square + leg.variance_s2, leg.place, []
            in_time = chance_in_time(ground.allowed_s, now, square)
            done.append(Done(trip, leg, begin, now, square, in_time))
        back = ground.drive(here, 0)
        now, square, before = now + back[0], square + back[1], trip
    return Walked(ground, plan, tuple(done))


class CourseResult(Struct, frozen=True):
    """The course as it stands: walked where everything is known, else what is missing."""

    walked: Walked | None
    missing: tuple[str, ...] = ()


def plan_of(concept: Concept) -> Plan:
    """What the team plans: trips and tasks in their order, without those left out."""
    return tuple(
        (n, tuple(k for k, t in enumerate(trip.tasks) if not t.left_out)) for n, trip in enumerate(concept.trips)
    )


def _ground(concept: Concept, trials: Mapping[str, TrialResult]) -> tuple[Ground | None, tuple[str, ...]]:
    course, places = concept.course, [p.id for p in concept.course_places]
    lacks: list[str] = []
    if course.allowed_s is None:
        lacks.append("time for the course")
    if places:
        lacks += [] if course.start else ["where the course starts"]
        lacks += ["speed between places"] if course.drive_m_s is None else []
        lacks += ["spread of the driving"] if course.drive_spread is None else []
    fitted = [t.fitted.strip().lower() for t in concept.trips]
    if len(set(fitted)) > 1:
        lacks += ["time to change between trips"] if course.change_s is None else []
        lacks += ["spread of that change"] if course.change_spread_s is None else []
    trips = tuple(tuple(_leg(t, places, course.start, trials, lacks) for t in trip.tasks) for trip in concept.trips)
    if lacks or course.allowed_s is None:
        return None, tuple(lacks)
    first = [p for p in concept.course_places if p.id == course.start]
    order = (*first, *(p for p in concept.course_places if p.id != course.start))
    spots = [(p.x_m, p.y_m) for p in order] or [(0.0, 0.0)]
    ground = Ground(
        allowed_s=course.allowed_s, trips=trips, names=tuple(t.name for t in concept.trips),
        any_order=tuple(t.any_order for t in concept.trips), fitted=tuple(fitted),
        drive_s=tuple(tuple(math.dist(a, b) / (course.drive_m_s or 1.0) for b in spots) for a in spots),
        drive_spread=course.drive_spread or 0.0, change_s=course.change_s or 0.0,
        change_variance_s2=(course.change_spread_s or 0.0) ** 2,
    )  # fmt: skip
    return ground, ()


def _leg(
    task: CourseTask, places: Sequence[str], start: str, trials: Mapping[str, TrialResult], lacks: list[str]
) -> Leg:  # fmt: skip
    """A task with what its runs say before what is guessed; what is missing joins `lacks` unless it is left out."""
    usual, spread, timed = _time_of(task, trials)
    chance, tried = _chance_of(task, trials)
    order = [start, *(p for p in places if p != start)] if places else [""]
    wanted = ((task.points, "points"), (usual, "usual time"), (spread, "spread of its time"), (chance, "chance"))
    mine = [f"{task.name}: {word}" for value, word in wanted if value is None]
    if places and task.place not in places:
        mine.append(f"{task.name}: where it is")
    if not task.left_out:
        lacks += mine
    place = order.index(task.place) if task.place in order else 0
    words = ", ".join(filter(None, (timed, tried)))
    return Leg(task, task.points or 0.0, chance or 0.0, usual or 0.0, (spread or 0.0) ** 2, place, not mine, words)


def _time_of(task: CourseTask, trials: Mapping[str, TrialResult]) -> tuple[float | None, float | None, str]:
    """Mean and spread of the next run's time, by the runs where there are two at least; the spread counts what so few
    leave open of the mean.
    """
    r = trials.get(task.time_from)
    values = r.now.values if r is not None and r.now is not None and r.trial.unit == "s" else ()
    if len(values) < 2 or min(values) <= 0:
        return task.usual_s, task.spread_s, ""
    n, mean = len(values), math.fsum(values) / len(values)
    spread = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (n - 1) * (1 + 1 / n))
    return mean, spread, f"time by {n} runs"


def _chance_of(task: CourseTask, trials: Mapping[str, TrialResult]) -> tuple[float | None, str]:
    r = trials.get(task.chance_from)
    if r is None or r.now is None or not r.is_rate or r.value is None:
        return task.chance, ""
    return r.value, f"chance by {len(r.now.runs)} runs"


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    return concept.course, concept.course_places, concept.trips


def _work(project: Project, given: Given) -> CourseResult:
    concept = project.concept
    if not any(trip.tasks for trip in concept.trips):
        return CourseResult(None)
    ground, lacks = _ground(concept, {r.trial.id: r for r in given.of(TRIALS)})
    return CourseResult(walk(ground, plan_of(concept)) if ground is not None else None, lacks)


COURSE = Node("course", _read, _work, (TRIALS,))


def measures(assessment: Assessment) -> list[Measure]:
    """Points on average and the usual time; each holds where nine of ten courses reach it."""
    found = assessment.of(COURSE)
    w = found.walked
    if w is None:
        if not found.missing:
            return []
        return [Measure("course", "Course", None, "points", missing=found.missing, direction="at least"),
                Measure("course-time", "Course, time", None, "s", missing=found.missing)]  # fmt: skip
    brief = assessment.project.brief
    least, late = w.reached(SURE), w.time_s(SURE)
    points, time = brief.limit("course"), brief.limit("course-time")
    told = _told(w.points, least, points.value) if points is not None and points.direction == "at least" else None
    told_time = _told(-w.usual_s, -late, -time.value) if time is not None and time.direction == "at most" else None
    return [
        Measure("course", "Course", w.points, "points", direction="at least", low=least, high=w.reached(1 - SURE),
                told=told),
        Measure("course-time", "Course, time", w.usual_s, "s", high=late, told=told_time),
    ]  # fmt: skip


def _told(usual: float, sure: float, wanted: float) -> Verdict:
    """Holds where it is sure, tight where it is only usual."""
    if sure >= wanted - 1e-12:
        return Verdict.HOLDS
    return Verdict.TIGHT if usual >= wanted - 1e-12 else Verdict.BREAKS
