"""Figures that spread, told apart in a small table: for a panel, and for the report."""

from collections.abc import Sequence

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Block
from wired_union.picture.shapes import Kit, Picture, Region, Shape
from wired_union.subjects.power.spread.told import Told, figure

HEADS = ("typical", "95 of 100", "worst")
ROW_H, HEAD_H, LINE_H = 37.0, 18.0, 16.0
INKS = {"breaks": "breaks_text", "tight": "tight_text", "holds": "holds_text", "unknown": "mute"}


def told_picture(rows: Sequence[Told], kit: Kit, width: float) -> Picture:
    """Each figure: what it is with what is wanted, and under it the three in columns; where those are too narrow, in
    lines.
    """
    wide = [kit.width(figure(m), "small", "figures", True) for row in rows for m in row.each]
    wide += [kit.width(words, "small") for words in HEADS]
    columns = max(wide) + kit.px(6) <= width / 3
    shapes: list[Shape] = []
    regions: list[Region] = []
    y = kit.px(HEAD_H) if columns else 0.0
    high = kit.px(ROW_H if columns else ROW_H + 2 * LINE_H)
    for n, words in enumerate(HEADS) if columns else ():
        shapes.append(kit.words(width * (n + 1) / 3, kit.px(8), words, "small", "mute", anchor="end"))
    for place, row in enumerate(rows):
        wanted = _wanted(row.typical)
        room = width - kit.width(wanted, "small", "figures") - kit.px(8)
        name = kit.cut(row.typical.label, room, "small", bold=True)
        shapes.append(kit.words(0, y + kit.px(9), name, "small", bold=True))
        shapes.append(kit.figures(width, y + kit.px(9), wanted, "small", "mute", anchor="end"))
        for n, (words, measure) in enumerate(zip(HEADS, row.each, strict=True)):
            ink = INKS[measure.verdict.value] if measure.limit is not None else "ink"
            x, below = (width * (n + 1) / 3, 25.0) if columns else (width, 25.0 + LINE_H * n)
            shapes.append(kit.figures(x, y + kit.px(below), figure(measure), "small", ink, bold=True, anchor="end"))
            if not columns:
                shapes.append(kit.words(0, y + kit.px(below), words, "small", "mute"))
        regions.append(Region(f"{place} {row.typical.kind}", 0, y, width, high, row.said))
        y += high
    return Picture(width, y, tuple(shapes), tuple(regions))


def _wanted(measure: Measure) -> str:
    """What its limit asks: "at most 12 A"; nothing without one."""
    if measure.missing:
        return "not all is known"
    return f"{measure.direction} {measure.limit_shown}" if measure.limit is not None else ""


def told_block(rows: Sequence[Told]) -> Block:
    """The same as a table of the report."""
    lines = tuple((r.typical.label, _wanted(r.typical), *(figure(m) for m in r.each)) for r in rows)
    return Block(head=("with what is not known well", "wanted", *HEADS), rows=lines, figures=(1, 2, 3, 4))
