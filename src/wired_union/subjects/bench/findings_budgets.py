"""Findings of error budgets: what lacks, what is too much, which contribution to better first and how far."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.subjects.bench.budget_edits import set_doubt
from wired_union.subjects.bench.budgets import (
    BUDGETS,
    Budgeted,
    averaged_that_does,
    budgeted,
    spread_that_does,
)
from wired_union.subjects.bench.calibrations import CALIBRATIONS, Calibrated
from wired_union.units import show

LOOKED_AT = 3
"""Contributions that ways out are worked out for, the largest first."""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    for b in assessment.of(BUDGETS):
        measure = f"error:{b.budget.id}"
        if b.missing and b.parts:
            yield Finding("budget-gap", Verdict.UNKNOWN, b.budget.name, f"Not known yet: {b.missing[0]}.",
                          "What is not known is not nothing: until then the whole is not known.", (), measure,
                          of=b.budget.id)  # fmt: skip
        if b.verdict is Verdict.BREAKS and b.largest is not None:
            yield _too_much(assessment, b, measure)


def _too_much(assessment: Assessment, b: Budgeted, measure: str) -> Finding:
    unit, name = b.budget.unit, b.budget.name
    first = b.parts[b.largest or 0].doubt.name
    share = b.shares[b.largest or 0]
    return Finding(
        "budget", Verdict.TIGHT, f"{name}: off by more than is wanted",
        f"Off by up to {show(b.error, unit)} in {show(b.budget.confidence, 'share')} of results, where"
        f" {show(b.budget.wanted, unit)} is wanted. {first} has {show(share, 'share')} of it.",
        f"Better {first} first: what is small hardly counts, since squares add.", (), measure,
        partial(_ways, assessment, b), of=b.budget.id,
        use=b.error / b.budget.wanted if b.error and b.budget.wanted else None,
    )  # fmt: skip


def _ways(assessment: Assessment, b: Budgeted) -> tuple[Remedy, ...]:
    """What would do alone: more readings averaged, or how small the spread must get."""
    known = {c.calibration.id: c for c in assessment.of(CALIBRATIONS)}
    first = sorted(range(len(b.parts)), key=lambda n: -b.shares[n])[:LOOKED_AT]
    ways: list[Remedy] = []
    for n in first:
        doubt = b.budget.doubts[n]
        count = averaged_that_does(b, n, known)
        if count is not None and count > doubt.averaged:
            change = tried(set_doubt, assessment.project, b.budget.id, n + 1, averaged=count)
            ways += possible((f"average {count} readings", change))
        most = spread_that_does(b, n, known)
        if most is not None:
            unit = doubt.unit or b.budget.unit
            ways.append(Remedy(f"{doubt.name}: at most {show(most, unit)}, {show(doubt.spread, unit)} now"))
    if not ways and b.budget.wanted is not None:
        left = _without(b, first, known)
        ways.append(
            Remedy(f"no one alone would do: without the largest {len(first)} it is {show(left, b.budget.unit)}")
        )
    return tuple(ways)


def _without(b: Budgeted, numbers: list[int], known: dict[str, Calibrated]) -> float | None:
    """What is left without some contributions."""
    doubts = tuple(d for n, d in enumerate(b.budget.doubts) if n not in numbers)
    return budgeted(b.budget.but(doubts=doubts), known).error if doubts else 0.0
