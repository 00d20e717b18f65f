"""A log drawn: least and most of each stretch of time, against what is expected."""

from typing import Any

from wired_union.instruments.log import Log
from wired_union.picture.axis import ticks, time_ticks, with_room
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Shape, hint_picture
from wired_union.units import show

HIGH, LEFT, TOP, AXIS_H, COLUMN = 120.0, 58.0, 18.0, 24.0, 1.5


def log_picture(log: Log, kit: Kit, width: float, expected: float | None = None) -> Picture:
    """As many stretches as there are pixels; each from its least to its most, so that no peak is lost."""
    if log.count < 2:
        return hint_picture("waiting for readings …", kit, width)
    left, right, top, high = kit.px(LEFT), width - kit.px(10), kit.px(TOP), kit.px(TOP + HIGH)
    t, least, most = log.columns(int((right - left) / COLUMN))
    ends = [float(least.min()), float(most.max()), *([expected] if expected is not None else [])]
    y0, y1 = with_room(min(ends), max(ends), 0.1)
    x0, x1 = float(t[0]), max(float(log.times_s[-1]), float(t[0]) + 1e-9)
    shapes: list[Shape] = []
    for value in ticks(y0, y1, 4):
        y = high - (value - y0) / (y1 - y0) * (high - top)
        shapes.append(Line(left, y, right, y, "line", 1.0))
        shapes.append(kit.figures(left - kit.px(6), y, show(value, log.unit), "tiny", "mute", anchor="end"))
    for seconds in time_ticks(x1 - x0, 6):
        x = left + seconds / (x1 - x0) * (right - left)
        shapes.append(kit.figures(x, high + kit.px(11), show(seconds, "s"), "tiny", "mute", anchor="middle"))
    shapes.append(_band(t, least, most, (x0, x1, y0, y1), (left, right, top, high)))
    if expected is not None:
        y = high - (expected - y0) / (y1 - y0) * (high - top)
        shapes.append(Line(left, y, right, y, "copper", 1.6, (5.0, 4.0)))
        told = f"{show(expected, log.unit)} expected"
        shapes.append(kit.words(right, top / 2, told, "tiny", "copper", bold=True, anchor="end"))
    return Picture(width, high + kit.px(AXIS_H), tuple(shapes))


def _band(
    t: Any, least: Any, most: Any, span: tuple[float, float, float, float], room: tuple[float, float, float, float]
) -> Shape:
    """The readings as one shape, never thinner than a line."""
    x0, x1, y0, y1 = span
    left, right, start, high = room
    xs = left + (t - x0) / (x1 - x0) * (right - left)
    top, low = (high - (v - y0) / (y1 - y0) * (high - start) for v in (most, least))
    if (most == least).all():  # no more readings than places: a line, which a thin band would hide where it is steep
        return Poly(tuple(zip(xs.tolist(), top.tolist(), strict=True)), "slate", width=1.4)
    above = list(zip(xs.tolist(), (top - 0.7).tolist(), strict=True))
    below = list(zip(xs.tolist(), (low + 0.7).tolist(), strict=True))
    return Poly((*above, *reversed(below)), fill="slate")


def log_words(log: Log) -> str:
    """ "812 readings: 11.9 V on average, 24 mV of spread, 11.8 V to 12 V; 2 wrong answers left out" """
    if not log.count:
        return log.said
    v = log.values
    said = f"{log.count} reading{'s' if log.count > 1 else ''}: {show(log.mean, log.unit)} on average"
    if log.spread is not None:
        said += f", {show(log.spread, log.unit)} of spread, {show(float(v.min()), log.unit)} to"
        said += f" {show(float(v.max()), log.unit)}"
    wrong = f"; {log.wrong} wrong answer{'s' if log.wrong > 1 else ''} left out" if log.wrong else ""
    return f"{said}{wrong}.{f' {log.said}' if log.said else ''}"
