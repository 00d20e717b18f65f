"""Trials: a mark for every run, version by version, and beside it the interval that the runs allow against the wish."""

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.picture.axis import ticks, with_room
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ring, Shape, hint_picture
from wired_union.subjects.trials.findings import hardest_words, more_words, shown_words
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.shown import Row, TrialResult, bound_of, meets
from wired_union.units import show

ROW_H, NAME_W, MARK_W, MOST_ROWS = 52.0, 150.0, 10.0, 4


class _Axis(Struct, frozen=True):
    """Where a figure lies across."""

    left: float
    right: float
    low: float
    high: float

    def at(self, value: float) -> float:
        share = (value - self.low) / (self.high - self.low) if self.high > self.low else 0.5
        return self.left + min(max(share, 0.0), 1.0) * (self.right - self.left)


def trial_picture(r: TrialResult, kit: Kit, width: float, picked: TrialPick) -> Picture:
    """One trial: its versions, the last one first, an axis below them, and what that means in words."""
    if not r.rows:
        return hint_picture(
            "No run yet. Press G for a good one, B for a bad one, or type what was measured.", kit, width
        )
    row_h = kit.px(ROW_H)
    axis = _axis(r, kit, width)
    shapes: list[Shape] = []
    shown = r.rows[:MOST_ROWS]
    top = kit.px(20) if r.wish is not None else 0.0
    for n, row in enumerate(shown):
        shapes += _row(r, row, axis, kit, top + n * row_h)
    bottom = top + len(shown) * row_h
    shapes += _wish(r, axis, kit, top, bottom)
    for value in ticks(axis.low, axis.high, 4):
        text = show(value, "share" if r.is_rate else r.trial.unit)
        shapes.append(kit.figures(axis.at(value), bottom + kit.px(8), text, "tiny", "mute", anchor="middle"))
    y = bottom + kit.px(30)
    for line in kit.wrap(said_words(r), width, "small", bold=True):
        shapes.append(kit.words(0, y, line, "small", "ink", bold=True))
        y += kit.px(18)
    region = Region(f"trial {r.trial.id}", 0, 0, width, y, f"{r.trial.name}: {said_words(r)}", of=TrialPick(r.trial.id))
    return Picture(width, y, tuple(shapes), (region,))


def said_words(r: TrialResult) -> str:
    """ "18 of 20 shows at least 72 %. 14 more runs, all good, would show 90 %." """
    row = r.now
    if row is None:
        return "Not tried yet."
    if r.missing:
        return f"Not known yet: {'; '.join(r.missing)}."
    if r.wish is None and r.value is not None and None not in r.ends:
        low, high = (shown_words(r, x) for x in r.ends)
        where = hardest_words(row)
        what = f"{row.good} of {row.tries} {where}".strip() if r.is_rate else f"{shown_words(r, r.value)} on average"
        return f"{what}: {low} to {high} can be."
    least = "at most" if r.wish is not None and r.wish.direction == "at most" else "at least"
    rate = f"{row.good} of {row.tries} {hardest_words(row)}".strip()
    count = f"{rate if r.is_rate else f'{shown_words(r, r.value)} on average'} shows"
    said = f"{count} {least} {shown_words(r, r.bound)}." if r.bound is not None else ""
    if r.verdict is Verdict.HOLDS and r.wish is not None:
        return f"{said} {shown_words(r, r.wish.value)} is shown."
    more = " or ".join(more_words(r))
    return f"{said} To show {shown_words(r, r.wish.value)}: {more}." if more and r.wish is not None else said


def _axis(r: TrialResult, kit: Kit, width: float) -> _Axis:
    left = kit.px(NAME_W) + (width - kit.px(NAME_W)) * 0.52
    right = width - kit.px(24)
    if r.is_rate:
        return _Axis(left, right, 0.0, 1.0)
    values = [v for row in r.rows[:MOST_ROWS] for v in row.values]
    values += [x for x in (r.trial.band_low, r.trial.band_high, r.wish.value if r.wish else None) if x is not None]
    return _Axis(left, right, *with_room(min(values), max(values), 0.08))


def _row(r: TrialResult, row: Row, axis: _Axis, kit: Kit, y: float) -> list[Shape]:
    middle = y + kit.px(14)
    name = kit.cut(row.version or "as it is", kit.px(NAME_W - 8), "small", bold=True)
    shapes: list[Shape] = [kit.words(0, middle, name, "small", bold=True)]
    room = int((axis.left - kit.px(NAME_W) - kit.px(24)) // kit.px(MARK_W))
    last = row.marks[-max(room, 1) :]
    x = kit.px(NAME_W)
    for good in last:
        if r.is_rate and not good:
            shapes.append(Ring(x + kit.px(4), middle, kit.px(4), "breaks", 1.8, ()))
        else:
            shapes.append(
                Box(x + kit.px(2), middle - kit.px(8), kit.px(4), kit.px(16), "holds" if r.is_rate else "slate")
            )
        x += kit.px(MARK_W)
    few = f" · the last {len(last)} are drawn" if len(last) < len(row.runs) else ""
    spread = f", {show(row.mean.sd, r.trial.unit)} of spread" if row.mean else ""
    streak = f"{row.good} of {row.tries} · longest run of good ones {row.longest}"
    told = streak if r.is_rate else f"{len(row.runs)} run{'s' if len(row.runs) > 1 else ''}{spread}"
    shapes.append(kit.words(kit.px(NAME_W), middle + kit.px(20), f"{told}{few}", "tiny", "mute"))
    return shapes + _interval(r, row, axis, kit, middle)


def _interval(r: TrialResult, row: Row, axis: _Axis, kit: Kit, y: float) -> list[Shape]:
    shapes: list[Shape] = [Line(axis.left, y, axis.right, y, "line", 1.4)]
    ink = _ink(r, row)
    if r.is_rate and row.interval is not None:
        low, high, value = row.interval.exact_lower, row.interval.exact_upper, row.good / row.tries
    elif row.mean is not None:
        low, high, value = row.mean.lower, row.mean.upper, row.mean.mean
    elif row.values:
        low = high = value = row.values[0]
    else:
        return shapes
    shapes.append(Line(axis.at(low), y, axis.at(high), y, ink, 4.0))
    shapes.append(Ring(axis.at(value), y, kit.px(5), "ink", 1.8, (), "card"))
    return shapes


def _ink(r: TrialResult, row: Row) -> str:
    """The colour of what a version shows."""
    if r.wish is None or not row.runs or r.missing:
        return "slate"
    least = r.wish.direction == "at least"
    if r.is_rate:
        bound, value = bound_of(row.good, row.tries, r.trial.confidence, least=least), row.good / row.tries
    elif row.mean is not None:
        bound, value = row.mean.one_sided_lower if least else row.mean.one_sided_upper, row.mean.mean
    else:
        return "unknown"
    return "holds" if meets(bound, r.wish) else "tight" if meets(value, r.wish) else "breaks"


def _wish(r: TrialResult, axis: _Axis, kit: Kit, top: float, bottom: float) -> list[Shape]:
    if r.wish is None:
        return []
    x = axis.at(r.wish.value)
    least = "wanted" if r.wish.direction == "at least" else "at most"
    anchor = "end" if x > (axis.left + axis.right) / 2 else "start"
    return [Line(x, top - kit.px(4), x, bottom, "ink", 1.6, (3.0, 3.0)),
            kit.words(x, top - kit.px(12), f"{least} {shown_words(r, r.wish.value)}", "tiny", bold=True,
                      anchor=anchor)]  # fmt: skip
