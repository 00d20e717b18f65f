"""The mission as a row of phases, each as high as the slope at which it tips in it; the limit as a line across."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, kept_inside
from wired_union.subjects.mass.along import PhaseStand
from wired_union.units import show

HIGH, FOOT, LEAST_W = 58.0, 32.0, 74.0


class PhasePick(Struct, frozen=True):
    """What a bar stands for: a phase, and the pose in which it tips first."""

    number: int
    pose: str


def along_picture(
    stands: Sequence[PhaseStand], limit_deg: float | None, played: int, kit: Kit, width: float
) -> Picture:
    """Bars over phases; the one that is played has its frame.

    Args:
        stands: how it stands in each phase
        limit_deg: the tip angle that is wanted, if any
        played: number of the phase that is drawn above; -1 for none
        kit: sizes and widths of text
        width: room there is, px
    """
    high, foot, gap = kit.px(HIGH), kit.px(FOOT), kit.px(3)
    known = [s.tips_deg for s in stands if s.tips_deg is not None]
    top = max([*known, limit_deg or 0.0, 1.0]) * 1.15
    shapes: list[Shape] = []
    regions, x = [], 0.0
    for stand, wide in zip(stands, _widths(stands, width, kit), strict=True):
        shapes += _bar(stand, limit_deg, top, kit, x, wide - gap, played=stand.number == played)
        said = "unknown" if stand.tips_deg is None else show(stand.tips_deg, "°")
        words = f"{stand.mode}, {show(stand.duration_s, 's')}: {stand.pose_name}, tips at {said}"
        pick = PhasePick(stand.number, stand.pose)
        regions.append(Region(f"phase {stand.number}", x, 0, wide, high + foot, words, of=pick))
        x += wide
    if limit_deg is not None and 0 < limit_deg < top:
        y = high - high * limit_deg / top
        shapes.append(Line(0, y, x, y, "ink", 1.2, (4.0, 3.0)))
        shapes.append(kit.figures(x - gap, y + kit.px(8), f"{limit_deg:g}° wanted", "small", "ink", anchor="end"))
    return Picture(max(x, width), high + foot, kept_inside(shapes, kit, max(x, width)), tuple(regions))


def _bar(
    stand: PhaseStand, limit_deg: float | None, top: float, kit: Kit, x: float, wide: float, *, played: bool
) -> list[Shape]:
    """A phase as high as it may lean, its mode and its pose under it."""
    high, ink = kit.px(HIGH), _ink(stand.tips_deg, limit_deg)
    tall = high * max(stand.tips_deg or 0.0, 0.0) / top
    fill = "breaks_soft" if ink == "breaks" else "soft"
    box = Box(x, high * 0.4, wide, high * 0.6, "", "unknown", width=1.0)
    if stand.tips_deg is not None:
        box = Box(x, high - tall, wide, max(tall, 1.0), fill, ink, width=2.4 if played else 1.0)
    said = "unknown" if stand.tips_deg is None else show(stand.tips_deg, "°")
    return [
        box,
        kit.figures(x + kit.px(4), min(high - tall + kit.px(10), high - kit.px(9)), said, "small", ink, bold=True),
        kit.words(x, high + kit.px(9), kit.cut(stand.mode, wide, "small"), "small", bold=played),
        kit.words(x, high + kit.px(23), kit.cut(stand.pose_name, wide, "small"), "small", "mute"),
    ]


def _widths(stands: Sequence[PhaseStand], width: float, kit: Kit) -> list[float]:
    """By how long each lasts, but never too narrow for its words."""
    least = min(kit.px(LEAST_W), width / max(len(stands), 1))
    whole = sum(s.duration_s for s in stands) or 1.0
    free = max(width - least * len(stands), 0.0)
    return [least + free * s.duration_s / whole for s in stands]


def _ink(tips_deg: float | None, limit_deg: float | None) -> str:
    if tips_deg is None:
        return "unknown"
    if tips_deg < 0 or (limit_deg is not None and tips_deg < limit_deg):
        return "breaks"
    return "holds"
