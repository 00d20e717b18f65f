"""What must move, drawn to scale from its numbers: a wheel at a step, an arm, a screw, a spring, a canopy."""

from wired_union.picture.shapes import Box, Kit, Picture, Shape, kept_inside, shifted
from wired_union.picture.wire import wire
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.subjects.motion.results import LoadResult
from wired_union.subjects.motion.scale import blank

CARD_H = 86.0


def load_card(result: LoadResult, kit: Kit, width: float, *, selected: bool) -> Picture:
    """One load in the list: what it is, what is asked, and its wire."""
    h = kit.px(CARD_H)
    load, verdict = result.load, result.verdict
    left, right = kit.px(11), width - kit.px(11)
    shapes: list[Shape] = [
        Box(0.75, 0.75, width - 1.5, h - 1.5, "card", "ink" if selected else "line", 4, 2.0 if selected else 1.0),
        kit.words(left, h * 0.18, kit.cut(load.name, right - left - kit.px(54), "base", bold=True), "base", bold=True),
        kit.figures(right, h * 0.18, verdict.value, "small", f"{verdict.value}_text", bold=True, anchor="end"),
        kit.words(left, h * 0.40, kit.cut(kind_of(load).asked(load), right - left, "small"), "small", "mute"),
        kit.words(left, h * 0.58, kit.cut(_nearest(result), right - left, "small"), "small", "mute"),
    ]
    shapes += shifted(wire(result.use, verdict, right - left, h * 0.81), left, 0)
    return Picture(width, h, tuple(shapes))


def _nearest(result: LoadResult) -> str:
    if result.missing:
        return f"lacks {result.missing[0]}"
    worst = result.worst
    return f"{worst.name}: {worst.said}" if worst is not None else kind_of(result.load).words


def drawing(result: LoadResult, kit: Kit, width: float, height: float) -> Picture:
    """The mechanics of a load to scale, with its forces; in words where its figures make no sense together."""
    if result.impossible:
        return Picture(width, height, tuple(blank(kit, f"Nothing to draw: {result.missing[0]}.")))
    shapes = kind_of(result.load).drawn(result, kit, width, height)
    return Picture(width, height, kept_inside(shapes, kit, width))
