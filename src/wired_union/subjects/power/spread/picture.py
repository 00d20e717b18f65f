"""How long thousands of missions last, with what is wanted as a post; and which unknown makes most of that."""

from collections.abc import Callable

import numpy as np

from wired_union.physics.battery import Array
from wired_union.picture.axis import time_ticks
from wired_union.picture.bars import Bar
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture, kept_inside
from wired_union.subjects.power.spread.draw import Drawn
from wired_union.subjects.power.spread.starts import StartDrawn
from wired_union.subjects.power.spread.told import quantile
from wired_union.subjects.power.spread.unknowns import Unknown
from wired_union.units import show

HIGH, TOP, AXIS_H, BARS, EDGE = 150.0, 50.0, 24.0, 48, 0.001


def spread_picture(some: Drawn, wanted_s: float, kit: Kit, width: float) -> Picture:
    """A histogram of the runtimes; those that do not last are red. What does not end is told beside it."""
    whole = some.runtime_s
    runs = whole[np.isfinite(whole)]
    if not len(runs):
        return hint_picture("Nothing draws: it does not end.", kit, width)
    low, high = quantile(runs, EDGE), quantile(runs, 1 - EDGE)
    left, right = min(low, wanted_s * 0.97), max(high, wanted_s * 1.03)
    edges = np.linspace(left, right, BARS + 1)
    counts = np.histogram(np.clip(runs, left, right), edges)[0]
    x0, x1 = kit.px(10), width - kit.px(10)
    base, most = kit.px(TOP + HIGH), max(int(counts.max()), 1)

    def x(seconds: float) -> float:
        return x0 + (x1 - x0) * (seconds - left) / (right - left)

    shapes: list[Shape] = []
    regions: list[Region] = []
    for k, count in enumerate(counts.tolist()):
        tall = kit.px(HIGH) * count / most
        at, wide = x(float(edges[k])), x(float(edges[k + 1])) - x(float(edges[k]))
        if count:
            lasts = edges[k] >= wanted_s - 1e-9
            shapes.append(Box(at + 0.5, base - tall, max(wide - 1, 0.8), tall, "holds" if lasts else "breaks"))
        said = f"{show(float(edges[k]), 's')} to {show(float(edges[k + 1]), 's')}: {show(count / len(whole), 'share')}"
        regions.append(Region(f"bar {k}", at, kit.px(TOP), wide, kit.px(HIGH), f"{said} of the missions"))
    shapes.append(Line(x0, base, x1, base, "line"))
    for t in time_ticks(right, 10):
        if left <= t <= right:
            shapes.append(Line(x(t), base, x(t), base + 4, "line"))
            shapes.append(kit.figures(x(t), base + kit.px(13), show(t, "s") if t else "0", "small", "mute",
                                      anchor="middle"))  # fmt: skip
    shapes += _marks(whole, wanted_s, lambda s: x(min(s, right)), kit, width, base)
    endless = 1 - len(runs) / len(whole)
    if endless > 0:
        shapes.append(kit.figures(x1, kit.px(TOP) + kit.px(8), f"{show(endless, fraction=True)} do not end", "small",
                                  "holds_text", bold=True, anchor="end"))  # fmt: skip
    return Picture(width, base + kit.px(AXIS_H), tuple(shapes), tuple(regions))


def _marks(
    runs: Array, wanted_s: float, place: Callable[[float], float], kit: Kit, width: float, base: float
) -> list[Shape]:
    """What is wanted, what is typical, what 95 of 100 last."""
    shapes: list[Shape] = [Line(place(wanted_s), kit.px(4), place(wanted_s), base, "ink", 2.4)]
    beside = place(wanted_s) < width * 0.7
    at = place(wanted_s) + (kit.px(6) if beside else -kit.px(6))
    shapes.append(kit.figures(at, kit.px(9), f"{show(wanted_s, 's')} wanted", "small", "ink", bold=True,
                              anchor="start" if beside else "end"))  # fmt: skip
    for share, said, row in ((0.05, "95 of 100 last", 25.0), (0.5, "typical", 41.0)):
        t = quantile(runs, share)
        shapes.append(Line(place(t), kit.px(row - 6), place(t), base, "mute", 1.2, (4.0, 3.0)))
        words = f"{said} {_lasts(t)}"
        wide = kit.width(words, "small", "figures") + 4
        before = place(t) > wide if share != 0.5 else place(t) + wide > width
        label = kit.figures(place(t) + (-4 if before else 4), kit.px(row), words, "small", "mute",
                            anchor="end" if before else "start")  # fmt: skip
        shapes += kept_inside((label,), kit, width)
    return shapes


def _lasts(seconds: float) -> str:
    return show(seconds, "s") if seconds < float("inf") else "without end"


def share_bars_of(shares: list[tuple[Unknown, float]]) -> list[Bar]:
    """A bar for each unknown that matters."""
    return [Bar(u.called, s, show(s, fraction=True), "copper") for u, s in shares[:6]]


def said_of(some: Drawn, wanted_s: float) -> str:
    """The odds in words: "8 % of 10,000 missions last the 5 h wanted."."""
    runs = some.runtime_s
    chance = float((runs >= wanted_s).mean())
    return f"{show(chance, fraction=True)} of {len(runs):,} missions last the {show(wanted_s, 's')} wanted."


def resets_of(some: StartDrawn) -> str:
    """In how many a controller resets: "In 12 % of 200 starts a controller resets."."""
    resets = float((some.margin_v < 0).mean())
    how = "In all" if resets == 1 else f"In {show(resets, fraction=True)}" if resets else "In none"
    return f"{how} of {len(some.margin_v)} starts a controller resets."


def advice(shares: list[tuple[Unknown, float]]) -> str:
    """What to measure first."""
    loose = [(u, s) for u, s in shares if u.knowledge != "measured" and u.what != "sky"]
    sky = next((s for u, s in shares if u.what == "sky"), 0.0)
    if not shares:
        return "Nothing that is not known well moves it."
    given = f"The sky makes {show(sky, fraction=True)} of the spread. " if sky else ""
    if not loose:
        return f"{given}All else that matters is measured." if sky else "All that matters is measured."
    first, share = loose[0]
    makes = f"It makes {show(share, fraction=True)} of the spread; it is known by {first.knowledge}."
    return f"{given}Measure first: {first.called}. {makes}"
