"""Two measures of the whole project against each other: one point a candidate, those not bettered by another joined."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.choose.alternatives import Alternative
from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment


class Point(Struct, frozen=True):
    """A candidate at its two measures; `alternative` is None for what is in place now."""

    title: str
    x: Measure
    y: Measure
    alternative: Alternative | None
    best: bool
    """Whether nothing else is better in one measure and no worse in the other."""

    @property
    def breaks(self) -> bool:
        """Whether it breaks a hard requirement."""
        return self.alternative is not None and bool(self.alternative.breaks)


def better_first(measure: Measure) -> float:
    """+1 where less is better, −1 where more is."""
    return 1.0 if measure.direction == "at most" else -1.0


def not_bettered(points: Sequence[tuple[float, float]]) -> list[bool]:
    """For each point (less is better in both) whether no other is at most as large in both and less in one.

    Sorts once and walks along: n log n. Equal points do not better each other.
    """
    order = sorted(range(len(points)), key=lambda i: points[i])
    found = [False] * len(points)
    least, least_at = float("inf"), (float("nan"), float("nan"))
    for i in order:
        if points[i][1] < least or points[i] == least_at:
            found[i] = True
            least, least_at = points[i][1], points[i]
    return found


def trade_off(assessment: Assessment, tries: Sequence[Alternative], x: str, y: str) -> tuple[Point, ...]:
    """Points of what is in place now and of every alternative that has a figure for both measures.

    Those that break a hard requirement are shown, but better nobody.
    """
    title = "now"
    rows: list[tuple[str, Assessment, Alternative | None]] = [(title, assessment, None)]
    rows += [(t.title, t.ripple.after, t) for t in tries]
    known = [
        (name, a.measure(x), a.measure(y), t)
        for name, a, t in rows
        if _finite(a.measure(x).value) and _finite(a.measure(y).value)
    ]
    fair = [k for k in known if k[3] is None or not k[3].breaks]
    flags = not_bettered([(_cost(mx), _cost(my)) for _, mx, my, _ in fair])
    best = {id(k): flag for k, flag in zip(fair, flags, strict=True)}
    return tuple(Point(k[0], k[1], k[2], k[3], best.get(id(k), False)) for k in known)


def _cost(measure: Measure) -> float:
    assert measure.value is not None
    return better_first(measure) * measure.value


def _finite(value: float | None) -> bool:
    return value is not None and abs(value) != float("inf") and value == value
