"""Effects of settings as bars around nothing; what was taken for what; packets that arrive over the distance."""

import math
from collections.abc import Sequence

from wired_union.picture.axis import ticks, with_room
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Ring, Shape, hint_picture
from wired_union.project.trial_model import Trial
from wired_union.subjects.trials.looks import Effects, Reach, Seen, effects_of
from wired_union.subjects.trials.shown import is_measured
from wired_union.units import show

ROW_H, NAME_W, AXIS_H, SURE = 28.0, 170.0, 24.0, 0.05
INKS = ("slate", "copper", "moss", "plum")


def effects_picture(trial: Trial, kit: Kit, width: float) -> Picture:
    """A bar for each effect, twice its standard error around it; those that luck seldom makes are full."""
    found = effects_of(trial)
    if found.missing:
        return hint_picture(found.missing, kit, width)
    unit = trial.unit if is_measured(trial) else "share"
    reach = max(abs(e.size) + 2 * found.error for e in found.effects) or 1.0
    left, right = kit.px(NAME_W), width - kit.px(70)
    middle, scale = (left + right) / 2, (right - left) / 2 / reach
    bottom = len(found.effects) * kit.px(ROW_H)
    shapes: list[Shape] = [Line(middle, 0, middle, bottom, "mute", 1.2)]
    for value in ticks(-reach, reach, 4):
        shapes.append(kit.figures(middle + value * scale, bottom + kit.px(11), show(value, unit), "tiny", "mute",
                                  anchor="middle"))  # fmt: skip
    for n, e in enumerate(found.effects):
        y = (n + 0.5) * kit.px(ROW_H)
        end, ink = middle + e.size * scale, "slate" if e.p_value < SURE else "slate_soft"
        shapes.append(kit.words(left - kit.px(10), y, kit.cut(e.name, left - kit.px(16), "small", bold=True), "small",
                                bold=True, anchor="end"))  # fmt: skip
        shapes.append(Box(min(middle, end), y - kit.px(6), max(abs(end - middle), 1.0), kit.px(12), ink, radius=1))
        half = 2 * found.error * scale
        shapes.append(Line(end - half, y, end + half, y, "ink", 1.4))
        shapes.append(kit.figures(width - kit.px(4), y, show(e.size, unit), "small", "ink", bold=e.p_value < SURE,
                                  anchor="end"))  # fmt: skip
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes))


def effects_words(trial: Trial, found: Effects) -> str:
    """Which effects are more than luck, in words."""
    if found.missing:
        return found.missing
    sure = [e for e in found.effects if e.p_value < SURE]
    if not sure:
        return "No effect is more than luck brings one time in twenty."
    unit = trial.unit if is_measured(trial) else "share"
    said = ", ".join(f"{e.name} {'+' if e.size > 0 else ''}{show(e.size, unit)}" for e in sure)
    return f"From low to high: {said}. The others luck brings more than one time in twenty."


CELL_H, CELL_W = 26.0, 74.0


def seen_picture(t: Seen, kit: Kit, width: float) -> Picture:
    """Rows what was there, columns what it was taken for; on the diagonal what was seen for what it is."""
    if not t.names:
        return hint_picture("Nothing was shown to it yet.", kit, width)
    left, top, right_w = kit.px(130), kit.px(44), kit.px(150)
    cell_w = min(kit.px(CELL_W), (width - left - right_w) / len(t.names))
    most = max(max(row) for row in t.counts)
    shapes: list[Shape] = [
        kit.words(left, kit.px(8), "taken for", "tiny", "mute"),
        kit.words(left - kit.px(10), top - kit.px(12), "was", "tiny", "mute", anchor="end"),
    ]
    for m, name in enumerate(t.names):
        text = kit.cut(name, cell_w - kit.px(4), "small", bold=True)
        shapes.append(kit.words(left + (m + 0.5) * cell_w, top - kit.px(12), text, "small", bold=True, anchor="middle"))
    for n, row in enumerate(t.counts):
        y = top + n * kit.px(CELL_H)
        name = kit.cut(t.names[n], left - kit.px(20), "small", bold=True)
        shapes.append(kit.words(left - kit.px(10), y + kit.px(CELL_H / 2), name, "small", bold=True, anchor="end"))
        for m, count in enumerate(row):
            shapes += _cell(count, most, n == m, left + m * cell_w, y, cell_w, kit)
        right = t.right[n]
        if right is not None:
            told = (f"{show(row[n] / sum(row), 'share')} right, {show(right.exact_lower, 'share')} to"
                    f" {show(right.exact_upper, 'share')}")  # fmt: skip
            shapes.append(kit.words(left + len(t.names) * cell_w + kit.px(8), y + kit.px(CELL_H / 2), told, "tiny",
                                    "mute"))  # fmt: skip
    return Picture(width, top + len(t.names) * kit.px(CELL_H) + kit.px(6), tuple(shapes))


def _cell(count: int, most: int, right: bool, x: float, y: float, cell_w: float, kit: Kit) -> list[Shape]:
    fill = "" if not count else "moss_soft" if right else "copper_soft"
    shapes: list[Shape] = [Box(x + 1, y + 1, cell_w - 2, kit.px(CELL_H) - 2, fill, "line", 2.0)]
    if count:
        shapes.append(kit.figures(x + cell_w / 2, y + kit.px(CELL_H / 2), str(count), "small", "ink",
                                  bold=right or count * 4 >= most, anchor="middle"))  # fmt: skip
    return shapes


HIGH, LEFT = 150.0, 52.0


def reach_picture(reaches: Sequence[Reach], wanted: float, kit: Kit, width: float) -> Picture:
    """Share of packets over distance, a curve for each condition, and where it falls under what is wanted."""
    points = [c for r in reaches for c in r.counts]
    if len({d for d, _, _ in points}) < 2:
        return hint_picture("Packets at two distances at least: say the distance as the setting.", kit, width)
    x0, x1 = with_room(0.0, max(d for d, _, _ in points), 0.04)
    x0 = 0.0
    left, right, high = kit.px(LEFT), width - kit.px(120), kit.px(HIGH)

    def at(d: float, share: float) -> tuple[float, float]:
        return left + (d - x0) / (x1 - x0) * (right - left), high - share * (high - kit.px(8))

    shapes: list[Shape] = []
    for share in (0.0, 0.5, 1.0):
        y = at(0, share)[1]
        shapes.append(Line(left, y, right, y, "line", 1.0))
        shapes.append(kit.figures(left - kit.px(6), y, show(share, "share"), "tiny", "mute", anchor="end"))
    for d in ticks(x0, x1, 6):
        shapes.append(kit.figures(at(d, 0)[0], high + kit.px(12), show(d, "m"), "tiny", "mute", anchor="middle"))
    y = at(0, wanted)[1]
    shapes.append(Line(left, y, right, y, "ink", 1.4, (5.0, 4.0)))
    shapes.append(kit.words(right + kit.px(4), y, f"{show(wanted, 'share')} wanted", "tiny", "ink", bold=True))
    for n, r in enumerate(reaches):
        ink = INKS[n % len(INKS)]
        if r.found is not None:
            shapes.append(Poly(tuple(at(d, _share(r, d, wanted)) for d in _places(x1)), ink, width=2.0))
            end = at(_places(x1)[-1], _share(r, x1, wanted))
            shapes.append(kit.words(end[0] + kit.px(4), max(end[1], y + kit.px(14) * (n + 1)), r.condition, "tiny", ink,
                                    bold=True))  # fmt: skip
        for d, got, sent in r.counts:
            shapes.append(Ring(*at(d, got / sent), kit.px(4.5), ink, 1.8, (), "card"))
    return Picture(width, high + kit.px(AXIS_H), tuple(shapes))


def _places(far: float) -> list[float]:
    return [far * (n + 1) / 100 for n in range(100)]


def _share(r: Reach, d: float, wanted: float) -> float:
    """The fitted share at a distance: the log odds of what is wanted at the reach, on by the slope."""
    assert r.found is not None
    level = min(max(wanted, 0.5), 0.999)
    odds = math.log(level / (1 - level)) + r.found.slope * (math.log(d) - math.log(r.found.reach_m))
    return 1 / (1 + math.exp(-min(max(odds, -500.0), 500.0)))
