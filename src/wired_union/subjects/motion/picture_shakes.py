"""What turns against what swings, on one line of decades: bands to keep free, run-ups, and twice in a turn."""

import math
from collections.abc import Callable

from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, kept_inside
from wired_union.subjects.motion.assess import SEPARATION, Shake
from wired_union.subjects.motion.results import Turning
from wired_union.units import show

DECADE = 10.0


def shakes_picture(shakes: tuple[Shake, ...], kit: Kit, width: float) -> Picture:
    """Frequencies on one line of decades: what swings with its band of 20 % each way, and what turns."""
    if not shakes:
        words = kit.words(0, 10, "Name what can swing, and it is held against everything that turns.", "small", "mute")
        return Picture(width, 22, (words,))
    mounts = {s.mount.id: s for s in shakes}
    sources = {s.source: s.turning for s in shakes}
    every = [*(s.natural_hz for s in mounts.values()), *(t.most_hz for t in sources.values())]
    every += [t.least_hz for t in sources.values() if t.least_hz > t.most_hz / DECADE]
    low, high = math.log10(min(every) * 0.6), math.log10(max(every) * 2.4)
    left, right, row = kit.px(112), width - kit.px(64), kit.px(24)

    def at(hertz: float) -> float:
        return left + (right - left) * max(math.log10(max(hertz, 1e-12)) - low, 0.0) / (high - low)

    shapes: list[Shape] = []
    regions: list[Region] = []
    bottom = row * len(mounts)
    for k, shake in enumerate(mounts.values()):
        near = min(s.apart for s in shakes if s.mount.id == shake.mount.id)
        through = [s.source for s in shakes if s.mount.id == shake.mount.id and s.run_through and s.times == 1]
        shapes += _swinging(shake, near, at, kit, left, right, row * (k + 0.5), through=bool(through))
        nearest = f"the nearest is {show(near, 'share')} away" if near > 0 else "something shakes it just so often"
        said = f"{shake.mount.name} swings at {show(shake.natural_hz, 'Hz')}; {nearest}"
        if through:
            said += f"; {' and '.join(through)} run through it on the way up: imbalance shakes it a moment"
        regions.append(Region(shake.mount.id, 0, row * k, width, row, said))
    behind: list[Shape] = []
    for k, (name, turning) in enumerate(sorted(sources.items(), key=lambda s: s[1].hertz)):
        y, x, end = bottom + row * (k + 0.5), at(turning.least_hz), at(turning.most_hz)
        behind.append(Box(x, 0, max(end - x, 1.4), y, "soft"))
        behind += [Line(edge, 0, edge, y, "copper", 0.8, (2.0, 3.0)) for edge in (x, end)]
        shapes += _turning(name, turning, at, kit, left, y)
        regions.append(Region(f"turns {k}", 0, y - row / 2, width, row, _turning_words(name, turning), of=""))
    every_shape = kept_inside([*behind, *shapes], kit, width)
    return Picture(width, bottom + row * len(sources), every_shape, tuple(regions))


def _turning(
    name: str, turning: Turning, at: Callable[[float], float], kit: Kit, left: float, y: float
) -> list[Shape]:  # fmt: skip
    """What turns, on its row: its run-up as a line, the speeds that it turns with, and twice those."""
    least, most, half = at(turning.least_hz), at(turning.most_hz), kit.px(5)
    twice = at(2 * turning.least_hz), at(2 * turning.most_hz)
    return [
        kit.words(0, y, kit.cut(name, left - 8, "small"), "small"),
        Line(left, y, least, y, "copper", 1.0, (2.0, 3.0)),
        Box(twice[0], y - half, max(twice[1] - twice[0], 2.0), 2 * half, "copper_soft", "copper", width=0.8),
        Box(least, y - half, max(most - least, 2.0), 2 * half, "copper"),
        kit.figures(max(most, twice[1]) + 5, y, show(turning.hertz, "Hz"), "small", "copper", bold=True),
    ]


def _turning_words(name: str, turning: Turning) -> str:
    between = f"{show(turning.least_hz, 'Hz')} to {show(turning.most_hz, 'Hz')}"
    spans = show(turning.hertz, "Hz") if turning.least_hz == turning.most_hz else f"{between}, as charge and load say"
    return f"{name} turns at {spans}; the light bar is twice in a turn, the dotted line its run-up"


def _swinging(
    shake: Shake, near: float, at: Callable[[float], float], kit: Kit, left: float, right: float, y: float,
    *, through: bool,
) -> list[Shape]:  # fmt: skip
    """What swings, on its row: its name, its band of 20 % each way, its frequency, and whether it is run through."""
    figure = show(shake.natural_hz, "Hz") + (", run through" if through else "")
    ink, low, high = "tight" if near < SEPARATION else "holds", at(shake.natural_hz * 0.8), at(shake.natural_hz * 1.2)
    middle = at(shake.natural_hz)
    return [
        kit.words(0, y, kit.cut(shake.mount.name, left - 8, "small"), "small"),
        Line(left, y, right, y, "line"),
        Box(low, y - kit.px(7), high - low, kit.px(14), "tight_soft", ink),
        Line(middle, y - kit.px(8), middle, y + kit.px(8), ink, 2.0),
        kit.figures(high + 5, y, figure, "small", "ink", bold=True),
    ]
