"""Temperatures over the mission: the air outside, boxes, and the parts that are nearest to what they bear."""

from collections.abc import Callable, Sequence

from msgspec import Struct

from wired_union.picture.axis import ticks, time_ticks
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Region, Shape
from wired_union.subjects.power.picture_mission import mode_bar, thinned
from wired_union.subjects.power.warmth.measures import extremes
from wired_union.subjects.power.warmth.run import Extreme, Heat, WarmRun
from wired_union.units import show

INKS = ("copper", "slate", "plum", "moss", "tight_text", "holds_text")
MOST_PARTS, LEFT, RIGHT, LABEL_H, PLOT_H, TOP_H, FOOT_H = len(INKS), 54.0, 178.0, 15.0, 206.0, 30.0, 26.0


class Curve(Struct, frozen=True):
    """One temperature over the steps, and what it is of."""

    item: str
    name: str
    celsius: tuple[float, ...]
    ink: str
    most_c: float | None = None
    """The hottest that it bears, where that is near."""
    least_c: float | None = None


class WarmChart(Struct, frozen=True):
    """A laid-out chart, and how a place on it is read."""

    picture: Picture
    curves: tuple[Curve, ...]
    times_s: tuple[float, ...]
    left: float
    s_per_px: float

    def reading(self, x: float) -> str:
        """What every curve says at a place, in words."""
        time = (x - self.left) * self.s_per_px
        n = min(range(len(self.times_s)), key=lambda i: abs(self.times_s[i] - time))
        said = ", ".join(f"{c.name} {show(c.celsius[n], '°C')}" for c in self.curves)
        return f"{show(self.times_s[n], 's')}: {said}"


def run_of(heat: Heat, *, cold: bool) -> WarmRun:
    """The warmest or the coldest air; the only one where it follows a curve."""
    return heat.runs[-1] if cold else heat.runs[0]


def nearest(heat: Heat, *, cold: bool, selected: str = "") -> list[Extreme]:
    """The lumps that are nearest to what they bear, and the one that is selected."""

    def margin(e: Extreme) -> float:
        own = e.cold_margin_k if cold else e.hot_margin_k
        return own if own is not None else 1e9

    known = sorted((e for e in extremes(heat) if e.item.id in heat.setting.items), key=margin)
    found = known[:MOST_PARTS]
    chosen = next((e for e in known if e.item.id == selected and e not in found), None)
    return [*found[: MOST_PARTS - 1], chosen] if chosen is not None else found


def curves_of(heat: Heat, *, cold: bool, selected: str = "") -> tuple[Curve, ...]:
    """What is drawn: the outside, the air in each box, the nearest parts."""
    run = run_of(heat, cold=cold)
    found = [Curve("", "air outside", tuple(run.air.outside_c.tolist()), "mute")]
    for box in heat.concept.enclosures:
        row = run.warmth.end_c[:, heat.setting.airs[box.id]]
        found.append(Curve(f"box {box.id}", f"air in {box.name}", tuple(row.tolist()), "ink"))
    for ink, extreme in zip(INKS, nearest(heat, cold=cold, selected=selected), strict=False):
        part, n = extreme.item.part, heat.setting.items[extreme.item.id]
        judged = extreme.junction_c is None
        found.append(Curve(extreme.item.id, extreme.item.name, tuple(run.warmth.end_c[:, n].tolist()), ink,
                           part.temperature_max_c if judged else None,
                           part.temperature_min_c if judged else None))  # fmt: skip
    return tuple(found)


def warm_chart(heat: Heat, kit: Kit, width: float, *, cold: bool = False, selected: str = "") -> WarmChart:
    """Lay out the temperatures of one air."""
    curves, times = curves_of(heat, cold=cold, selected=selected), tuple(heat.times_s.tolist())
    left, right = kit.px(LEFT), width - kit.px(RIGHT)
    y0, y1 = kit.px(TOP_H), kit.px(TOP_H + PLOT_H)
    scale = times[-1] / max(right - left, 1.0)
    borne = [c.least_c if cold else c.most_c for c in curves]
    low, high = _range(curves, [b for b in borne if b is not None])
    shapes: list[Shape] = []
    regions: list[Region] = []
    mode_bar(shapes, regions, heat.concept, kit, left, kit.px(4), scale, times[-1])

    def at(celsius: float) -> float:
        return y1 - (celsius - low) / (high - low) * (y1 - y0)

    for mark in ticks(low, high, 5):
        shapes.append(Line(left, at(mark), right, at(mark), "line"))
        shapes.append(kit.figures(left - 6, at(mark), show(mark, "°C"), "small", "mute", anchor="end"))
    for t in time_ticks(times[-1], 8):
        x = left + t / scale
        shapes.append(Line(x, y1, x, y1 + 4, "line"))
        shapes.append(kit.figures(x, y1 + kit.px(13), show(t, "s") if t else "0", "small", "mute", anchor="middle"))
    for curve in curves:
        points = [(left + t / scale, at(c)) for t, c in zip(times, curve.celsius, strict=True)]
        wide = 2.4 if curve.item == selected and selected else 1.6
        shapes.append(Poly(tuple(thinned(points)), curve.ink, width=wide, dash=() if curve.item else (4.0, 3.0)))
        bound = curve.least_c if cold else curve.most_c
        if bound is not None and low <= bound <= high:
            shapes.append(Line(left, at(bound), right, at(bound), "breaks", 1.0, (5.0, 4.0)))
    _labels(shapes, curves, kit, right + kit.px(8), at, (y0, y1), width, cold=cold)
    regions.append(Region("warm", left, y0, right - left, y1 - y0, "temperatures over the mission"))
    height = y1 + kit.px(FOOT_H)
    return WarmChart(Picture(width, height, tuple(shapes), tuple(regions)), curves, times, left, scale)


def _range(curves: Sequence[Curve], bounds: Sequence[float]) -> tuple[float, float]:
    """From the coldest to the warmest that is drawn, and what is borne where that is near."""
    values = [c for curve in curves for c in (min(curve.celsius), max(curve.celsius))]
    low, high = min(values), max(values)
    near = max(high - low, 10.0)
    bounds = [b for b in bounds if low - near < b < high + near]
    low, high = min(low, *bounds, high - 5.0), max(high, *bounds, low + 5.0)
    return low - 0.05 * (high - low), high + 0.05 * (high - low)


def _labels(
    shapes: list[Shape], curves: Sequence[Curve], kit: Kit, x: float, place: Callable[[float], float],
    span: tuple[float, float],
    width: float, *, cold: bool,
) -> None:  # fmt: skip
    """Names at the ends of their lines, moved apart where they would meet."""
    ends = sorted(curves, key=lambda c: -c.celsius[-1])
    y, step = span[0] - kit.px(LABEL_H), kit.px(LABEL_H)
    for n, curve in enumerate(ends):
        wanted = place(curve.celsius[-1])
        latest = span[1] - step * (len(ends) - 1 - n)
        y = min(max(wanted, y + step), latest)
        most = min(curve.celsius) if cold else max(curve.celsius)
        said = f"{show(most, '°C')} {'at least' if cold else 'at most'}"
        name = kit.cut(curve.name, width - x - kit.width(said, "small", "figures", True) - kit.px(8), "small")
        shapes.append(Line(x - kit.px(7), wanted, x - kit.px(2), y, curve.ink))
        shapes.append(kit.words(x, y, name, "small", curve.ink))
        shapes.append(kit.figures(width, y, said, "small", curve.ink, bold=True, anchor="end"))
