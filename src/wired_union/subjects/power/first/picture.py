"""The first half second as lanes over one time: what the pack gives, and how far each supply dips."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Region, Shape
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.first.run import First, Start, least_v, watched_items
from wired_union.units import show

CURRENT_H, VOLT_H, GAP_H, FOOT_H, LEFT, LEAST_SPAN = 92.0, 46.0, 9.0, 24.0, 62.0, 0.02
MOST_LANES = 7


class Lane(Struct, frozen=True):
    """The voltage that one item gets, and where it gives up; None where nothing says."""

    item: str
    name: str
    volts: tuple[float, ...]
    least_v: float | None
    says: str
    """What happens under that voltage: "resets", "needs", "cut-off"."""

    @property
    def lowest(self) -> float:
        return min(self.volts, default=0.0)

    @property
    def breaks(self) -> bool:
        """Whether it comes under it."""
        return self.least_v is not None and self.lowest < self.least_v


class FirstChart(Struct, frozen=True):
    """A laid-out chart: the picture, and how a place on it is read."""

    picture: Picture
    start: Start
    lanes: tuple[Lane, ...]
    left: float
    s_per_px: float

    def reading(self, x: float) -> str:
        """What every lane says at a place, in words: a cursor through all of them."""
        times = self.start.course.times_s
        if not times:
            return ""
        time = min(max((x - self.left) * self.s_per_px, 0.0), times[-1])
        n = min(range(len(times)), key=lambda i: abs(times[i] - time))
        volts = ", ".join(f"{lane.name} {show(lane.volts[n], 'V')}" for lane in self.lanes)
        return f"{show(times[n], 's')}: {show(self.start.course.source_a[n], 'A')} from the pack; {volts}"


def lanes_of(first: First, start: Start) -> tuple[Lane, ...]:
    """The pack, what lies on the way to each controller and makes its voltage, and the controllers themselves."""
    result = first.result
    watched = [i for i in watched_items(result) if i.id in start.circuit.spots]
    wanted = [start.circuit.root]
    for item in watched:
        way = [
            n for n in reversed([*result.tree.above(item.id)]) if result.tree.nodes[n].item.part.regulator is not None
        ]
        wanted += [n for n in way if n not in wanted]
    wanted += [i.id for i in watched]
    return tuple(_lane(result, start, i) for i in wanted[:MOST_LANES])


def _lane(result: PowerResult, start: Start, item_id: str) -> Lane:
    item = result.tree.nodes[item_id].item
    volts = tuple(start.course.volts[start.circuit.spots[item_id]])
    if item_id == start.circuit.root:
        figures = next((p.figures for p in result.packs if p.figures.item.id == item_id), None)
        plain = figures is not None and figures.converter is None
        return Lane(item_id, item.name, volts, figures.cutoff_v if plain and figures is not None else None, "cut-off")
    if item.part.regulator is not None:
        return Lane(item_id, f"into {item.name}", volts, item.part.regulator.least_input_v or None, "needs")
    return Lane(item_id, item.name, volts, least_v(item), "resets")


def first_chart(first: First, start: Start, kit: Kit, width: float, *, selected: str = "") -> FirstChart:
    """Lay out one start: current, then a lane for each voltage, over one axis of time."""
    lanes, left, right = lanes_of(first, start), kit.px(LEFT), width - kit.px(10)
    times = start.course.times_s
    whole = times[-1] if times else 0.5
    scale = whole / max(right - left, 1.0)
    shapes: list[Shape] = []
    regions: list[Region] = []
    y = kit.px(6)
    _current(shapes, start, kit, left, right, (y, y + kit.px(CURRENT_H)), scale)
    regions.append(Region("current", left, y, right - left, kit.px(CURRENT_H), "current from the pack"))
    y += kit.px(CURRENT_H + GAP_H)
    for lane in lanes:
        _volts(shapes, lane, times, kit, left, right, (y, y + kit.px(VOLT_H)), scale, chosen=lane.item == selected)
        said = f"{lane.name}: lowest {show(lane.lowest, 'V')}" + _needs(lane)
        regions.append(Region(f"lane:{lane.item}", left, y, right - left, kit.px(VOLT_H), said, of=lane.item))
        y += kit.px(VOLT_H + GAP_H)
    for t in ticks(0, whole, 6):
        x = left + t / scale
        shapes.append(Line(x, y - kit.px(GAP_H), x, y - kit.px(GAP_H) + 4, "line"))
        shapes.append(kit.figures(x, y + kit.px(5), show(t, "s") if t else "0", "small", "mute", anchor="middle"))
    return FirstChart(Picture(width, y + kit.px(FOOT_H), tuple(shapes), tuple(regions)), start, lanes, left, scale)


def _needs(lane: Lane) -> str:
    if lane.least_v is None:
        return ""
    return f"; {lane.says} {'below' if lane.says == 'resets' else 'at'} {show(lane.least_v, 'V')}"


def _points(
    times: Sequence[float], values: Sequence[float], left: float, scale: float, low: float, high: float,
    span: tuple[float, float],
) -> tuple[tuple[float, float], ...]:  # fmt: skip
    """A curve as points, from the left edge on; the first value stands from the beginning."""
    each = zip(times, values, strict=True)
    found = [(left + t / scale, span[1] - (v - low) / ((high - low) or 1.0) * (span[1] - span[0])) for t, v in each]
    return ((left, found[0][1]), *found) if found else ()


def _current(
    shapes: list[Shape], start: Start, kit: Kit, left: float, right: float, span: tuple[float, float], scale: float
) -> None:
    values = start.course.source_a
    top = max(values, default=1.0) * 1.08 or 1.0
    for mark in ticks(0, top, 3):
        y = span[1] - mark / top * (span[1] - span[0])
        shapes.append(Line(left, y, right, y, "line"))
        shapes.append(kit.figures(left - 6, y, show(mark, "A") if mark else "0 A", "small", "mute", anchor="end"))
    points = _points(start.course.times_s, values, left, scale, 0.0, top, span)
    if points:
        filled = (*points, (points[-1][0], span[1]), (left, span[1]))
        shapes += [Poly(filled, "", "copper_soft"), Poly(points, "copper", width=1.8)]
    most = max(values, default=0.0)
    said = f"current from the pack, at most {show(most, 'A')}" if values else "it cannot deliver this at all"
    shapes.append(kit.figures(right - 4, span[0] + kit.px(16), said, "small", "copper", bold=True, anchor="end"))


def _volts(
    shapes: list[Shape], lane: Lane, times: Sequence[float], kit: Kit, left: float, right: float,
    span: tuple[float, float], scale: float, *, chosen: bool,
) -> None:  # fmt: skip
    known = [*lane.volts, *([lane.least_v] if lane.least_v is not None else [])] or [0.0]
    low, high = min(known), max(known)
    room = max(high - low, LEAST_SPAN * max(abs(high), 1e-6)) * 0.22
    low, high = low - room, high + room
    ink = "breaks" if lane.breaks else "ink"

    def at(v: float) -> float:
        return span[1] - (v - low) / (high - low) * (span[1] - span[0])

    shapes.append(Line(left, span[1], right, span[1], "line"))
    if lane.least_v is not None:
        y = at(lane.least_v)
        shapes.append(Line(left, y, right, y, "breaks", 1.2, (5.0, 4.0)))
        shapes.append(kit.figures(left - 6, y, show(lane.least_v, "V"), "small", "breaks_text", anchor="end"))
    points = _points(times, lane.volts, left, scale, low, high, span)
    if points:
        shapes.append(Poly(points, ink, width=2.2 if chosen else 1.6))
        end = at(lane.volts[-1])
        if lane.least_v is None or abs(end - at(lane.least_v)) > kit.px(11):
            shapes.append(kit.figures(left - 6, end, show(lane.volts[-1], "V"), "small", "mute", anchor="end"))
    words = f"{lane.name} · lowest {show(lane.lowest, 'V')}{_needs(lane)}"
    text = "breaks_text" if lane.breaks else "ink"
    taken = [at(v) for v in (lane.least_v, lane.volts[-1] if lane.volts else None) if v is not None]
    places = [span[0] + kit.px(7), (span[0] + span[1]) / 2, span[1] - kit.px(8)]
    free = max(places, key=lambda y: min((abs(y - t) for t in taken), default=0.0))
    shapes.append(kit.figures(right - 4, free, words, "small", text, bold=True, anchor="end"))
