"""What rows of trials allow beyond a rate: streaks, one rate against another, spread, and how many runs it takes."""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.beta import t_quantile, t_tails
from wired_union.physics.method import method, require
from wired_union.physics.sources import FELLER_RUNS, FISHER, HOWE, HYNDMAN, NEWCOMBE, NIST_TOLERANCE, TUKEY, WELCH
from wired_union.physics.statistics import success_interval

MOST_ATTEMPTS, MOST_RUNS = 1_000_000, 5_000


class StreakChance(Struct, frozen=True):
    probability: float


@method(
    "streak-chance",
    source="P(n) = P(n−1) + (1 − P(n−L−1))·(1 − p)·p^L, the recurrence of success runs",
    works=(FELLER_RUNS,),
    checked="every row of ten runs counted out; a long row by a chain of states (numpy)",
    limits="independent attempts of one rate",
)
def streak_chance(rate: float, length: int, attempts: int) -> StreakChance:
    """How likely a row of attempts holds a streak of successes, by luck or by merit.

    Args:
        rate: chance that one attempt succeeds
        length: successes in a row
        attempts: how many are made
    Returns:
        probability: that there is such a streak
    Raises:
        ValueError: a rate outside 0 to 1, or a length or number below 1.
    """
    require(0 <= rate <= 1, "rate is 0 to 1")
    require(length >= 1, "length is 1 or more")
    require(1 <= attempts <= MOST_ATTEMPTS, "attempts are 1 to 1 000 000")
    if attempts < length:
        return StreakChance(0.0)
    none = [1.0] * length  # chance of no streak within the first n
    streak = rate**length
    none.append(1.0 - streak)
    for n in range(length + 1, attempts + 1):
        none.append(max(none[n - 1] - none[n - length - 1] * (1 - rate) * streak, 0.0))
    return StreakChance(1.0 - none[attempts])


class StreakLength(Struct, frozen=True):
    longest: int


@method(
    "streak-length",
    source="the longest L whose chance is at least a half, by the recurrence of success runs",
    works=(FELLER_RUNS,),
    checked="every row of ten runs counted out",
    limits="independent attempts of one rate",
)
def streak_length(rate: float, attempts: int) -> StreakLength:
    """The longest streak that luck alone brings more often than not.

    Args:
        rate: chance that one attempt succeeds
        attempts: how many are made
    Returns:
        longest: successes in a row that are seen in at least every other such row
    Raises:
        ValueError: a rate outside 0 to 1, or a number outside 1 to 5000.
    """
    require(1 <= attempts <= MOST_RUNS, "attempts are 1 to 5000")
    require(0 <= rate <= 1, "rate is 0 to 1")
    low, high = 0, attempts
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if streak_chance(rate, middle, attempts).probability >= 0.5 else (low, middle - 1)
    return StreakLength(low)


class RatesCompared(Struct, frozen=True):
    p_value: float
    ratio: float | None
    difference: float
    difference_lower: float
    difference_upper: float


@method(
    "compare-rates",
    source="Fisher's exact test, two-sided; interval of the difference from Wilson's two",
    works=(FISHER, NEWCOMBE),
    checked="scipy.stats.fisher_exact; rows of Newcombe's paper, from memory",
    limits="independent runs; other conditions alike",
)
def compare_rates(
    successes_a: int, trials_a: int, successes_b: int, trials_b: int, confidence: float = 0.95
) -> RatesCompared:  # fmt: skip
    """Whether two versions differ, or luck made them look so.

    Args:
        successes_a: of the first
        trials_a: runs of the first
        successes_b: of the second
        trials_b: runs of the second
        confidence: chance that the interval holds the true difference
    Returns:
        p_value: chance of a difference at least as odd if both are alike
        ratio: rate of the first over that of the second; none where the second never succeeded
        difference: rate of the first less that of the second
        difference_lower: lower end of what the runs allow
        difference_upper: upper end
    Raises:
        ValueError: more successes than trials, no trial, or confidence outside 0 to 1.
    """
    a, b = (success_interval(s, n, confidence) for s, n in ((successes_a, trials_a), (successes_b, trials_b)))
    rate_a, rate_b = successes_a / trials_a, successes_b / trials_b
    gap = rate_a - rate_b
    lower = gap - math.hypot(rate_a - a.wilson_lower, b.wilson_upper - rate_b)
    upper = gap + math.hypot(a.wilson_upper - rate_a, rate_b - b.wilson_lower)
    p = _fisher(successes_a, trials_a, successes_b, trials_b)
    return RatesCompared(p, rate_a / rate_b if rate_b else None, gap, max(lower, -1.0), min(upper, 1.0))


def _fisher(a: int, n: int, b: int, m: int) -> float:
    """Sum of the chances of all tables with the same margins that are no likelier than this one."""
    low, high = max(0, a + b - m), min(n, a + b)
    whole = _log_ways(n + m, a + b)
    chances = [math.exp(_log_ways(n, k) + _log_ways(m, a + b - k) - whole) for k in range(low, high + 1)]
    mine = chances[a - low]
    return min(math.fsum(c for c in chances if c <= mine * (1 + 1e-7)), 1.0)


def _log_ways(of: int, some: int) -> float:
    return math.lgamma(of + 1) - math.lgamma(some + 1) - math.lgamma(of - some + 1)


class RunsToTellApart(Struct, frozen=True):
    runs_each: int


@method(
    "runs-to-tell-apart",
    source="least n of each at which Fisher's exact test tells them apart with the power wanted",
    works=(FISHER,),
    checked="all tables counted out with scipy.stats.fisher_exact; the normal approximation within a quarter",
    limits="as many runs of each; both rates as supposed",
)
def runs_to_tell_apart(
    rate_a: float, rate_b: float, confidence: float = 0.95, power: float = 0.8
) -> RunsToTellApart:  # fmt: skip
    """Runs of each of two versions after which a true difference is seen.

    Args:
        rate_a: rate of success of one
        rate_b: of the other
        confidence: one less the chance to see a difference where there is none
        power: chance to see it where there is one
    Returns:
        runs_each: of each of the two
    Raises:
        ValueError: a rate outside 0 to 1, the same rate twice, or more than 5000 runs needed.
    """
    require(0 <= rate_a <= 1 and 0 <= rate_b <= 1, "rates are 0 to 1")
    require(abs(rate_a - rate_b) >= 0.02, "rates are at least 0.02 apart: closer ones take thousands of runs")
    require(0.5 <= confidence < 1 and 0.05 <= power < 1, "confidence is 0.5 to 1, power 0.05 to 1")
    low, high = 1, 2
    while _power(rate_a, rate_b, high, 1 - confidence) < power:
        low, high = high, high * 2
        require(high <= MOST_RUNS, "closer rates take more than 5000 runs of each")
    while low + 1 < high:
        middle = (low + high) // 2
        low, high = (low, middle) if _power(rate_a, rate_b, middle, 1 - confidence) >= power else (middle, high)
    while high > 2 and _power(rate_a, rate_b, high - 1, 1 - confidence) >= power:  # it rises in teeth
        high -= 1
    return RunsToTellApart(high)


def _power(rate_a: float, rate_b: float, runs: int, alpha: float) -> float:
    """Chance that Fisher's exact test finds a difference with so many runs of each: over all tables that may come."""
    import numpy as np
    from scipy.stats import binom, hypergeom

    every = np.arange(runs + 1)
    chance_a, chance_b = binom.pmf(every, runs, rate_a), binom.pmf(every, runs, rate_b)
    seen = 0.0
    for total in range(2 * runs + 1):
        a = np.arange(max(0, total - runs), min(runs, total) + 1)
        chances = hypergeom.pmf(a, 2 * runs, total, runs)
        order = np.argsort(chances, kind="stable")
        summed = np.cumsum(chances[order])
        top = np.searchsorted(chances[order], chances * (1 + 1e-7), side="right") - 1
        found = summed[top] <= alpha
        seen += float((chance_a[a] * chance_b[total - a])[found].sum())
    return seen


class BoxFigures(Struct, frozen=True):
    lower_quartile: float
    median: float
    upper_quartile: float
    whisker_low: float
    whisker_high: float
    outliers: tuple[float, ...]


@method(
    "box-figures",
    source="quartiles with linear interpolation; whiskers to the last value within 1.5 of the box beyond it",
    works=(TUKEY, HYNDMAN),
    checked="numpy.percentile and matplotlib's box figures",
    limits="a picture of spread, no test",
)
def box_figures(values: Sequence[float]) -> BoxFigures:
    """The five figures of a box plot, and what lies outside.

    Args:
        values: as measured, one or more
    Returns:
        lower_quartile: a quarter lies below
        median: half lies below
        upper_quartile: three quarters lie below
        whisker_low: least value that is no outlier
        whisker_high: greatest value that is no outlier
        outliers: values further out, least first
    Raises:
        ValueError: no value.
    """
    require(len(values) >= 1, "there is at least one value")
    ordered = sorted(values)

    def quantile(share: float) -> float:
        place = share * (len(ordered) - 1)
        below = math.floor(place)
        above = min(below + 1, len(ordered) - 1)
        return ordered[below] + (place - below) * (ordered[above] - ordered[below])

    low, mid, high = (quantile(q) for q in (0.25, 0.5, 0.75))
    reach = 1.5 * (high - low)
    inside = [v for v in ordered if low - reach <= v <= high + reach]
    least, most = min(inside, default=low), max(inside, default=high)
    out = tuple(v for v in ordered if v < least or v > most)
    return BoxFigures(low, mid, high, min(least, low), max(most, high), out)


class ToleranceInterval(Struct, frozen=True):
    factor: float


@method(
    "tolerance-interval",
    source="Howe's factor: z·√((n − 1)(1 + 1/n)/χ²), two-sided, normal",
    works=(HOWE, NIST_TOLERANCE),
    checked="the handbook's example: 43 runs, 0.90, 0.99 give 2.217",
    limits="normal spread; Howe's approximation, within 1 % from five runs on",
)
def tolerance_interval(trials: int, coverage: float, confidence: float) -> ToleranceInterval:
    """Spreads either side of the mean within which a share of all runs to come will lie.

    Args:
        trials: runs that were measured
        coverage: share of runs to come that is to lie inside
        confidence: how sure to be
    Returns:
        factor: standard deviations either side
    Raises:
        ValueError: fewer than two runs, or a share outside 0 to 1.
    """
    from scipy.special import chdtri, ndtri

    require(trials >= 2, "there are at least two runs")
    require(0 < coverage < 1 and 0 < confidence < 1, "coverage and confidence are above 0 and below 1")
    free = trials - 1
    z = float(ndtri((1 + coverage) / 2))
    return ToleranceInterval(z * math.sqrt(free * (1 + 1 / trials) / float(chdtri(free, confidence))))


class MeansCompared(Struct, frozen=True):
    difference: float
    p_value: float


@method(
    "compare-means",
    source="Welch's test: t = (a − b)/√(s²/n + s²/m), degrees of freedom by Satterthwaite",
    works=(WELCH,),
    checked="scipy.stats.ttest_ind",
    limits="independent runs, each spread near enough to normal",
)
def compare_means(values_a: Sequence[float], values_b: Sequence[float]) -> MeansCompared:
    """Whether two rows of measured runs differ on average, or luck made them look so.

    Args:
        values_a: of the first, two or more
        values_b: of the second, two or more
    Returns:
        difference: mean of the first less that of the second
        p_value: chance of a difference at least as large if both are alike
    Raises:
        ValueError: fewer than two values.
    """
    a, b = mean_interval(values_a), mean_interval(values_b)
    parts = [x.sd**2 / len(v) for x, v in ((a, values_a), (b, values_b))]
    gap, spread = a.mean - b.mean, math.fsum(parts)
    if spread == 0:
        return MeansCompared(gap, 1.0 if gap == 0 else 0.0)
    free = spread**2 / (parts[0] ** 2 / (len(values_a) - 1) + parts[1] ** 2 / (len(values_b) - 1))
    return MeansCompared(gap, t_tails(gap / math.sqrt(spread), free))


class MeanInterval(Struct, frozen=True):
    mean: float
    sd: float
    lower: float
    upper: float
    one_sided_lower: float
    one_sided_upper: float


@method(
    "mean-interval",
    source="Student's t: mean ± t·s/√n",
    works=(FISHER,),
    checked="scipy.stats",
    limits="independent runs of one spread, near enough to normal",
)
def mean_interval(values: Sequence[float], confidence: float = 0.95) -> MeanInterval:
    """The means that measured runs leave possible.

    Args:
        values: as measured, two or more
        confidence: chance that the interval holds the true mean
    Returns:
        mean: of the runs
        sd: standard deviation of one run
        lower: lower end
        upper: upper end
        one_sided_lower: lower bound when only "at least" matters
        one_sided_upper: upper bound when only "at most" matters
    Raises:
        ValueError: fewer than two values, or confidence outside 0 to 1.
    """
    require(len(values) >= 2, "there are at least two values")
    require(0 < confidence < 1, "confidence is above 0 and below 1")
    n = len(values)
    mean = math.fsum(values) / n
    sd = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (n - 1))
    both, one = (t_quantile(q, n - 1) * sd / math.sqrt(n) for q in ((1 + confidence) / 2, confidence))
    return MeanInterval(mean, sd, mean - both, mean + both, mean - one, mean + one)
