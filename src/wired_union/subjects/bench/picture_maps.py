"""An analogue chain drawn from the sensor to the number, and a surface by its lines of one value."""

import math
from collections.abc import Iterator

from wired_union.picture.axis import ticks, with_room
from wired_union.picture.shapes import Box, Kit, Line, Picture, Ring, Shape, hint_picture
from wired_union.subjects.bench.chains import Chained
from wired_union.subjects.bench.surfaces import Surfaced
from wired_union.units import show

BOX_H, BARS_H, NAME_W, HIGH, LEFT, AXIS_H, LEVELS, CELLS = 58.0, 30.0, 130.0, 220.0, 62.0, 26.0, 8, 40


def chain_picture(c: Chained, kit: Kit, width: float) -> Picture:
    """Sensor, filter, converter, number, each with its figures; then what makes a reading wrong, against the wish."""
    chain = c.chain
    stages = _stages(c)
    gap = kit.px(18)
    box_w = (width - gap * (len(stages) - 1)) / len(stages)
    shapes: list[Shape] = []
    for n, (name, said) in enumerate(stages):
        x = n * (box_w + gap)
        shapes.append(Box(x, 0, box_w, kit.px(BOX_H), "soft", "line", 4.0))
        shapes.append(kit.words(x + kit.px(8), kit.px(14), name, "small", bold=True))
        for k, line in enumerate(kit.few_lines(said, box_w - kit.px(14), 2, "tiny")):
            shapes.append(kit.words(x + kit.px(8), kit.px(30 + 14 * k), line, "tiny", "mute"))
        if n:
            shapes.append(Line(x - gap, kit.px(BOX_H / 2), x, kit.px(BOX_H / 2), "ink", 1.8))
    top = kit.px(BOX_H + 26)
    if c.missing:
        shapes.append(kit.words(0, top, f"Not known yet: {'; '.join(c.missing[:2])}.", "small", "mute"))
        return Picture(width, top + kit.px(16), tuple(shapes))
    bars = (("half a step", c.step / 2), ("noise of a reading", c.noise), ("hum", c.hum), ("together", c.error or 0.0))
    reach = max(*(v for _, v in bars), chain.wanted or 0.0, 1e-300) * 1.15
    scale = (width - kit.px(NAME_W + 70)) / reach
    for n, (name, value) in enumerate(bars):
        y = top + (n + 0.5) * kit.px(BARS_H)
        last = n == len(bars) - 1
        over = last and chain.wanted is not None and value > chain.wanted
        shapes.append(kit.words(0, y, name, "small", bold=last))
        length = max(value * scale, 1.5)
        shapes.append(Box(kit.px(NAME_W), y - kit.px(6), length, kit.px(12), "breaks" if over else "slate", radius=2))
        shapes.append(kit.figures(kit.px(NAME_W + 6) + length, y, show(value, chain.unit), "small", bold=last))
    bottom = top + len(bars) * kit.px(BARS_H)
    if chain.wanted is not None:
        x = kit.px(NAME_W) + chain.wanted * scale
        shapes.append(Line(x, top - kit.px(4), x, bottom, "ink", 1.6, (6.0, 4.0)))
        shapes.append(kit.words(x, top - kit.px(8), f"{show(chain.wanted, chain.unit)} wanted", "tiny", bold=True,
                                anchor="middle"))  # fmt: skip
    return Picture(width, bottom + kit.px(4), tuple(shapes))


def _stages(c: Chained) -> list[tuple[str, str]]:
    chain = c.chain
    per = f"{show(chain.volts_per_unit, 'V')} for one {chain.unit or 'of its unit'}"
    hum = f", {show(chain.hum_v, 'V')} of hum at {show(chain.hum_hz, 'Hz')}" if chain.hum_hz is not None else ""
    found = [("sensor", f"{per}, noise {show(chain.noise_v, 'V')}{hum}")]
    if chain.corner_hz is not None:
        left = f", leaves {show(c.folded.left, 'share')} of the hum" if c.folded is not None else ""
        found.append(("filter", f"corner at {show(chain.corner_hz, 'Hz')}{left}"))
    bits = f"{chain.bits} bits" if chain.bits is not None else "bits not known"
    found.append(("converter", f"{bits} of {show(chain.reference_v, 'V')}, {show(chain.sample_hz, 'Hz')}"))
    if not c.missing:
        seen = f"; hum seen at {show(c.folded.seen_hz, 'Hz')}" if c.folded is not None else ""
        low, high = c.reaches
        told = f"{show(low, chain.unit)} to {show(high, chain.unit)} in steps of {show(c.step, chain.unit)}{seen}"
        found.append(("number", told))
    return found


def chain_words(c: Chained) -> str:
    """Bits that are left, and what one reading is off by."""
    if c.missing:
        return f"Not known yet: {'; '.join(c.missing)}."
    bits = f"{c.converter.effective_bits:.1f} of {c.chain.bits} bits are left over the noise"
    return (
        f"{bits}; a reading is off by {show(c.error, c.chain.unit)} at most, {show(c.chain.confidence, 'share')} sure."
    )


def surface_picture(s: Surfaced, kit: Kit, width: float) -> Picture:
    """Points, and lines of one value over both inputs."""
    if not s.points:
        return hint_picture("No point yet. Paste them: both inputs and what was read, or a whole table.", kit, width)
    (x0, x1), (y0, y1) = (with_room(*e, 0.05) for e in s.ends)
    left, right, high = kit.px(LEFT), width - kit.px(14), kit.px(HIGH)

    def at(x: float, y: float) -> tuple[float, float]:
        return left + (x - x0) / (x1 - x0) * (right - left), high - (y - y0) / (y1 - y0) * high

    surface = s.surface
    shapes: list[Shape] = [Line(left, high, right, high, "mute", 1.2), Line(left, 0, left, high, "mute", 1.2)]
    for x in ticks(x0, x1, 6):
        shapes.append(
            kit.figures(at(x, y0)[0], high + kit.px(12), show(x, surface.x_unit), "tiny", "mute", anchor="middle")
        )
    for y in ticks(y0, y1, 5):
        shapes.append(
            kit.figures(left - kit.px(6), at(x0, y)[1], show(y, surface.y_unit), "tiny", "mute", anchor="end")
        )
    for level, pieces in _contours(s):
        for (ax, ay), (bx, by) in pieces:
            shapes.append(Line(*at(ax, ay), *at(bx, by), "moss", 1.6))
        if pieces:
            x, y = at(*pieces[len(pieces) // 2][0])
            shapes.append(kit.figures(x + kit.px(5), y, show(level, surface.unit), "tiny", "moss", bold=True))
    for p in surface.points:
        shapes.append(Ring(*at(p.x, p.y), kit.px(4), "unknown" if p.struck else "ink", 1.6, (), "card"))
    return Picture(width, high + kit.px(AXIS_H), tuple(shapes))


Piece = tuple[tuple[float, float], tuple[float, float]]


def _contours(s: Surfaced) -> Iterator[tuple[float, list[Piece]]]:
    """Lines of round values, piece by piece through the triangles of a grid."""
    if s.fit is None:
        return
    (x0, x1), (y0, y1) = s.ends
    xs = [x0 + (x1 - x0) * n / CELLS for n in range(CELLS + 1)]
    ys = [y0 + (y1 - y0) * n / CELLS for n in range(CELLS + 1)]
    heights = [[s.value(x, y) for y in ys] for x in xs]
    low, high = min(map(min, heights)), max(map(max, heights))
    if not (math.isfinite(low) and math.isfinite(high) and high > low):
        return
    for level in ticks(low, high, LEVELS):
        pieces: list[Piece] = []
        for i in range(CELLS):
            for j in range(CELLS):
                corners = [(xs[i + a], ys[j + b], heights[i + a][j + b]) for a, b in ((0, 0), (1, 0), (1, 1), (0, 1))]
                for three in (corners[:3], [corners[0], *corners[2:]]):
                    cut = [c for one, other in _edges(three) if (c := _cut(one, other, level)) is not None]
                    if len(cut) == 2:
                        pieces.append((cut[0], cut[1]))
        yield level, pieces


Corner = tuple[float, float, float]


def _edges(three: list[Corner]) -> list[tuple[Corner, Corner]]:
    return [(three[0], three[1]), (three[1], three[2]), (three[2], three[0])]


def _cut(one: Corner, other: Corner, level: float) -> tuple[float, float] | None:
    """Where an edge goes through a value."""
    a, b = one[2] - level, other[2] - level
    if (a < 0) == (b < 0):
        return None
    share = a / (a - b)
    return one[0] + share * (other[0] - one[0]), one[1] + share * (other[1] - one[1])


def surface_words(s: Surfaced) -> str:
    """Its form and figures, and what is left."""
    from wired_union.physics.surface import SURFACE_WRITTEN

    if s.fit is None:
        return f"Not known yet: {s.missing[0]}." if s.missing else ""
    figures = ", ".join(f"{name} {v:.4g}" for name, v in zip("abcdef", s.fit.coefficients, strict=False))
    best = f"; best of {len(s.tried)} forms" if len(s.tried) > 1 else ""
    unit = s.surface.unit
    off = f"off by {show(s.fit.worst, unit)} at most, {show(s.surface.confidence, 'share')} sure"
    left = f"{show(s.fit.residual_sd, unit)} is left of each value"
    return f"{s.form}, {SURFACE_WRITTEN[s.form]}: {figures}{best}. {left}; {off}."
