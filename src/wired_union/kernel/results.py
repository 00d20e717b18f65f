"""The shapes of what follows from a project: measures with verdicts, findings with remedies."""

from collections.abc import Callable
from enum import StrEnum
from functools import cached_property
from typing import ParamSpec

import msgspec
from msgspec import Struct
from msgspec.structs import replace

from wired_union import units
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.model import Direction, Limit

A = ParamSpec("A")


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


def measure_id(kind: str, of: str = "") -> str:
    """The id that limits and scripts know a measure by: "runtime", "chain:bump-to-stop"."""
    return f"{kind}:{of}" if of else kind


class Measure(msgspec.Struct, frozen=True):
    """A figure of the whole project against its limit.

    `value` leaves out what is listed in `missing`, and is then a bound: the mass is at least that much, the runtime
    at most. A kind that there is of each of several things names the one in `of`. `span` is given where a share of the
    limit means nothing (decibels, days, chances): that much away from the limit counts as the whole of it.
    """

    kind: str
    label: str
    value: float | None
    unit: str
    limit: float | None = None
    direction: Direction = "at most"
    reserve: float = 0.1
    low: float | None = None
    high: float | None = None
    missing: tuple[str, ...] = ()
    of: str = ""
    span: float | None = None
    subject: str = ""
    measured: str = ""
    """When and by whom it was measured, where nothing computes it."""
    told: Verdict | None = None
    """Its verdict where more than the limit decides: what the runs of a trial show."""

    @property
    def id(self) -> str:
        return measure_id(self.kind, self.of)

    @property
    def use(self) -> float | None:
        """Share of the limit that is used: value/limit for "at most", limit/value for "at least"; over 1 breaks it."""
        value, limit = self.value, self.limit
        if value is None or limit is None or value != value:
            return None
        at_most = self.direction == "at most"
        if self.span is not None:
            return 1 + (value - limit if at_most else limit - value) / self.span
        if at_most:
            return value / limit if limit > 0 else float("inf") if value > limit else 1.0
        return limit / value if value > 0 else float("inf") if value < limit else 1.0

    @property
    def verdict(self) -> Verdict:
        used = self.use
        if self.told is not None and self.limit is not None and not self.missing:
            return self.told
        if used is not None and used > 1 + 1e-12:
            return Verdict.BREAKS
        if used is None or self.missing:
            return Verdict.UNKNOWN
        return Verdict.TIGHT if used > 1 - self.reserve + 1e-12 else Verdict.HOLDS

    @property
    def shown(self) -> str:
        """Its value; "without limit" is no bound to show while a figure is missing."""
        endless = bool(self.missing) and self.value == float("inf")
        return units.show(None if endless else self.value, self.unit)

    @property
    def limit_shown(self) -> str:
        return units.show(self.limit, self.unit)


def judged(measure: Measure, limit: Limit | None, subject: str = "") -> Measure:
    """The measure with a limit on it, where there is one, and whose it is."""
    subject = subject or measure.subject
    if limit is None:
        return msgspec.structs.replace(measure, subject=subject)
    return msgspec.structs.replace(
        measure, subject=subject, limit=limit.value, direction=limit.direction, reserve=limit.reserve
    )


class Remedy(Struct, frozen=True):
    """Something to do about a finding. `change` carries the edit, worked out; None where only people can do it."""

    label: str
    change: Change | None = None
    is_fact: bool = False
    """Whether it says what is so, such as what was measured: offered whatever it does to the rest."""


def possible(*remedies: tuple[str, Change | None]) -> tuple[Remedy, ...]:
    """Remedies by label and change, without those that can not be done now."""
    return tuple(Remedy(label, change) for label, change in remedies if change is not None)


Offer = Callable[[], tuple[Remedy, ...]]


def nothing_to_offer() -> tuple[Remedy, ...]:
    return ()


class Finding(Struct, frozen=True, eq=False, dict=True):
    """A verdict with figures: what, why, about which items or measure.

    `check` is the kind of finding, `of` what it is about, `detail` which side of it: together its id. What could be
    done is worked out when it is looked at.
    """

    check: str
    verdict: Verdict
    title: str
    what: str
    why: str = ""
    items: tuple[str, ...] = ()
    measure: str = ""
    offer: Offer = nothing_to_offer
    hard: bool = False
    """Whether it breaks what a part cannot do without, rather than a limit of the brief."""
    of: str = ""
    detail: str = ""
    subject: str = ""
    of_limit: bool = False
    """Whether it only says in words what a limit of the brief says already."""
    bound: bool = False
    """Whether it is not known only because something under it is not, which a finding of its own says."""
    use: float | None = None
    """Share that it takes of what there is, where it is one: by this a remedy that does not mend it may ease it."""

    @property
    def id(self) -> str:
        return ":".join(filter(None, (self.check, self.of, self.detail)))

    @cached_property
    def remedies(self) -> tuple[Remedy, ...]:
        """What could be done, best first."""
        return self.offer()

    def said_by(self, subject: str) -> "Finding":
        """The same, with whose it is."""
        return replace(self, subject=subject)

    def while_unknown(self, gap: str, title: str = "") -> "Finding":
        """The same while something under it is not known: what breaks does so already, anything else is a bound."""
        if self.verdict not in {Verdict.TIGHT, Verdict.HOLDS}:
            return self
        return replace(self, verdict=Verdict.UNKNOWN, title=title or self.title, what=f"So far {self.what}",
                       why=f"Not known yet: {gap}.", bound=True)  # fmt: skip

    @property
    def is_gap(self) -> bool:
        """Whether it names something still to be found out, rather than what follows from it."""
        return self.verdict is Verdict.UNKNOWN and not (self.of_limit or self.bound)

    @property
    def breaks_hard(self) -> bool:
        return self.hard and self.verdict is Verdict.BREAKS


def share_verdict(used: float | None, in_hand: float = 0.2) -> Verdict:
    """Verdict on a rating of a part, tight when less than `in_hand` is left (20 %: common practice).

    Not a number is what nothing could work out: unknown.
    """
    if used is None or used != used:
        return Verdict.UNKNOWN
    if used > 1 + 1e-12:
        return Verdict.BREAKS
    return Verdict.TIGHT if used > 1 - in_hand + 1e-12 else Verdict.HOLDS


def worst(verdicts: list[Verdict]) -> Verdict | None:
    """The worst of some verdicts, None of none."""
    return min(verdicts, key=lambda v: v.rank, default=None)


def tried(edit: Callable[A, Change], *arguments: A.args, **named: A.kwargs) -> Change | None:
    """An edit worked out for a remedy; None where it can not be done now."""
    try:
        return edit(*arguments, **named)
    except ProjectError:
        return None
