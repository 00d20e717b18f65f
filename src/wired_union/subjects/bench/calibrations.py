"""Calibrations: the curve, what it was chosen from, how far the quantity may be off, and where that is good enough."""

import math
from collections.abc import Mapping
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.calibration import (
    FORMS,
    Band,
    CalibrationFit,
    band_of,
    fit_calibration,
    is_monotonic,
    odd_points,
    slope_of,
    value_of,
)
from wired_union.project.bench_model import Calibration, Pair
from wired_union.project.model import Project

LEAST_PAIRS, PLACES, MOST_LEFT_OUT = 4, 120, 0.2
"""Least points of a curve; places that its error is looked at; the share of points that may be left out as far off."""
ODD_SIGMA = 4.0
"""A point that far off a curve through the others is said to be odd: common practice."""


class Calibrated(Struct, frozen=True, dict=True):
    """One calibration worked out. Its range is that of its points; nothing is said beyond."""

    calibration: Calibration
    form: str = ""
    fit: CalibrationFit | None = None
    tried: Mapping[str, CalibrationFit] = {}
    missing: tuple[str, ...] = ()
    counted: tuple[Pair, ...] = ()
    """Points that the curve goes through: all that are not struck, less those far off where these are left out."""

    @cached_property
    def pairs(self) -> tuple[Pair, ...]:
        return tuple(p for p in self.calibration.pairs if not p.struck)

    @cached_property
    def ends(self) -> tuple[float, float]:
        known = [p.known for p in self.counted or self.pairs]
        return min(known, default=0.0), max(known, default=0.0)

    @cached_property
    def band(self) -> Band | None:
        """Half the prediction band of a reading, over the quantity."""
        if self.fit is None:
            return None
        return band_of(self.form, self.fit, [p.known for p in self.counted], self.calibration.confidence)

    @cached_property
    def has_inverse(self) -> bool:
        return self.fit is not None and is_monotonic(self.form, self.fit.coefficients, *self.ends)

    def error_at(self, known: float) -> float:
        """How far the quantity may be off there: the band over the slope; infinite where the curve is level."""
        if self.fit is None or self.band is None:
            return math.inf
        slope = abs(slope_of(self.form, self.fit.coefficients, known))
        return self.band(known) / slope if slope > 0 else math.inf

    @cached_property
    def errors(self) -> tuple[tuple[float, float], ...]:
        """The quantity, and how far it may be off, over the whole range."""
        low, high = self.ends
        places = (low + (high - low) * n / PLACES for n in range(PLACES + 1))
        return tuple((x, self.error_at(x)) for x in places)

    @cached_property
    def worst(self) -> float | None:
        """The largest error over the range; None while nothing is fitted or no reading has one quantity."""
        return max(e for _, e in self.errors) if self.fit is not None and self.has_inverse else None

    @cached_property
    def good(self) -> tuple[float, float] | None:
        """The longest stretch of the range that is good enough; None where none is, or nothing is wanted."""
        wanted = self.calibration.wanted
        if wanted is None or self.worst is None:
            return None
        best: tuple[float, float] | None = None
        begin: float | None = None
        for x, error in (*self.errors, (math.nan, math.inf)):
            if error <= wanted:
                begin = x if begin is None else begin
                if best is None or x - begin > best[1] - best[0]:
                    best = (begin, x)
            else:
                begin = None
        return best

    @cached_property
    def repeat(self) -> float | None:
        """Spread of readings of one and the same quantity, pooled; None where none was read twice."""
        groups: dict[float, list[float]] = {}
        for p in self.pairs:
            groups.setdefault(p.known, []).append(p.reading)
        free = sum(len(g) - 1 for g in groups.values())
        if free < 1:
            return None
        left = math.fsum((r - math.fsum(g) / len(g)) ** 2 for g in groups.values() for r in g)
        return math.sqrt(left / free)

    @cached_property
    def sessions(self) -> dict[str, float]:
        """How far each sitting lies from the curve on average: hysteresis, or drift."""
        if self.fit is None:
            return {}
        found: dict[str, list[float]] = {}
        for p in self.pairs:
            found.setdefault(p.session, []).append(p.reading - value_of(self.form, self.fit.coefficients, p.known))
        return {s: math.fsum(v) / len(v) for s, v in found.items()}

    @cached_property
    def _far(self) -> list[Pair]:
        """Points of the curve that lie far off a curve of its form through the others."""
        if self.fit is None:
            return []
        found = odd_points(self.form, [p.known for p in self.counted], [p.reading for p in self.counted], ODD_SIGMA)
        return [self.counted[n] for n in found]

    @property
    def farthest(self) -> Pair | None:
        """The one of them that lies farthest off; None where none does."""
        if self.fit is None:
            return None
        form, coefficients = self.form, self.fit.coefficients
        return max(self._far, key=lambda p: abs(p.reading - value_of(form, coefficients, p.known)), default=None)

    @cached_property
    def odd(self) -> tuple[int, ...]:
        """Numbers of points, from 1, that lie far off a curve of this form through the others."""
        if self.fit is None:
            return ()
        kept = {id(p) for p in self.counted}
        far = {id(p) for p in self._far}
        return tuple(n for n, p in enumerate(self.calibration.pairs, 1)
                     if not p.struck and (id(p) in far or id(p) not in kept))  # fmt: skip

    @property
    def verdict(self) -> Verdict | None:
        """Against the error that is wanted; None where nothing is."""
        if self.calibration.wanted is None:
            return None
        if self.worst is None:
            return Verdict.UNKNOWN
        return Verdict.HOLDS if self.worst <= self.calibration.wanted else Verdict.BREAKS


def calibrated(calibration: Calibration) -> Calibrated:
    """The curve of the form that is wanted, or of the form with the least small-sample AIC."""
    pairs = [p for p in calibration.pairs if not p.struck]
    if len(pairs) < LEAST_PAIRS:
        lacks = f"{calibration.name}: {LEAST_PAIRS} points at least; {len(pairs)} are there"
        return Calibrated(calibration, missing=(lacks,))
    made = _curve_of(calibration, pairs)
    most = int(len(pairs) * MOST_LEFT_OUT) if calibration.far_off == "left out" else 0
    while made.fit is not None and len(pairs) - len(made.counted) < most and (far := made.farthest) is not None:
        made = _curve_of(calibration, [p for p in made.counted if p is not far])
    return made


def _curve_of(calibration: Calibration, pairs: list[Pair]) -> Calibrated:
    """The curve through some of the points."""
    x, y = [p.known for p in pairs], [p.reading for p in pairs]
    tried: dict[str, CalibrationFit] = {}
    for form in FORMS if calibration.form == "best" else (calibration.form,):
        try:
            tried[form] = fit_calibration(x, y, form)
        except ValueError:
            continue
    whole = {f: t for f, t in tried.items() if _is_whole(f, t, x)}
    if not whole:
        return Calibrated(calibration, missing=(f"{calibration.name}: a curve that goes through its points",))
    best = min(whole, key=lambda f: whole[f].aicc)
    made = Calibrated(calibration, best, whole[best], tried, counted=tuple(pairs))
    if made.has_inverse:
        return made
    lacks = f"{calibration.name}: one quantity for each reading; the curve turns back"
    return Calibrated(calibration, best, whole[best], tried, (lacks,), tuple(pairs))


def _is_whole(form: str, fit: CalibrationFit, x: list[float]) -> bool:
    """Whether a curve has a value all over its range: 1/(x + c) may blow up between two points."""
    low, high = min(x), max(x)
    values = (value_of(form, fit.coefficients, low + (high - low) * n / PLACES) for n in range(PLACES + 1))
    pole = -fit.coefficients[2] if form == "reciprocal" else math.nan
    return all(map(math.isfinite, values)) and not low <= pole <= high


def _work(project: Project, _: Given) -> tuple[Calibrated, ...]:
    return tuple(map(calibrated, project.concept.calibrations))


CALIBRATIONS = Node("calibrations", lambda p: (p.concept.calibrations,), _work)


def measures(assessment: Assessment) -> list[Measure]:
    """Of each calibration the most that its quantity may be off."""
    return [
        Measure("error", f"{c.calibration.name}, error", c.worst, c.calibration.unit, missing=c.missing,
                of=c.calibration.id) for c in assessment.of(CALIBRATIONS)
    ]  # fmt: skip
