"""Figures that spread, told apart in a small table: for a panel, and for the report."""

from collections.abc import Sequence

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Block
from wired_union.picture.shapes import Kit, Picture, Region, Shape
from wired_union.subjects.power.spread.told import Told, figure

HEADS = ("typical", "95 of 100", "worst")
ROW_H, HEAD_H = 37.0, 18.0
INKS = {"breaks": "breaks_text", "tight": "tight_text", "holds": "holds_text", "unknown": "mute"}


def told_picture(rows: Sequence[Told], kit: Kit, width: float, *, head: bool = True) -> Picture:
    """Each figure on two lines: what it is with what is wanted, and under it the three in columns."""
    shapes: list[Shape] = []
    regions: list[Region] = []
    ends = [width * (n + 1) / 3 for n in range(3)]
    top = kit.px(HEAD_H) if head else 0.0
    for x, words in zip(ends, HEADS, strict=True) if head else ():
        shapes.append(kit.words(x - kit.width(words, "small"), kit.px(8), words, "small", "mute"))
    for n, row in enumerate(rows):
        y = top + kit.px(ROW_H) * n
        wanted = _wanted(row.typical)
        room = width - kit.width(wanted, "small", "figures") - kit.px(8)
        shapes.append(kit.words(0, y + kit.px(9), kit.cut(row.typical.label, room, "small"), "small", bold=True))
        shapes.append(kit.figures(width, y + kit.px(9), wanted, "small", "mute", anchor="end"))
        for x, measure in zip(ends, row.each, strict=True):
            ink = INKS[measure.verdict.value] if measure.limit is not None else "ink"
            shapes.append(kit.figures(x, y + kit.px(25), figure(measure), "small", ink, bold=True, anchor="end"))
        regions.append(Region(row.typical.label, 0, y, width, kit.px(ROW_H), row.said))
    return Picture(width, top + kit.px(ROW_H) * len(rows), tuple(shapes), tuple(regions))


def _wanted(measure: Measure) -> str:
    """What its limit asks: "at most 12 A"; nothing without one."""
    if measure.missing:
        return "not all is known"
    return f"{measure.direction} {measure.limit_shown}" if measure.limit is not None else ""


def told_block(rows: Sequence[Told]) -> Block:
    """The same as a table of the report."""
    lines = tuple((r.typical.label, _wanted(r.typical), *(figure(m) for m in r.each)) for r in rows)
    return Block(head=("with what is not known well", "wanted", *HEADS), rows=lines, figures=(1, 2, 3, 4))
