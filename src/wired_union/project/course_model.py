"""The course: trips with tasks that give points, where those are, what is changed between, and the time allowed."""

from typing import Annotated

from wired_union.project.value import Amount, Duration, Finite, Name, Positive, Ref, Share, Value


class CoursePlace(Value, frozen=True, kw_only=True):
    """A place on the course."""

    id: Name
    name: Name
    x_m: Finite
    """from its left edge"""
    y_m: Finite
    """from its near edge"""


class CourseTask(Value, frozen=True, kw_only=True):
    """Something that gives points."""

    id: Name
    name: Name
    points: Amount | None = None
    """where it succeeds"""
    usual_s: Duration | None = None
    """time that it usually takes there, whether it succeeds or not"""
    spread_s: Amount | None = None
    """standard deviation of that time"""
    chance: Share | None = None
    """that it succeeds"""
    place: Annotated[str, Ref("course_places", "clear")] = ""
    """where it is"""
    time_from: str = ""
    """the trial whose runs say how long it takes, in the place of the guess"""
    chance_from: str = ""
    """the trial whose runs say how often it succeeds, in the place of the guess"""
    left_out: bool = False
    """whether it is not even tried"""


class Trip(Value, frozen=True, kw_only=True):
    """Tasks that are done one after the other before the machine is back at its start."""

    id: Name
    name: Name
    fitted: str = ""
    """what the machine carries on it; nothing is changed between trips that carry the same"""
    any_order: bool = False
    """whether its tasks may come in another order than this one"""
    tasks: tuple[CourseTask, ...] = ()


class Course(Value, frozen=True, kw_only=True):
    """What all trips have in common."""

    allowed_s: Duration | None = None
    """time for all of it"""
    start: Annotated[str, Ref("course_places", "clear")] = ""
    """where every trip begins and ends"""
    drive_m_s: Positive | None = None
    """speed between places, turns and all"""
    drive_spread: Share | None = 0.1
    """standard deviation of a drive, as a share of its time"""
    change_s: Amount | None = None
    """time to fit the machine with something else between trips"""
    change_spread_s: Amount | None = None
    """standard deviation of that"""
