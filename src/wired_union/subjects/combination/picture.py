"""A search under way and what it found: the best closing on the bound, and the best combinations as rows."""

from collections.abc import Sequence

from msgspec import Struct
from msgspec.structs import replace

from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Shape, shifted
from wired_union.units import show, show_change


class Trail(Struct, frozen=True):
    """How far a search was after each step: the best score and the bound, in `unit`; None while nothing holds."""

    best: tuple[float | None, ...]
    bound: tuple[float, ...]
    unit: str
    name: str
    more_is_better: bool = False


def trail_chart(trail: Trail, kit: Kit, width: float, height: float) -> Picture:
    """The best so far and the bound over the steps; between them is what is not proven yet."""
    known = [b for b in trail.best if b is not None]
    finite = [b for b in trail.bound if abs(b) < 1e300]
    if not known or not finite or len(trail.bound) < 2:
        words = kit.words(0, 14, "Looking for a first combination that holds …", "small", "mute")
        return Picture(width, height, (words,))
    left, right, top, bottom = kit.px(60), width - kit.px(8), kit.px(20), height - kit.px(22)
    low, high = min(*known, *finite), max(*known, *finite)
    pad = (high - low) * 0.1 or abs(high) * 0.02 or 1.0
    low, high = low - pad, high + pad
    steps, best_now = len(trail.bound) - 1, known[-1]

    def at(step: int, value: float) -> tuple[float, float]:
        return left + (right - left) * step / steps, bottom - (bottom - top) * (value - low) / (high - low)

    shapes: list[Shape] = [Line(left, bottom, right, bottom, "mute"), Line(left, top, left, bottom, "mute")]
    for value, text in _labelled(low, high, best_now, trail.unit):
        y = at(0, value)[1]
        shapes.append(Line(left - 4, y, left, y, "mute"))
        shapes.append(kit.figures(left - 7, y, text, "small", "mute", anchor="end"))
    best = [(i, b) for i, b in enumerate(trail.best) if b is not None]
    bound = [(i, b) for i, b in enumerate(trail.bound) if abs(b) < 1e300]
    gap = [at(i, b) for i, b in bound if i >= best[0][0]] + [at(i, b) for i, b in reversed(best)]
    shapes.append(Poly(tuple(gap), fill="tight_soft"))
    shapes.append(Poly(tuple(at(i, b) for i, b in bound), "plum", width=1.8, dash=(5.0, 3.0)))
    shapes.append(Poly(tuple(at(i, b) for i, b in best), "holds", width=2.2))
    side = -1 if trail.more_is_better else 1
    end = kit.px(9)
    _, best_y = at(steps, best[-1][1])
    _, bound_y = at(steps, bound[-1][1])
    shapes.append(kit.words(right, best_y - side * end, f"best so far {show(best[-1][1], trail.unit)}", "small",
                            "holds_text", bold=True, anchor="end"))  # fmt: skip
    left_over = f"nothing better than {show(bound[-1][1], trail.unit)} is left"
    shapes.append(kit.words(right, bound_y + side * end, left_over,
                            "small", "plum", anchor="end"))  # fmt: skip
    shapes.append(kit.words(0, kit.px(8), trail.name, "small", "ink"))
    shapes.append(kit.words(right, bottom + kit.px(13), f"{steps} steps", "small", "mute", anchor="end"))
    return Picture(width, height, tuple(shapes))


def _labelled(low: float, high: float, best: float, unit: str) -> list[tuple[float, str]]:
    """Ticks with texts; as differences from the best where three figures cannot tell them apart."""
    found = ticks(low, high, 4)
    texts = [show(v, unit) for v in found]
    if len(set(texts)) == len(texts):
        return list(zip(found, texts, strict=True))
    return [
        (v + best, show_change(v, unit) if abs(v) > 1e-12 else "the best") for v in ticks(low - best, high - best, 4)
    ]


class MixRow(Struct, frozen=True):
    """One combination as a row: its figures, and what it swaps."""

    figures: str
    swaps: str
    now: bool


def mix_list(rows: Sequence[MixRow], kit: Kit, width: float, *, chosen: int = -1) -> Picture:
    """The best and the next best, numbered."""
    shapes: list[Shape] = []
    regions: list[Region] = []
    y = 0.0
    for i, row in enumerate(rows):
        lines = kit.wrap(row.swaps, width - kit.px(30), "small")
        whole, lines = len(lines), lines[:2]
        h = kit.px(25) + kit.px(15) * len(lines)
        if i == chosen:
            shapes.append(Box(-4, y + 1, width + 8, h - 2, "soft", radius=4))
        elif i:
            shapes.append(Line(0, y, width, y, "line"))
        number = "best" if i == 0 else f"{i + 1}"
        ink = "holds_text" if i == 0 else "mute"
        shapes.append(kit.figures(0, y + kit.px(13), number, "base", ink, bold=True))
        tag = "in place now" if row.now else ""
        shapes.append(kit.figures(width, y + kit.px(13), tag, "small", "mute", bold=True, anchor="end"))
        shapes.append(kit.figures(kit.px(30), y + kit.px(13), row.figures, "base", bold=True))
        for k, text in enumerate(lines):
            cut = text if k == 0 or whole <= 2 else kit.cut(f"{text} and more", width - kit.px(34), "small")
            shapes.append(kit.words(kit.px(30), y + kit.px(28) + kit.px(15) * k, cut, "small", "mute"))
        regions.append(Region(f"mix:{i}", -4, y, width + 8, h, f"{number}: {row.figures}; {row.swaps}", of=i))
        y += h
    return Picture(width, max(y, 1.0), tuple(shapes), tuple(regions))


class Tick(Struct, frozen=True):
    """A line that can be ticked: its id, text, what stands at its end, and the heading it stands under."""

    id: str
    text: str
    tail: str
    on: bool
    heading: str = ""


def tick_columns(ticks_: Sequence[Tick], kit: Kit, width: float) -> Picture:
    """Lines in two columns where there is room."""
    if width < kit.px(430) or len(ticks_) < 4:
        return tick_list(ticks_, kit, width)
    half, wide, gap = -(-len(ticks_) // 2), width / 2, kit.px(14)
    left = tick_list(ticks_[:half], kit, wide - gap)
    right = tick_list(ticks_[half:], kit, wide - gap)
    shift = wide + gap / 2
    regions = (*left.regions, *(replace(r, x=r.x + shift) for r in right.regions))
    return Picture(width, left.height, (*left.shapes, *shifted(right.shapes, shift, 0)), regions)


def tick_list(ticks_: Sequence[Tick], kit: Kit, width: float) -> Picture:
    """Lines with a box before each, under their headings."""
    shapes: list[Shape] = []
    regions: list[Region] = []
    y, heading, row, size = 0.0, "", kit.px(23), kit.px(12)
    for tick in ticks_:
        if tick.heading != heading:
            heading = tick.heading
            y += kit.px(4) if y else 0.0
            shapes.append(kit.figures(0, y + kit.px(9), heading.upper(), "tiny", "mute", bold=True))
            y += kit.px(19)
        mid = y + row / 2
        shapes.append(Box(1, mid - size / 2, size, size, "button" if tick.on else "card", "mute", 2))
        if tick.on:
            check = ((3.5, mid), (size * 0.42, mid + size * 0.26), (size - 1.5, mid - size * 0.28))
            shapes.append(Poly(check, "button_ink", width=1.8))
        tail_w = kit.width(tick.tail, "small", "figures") + kit.px(8) if tick.tail else 0.0
        text = kit.cut(tick.text, width - size - kit.px(10) - tail_w, "small", bold=tick.on)
        shapes.append(kit.words(size + kit.px(8), mid, text, "small", bold=tick.on))
        shapes.append(kit.figures(width, mid, tick.tail, "small", "mute", anchor="end"))
        said = "ticked" if tick.on else "not ticked"
        regions.append(Region(tick.id, -2, y, width + 4, row, f"{tick.text}, {tick.tail}, {said}"))
        y += row
    return Picture(width, max(y, 1.0), tuple(shapes), tuple(regions))
