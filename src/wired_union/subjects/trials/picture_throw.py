"""A throw drawn: its way as usual, how far it spreads, the wall, the band where it must land."""

from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Shape, hint_picture
from wired_union.subjects.trials.throws import EACH_WAY, Charge, Thrown
from wired_union.units import show

HIGH, LEFT, AXIS_H = 150.0, 46.0, 34.0


def throw_picture(t: Thrown, kit: Kit, width: float) -> Picture:
    """Ways of throws from its spread lie thin under the usual one."""
    if t.missing:
        return hint_picture(f"Not known yet: {'; '.join(t.missing[:3])}.", kit, width)
    throw = t.throw
    every = t.spread
    ends = [float(every.range_m.max()), t.range_m, throw.band_high_m or 0.0, throw.wall_m or 0.0]
    far, top = max(*ends, 0.1) * 1.05, max(float(every.apex_m.max()), throw.wall_height_m, 0.1) * 1.08
    left, ground = kit.px(LEFT), kit.px(HIGH)
    scale_x, scale_y = (width - left - kit.px(10)) / far, (ground - kit.px(8)) / top
    shapes: list[Shape] = []
    for x in ticks(0.0, far, 7):
        shapes.append(
            kit.figures(left + x * scale_x, ground + kit.px(18), show(x, "m"), "tiny", "mute", anchor="middle")
        )
    for y in ticks(0.0, top, 3):
        shapes.append(kit.figures(left - kit.px(6), ground - y * scale_y, show(y, "m"), "tiny", "mute", anchor="end"))

    def way(paths: object, n: int, until: float) -> tuple[tuple[float, float], ...]:
        points = [(float(p[0, n]), float(p[1, n])) for p in paths]  # type: ignore[attr-defined]
        shown = [(x, y) for x, y in points if y >= 0 and x <= until] + [(until, 0.0)]
        return tuple((left + max(x, 0.0) * scale_x, ground - y * scale_y) for x, y in shown)

    for n in range(0, len(every.range_m), 2 * EACH_WAY):  # from corner to corner of speed and angle
        shapes.append(Poly(way(every.paths, n, float(every.range_m[n])), "slate_soft", width=0.8))
    shapes.append(Poly(way(t.usual.paths, 0, t.range_m), "slate", width=2.4))
    shapes.append(Line(left, ground, width - kit.px(10), ground, "ink", 1.4))
    shapes += _wanted(t, kit, left, ground, scale_x, scale_y, far)
    return Picture(width, ground + kit.px(AXIS_H), tuple(shapes))


def _wanted(
    t: Thrown, kit: Kit, left: float, ground: float, scale_x: float, scale_y: float, far: float
) -> list[Shape]:  # fmt: skip
    """The band on the ground and the wall."""
    throw, shapes = t.throw, list[Shape]()
    if throw.band_low_m is not None or throw.band_high_m is not None:
        low = max(throw.band_low_m if throw.band_low_m is not None else 0.0, 0.0)
        high = throw.band_high_m if throw.band_high_m is not None else far
        ink = "holds" if (t.inside or 0.0) >= 0.9 else "tight"
        shapes.append(Box(left + low * scale_x, ground, max((high - low) * scale_x, 2.0), kit.px(7), ink))
    if throw.wall_m is not None:
        x = left + throw.wall_m * scale_x
        tall = max(throw.wall_height_m * scale_y, 2.0)
        shapes.append(Box(x - kit.px(3), ground - tall, kit.px(6), tall, "copper"))
        shapes.append(kit.words(x, ground - tall - kit.px(8), "wall", "tiny", "copper", bold=True, anchor="middle"))
    return shapes


def throw_words(t: Thrown, charge: Charge | None = None, lacks: str = "") -> str:
    """Where it lands, how high it comes, how often as wanted, which charge does it."""
    if t.missing:
        return f"Not known yet: {'; '.join(t.missing)}."
    low, high = t.ends
    said = (f"{show(t.range_m, 'm')} far, {show(float(t.usual.apex_m[0]), 'm')} high,"
            f" {show(float(t.usual.time_s[0]), 's')} in the air{'' if t.drag else ', without the drag of the air'};"
            f" {show(low, 'm')} to {show(high, 'm')} eight times in ten.")  # fmt: skip
    if t.inside is not None:
        said += f" As wanted {show(t.inside, 'share')} of the time."
    if charge is not None:
        said += f" By the runs ({charge.form}) charge {show(charge.charge, '')} lands in the middle,"
        said += f" {show(charge.error_m, 'm')} either way."
    elif lacks:
        said += f" No charge yet: {lacks}."
    return said
