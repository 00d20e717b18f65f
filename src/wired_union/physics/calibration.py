"""A curve through calibration points: its coefficients, what is left, how far it can be trusted, and its inverse.

Levenberg and Marquardt's method with numpy alone, since a project that carries a calibration is judged when its window
opens. Polynomials are solved outright.
"""

import math
from bisect import bisect_right
from collections.abc import Callable, Sequence
from typing import Any

from msgspec import Struct

from wired_union.physics.beta import t_quantile
from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import BURNHAM, MARQUARDT

FORMS = ("line", "parabola", "cubic", "power", "exponential", "saturating", "reciprocal", "table")
WRITTEN = {
    "line": "a + b·x", "parabola": "a + b·x + c·x²", "cubic": "a + b·x + c·x² + d·x³", "power": "a·x^b",
    "exponential": "a·e^(b·x)", "saturating": "a·(1 − e^(−b·x))", "reciprocal": "a + b/(x + c)",
    "table": "straight lines between places",
}  # fmt: skip
DEGREE = {"line": 1, "parabola": 2, "cubic": 3}
FEW_STEPS, MOST_STEPS = 12, 150
FEWEST_PLACES, MOST_PLACES = 3, 9
"""Of a table. Its coefficients are its places, then what the sensor says at each."""


class CalibrationFit(Struct, frozen=True):
    coefficients: tuple[float, ...]
    standard_errors: tuple[float, ...]
    residual_sd: float
    aicc: float
    cross_error: float


@method(
    "fit-calibration",
    source="least squares; small-sample AIC n·ln(RSS/n) + 2k + 2k(k+1)/(n−k−1); left out by leverage",
    works=(MARQUARDT, BURNHAM),
    checked="NIST StRD DanWood and Misra1a to 6 digits; numpy.polyfit; scipy.optimize.curve_fit",
    limits="errors in y alone, of one size; not beyond the points",
)
def fit_calibration(x: Sequence[float], y: Sequence[float], form: str) -> CalibrationFit:
    """A curve of one form through measured pairs.

    Args:
        x: the known quantity, one of each pair
        y: what the sensor said
        form: line, parabola, cubic, power, exponential, saturating, reciprocal, or table: a broken line whose places
            are spread evenly over the points, as many as the small-sample AIC has
    Returns:
        coefficients: a, b, c … of the form; of a table its places, then what the sensor says at each
        standard_errors: of each coefficient
        residual_sd: standard deviation of what is left
        aicc: small-sample AIC; the form with the least explains most with least
        cross_error: root mean square error of a point that was left out
    Raises:
        ValueError: lists of different length, too few points, a form that does not exist or cannot go through them.
    """
    require(form in FORMS, f"form is one of {', '.join(FORMS)}")
    require(len(x) == len(y), "there is one x for each y")
    require(all(map(math.isfinite, [*x, *y])), "every figure is finite")
    found = _fitted(form, x, y)
    if found is None:
        raise Impossible(f"a {form} does not go through these: more points, more different x, or another form")
    coefficients, cover, left = found
    n, count = len(x), free_of(form, coefficients)
    sd = math.sqrt(left / (n - count))
    errors = tuple(sd * math.sqrt(max(float(cover[i, i]), 0.0)) for i in range(count))
    without = _left_out(form, coefficients, cover, x, y)
    return CalibrationFit(
        coefficients, errors, sd, _aicc(n, count, left), math.sqrt(math.fsum(e * e for e in without) / n)
    )


def _aicc(n: int, count: int, left: float) -> float:
    k = count + 1  # the spread is one more
    rest = 2 * k * (k + 1) / (n - k - 1) if n > k + 1 else math.inf
    return n * math.log(max(left, 1e-300) / n) + 2 * k + rest


def free_of(form: str, coefficients: Sequence[float]) -> int:
    """How many of the coefficients the points decide: of a table what it says at its places, not the places."""
    return len(coefficients) // 2 if form == "table" else len(coefficients)


def _left_out(
    form: str, coefficients: Sequence[float], cover: Any, x: Sequence[float], y: Sequence[float]
) -> list[float]:  # fmt: skip
    """How far each point is from the curve through the others, e/(1 − h) by its leverage: exact for polynomials, for
    bent curves as far as they are straight there (Allen 1974, PRESS).
    """
    import numpy as np

    slopes = _slopes(form, np.asarray(coefficients), np.asarray(x, float))
    hat = np.einsum("ij,jk,ik->i", slopes, cover, slopes)
    rest = np.asarray(y, float) - _curve(form, np.asarray(coefficients), np.asarray(x, float))
    return [float(v) for v in rest / np.maximum(1 - hat, 1e-9)]


def odd_points(form: str, x: Sequence[float], y: Sequence[float], times: float) -> list[int]:
    """Numbers from 0 of points so many spreads or more from a curve through the others (deleted residuals; Draper &
    Smith, Applied Regression Analysis, 3rd edition, chapter 8, from memory).
    """
    found = _fitted(form, x, y)
    if found is None or len(x) <= free_of(form, found[0]) + 1:
        return []
    coefficients, cover, left = found
    without = _left_out(form, coefficients, cover, x, y)
    rest = [v - value_of(form, coefficients, u) for u, v in zip(x, y, strict=True)]
    free = len(x) - free_of(form, coefficients) - 1
    odd = []
    for n, (off, e) in enumerate(zip(without, rest, strict=True)):
        spread = math.sqrt(max(left - e * off, 0.0) / free)
        if abs(off) > 1e-9 * max(abs(y[n]), 1e-12) and abs(e) > times * spread * math.sqrt(max(e / off, 0.0)):
            odd.append(n)
    return odd


def value_of(form: str, coefficients: Sequence[float], x: float) -> float:
    """The curve at a place; NaN where it has no value there."""
    try:
        if form in DEGREE:
            return math.fsum(c * x**n for n, c in enumerate(coefficients))
        a, b = coefficients[0], coefficients[1]
        if form == "table":
            return _between(coefficients, x)[0]
        if form == "power":
            return a * x**b if x > 0 else 0.0 if x == 0 and b > 0 else math.nan
        if form == "exponential":
            return a * math.exp(b * x)
        if form == "saturating":
            return a * -math.expm1(-b * x)
        return a + b / (x + coefficients[2])
    except (OverflowError, ZeroDivisionError):
        return math.nan


def _fitted(form: str, x: Sequence[float], y: Sequence[float]) -> tuple[tuple[float, ...], Any, float] | None:
    """Coefficients, the inverse of JᵀJ, and the sum of squares left; None where the points do not decide them."""
    import numpy as np

    with np.errstate(all="ignore"):  # what is not finite is refused below
        return _solved(form, x, y)


def _solved(form: str, x: Sequence[float], y: Sequence[float]) -> tuple[tuple[float, ...], Any, float] | None:
    import numpy as np

    xs, ys = np.asarray(x, float), np.asarray(y, float)
    if form == "table":
        return _table(xs, ys)
    count = DEGREE[form] + 1 if form in DEGREE else 3 if form == "reciprocal" else 2
    if len(xs) <= count or len(set(x)) < count or (form == "power" and (xs <= 0).any()):
        return None
    if form in DEGREE:
        found = _polynomial(count, xs, ys)
    else:
        starts = [s for s in _starts(form, xs, ys) if all(map(math.isfinite, s))]
        tries = [t for s in starts if (t := _marquardt(form, s, xs, ys, FEW_STEPS)) is not None]
        near = min(tries, key=lambda t: t[1], default=None)
        found = _marquardt(form, near[0], xs, ys, MOST_STEPS) if near is not None else None
    if found is None or not np.isfinite(found[0]).all() or not math.isfinite(found[1]):
        return None
    jacobian = _slopes(form, found[0], xs)
    scale = np.sqrt((jacobian**2).sum(axis=0))
    if not np.isfinite(scale).all() or not (scale > 0).all():
        return None
    try:
        cover = np.linalg.inv((jacobian / scale).T @ (jacobian / scale)) / np.outer(scale, scale)
    except np.linalg.LinAlgError:
        return None
    return (tuple(float(c) for c in found[0]), cover, found[1]) if np.isfinite(cover).all() else None


def _table(xs: Any, ys: Any) -> tuple[tuple[float, ...], Any, float] | None:
    """The broken line with the least small-sample AIC, by least squares; None where points are too few."""
    import numpy as np

    distinct = np.unique(xs)
    best: tuple[tuple[float, ...], Any, float] | None = None
    least = math.inf
    for count in range(FEWEST_PLACES, min(MOST_PLACES, len(distinct), len(xs) - 2) + 1):
        places = distinct[np.round(np.linspace(0, len(distinct) - 1, count)).astype(int)]
        design = _hats(places, xs)
        solved, _, rank, _ = np.linalg.lstsq(design, ys, rcond=None)
        if rank < count:
            continue
        left = float(((ys - design @ solved) ** 2).sum())
        aicc = _aicc(len(xs), count, left)
        if aicc < least:
            least = aicc
            coefficients = tuple(float(v) for v in (*places, *solved))
            best = coefficients, np.linalg.inv(design.T @ design), left
    return best


def _hats(places: Any, xs: Any) -> Any:
    """What each place of a table counts at some quantities, a column each; both ends run on straight."""
    import numpy as np

    n = np.clip(np.searchsorted(places, xs, side="right") - 1, 0, len(places) - 2)
    share = (xs - places[n]) / (places[n + 1] - places[n])
    design = np.zeros((len(xs), len(places)))
    rows = np.arange(len(xs))
    design[rows, n] = 1 - share
    design[rows, n + 1] = share
    return design


def _between(coefficients: Sequence[float], x: float) -> tuple[float, float]:
    """What a table says at a quantity, and its slope there."""
    count = len(coefficients) // 2
    places, says = coefficients[:count], coefficients[count:]
    n = min(max(bisect_right(places, x) - 1, 0), count - 2)
    slope = (says[n + 1] - says[n]) / (places[n + 1] - places[n])
    return says[n] + slope * (x - places[n]), slope


def _polynomial(count: int, xs: Any, ys: Any) -> tuple[Any, float] | None:
    """By orthogonal columns of centred, scaled places, then unfolded into powers of x."""
    import numpy as np

    middle, half = float(xs.mean()), float(np.ptp(xs)) / 2
    if not half > 0:
        return None
    t = (xs - middle) / half
    solved, _, rank, _ = np.linalg.lstsq(np.vander(t, count, increasing=True), ys, rcond=None)
    if rank < count:
        return None
    unfolded = [
        math.fsum(float(s) / half**k * math.comb(k, n) * (-middle) ** (k - n) for k, s in enumerate(solved) if k >= n)
        for n in range(count)
    ]
    coefficients = np.array(unfolded)
    return coefficients, float(((ys - np.vander(xs, count, increasing=True) @ coefficients) ** 2).sum())


def _starts(form: str, xs: Any, ys: Any) -> list[tuple[float, ...]]:
    """Where to begin: the form made straight by logarithms, or by trying its bend."""
    import numpy as np

    with np.errstate(all="ignore"):
        if form in {"power", "exponential"}:
            sign = 1.0 if ys.sum() >= 0 else -1.0
            good = ys * sign > 0
            if good.sum() < 2:
                return [(float(ys.mean()), 0.0)]
            places = np.log(xs[good]) if form == "power" else xs[good]
            log_a, slope = _line(places, np.log(ys[good] * sign))
            return [(sign * float(np.exp(log_a)), float(slope)), (float(ys.mean()), 0.0)]
        reach = float(np.abs(xs).max()) or 1.0
        made: list[tuple[float, ...]] = []
        if form == "saturating":
            for b in (share / reach for share in (0.1, 1.0, 5.0)):
                rise = -np.expm1(-b * xs)
                made.append((float(rise @ ys / (rise @ rise)), b))
            return made
        low, span = float(xs.min()), float(np.ptp(xs)) or 1.0
        for c in (-low + span * f for f in (0.01, 0.1, 0.5, 2.0, 10.0)):
            made.append((*_line(1 / (xs + c), ys), c))
        return made


def _line(xs: Any, ys: Any) -> tuple[float, float]:
    """Level and slope of a straight line; level alone where all places are one."""
    away = xs - xs.mean()
    spread = float(away @ away)
    slope = float(away @ ys) / spread if spread > 0 else 0.0
    return float(ys.mean()) - slope * float(xs.mean()), slope


def _marquardt(form: str, start: Sequence[float], xs: Any, ys: Any, most: int) -> tuple[Any, float] | None:
    """Steps between steepest descent and Gauss and Newton until none is better."""
    import numpy as np

    now, damp = np.asarray(start, float), 1e-3
    with np.errstate(all="ignore"):
        rest = ys - _curve(form, now, xs)
        least = float(rest @ rest)
        if not math.isfinite(least):
            return None
        for _ in range(most):
            slopes = _slopes(form, now, xs)
            normal, pull = slopes.T @ slopes, slopes.T @ rest
            try:
                step = np.linalg.solve(normal + damp * np.diag(np.diag(normal) + 1e-300), pull)
            except np.linalg.LinAlgError:
                return None
            new = now + step
            rest_new = ys - _curve(form, new, xs)
            sum_new = float(rest_new @ rest_new)
            if math.isfinite(sum_new) and sum_new <= least:
                settled = np.all(np.abs(step) <= 1e-12 * (np.abs(new) + 1e-300))
                now, rest, least, damp = new, rest_new, sum_new, damp / 10
                if settled:
                    break
            else:
                damp *= 10
                if damp > 1e12:
                    break
    return now, least


def _curve(form: str, c: Any, xs: Any) -> Any:
    import numpy as np

    if form in DEGREE:
        return np.vander(xs, len(c), increasing=True) @ c
    if form == "table":
        return _hats(c[: len(c) // 2], xs) @ c[len(c) // 2 :]
    if form == "power":
        return c[0] * xs ** c[1]
    if form == "exponential":
        return c[0] * np.exp(c[1] * xs)
    if form == "saturating":
        return -c[0] * np.expm1(-c[1] * xs)
    return c[0] + c[1] / (xs + c[2])


def _slopes(form: str, c: Any, xs: Any) -> Any:
    """How the curve moves with each coefficient, a column each."""
    import numpy as np

    with np.errstate(all="ignore"):
        if form in DEGREE:
            return np.vander(xs, len(c), increasing=True)
        if form == "table":
            return _hats(c[: len(c) // 2], xs)
        if form == "power":
            return np.vstack([xs ** c[1], c[0] * xs ** c[1] * np.log(xs)]).T
        if form == "exponential":
            return np.vstack([np.exp(c[1] * xs), c[0] * xs * np.exp(c[1] * xs)]).T
        if form == "saturating":
            return np.vstack([-np.expm1(-c[1] * xs), c[0] * xs * np.exp(-c[1] * xs)]).T
        return np.vstack([np.ones_like(xs), 1 / (xs + c[2]), -c[1] / (xs + c[2]) ** 2]).T


Band = Callable[[float], float]


def band_of(form: str, fit: CalibrationFit, x: Sequence[float], confidence: float = 0.95) -> Band:
    """Half the prediction band: how far one new reading lies from the curve, so many times of a hundred.

    s·t·√(1 + gᵀ(JᵀJ)⁻¹g), g the slopes of the curve with its coefficients (Draper & Smith, Applied Regression Analysis,
    3rd edition, chapter 24, from memory).
    """
    import numpy as np

    jacobian = _slopes(form, np.asarray(fit.coefficients), np.asarray(x, float))
    scale = np.sqrt((jacobian**2).sum(axis=0))
    cover = np.linalg.pinv((jacobian / scale).T @ (jacobian / scale)) / np.outer(scale, scale)
    reach = fit.residual_sd * t_quantile((1 + confidence) / 2, len(x) - free_of(form, fit.coefficients))

    def half(at: float) -> float:
        slopes = _slopes(form, np.asarray(fit.coefficients), np.asarray([at], float))[0]
        spread = float(slopes @ cover @ slopes)
        return reach * math.sqrt(1 + max(spread, 0.0)) if math.isfinite(spread) else math.inf

    return half


def slope_of(form: str, coefficients: Sequence[float], x: float) -> float:
    """How much the reading changes with the quantity at a place."""
    if form in DEGREE:
        return math.fsum(n * c * x ** (n - 1) for n, c in enumerate(coefficients) if n)
    a, b = coefficients[0], coefficients[1]
    try:
        if form == "table":
            return _between(coefficients, x)[1]
        if form == "power":
            return a * b * x ** (b - 1) if x > 0 else math.nan
        if form == "exponential":
            return a * b * math.exp(b * x)
        if form == "saturating":
            return a * b * math.exp(-b * x)
        return -b / (x + coefficients[2]) ** 2
    except (OverflowError, ZeroDivisionError):
        return math.nan


def place_of(form: str, coefficients: Sequence[float], y: float, low: float, high: float) -> float | None:
    """The quantity that gives a reading, between two ends where the curve only rises or only falls; None outside."""
    at = [value_of(form, coefficients, v) for v in (low, high)]
    if any(math.isnan(v) for v in at) or not min(at) <= y <= max(at) or at[0] == at[1]:
        return None
    rises = at[1] > at[0]
    for _ in range(200):
        middle = (low + high) / 2
        if middle in {low, high}:
            break
        below = (value_of(form, coefficients, middle) < y) == rises
        low, high = (middle, high) if below else (low, middle)
    return (low + high) / 2


def is_monotonic(form: str, coefficients: Sequence[float], low: float, high: float) -> bool:
    """Whether the curve only rises or only falls between two ends, so that every reading has one quantity."""
    steps = [slope_of(form, coefficients, low + (high - low) * n / 200) for n in range(201)]
    return all(s > 0 for s in steps) or all(s < 0 for s in steps)
