"""A signal chain as bars, dark at least, light up to the most; when each is due below, a post at its limit."""

from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, kept_inside
from wired_union.subjects.timing.results import ChainResult, StageBar
from wired_union.units import show

ROW = 31.0


def chain_picture(result: ChainResult, kit: Kit, width: float, limit: float | None, *, selected: int = -1) -> Picture:
    """Stages in order, each starting where the one before ends at its worst. Regions are "stage:i"."""
    rows, row = len(result.bars), kit.px(ROW)
    left, right = kit.px(150), width - kit.px(84)
    height = rows * row + kit.px(30)
    if not rows or result.latency is None:
        text = kit.words(kit.px(4), kit.px(16), _lacks(result), ink="mute")
        return Picture(width, kit.px(34), (text,))
    span = max(result.latency.most_s, limit or 0.0) * 1.02
    scale = span / (right - left)
    bottom = rows * row
    shapes: list[Shape] = []
    for t in ticks(0, span, 9):
        x = left + t / scale
        shapes.append(Line(x, 0, x, bottom + 3, "line"))
        shapes.append(kit.figures(x, bottom + kit.px(14), show(t, "s") if t else "0", "small", "mute", anchor="middle"))
    regions = []
    for i, bar in enumerate(result.bars):
        y = row * i + row / 2
        x = left + bar.start_s / scale
        least, most = max(bar.least_s / scale, 1.0), max(bar.most_s / scale, 1.5)
        if i == selected:
            shapes.append(Box(0, row * i + 1, width, row - 2, "soft", radius=3))
        costly = i == result.costliest
        name = kit.cut(bar.name, left - kit.px(14), "small", bold=costly)
        shapes.append(kit.words(left - kit.px(10), y, name, "small", bold=costly, anchor="end"))
        shapes.append(Box(x, y - kit.px(9), most, kit.px(18), "plum_soft", radius=2))
        shapes.append(Box(x, y - kit.px(9), least, kit.px(18), "plum", radius=2))
        shapes += _rhythm(bar, left, scale, span, y, kit)
        shapes.append(kit.figures(x + most + 6, y, span_words(bar.least_s, bar.most_s), "small", "mute"))
        said = bar_words(bar)
        regions.append(Region(f"stage:{i}", 0, row * i, width, row, said, of=i))
    if limit is not None:
        x = left + limit / scale
        shapes.append(Line(x, -2, x, bottom + 4, "ink", 2.0))
    return Picture(width, height, tuple(shapes), tuple(regions))


NEAREST = 5.0
"""Pixels between two due times that can still be told apart."""


def _rhythm(bar: StageBar, left: float, scale: float, span: float, y: float, kit: Kit) -> list[Shape]:
    """When what a stage passes through is due, all along the axis, and how long it then takes at the most.

    As at the worst: it has just been missed where the stage begins.
    """
    if bar.period_s <= 0 or bar.period_s / scale < kit.px(NEAREST):
        return []
    top, high, takes = y + kit.px(10), kit.px(4), max(bar.most_s - bar.period_s, 0.0)
    first = bar.start_s % bar.period_s
    shapes: list[Shape] = []
    for k in range(int((span - first) / bar.period_s) + 1):
        due = first + k * bar.period_s
        x, wide = left + due / scale, min(takes, span - due) / scale
        shapes.append(Box(x, top, max(wide, 0.0), high, "slate_soft"))
        shapes.append(Line(x, top, x, top + high, "slate", 1.4))
    return shapes


def row_picture(result: ChainResult, kit: Kit, width: float, limit: float | None) -> Picture:
    """The same in one row: every stage where the one before ends at its worst. Regions are "stage:i"."""
    if not result.bars or result.latency is None:
        return Picture(width, kit.px(26), (kit.words(kit.px(4), kit.px(12), _lacks(result), ink="mute"),))
    left, right, middle, high = kit.px(6), width - kit.px(84), kit.px(15), kit.px(16)
    scale = max(result.latency.most_s, limit or 0.0) * 1.02 / (right - left)
    shapes: list[Shape] = [Line(left, middle, right, middle, "line")]
    regions = []
    for i, bar in enumerate(result.bars):
        x, least, most = left + bar.start_s / scale, bar.least_s / scale, max(bar.most_s / scale, 1.0)
        shapes.append(Box(x, middle - high / 2, most, high, "plum_soft", "card"))
        shapes.append(Box(x, middle - high / 2, min(least, most), high, "plum"))
        said = bar_words(bar)
        regions.append(Region(f"stage:{i}", x, 0, max(most, kit.px(3)), kit.px(30), said, of=i))
    end = left + result.latency.most_s / scale
    shapes.append(kit.figures(end + kit.px(6), middle, show(result.latency.most_s, "s"), "small", "ink", bold=True))
    if limit is not None:
        x = left + limit / scale
        shapes.append(Line(x, middle - kit.px(11), x, middle + kit.px(11), "ink", 2.0))
    return Picture(width, kit.px(30), kept_inside(shapes, kit, width), tuple(regions))


def bar_words(bar: StageBar) -> str:
    """ "control task: 1.5–26.4 ms; waits up to 20 ms for its turn, then runs up to 4.2 ms" """
    why = f"; {bar.why}" if bar.why else ""
    return f"{bar.name}: {span_words(bar.least_s, bar.most_s)}{why}"


def _lacks(result: ChainResult) -> str:
    if not result.chain.stages:
        return "No stages yet: add what happens from the first event to the last."
    return f"{'; '.join(result.missing)}."


def span_words(least_s: float, most_s: float) -> str:
    """Least and most in a few characters: "10–20 ms", one figure where they are the same."""
    low, high = show(least_s, "s"), show(most_s, "s")
    if low == high:
        return high
    if low.split("\u202f")[-1] == high.split("\u202f")[-1]:
        return f"{low.split(chr(0x202F))[0]}–{high}"
    return f"{low}–{high}"
