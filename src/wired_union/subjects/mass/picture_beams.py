"""What bends, each on a line of its own: straight, and bent as its load bends it, drawn larger than it is."""

import math
from collections.abc import Sequence
from itertools import pairwise

from wired_union.picture.shapes import Kit, Line, Picture, Poly, Region, Shape
from wired_union.subjects.mass.beams import ENOUGH, BeamResult
from wired_union.units import show

ROW, DEEP, NAMED, FIGURES = 62.0, 18.0, 120.0, 190.0
POINTS = 24


def beams_picture(found: Sequence[BeamResult], kit: Kit, width: float, chosen: str = "") -> Picture:
    """Each beam with how it is held, its load, and what follows. The sag is drawn as deep in every row."""
    if not found:
        words = kit.words(0, kit.px(10), "Name an axle, an arm, a mast or a bracket, and see it bend.", "small", "mute")
        return Picture(width, kit.px(24), (words,))
    row = kit.px(ROW)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for n, r in enumerate(found):
        shapes += _row(r, kit, width, n * row, chosen=r.beam.id == chosen)
        regions.append(Region(r.beam.id, 0, n * row, width, row, said(r)))
    return Picture(width, row * len(found), tuple(shapes), tuple(regions))


def said(r: BeamResult) -> str:
    """A beam in a sentence."""
    least = "at least " if r.missing else ""
    return (
        f"{r.beam.name}: {least}{show(r.load_kg, 'kg')} on it; sags {show(r.sag_m, 'm')}, bears {r.safety_factor:.3g}"
        f" times what pulls on a bump, swings at {show(r.frequency_hz, 'Hz')}"
    )


def _row(r: BeamResult, kit: Kit, width: float, top: float, *, chosen: bool) -> list[Shape]:
    left, right, y = kit.px(NAMED), width - kit.px(FIGURES), top + kit.px(ROW) * 0.42
    ink = "slate" if not chosen else "copper"
    shapes: list[Shape] = [kit.words(0, y, kit.cut(r.beam.name, kit.px(NAMED - 14), "base", bold=chosen), "base", "ink",
                                     bold=chosen)]  # fmt: skip
    shapes += _held(r.beam.support, left, right, y, kit)
    shapes.append(Line(left, y, right, y, "line", 1.2, (4.0, 3.0)))
    bent = [(left + (right - left) * t, y + kit.px(DEEP) * shape_at(r.beam.support, t))
            for t in (n / POINTS for n in range(POINTS + 1))]  # fmt: skip
    shapes += [Line(*a, *b, ink, 2.4) for a, b in pairwise(bent)]
    at = (right, y + kit.px(DEEP)) if r.beam.support == "cantilever" else ((left + right) / 2, y + kit.px(DEEP))
    shapes += _load(r, *at, kit)
    return shapes + _figures(r, right + kit.px(22), y, kit)


def shape_at(support: str, t: float) -> float:
    """How far a beam bends at a share of its length, of the most. Roark's curves for one load."""
    half = min(t, 1 - t)
    if support == "cantilever":
        return (3 * t**2 - t**3) / 2
    return 3 * half - 4 * half**3 if support == "simple" else 4 * half**2 * (3 - 4 * half)


def _held(support: str, left: float, right: float, y: float, kit: Kit) -> list[Shape]:
    """Walls that clamp it, or points that it rests on."""
    tall, foot = kit.px(11), kit.px(6)
    walls = {"cantilever": (left,), "fixed": (left, right), "simple": ()}[support]
    found: list[Shape] = [Line(x, y - tall, x, y + tall, "ink", 3.0) for x in walls]
    if support == "simple":
        found += [Poly(((x, y), (x - foot, y + 1.6 * foot), (x + foot, y + 1.6 * foot)), "ink", "card", 1.4)
                  for x in (left, right)]  # fmt: skip
    return found


def _load(r: BeamResult, x: float, y: float, kit: Kit) -> list[Shape]:
    """An arrow down where the load is, with the mass beside it."""
    long, head = kit.px(15), kit.px(4)
    text = f"{'≥ ' if r.missing else ''}{show(r.load_kg, 'kg')}"
    return [
        Line(x, y - long, x, y, "ink", 1.4),
        Poly(((x, y), (x - head, y - 1.5 * head), (x + head, y - 1.5 * head)), "", "ink"),
        kit.figures(x - kit.px(7), y + kit.px(9), text, "small", "ink", anchor="end"),
    ]


def _figures(r: BeamResult, x: float, y: float, kit: Kit) -> list[Shape]:
    """Sag, safety and frequency, the safety in the colour of what is common practice."""
    safe = r.safety_factor
    tone = "breaks_text" if safe < ENOUGH else "mute" if r.missing else "ink"
    times = f"{safe:.3g}×" if math.isfinite(safe) else "no load"
    return [
        kit.figures(x, y - kit.px(9), f"bears {times}", "base", tone, bold=True),
        kit.figures(x + kit.px(82), y - kit.px(9), show(r.frequency_hz, "Hz"), "base", "ink"),
        kit.words(x, y + kit.px(9), f"sags {show(r.sag_m, 'm')}", "small", "mute"),
    ]
