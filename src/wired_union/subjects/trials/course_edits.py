"""Edits of the course: trips, tasks and places, their order, what is left out, another plan."""

from functools import partial

from wired_union.project.change import Change, by_id, checked_name, figures_of, new_id, replaced, with_concept
from wired_union.project.course_model import CoursePlace, CourseTask, Trip
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, said_value, set_listed
from wired_union.project.model import Project
from wired_union.project.value import checked, made
from wired_union.subjects.trials.course import Plan
from wired_union.units import plain_words

add_trip = partial(add_listed, room="trips", of_kind=Trip, word="trip")
set_trip = partial(set_listed, room="trips", word="trip")
remove_trip = partial(remove_listed, room="trips", word="trip")
add_place = partial(add_listed, room="course_places", of_kind=CoursePlace, word="place of the course")
set_place = partial(set_listed, room="course_places", word="place of the course")
remove_place = partial(remove_listed, room="course_places", word="place of the course")


def set_course(project: Project, **figures: object) -> Change:
    """Other figures that all trips have in common."""
    with figures_of("The course"):
        new = checked(project.concept.course, **figures)
    if new.start:
        by_id(project.concept.course_places, new.start, "place of the course")
    said = ", ".join(f"{plain_words(f)} {said_value(project, new, f)}" for f in figures)
    return Change(project, with_concept(project, course=new), f"The course: {said}")


def move_trip(project: Project, trip_id: str, to: int) -> Change:
    """A trip at another place in the order, from 1."""
    trips = list(project.concept.trips)
    trip = by_id(trips, trip_id, "trip")
    trips.remove(trip)
    trips.insert(min(max(to - 1, 0), len(trips)), trip)
    return Change(project, with_concept(project, trips=tuple(trips)), f"{trip.name}: driven as number {to}")


def add_task(project: Project, trip_id: str, name: str) -> Change:
    """One task more at the end of a trip; its figures are not known yet."""
    name, trip = checked_name(name, "task"), _trip(project, trip_id)
    taken = (t.id for each in project.concept.trips for t in each.tasks)
    task = made(CourseTask, id=new_id(name, taken), name=name)
    return _with(project, trip, trip.but(tasks=(*trip.tasks, task)), f"{name} is one task more")


def set_task(project: Project, task_id: str, **figures: object) -> Change:
    """Other figures of a task. Raises ProjectError for what cannot be."""
    trip, old = _found(project, task_id)
    with figures_of(old.name):
        new = checked(old, **figures)
    if new.place:
        by_id(project.concept.course_places, new.place, "place of the course")
    said = ", ".join(f"{plain_words(f)} {said_value(project, new, f)}" for f in figures)
    return _with(project, trip, trip.but(tasks=replaced(trip.tasks, old, new)), f"{new.name} {said}")


def remove_task(project: Project, task_id: str) -> Change:
    """One task less."""
    trip, old = _found(project, task_id)
    after = trip.but(tasks=tuple(t for t in trip.tasks if t is not old))
    return _with(project, trip, after, f"{old.name} is no task any more")


def move_task(project: Project, task_id: str, trip_id: str, to: int) -> Change:
    """A task at another place in the order of a trip, from 1, its own or another."""
    trip, task = _found(project, task_id)
    target = _trip(project, trip_id)
    left = trip.but(tasks=tuple(t for t in trip.tasks if t is not task))
    base = left if target is trip else target
    at = min(max(to - 1, 0), len(base.tasks))
    new = base.but(tasks=(*base.tasks[:at], task, *base.tasks[at:]))
    trips = tuple(new if t is target else left if t is trip else t for t in project.concept.trips)
    return Change(project, with_concept(project, trips=trips), f"{task.name}: number {at + 1} of {target.name}")


def take_plan(project: Project, plan: Plan, said: str) -> Change:
    """Trips and tasks in another order, what is not in it left out. Raises ProjectError for one of other trips."""
    trips = project.concept.trips
    numbers = [n for n, _ in plan]
    if len(set(numbers)) != len(numbers) or any(not 0 <= n < len(trips) for n in numbers):
        raise ProjectError("This plan is of another course. Look for the best order again.")
    order = [*plan, *((n, ()) for n in range(len(trips)) if n not in numbers)]
    after = tuple(_planned(trips[n], tasks) for n, tasks in order)
    return Change(project, with_concept(project, trips=after), f"The course: {said}")


def _planned(trip: Trip, numbers: tuple[int, ...]) -> Trip:
    """A trip that does some of its tasks in their order; where that is its own, each stays where it is."""
    if any(not 0 <= n < len(trip.tasks) for n in numbers):
        raise ProjectError("This plan is of another course. Look for the best order again.")
    order = list(range(len(trip.tasks)))
    if list(numbers) != sorted(numbers):
        order = [*numbers, *(n for n in order if n not in numbers)]
    return trip.but(tasks=tuple(trip.tasks[n].but(left_out=n not in numbers) for n in order))


def _trip(project: Project, trip_id: str) -> Trip:
    return by_id(project.concept.trips, trip_id, "trip")


def _found(project: Project, task_id: str) -> tuple[Trip, CourseTask]:
    for trip in project.concept.trips:
        for task in trip.tasks:
            if task.id == task_id:
                return trip, task
    raise ProjectError(f"There is no task “{task_id}”. Choose one that there is.")


def _with(project: Project, old: Trip, new: Trip, said: str) -> Change:
    return Change(
        project, with_concept(project, trips=replaced(project.concept.trips, old, new)), f"{new.name}: {said}"
    )
