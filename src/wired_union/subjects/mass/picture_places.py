"""Where things are, to scale: from above, from the side and from behind on one card, in line with each other.

From above and from the side forward is to the right; from behind left is to the left. What has no size is a dot.
"""

import math
from collections.abc import Iterator, Sequence
from itertools import product

from msgspec import Struct, field

from wired_union.catalogue.parts import discipline_of
from wired_union.physics.balance import support_polygon
from wired_union.picture.palette import DISCIPLINE_INK
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape
from wired_union.project.model import Item
from wired_union.subjects.mass.balance import Balance, Lump, corners_of
from wired_union.units import show

GAP, EDGE, FOOT, DOT = 16.0, 34.0, 20.0, 4.0
MOST_H, PRESSED = 330.0, 34.0
LEAST_SPAN_M = 0.05
MOST_KEPT, MOST_DRAWN = 20_000, 400
Span = tuple[float, float]
Extent = tuple[Span, Span, Span]


class Spot(Struct, frozen=True):
    """One copy of a part as one of the drawings shows it."""

    item: str
    copy: int
    pane: str


class Pane(Struct, frozen=True):
    """One drawing: which way its axes run in the machine's frame, and where its middle lies on the card."""

    name: str
    across: tuple[int, float]
    """Axis that runs to the right, and the sign of that."""
    up: int
    """Axis that runs up."""
    middle: tuple[float, float]
    """Of the spans, in metres along these axes."""
    at: tuple[float, float]
    """Where that is, in pixels."""
    px_per_m: float
    lean: tuple[float, float] = (1.0, 0.0)
    """Cosine and sine of the slope that it stands on, positive where the right side is downhill."""

    def px(self, point: Sequence[float]) -> tuple[float, float]:
        """Where a point of the machine is on the card."""
        (axis, sign), (cos, sin) = self.across, self.lean
        u, v = sign * point[axis] - self.middle[0], point[self.up] - self.middle[1]
        return (self.at[0] + (u * cos + v * sin) * self.px_per_m, self.at[1] - (v * cos - u * sin) * self.px_per_m)

    def metres(self, dx_px: float, dy_px: float) -> tuple[float, float, float]:
        """What a way on the card is in the machine's frame."""
        found, (cos, sin) = [0.0, 0.0, 0.0], self.lean
        right, up = dx_px / self.px_per_m, -dy_px / self.px_per_m
        found[self.across[0]] = self.across[1] * (right * cos - up * sin)
        found[self.up] = right * sin + up * cos
        return found[0], found[1], found[2]


class PlacesDrawing(Struct, frozen=True):
    """The picture, and its panes by their name, with which a drag is read."""

    picture: Picture
    panes: dict[str, Pane]


class Kept(Struct, frozen=True):
    """What was drawn of parts that have not moved since: a drag draws one anew."""

    pieces: dict[tuple[int, int, str, bool], tuple[Item, Pane, tuple[Shape, ...], Region]] = field(default_factory=dict)
    extents: dict[tuple[int, int], tuple[Item, Extent]] = field(default_factory=dict)
    still: list[tuple[Shape, ...]] = field(default_factory=list)
    """What lay under the last picture."""

    def lying(self, shapes: Sequence[Shape]) -> tuple[Shape, ...]:
        """The shapes, as the very tuple of the last picture where they are the same."""
        made = tuple(shapes)
        if self.still != [made]:
            self.still[:] = [made]
        return self.still[0]

    def piece(self, lump: Lump, pane: Pane, kit: Kit, selected: bool) -> tuple[tuple[Shape, ...], Region]:
        """Shapes and region of a copy in a drawing."""
        key = (id(lump.item), lump.copy, pane.name, selected)
        known = self.pieces.get(key)
        if known is None or known[0] is not lump.item or known[1] != pane:
            extent = self.extent(lump)
            made = tuple(_part(lump, pane, kit, selected, extent)), _region(lump, pane, kit, extent)
            if len(self.pieces) > MOST_KEPT:
                self.pieces.clear()
            known = self.pieces[key] = (lump.item, pane, *made)
        return known[2], known[3]

    def extent(self, lump: Lump) -> Extent:
        """From the least to the most of a copy along each axis."""
        key = (id(lump.item), lump.copy)
        known = self.extents.get(key)
        if known is None or known[0] is not lump.item:
            if len(self.extents) > MOST_KEPT:
                self.extents.clear()
            known = self.extents[key] = (lump.item, _extent(lump))
        return known[1]


def places_drawing(
    balance: Balance, kit: Kit, width: float, selected: str = "", kept: Kept | None = None, slope_deg: float = 0.0,
    moving: str = "",
) -> PlacesDrawing:  # fmt: skip
    """Lay the three drawings out side by side: as large as the width allows, all to one scale.

    From the side and from behind it stands on a slope, downhill where it tips first that way. What is selected or
    moving lies over the rest, which the picture has as what lies still.
    """
    kept = Kept() if kept is None else kept
    drawn = sorted(heaviest_placed(balance, selected), key=lambda x: -_area(x))
    if not drawn and not balance.contacts:
        words = kit.words(0, kit.px(14), "Nothing has a place yet. Select a part and say where it is.", "small", "mute")
        return PlacesDrawing(Picture(width, kit.px(28), (words,)), {})
    spans = _spans(balance, [kept.extent(x) for x in drawn])
    panes, height = _panes(spans, kit, width, _leans(balance, slope_deg))
    still: list[Shape] = []
    shapes: list[Shape] = []
    regions: list[Region] = []
    over = {selected, moving}
    for pane in panes.values():
        still += _ground(balance, pane, kit)
        for lump in sorted(drawn, key=lambda x: x.item.id in over):
            own, region = kept.piece(lump, pane, kit, lump.item.id == selected)
            layer = shapes if lump.item.id in over else still
            layer += own
            regions.append(region)
        shapes += _loads(balance, pane, kit) if _key(pane) == "above" else _pressing(balance, pane, kit)
        shapes += _centre(balance, pane, kit)
        shapes.append(kit.words(pane.at[0], height - kit.px(9), pane.name, "small", "mute", anchor="middle"))
    shapes += _angles(balance, panes["above"], spans, kit)
    for lump in (x for x in drawn if x.item.id == selected):
        shapes += _name(lump, panes["above"], kit, kept.extent(lump))
    return PlacesDrawing(Picture(width, height, tuple(shapes), tuple(regions), kept.lying(still)), panes)


def heaviest_placed(balance: Balance, selected: str) -> list[Lump]:
    """What has a place: all of it, or the heaviest and what is selected where that would be too much to see."""
    placed = list(balance.lumps)
    if len(placed) <= MOST_DRAWN:
        return placed
    ordered = sorted(placed, key=lambda x: (x.item.id != selected, -x.most_kg))
    return ordered[:MOST_DRAWN]


def _area(lump: Lump) -> float:
    part = lump.item.part
    return (part.length_m or 0.0) * (part.width_m or 0.0)


def _extent(lump: Lump) -> Extent:
    """From least to most along each axis."""
    x, y, z = ((min(row), max(row)) for row in zip(*corners_of(lump), strict=True))
    return x, y, z


def _spans(balance: Balance, drawn: Sequence[Extent]) -> list[Span]:
    """From the least to the most of everything along each axis."""
    extents = [*drawn]
    extents += [((c.x_m, c.x_m), (c.y_m, c.y_m), (c.bottom_m, c.bottom_m)) for c in balance.contacts]
    return [(min(e[k][0] for e in extents), max(e[k][1] for e in extents)) for k in range(3)]


Lean = tuple[float, float]
FLAT: Lean = (1.0, 0.0)


def _leans(balance: Balance, slope_deg: float) -> tuple[Lean, Lean]:
    """How it leans from the side and from behind: downhill is the way that it tips first."""
    if not slope_deg or not balance.tips:
        return FLAT, FLAT
    least = {t.way: t.least_deg for t in sorted(balance.tips, key=lambda t: -t.least_deg)}
    slope = math.radians(slope_deg)
    forward = least.get("forward", 90.0) <= least.get("backward", 90.0)
    right = least.get("to the right", 90.0) <= least.get("to the left", 90.0)
    cos, sin = math.cos(slope), math.sin(slope)
    return (cos, sin if forward else -sin), (cos, sin if right else -sin)


def _panes(
    spans: Sequence[Span], kit: Kit, width: float, leans: tuple[Lean, Lean]
) -> tuple[dict[str, Pane], float]:  # fmt: skip
    """The three drawings, and the height that they take."""
    x, y, z = (max(b - a, LEAST_SPAN_M) for a, b in spans)
    mid = [(a + b) / 2 for a, b in spans]
    (cos, sin), (cos2, sin2) = leans
    side_w, side_h = x * cos + z * abs(sin), z * cos + x * abs(sin)
    behind_w, behind_h = y * cos2 + z * abs(sin2), z * cos2 + y * abs(sin2)
    gap, edge = kit.px(GAP), kit.px(EDGE)
    wide, high = width - 4 * edge - gap, kit.px(MOST_H)
    across, up = x + side_w + behind_w, max(y, side_h, behind_h)
    scale = max(min(wide / across, high / up), 1.0)
    left = edge + (wide - across * scale) / 2
    middle = edge * 0.7 + up * scale / 2
    places = (left + x * scale / 2, left + (x + side_w / 2) * scale + 2 * edge,
              left + (x + side_w + behind_w / 2) * scale + 2 * edge + gap)  # fmt: skip
    return {
        "above": Pane("from above", (0, 1.0), 1, (mid[0], mid[1]), (places[0], middle), scale),
        "side": Pane("from the side", (0, 1.0), 2, (mid[0], mid[2]), (places[1], middle), scale, leans[0]),
        "behind": Pane("from behind", (1, -1.0), 2, (-mid[1], mid[2]), (places[2], middle), scale, leans[1]),
    }, up * scale + edge * 1.4 + kit.px(FOOT)


def _key(pane: Pane) -> str:
    return {"from above": "above", "from the side": "side"}.get(pane.name, "behind")


def _ground(balance: Balance, pane: Pane, kit: Kit) -> Iterator[Shape]:
    """From above what it stands on, with loads and angles; else the floor."""
    if _key(pane) == "above":
        yield from _base(balance, pane, kit)
        return
    if not balance.contacts:
        return
    floor = min(c.bottom_m for c in balance.contacts)
    ends = sorted(pane.px((c.x_m, c.y_m, floor)) for c in balance.contacts)
    (x0, y0), (x1, y1) = ends[0], ends[-1]
    (cos, sin), over = pane.lean, kit.px(26)
    yield Line(x0 - over * cos, y0 - over * sin, x1 + over * cos, y1 + over * sin, "ink", 1.4)


def _pressing(balance: Balance, pane: Pane, kit: Kit) -> Iterator[Shape]:
    """The loads of the contacts as lengths under the floor, those behind each other together."""
    floor = min((c.bottom_m for c in balance.contacts), default=0.0)
    axis = 0 if _key(pane) == "side" else 1
    columns: dict[float, float] = {}
    loads = balance.loads_on_slope(axis, pane.lean[1] / pane.lean[0] * pane.across[1])
    for contact, load in zip(balance.contacts, loads or (0.0,) * len(balance.contacts), strict=True):
        at = round(contact.point[axis], 3)
        columns[at] = columns.get(at, 0.0) + load
    whole = sum(columns.values())
    cos, sin = pane.lean
    for at, load in columns.items():
        x, y = pane.px((at, 0.0, floor) if axis == 0 else (0.0, at, floor))
        long = kit.px(PRESSED) * load / whole if whole else 0.0
        if long > 1:
            yield Line(x, y + 2, x - long * sin, y + 2 + long * cos, "slate", 5.0)


def _base(balance: Balance, pane: Pane, kit: Kit) -> Iterator[Shape]:
    first = balance.first
    for tip in balance.tips:
        one, other = (pane.px((*end, 0.0)) for end in (tip.edge.one, tip.edge.other))
        yield Line(*one, *other, "ink" if tip is first else "mute", 1.6 if tip is first else 1.2, (6.0, 4.0))


def _angles(balance: Balance, pane: Pane, spans: Sequence[Span], kit: Kit) -> Iterator[Shape]:
    """At what slope it tips over each edge, outside of everything that is drawn."""
    (left, low), (right, high) = pane.px((spans[0][0], spans[1][0])), pane.px((spans[0][1], spans[1][1]))
    for tip in balance.tips:
        one, other = (pane.px((*end, 0.0)) for end in (tip.edge.one, tip.edge.other))
        x, y = (one[0] + other[0]) / 2, (one[1] + other[1]) / 2
        out = (-tip.edge.inwards[0], tip.edge.inwards[1])
        sides = ((x, out[0], right if out[0] > 0 else left), (y, out[1], low if out[1] > 0 else high))
        ways = [(side - from_) / o for from_, o, side in sides if abs(o) > 1e-6]
        far = max(min(ways), 0.0)
        at = (x + out[0] * (far + kit.px(19)), y + out[1] * (far + kit.px(14)))
        first = tip is balance.first
        yield kit.figures(
            *at, f"{tip.least_deg:.0f}°", "heading", "ink" if first else "mute", bold=first, anchor="middle"
        )


def _loads(balance: Balance, pane: Pane, kit: Kit) -> Iterator[Shape]:
    """What each contact carries, on it."""
    loads = balance.loads_n or (None,) * len(balance.contacts)
    for contact, load in zip(balance.contacts, loads, strict=True):
        x, y = pane.px((contact.x_m, contact.y_m, 0.0))
        yield Ring(x, y, kit.px(3), "ink", 1.4, (), "ink")
        if load is not None:
            yield kit.figures(x, y + kit.px(-10 if y < pane.at[1] else 11), show(load, "N"), "small", anchor="middle")


def _part(lump: Lump, pane: Pane, kit: Kit, selected: bool, extent: Extent) -> Iterator[Shape]:
    """A part to scale: turned from above, a wheel round from the side."""
    ink = DISCIPLINE_INK[discipline_of(lump.item.part.kind)]
    edge, wide = ("ink", 2.2) if selected else (ink, 1.3)
    x, y, w, h = _frame(extent, pane, kit)
    wheel = lump.item.part.wheel
    if wheel is not None and _key(pane) == "side":
        centre = pane.px(lump.at)
        yield Ring(*centre, wheel.diameter_m / 2 * pane.px_per_m, edge, wide, (), "soft")
    elif w > 2 * kit.px(DOT) or h > 2 * kit.px(DOT):
        outline = support_polygon([pane.px(c) for c in corners_of(lump)])
        yield Poly((*outline, outline[0]), edge, "soft", wide)
    else:
        yield Ring(x + w / 2, y + h / 2, kit.px(DOT), edge, wide, (), ink)


def _name(lump: Lump, pane: Pane, kit: Kit, extent: Extent) -> Iterator[Shape]:
    """What is selected, by name, over everything."""
    x, y, w, _ = _frame(extent, pane, kit)
    name = f"{lump.item.name} {lump.copy + 1}" if lump.item.count > 1 else lump.item.name
    wide = kit.width(name, "small", "figures", True) + kit.px(8)
    yield Box(x + w / 2 - wide / 2, y - kit.px(19), wide, kit.px(15), "card", "line", 3)
    yield kit.figures(x + w / 2, y - kit.px(11.5), name, "small", "ink", bold=True, anchor="middle")


def _frame(extent: Extent, pane: Pane, kit: Kit) -> tuple[float, float, float, float]:
    """The box around a part on the card; at least as large as a dot."""
    ends = [pane.px([span[k] for span in extent]) for k in (0, 1)]
    if pane.lean[1]:
        ends = [pane.px(corner) for corner in product(*extent)]
    left, right = min(x for x, _ in ends), max(x for x, _ in ends)
    top, bottom = min(y for _, y in ends), max(y for _, y in ends)
    w, h = max(right - left, 2 * kit.px(DOT)), max(bottom - top, 2 * kit.px(DOT))
    return (left + right - w) / 2, (top + bottom - h) / 2, w, h


def _region(lump: Lump, pane: Pane, kit: Kit, extent: Extent) -> Region:
    item, key = lump.item, _key(pane)
    count = f" {lump.copy + 1}" if item.count > 1 else ""
    where = ", ".join(f"{n} {show(v, 'm')}" for n, v in zip("xyz", lump.at, strict=True))
    said = f"{item.name}{count}, {pane.name}: {where}, {show(lump.least_kg, 'kg')}"
    return Region(
        f"{key}:{item.id}:{lump.copy}", *_frame(extent, pane, kit), said, "place", Spot(item.id, lump.copy, key)
    )


def _centre(balance: Balance, pane: Pane, kit: Kit) -> Iterator[Shape]:
    """The centre of mass, with the box that it is in as far as is known, and the plumb line under it."""
    centre = balance.centre
    if centre is None or balance.centre_range is None:
        return
    low, high = balance.centre_range
    x, y = pane.px(centre)
    (x0, y0), (x1, y1) = pane.px(low), pane.px(high)
    if max(abs(x1 - x0), abs(y1 - y0)) > kit.px(3):
        yield Box(min(x0, x1), min(y0, y1), abs(x1 - x0), abs(y1 - y0), "", "ink", 2, 1.0, dash=(2.0, 2.0))
    if _key(pane) != "above" and balance.contacts:
        bottom = min(c.bottom_m for c in balance.contacts)
        x2, y2 = pane.px((centre[0], centre[1], bottom))
        yield Line(x, y, x, y2 + (x - x2) * pane.lean[1] / pane.lean[0], "ink", 1.2, (3.0, 3.0))  # plumb, to the slope
    r = kit.px(6)
    yield Ring(x, y, r, "ink", 2.0, (), "card")
    yield Line(x - r, y, x + r, y, "ink", 1.4)
    yield Line(x, y - r, x, y + r, "ink", 1.4)
