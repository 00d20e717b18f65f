"""Two measures against each other: a point a candidate, what is not bettered joined, the limits as posts."""

from collections.abc import Callable, Sequence

from msgspec import Struct

from wired_union.choose.tradeoff import Point, better_first
from wired_union.kernel.results import Measure
from wired_union.picture.axis import ticks, time_ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape
from wired_union.subjects.candidates.pick import PointMark
from wired_union.units import show, show_change

POST_W = 1.6
"""The line of a limit; no name stands on it."""


class _Axis(Struct, frozen=True):
    low: float
    high: float
    start: float
    end: float

    def at(self, value: float) -> float:
        return self.start + (value - self.low) / (self.high - self.low) * (self.end - self.start)


def trade_off_picture(points: Sequence[Point], kit: Kit, width: float, height: float, *, chosen: str = "") -> Picture:
    """Regions are "point:N" by place in `points`; `chosen` is the part id of one of them."""
    if len(points) < 2:
        words = kit.words(0, 14, "No two candidates have figures for both measures yet.", "small", "mute")
        return Picture(width, height, (words,))
    left, bottom = kit.px(52), height - kit.px(34)
    x = _axis([p.x for p in points], left, width - kit.px(14))
    y = _axis([p.y for p in points], bottom, kit.px(20))
    shapes = [*_limits(points[0].x, points[0].y, x, y), *_axes(points[0], x, y, kit)]
    best = sorted((p for p in points if p.best), key=lambda p: p.x.value or 0.0)
    shapes.append(Poly(tuple((x.at(p.x.value or 0.0), y.at(p.y.value or 0.0)) for p in best), "holds", width=1.6))
    regions: list[Region] = []
    taken = [(s.x1 - 2, s.y1 - 2, s.x2 + 2, s.y2 + 2) for s in shapes if isinstance(s, Line) and s.width == POST_W]
    for i, p in enumerate(points):
        px, py = x.at(p.x.value or 0.0), y.at(p.y.value or 0.0)
        part = p.alternative.candidate.part.id if p.alternative and p.alternative.candidate else ""
        shapes += _dot(p, px, py, kit, chosen=bool(chosen) and part == chosen)
        taken.append((px - 5, py - 5, px + 5, py + 5))
        regions.append(Region(f"point:{i}", px - 8, py - 8, 16, 16, reading(p), of=PointMark(i)))
    shapes += _names(points, x, y, kit, width, taken, chosen)
    return Picture(width, height, tuple(shapes), tuple(regions))


def reading(point: Point) -> str:
    """A point in words."""
    broken = f"; breaks: {point.alternative.breaks[0]}" if point.breaks and point.alternative else ""
    best = "; nothing betters it" if point.best else ""
    name = "what is there now" if point.alternative is None else point.title
    return f"{name}: {point.x.label} {point.x.shown}, {point.y.label} {point.y.shown}{best}{broken}"


def _axis(measures: Sequence[Measure], start: float, end: float) -> _Axis:
    values = [m.value for m in measures if m.value is not None]
    limit = measures[0].limit
    low, high = min(values), max(values)
    span = (high - low) or abs(high) or 1.0
    if limit is not None and low - 0.6 * span <= limit <= high + 0.6 * span:
        low, high = min(low, limit), max(high, limit)
    span = (high - low) or abs(high) or 1.0
    return _Axis(low - 0.07 * span, high + 0.07 * span, start, end)


def _limits(mx: Measure, my: Measure, x: _Axis, y: _Axis) -> list[Shape]:
    """The side of each limit that breaks, shaded, and a post along it."""
    shapes: list[Shape] = []
    top, bottom = min(y.start, y.end), max(y.start, y.end)
    if mx.limit is not None and x.low < mx.limit < x.high:
        at = x.at(mx.limit)
        edge = x.end if better_first(mx) > 0 else x.start
        shapes.append(Box(min(at, edge), top, abs(edge - at), bottom - top, "breaks_soft"))
        shapes.append(Line(at, top, at, bottom, "ink", POST_W))
    if my.limit is not None and y.low < my.limit < y.high:
        at = y.at(my.limit)
        edge = y.end if better_first(my) > 0 else y.start
        shapes.append(Box(x.start, min(at, edge), x.end - x.start, abs(edge - at), "breaks_soft"))
        shapes.append(Line(x.start, at, x.end, at, "ink", POST_W))
    return shapes


def _axes(point: Point, x: _Axis, y: _Axis, kit: Kit) -> list[Shape]:
    shapes: list[Shape] = [
        Line(x.start, y.start, x.end, y.start, "mute"),
        Line(x.start, y.start, x.start, y.end, "mute"),
    ]
    for value, text in _labelled(point.x, x):
        shapes.append(Line(x.at(value), y.start, x.at(value), y.start + 4, "mute"))
        shapes.append(kit.figures(x.at(value), y.start + kit.px(12), text, "small", "mute", anchor="middle"))
    for value, text in _labelled(point.y, y):
        shapes.append(Line(x.start - 4, y.at(value), x.start, y.at(value), "mute"))
        shapes.append(kit.figures(x.start - 7, y.at(value), text, "small", "mute", anchor="end"))
    arrow_x = "less is better" if better_first(point.x) > 0 else "more is better"
    arrow_y = "less is better" if better_first(point.y) > 0 else "more is better"
    shapes.append(kit.words(x.end, y.start + kit.px(26), f"{point.x.label}, {arrow_x}", "small", "ink", anchor="end"))
    shapes.append(kit.words(0, kit.px(8), f"{point.y.label}, {arrow_y}", "small", "ink"))
    return shapes


def _labelled(now: Measure, axis: _Axis) -> list[tuple[float, str]]:
    """Ticks with their texts; where three figures cannot tell them apart, as differences from what is there now."""
    found = _ticks(now, axis)
    texts = [show(v, now.unit) for v in found]
    if len(set(texts)) == len(texts) or now.value is None:
        return list(zip(found, texts, strict=True))
    shifted = _Axis(axis.low - now.value, axis.high - now.value, axis.start, axis.end)
    return [(v + now.value, show_change(v, now.unit)) for v in ticks(shifted.low, shifted.high)]


def _ticks(measure: Measure, axis: _Axis) -> list[float]:
    make: Callable[[float, float], list[float]] = ticks
    if measure.unit == "s" and axis.high >= 180:
        step = next((t for t in time_ticks(axis.high - axis.low) if t > 0), 1.0)
        first = -(-axis.low // step)
        return [n * step for n in range(int(first), int(axis.high // step) + 1)]
    return make(axis.low, axis.high)


def _dot(p: Point, x: float, y: float, kit: Kit, *, chosen: bool) -> list[Shape]:
    shapes: list[Shape] = [Ring(x, y, kit.px(9), "ink", 1.4)] if chosen else []
    if p.alternative is None:
        return [*shapes, Ring(x, y, kit.px(6), "ink", 2.2, (), "card"), Ring(x, y, kit.px(1.8), "ink", 1.0, (), "ink")]
    if p.breaks:
        return [*shapes, Line(x - 3.5, y - 3.5, x + 3.5, y + 3.5, "unknown", 1.4),
                Line(x - 3.5, y + 3.5, x + 3.5, y - 3.5, "unknown", 1.4)]  # fmt: skip
    ink = "holds" if p.best else "slate"
    return [*shapes, Ring(x, y, kit.px(4.5), ink, 1.4, (), ink if p.best else "slate_soft")]


def _names(
    points: Sequence[Point], x: _Axis, y: _Axis, kit: Kit, width: float,
    taken: list[tuple[float, float, float, float]], chosen: str,
) -> list[Shape]:  # fmt: skip
    """Names on the line itself, of those that are not bettered, wherever one has room."""
    shapes: list[Shape] = []
    for p in sorted(points, key=lambda p: (p.alternative is not None, not p.best)):
        if not p.best and p.alternative is not None:
            continue
        title = p.title if p.alternative is None else kit.cut(p.title, kit.px(170), "small")
        wide, tall = kit.width(title, "small") + 4, kit.px(14)
        px, py = x.at(p.x.value or 0.0), y.at(p.y.value or 0.0)
        for dx, dy in ((9.0, -11.0), (9.0, 11.0), (-9.0 - wide, -11.0), (-9.0 - wide, 11.0), (12.0, 0.0)):
            box = (px + dx, py + dy - tall / 2, px + dx + wide, py + dy + tall / 2)
            inside = x.start <= box[0] and box[2] <= width and min(y.start, y.end) - 14 <= box[1] and box[3] <= y.start
            if inside and not any(_overlap(box, other) for other in taken):
                shapes.append(kit.words(px + dx, py + dy, title, "small", "ink", bold=p.alternative is None))
                taken.append(box)
                break
    return shapes


def _overlap(a: tuple[float, float, float, float], b: tuple[float, float, float, float]) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]
