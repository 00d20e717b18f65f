"""How every wish of the brief is proved: a row each, what proves it, how far, by whom and when."""

from collections.abc import Sequence

from wired_union.kernel.subject import Selection
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture
from wired_union.picture.wire import glyph
from wired_union.subjects.trials.assess import Proof

ROW_H = 28.0
COLUMNS = (("wish", 0.0), ("proved by", 0.26), ("how far", 0.37), ("who", 0.74), ("when", 0.84))
"""Each with where it begins, as a share of the width."""


def proofs_picture(proofs: Sequence[Proof], kit: Kit, width: float, measure: str = "") -> Picture:
    """The matrix. Regions stand for a `Selection` of the wish; that of `measure` is marked."""
    if not proofs:
        return hint_picture("No wish in the brief yet.", kit, width)
    row, mark = kit.px(ROW_H), kit.px(30)
    wide = width - mark
    shapes: list[Shape] = [kit.words(x * wide, kit.px(10), name, "tiny", "mute") for name, x in COLUMNS]
    regions: list[Region] = []
    ends = [x for _, x in COLUMNS[1:]] + [1.0]
    for n, p in enumerate(proofs):
        y = kit.px(22) + n * row
        if p.limit.measure == measure:
            shapes.append(Box(0, y, width, row, "soft", radius=3))
        shapes.append(Line(0, y, width, y, "line", 1.0))
        texts = (p.limit.name, p.how, p.said, p.by, p.on)
        for (_, x), end, text in zip(COLUMNS, ends, texts, strict=True):
            room = (end - x) * wide - kit.px(8)
            tone = "mute" if p.how == "not yet" and x else "ink"
            shapes.append(kit.words(x * wide, y + row / 2, kit.cut(text, room, "small"), "small", tone))
        shapes += glyph(p.verdict, kit.px(18), y + row / 2, width - kit.px(24))
        said = f"{p.limit.name}: {p.how}, {p.said}, {p.verdict.value}"
        regions.append(Region(f"proof {p.limit.measure}", 0, y, width, row, said,
                              of=Selection(measure=p.limit.measure)))  # fmt: skip
    return Picture(width, kit.px(22) + len(proofs) * row, tuple(shapes), tuple(regions))
