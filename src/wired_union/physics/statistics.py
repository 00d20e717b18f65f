"""What a row of trials shows, and how many would show it."""

import math
from statistics import NormalDist

from msgspec import Struct

from wired_union.physics.beta import beta_quantile
from wired_union.physics.method import method, require
from wired_union.physics.sources import CLOPPER, WILSON


class SuccessInterval(Struct, frozen=True):
    exact_lower: float
    exact_upper: float
    wilson_lower: float
    wilson_upper: float
    one_sided_lower: float


@method(
    "success-interval",
    source="quantiles of the beta distribution; Wilson's score",
    works=(CLOPPER, WILSON),
    checked="scipy.stats",
    limits="independent trials under the same conditions",
)
def success_interval(successes: int, trials: int, confidence: float = 0.95) -> SuccessInterval:
    """The rates of success that a row of trials leaves possible.

    Args:
        successes: how many succeeded
        trials: how many were made
        confidence: chance that the interval holds the true rate, above 0, below 1
    Returns:
        exact_lower: lower end, Clopper and Pearson
        exact_upper: upper end, Clopper and Pearson
        wilson_lower: lower end, Wilson
        wilson_upper: upper end, Wilson
        one_sided_lower: lower bound when only "at least" matters
    Raises:
        ValueError: more successes than trials, no trial, or confidence outside 0 to 1.
    """
    require(trials >= 1 and 0 <= successes <= trials, "trials are 1 or more, successes 0 to trials")
    require(0 < confidence < 1, "confidence is above 0 and below 1")
    tail, failures = (1 - confidence) / 2, trials - successes

    def lower(share: float) -> float:
        return beta_quantile(successes, failures + 1, share) if successes else 0.0

    upper = 1 - beta_quantile(failures, successes + 1, tail) if failures else 1.0
    z, rate = NormalDist().inv_cdf(1 - tail), successes / trials
    centre = (rate + z * z / (2 * trials)) / (1 + z * z / trials)
    half = z * math.sqrt(rate * (1 - rate) / trials + z * z / (4 * trials**2)) / (1 + z * z / trials)
    return SuccessInterval(lower(tail), upper, max(centre - half, 0.0), min(centre + half, 1.0), lower(1 - confidence))


class TrialsForProof(Struct, frozen=True):
    trials: int


@method(
    "trials-for-proof",
    source="success-run theorem, n = ln(1 − C) / ln R",
    checked="scipy.stats",
    limits="no failure allowed",
)
def trials_for_proof(reliability: float, confidence: float) -> TrialsForProof:
    """Clean runs in a row that show a rate of success.

    Args:
        reliability: rate of success to be shown, above 0, below 1
        confidence: how sure to be, above 0, below 1
    Returns:
        trials: runs, all of which must succeed
    Raises:
        ValueError: a share outside 0 to 1.
    """
    require(0 < reliability < 1 and 0 < confidence < 1, "reliability and confidence are above 0 and below 1")
    return TrialsForProof(math.ceil(math.log(1 - confidence) / math.log(reliability) - 1e-12))
