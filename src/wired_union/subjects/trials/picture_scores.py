"""The score table: of each aspect that is tried its last ten runs, how many were good, what that allows."""

from collections.abc import Sequence

from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ring, Shape
from wired_union.subjects.trials.findings import hardest_words, shown_words
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.shown import TrialResult

TEN = 10
"""Runs of each aspect before a choice is made: common practice."""
ROW_H, NAME_W, CELL, SCORE_W = 26.0, 190.0, 22.0, 80.0


def is_scored(r: TrialResult) -> bool:
    """Whether its runs are good or bad."""
    return r.is_rate and r.trial.counts != "packets"


def scores_picture(results: Sequence[TrialResult], kit: Kit, width: float, picked: TrialPick) -> Picture:
    """A row for each trial; regions stand for a `TrialPick` of it."""
    shapes: list[Shape] = []
    regions: list[Region] = []
    row_h, left = kit.px(ROW_H), kit.px(NAME_W)
    for n, r in enumerate(results):
        y, row = n * row_h, r.now
        if picked.id == r.trial.id and not picked.course:
            shapes.append(Box(0, y, width, row_h, "soft", radius=3))
        name = kit.cut(r.trial.name, left - kit.px(16), "small", bold=True)
        shapes.append(kit.words(kit.px(6), y + row_h / 2, name, "small", bold=True))
        marks = row.marks[-TEN:] if row is not None and is_scored(r) else ()
        for k in range(TEN if is_scored(r) else 0):
            x = left + (k + 0.5) * kit.px(CELL)
            shapes += _mark(marks[k] if k < len(marks) else None, x, y + row_h / 2, kit)
        at = left + TEN * kit.px(CELL) + kit.px(14)
        shapes.append(kit.figures(at, y + row_h / 2, score_words(r), "small", "ink", bold=True))
        shapes.append(kit.words(at + kit.px(SCORE_W), y + row_h / 2, more_to_ten(r), "tiny", "mute"))
        regions.append(Region(f"score {r.trial.id}", 0, y, width, row_h, f"{r.trial.name}: {score_words(r)}",
                              of=TrialPick(r.trial.id)))  # fmt: skip
    return Picture(width, max(len(regions) * row_h, 1.0), tuple(shapes), tuple(regions))


def _mark(good: bool | None, x: float, y: float, kit: Kit) -> list[Shape]:
    if good is None:
        return [Line(x - kit.px(2), y, x + kit.px(2), y, "unknown", 1.4)]
    if good:
        return [Box(x - kit.px(2.5), y - kit.px(7), kit.px(5), kit.px(14), "holds")]
    return [Ring(x, y, kit.px(5), "breaks", 1.8, (), "card")]


def score_words(r: TrialResult) -> str:
    """ "8 of 10", "152 mm" """
    if r.now is None:
        return ""
    if not is_scored(r):
        return shown_words(r, r.value) if r.value is not None else ""
    marks = r.now.marks[-TEN:]
    return f"{sum(marks)} of {len(marks)}"


def more_to_ten(r: TrialResult) -> str:
    """What ten runs need, else what all of them allow."""
    if r.now is None:
        return "not tried yet"
    left, count = TEN - len(r.now.runs), len(r.now.runs)
    if left > 0 and is_scored(r):
        return f"{left} more before a choice"
    low, high = r.ends
    if low is None or high is None:
        return ""
    of = hardest_words(r.now) or f"all {count}"
    return f"{of}: {shown_words(r, low)} to {shown_words(r, high)} can be"
