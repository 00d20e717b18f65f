"""The plan: who there is, when nobody works, what is to be done, what waits for what, and how far it has got."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Finite, Name, Ref, Value

Weekday = Literal["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"]
WEEKDAYS: tuple[Weekday, ...] = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
Days = Annotated[float, Meta(ge=0, le=3650)]
Hours = Annotated[float, Meta(ge=0, le=100_000)]
TaskKind = Literal["work", "wait"]
CameFrom = Literal["", "delivery", "check", "drawing", "making", "finishing", "cables", "program", "bench", "trial",
                   "question", "assembly"]  # fmt: skip


class Closed(Value, frozen=True, kw_only=True):
    """Days from the first to the last on which nothing is done, and why: exams, a closed workshop, away."""

    first: Name
    last: str = ""
    """the same day while empty"""
    why: str = ""


class Skill(Value, frozen=True, kw_only=True):
    name: Name


class Person(Value, frozen=True, kw_only=True):
    """Somebody of the team, and how much of their time the project gets."""

    id: Name
    name: Name
    hours_a_week: Annotated[float, Meta(ge=0, le=168)] | None = None
    """for the project, spread evenly over the days that are worked"""
    skills: tuple[Skill, ...] = ()
    """what this person can do: workshop, code, electronics"""
    away: tuple[Closed, ...] = ()
    """days on which this person does nothing"""


class Machine(Value, frozen=True, kw_only=True):
    """Something that work needs and that is not there without end: a printer, a lathe, a room."""

    id: Name
    name: Name
    count: Annotated[int, Meta(ge=1, le=50)] = 1
    """how many there are"""
    hours_a_day: Annotated[float, Meta(ge=0, le=24)] = 8.0
    """for which it can be used"""
    weekends: bool = False
    """whether it can be used on days that are not worked"""
    closed: tuple[Closed, ...] = ()
    """days on which it cannot be used"""


class Calendar(Value, frozen=True, kw_only=True):
    """When work is done at all."""

    worked: tuple[Weekday, ...] = WEEKDAYS[:5]
    """days of the week on which the team works"""
    closed: tuple[Closed, ...] = ()
    """days on which nobody works"""


class Plan(Value, frozen=True, kw_only=True):
    """What all concepts' plans have in common."""

    date: str = ""
    """the day by which all must be done, as 2026-12-19"""
    date_name: str = ""
    """what is on that day: the tide trial"""
    calendar: Calendar = Calendar()
    people: tuple[Person, ...] = ()
    machines: tuple[Machine, ...] = ()
    own_pace: bool = False
    """whether hours are counted by the team's own pace: what finished tasks took against what was said"""


class Hand(Value, frozen=True, kw_only=True):
    """One of those who do a task."""

    person: Annotated[Name, Ref("people")]


class After(Value, frozen=True, kw_only=True):
    """A task that must be done before."""

    task: Annotated[Name, Ref("plan_tasks")]
    lag_days: Days = 0.0
    """days between, such as for glue to set"""


class OtherWay(Value, frozen=True, kw_only=True):
    """Another way to get the same: bought locally, borrowed, made by somebody else."""

    name: Name
    least_days: Days
    likely_days: Days
    most_days: Days
    more: Finite = 0.0
    """what it costs more, in the project's currency"""


class PlanTask(Value, frozen=True, kw_only=True):
    """Something that is to be done, or waited for. Work is counted in hours of people, a wait in days."""

    id: Name
    name: Name
    kind: TaskKind = "work"
    least_h: Hours | None = None
    """hours of work where all goes well"""
    likely_h: Hours | None = None
    """hours of work as it usually is"""
    most_h: Hours | None = None
    """hours of work where much goes wrong"""
    least_days: Days | None = None
    """days that it takes where all goes well"""
    likely_days: Days | None = None
    """days that it usually takes"""
    most_days: Days | None = None
    """days that it takes where much goes wrong"""
    hands: tuple[Hand, ...] = ()
    """who does it, all at once"""
    skill: str = ""
    """what whoever does it must be able to do; anybody while empty"""
    machine: Annotated[str, Ref("machines", "clear")] = ""
    """what it needs meanwhile"""
    after: tuple[After, ...] = ()
    """what must be done before"""
    not_before: str = ""
    """the day before which it cannot begin, as 2026-12-01"""
    due: str = ""
    """the day by which it must be done, as 2026-12-10"""
    begun_on: str = ""
    """when it was begun, or ordered"""
    done_on: str = ""
    """when it was done, or came"""
    spent_h: Hours | None = None
    """hours that went into it so far"""
    left_h: Hours | None = None
    """hours that are left, as it looks now"""
    other_ways: tuple[OtherWay, ...] = ()
    """other ways to get the same"""
    comes_from: CameFrom = ""
    """what the program made it from"""
    item: Annotated[str, Ref("items")] = ""
    """the part that comes, or is made"""
    subsystem: Annotated[str, Ref("subsystems")] = ""
    """the subsystem whose parts are looked at"""
    processor: Annotated[str, Ref("processors")] = ""
    """the processor that is programmed"""
    of: str = ""
    """which trial, question or group of parts"""
    feature: Annotated[str, Ref("features", "clear")] = ""
    """the feature without which it falls away"""


class FeaturePart(Value, frozen=True, kw_only=True):
    """A part that is there for a feature alone."""

    item: Annotated[Name, Ref("items")]


class Feature(Value, frozen=True, kw_only=True):
    """Something that could be left out when time runs short: its parts and tasks go with it."""

    id: Name
    name: Name
    points: Amount | None = None
    """what it is worth, in points"""
    parts: tuple[FeaturePart, ...] = ()


class Milestone(Value, frozen=True, kw_only=True):
    """A day by which something must be shown."""

    id: Name
    name: Name
    on: str = ""
    """the day, as 2026-12-10"""
    shows: str = ""
    """what must be shown"""
    after: tuple[After, ...] = ()
    """tasks that must be done for it"""
