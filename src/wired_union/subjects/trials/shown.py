"""What the runs of a trial show: the rate, share or mean that they allow, against what is wanted, and what would do.

Only runs of the version that ran last count for what is shown; earlier versions stand beside it.
"""

import math
from collections.abc import Callable, Iterable, Sequence
from functools import cached_property, lru_cache

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.physics.runs_of_trials import MeanInterval, compare_means, compare_rates, mean_interval
from wired_union.physics.settings import WearRate, wear_rate
from wired_union.physics.statistics import SuccessInterval, success_interval
from wired_union.project.model import Direction
from wired_union.project.trial_model import Run, Trial

FEW_TO_WEAR = 8
MOST_MORE = 100_000
"""Runs beyond which it is not said how many more would do."""


class Wish(Struct, frozen=True):
    """What is wanted of a trial, and whether at least or at most."""

    value: float
    direction: Direction = "at least"


class Row(Struct, frozen=True, dict=True):
    """Runs of one version that count, in their order."""

    trial: Trial
    version: str
    runs: tuple[Run, ...]

    @cached_property
    def marks(self) -> tuple[bool, ...]:
        """Of every run whether it is good; a value is inside its band."""
        return tuple(is_good(self.trial, r) for r in self.runs)

    @cached_property
    def values(self) -> tuple[float, ...]:
        return tuple(r.value for r in self.runs if r.value is not None)

    @cached_property
    def good(self) -> int:
        """Runs that are good; of packets those that arrived where fewest did."""
        if self.trial.counts == "packets":
            return sum(r.received or 0 for r in self.hardest)
        return sum(self.marks)

    @cached_property
    def tries(self) -> int:
        """What the good ones are out of: runs, or packets that were sent."""
        return sum(r.sent or 0 for r in self.hardest) if self.trial.counts == "packets" else len(self.runs)

    @cached_property
    def hardest(self) -> tuple[Run, ...]:
        """Of packets, the runs of the distance and condition where the smallest share arrived: a link is as good as
        that, however many were counted close by.
        """
        groups: dict[tuple[float | None, str], list[Run]] = {}
        for run in self.runs:
            groups.setdefault((run.setting, run.condition), []).append(run)
        return tuple(min(groups.values(), key=_arrived, default=()))

    @cached_property
    def interval(self) -> SuccessInterval | None:
        """The rates that they allow; None without a run."""
        return interval_of(self.good, self.tries, self.trial.confidence) if self.tries else None

    @cached_property
    def mean(self) -> MeanInterval | None:
        """The means that they allow; None below two runs."""
        return mean_interval(self.values, self.trial.confidence) if len(self.values) > 1 else None

    @cached_property
    def longest(self) -> int:
        """Good runs in a row, at most."""
        best = now = 0
        for mark in self.marks:
            now = now + 1 if mark else 0
            best = max(best, now)
        return best

    @cached_property
    def luck_of_rates(self) -> float:
        """The chance that luck alone makes both halves of the runs as different in how many are good."""
        half = len(self.marks) // 2
        first, second = self.marks[:half], self.marks[half:]
        return compare_rates(sum(first), len(first), sum(second), len(second)).p_value

    @cached_property
    def luck_of_values(self) -> float:
        """The same of what was measured; 1 where there is too little of it."""
        half = len(self.runs) // 2
        first, second = self.values[:half], self.values[half:]
        return compare_means(first, second).p_value if min(len(first), len(second)) > 1 else 1.0

    @cached_property
    def wear(self) -> WearRate | None:
        """By how much values change from run to run, of those made as the last one was; None below eight."""
        if not is_measured(self.trial) or not self.runs:
            return None
        last = self.runs[-1]
        values = [r.value for r in self.runs if r.value is not None
                  and (r.condition, r.setting, r.levels) == (last.condition, last.setting, last.levels)]  # fmt: skip
        return wear_rate(values, self.trial.confidence) if len(values) >= FEW_TO_WEAR else None

    @cached_property
    def streak(self) -> int:
        """Good runs in a row up to now."""
        return next((n for n, mark in enumerate(reversed(self.marks)) if not mark), len(self.marks))


class TrialResult(Struct, frozen=True, dict=True):
    """A trial with its runs, version by version, the last one first."""

    trial: Trial
    wish: Wish | None
    rows: tuple[Row, ...]
    missing: tuple[str, ...] = ()

    @property
    def now(self) -> Row | None:
        """The version that ran last."""
        return self.rows[0] if self.rows else None

    @cached_property
    def alike(self) -> Row | None:
        """Runs of that version that were made as the last one was."""
        now = self.now
        if now is None:
            return None
        last = now.runs[-1]
        runs = tuple(x for x in now.runs if (x.condition, x.setting) == (last.condition, last.setting))
        return Row(now.trial, now.version, runs)

    @property
    def is_rate(self) -> bool:
        return self.trial.proves != "mean"

    @cached_property
    def value(self) -> float | None:
        """The rate, share or mean of the version that ran last."""
        row = self.now
        if row is None or not row.runs or self.missing:
            return None
        if self.is_rate:
            return row.good / row.tries if row.tries else None
        return math.fsum(row.values) / len(row.values) if row.values else None

    @cached_property
    def ends(self) -> tuple[float | None, float | None]:
        """From where to where it may lie."""
        row = self.now
        if row is None or self.value is None:
            return None, None
        if self.is_rate:
            return (row.interval.exact_lower, row.interval.exact_upper) if row.interval is not None else (None, None)
        return (row.mean.lower, row.mean.upper) if row.mean is not None else (None, None)

    @cached_property
    def bound(self) -> float | None:
        """What is shown at the confidence asked: the least where at least is wanted, the most where at most is."""
        row = self.now
        if row is None or self.value is None:
            return None
        least = self.wish is None or self.wish.direction == "at least"
        if self.is_rate:
            return bound_of(row.good, row.tries, self.trial.confidence, least=least)
        if row.mean is None:
            return None
        return row.mean.one_sided_lower if least else row.mean.one_sided_upper

    @cached_property
    def verdict(self) -> Verdict | None:
        """Holds where the runs show it, tight where they only meet it; None where nothing is wanted or was run."""
        if self.wish is None or self.value is None:
            return None
        if self.bound is not None and meets(self.bound, self.wish):
            return Verdict.HOLDS
        return Verdict.TIGHT if meets(self.value, self.wish) else Verdict.BREAKS

    @cached_property
    def more_clean(self) -> int | None:
        """Good runs that would show it from here, none of them bad; None where that takes too many or it is shown."""
        return self._more(0)

    @cached_property
    def more_with_one_bad(self) -> int | None:
        """Runs that would show it with one more bad among them."""
        return self._more(1)

    def _more(self, bad: int) -> int | None:
        row, wish = self.now, self.wish
        if row is None or wish is None or not self.is_rate or wish.direction == "at most" or wish.value >= 1:
            return None
        if self.verdict is Verdict.HOLDS or not row.runs:
            return None
        return least_more(row.good, row.tries, wish.value, self.trial.confidence, bad)


def is_good(trial: Trial, run: Run) -> bool:
    """Whether a run counts as good: as it was marked, its value inside the band, what was there seen as that, or all of
    its packets received.
    """
    if trial.counts == "what is seen":
        return _same(run.was, run.seen)
    if trial.counts == "packets":
        return says_packets(run) and run.received == run.sent
    if run.value is None:
        return bool(run.good)
    low, high = trial.band_low, trial.band_high
    return (low is None or run.value >= low) and (high is None or run.value <= high)


def _arrived(runs: Iterable[Run]) -> float:
    """The share of packets that arrived."""
    runs = tuple(runs)
    sent = sum(r.sent or 0 for r in runs)
    return sum(r.received or 0 for r in runs) / sent if sent else 1.0


def says_packets(run: Run) -> bool:
    """Whether it says how many packets were sent and arrived, and these can be."""
    return run.sent is not None and run.received is not None and run.received <= run.sent


def _says(trial: Trial, run: Run) -> bool:
    """Whether a run from a file says what counts: of packets how many, of what is seen both words."""
    if trial.counts == "packets":
        return says_packets(run)
    return trial.counts != "what is seen" or bool(run.was.strip() and run.seen.strip())


def _same(one: str, other: str) -> bool:
    return one.strip().lower() == other.strip().lower()


def is_measured(trial: Trial) -> bool:
    """Whether its runs are values that may be inside a band."""
    return trial.counts in MEASURED


MEASURED = ("a value", "a time", "a count")


def meets(value: float, wish: Wish) -> bool:
    """Whether a figure is what is wanted."""
    return value >= wish.value - 1e-12 if wish.direction == "at least" else value <= wish.value + 1e-12


@lru_cache(maxsize=4096)
def interval_of(good: int, runs: int, confidence: float) -> SuccessInterval:
    """The rates that so many good runs allow; kept, since every edit asks for those of all trials again."""
    return success_interval(good, runs, confidence)


def bound_of(good: int, runs: int, confidence: float, *, least: bool = True) -> float:
    """The one-sided bound of a rate: at least this, or at most this."""
    if least:
        return interval_of(good, runs, confidence).one_sided_lower
    return 1 - interval_of(runs - good, runs, confidence).one_sided_lower


def least_more(good: int, runs: int, wanted: float, confidence: float, bad: int) -> int | None:
    """The fewest further runs, so many of them bad, after which a rate is shown; None beyond 100 000."""

    def does(more: int) -> bool:
        return more >= bad and bound_of(good + more - bad, runs + more, confidence) >= wanted - 1e-12

    return _first(does, max(bad, 1))


def _first(does: Callable[[int], bool], low: int) -> int | None:
    high = low
    while not does(high):
        if high > MOST_MORE:
            return None
        low, high = high + 1, high * 2
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if does(middle) else (middle + 1, high)
    return low


def rows_of(trial: Trial) -> tuple[Row, ...]:
    """Runs that count, by version; the version that ran last comes first."""
    found: dict[str, list[Run]] = {}
    last: dict[str, int] = {}
    for n, run in enumerate(trial.runs):
        if not run.struck and _says(trial, run):
            found.setdefault(run.version, []).append(run)
            last[run.version] = n
    return tuple(Row(trial, v, tuple(found[v])) for v in sorted(found, key=lambda v: -last[v]))


def result_of(trial: Trial, wish: Wish | None) -> TrialResult:
    """What the runs of a trial show."""
    lacks: list[str] = []
    if is_measured(trial) and trial.proves == "share inside" and not (
        trial.band_low is not None or trial.band_high is not None
    ):  # fmt: skip
        lacks.append(f"{trial.name}: the band that is wanted")
    if is_measured(trial) and trial.proves == "rate":
        lacks.append(f"{trial.name}: whether its mean or the share inside a band counts")
    rows = rows_of(trial)
    if not is_measured(trial) and trial.proves == "mean":
        lacks.append(f"{trial.name}: values, of which there would be a mean")
    if not rows:
        lacks.append("not tried yet")
    elif trial.proves == "mean" and rows[0].mean is None:
        lacks.append(f"{trial.name}: a second run, to know its spread")
    return TrialResult(trial, wish, rows, tuple(lacks))


def ordered_runs(results: Sequence[TrialResult]) -> int:
    """Runs that count, of all trials."""
    return sum(len(row.runs) for r in results for row in r.rows)
