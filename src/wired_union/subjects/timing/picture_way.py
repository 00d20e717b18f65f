"""Where a machine is that thinks it drives straight: the bent way, and the band of what slips."""

from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Shape, hint_picture, kept_inside
from wired_union.subjects.timing.ways import SIGMAS, WayResult, off_at
from wired_union.units import show

HIGH, POINTS = 120.0, 160


def way_picture(r: WayResult, kit: Kit, width: float) -> Picture:
    """From left to right along the way; up and down how far beside it, drawn larger; posts at how far it may be."""
    if r.off is None:
        return hint_picture(f"Not known yet: {'; '.join(r.missing)}.", kit, width)
    way, left, right, tall = r.way, kit.px(70), width - kit.px(10), kit.px(HIGH)
    top, bottom = kit.px(8), tall - kit.px(20)
    middle = (top + bottom) / 2
    places = [way.distance_m * (n + 1) / POINTS for n in range(POINTS)]
    offs = [off_at(way, r.speed_m_s, p) for p in places]
    most = max(*(o.most_across_m for o in offs), way.most_off_m or 0.0, 1e-6) * 1.1

    def at(along: float, across: float) -> tuple[float, float]:
        return left + (right - left) * along / way.distance_m, middle - (bottom - top) / 2 * across / most

    upper = [at(p, o.across_m + SIGMAS * o.spread_across_m) for p, o in zip(places, offs, strict=True)]
    lower = [at(p, o.across_m - SIGMAS * o.spread_across_m) for p, o in zip(places, offs, strict=True)]
    shapes: list[Shape] = [Poly((at(0, 0), *upper, *reversed(lower)), "", "plum_soft")]
    for t in ticks(0, way.distance_m, 5):
        x, _ = at(t, 0)
        shapes.append(Line(x, top, x, bottom, "line"))
        shapes.append(kit.figures(x, bottom + kit.px(11), show(t, "m") if t else "0", "small", "mute", anchor="middle"))
    shapes.append(Line(left, middle, right, middle, "mute", 1.0, (5.0, 4.0)))
    shapes.append(Poly((at(0, 0), *(at(p, o.across_m) for p, o in zip(places, offs, strict=True))), "plum", width=2.2))
    for side in (1, -1) if way.most_off_m is not None else ():
        y = at(0, side * (way.most_off_m or 0.0))[1]
        shapes.append(Line(left, y, right, y, "ink", 1.4))
        shapes.append(kit.figures(left - kit.px(6), y, f"{show(side * (way.most_off_m or 0.0), 'm')}", "small", "ink",
                                  anchor="end"))  # fmt: skip
    shapes.append(kit.words(left - kit.px(6), middle, "meant", "small", "mute", anchor="end"))
    return Picture(width, tall, kept_inside(shapes, kit, width))
