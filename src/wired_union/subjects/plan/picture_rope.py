"""The rope to the date: every task a bar, taut where no day is left, sagging by the days in hand, hatched beyond."""

from datetime import timedelta

from msgspec import Struct

from wired_union.physics.levelling import NEVER
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Shape, hint_picture
from wired_union.project.dates import as_day, shown_day
from wired_union.project.model import Project
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.schedule import Row, Scheduled
from wired_union.subjects.plan.words import day_words, days_words, in_hand_words, late_words, who_words
from wired_union.units import show

TOP, BAR_H, AXIS_H, NAMES, LEAST_BAR, SAG = 34.0, 13.0, 22.0, 214.0, 3.0, 7.0
FEW, ROW_H, LOW_H = 12, 25.0, 20.0
"""Rows that have much room; more of them stand closer."""
MOST_DAYS = 200.0
"""Days that are drawn at most; what comes later is told in words."""
INKS = {"work": "slate", "wait": "copper"}
BY_SOURCE = {"program": "plum", "trial": "moss", "question": "moss", "bench": "plum"}
"""Colours of tasks by where they come from: what is tried, what is thought."""


class Frame(Struct, frozen=True):
    """Where days and rows are in the picture."""

    left: float
    right: float
    first: float
    days: float
    top: float
    high: float
    """of a row"""

    def x(self, day: float) -> float:
        """Where an instant is."""
        span = self.right - self.left
        return self.left + span * (min(max(day, self.first), self.first + self.days) - self.first) / self.days

    @property
    def per_px(self) -> float:
        """Days of a pixel."""
        return self.days / max(self.right - self.left, 1.0)


def shown_rows(plan: Scheduled) -> tuple[Row, ...]:
    """Tasks that are not done and take time, by when they begin."""
    rows = [r for r in plan.open if r.task.id not in plan.needless]
    return tuple(sorted(rows, key=lambda r: (max(r.start, 0.0), r.finish)))


def frame_of(plan: Scheduled, kit: Kit, width: float) -> Frame:
    """From today, or the first day something that is not done was begun, to behind the last."""
    rows = shown_rows(plan)
    first = max(min([0.0, *(r.start for r in rows)]), -14.0)
    ends = [min(r.longest, MOST_DAYS) for r in rows] + [min(plan.deadline or 0.0, MOST_DAYS)]
    days = max(max(ends, default=7.0) - first, 7.0) * 1.04
    names = min(kit.px(NAMES), width * 0.34)
    return Frame(names, width - kit.px(10), first, days, kit.px(TOP), kit.px(ROW_H if len(rows) <= FEW else LOW_H))


def rope_picture(
    plan: Scheduled, project: Project, kit: Kit, width: float, picked: PlanPick, kept: Frame | None = None
) -> Picture:  # fmt: skip
    """All of it; a hint where there is nothing to draw. `kept` is where the days are to be."""
    rows = shown_rows(plan)
    if plan.today is None or not rows:
        return hint_picture("Nothing is left to do." if plan.rows else
                            "No task yet. “Make the plan” takes them from parts, cables, bench, trials and questions.",
                            kit, width)  # fmt: skip
    at = kept or frame_of(plan, kit, width)
    high = at.high
    bottom = at.top + high * len(rows)
    shapes = _days(plan, at, kit, bottom)
    regions: list[Region] = []
    shapes += _posts(plan, project, at, kit, bottom)
    shapes += _links(rows, at, kit, picked)
    for k, row in enumerate(rows):
        y = at.top + high * (k + 0.5)
        shapes += _row(plan, project, row, at, kit, y, picked)
        regions += _regions(plan, row, at, kit, y)
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes), tuple(regions))


def _days(plan: Scheduled, at: Frame, kit: Kit, bottom: float) -> list[Shape]:
    """Weekends as bands, days as fine lines with their names below."""
    assert plan.today is not None
    found: list[Shape] = []
    step = next((s for s in (1, 2, 7, 14, 28) if s / at.per_px >= kit.px(42)), 56)
    for day in range(int(at.first), int(at.first + at.days) + 1):
        on, x = plan.today + timedelta(days=day), at.x(day)
        if on.weekday() >= 5 and at.days <= 120:
            found.append(Box(x, at.top, at.x(day + 1) - x, bottom - at.top, "soft"))
    last = None
    for day in range(int(at.first), int(at.first + at.days) + 1, step):
        on, x = plan.today + timedelta(days=day), at.x(day)
        found.append(Line(x, at.top, x, bottom, "line", 1.0))
        words = shown_day(on) if last is None or on.month != last else str(on.day)
        last = on.month
        found.append(kit.figures(x, bottom + kit.px(11), words, "tiny", "mute", anchor="middle"))
    return found


def ink_of(row: Row) -> str:
    """The colour of a task."""
    return BY_SOURCE.get(row.task.comes_from, INKS[row.task.kind])


def _row(
    plan: Scheduled, project: Project, row: Row, at: Frame, kit: Kit, y: float, picked: PlanPick
) -> list[Shape]:  # fmt: skip
    """The name, who does it, the bar with what could be, and its rope."""
    chosen = picked.task == row.task.id
    who = kit.cut(who_words(project, row.task), at.left * 0.34, "tiny")
    room = at.left - kit.width(who, "tiny") - kit.px(16)
    found: list[Shape] = []
    if chosen:
        found.append(Box(0, y - at.high / 2, at.right, at.high, "soft", radius=3.0))
    found.append(kit.words(kit.px(2), y, kit.cut(row.task.name, room, "small", bold=True), "small", bold=True))
    found.append(kit.words(at.left - kit.px(8), y, who, "tiny", "mute", anchor="end"))
    if row.lacks:
        found.append(kit.words(at.x(0) + kit.px(4), y, "not known: " + row.lacks[0], "tiny", "unknown_text"))
        return found
    return found + _bar(row, at, kit, y) + _rope(plan, row, at, kit, y)


def _bar(row: Row, at: Frame, kit: Kit, y: float) -> list[Shape]:
    ink, high = ink_of(row), kit.px(BAR_H)
    x, end, longest = at.x(row.start), at.x(row.finish), at.x(row.longest)
    wide = max(end - x, kit.px(LEAST_BAR))
    found: list[Shape] = []
    if longest > end + 1:
        found.append(Box(x + wide, y - high / 2, longest - end, high, "card", ink, 1.0, 1.0, hatch=ink))
    found.append(Box(x, y - high / 2, wide, high, ink, radius=1.5))
    words = kit.cut(_inside(row), wide - kit.px(8), "tiny", "figures", True)
    if wide > kit.px(34) and words:
        found.append(kit.figures(x + kit.px(4), y, words, "tiny", "card", bold=True))
    return found


def _inside(row: Row) -> str:
    task = row.task
    if task.kind == "wait":
        begun = as_day(task.begun_on)
        if begun is not None:
            return f"{'ordered' if task.comes_from == 'delivery' else 'since'} {shown_day(begun)}"
        return show(row.finish - max(row.start, 0.0), "days")
    hours = task.left_h if task.left_h is not None else task.likely_h
    return show(hours, "h") if hours is not None else ""


def _rope(plan: Scheduled, row: Row, at: Frame, kit: Kit, y: float) -> list[Shape]:
    """From the bar's end to where it would be too late: sagging by the days in hand, straight where there are none."""
    if row.latest >= NEVER:
        return []
    end, late = at.x(row.finish), at.x(row.latest)
    if row.slack < 0.5:
        ink = "breaks" if row.slack < -1e-6 else "tight"
        high = kit.px(BAR_H) / 2 + kit.px(1.5)
        found: list[Shape] = [Line(at.x(row.start), y + high, max(end, at.x(row.start) + kit.px(LEAST_BAR)), y + high,
                                   ink, 2.2)]  # fmt: skip
        words = late_words(row) if row.slack <= -0.5 else ""
        if words:
            found.append(kit.figures(at.x(row.longest) + kit.px(5), y, words, "tiny", "breaks_text", bold=True))
        return found
    longest = at.x(row.longest)
    if late < longest:  # what could be reaches beyond what may be
        half = kit.px(BAR_H) / 2 + kit.px(2)
        return [Line(late, y - half, late, y + half, "tight", 2.4)]
    sag = min(kit.px(SAG), (late - longest) * 0.2)
    points = tuple((longest + (late - longest) * k / 12, y + sag * 4 * (k / 12) * (1 - k / 12)) for k in range(13))
    words = in_hand_words(row.slack)
    found = [Poly(points, "holds", width=1.4)]
    if late - longest > kit.width(words, "tiny", "figures") + kit.px(8):
        found.append(kit.figures((late + longest) / 2, y - kit.px(4), words, "tiny", "holds_text", bold=True,
                                 anchor="middle"))  # fmt: skip
    return found


def _links(rows: tuple[Row, ...], at: Frame, kit: Kit, picked: PlanPick) -> list[Shape]:
    """What the selected task waits for, and what waits for it, as lines."""
    place = {r.task.id: k for k, r in enumerate(rows)}
    found: list[Shape] = []
    for k, row in enumerate(rows):
        for link in row.task.after:
            n = place.get(link.task)
            if n is None or picked.task not in {row.task.id, link.task}:
                continue
            y1, y2 = (at.top + at.high * (j + 0.5) for j in (n, k))
            x1, x2 = at.x(rows[n].finish), at.x(row.start)
            found.append(Poly(((x1, y1), (x1 + kit.px(3), y1), (x1 + kit.px(3), y2), (x2, y2)), "ink", width=1.0))
    return found


def _posts(plan: Scheduled, project: Project, at: Frame, kit: Kit, bottom: float) -> list[Shape]:
    """Today, milestones and the date."""
    y = at.top - kit.px(9)
    found: list[Shape] = [Line(at.x(0), at.top - kit.px(2), at.x(0), bottom, "copper", 1.6),
                          kit.words(at.x(0), y, "today", "small", "copper", bold=True, anchor="middle")]  # fmt: skip
    taken = at.x(0) + kit.width("today", "small", bold=True) / 2
    for milestone, on, done in plan.milestones:
        if on is None or not at.first <= on <= at.first + at.days:
            continue
        late = done is not None and done > on + 1e-9
        found.append(Line(at.x(on), at.top - kit.px(2), at.x(on), bottom, "breaks" if late else "mute", 1.2, (4, 3)))
        name = kit.cut(milestone.name, kit.px(150), "tiny")
        begins = at.x(on) - kit.width(name, "tiny") - kit.px(3)
        if begins > taken + kit.px(6):
            found.append(kit.words(at.x(on) - kit.px(3), y, name, "tiny", "breaks_text" if late else "mute",
                                   anchor="end"))  # fmt: skip
            taken = at.x(on)
    if plan.deadline is not None and plan.deadline <= at.first + at.days:
        x = at.x(plan.deadline)
        late = plan.end > plan.deadline + 1e-9
        found.append(Line(x, at.top - kit.px(2), x, bottom, "breaks" if late else "ink", 2.4))
        name = kit.cut(project.plan.date_name or "the date", kit.px(120), "small", bold=True)
        ink = "breaks_text" if late else "ink"
        middle = min(x, at.right - kit.width(name, "small", bold=True) / 2)
        found.append(kit.words(middle, kit.px(7), name, "small", ink, bold=True, anchor="middle"))
    return found


def _regions(plan: Scheduled, row: Row, at: Frame, kit: Kit, y: float) -> list[Region]:
    """The row is carried onto another, or somebody; its end is dragged."""
    high, of = at.high, row.task.id
    words = f"{row.task.name}: {said(plan, row)}"
    found = [Region(f"task {of}", 0, y - high / 2, at.right, high, words, "carry", PlanPick(task=of))]
    if not row.lacks and row.finish < NEVER:
        end = max(at.x(row.finish), at.x(row.start) + kit.px(LEAST_BAR))
        found.append(Region(f"end {of}", end - kit.px(5), y - high / 2, kit.px(10), high, f"{words}. Drag its end.",
                            "edge", PlanPick(task=of, end=True)))  # fmt: skip
    return found


def said(plan: Scheduled, row: Row) -> str:
    """ "27 Nov to 3 Dec, 4 days in hand, could last until 5 Dec" """
    if row.done:
        return f"done on {row.task.done_on}"
    if row.lacks:
        return f"not known yet: {'; '.join(row.lacks)}"
    begins = plan.begins(row.start)
    words = f"{shown_day(begins) if begins is not None else ''} to {day_words(plan, row.finish)}"
    if row.latest < NEVER:
        words += f", {late_words(row)}"
        if row.slack >= 0.5:
            words += (
                f" ({days_words(row.free) if row.free >= 0.5 else 'none'} before anything else moves)"
                if row.free < row.slack - 0.5
                else ""
            )
    return f"{words}, could last until {day_words(plan, row.longest)}" if row.longest > row.finish + 0.5 else words


def end_words(plan: Scheduled) -> str:
    """When all is done, in a sentence for the head of the screen."""
    if plan.today is None or plan.deadline is None:
        return "without a date"
    left = plan.deadline
    return f"{days_words(left)} to go" if left >= 0 else f"{days_words(left)} too late"
