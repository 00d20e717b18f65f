"""What settings do to results: effects of two-level settings, wear over runs, how far a link reaches, capability."""

import math
from collections.abc import Sequence
from itertools import combinations
from statistics import NormalDist

from msgspec import Struct

from wired_union.physics.beta import t_quantile, t_tails
from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import BISSELL, BOX_HUNTER, MCCULLAGH, NIST_CAPABILITY, NIST_LINE

MOST_STEPS, CLOSE = 60, 1e-12


class FactorialEffects(Struct, frozen=True):
    effects: tuple[float, ...]
    standard_error: float
    p_values: tuple[float, ...]
    degrees: int


@method(
    "factorial-effects",
    source="least squares on ±1 with products of two; an effect is twice its coefficient, Student's t",
    works=(BOX_HUNTER,),
    checked="statsmodels OLS; the worked pilot plant of Box, Hunter & Hunter, from memory",
    limits="two levels each, products of two settings, spread alike everywhere",
)
def factorial_effects(levels: Sequence[float], values: Sequence[float]) -> FactorialEffects:
    """What each of a few two-level settings does, and each pair of them together.

    Args:
        levels: −1 or 1, of the first run the level of each setting, then of the second, and so on
        values: what each run gave
    Returns:
        effects: change of the result from low to high: each setting, then each pair in the order 1·2, 1·3, 2·3
        standard_error: of an effect, the largest where runs are not balanced
        p_values: chance of an effect as large where there is none
        degrees: runs beyond those that the effects need
    Raises:
        ValueError: lists of different length, levels other than −1 and 1, or runs that cannot tell the effects apart.
    """
    import numpy as np

    require(len(values) >= 1 and len(levels) % len(values) == 0, "every run has a level of each setting")
    require(len(levels) >= len(values), "there is a setting")
    require(all(abs(x) == 1 for x in levels), "levels are −1 or 1")
    count = len(levels) // len(values)
    rows = [levels[n : n + count] for n in range(0, len(levels), count)]
    design = np.array([[1.0, *row, *(row[a] * row[b] for a, b in combinations(range(count), 2))] for row in rows])
    free = len(values) - design.shape[1]
    if free < 1 or np.linalg.matrix_rank(design) < design.shape[1]:
        raise Impossible("effects cannot be told apart: run every mix of the settings, some of them twice")
    solved, _, _, _ = np.linalg.lstsq(design, np.asarray(values, float), rcond=None)
    left = float(((np.asarray(values, float) - design @ solved) ** 2).sum())
    errors = 2 * np.sqrt(np.diag(np.linalg.inv(design.T @ design)) * left / free)[1:]
    effects = tuple(float(2 * c) for c in solved[1:])
    chances = tuple(
        t_tails(e / s, free) if s > 0 else float(e == 0) for e, s in zip(effects, errors.tolist(), strict=True)
    )
    return FactorialEffects(effects, float(errors.max()), chances, free)


class WearRate(Struct, frozen=True):
    rate: float
    lower: float
    upper: float
    p_value: float


@method(
    "wear-rate",
    source="straight line through results by their number, slope ± t·s",
    works=(NIST_LINE,),
    checked="scipy.stats.linregress; statsmodels OLS",
    limits="steady wear; runs alike and in their order",
)
def wear_rate(values: Sequence[float], confidence: float = 0.95) -> WearRate:
    """By how much results change from run to run.

    Args:
        values: in the order of the runs
        confidence: of the interval
    Returns:
        rate: change for each run
        lower: least that it may be
        upper: most that it may be
        p_value: chance of a rate as large where nothing changes
    Raises:
        ValueError: below three values, or a confidence that is no share between 0 and 1.
    """
    n = len(values)
    require(n >= 3, "three runs are needed")
    require(0 < confidence < 1, "confidence is between 0 and 1")
    middle, mean = (n - 1) / 2, math.fsum(values) / n
    across = n * (n * n - 1) / 12
    rate = math.fsum((k - middle) * (v - mean) for k, v in enumerate(values)) / across
    left = math.fsum((v - mean - rate * (k - middle)) ** 2 for k, v in enumerate(values))
    error = math.sqrt(left / (n - 2) / across)
    half = t_quantile((1 + confidence) / 2, n - 2) * error
    p = t_tails(rate / error, n - 2) if error > 0 else float(rate == 0)
    return WearRate(rate, rate - half, rate + half, p)


class LinkReach(Struct, frozen=True):
    reach_m: float
    lower_m: float
    upper_m: float
    slope: float


@method(
    "link-reach",
    source="ln(p/(1 − p)) = a + b·ln d by maximum likelihood; reach where p is what is wanted, delta method",
    works=(MCCULLAGH,),
    checked="statsmodels GLM (binomial); ten thousand links drawn",
    limits="packets independent; reception falls with distance alone; not beyond the distances tried",
)
def link_reach(
    distances_m: Sequence[float], received: Sequence[float], sent: Sequence[float], wanted: float,
    confidence: float = 0.95,
) -> LinkReach:  # fmt: skip
    """How far a link is reliable, from packets counted at several distances.

    Args:
        distances_m: of each count
        received: packets that arrived
        sent: packets that were sent
        wanted: share that must arrive
        confidence: of the interval
    Returns:
        reach_m: distance at which just that share arrives
        lower_m: least that it may be
        upper_m: most that it may be
        slope: of the log odds by the logarithm of distance
    Raises:
        ValueError: lists of different length, fewer than two distances, counts that cannot be, or packets that do not
            get fewer with distance.
    """
    import numpy as np

    require(len(distances_m) == len(received) == len(sent), "there are counts for each distance")
    require(len(set(distances_m)) >= 2 and min(distances_m) > 0, "two distances above 0 are needed")
    require(all(0 <= r <= s and s >= 1 for r, s in zip(received, sent, strict=True)), "received is 0 to sent")
    require(0 < wanted < 1 and 0 < confidence < 1, "shares are between 0 and 1")
    x = np.column_stack([np.ones(len(distances_m)), np.log(np.asarray(distances_m, float))])
    r, n = np.asarray(received, float), np.asarray(sent, float)
    found = _logistic(x, r, n)
    if found is None or not found[0][1] < 0:
        raise Impossible("packets do not get fewer with distance: go further, until some are lost everywhere")
    (a, b), cover = found
    target = math.log(wanted / (1 - wanted))
    log_reach = (target - a) / b
    slope = np.array([-1 / b, -log_reach / b])
    half = NormalDist().inv_cdf((1 + confidence) / 2) * math.sqrt(max(float(slope @ cover @ slope), 0.0))
    ends = [math.exp(min(log_reach + k * half, 700.0)) for k in (0, -1, 1)]
    return LinkReach(ends[0], ends[1], ends[2], float(b))


def _logistic(x: object, r: object, n: object) -> tuple[tuple[float, float], object] | None:
    """Coefficients and their covariance by Newton's method; None where the likelihood has no top."""
    import numpy as np

    design, got, all_ = np.asarray(x), np.asarray(r), np.asarray(n)
    share = float((got.sum() + 0.5) / (all_.sum() + 1))
    beta = np.array([math.log(share / (1 - share)), 0.0])
    for _ in range(MOST_STEPS):
        p = 1 / (1 + np.exp(-np.clip(design @ beta, -500, 500)))
        weight = all_ * p * (1 - p)
        information = design.T @ (design * weight[:, None])
        if not np.isfinite(information).all() or np.linalg.cond(information) > 1e12:
            return None
        step = np.linalg.solve(information, design.T @ (got - all_ * p))
        beta = beta + step
        if float(np.abs(beta).max()) > 1e3:
            return None
        if float(np.abs(step).max()) < CLOSE * max(1.0, float(np.abs(beta).max())):
            return (float(beta[0]), float(beta[1])), np.linalg.inv(information)
    return None


class ProcessCapability(Struct, frozen=True):
    bias: float
    cp: float
    cpk: float
    cpk_lower: float
    outside: float


@method(
    "process-capability",
    source="Cp = (U − L)/6s, Cpk = min(U − m, m − L)/3s, its bound Cpk − z·√(1/9n + Cpk²/(2n − 2))",
    works=(NIST_CAPABILITY, BISSELL),
    checked="worked by hand; the bound against ten thousand samples drawn",
    limits="normal, steady; the bound is an approximation for 25 values or more",
)
def process_capability(
    mean: float, deviation: float, count: int, low: float, high: float, confidence: float = 0.95
) -> ProcessCapability:  # fmt: skip
    """How well a spread fits into a band.

    Args:
        mean: of the values
        deviation: their standard deviation
        count: how many there are
        low: least that is wanted
        high: most that is wanted
        confidence: of the bound
    Returns:
        bias: mean less the middle of the band
        cp: band over six deviations
        cpk: nearer end over three deviations
        cpk_lower: least that the last may be, by this confidence
        outside: share of a normal spread outside the band
    Raises:
        ValueError: a band that ends where it begins, a deviation of zero, below two values, or no share.
    """
    require(low < high, "the band ends above where it begins")
    require(deviation > 0 and count >= 2, "two values that differ are needed")
    require(0 < confidence < 1, "confidence is between 0 and 1")
    cp, cpk = (high - low) / (6 * deviation), min(high - mean, mean - low) / (3 * deviation)
    bound = cpk - NormalDist().inv_cdf(confidence) * math.sqrt(1 / (9 * count) + cpk * cpk / (2 * count - 2))
    normal = NormalDist(mean, deviation)
    outside = normal.cdf(low) + NormalDist(-mean, deviation).cdf(-high)
    return ProcessCapability(mean - (low + high) / 2, cp, cpk, bound, outside)
