"""Where the roots of a loop go as its gain is turned up: left of the line they die away, right of it they grow."""

import math

import numpy as np
from msgspec.structs import replace

from wired_union.physics.battery import Array
from wired_union.physics.sampled import closed_loop
from wired_union.picture.shapes import Box, Kit, Line, Picture, Ring, Shape, hint_picture, kept_inside
from wired_union.subjects.timing.loops import LoopResult
from wired_union.units import show

HIGH, GAINS, SPAN = 168.0, 40, 30.0
"""Gains from a thirtieth of today's to thirty times."""


def roots_at(r: LoopResult, share: float) -> Array:
    """Roots with that share of its gain, 1/s: of the loop as it runs, ln z over its period."""
    assert r.plant is not None
    run = r.linear()
    found = closed_loop(r.plant, replace(run, gain=run.gain * share, speed_gain=run.speed_gain * share))
    if found is None:
        return np.zeros(0, dtype=complex)
    z = np.linalg.eigvals(found.moved)
    z = z[np.abs(z) > 1e-4]
    roots: Array = np.log(z.astype(complex)) / r.loop.sample_s
    return roots


def roots_picture(r: LoopResult, kit: Kit, width: float) -> Picture:
    """Every root for many gains, larger where the gain is today's; to the left quicker, upwards swinging faster."""
    if not r.known:
        return hint_picture(f"Not known yet: {'; '.join(r.missing)}.", kit, width)
    now = roots_at(r, 1.0)
    if r.switches or not len(now):
        words = "It only switches" if r.switches else "Its delay is too many periods"
        return hint_picture(f"{words}: it has no roots to show. See its response.", kit, width)
    high, left, right, top = kit.px(HIGH), kit.px(8), width - kit.px(8), kit.px(8)
    bottom, zero = high - kit.px(20), left + (right - left) * 0.72
    near = sorted(np.abs(now))
    reach = float(near[min(2, len(near) - 1)]) * 2.2
    words = _gain_words(settles_to(r))
    shapes: list[Shape] = [
        Box(zero, top, right - zero, bottom - top, "breaks_soft"),
        Line(left, (top + bottom) / 2, right, (top + bottom) / 2, "line"), Line(zero, top, zero, bottom, "mute"),
        kit.words(right - kit.px(4), bottom - kit.px(8), "grows", "small", "breaks_text", anchor="end"),
        kit.words(zero - kit.px(6), bottom - kit.px(8), "dies away", "small", "mute", anchor="end"),
        kit.figures(left, bottom + kit.px(10), f"−{show(reach, '')}/s", "small", "mute"),
        kit.words(zero, bottom + kit.px(10), "0", "small", "mute", anchor="middle"),
        *_dots(r, now, kit, (left, zero, right), (top, bottom), reach),
        Box(left - 2, top + 1, kit.width(words, "small") + 4, kit.px(18), "card"),
        kit.words(left, top + kit.px(10), words, "small", "ink"),
    ]  # fmt: skip
    return Picture(width, high, kept_inside(shapes, kit, width))


def _dots(
    r: LoopResult, now: Array, kit: Kit, across: tuple[float, float, float], down: tuple[float, float], reach: float
) -> list[Shape]:  # fmt: skip
    """The way of each root as dots, and where it is with today's gain as a ring."""
    (left, zero, right), (top, bottom), dot = across, down, kit.px(1.2)
    shapes: list[Shape] = []

    def inside(s: complex) -> bool:
        return -reach <= s.real <= reach * (right - zero) / (zero - left) and abs(s.imag) <= reach

    def at(s: complex) -> tuple[float, float]:
        return zero + s.real / reach * (zero - left), (top + bottom) / 2 - s.imag / reach * (bottom - top) / 2

    for share in np.geomspace(1 / SPAN, SPAN, GAINS):
        for x, y in (at(s) for s in roots_at(r, float(share)).tolist() if inside(s)):
            shapes.append(Box(x - dot, y - dot, 2 * dot, 2 * dot, "plum", radius=dot))
    for s in (s for s in now.tolist() if inside(s)):
        x, y = at(s)
        shapes.append(Ring(x, y, kit.px(4), "breaks" if s.real >= 0 else "ink", 2.0, (), "card"))
    return shapes


def _gain_words(gain: float | None) -> str:
    if gain is None:
        return "settles at any gain up to thirty times today's"
    return f"settles up to {gain:.2g} times today's gain"


def settles_to(r: LoopResult) -> float | None:
    """How many times today's gain it still settles with: the range over which one setting holds; None for all."""
    low, high = 1 / SPAN, SPAN

    def settles(share: float) -> bool:
        found = roots_at(r, share)
        return bool((found.real < 0).all())

    if settles(high):
        return None
    if not settles(low):
        return 0.0
    for share in np.geomspace(low, high, GAINS):
        if not settles(float(share)):
            high = float(share)
            break
        low = float(share)
    for _ in range(20):
        middle = math.sqrt(low * high)
        low, high = (middle, high) if settles(middle) else (low, middle)
    return low
