"""Throws: where they land and how high they come, how often in the band and over the wall, which angle, speed or charge
would land in its middle.
"""

import math
from collections.abc import Callable, Iterator
from functools import cached_property
from typing import Any

from msgspec import Struct

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.flight import Flights, drag_per_m, flights
from wired_union.project.model import Project
from wired_union.project.throw_model import Throw
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.shown import TrialResult

EACH_WAY = 10
"""Throws either side of the usual one, in speed and in angle, that stand for its spread: equally likely all."""
CLOSER, PLACES, LEAST_CHARGES, FASTER = 3, 24, 4, 10.0


class Charge(Struct, frozen=True):
    """The charge that lands in the middle of the band, by the runs of a trial; how far off that may be."""

    charge: float
    error_m: float
    form: str


class Thrown(Struct, frozen=True, dict=True):
    """One throw worked out."""

    throw: Throw
    missing: tuple[str, ...] = ()

    @property
    def drag(self) -> float:
        t = self.throw
        if not t.drag_coefficient or t.mass_kg is None or t.diameter_m is None:
            return 0.0
        return drag_per_m(t.mass_kg, t.diameter_m, t.drag_coefficient)

    def fly(self, speed_m_s: Any, angle_deg: Any) -> Flights:
        """Throws of this kind at other speeds and angles. Raises Impossible where the air all but stops them."""
        import numpy as np

        t = self.throw
        return flights(speed_m_s, np.radians(angle_deg), t.height_m, self.drag, t.wall_m)

    @cached_property
    def usual(self) -> Flights:
        """The throw without spread."""
        return self.fly([self.throw.speed_m_s or 0.0], [self.throw.angle_deg or 0.0])

    @cached_property
    def spread(self) -> Flights:
        """Equally likely throws, by the middles of equal shares of the normal spread of speed and of angle."""
        import numpy as np

        t = self.throw
        off = np.array(_middles(2 * EACH_WAY + 1))
        speed = np.clip((t.speed_m_s or 0.0) + off * (t.speed_spread_m_s or 0.0), 0.0, None)
        angle = np.clip((t.angle_deg or 0.0) + off * (t.angle_spread_deg or 0.0), -90.0, 90.0)
        v, a = (m.ravel() for m in np.meshgrid(speed, angle))
        return self.fly(v, a)

    @property
    def range_m(self) -> float:
        return float(self.usual.range_m[0])

    @cached_property
    def ends(self) -> tuple[float, float]:
        """Between which distances eight of ten land."""
        import numpy as np

        low, high = np.quantile(self.spread.range_m, (0.1, 0.9))
        return float(low), float(high)

    @property
    def deviation_m(self) -> float:
        """Standard deviation of where it lands."""
        return float(self.spread.range_m.std())

    @cached_property
    def inside(self) -> float | None:
        """The share that clears the wall and lands in the band; None where neither is wanted."""
        import numpy as np

        t = self.throw
        if t.band_low_m is None and t.band_high_m is None and t.wall_m is None:
            return None
        r = self.spread.range_m
        good = np.ones(len(r), bool)
        good &= r >= t.band_low_m if t.band_low_m is not None else True
        good &= r <= t.band_high_m if t.band_high_m is not None else True
        if t.wall_m is not None:  # what does not reach the wall does not clear it
            good &= np.nan_to_num(self.spread.at_wall_m, nan=-1.0) > t.wall_height_m
        return float(good.mean())

    @property
    def clearance_m(self) -> float | None:
        """By how much the usual throw clears the wall; None without one, or where it does not come so far."""
        over = float(self.usual.at_wall_m[0])
        return over - self.throw.wall_height_m if self.throw.wall_m is not None and math.isfinite(over) else None

    @property
    def middle_m(self) -> float | None:
        """Of the band that is wanted."""
        low, high = self.throw.band_low_m, self.throw.band_high_m
        return (low + high) / 2 if low is not None and high is not None else None

    def speed_for(self, wanted_m: float) -> float | None:
        """The speed that lands there at this angle; None below ten times what it is now."""
        import numpy as np

        angle = self.throw.angle_deg or 0.0
        most = FASTER * max(self.throw.speed_m_s or 0.0, 1.0)
        tried = np.concatenate([[0.0], np.geomspace(most / 1e4, most, 60)])
        return next(iter(_crossings(lambda v: self._ranges(v, np.full(len(v), angle)), tried, wanted_m)), None)

    def angles_for(self, wanted_m: float) -> tuple[float, ...]:
        """Angles that land there at this speed, the flat one and the steep one."""
        import numpy as np

        speed = self.throw.speed_m_s or 0.0
        tried = np.arange(1.0, 90.0)
        return tuple(_crossings(lambda a: self._ranges(np.full(len(a), speed), a), tried, wanted_m))

    def _ranges(self, speeds: Any, angles: Any) -> Any:
        """Where throws land; NaN where the air all but stops them."""
        import numpy as np

        try:
            return self.fly(speeds, angles).range_m
        except ValueError:
            if len(speeds) == 1:
                return np.full(1, np.nan)
        half = len(speeds) // 2  # some of them do fly
        return np.concatenate([self._ranges(speeds[:half], angles[:half]), self._ranges(speeds[half:], angles[half:])])


def _crossings(far: Callable[[Any], Any], tried: Any, wanted: float) -> Iterator[float]:
    """Where a range goes through what is wanted, between neighbours that were tried, each looked at closer."""
    import numpy as np

    found = far(tried)
    for n in range(len(tried) - 1):
        low, high, ends = tried[n], tried[n + 1], found[n : n + 2]
        if not (np.isfinite(ends).all() and min(ends) <= wanted <= max(ends) and ends[0] != ends[1]):
            continue
        if n and found[n] == wanted:
            continue  # the stretch before ended just there
        for _ in range(CLOSER):
            places = np.linspace(low, high, PLACES)
            at = far(places)
            over = (at >= wanted) == (ends[1] >= ends[0])
            k = max(int(over.argmax()), 1)
            low, high, ends = places[k - 1], places[k], at[k - 1 : k + 1]
        step = ends[1] - ends[0]
        yield float(low + (high - low) * ((wanted - ends[0]) / step if step else 0.5))


def _middles(count: int) -> list[float]:
    """Middles of equal shares of the standard normal distribution, widened to its own standard deviation."""
    from statistics import NormalDist

    normal = NormalDist()
    raw = [normal.inv_cdf((n + 0.5) / count) for n in range(count)]
    scale = math.sqrt(math.fsum(x * x for x in raw) / count)
    return [x / scale for x in raw]


def thrown(throw: Throw) -> Thrown:
    """A throw with what is missing of it."""
    wanted = ((throw.speed_m_s, "speed"), (throw.speed_spread_m_s, "spread of its speed"), (throw.angle_deg, "angle"),
              (throw.angle_spread_deg, "spread of its angle"))  # fmt: skip
    lacks = [f"{throw.name}: {word}" for value, word in wanted if value is None]
    if throw.drag_coefficient:
        lacks += [f"{throw.name}: its mass"] if throw.mass_kg is None else []
        lacks += [f"{throw.name}: its diameter"] if throw.diameter_m is None else []
    made = Thrown(throw, tuple(lacks))
    if not lacks:
        try:
            _ = made.usual, made.spread
        except ValueError:
            made = Thrown(throw, (f"{throw.name}: a throw that the air does not all but stop",))
    return made


def _charge(made: Thrown, r: TrialResult | None) -> tuple[Charge | None, str]:
    """The charge for the middle of the band, by a curve through the runs, turned round; or why there is none."""
    from wired_union.physics.calibration import FORMS, band_of, fit_calibration, is_monotonic, place_of

    if r is None or r.now is None or made.middle_m is None:
        return None, ""
    pairs = [(x.setting, x.value) for x in r.now.runs if x.setting is not None and x.value is not None]
    if len(pairs) < LEAST_CHARGES:
        return None, f"{LEAST_CHARGES} runs with their charge at least; {len(pairs)} are there"
    x, y = [float(p[0]) for p in pairs], [float(p[1]) for p in pairs]
    tried = {}
    for form in set(FORMS) - {"reciprocal"}:  # which may blow up between two charges
        try:
            fit = fit_calibration(x, y, form)
        except ValueError:
            continue
        if is_monotonic(form, fit.coefficients, min(x), max(x)):
            tried[form] = fit
    if not tried:
        return None, "no curve goes one way through the runs"
    form = min(sorted(tried), key=lambda f: tried[f].aicc)
    at = place_of(form, tried[form].coefficients, made.middle_m, min(x), max(x))
    if at is None:
        return None, "the middle of the band is beyond the charges that were tried"
    band = band_of(form, tried[form], x, r.trial.confidence)
    return Charge(at, float(band(at)), form), ""


def _work(project: Project, _: Given) -> tuple[Thrown, ...]:
    return tuple(map(thrown, project.concept.throws))


THROWS = Node("throws", lambda p: (p.concept.throws,), _work)
"""Apart from the runs, so that a run more does not throw everything again."""


def _charges(project: Project, given: Given) -> dict[str, tuple[Charge | None, str]]:
    trials = {r.trial.id: r for r in given.of(TRIALS)}
    return {t.throw.id: _charge(t, trials.get(t.throw.trial)) for t in given.of(THROWS)}


CHARGES = Node("charges", lambda p: (p.concept.throws,), _charges, (THROWS, TRIALS))
"""Of each throw the charge that its runs say, or why there is none."""


def measures(assessment: Assessment) -> list[Measure]:
    """Of each throw that must land somewhere, or clear a wall, the share that does."""
    found = []
    for t in assessment.of(THROWS):
        inside = t.inside if not t.missing else None
        lacks = t.missing if t.missing or inside is not None else (f"{t.throw.name}: where it must land",)
        found.append(Measure("throw", f"{t.throw.name}, lands as wanted", inside, "share", direction="at least",
                             missing=lacks, of=t.throw.id))  # fmt: skip
    return found
