"""Money drawn: the ledger by state against the limit, and what one costs by how many are made."""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape, hint_picture
from wired_union.project.model import Project
from wired_union.subjects.ledger.making import MadeCost, MakingResult
from wired_union.subjects.mass.gives import MoneyResult
from wired_union.units import show

Floats = NDArray[np.float64]
BAR_H, TOP, HIGH, LEFT, AXIS_H, ROW_H = 26.0, 30.0, 170.0, 58.0, 26.0, 17.0
LEAST_PX = 2.0


def money_picture(money: MoneyResult, limit: float | None, project: Project, kit: Kit, width: float) -> Picture:
    """One bar of all that counts, by how settled it is, with what may come on top and the limit as a post."""
    currency, rows = project.brief.currency, _money_rows(money)
    reach = max(money.highest, limit or 0.0, 1e-9) * 1.04
    top, high = kit.px(24), kit.px(BAR_H)
    shapes: list[Shape] = []
    regions: list[Region] = []
    x = 0.0
    for name, value, ink in rows:
        wide = width * value / reach
        if wide >= LEAST_PX / 2:
            shapes.append(Box(x, top, max(wide - 1, LEAST_PX), high, ink, radius=1.5))
            text = kit.cut(show(value, currency), wide - 6, "tiny", "figures", True)
            shapes.append(kit.figures(x + kit.px(4), top + high / 2, text, "tiny", "card", bold=True))
            regions.append(Region(name, x, top, wide, high, f"{name}: {show(value, currency)}"))
        x += wide
    if money.spread > 0:
        wide = width * money.spread / reach
        shapes.append(Box(x, top, wide, high, "card", "copper", 1.0, 1.0, hatch="copper"))
        regions.append(Region("spread", x, top, wide, high, f"may come on top: {show(money.spread, currency)}"))
    if limit is not None:
        at, ink = width * limit / reach, "breaks" if money.total > limit else "ink"
        shapes.append(Line(at, top - kit.px(6), at, top + high + kit.px(6), ink, 2.6))
        anchor = "end" if at > width / 2 else "start"
        shapes.append(kit.words(at, kit.px(8), f"limit {show(limit, currency)}", "tiny", bold=True, anchor=anchor))
    y = top + high + kit.px(16)
    shapes += _key(rows, currency, kit, y)
    return Picture(width, y + kit.px(12), tuple(shapes), tuple(regions))


def _money_rows(money: MoneyResult) -> list[tuple[str, float, str]]:
    """What the bar is made of, with its colours."""
    here = money.by_state.get("ordered", 0.0) + money.by_state.get("arrived", 0.0)
    rows = [("paid", money.by_state.get("paid", 0.0), "holds"), ("ordered or here", here, "moss"),
            ("bought, no line", money.by_origin["bought"], "slate"), ("to come", money.to_come, "copper")]  # fmt: skip
    came_back = sum(c.net for c in money.costs if c.line.state == "refunded")
    return [*rows, *([("lost in refunds", came_back, "unknown")] if came_back else [])]


def _key(rows: Sequence[tuple[str, float, str]], currency: str, kit: Kit, y: float) -> list[Shape]:
    """What the colours of the bar are."""
    shapes: list[Shape] = []
    x = 0.0
    for name, value, ink in rows:
        if value > 0:
            shapes.append(Box(x, y - kit.px(5), kit.px(10), kit.px(10), ink, radius=2.0))
            words = f"{name} {show(value, currency)}"
            shapes.append(kit.words(x + kit.px(15), y, words, "small", "ink"))
            x += kit.px(15) + kit.width(words, "small") + kit.px(16)
    return shapes


class Scales(Struct, frozen=True):
    """Where numbers of machines and amounts are: numbers by powers of ten, amounts too where `powers` says so."""

    left: float
    right: float
    top: float
    bottom: float
    most: float
    low: float
    high: float
    powers: bool = False

    def x(self, n: float) -> float:
        """Where a number of machines is."""
        return self.left + (self.right - self.left) * float(np.log10(max(n, 1.0)) / np.log10(self.most))

    def y(self, value: float) -> float:
        """Where an amount is, kept inside."""
        at, low, high = (float(np.log10(max(v, 1e-9))) if self.powers else v for v in (value, self.low, self.high))
        return self.bottom - (self.bottom - self.top) * (min(max(at, low), high) - low) / max(high - low, 1e-9)

    def line(self, numbers: Floats, values: Floats, ink: str, width: float) -> Poly:
        """A line through amounts by numbers."""
        return Poly(tuple((self.x(float(n)), self.y(float(v))) for n, v in zip(numbers, values, strict=True)), ink,
                    width=width)  # fmt: skip

    def named(self, kit: Kit, currency: str, amounts: Sequence[float], numbers: Sequence[int]) -> list[Shape]:
        """Both axes with their figures."""
        found: list[Shape] = [Line(self.left, self.bottom, self.right, self.bottom, "line", 1.0)]
        for n in (n for n in numbers if n <= self.most):
            found.append(kit.figures(self.x(n), self.bottom + kit.px(12), f"{n:,}", "tiny", "mute", anchor="middle"))
            found.append(Line(self.x(n), self.bottom, self.x(n), self.bottom + kit.px(4), "line", 1.0))
        for value in amounts:
            at = self.y(value)
            found.append(Line(self.left, at, self.right, at, "line", 0.6))
            words = show(float(f"{value:.2g}"), currency)
            found.append(kit.figures(self.left - kit.px(6), at, words, "tiny", "mute", anchor="end"))
        return found


def unit_picture(found: MakingResult, project: Project, kit: Kit, width: float) -> Picture:
    """What one costs by how many are made, the price across it, where it begins to pay; numbers by powers of ten."""
    if found.missing:
        return hint_picture(f"Not known yet: {'; '.join(found.missing[:3])}.", kit, width)
    quantity, currency, price = found.making.quantity or 1, project.brief.currency, found.price
    most = max(quantity * 4, (found.pays_from or 1) * 2, 100)
    numbers = np.unique(np.round(np.logspace(0, np.log10(most), 240)))
    unit = found.unit(numbers)
    low = min(float(unit.min()), *(r.price for r in found.making.rivals), price or np.inf) * 0.85
    high = min(float(unit.max()), max(float(np.median(unit)), price or 0.0) * 3) * 1.05
    at = Scales(kit.px(LEFT), width - kit.px(10), kit.px(TOP), kit.px(TOP + HIGH), most, low, max(high, low + 1e-9))
    amounts = [low + (high - low) * k / 4 for k in range(5)]
    shapes = at.named(kit, currency, amounts, [v * 10**p for p in range(8) for v in (1, 2, 5)])
    shapes.append(kit.words(0, kit.px(8), "one costs", "tiny", "mute"))
    shapes.append(at.line(numbers, unit, "slate", 2.2))
    for rival in found.making.rivals:
        shapes += _level(at, kit, f"{rival.name} {show(rival.price, currency)}", rival.price, "plum", (2, 3))
    if price is not None:
        shapes += _level(at, kit, f"price {show(price, currency)}", price, "ink", (6, 4))
    shapes += _marks(found, at, kit, currency, quantity)
    return Picture(width, at.bottom + kit.px(AXIS_H), tuple(shapes))


def _level(at: Scales, kit: Kit, words: str, value: float, ink: str, dash: tuple[float, ...]) -> list[Shape]:
    """An amount straight across, named at its end."""
    y = at.y(value)
    return [Line(at.left, y, at.right, y, ink, 1.3, dash),
            kit.words(at.right, y - kit.px(7), words, "tiny", ink, bold=ink == "ink", anchor="end")]  # fmt: skip


def _marks(found: MakingResult, at: Scales, kit: Kit, currency: str, quantity: int) -> list[Shape]:
    """The number that is made, and from how many on it pays."""
    unit = found.unit_at(quantity)
    x, y = at.x(quantity), at.y(unit)
    words = f"{quantity:,} made: {show(unit, currency)} each"
    shapes: list[Shape] = [Ring(x, y, kit.px(4), "slate", 1.6, (), "slate"),
                           kit.words(x + kit.px(8), y + kit.px(12), words, "small", bold=True)]  # fmt: skip
    pays = found.pays_from
    if pays is not None:
        shapes.append(Line(at.x(pays), at.top, at.x(pays), at.bottom, "holds", 1.6, (4, 3)))
        shapes.append(kit.words(at.x(pays), at.top - kit.px(9), f"pays from {pays:,}", "tiny", "holds_text", bold=True,
                                anchor="middle"))  # fmt: skip
    return shapes


WAY_INKS = ("slate", "copper", "moss", "plum", "tight", "unknown", "holds", "ink")


def ways_picture(found: MadeCost, machines: int, project: Project, kit: Kit, width: float) -> Picture:
    """What the pieces of one machine cost by each way, by how many machines; the cheapest drawn thick."""
    if not found.ways:
        return hint_picture(f"{found.made.name}: {found.lacks or 'a way to make it'} is not known yet.", kit, width)
    most = max(machines * 10, 1000, *(2 * n for n in found.cheapest_from if n))
    numbers = np.unique(np.round(np.logspace(0, np.log10(most), 160)))
    costs = [found.each(w, numbers) for w in found.ways]
    best = found.cheapest(numbers)
    high = max(min(float(np.max(costs)), float(best.max()) * 3), 1e-6)
    low = max(float(best.min()) * 0.8, 1e-6)
    at = Scales(kit.px(LEFT), width - kit.px(120), kit.px(12), kit.px(12 + HIGH * 0.7), most, low, high, powers=True)
    shapes = at.named(kit, project.brief.currency, (low, (low * high) ** 0.5, high), [10**p for p in range(8)])
    taken: list[float] = []
    for k, (way, cost) in enumerate(zip(found.ways, costs, strict=True)):
        shapes.append(at.line(numbers, cost, WAY_INKS[k % len(WAY_INKS)], 1.4))
        shapes += _way_named(at, kit, way.process, float(cost[-1]), found.cheapest_from[k], k, taken)
    shapes.append(at.line(numbers, best, "ink", 2.6))
    return Picture(width, at.bottom + kit.px(AXIS_H), tuple(shapes))


def _way_named(
    at: Scales, kit: Kit, name: str, last: float, begins: int | None, k: int, taken: list[float]
) -> list[Shape]:  # fmt: skip
    """The name of a way at its end, where none stands yet, and the number from which on it is the cheapest."""
    ink, y = WAY_INKS[k % len(WAY_INKS)], at.y(last)
    while any(abs(y - t) < kit.px(13) for t in taken):
        y -= kit.px(13)
    taken.append(y)
    words = kit.cut(name, kit.px(112), "tiny", bold=True)
    found: list[Shape] = [kit.words(at.right + kit.px(6), y, words, "tiny", ink, bold=True)]
    if begins is not None and begins > 1:
        x = at.x(begins)
        found.append(Line(x, at.top, x, at.bottom, ink, 1.0, (3, 3)))
        found.append(kit.figures(x + kit.px(4), at.bottom - kit.px(7), f"{begins:,}", "tiny", ink, bold=True))
    return found
