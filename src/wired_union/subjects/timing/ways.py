"""Ways driven by counting: how far off a machine may be, by what is always the same and by what slips."""

import math
from collections.abc import Iterator, Mapping

from msgspec import Struct

from wired_union.kernel.checks import Check, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Given, Node
from wired_union.physics.reckoning import Reckoned, dead_reckoning
from wired_union.project.model import Project, WheelLoad
from wired_union.project.way_model import Correction, Heading, Way
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.units import show

SIGMAS = 2.0
"""How many standard deviations of slips count: common practice, 19 of 20 ways are within."""
GIVES_HEADING = {"a line", "a wall"}


class Off(Struct, frozen=True):
    """How far off at a place: across and along, each by what is always the same and, twice, by what slips."""

    across_m: float
    along_m: float
    spread_across_m: float
    spread_along_m: float
    heading_deg: float

    @property
    def most_across_m(self) -> float:
        return abs(self.across_m) + SIGMAS * self.spread_across_m

    @property
    def most_along_m(self) -> float:
        return abs(self.along_m) + SIGMAS * self.spread_along_m


class WayResult(Struct, frozen=True):
    """A way with how far off it is at its worst; None where something of that is not known."""

    way: Way
    speed_m_s: float | None
    off: Off | None = None
    missing: tuple[str, ...] = ()

    @property
    def checks(self) -> tuple[Check, ...]:
        most, off = self.way.most_off_m, self.off
        if most is None or off is None:
            return ()
        return check_of("across", off.most_across_m, most, "m"), check_of("along", off.most_along_m, most, "m")

    @property
    def verdict(self) -> Verdict:
        return worst([c.verdict for c in self.checks]) or Verdict.UNKNOWN


def lacks(way: Way, speed_m_s: float | None) -> Iterator[str]:
    """What its heading and its corrections need."""
    if way.track_m is None and way.heading_by == "wheel counters":
        yield f"{way.name}: its track"
    if way.wheel_unlike is None and way.heading_by == "wheel counters":
        yield f"{way.name}: how unlike its wheels are"
    if way.drift_rad_s is None and way.heading_by == "gyro":
        yield f"{way.name}: how much its gyro drifts"
    if way.compass_deg is None and way.heading_by == "compass":
        yield f"{way.name}: how far off its compass is"
    if way.heading_by == "gyro" and speed_m_s is None:
        yield f"{way.name}: how fast it drives"
    if way.corrected_by != "nothing" and way.every_m is None:
        yield f"{way.name}: how far it is from one correction to the next"


def off_at(way: Way, speed_m_s: float | None, at_m: float) -> Off:
    """How far off after a way, right before the next correction. Needs what `lacks` names."""
    since = at_m
    if way.corrected_by != "nothing" and way.every_m is not None:
        since = at_m % way.every_m or min(at_m, way.every_m)
    turned = 0.0
    if way.corrected_by == "a beacon" and at_m > since:
        turned = _reckoned(way, speed_m_s, at_m - since, 0.0).heading_deg
    found = _reckoned(way, speed_m_s, max(since, 1e-9), turned)
    along = found if way.corrected_by in {"nothing", "a beacon"} else _reckoned(way, speed_m_s, max(at_m, 1e-9), 0.0)
    corrected = at_m > since
    left = way.leaves_m if corrected else 0.0
    across = found.across_m + (left if found.across_m >= 0 else -left)
    left_along = left if way.corrected_by == "a beacon" else 0.0
    far = found.along_m if way.corrected_by in {"nothing", "a beacon"} else way.scale_error * at_m
    return Off(across, far + (left_along if far >= 0 else -left_along), found.spread_across_m, along.spread_along_m,
               found.heading_deg)  # fmt: skip


def _reckoned(way: Way, speed_m_s: float | None, distance_m: float, turned_deg: float) -> Reckoned:
    """By what holds its heading; slips turn it only where wheels do."""
    by_wheels = way.heading_by == "wheel counters"
    offset = way.backlash_deg + turned_deg + ((way.compass_deg or 0.0) if way.heading_by == "compass" else 0.0)
    return dead_reckoning(
        distance_m, way.track_m or 1.0, (way.wheel_unlike or 0.0) if by_wheels else 0.0, way.scale_error,
        (way.drift_rad_s or 0.0) if way.heading_by == "gyro" else 0.0, speed_m_s or 1.0, way.slip_m,
        way.turn_rad if by_wheels else 0.0, math.radians(offset),
    )  # fmt: skip


def worst_off(way: Way, speed_m_s: float | None) -> Off:
    """The furthest off anywhere on the way, across and along: at its end, and right before each correction."""
    places = [way.distance_m]
    if way.corrected_by != "nothing" and way.every_m is not None and way.every_m < way.distance_m:
        last = int(way.distance_m / way.every_m)
        places += [way.every_m, last * way.every_m]
    found = [off_at(way, speed_m_s, p) for p in places]
    across = max(found, key=lambda o: o.most_across_m)
    along = max(found, key=lambda o: o.most_along_m)
    return Off(across.across_m, along.along_m, across.spread_across_m, along.spread_along_m, across.heading_deg)


def assess_way(way: Way, speeds: Mapping[str, float]) -> WayResult:
    """One way."""
    speed = way.speed_m_s if way.speed_m_s is not None else speeds.get(way.load)
    missing = tuple(lacks(way, speed))
    return WayResult(way, speed, None if missing else worst_off(way, speed), missing)


def others_of(r: WayResult) -> Iterator[tuple[str, Way, Off]]:
    """What each other heading and each other correction would leave, of which figures are known."""
    headings: tuple[Heading, ...] = ("wheel counters", "gyro", "compass")
    corrections: tuple[Correction, ...] = ("a line", "a wall", "a beacon")
    tries = [(f"heading by {h}", r.way.but(heading_by=h)) for h in headings if h != r.way.heading_by]
    tries += [(f"corrected by {c}", r.way.but(corrected_by=c)) for c in corrections if c != r.way.corrected_by]
    for words, way in tries:
        if not any(lacks(way, r.speed_m_s)):
            yield words, way, worst_off(way, r.speed_m_s)


def way_words(r: WayResult) -> str:
    """ "180 mm across and 100 mm along after 10 m; its heading is off by 2.1°" """
    if r.off is None:
        return f"not known yet: {'; '.join(r.missing)}"
    return (f"up to {show(r.off.most_across_m, 'm')} across and {show(r.off.most_along_m, 'm')} along on"
            f" {show(r.way.distance_m, 'm')}; its heading is off by {abs(r.off.heading_deg):.2g}°")  # fmt: skip


def _speeds(project: Project, given: Given) -> Mapping[str, float]:
    if not any(w.load and w.speed_m_s is None for w in project.concept.ways):
        return NO_SPEEDS
    results = given.of(MOTION).loads
    return {r.load.id: r.speed_m_s for r in results if isinstance(r.load, WheelLoad) and r.speed_m_s}


NO_SPEEDS: Mapping[str, float] = {}
SPEEDS = Node("speeds of wheels", lambda project: (project.concept.ways,), _speeds, (MOTION,))
WAYS = Node("ways", lambda project: (project.concept.ways,),
            lambda project, given: _work(project, given), (SPEEDS,))  # fmt: skip


def _work(project: Project, given: Given) -> tuple[WayResult, ...]:
    speeds = given.of(SPEEDS)
    return tuple(assess_way(w, speeds) for w in project.concept.ways)
