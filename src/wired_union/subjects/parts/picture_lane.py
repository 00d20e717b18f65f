"""The head of a lane: a subsystem's name, and its shares of power and mass as wires."""

from wired_union.kernel.results import Measure
from wired_union.picture.shapes import Kit, Line, Picture, Shape, shifted
from wired_union.picture.wire import POST, wire
from wired_union.units import show

HEAD_W, HEAD_H = 128.0, 94.0


def share_measure(label: str, value: float, share: float | None, unit: str) -> Measure:
    """A subsystem's figure against the share the team gave it."""
    return Measure(f"share:{label}", label, value, unit, share, "at most", 0.1)


def lane_head(name: str, power: Measure, mass: Measure, kit: Kit, whole: tuple[float, float]) -> Picture:
    """Name over two bars. Without a share set, a bar shows the part of the whole (power, mass) instead."""
    w = kit.px(HEAD_W)
    shapes: list[Shape] = [kit.words(0, kit.px(11), kit.cut(name, w, "heading", bold=True), "heading", bold=True)]
    for k, (measure, total) in enumerate(((power, whole[0]), (mass, whole[1]))):
        y = kit.px(33 + 34 * k)
        figure = show(measure.value, measure.unit) if measure.value is not None else "not known"
        of = f" of {show(measure.limit, measure.unit)}" if measure.limit is not None else ""
        shapes.append(kit.figures(0, y, f"{measure.label} {figure}{of}", "small", "mute"))
        bar = y + kit.px(16)
        if measure.limit is not None:
            shapes += shifted(wire(measure.use, measure.verdict, w * 0.86, bar, thick=3.6), 0, 0)
        else:
            share = (measure.value or 0.0) / total if total else 0.0
            post = POST * w * 0.86
            shapes += [Line(0, bar, post, bar, "line", 1.4), Line(0, bar, post * share, bar, "mute", 3.6)]
    return Picture(w, kit.px(HEAD_H), tuple(shapes))
