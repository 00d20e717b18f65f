"""A calibration drawn: points and curve with its band, and how far the quantity may be off over its range."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.calibration import WRITTEN, free_of, value_of
from wired_union.picture.axis import ticks, with_room
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Ring, Shape, hint_picture
from wired_union.subjects.bench.calibrations import Calibrated
from wired_union.units import show

HIGH, LEFT, AXIS_H, PLACES = 190.0, 58.0, 26.0, 80


class _Frame(Struct, frozen=True):
    """From where to where both axes go, and where that lies on the picture."""

    x0: float
    x1: float
    y0: float
    y1: float
    left: float
    right: float
    high: float

    def at(self, x: float, y: float) -> tuple[float, float]:
        """A point, kept inside upwards."""
        y = min(max(y, self.y0), self.y1)
        across = (x - self.x0) / (self.x1 - self.x0) * (self.right - self.left)
        return self.left + across, self.high - (y - self.y0) / (self.y1 - self.y0) * self.high


def _frame(xs: Sequence[float], ys: Sequence[float], kit: Kit, width: float, *, from_zero: bool = False) -> _Frame:
    (x0, x1), (y0, y1) = with_room(min(xs), max(xs), 0.04), with_room(0.0 if from_zero else min(ys), max(ys), 0.08)
    return _Frame(x0, x1, 0.0 if from_zero else y0, y1, kit.px(LEFT), width - kit.px(14), kit.px(HIGH))


def _axes(f: _Frame, kit: Kit, units: tuple[str, str]) -> list[Shape]:
    shapes: list[Shape] = []
    for y in ticks(f.y0, f.y1, 4):
        shapes.append(Line(f.left, f.at(f.x0, y)[1], f.right, f.at(f.x0, y)[1], "line", 1.0))
        text = show(y, units[1])
        shapes.append(kit.figures(f.left - kit.px(6), f.at(f.x0, y)[1], text, "tiny", "mute", anchor="end"))
    for x in ticks(f.x0, f.x1, 6):
        text = show(x, units[0])
        shapes.append(kit.figures(f.at(x, f.y0)[0], f.high + kit.px(12), text, "tiny", "mute", anchor="middle"))
    return [*shapes, Line(f.left, 0, f.left, f.high, "mute", 1.2), Line(f.left, f.high, f.right, f.high, "mute", 1.2)]


def curve_picture(c: Calibrated, kit: Kit, width: float) -> Picture:
    """The points, the curve through them, and its band."""
    cal = c.calibration
    if not cal.pairs:
        return hint_picture("No point yet. Paste them: what it was, and what the sensor said.", kit, width)
    f = _frame([p.known for p in cal.pairs], [p.reading for p in cal.pairs], kit, width)
    shapes = _axes(f, kit, (cal.unit, cal.reading_unit))
    if c.fit is not None and c.band is not None:
        low, high = c.ends
        places = [low + (high - low) * n / PLACES for n in range(PLACES + 1)]
        line = [(x, value_of(c.form, c.fit.coefficients, x)) for x in places]
        above = [f.at(x, y + c.band(x)) for x, y in line]
        below = [f.at(x, y - c.band(x)) for x, y in line]
        shapes.append(Poly((*above, *reversed(below)), fill="moss_soft"))
        shapes.append(Poly(tuple(f.at(x, y) for x, y in line), "moss", width=2.0))
    odd = set(c.odd)
    for n, p in enumerate(cal.pairs, 1):
        ink = "unknown" if p.struck else "breaks" if n in odd else "ink"
        shapes.append(Ring(*f.at(p.known, p.reading), kit.px(4.5), ink, 1.8, (), "card"))
    return Picture(width, f.high + kit.px(AXIS_H), tuple(shapes))


REST_H = 74.0


def rest_picture(c: Calibrated, kit: Kit, width: float) -> Picture:
    """What is left of each reading when the curve is taken away, every sitting in an ink of its own."""
    cal = c.calibration
    if c.fit is None:
        return hint_picture("", kit, width)
    rest = [(p, p.reading - value_of(c.form, c.fit.coefficients, p.known)) for p in c.pairs]
    most = max(abs(r) for _, r in rest) or 1.0
    frame = _frame([p.known for p in cal.pairs], [-most, most], kit, width)
    f = _Frame(frame.x0, frame.x1, -1.1 * most, 1.1 * most, frame.left, frame.right, kit.px(REST_H))
    shapes: list[Shape] = []
    for y in (-most, 0.0, most):
        shapes.append(Line(f.left, f.at(f.x0, y)[1], f.right, f.at(f.x0, y)[1], "mute" if y == 0 else "line", 1.0))
        text = show(y, cal.reading_unit)
        shapes.append(kit.figures(f.left - kit.px(6), f.at(f.x0, y)[1], text, "tiny", "mute", anchor="end"))
    sittings = list(dict.fromkeys(p.session for p in c.pairs))
    for p, r in rest:
        x, y = f.at(p.known, r)
        ink = SITTINGS[sittings.index(p.session) % len(SITTINGS)]
        shapes.append(Line(x, f.at(p.known, 0.0)[1], x, y, "line", 1.2))
        shapes.append(Ring(x, y, kit.px(3.5), ink, 1.6, (), "card"))
    if len(sittings) > 1:
        at = f.left + kit.px(4)
        for n, name in enumerate(sittings[:4]):
            ink = SITTINGS[n % len(SITTINGS)]
            shapes.append(kit.words(at, f.high + kit.px(10), name or "no sitting named", "tiny", ink, bold=True))
            at += kit.width(name or "no sitting named", "tiny", "words", True) + kit.px(14)
    return Picture(width, f.high + kit.px(18), tuple(shapes))


SITTINGS = ("slate", "copper", "moss", "plum")


def error_picture(c: Calibrated, kit: Kit, width: float) -> Picture:
    """How far the quantity may be off over its range, against what is wanted."""
    cal = c.calibration
    if c.worst is None:
        return hint_picture(f"Not known yet: {c.missing[0] if c.missing else 'a curve'}.", kit, width)
    wanted = cal.wanted
    errors = [e for _, e in c.errors]
    f = _frame([x for x, _ in c.errors], [*errors, wanted or 0.0], kit, width, from_zero=True)
    shapes = _axes(f, kit, (cal.unit, cal.unit))
    line = [f.at(x, e) for x, e in c.errors]
    shapes.append(Poly((f.at(c.errors[0][0], 0), *line, f.at(c.errors[-1][0], 0)), fill="moss_soft"))
    shapes.append(Poly(tuple(line), "moss", width=2.0))
    if wanted is not None:
        y = f.at(f.x0, wanted)[1]
        shapes.append(Line(f.left, y, f.right, y, "breaks", 1.6, (6.0, 4.0)))
        shapes.append(kit.words(f.left + kit.px(6), y - kit.px(9), f"{show(wanted, cal.unit)} wanted", "tiny",
                                "breaks_text", bold=True))  # fmt: skip
    if c.good is not None and c.good != c.ends:
        for x in (x for x in c.good if x not in c.ends):
            shapes.append(Line(f.at(x, 0)[0], kit.px(20), f.at(x, 0)[0], f.high, "ink", 1.4, (4.0, 3.0)))
            shapes.append(kit.words(f.at(x, 0)[0], kit.px(10), f"good to {show(x, cal.unit)}", "tiny", bold=True,
                                    anchor="middle"))  # fmt: skip
    return Picture(width, f.high + kit.px(AXIS_H), tuple(shapes))


def curve_words(c: Calibrated) -> str:
    """ "reciprocal, a + b/(x + c): a 0.30, b 31.5, c 4.5; best of 6 forms; 3.2 mV is left" """
    if c.fit is None:
        return f"Not known yet: {c.missing[0]}." if c.missing else ""
    if c.form == "table":
        figures = f"{free_of(c.form, c.fit.coefficients)} places"
    else:
        figures = ", ".join(f"{name} {v:.4g}" for name, v in zip("abcd", c.fit.coefficients, strict=False))
    best = f"; best of {len(c.tried)} forms" if len(c.tried) > 1 else ""
    left = show(c.fit.residual_sd, c.calibration.reading_unit)
    said = f"{c.form}, {WRITTEN[c.form]}: {figures}{best}. {left} is left of each reading"
    said += f", {show(c.fit.cross_error, c.calibration.reading_unit)} of one that is left out"
    if c.repeat is not None:
        said += f", {show(c.repeat, c.calibration.reading_unit)} between readings of the same"
    apart = c.sessions
    if len(apart) > 1:
        most, least = max(apart.values()), min(apart.values())
        said += f"; sittings are {show(most - least, c.calibration.reading_unit)} apart"
    left_out = len(c.pairs) - len(c.counted)
    if left_out:
        said += f"; {left_out} point{'s' if left_out > 1 else ''} far off left out"
    return f"{said}."
