"""A loop's response to a step, with its delay and, dashed, without; and what its margins say in rows."""

import math

import numpy as np
from msgspec.structs import replace

from wired_union.kernel.checks import Row
from wired_union.kernel.results import Verdict
from wired_union.physics.battery import Array
from wired_union.physics.sampled import step_response
from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Kit, Line, Picture, Poly, Shape, hint_picture, kept_inside
from wired_union.subjects.timing.loops import LEAST_GAIN, MOST_GAIN, LoopResult, gain_range
from wired_union.units import show

HIGH, TOP, BOTTOM = 168.0, 1.9, -0.35
SLOWEST, SWITCHINGS, POINTS, MOST_DRAWN = 12.0, 30.0, 240, 600
"""How many times the inverse of the crossover a response is drawn for."""


def span_s(r: LoopResult) -> float:
    """How long it is drawn: until a loop like it has settled."""
    assert r.plant is not None
    if r.switches:
        return min(SWITCHINGS * (r.delay_s or 0.0) + 8 * abs(r.plant.denominator[0]), 5_000 * r.loop.sample_s)
    slow = SLOWEST / r.margins.crossover_rad_s if r.margins is not None else 6 * r.plant.denominator[0]
    return min(max(slow, 4 * (r.delay_s or 0.0), 8 * r.loop.sample_s), 5_000 * r.loop.sample_s)


def responses(r: LoopResult) -> tuple[Array, Array, Array]:
    """Times, the response with the delay, and the same without."""
    assert r.plant is not None
    until, step = span_s(r), r.loop.step
    times, late = step_response(r.plant, r.sampled(), until, POINTS)
    _, prompt = step_response(r.plant, replace(r.sampled(0.0), ahead=0, model=None), until, POINTS)
    stride = max(len(times) // MOST_DRAWN, 1)
    return times[::stride], late[::stride] / step, prompt[::stride] / step


def loop_picture(r: LoopResult, kit: Kit, width: float) -> Picture:
    """Both responses over time; what is wanted as a line at 1."""
    if not r.known:
        return hint_picture(f"Not known yet: {'; '.join(r.missing)}.", kit, width)
    times, late, prompt = responses(r)
    left, right, high = kit.px(30), width - kit.px(8), kit.px(HIGH)
    top, bottom = kit.px(8), high - kit.px(22)
    until = float(times[-1]) or 1.0

    def at(t: float, y: float) -> tuple[float, float]:
        held = min(max(y, BOTTOM), TOP)
        return left + (right - left) * t / until, bottom - (bottom - top) * (held - BOTTOM) / (TOP - BOTTOM)

    shapes: list[Shape] = []
    for t in ticks(0, until, 5):
        x, _ = at(t, 0)
        shapes.append(Line(x, top, x, bottom, "line"))
        shapes.append(kit.figures(x, bottom + kit.px(11), show(t, "s") if t else "0", "small", "mute", anchor="middle"))
    for y, text in ((0.0, "0"), (1.0, "1")):
        shapes.append(Line(left, at(0, y)[1], right, at(0, y)[1], "mute" if y else "line", 1.0))
        shapes.append(kit.figures(left - kit.px(6), at(0, y)[1], text, "small", "mute", anchor="end"))
    across = (left + (right - left) * times / until).tolist()
    for values, ink, wide, dash in ((prompt, "mute", 1.4, (5.0, 4.0)), (late, "plum", 2.2, ())):
        held = np.clip(np.nan_to_num(values), BOTTOM, TOP)
        down = (bottom - (bottom - top) * (held - BOTTOM) / (TOP - BOTTOM)).tolist()
        shapes.append(Poly(tuple(zip(across, down, strict=True)), ink, width=wide, dash=dash))
    shapes.append(kit.words(right, top + kit.px(8), "with its delay", "small", "plum", bold=True, anchor="end"))
    shapes.append(kit.words(right, top + kit.px(24), "without", "small", "mute", anchor="end"))
    return Picture(width, high, kept_inside(shapes, kit, width))


def loop_rows(r: LoopResult, *, whole: bool = True) -> list[Row]:
    """What the margins say, one below the other."""
    if not r.known or r.delay_s is None:
        return []
    rows = [Row("Delay in the loop", show(r.delay_s, "s"))]
    if r.switches:
        return [*rows, *(rest_rows(r) if whole else [])]
    m = r.margins
    if not r.sampled_settles and m is None:
        return [*rows, Row("As it runs", "does not settle", "breaks")]
    if not r.settles:
        return [*rows, Row("Without any delay", "does not settle", "breaks")]
    if m is None:
        return [*rows, Row("Its gain never is 1", "any delay does")]
    tone = r.verdict.value if r.verdict.value in {"breaks", "tight"} else ""
    bears = r.bears_s or 0.0
    return [
        Row("Crosses over at", show(m.crossover_rad_s / (2 * math.pi), "Hz")),
        Row("Phase margin, no delay", f"{m.phase_margin_deg:.0f}°"),
        *rows,
        Row("Lost to the delay", f"−{m.phase_lost_deg:.0f}°"),
        Row("Margin left", f"{m.margin_left_deg:.0f}°".replace("-", "−"), tone),
        Row("Could still bear", show(bears, "s") if bears > 0 else "none", tone),
        *([*_span_rows(r), *gain_rows(r), *rest_rows(r)] if whole else []),
        *([Row("Aim is off by", f"{r.aim_deg:.1f}°")] if r.aim_deg is not None else []),
    ]


def _span_rows(r: LoopResult) -> list[Row]:
    """What is left if the plant is a third off."""
    span = r.span_deg()
    if span is None:
        return []
    tone = "breaks" if span[0] <= 0 else ""
    return [Row("If it is 30 % off", f"{span[0]:.0f}° to {span[1]:.0f}°".replace("-", "−"), tone)]


def gain_rows(r: LoopResult) -> list[Row]:
    """The range of the plant's gain, or of a distance that sets it, over which these settings hold."""
    if not r.known or r.switches or not r.sampled_settles:
        return []
    low, high = gain_range(r)
    if not low < high:
        return []
    any_less, any_more = low <= LEAST_GAIN, high >= MOST_GAIN
    words = {(True, True): "any", (True, False): f"up to {high:.2g}", (False, True): f"from {low:.2g} up",
             (False, False): f"{low:.2g} to {high:.2g}"}[any_less, any_more]  # fmt: skip
    return [Row("Holds for its gain ×", words)]


def rest_rows(r: LoopResult) -> list[Row]:
    """What never comes to rest, what noise makes of what it gives, and how far two motors stay apart."""
    c, swing, rows = r.loop, r.swing, []
    if swing and (r.switches or c.backlash or c.quantum or c.noise):
        tone = r.rest_verdict.value if r.rest_verdict in {Verdict.BREAKS, Verdict.TIGHT} else ""
        rows.append(Row("Goes on swinging by", f"{swing:.3g}" if math.isfinite(swing) else "never gets there", tone))
    if r.noise_out is not None:
        rows.append(Row("Noise in what it gives", f"{r.noise_out:.2g}"))
    if r.drifts_rad_s:
        rows.append(Row("Left alone, drift apart", f"{math.degrees(r.drifts_rad_s):.3g}°/s"))
        rows.append(Row("Held, they are apart by", f"{math.degrees(r.off_rad or 0.0):.2g}°"))
    if r.quick_rad_s is not None and r.margins is not None:
        rows.append(Row("Loop inside is quicker", f"{r.quick_rad_s / r.margins.crossover_rad_s:.1f} times"))
    return rows
