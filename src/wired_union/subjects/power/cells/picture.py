"""Cells as they are wired, drawn; and a measured discharge with what fits it."""

from collections.abc import Sequence

from wired_union.picture.axis import ticks, time_ticks, with_room
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Shape
from wired_union.project.model import Item
from wired_union.subjects.power.cells.arrange import said
from wired_union.units import show

CELL_W, CELL_H, GAP, MOST_SERIES, MOST_PARALLEL = 30.0, 15.0, 8.0, 8, 6


def cells_picture(item: Item, kit: Kit, width: float) -> Picture:
    """Strings under each other, cells in a row; what is beyond is said."""
    pack = item.part.pack
    assert pack is not None
    series, parallel = min(pack.series, MOST_SERIES), min(pack.parallel, MOST_PARALLEL)
    step = min(kit.px(CELL_W + GAP), (width - kit.px(24)) / series)
    wide, high, row = step - kit.px(GAP), kit.px(CELL_H), kit.px(CELL_H + GAP)
    shapes: list[Shape] = []
    x0, x1 = kit.px(8), kit.px(8) + step * series + kit.px(8)
    for p in range(parallel):
        y = kit.px(6) + p * row + high / 2
        shapes.append(Line(x0, y, x1, y, "copper", 1.4))
        for s in range(series):
            x = kit.px(14) + s * step
            shapes.append(Box(x, y - high / 2, wide, high, "copper_soft", "copper", 2))
            shapes.append(Box(x + wide, y - high / 5, kit.px(2.5), high / 2.5, "copper"))
    bottom = kit.px(6) + (parallel - 1) * row + high / 2
    if parallel > 1:
        shapes += [Line(x, kit.px(6) + high / 2, x, bottom, "copper", 1.4) for x in (x0, x1)]
    words = said(pack.series, pack.parallel)
    shapes.append(kit.words(0, bottom + high / 2 + kit.px(14), words, "small", "mute"))
    return Picture(width, bottom + high / 2 + kit.px(26), tuple(shapes))


def fit_picture(
    times_s: Sequence[float], volts: Sequence[float], fitted: Sequence[float], kit: Kit, width: float, height: float
) -> Picture:
    """What was measured as a line, what fits it dashed over it."""
    left, right, y0, y1 = kit.px(54), width - kit.px(10), kit.px(16), height - kit.px(24)
    low, high = with_room(min(*volts, *fitted), max(*volts, *fitted), 0.06)
    whole = times_s[-1] - times_s[0]
    shapes: list[Shape] = []

    def point(t: float, v: float) -> tuple[float, float]:
        return left + (t - times_s[0]) / whole * (right - left), y1 - (v - low) / (high - low) * (y1 - y0)

    for mark in ticks(low, high, 4):
        y = point(times_s[0], mark)[1]
        shapes.append(Line(left, y, right, y, "line"))
        shapes.append(kit.figures(left - 6, y, show(mark, "V"), "small", "mute", anchor="end"))
    for t in time_ticks(whole, 5):
        x = point(times_s[0] + t, low)[0]
        shapes.append(kit.figures(x, y1 + kit.px(12), show(t, "s") if t else "0", "small", "mute", anchor="middle"))
    every = max(len(times_s) // 400, 1)
    for row, ink, dash in ((volts, "ink", ()), (fitted, "copper", (5.0, 3.0))):
        line = tuple(point(t, v) for t, v in zip(times_s[::every], row[::every], strict=True))
        shapes.append(Poly(line, ink, width=1.8, dash=dash))
    shapes.append(kit.figures(left + 4, kit.px(6), "measured", "small", "ink", bold=True))
    shapes.append(kit.figures(left + kit.px(70), kit.px(6), "fitted", "small", "copper", bold=True))
    return Picture(width, height, tuple(shapes))
