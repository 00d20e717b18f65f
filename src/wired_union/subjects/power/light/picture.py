"""Energy in and out by the hour of a usual day, and how the charge goes over days with the worst week among them."""

import numpy as np

from wired_union.picture.axis import ticks, time_ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Shape
from wired_union.subjects.power.light.run import DAY_H, DAY_S, WEEK, Light, PackDay
from wired_union.subjects.power.picture_mission import thinned
from wired_union.units import show

DAY_H_PX, CHARGE_H_PX, GAP, LEFT, FOOT = 96.0, 108.0, 34.0, 54.0, 26.0


def light_picture(light: Light, day: PackDay, kit: Kit, width: float) -> Picture:
    """Above, watts in and out over a day; below, the charge over the days."""
    left, right = kit.px(LEFT), width - kit.px(10)
    shapes: list[Shape] = []
    top = (kit.px(16), kit.px(16 + DAY_H_PX))
    low = (top[1] + kit.px(GAP + 16), top[1] + kit.px(GAP + 16 + CHARGE_H_PX))
    _day(shapes, day, kit, left, right, top)
    times, charge = light.charge_over(day)
    _charge(shapes, times, charge, kit, left, right, low)
    said = f"{show(day.in_wh, 'Wh')} in, {show(day.out_wh, 'Wh')} out on a usual day"
    least = f"least charge {show(float(charge.min()), fraction=True)} of what is planned on"
    regions = (Region("day", left, top[0], right - left, top[1] - top[0], said),
               Region("days", left, low[0], right - left, low[1] - low[0], least))  # fmt: skip
    return Picture(width, low[1] + kit.px(FOOT), tuple(shapes), regions)


def _day(shapes: list[Shape], day: PackDay, kit: Kit, left: float, right: float, span: tuple[float, float]) -> None:
    out_w = day.out_wh / DAY_H
    most = max(float(day.usual_w.max()), out_w, 1e-9) * 1.12
    scale = (right - left) / DAY_H

    def at(watts: float) -> float:
        return span[1] - watts / most * (span[1] - span[0])

    for mark in ticks(0, most, 3):
        shapes.append(Line(left, at(mark), right, at(mark), "line"))
        shapes.append(kit.figures(left - 6, at(mark), show(mark, "W"), "small", "mute", anchor="end"))
    hours = (np.arange(len(day.usual_w)) + 0.5) * DAY_H / len(day.usual_w)
    for watts, ink, fill in ((day.usual_w, "moss", "soft"), (day.overcast_w, "unknown", "")):
        points = tuple((left + float(h) * scale, at(float(w))) for h, w in zip(hours, watts, strict=True))
        if fill:
            shapes.append(Poly(((left, span[1]), *points, (right, span[1])), "", fill))
        shapes.append(Poly(points, ink, width=1.8, dash=() if fill else (4.0, 3.0)))
    shapes.append(Line(left, at(out_w), right, at(out_w), "copper", 1.8))
    for hour in range(0, 25, 4):
        x = left + hour * scale
        shapes.append(Line(x, span[1], x, span[1] + 4, "line"))
        shapes.append(kit.figures(x, span[1] + kit.px(12), f"{hour} h", "small", "mute", anchor="middle"))
    legend = (("moss", f"in on a usual day {show(day.in_wh, 'Wh')}"), ("mute", f"overcast {show(day.dark_wh, 'Wh')}"),
              ("copper", f"out on average {show(day.out_wh, 'Wh')}"))  # fmt: skip
    shapes += _legend(legend, kit, left, span[0] - kit.px(7), right)


def _legend(legend: tuple[tuple[str, str], ...], kit: Kit, left: float, y: float, right: float) -> list[Shape]:
    """The entries in a row; where they do not fit beside each other, each is cut to its part of the row."""
    mark, gap = kit.px(14), kit.px(20)
    wide = [kit.width(words, "small", "figures", True) for _, words in legend]
    room = (right - left) / len(legend) - mark - gap
    tight = sum(wide) + len(wide) * (mark + gap) - gap > right - left
    shapes: list[Shape] = []
    x = left
    for (ink, words), own in zip(legend, wide, strict=True):
        said = kit.cut(words, room, "small", "figures", True) if tight else words
        shapes.append(Box(x, y - kit.px(4), kit.px(9), kit.px(9), ink))
        shapes.append(kit.figures(x + mark, y, said, "small", ink if ink != "moss" else "holds_text", bold=True))
        x += (room if tight else own) + mark + gap
    return shapes


def _charge(
    shapes: list[Shape], days: np.ndarray, charge: np.ndarray, kit: Kit, left: float, right: float,
    span: tuple[float, float],
) -> None:  # fmt: skip
    whole = float(days[-1])
    scale = (right - left) / whole

    def at(share: float) -> float:
        return span[1] - share * (span[1] - span[0])

    begin = float(int(whole) // 2 - WEEK // 2)
    shapes.append(Box(left + begin * scale, span[0], WEEK * scale, span[1] - span[0], "soft"))
    middle = left + (begin + WEEK / 2) * scale
    shapes.append(kit.figures(middle, span[0] - kit.px(7), "a week overcast", "small", "mute", anchor="middle"))
    for share in (0.0, 0.5, 1.0):
        shapes.append(Line(left, at(share), right, at(share), "line"))
        words = {0.0: "reserve", 0.5: "half", 1.0: "full"}[share]
        shapes.append(kit.figures(left - 6, at(share), words, "small", "mute", anchor="end"))
    points = thinned([(left + float(d) * scale, at(float(c))) for d, c in zip(days, charge, strict=True)])
    shapes.append(Poly(tuple(points), "breaks" if float(charge.min()) <= 0 else "ink", width=1.8))
    for t in time_ticks(whole * DAY_S, 8):
        x = left + t / DAY_S * scale
        shapes.append(Line(x, span[1], x, span[1] + 4, "line"))
        shapes.append(
            kit.figures(x, span[1] + kit.px(12), show(t, "s") if t else "0", "small", "mute", anchor="middle")
        )
    shapes.append(kit.figures(left + 4, span[0] - kit.px(7), "charge above the reserve", "small", "ink", bold=True))
