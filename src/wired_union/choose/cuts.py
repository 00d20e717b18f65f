"""What one combination that breaks something proves about others: a cut.

A subject says what a broken limit or hard finding of its own proves. What no subject knows cuts off that combination
alone, so that a finding of a new kind never makes the search prove something false.
"""

from collections.abc import Iterable
from typing import Protocol

from msgspec import Struct

from wired_union.choose.combination import Question, Tried
from wired_union.kernel.results import Finding, Measure


class Cut(Struct, frozen=True):
    """Combinations whose every named slot holds one of the named options are out.

    `runtime_s` below infinity says why: none of them runs longer than that. They are out where more is wanted.
    """

    sets: tuple[tuple[int, frozenset[int]], ...]
    runtime_s: float = float("inf")

    def holds_for(self, places: tuple[int, ...]) -> bool:
        """Whether a combination is among those cut."""
        return all(places[slot] in options for slot, options in self.sets)

    def applies(self, low_s: float) -> bool:
        """Whether it counts where at least `low_s` of runtime is wanted."""
        return self.runtime_s == float("inf") or self.runtime_s < low_s


def no_good(places: Iterable[int]) -> Cut:
    """The cut of one combination alone."""
    return Cut(tuple((slot, frozenset((place,))) for slot, place in enumerate(places)))


class Proves(Protocol):
    """What a subject proves from what a combination broke; None where it proves nothing."""

    def of_limit(self, tried: Tried, measure: Measure) -> Cut | None: ...

    def of_finding(self, tried: Tried, finding: Finding) -> Cut | None: ...

    def of_runtime(self, tried: Tried) -> Cut | None:
        """Those that run no longer than this combination."""


class Cutter:
    """Makes cuts for one question from what each subject proves."""

    def __init__(self, question: Question, proves: dict[str, Proves]) -> None:
        self._question, self._proves = question, proves

    def runtime_cut(self, tried: Tried) -> Cut:
        """None that is thirstier or weaker runs longer than this combination."""
        found = [c for p in self._proves.values() if (c := p.of_runtime(tried)) is not None]
        return max(found, key=self._width) if found else no_good(tried.places)

    def cut(self, tried: Tried) -> Cut:
        """The widest cut that what this combination breaks allows."""
        found = [*self._of_limits(tried), *self._of_findings(tried)]
        return max(found, key=self._width) if found else no_good(tried.places)

    def _of_limits(self, tried: Tried) -> Iterable[Cut]:
        for measure in map(tried.assessment.measure, tried.broken):
            proves = self._proves.get(measure.subject)
            if proves is not None and (cut := proves.of_limit(tried, measure)) is not None:
                yield cut

    def _of_findings(self, tried: Tried) -> Iterable[Cut]:
        for finding in tried.hard:
            proves = self._proves.get(finding.subject)
            if proves is not None and (cut := proves.of_finding(tried, finding)) is not None:
                yield cut

    def _width(self, cut: Cut) -> float:
        """Share of all combinations that a cut takes out."""
        share = 1.0
        for slot, options in cut.sets:
            share *= len(options) / len(self._question.choices[slot].options)
        return share
