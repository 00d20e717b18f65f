"""Small bars: shares of energy, what is known of the mass."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape


class Bar(Struct, frozen=True):
    name: str
    share: float
    text: str
    ink: str


def share_bars(bars: Sequence[Bar], kit: Kit, width: float, names: float = 84.0) -> Picture:
    """Bars in rows: name, bar as long as its share of the largest, figure at its end; `names` have so much room."""
    row, label = kit.px(23), min(kit.px(names), width * (0.34 if names <= 84 else 0.5))
    figure = max((kit.width(b.text, "base", "figures", True) for b in bars), default=0) + kit.px(8)
    most = max((b.share for b in bars), default=1.0) or 1.0
    shapes: list[Shape] = []
    regions = []
    for i, bar in enumerate(bars):
        y = row * (i + 0.5)
        length = max((width - label - figure) * bar.share / most, 1.5)
        shapes.append(kit.words(0, y, kit.cut(bar.name, label - 6, "small"), "small"))
        shapes.append(Box(label, y - kit.px(6), length, kit.px(12), bar.ink, radius=1.5))
        shapes.append(kit.figures(label + length + kit.px(6), y, bar.text, "base", bold=True))
        regions.append(Region(bar.name, 0, row * i, width, row, f"{bar.name}: {bar.text}"))
    return Picture(width, row * len(bars), tuple(shapes), tuple(regions))


KNOWLEDGE_LENGTH = {"guess": 0.3, "estimate": 0.5, "datasheet": 0.75, "measured": 1.0}


def knowledge_line(knowledge: str, x: float, y: float, width: float, ink: str) -> Shape:
    """A line as long as the team's knowledge: dotted for a guess, dashed for an estimate."""
    dash = {"guess": (2.0, 3.0), "estimate": (7.0, 4.0)}.get(knowledge, ())
    return Line(x, y, x + width * KNOWLEDGE_LENGTH[knowledge], y, ink, 2.0, dash)


def knowledge_bars(shares: Sequence[tuple[str, float, str]], kit: Kit, width: float) -> Picture:
    """What is known: (level, share, text) in rows, each line drawn as on the cards."""
    row, label = kit.px(23), kit.px(84)
    most = max((s for _, s, _ in shares), default=1.0) or 1.0
    shapes: list[Shape] = []
    for i, (level, share, text) in enumerate(shares):
        y = row * (i + 0.5)
        room = width - label - kit.px(64)
        dash = {"guess": (2.0, 3.0), "estimate": (7.0, 4.0)}.get(level, ())
        shapes.append(kit.words(0, y, level, "small"))
        if share > 0:
            shapes.append(Line(label, y, label + max(room * share / most, 2.0), y, "slate", 4.0, dash))
        shapes.append(kit.figures(width, y, text, "base", bold=True, anchor="end"))
    return Picture(width, row * len(shares), tuple(shapes))
