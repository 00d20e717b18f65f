"""Money drawn: the ledger by state against the limit, and what one costs by how many are made."""

import numpy as np

from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape, hint_picture
from wired_union.project.model import Project
from wired_union.project.money_model import MoneyState
from wired_union.subjects.ledger.making import MadeCost, MakingResult
from wired_union.subjects.mass.gives import MoneyResult
from wired_union.units import show

INKS: dict[MoneyState, str] = {"quoted": "copper", "ordered": "slate", "arrived": "moss", "paid": "holds",
                               "refunded": "unknown", "donated": "plum", "owned": "plum_soft"}  # fmt: skip
BAR_H, TOP, HIGH, LEFT, AXIS_H, ROW_H = 26.0, 30.0, 170.0, 58.0, 26.0, 17.0
LEAST_PX = 2.0


def money_picture(money: MoneyResult, limit: float | None, project: Project, kit: Kit, width: float) -> Picture:
    """One bar of all that counts, by how settled it is, with what may come on top and the limit as a post."""
    currency = project.brief.currency
    rows = [
        ("paid", money.by_state.get("paid", 0.0), "holds"),
        ("ordered or here", money.by_state.get("ordered", 0.0) + money.by_state.get("arrived", 0.0), "moss"),
        ("bought, no line", money.by_origin["bought"], "slate"),
        ("to come", money.to_come, "copper"),
    ]  # fmt: skip
    came_back = sum(c.net for c in money.costs if c.line.state == "refunded")
    rows += [("lost in refunds", came_back, "unknown")] if came_back else []
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
        at = width * limit / reach
        over = money.total > limit
        shapes.append(Line(at, top - kit.px(6), at, top + high + kit.px(6), "breaks" if over else "ink", 2.6))
        shapes.append(kit.words(at, kit.px(8), f"limit {show(limit, currency)}", "tiny", bold=True,
                                anchor="end" if at > width / 2 else "start"))  # fmt: skip
    y = top + high + kit.px(16)
    x = 0.0
    for name, value, ink in rows:
        if value > 0:
            shapes.append(Box(x, y - kit.px(5), kit.px(10), kit.px(10), ink, radius=2.0))
            words = f"{name} {show(value, currency)}"
            shapes.append(kit.words(x + kit.px(15), y, words, "small", "ink"))
            x += kit.px(15) + kit.width(words, "small") + kit.px(16)
    return Picture(width, y + kit.px(12), tuple(shapes), tuple(regions))


def unit_picture(found: MakingResult, project: Project, kit: Kit, width: float) -> Picture:
    """What one costs by how many are made, the price across it, where it begins to pay; numbers by powers of ten."""
    if found.missing:
        return hint_picture(f"Not known yet: {'; '.join(found.missing[:3])}.", kit, width)
    quantity, currency = found.making.quantity or 1, project.brief.currency
    most = max(quantity * 4, (found.pays_from or 1) * 2, 100)
    numbers = np.unique(np.round(np.logspace(0, np.log10(most), 240)))
    unit = found.unit(numbers)
    price = found.price
    low = min(float(unit.min()), *(r.price for r in found.making.rivals), price or np.inf) * 0.85
    high = min(float(unit.max()), max(float(np.median(unit)), price or 0.0) * 3) * 1.05
    left, right, top, bottom = kit.px(LEFT), width - kit.px(10), kit.px(TOP), kit.px(TOP + HIGH)

    def x(n: float) -> float:
        return left + (right - left) * float(np.log10(max(n, 1.0))) / float(np.log10(most))

    def y(value: float) -> float:
        return bottom - (bottom - top) * (min(max(value, low), high) - low) / (high - low)

    shapes: list[Shape] = [Line(left, bottom, right, bottom, "line", 1.0)]
    shapes += _axes(most, low, high, x, y, kit, currency, left, right, bottom)
    shapes.append(
        Poly(tuple((x(float(n)), y(float(u))) for n, u in zip(numbers, unit, strict=True)), "slate", width=2.2)
    )
    for rival in found.making.rivals:
        shapes.append(Line(left, y(rival.price), right, y(rival.price), "plum", 1.2, (2, 3)))
        shapes.append(
            kit.words(
                right,
                y(rival.price) - kit.px(7),
                f"{rival.name} {show(rival.price, currency)}",
                "tiny",
                "plum",
                anchor="end",
            )
        )
    if price is not None:
        shapes.append(Line(left, y(price), right, y(price), "ink", 1.4, (6, 4)))
        shapes.append(kit.words(right, y(price) - kit.px(7), f"price {show(price, currency)}", "tiny", bold=True,
                                anchor="end"))  # fmt: skip
    shapes += _marks(found, x, y, kit, currency, quantity, bottom)
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes))


def _axes(
    most: float,
    low: float,
    high: float,
    x: object,
    y: object,
    kit: Kit,
    currency: str,
    left: float,
    right: float,
    bottom: float,
) -> list[Shape]:
    assert callable(x)
    assert callable(y)
    found: list[Shape] = []
    for n in (v * 10**p for p in range(7) for v in (1, 2, 5)):
        if n <= most:
            found.append(kit.figures(x(n), bottom + kit.px(12), f"{n:,}", "tiny", "mute", anchor="middle"))
            found.append(Line(x(n), bottom, x(n), bottom + kit.px(4), "line", 1.0))
    for k in range(5):
        value = low + (high - low) * k / 4
        found.append(Line(left, y(value), right, y(value), "line", 0.6))
        found.append(kit.figures(left - kit.px(6), y(value), show(float(f"{value:.2g}"), currency), "tiny", "mute",
                                 anchor="end"))  # fmt: skip
    found.append(kit.words(0, kit.px(8), "one costs", "tiny", "mute"))
    return found


def _marks(
    found: MakingResult, x: object, y: object, kit: Kit, currency: str, quantity: int, bottom: float
) -> list[Shape]:
    """The number that is made, and from how many on it pays."""
    assert callable(x)
    assert callable(y)
    unit = found.unit_at(quantity)
    shapes: list[Shape] = [Ring(x(quantity), y(unit), kit.px(4), "slate", 1.6, (), "slate")]
    shapes.append(
        kit.words(
            x(quantity) + kit.px(8),
            y(unit) + kit.px(12),
            f"{quantity:,} made: {show(unit, currency)} each",
            "small",
            bold=True,
        )
    )
    pays = found.pays_from
    if pays is not None:
        shapes.append(Line(x(pays), kit.px(TOP), x(pays), bottom, "holds", 1.6, (4, 3)))
        shapes.append(
            kit.words(
                x(pays),
                kit.px(TOP) - kit.px(9),
                f"pays from {pays:,}",
                "tiny",
                "holds_text",
                bold=True,
                anchor="middle",
            )
        )
    return shapes


def ways_picture(found: MadeCost, machines: int, project: Project, kit: Kit, width: float) -> Picture:
    """What the pieces of one machine cost by each way, by how many machines; the cheapest drawn thick."""
    if not found.ways:
        return hint_picture(f"{found.made.name}: {found.lacks or 'a way to make it'} is not known yet.", kit, width)
    most = max(machines * 10, 1000, *(2 * n for n in found.cheapest_from if n))
    numbers = np.unique(np.round(np.logspace(0, np.log10(most), 160)))
    costs = [found.each(w, numbers) for w in found.ways]
    best = found.cheapest(numbers)
    high = float(np.log10(max(min(float(np.max(costs)), float(best.max()) * 3), 1e-6)))
    low = float(np.log10(max(float(best.min()) * 0.8, 1e-6)))
    left, right, top, bottom = kit.px(LEFT), width - kit.px(120), kit.px(12), kit.px(12 + HIGH * 0.7)

    def x(n: float) -> float:
        return left + (right - left) * float(np.log10(max(n, 1.0))) / float(np.log10(most))

    def y(value: float) -> float:
        return bottom - (bottom - top) * (min(max(float(np.log10(max(value, 1e-9))), low), high) - low) / max(
            high - low, 1e-9
        )

    shapes: list[Shape] = [Line(left, bottom, right, bottom, "line", 1.0)]
    inks = ("slate", "copper", "moss", "plum", "tight", "unknown", "holds", "ink")
    taken: list[float] = []
    for k, (w, cost, begins) in enumerate(zip(found.ways, costs, found.cheapest_from, strict=True)):
        ink = inks[k % len(inks)]
        points = tuple((x(float(n)), y(float(c))) for n, c in zip(numbers, cost, strict=True))
        shapes.append(Poly(points, ink, width=1.4))
        at = y(float(cost[-1]))
        while any(abs(at - t) < kit.px(13) for t in taken):
            at -= kit.px(13)
        taken.append(at)
        shapes.append(
            kit.words(right + kit.px(6), at, kit.cut(w.process, kit.px(112), "tiny", bold=True), "tiny", ink, bold=True)
        )
        if begins is not None and begins > 1:
            shapes.append(Line(x(begins), top, x(begins), bottom, ink, 1.0, (3, 3)))
            shapes.append(
                kit.figures(
                    x(begins),
                    bottom - kit.px(7),
                    f"{begins:,}",
                    "tiny",
                    ink,
                    bold=True,
                    anchor="start",
                )
            )
    shapes.append(Poly(tuple((x(float(n)), y(float(b))) for n, b in zip(numbers, best, strict=True)), "ink", width=2.6))
    for n in (10**p for p in range(7)):
        if n <= most:
            shapes.append(kit.figures(x(n), bottom + kit.px(12), f"{n:,}", "tiny", "mute", anchor="middle"))
    for value in (10**low, 10 ** ((low + high) / 2), 10**high):
        shapes.append(
            kit.figures(
                left - kit.px(6),
                y(value),
                show(float(f"{value:.2g}"), project.brief.currency),
                "tiny",
                "mute",
                anchor="end",
            )
        )
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes))
