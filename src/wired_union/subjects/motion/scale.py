"""Drawing what moves to scale: metres to pixels, arrows, arcs, a length to judge by."""

import math

from msgspec import Struct

from wired_union.picture.shapes import Kit, Line, Poly, Shape
from wired_union.units import show


class Scale(Struct, frozen=True):
    """Metres to pixels: x to the right, y up, about an origin."""

    px: float
    x0: float
    y0: float

    def at(self, x: float, y: float) -> tuple[float, float]:
        return self.x0 + x * self.px, self.y0 - y * self.px


def arrow(x1: float, y1: float, x2: float, y2: float, ink: str) -> list[Shape]:
    angle = math.atan2(y2 - y1, x2 - x1)
    heads = [(x2 - 8 * math.cos(angle + s), y2 - 8 * math.sin(angle + s)) for s in (0.45, -0.45)]
    return [Line(x1, y1, x2, y2, ink, 2.0), Poly((heads[0], (x2, y2), heads[1]), ink, ink, 1.0)]


def arc(scale: Scale, radius: float, start_deg: float, end_deg: float, ink: str, width: float = 2.0) -> Poly:
    steps = 24
    angles = [math.radians(start_deg + (end_deg - start_deg) * k / steps) for k in range(steps + 1)]
    return Poly(tuple(scale.at(radius * math.cos(a), radius * math.sin(a)) for a in angles), ink, width=width)


def scale_bar(kit: Kit, px_per_m: float, height: float) -> list[Shape]:
    """A length to judge by, so that "to scale" can be checked."""
    length = next((s for s in (1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01) if s * px_per_m <= kit.px(110)), 0.01)
    y, x = height - kit.px(8), kit.px(2)
    return [
        Line(x, y, x + length * px_per_m, y, "mute", 1.4),
        Line(x, y - 3, x, y + 3, "mute"),
        Line(x + length * px_per_m, y - 3, x + length * px_per_m, y + 3, "mute"),
        kit.figures(x + length * px_per_m + 6, y, show(length, "m"), "small", "mute"),
    ]


def blank(kit: Kit, text: str) -> list[Shape]:
    return [kit.words(0, kit.px(14), text, "small", "mute")]
