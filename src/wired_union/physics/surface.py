"""A surface through what was read at mixes of two inputs: flat, twisted or bent."""

import math
from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from wired_union.physics.beta import t_quantile
from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import BURNHAM

SURFACES = ("plane", "twisted", "bent")
SURFACE_WRITTEN = {
    "plane": "a + b·x + c·y", "twisted": "a + b·x + c·y + d·x·y", "bent": "a + b·x + c·y + d·x·y + e·x² + f·y²",
}  # fmt: skip


class SurfaceFit(Struct, frozen=True):
    coefficients: tuple[float, ...]
    residual_sd: float
    aicc: float
    worst: float


@method(
    "fit-surface",
    source="least squares; prediction band s·t·√(1 + gᵀ(XᵀX)⁻¹g) at each point, the largest; small-sample AIC",
    works=(BURNHAM,),
    checked="statsmodels OLS and its prediction intervals",
    limits="errors in the value alone, of one size; not beyond the points",
)
def fit_surface(
    x: Sequence[float], y: Sequence[float], value: Sequence[float], form: str, confidence: float = 0.95
) -> SurfaceFit:  # fmt: skip
    """A surface of one form through points.

    Args:
        x: first input of each point
        y: second input
        value: what was read there
        form: plane, twisted or bent
        confidence: of the band
    Returns:
        coefficients: a, b, c … of the form
        residual_sd: standard deviation of what is left
        aicc: small-sample AIC; the form with the least explains most with least
        worst: half the prediction band where it is widest among the points
    Raises:
        ValueError: lists of different length, a form that does not exist, or too few points of different places.
    """
    require(form in SURFACES, f"form is one of {', '.join(SURFACES)}")
    require(len(x) == len(y) == len(value), "there are two inputs for each value")
    require(all(map(math.isfinite, (*x, *y, *value))), "every figure is finite")
    require(0 < confidence < 1, "confidence is between 0 and 1")
    coefficients, left, spread = _solved(form, columns(form, x, y), value)
    n, count = len(value), len(coefficients)
    sd = math.sqrt(left / (n - count))
    worst = sd * t_quantile((1 + confidence) / 2, n - count) * math.sqrt(1 + spread)
    k = count + 1
    rest = 2 * k * (k + 1) / (n - k - 1) if n > k + 1 else math.inf
    return SurfaceFit(coefficients, sd, n * math.log(max(left, 1e-300) / n) + 2 * k + rest, worst)


def _solved(form: str, raw: Any, value: Sequence[float]) -> tuple[tuple[float, ...], float, float]:
    """Coefficients, the sum of squares left, and the largest leverage. Raises Impossible where points do not decide."""
    import numpy as np

    n, count = raw.shape
    scale = np.abs(raw).max(axis=0) if n else np.ones(count)
    if n < count + 1 or not (scale > 0).all():
        raise Impossible(f"a {form} surface needs {count + 1} points at different places")
    design = raw / scale
    solved, _, rank, _ = np.linalg.lstsq(design, np.asarray(value, float), rcond=1e-10)
    if rank < count:
        raise Impossible(f"a {form} surface is not decided: spread the points over both inputs")
    left = float(((np.asarray(value, float) - design @ solved) ** 2).sum())
    cover = np.linalg.inv(design.T @ design)
    spread = float(np.einsum("ij,jk,ik->i", design, cover, design).max())
    return tuple(float(c) for c in solved / scale), left, spread


def columns(form: str, x: Sequence[float], y: Sequence[float]) -> Any:
    """What each coefficient of a form counts at each point, (points, coefficients)."""
    import numpy as np

    u, v = np.asarray(x, float), np.asarray(y, float)
    every = [np.ones_like(u), u, v, u * v, u * u, v * v]
    return np.column_stack(every[: {"plane": 3, "twisted": 4, "bent": 6}[form]])


def surface_value(form: str, coefficients: Sequence[float], x: float, y: float) -> float:
    """The surface at one place."""
    every = (1.0, x, y, x * y, x * x, y * y)
    return math.fsum(c * e for c, e in zip(coefficients, every, strict=False))
