"""Error budgets: what each contribution does to a result, all of them together, and which to better first."""

import math
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.physics.beta import t_quantile
from wired_union.physics.calibration import free_of
from wired_union.physics.uncertainty import CoverageFactor, coverage_factor
from wired_union.project.budget_model import Doubt, ErrorBudget, SpreadAs
from wired_union.project.model import Project
from wired_union.subjects.bench.calibrations import CALIBRATIONS, Calibrated
from wired_union.subjects.bench.least import least_count

DIVISOR: dict[SpreadAs, float] = {
    "standard deviation": 1.0, "95 of 100": 1.959963984540054, "anywhere within": math.sqrt(3),
    "mostly the middle": math.sqrt(6), "mostly the ends": math.sqrt(2),
}  # fmt: skip
"""By what a spread is divided to give a standard deviation: JCGM 100 (GUM), 4.3; the ends of a wave are √2 from it."""
NO_ENDS = ("standard deviation", "95 of 100")
FAR = 3.0
"""Standard deviations that count as the worst of what has no hard ends: common practice."""
FEWEST, MOST_AVERAGED = 1e-6, 10_000


class Part(Struct, frozen=True):
    """One contribution as it stands: its standard uncertainty in the unit of the result, with its sign, its worst, how
    many degrees of freedom its spread has. None where something is missing, which `lacks` says.
    """

    doubt: Doubt
    standard: float | None
    worst: float | None
    degrees: float = math.inf
    has_ends: bool = True
    lacks: str = ""


class Budgeted(Struct, frozen=True, dict=True):
    """An error budget worked out."""

    budget: ErrorBudget
    parts: tuple[Part, ...]

    @cached_property
    def missing(self) -> tuple[str, ...]:
        if not self.parts:
            return (f"{self.budget.name}: what makes it wrong",)
        return tuple(p.lacks for p in self.parts if p.lacks)

    @cached_property
    def groups(self) -> tuple[tuple[float, tuple[int, ...]], ...]:
        """Standard uncertainties of what is independent, with the numbers of the parts in each: what moves together
        adds with its sign (JCGM 100, 5.2.2, note 1), before the squares are taken.
        """
        found: dict[object, list[int]] = {}
        for n, part in enumerate(self.parts):
            found.setdefault(part.doubt.together.strip().lower() or n, []).append(n)
        return tuple((math.fsum(self.parts[n].standard or 0.0 for n in some), tuple(some)) for some in found.values())

    @cached_property
    def combined(self) -> float | None:
        """Standard uncertainty of the result."""
        return math.hypot(*(u for u, _ in self.groups)) if not self.missing else None

    @cached_property
    def coverage(self) -> CoverageFactor | None:
        if self.missing:
            return None
        sizes = [abs(u) for u, _ in self.groups]
        free = [min(self.parts[n].degrees for n in some) for _, some in self.groups]
        return coverage_factor(sizes, free, self.budget.confidence)

    @cached_property
    def worst(self) -> float | None:
        """All at their ends the same way; what has none counts with three standard deviations."""
        return math.fsum(p.worst or 0.0 for p in self.parts) if not self.missing else None

    @cached_property
    def error(self) -> float | None:
        """How far the result may be off, as sure as is asked; never more than the ends of all allow."""
        if self.combined is None or self.coverage is None or self.worst is None:
            return None
        wide = self.combined * self.coverage.factor
        return min(wide, self.worst) if all(p.has_ends for p in self.parts) else wide

    @cached_property
    def shares(self) -> tuple[float, ...]:
        """The part of the variance that each contribution has; all of them are 1 together."""
        whole = math.fsum(u * u for u, _ in self.groups)
        of = {n: u for u, some in self.groups for n in some}
        return tuple((p.standard or 0.0) * of[n] / whole if whole > 0 else 0.0 for n, p in enumerate(self.parts))

    @property
    def largest(self) -> int | None:
        """Which one to better first; None while something is missing, or nothing is off."""
        if self.missing or not any(self.shares):
            return None
        return max(range(len(self.parts)), key=lambda n: self.shares[n])

    @property
    def verdict(self) -> Verdict | None:
        """Against what is wanted; None where nothing is."""
        if self.budget.wanted is None:
            return None
        if self.error is None:
            return Verdict.UNKNOWN
        return Verdict.HOLDS if self.error <= self.budget.wanted else Verdict.BREAKS


def budgeted(budget: ErrorBudget, known: dict[str, Calibrated]) -> Budgeted:
    """A budget with every contribution as it stands; `known` are the calibrations by their id."""
    return Budgeted(budget, tuple(_part(budget, d, known) for d in budget.doubts))


def _part(budget: ErrorBudget, doubt: Doubt, known: dict[str, Calibrated]) -> Part:
    if doubt.sensitivity is None:
        return Part(doubt, None, None, lacks=f"{budget.name}: how much {doubt.name} moves it")
    if doubt.calibration:
        return _calibrated(doubt, doubt.sensitivity, known.get(doubt.calibration))
    if doubt.spread is None:
        return Part(doubt, None, None, lacks=f"{budget.name}: spread of {doubt.name}")
    standard = doubt.sensitivity * doubt.spread / DIVISOR[doubt.spread_as] / math.sqrt(averaged(doubt))
    ends = doubt.spread_as not in NO_ENDS
    worst = abs(doubt.sensitivity) * doubt.spread if ends else FAR * abs(standard)
    free = float(doubt.readings - 1) if doubt.readings is not None else math.inf
    if free < 1:
        return Part(doubt, None, None, lacks=f"{doubt.name}: a second reading, to know its spread")
    return Part(doubt, standard, worst, free, ends)


def averaged(doubt: Doubt) -> int:
    """Readings that help: only what differs from one to the next gets less by averaging."""
    return doubt.averaged if doubt.of == "repeat" else 1


def _calibrated(doubt: Doubt, sensitivity: float, found: Calibrated | None) -> Part:
    """What a calibration may be off by at its worst place, as a standard deviation."""
    if found is None or found.worst is None or found.fit is None or not math.isfinite(found.worst):
        name = found.calibration.name if found is not None else "a calibration"
        return Part(doubt, None, None, lacks=f"{doubt.name}: the error of {name}")
    free = float(len(found.pairs) - free_of(found.form, found.fit.coefficients))
    standard = sensitivity * found.worst / t_quantile((1 + found.calibration.confidence) / 2, free)
    return Part(doubt, standard, FAR * abs(standard), free, has_ends=False)


def _work(project: Project, given: Given) -> tuple[Budgeted, ...]:
    known = {c.calibration.id: c for c in given.of(CALIBRATIONS)}
    return tuple(budgeted(b, known) for b in project.concept.error_budgets)


BUDGETS = Node("error budgets", lambda p: (p.concept.error_budgets,), _work, (CALIBRATIONS,))


def measures(assessment: Assessment) -> list[Measure]:
    """Of each budget how far its result may be off."""
    return [
        Measure("error", f"{b.budget.name}, error", b.error, b.budget.unit, missing=b.missing, of=b.budget.id,
                high=b.worst) for b in assessment.of(BUDGETS)
    ]  # fmt: skip


def with_doubt(b: Budgeted, number: int, doubt: Doubt, known: dict[str, Calibrated]) -> Budgeted:
    """The same with another contribution in its place, by its number from 0."""
    doubts = (*b.budget.doubts[:number], doubt, *b.budget.doubts[number + 1 :])
    return budgeted(b.budget.but(doubts=doubts), known)


def spread_that_does(b: Budgeted, number: int, known: dict[str, Calibrated]) -> float | None:
    """The largest spread of one contribution that leaves the result good enough, all others as they are; None where
    even none at all would not do, or it comes from a calibration.
    """
    doubt, wanted = b.budget.doubts[number], b.budget.wanted
    if doubt.spread is None or doubt.calibration or wanted is None:
        return None

    def does(spread: float) -> bool:
        error = with_doubt(b, number, doubt.but(spread=spread), known).error
        return error is not None and error <= wanted

    if not does(0.0):
        return None
    low, high = 0.0, doubt.spread
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if does(middle) else (low, middle)
    return low


def averaged_that_does(b: Budgeted, number: int, known: dict[str, Calibrated]) -> int | None:
    """The fewest readings to average that leave the result good enough; None where no number does."""
    doubt, wanted = b.budget.doubts[number], b.budget.wanted
    if doubt.of != "repeat" or wanted is None:
        return None

    def does(count: int) -> bool:
        error = with_doubt(b, number, doubt.but(averaged=count), known).error
        return error is not None and error <= wanted

    return least_count(does, MOST_AVERAGED)
