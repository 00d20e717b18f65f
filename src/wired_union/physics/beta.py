"""The incomplete beta function and its inverse, on which intervals of rates and of means rest, without a heavy library.

Trials are judged whenever a window opens, and scipy would cost a third of the time that takes. Source: Numerical
Recipes, 3rd edition (2007), section 6.4 (continued fraction by Lentz's method), from memory; held against scipy.
"""

import math
from functools import lru_cache

TINY, CLOSE = 1e-300, 1e-15


def beta_share(a: float, b: float, x: float) -> float:
    """The regularised incomplete beta function I_x(a, b), for a and b above 0 and x from 0 to 1."""
    if x <= 0.0 or x >= 1.0:
        return 0.0 if x <= 0.0 else 1.0
    front = math.exp(math.lgamma(a + b) - math.lgamma(a) - math.lgamma(b) + a * math.log(x) + b * math.log1p(-x))
    if x < (a + 1) / (a + b + 2):
        return front * _fraction(a, b, x) / a
    return 1.0 - front * _fraction(b, a, 1.0 - x) / b


def _fraction(a: float, b: float, x: float) -> float:
    """The continued fraction, term by term until nothing changes."""
    c, d = 1.0, 1.0 - (a + b) * x / (a + 1)
    d = 1.0 / (d if abs(d) > TINY else TINY)
    value = d
    for m in range(1, 200 + 10 * math.isqrt(int(max(a, b)) + 1)):
        for top in (m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m)),
                    -(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1))):  # fmt: skip
            d = 1.0 + top * d
            c = 1.0 + top / c
            d = 1.0 / (d if abs(d) > TINY else TINY)
            c = c if abs(c) > TINY else TINY
            value *= c * d
        if abs(c * d - 1.0) < CLOSE:
            break
    return value


def beta_quantile(a: float, b: float, share: float) -> float:
    """The x at which I_x(a, b) is a share: Newton's method in a bracket that halves where it would leave it."""
    if share <= 0.0 or share >= 1.0:
        return 0.0 if share <= 0.0 else 1.0
    low, high, x = 0.0, 1.0, a / (a + b)
    log_front = math.lgamma(a + b) - math.lgamma(a) - math.lgamma(b)
    for _ in range(200):
        gap = beta_share(a, b, x) - share
        low, high = (low, x) if gap > 0 else (x, high)
        steep = math.exp(log_front + (a - 1) * math.log(x) + (b - 1) * math.log1p(-x)) if 0 < x < 1 else 0.0
        new = x - gap / steep if steep > 0 else low
        if not low < new < high:
            new = (low + high) / 2
        if abs(new - x) <= 1e-15 * max(x, 1e-12) or new == x:
            return new
        x = new
    return x


@lru_cache(maxsize=1024)
def t_quantile(share: float, free: float) -> float:
    """The quantile of Student's t with so many degrees of freedom, for a share above 0 and below 1."""
    inside = 2 * abs(share - 0.5)
    if inside > 0.5:
        x = beta_quantile(free / 2, 0.5, 2 * min(share, 1 - share))
        t = math.sqrt(free * (1 - x) / x) if x > 0 else math.inf
    else:  # near the middle the other end keeps the digits
        z = beta_quantile(0.5, free / 2, inside)
        t = math.sqrt(free * z / (1 - z))
    return t if share > 0.5 else -t


def t_tails(t: float, free: float) -> float:
    """The chance of a t at least as far from 0, either side."""
    return beta_share(free / 2, 0.5, free / (free + t * t)) if math.isfinite(t) else 0.0
