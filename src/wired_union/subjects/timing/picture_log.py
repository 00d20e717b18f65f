"""Logs over time: how far apart a message came against what is allowed, how strong packets were and which are lost."""

import numpy as np
from numpy.typing import NDArray

from wired_union.physics.battery import Array
from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Shape, hint_picture, kept_inside
from wired_union.subjects.timing.files_air import PacketLog
from wired_union.subjects.timing.files_can import CanLog, OnTheBus
from wired_union.units import show

HIGH, MOST_POINTS = 110.0, 600


def gaps_picture(log: CanLog, laid: list[OnTheBus], kit: Kit, width: float) -> Picture:
    """Of the message that came latest: from one to the next over the log; what is beyond what is allowed is red."""
    if not laid:
        return hint_picture("The log has none of these messages.", kit, width)
    worst = max(laid, key=lambda x: x.widest_s / x.allowed_s)
    times = log.arrivals[worst.id]
    gaps = np.diff(times)
    if not len(gaps):
        return hint_picture(f"{worst.name} came once.", kit, width)
    keep = _widest(gaps)
    words = f"{worst.name}: from one to the next, {show(worst.allowed_s, 's')} allowed"
    return _over_time(times[1:][keep], gaps[keep], worst.allowed_s, "s", words, kit, width, above=True)


def strengths_picture(log: PacketLog, least_db: float | None, kit: Kit, width: float) -> Picture:
    """Signal to noise of each packet; a line at the least that is read, a stroke where packets are lost."""
    known = np.isfinite(log.snr_db)
    if not known.any():
        return hint_picture("The log has no strengths to draw.", kit, width)
    keep = _widest(-log.snr_db[known])
    words = "signal to noise over the log" + (f", {least_db:.0f} dB is the least".replace("-", "−") if least_db else "")
    return _over_time(log.times_s[known][keep], log.snr_db[known][keep], least_db, "dB", words, kit, width, above=False)


def _widest(values: Array) -> NDArray[np.intp]:
    """Places to draw: all of few, of many the largest of each stretch, so that no outlier is lost."""
    if len(values) <= MOST_POINTS:
        return np.arange(len(values))
    parts = np.array_split(np.arange(len(values)), MOST_POINTS)
    found: NDArray[np.intp] = np.array([p[int(np.argmax(values[p]))] for p in parts])
    return found


def _over_time(
    times: Array, values: Array, line: float | None, unit: str, words: str, kit: Kit, width: float, *, above: bool
) -> Picture:  # fmt: skip
    left, right, tall = kit.px(54), width - kit.px(8), kit.px(HIGH)
    top, bottom = kit.px(20), tall - kit.px(18)
    ends = [float(values.min()), float(values.max()), *([line] if line is not None else [])]
    low, high = (0.0 if above else min(ends) - 2), max(ends) * (1.1 if above else 1.0) + (0.0 if above else 2)
    last = float(times[-1]) or 1.0

    def at(t: float, v: float) -> tuple[float, float]:
        return left + (right - left) * t / last, bottom - (bottom - top) * (v - low) / ((high - low) or 1.0)

    shapes: list[Shape] = [kit.words(left, kit.px(8), kit.cut(words, right - left, "small"), "small", "mute")]
    for t in ticks(0, last, 4):
        x, _ = at(t, low)
        shapes.append(Line(x, top, x, bottom, "line"))
        shapes.append(kit.figures(x, bottom + kit.px(10), show(t, "s") if t else "0", "small", "mute", anchor="middle"))
    if line is not None:
        y = at(0, line)[1]
        shapes.append(Line(left, y, right, y, "ink", 1.4))
        shapes.append(kit.figures(left - kit.px(6), y, show(line, unit), "small", "ink", anchor="end"))
    half = kit.px(1.5)
    for t, v in zip(times.tolist(), values.tolist(), strict=True):
        x, y = at(t, v)
        beyond = line is not None and (v > line if above else v < line)
        shapes.append(Box(x - half, y - half, 2 * half, 2 * half, "breaks" if beyond else "plum", radius=half))
    return Picture(width, tall, kept_inside(shapes, kit, width))
