"""A loop over frequency: how much comes round and how late, with its delay and, dashed, without."""

import math

import numpy as np

from wired_union.physics.battery import Array
from wired_union.physics.sampled import open_loop
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Shape, hint_picture, kept_inside
from wired_union.subjects.timing.loops import LoopResult, law_of
from wired_union.units import show

HIGH, POINTS, AROUND = 168.0, 160, 30.0
MOST_DB, LEAST_DEG, MOST_DEG = 40.0, -270.0, 0.0


def bode_points(r: LoopResult) -> tuple[Array, Array, Array, Array]:
    """Frequencies (rad/s), gain in dB, phase in degrees with the delay and without; shapes (points,)."""
    assert r.plant is not None
    assert r.delay_s is not None
    middle = r.margins.crossover_rad_s if r.margins is not None else 1 / max(abs(r.plant.denominator[0]), 1e-9)
    waves: Array = np.geomspace(middle / AROUND, middle * AROUND, POINTS)
    late = np.degrees(waves * r.delay_s)
    if r.as_it_runs:
        waves = waves[waves < math.pi / r.loop.sample_s]
        whole = open_loop(r.plant, r.linear(), waves)
        phase = np.degrees(np.unwrap(np.angle(whole)))
        phase = phase - 360 * round(float(phase[0] + 90) / 360) if len(phase) else phase
        return waves, 20 * np.log10(np.abs(whole)), phase, phase
    smooth = r.plant.times(law_of(r.loop))
    values = np.array([smooth.at(float(w)) for w in waves])
    phase = np.degrees(np.unwrap(np.angle(values)))
    phase = phase - 360 * round(float(phase[0] + 90) / 360)
    return waves, 20 * np.log10(np.abs(values)), phase - late, phase


def bode_picture(r: LoopResult, kit: Kit, width: float) -> Picture:
    """Gain above, phase below, over one axis; the margin is what the phase has left where the gain is 1."""
    if not r.known:
        return hint_picture(f"Not known yet: {'; '.join(r.missing)}.", kit, width)
    if r.switches:
        return hint_picture("It only switches: it has no frequency response. See its response.", kit, width)
    waves, size, late, prompt = bode_points(r)
    high, left, right = kit.px(HIGH), kit.px(44), width - kit.px(8)
    cut, bottom, top = kit.px(72), high - kit.px(20), kit.px(8)
    low, span = math.log(float(waves[0])), math.log(float(waves[-1] / waves[0])) or 1.0

    def x_of(w: float) -> float:
        return left + (right - left) * (math.log(w) - low) / span

    def gain_y(db: float) -> float:
        return top + (cut - top) * (MOST_DB - min(max(db, -MOST_DB), MOST_DB)) / (2 * MOST_DB)

    def phase_y(deg: float) -> float:
        return cut + kit.px(10) + (bottom - cut - kit.px(10)) * (MOST_DEG - min(max(deg, LEAST_DEG), MOST_DEG)) / (
            MOST_DEG - LEAST_DEG)  # fmt: skip

    shapes: list[Shape] = []
    turn = 2 * math.pi
    first, last = (math.log10(math.exp(v) / turn) for v in (low, low + span))
    for decade in range(math.ceil(first), math.floor(last) + 1):
        x = x_of(turn * 10.0**decade)
        shapes.append(Line(x, top, x, bottom, "line"))
        shapes.append(kit.figures(x, bottom + kit.px(10), show(10.0**decade, "Hz"), "small", "mute", anchor="middle"))
    for y, text, ink in ((gain_y(0), "× 1", "mute"), (phase_y(-180), "−180°", "mute"), (phase_y(-90), "−90°", "line")):
        shapes.append(Line(left, y, right, y, ink))
        shapes.append(kit.figures(left - kit.px(6), y, text, "small", "mute", anchor="end"))
    shapes.append(Poly(tuple((x_of(w), gain_y(d)) for w, d in zip(waves, size, strict=True)), "plum", width=2.0))
    if not r.as_it_runs:
        line = tuple((x_of(w), phase_y(d)) for w, d in zip(waves, prompt, strict=True))
        shapes.append(Poly(line, "mute", width=1.2, dash=(5.0, 4.0)))
    shapes.append(Poly(tuple((x_of(w), phase_y(d)) for w, d in zip(waves, late, strict=True)), "plum", width=2.0))
    shapes += _margin(r, kit, x_of, gain_y, phase_y, right)
    return Picture(width, high, kept_inside(shapes, kit, width))


def _margin(r: LoopResult, kit: Kit, x_of: object, gain_y: object, phase_y: object, right: float) -> list[Shape]:
    """Where the gain is 1, and what is left down to −180° there."""
    assert callable(x_of)
    assert callable(gain_y)
    assert callable(phase_y)
    if r.margins is None or r.left_deg is None:
        return []
    x, left = x_of(r.margins.crossover_rad_s), r.margins.margin_left_deg
    ink = "breaks" if left <= 0 else "holds"
    words = f"{left:.0f}° left".replace("-", "−")
    side = "end" if x > right - kit.px(90) else "start"
    return [
        Line(x, gain_y(0), x, phase_y(-180 + left), "mute", 1.0, (2.0, 3.0)),
        Line(x, phase_y(-180 + left), x, phase_y(-180), ink, 3.0),
        kit.words(x + kit.px(6 if side == "start" else -6), phase_y(-180) + kit.px(10), words, "small", ink, bold=True,
                  anchor=side),
    ]  # fmt: skip
