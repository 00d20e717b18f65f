"""An error budget drawn: what each contribution does, what they come to together, and all at their worst."""

from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture
from wired_union.subjects.bench.budgets import Budgeted
from wired_union.subjects.bench.pick import BenchPick
from wired_union.units import show

ROW_H, NAME_W, SHARE_W, AXIS_H, TOP, ROOM = 34.0, 168.0, 64.0, 30.0, 18.0, 1.08


def budget_picture(b: Budgeted, kit: Kit, width: float, picked: BenchPick) -> Picture:
    """A bar for each contribution; regions stand for a `BenchPick` of it, by its number from 1."""
    if not b.parts:
        return hint_picture("Nothing makes it wrong yet. Add what does: steps, the calibration, heat …", kit, width)
    reach = _reach(b)
    left, right, row = kit.px(NAME_W), width - kit.px(SHARE_W), kit.px(ROW_H)
    per_unit = (right - left) / reach if reach > 0 else 0.0
    top = kit.px(TOP)
    bottom = top + row * (len(b.parts) + 2) + kit.px(8)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for value in ticks(0.0, reach, 5) if reach > 0 else ():
        x = left + value * per_unit
        shapes.append(Line(x, top, x, bottom, "line", 1.0))
        shapes.append(kit.figures(x, bottom + kit.px(12), show(value, b.budget.unit), "tiny", "mute", anchor="middle"))
    for n in range(len(b.parts)):
        y = top + n * row
        if picked.doubt == n + 1:
            shapes.insert(0, Box(0, y, width, row, "soft", radius=3))
        shapes += _bar(b, n, kit, left, y + row / 2, per_unit)
        if not b.missing:
            first = n == b.largest
            shapes.append(kit.figures(width - kit.px(4), y + row / 2, show(b.shares[n], "share"), "small",
                                      "ink" if first else "mute", bold=first, anchor="end"))  # fmt: skip
        regions.append(Region(f"doubt {n + 1}", 0, y, width, row, _said(b, n),
                              of=BenchPick(budget=b.budget.id, doubt=n + 1)))  # fmt: skip
    shapes += _sums(b, kit, left, top + row * len(b.parts) + kit.px(8), per_unit)
    if b.budget.wanted is not None:
        x, over = left + b.budget.wanted * per_unit, b.error is not None and b.error > b.budget.wanted
        shapes.append(Line(x, top, x, bottom, "breaks" if over else "ink", 1.8, (6.0, 4.0)))
        shapes.append(kit.words(x, top / 2, f"{show(b.budget.wanted, b.budget.unit)} wanted", "tiny",
                                "breaks_text" if over else "ink", bold=True, anchor="middle"))  # fmt: skip
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes), tuple(regions))


def _factor(b: Budgeted) -> float:
    return b.coverage.factor if b.coverage is not None else 1.96


def _reach(b: Budgeted) -> float:
    """As far as the axis goes."""
    bars = [abs(p.standard or 0.0) * _factor(b) for p in b.parts]
    return max(*bars, b.error or 0.0, b.worst or 0.0, b.budget.wanted or 0.0) * ROOM


def _bar(b: Budgeted, n: int, kit: Kit, left: float, y: float, per_unit: float) -> list[Shape]:
    """The name, its spread, and how far it goes as sure as is asked; dotted where nothing is known."""
    part, doubt = b.parts[n], b.parts[n].doubt
    room, half = left - kit.px(12), kit.px(6)
    shapes: list[Shape] = [
        kit.words(kit.px(6), y - kit.px(7), kit.cut(doubt.name, room, "small", bold=True), "small", bold=True),
        kit.words(kit.px(6), y + kit.px(8), kit.cut(spread_words(b, n), room, "tiny"), "tiny", "mute"),
    ]
    if part.standard is None:
        shapes.append(Line(left, y, left + kit.px(120), y, "unknown", 2.0, (2.0, 4.0)))
        shapes.append(kit.words(left + kit.px(128), y, "not known", "tiny", "mute"))
        return shapes
    length = max(abs(part.standard) * _factor(b) * per_unit, 1.5)
    ink = "copper" if n == b.largest else "slate"
    return [*shapes, Box(left, y - half, length, 2 * half, ink, radius=2)]


def spread_words(b: Budgeted, n: int) -> str:
    """ "± 0.5 mm, anywhere within", "of Salinity" """
    doubt = b.parts[n].doubt
    if doubt.calibration:
        return "as its calibration says"
    if doubt.spread is None:
        return "spread not said"
    unit = doubt.unit or b.budget.unit
    times = f", {doubt.averaged} averaged" if doubt.of == "repeat" and doubt.averaged > 1 else ""
    return f"± {show(doubt.spread, unit)}, {doubt.spread_as}{times}"


def _said(b: Budgeted, n: int) -> str:
    part = b.parts[n]
    share = f", {show(b.shares[n], 'share')} of it" if not b.missing else ""
    off = (
        f": off by {show(abs(part.standard), b.budget.unit)} (standard deviation)" if part.standard is not None else ""
    )
    return f"{part.doubt.name}, {spread_words(b, n)}{off or ': not known'}{share}"


def _sums(b: Budgeted, kit: Kit, left: float, top: float, per_unit: float) -> list[Shape]:
    """Together, and all at their worst."""
    shapes: list[Shape] = [Line(0, top - kit.px(4), left, top - kit.px(4), "line", 1.0)]
    sure = show(b.budget.confidence, "share")
    over = b.error is not None and b.budget.wanted is not None and b.error > b.budget.wanted
    rows = ((f"together, {sure} sure", b.error, "breaks" if over else "ink"),
            ("all at their worst", b.worst, "unknown"))  # fmt: skip
    for k, (name, value, ink) in enumerate(rows):
        y = top + (k + 0.5) * kit.px(ROW_H)
        shapes.append(kit.words(kit.px(6), y, name, "small", bold=k == 0))
        if value is None:
            shapes.append(Line(left, y, left + kit.px(120), y, "unknown", 2.0, (2.0, 4.0)))
            continue
        end = left + value * per_unit
        shapes.append(Line(left, y, end, y, ink, 5.0 if k == 0 else 2.0))
        text = show(value, b.budget.unit)
        shapes.append(kit.figures(end + kit.px(6), y, text, "small", "ink", bold=True))
    return shapes


def budget_words(b: Budgeted) -> str:
    """What it comes to, as a sentence."""
    if b.missing:
        return f"Not known yet: {b.missing[0]}."
    assert b.combined is not None
    assert b.coverage is not None
    unit = b.budget.unit
    free = f"{b.coverage.degrees:.0f}" if b.coverage.degrees < 1e6 else "many"
    first = b.parts[b.largest].doubt.name if b.largest is not None else ""
    better = f" Better {first} first." if first else ""
    return (f"Standard uncertainty {show(b.combined, unit)}; times {b.coverage.factor:.3g} for"
            f" {show(b.budget.confidence, 'share')} of results ({free} degrees of freedom).{better}")  # fmt: skip
