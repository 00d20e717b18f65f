"""The shapes of what follows from a project: measures with verdicts, findings with remedies."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from wired_union import units
from wired_union.project.change import Change
from wired_union.project.model import Brief, Direction


class Verdict(StrEnum):
    BREAKS = "breaks"
    TIGHT = "tight"
    UNKNOWN = "unknown"
    HOLDS = "holds"

    @property
    def rank(self) -> int:
        """0 for the worst."""
        return _RANK[self]


_RANK = {Verdict.BREAKS: 0, Verdict.TIGHT: 1, Verdict.UNKNOWN: 2, Verdict.HOLDS: 3}


@dataclass(frozen=True, slots=True)
class Measure:
    """A figure of the whole project against its limit.

    `value` leaves out what is listed in `missing`, and is then a bound: the mass is at least that much, the runtime
    at most. `likely` is the typical figure where it differs from the one that is judged.
    """

    id: str
    label: str
    value: float | None
    unit: str
    limit: float | None = None
    direction: Direction = "at most"
    reserve: float = 0.1
    low: float | None = None
    high: float | None = None
    missing: tuple[str, ...] = ()

    @property
    def use(self) -> float | None:
        """Share of the limit that is used: value/limit for "at most", limit/value for "at least"."""
        if self.value is None or self.limit is None:
            return None
        if self.direction == "at most":
            return self.value / self.limit
        return self.limit / self.value if self.value > 0 else float("inf")

    @property
    def verdict(self) -> Verdict:
        used = self.use
        if used is not None and used > 1 + 1e-12:
            return Verdict.BREAKS
        if used is None or self.missing:
            return Verdict.UNKNOWN
        return Verdict.TIGHT if used > 1 - self.reserve + 1e-12 else Verdict.HOLDS

    @property
    def shown(self) -> str:
        return units.show(self.value, self.unit)

    @property
    def limit_shown(self) -> str:
        return units.show(self.limit, self.unit)


def judged(measure: Measure, brief: Brief) -> Measure:
    """The measure with the brief's limit on it, where there is one."""
    limit = brief.limit(measure.id)
    if limit is None:
        return measure
    return Measure(
        measure.id, measure.label, measure.value, measure.unit, limit.value, limit.direction, limit.reserve,
        measure.low, measure.high, measure.missing,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Remedy:
    """Something to do about a finding. `change` carries the edit, worked out; None where only people can do it."""

    label: str
    change: Change | None = None


@dataclass(frozen=True, slots=True)
class Finding:
    """A verdict with figures: what, why, about which items or measure, and what could be done."""

    id: str
    verdict: Verdict
    title: str
    what: str
    why: str = ""
    subjects: tuple[str, ...] = ()
    measure: str = ""
    remedies: tuple[Remedy, ...] = ()
    hard: bool = False
    """Whether it breaks what a part cannot do without, rather than a limit of the brief."""


def share_verdict(used: float | None, in_hand: float = 0.2) -> Verdict:
    """Verdict on a rating of a part, tight when less than `in_hand` is left (20 %: common practice)."""
    if used is None:
        return Verdict.UNKNOWN
    if used > 1 + 1e-12:
        return Verdict.BREAKS
    return Verdict.TIGHT if used > 1 - in_hand + 1e-12 else Verdict.HOLDS


def worst(verdicts: list[Verdict]) -> Verdict | None:
    """The worst of some verdicts, None of none."""
    return min(verdicts, key=lambda v: v.rank, default=None)


def tried(edit: Callable[..., Change], *arguments: Any, **named: Any) -> Change | None:
    """An edit worked out for a remedy; None where it can not be done now."""
    from wired_union.project.errors import ProjectError

    try:
        return edit(*arguments, **named)
    except ProjectError:
        return None
