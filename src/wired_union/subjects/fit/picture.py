"""What sensors see, from above and from the side, with the machine; stacks and rows of beams, to scale."""

import math
from collections.abc import Sequence

import numpy as np

from wired_union.physics.balance import support_polygon
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape
from wired_union.subjects.fit.boxes import Placed
from wired_union.subjects.fit.sights import BeamsResult, Seen, SightResult
from wired_union.subjects.fit.stacks import StackResult
from wired_union.units import show

INKS = ("slate", "copper", "plum", "moss")
PLAN, SIDE = (0, 1), (0, 2)
MOST_DRAWN, LEGEND = 120, 230.0


def sees_picture(seen: Seen, placed: Sequence[Placed], floor_m: float | None, kit: Kit, width: float, height: float,
                 chosen: str = "") -> Picture:  # fmt: skip
    """Plan on the left, side on the right, to one scale; each view as far as it must see, dashed where it begins."""
    looking = [r for r in seen.sights if r.look is not None]
    if not looking:
        words = "Say which sensor looks where, and see what it sees: from above and from the side."
        return Picture(width, kit.px(24), (kit.words(0, kit.px(10), words, "small", "mute"),))
    gap, foot = kit.px(24), kit.px(28)
    spans = [_span(looking, placed, axes, floor_m) for axes in (PLAN, SIDE)]
    wide = sum(s[1] - s[0] for s in spans)
    tall = max(s[3] - s[2] for s in spans)
    beside = kit.px(LEGEND) if width > kit.px(640) else 0.0
    px = min((width - gap - beside) / wide, (height - foot - kit.px(10)) / tall)
    shapes: list[Shape] = []
    regions: list[Region] = []
    left = 0.0
    for axes, span, title in zip((PLAN, SIDE), spans, ("from above", "from the side"), strict=True):
        pane = _Pane(axes, left - span[0] * px, (height - foot) / 2 + (span[2] + span[3]) / 2 * px, px)
        shapes += _machine(pane, placed)
        if axes == SIDE and floor_m is not None:
            y = pane.at(0, floor_m)[1]
            shapes.append(Line(left, y, left + (span[1] - span[0]) * px, y, "ink", 1.4))
        for n, r in enumerate(looking):
            shapes += _view(pane, r, INKS[n % len(INKS)], kit, floor_m, thick=r.sight.id == chosen)
        middle = left + (span[1] - span[0]) * px / 2
        shapes.append(kit.words(middle, height - kit.px(8), title, "small", "mute", anchor="middle"))
        left += (span[1] - span[0]) * px + gap
        regions += [_region(pane, r, kit) for r in looking if axes == PLAN]
    shapes += _legend(looking, kit, left, width, chosen)
    return Picture(width, height, tuple(shapes), tuple(regions))


class _Pane:
    """Two axes of the machine on the screen."""

    def __init__(self, axes: tuple[int, int], x0: float, y0: float, px: float) -> None:
        self.axes, self.x0, self.y0, self.px = axes, x0, y0, px

    def at(self, along: float, across: float) -> tuple[float, float]:
        return self.x0 + along * self.px, self.y0 - across * self.px

    def of(self, spot: Sequence[float]) -> tuple[float, float]:
        return self.at(spot[self.axes[0]], spot[self.axes[1]])


def _angle(r: SightResult, axes: tuple[int, int]) -> tuple[float, float]:
    """Where it looks in a pane, and half of its view there, in degrees."""
    assert r.look is not None
    if axes == PLAN:
        return r.look.yaw_deg, (r.sight.wide_deg + r.sight.sweep_deg) / 2
    ahead = math.cos(math.radians(r.look.yaw_deg)) >= 0
    return (r.look.pitch_deg if ahead else 180 - r.look.pitch_deg), r.sight.high_deg / 2


def _span(looking: Sequence[SightResult], placed: Sequence[Placed], axes: tuple[int, int], floor_m: float | None
          ) -> tuple[float, float, float, float]:  # fmt: skip
    """Least and most along, least and most across, of all that is drawn."""
    spots = [p.box.corners()[:, axes] for p in placed]
    for r in looking:
        assert r.look is not None
        start = np.array([r.look.at[axes[0]], r.look.at[axes[1]]])
        spots += [start[None, :], np.array(_fan(r, axes, r.sight.to_m, floor_m))]
        if axes == PLAN and _is_steep(r):
            round_it = r.sight.to_m * math.sin(math.radians(r.sight.wide_deg) / 2)
            spots[-1] = start + round_it * np.array([(1, 1), (-1, -1)])
    every = np.concatenate(spots)
    low = float(every[:, 1].min())
    if axes == SIDE and floor_m is not None:
        low = floor_m - 0.02
    return float(every[:, 0].min()), float(every[:, 0].max()), low, float(every[:, 1].max())


def _machine(pane: _Pane, placed: Sequence[Placed]) -> list[Shape]:
    """The outlines of the parts, the largest first."""
    largest = sorted(placed, key=lambda p: -math.prod(p.box.half))[:MOST_DRAWN]
    shapes: list[Shape] = []
    for p in largest:
        flat = [(float(a), float(b)) for a, b in p.box.corners()[:, pane.axes].round(6)]
        hull = support_polygon(flat)
        if len(hull) > 2:
            fill = "" if p.item.fills == "open inside" else "soft"
            shapes.append(Poly(tuple(pane.at(*x) for x in hull), "mute", fill, 1.2))
    return shapes


def _fan(r: SightResult, axes: tuple[int, int], radius: float, floor_m: float | None) -> list[tuple[float, float]]:
    """The far edge of a view at a distance; from the side no further than the floor."""
    assert r.look is not None
    way, half = _angle(r, axes)
    start, drop = r.look.at[axes[0]], None if floor_m is None or axes == PLAN else r.look.at[2] - floor_m
    found = []
    for a in np.radians(np.linspace(way - half, way + half, 25)).tolist():
        down = -math.sin(a)
        far = min(radius, drop / down) if drop is not None and drop > 0 and down > 1e-9 else radius
        found.append((start + far * math.cos(a), r.look.at[axes[1]] + far * math.sin(a)))
    return found


def _view(
    pane: _Pane, r: SightResult, ink: str, kit: Kit, floor_m: float | None, *, thick: bool
) -> list[Shape]:  # fmt: skip
    """The edges of a view to where it may stop, an arc there, a dashed one where it must begin."""
    assert r.look is not None
    x, y = pane.of(r.look.at)
    width = 2.4 if thick else 1.4
    if pane.axes == PLAN and _is_steep(r):
        across = r.sight.to_m * math.sin(math.radians(r.sight.wide_deg) / 2) * pane.px
        return [Ring(x, y, across, ink, width, ()), Ring(x, y, kit.px(4), ink, 1.0, (), ink)]

    def arc(radius: float) -> tuple[tuple[float, float], ...]:
        return tuple(pane.at(*spot) for spot in _fan(r, pane.axes, radius, floor_m))

    far, near = arc(r.sight.to_m), arc(r.sight.from_m)
    shapes: list[Shape] = [
        Line(x, y, *far[0], ink, width), Line(x, y, *far[-1], ink, width), Poly(far, ink, width=width),
        Poly(near, ink, width=1.2, dash=(4.0, 3.0)), Ring(x, y, kit.px(4), ink, 1.0, (), ink),
    ]  # fmt: skip
    return shapes


def _is_steep(r: SightResult) -> bool:
    """Whether it looks up or down so much that its view goes all round from above."""
    assert r.look is not None
    return abs(r.look.pitch_deg) + r.sight.high_deg / 2 >= 90


def _legend(looking: Sequence[SightResult], kit: Kit, left: float, width: float, chosen: str) -> list[Shape]:
    """Which colour is whose, and what it finds, beside the drawing."""
    shapes: list[Shape] = []
    room, y = width - left, kit.px(12)
    if room < kit.px(120):
        return shapes
    for n, r in enumerate(looking):
        ink = INKS[n % len(INKS)]
        shapes.append(kit.words(left, y, kit.cut(r.sight.name, room, "base", bold=True), "base", ink, bold=True))
        y += kit.px(18)
        for line in kit.wrap(told(r), room, "small", "words", r.sight.id == chosen):
            shapes.append(kit.words(left, y, line, "small", "ink", bold=r.sight.id == chosen))
            y += kit.px(16)
        y += kit.px(8)
    return shapes


def _region(pane: _Pane, r: SightResult, kit: Kit) -> Region:
    """Its view from above, to be chosen."""
    assert r.look is not None
    x, y = pane.of(r.look.at)
    way = math.radians(_angle(r, PLAN)[0])
    mx, my = x + math.cos(way) * r.sight.to_m * pane.px / 2, y - math.sin(way) * r.sight.to_m * pane.px / 2
    side = max(kit.px(28), r.sight.to_m * pane.px * 0.5)
    return Region(r.sight.id, mx - side / 2, my - side / 2, side, side, said(r))


def said(r: SightResult) -> str:
    """A sensor's view in a sentence."""
    return f"{r.sight.name}: {told(r)}"


def told(r: SightResult) -> str:
    """The same without its name."""
    s = r.sight
    small = f"finds {show(r.smallest_m, 'm')} and larger" if r.smallest_m is not None else "one spot"
    return f"{small}, from {show(s.from_m, 'm')} to {show(s.to_m, 'm')}; {show(r.spot_m, 'm')} wide there"


def stacks_picture(stacks: Sequence[StackResult], kit: Kit, width: float, height: float, chosen: str = "") -> Picture:
    """Each stack from the side, to one scale, with its height; the height that there is as a line over it."""
    drawn = [s for s in stacks if s.slices]
    if not drawn:
        words = "Name a stack, lay boards, packs or plates on it, and see how high it is with its spacers."
        return Picture(width, kit.px(24), (kit.words(0, kit.px(10), words, "small", "mute"),))
    each = min(width / len(drawn), kit.px(440))
    tallest = max(max(s.height_m, s.stack.high_m or 0.0) for s in drawn)
    widest = max((s.across_m for s in drawn), default=0.0) or 0.1
    px = min((height - kit.px(44)) / tallest, each * 0.5 / widest)
    shapes: list[Shape] = []
    regions: list[Region] = []
    ground = height - kit.px(26)
    for n, s in enumerate(drawn):
        x, ink = n * each, "copper" if s.stack.id == chosen else "slate"
        for piece in s.slices:
            wide = (piece.across_m or widest * 0.6) * px
            top = ground - (piece.bottom_m + piece.thick_m) * px
            shapes.append(Box(x, top, wide, max(piece.thick_m * px, 1.0), "soft", ink))
        if s.stack.high_m is not None:
            y = ground - s.stack.high_m * px
            shapes.append(Line(x, y, x + widest * px, y, "ink", 2.0))
        told = f"{'at least ' if s.missing else ''}{show(s.height_m, 'm')}"
        shapes.append(
            kit.figures(x + widest * px + kit.px(8), ground - s.height_m * px / 2, told, "small", "ink", bold=True)
        )
        shapes.append(kit.words(x, height - kit.px(10), kit.cut(s.stack.name, each - 8, "small"), "small", "mute"))
        regions.append(Region(s.stack.id, x, 0, each, height, f"{s.stack.name}: {told} high"))
    return Picture(width, height, tuple(shapes), tuple(regions))


def beams_picture(rows: Sequence[BeamsResult], kit: Kit, width: float, chosen: str = "") -> Picture:
    """Each row from the end: its beams over what things lie on, the thing standing and lying beside them."""
    if not rows:
        words = "Name a row of light beams, and see what slips through."
        return Picture(width, kit.px(24), (kit.words(0, kit.px(10), words, "small", "mute"),))
    tall = kit.px(96)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for n, r in enumerate(rows):
        b, top = r.row, n * (tall + kit.px(12))
        highest = max(b.lowest_m + (b.beams - 1) * b.pitch_m + b.beam_m, b.upright_m or 0.0, b.flat_m or 0.0, 1e-3)
        px, ground = (tall - kit.px(12)) / highest, top + tall - kit.px(4)
        shapes.append(Line(kit.px(130), ground, kit.px(330), ground, "ink", 1.4))
        shapes.append(kit.words(0, top + tall / 2, kit.cut(b.name, kit.px(120), "base"), "base", bold=b.id == chosen))
        for k in range(b.beams):
            y = ground - (b.lowest_m + k * b.pitch_m) * px
            shapes.append(Ring(kit.px(150), y, max(b.beam_m * px / 2, 1.5), "copper", 1.0, (), "copper"))
        for m, high in enumerate((b.upright_m, b.flat_m)):
            if high is not None:
                shapes.append(
                    Box(kit.px(190 + 60 * m), ground - high * px, kit.px(24), high * px, "slate_soft", "slate")
                )
        x = kit.px(350)
        told = [f"breaks a beam from {show(r.surely_seen_m, 'm')} on",
                f"aimed to {show(r.tolerance_deg, '°')} or better"]  # fmt: skip
        if r.upright_breaks is not None and r.flat_breaks is not None:
            told.append(f"upright breaks {r.upright_breaks}, flat {r.flat_breaks}")
        shapes += [kit.words(x, top + kit.px(20) + i * kit.px(20), text, "small") for i, text in enumerate(told)]
        regions.append(Region(b.id, 0, top, width, tall, f"{b.name}: {'; '.join(told)}"))
    return Picture(width, len(rows) * (tall + kit.px(12)), tuple(shapes), tuple(regions))
