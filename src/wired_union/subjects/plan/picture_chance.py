"""When it will be ready, as 10 000 plans have it; what holds the date; who has how much."""

import numpy as np

from wired_union.picture.bars import Bar
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture
from wired_union.project.dates import shown_day
from wired_union.project.model import Project
from wired_union.subjects.plan.acting import load_h
from wired_union.subjects.plan.calendars import hours_of
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.plan.picture_rope import ink_of
from wired_union.subjects.plan.schedule import Scheduled
from wired_union.subjects.plan.words import hours_words
from wired_union.units import show

HIGH, AXIS_H, TOP = 150.0, 22.0, 30.0
MOST_BARS = 60


def chance_picture(plan: Scheduled, wanted: float, kit: Kit, width: float) -> Picture:
    """How many of the plans are done on each day, with the date."""
    chance = plan.chance
    if chance is None or plan.today is None or plan.deadline is None:
        return hint_picture("Without a date there is nothing to be in time for.", kit, width)
    done = plan.in_order[np.isfinite(plan.in_order)]
    if not len(done):
        return hint_picture("No plan of ten thousand is done within three years.", kit, width)
    low, high = min(plan.by(0.001), float(done[-1])), min(plan.by(0.999), float(done[-1]))
    step = max(int(np.ceil((high - low + 1) / MOST_BARS)), 1)
    edges = np.arange(np.floor(low), np.ceil(high) + step + 1, step)
    counts = np.histogram(np.clip(plan.in_order, edges[0], edges[-1]), edges)[0]
    left, right = min(edges[0], plan.deadline - 1), max(edges[-1], plan.deadline + 1)

    def x(day: float) -> float:
        return kit.px(4) + (width - kit.px(8)) * (day - left) / (right - left)

    base, most = kit.px(TOP + HIGH), max(int(counts.max()), 1)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for k, count in enumerate(counts):
        tall = (kit.px(HIGH)) * float(count) / most
        late = edges[k] + step > plan.deadline + 1e-9
        box_x, wide = x(float(edges[k])), x(float(edges[k] + step)) - x(float(edges[k]))
        if count:
            shapes.append(Box(box_x + 1, base - tall, max(wide - 2, 1.0), tall, "tight" if late else "holds"))
        day = plan.begins(float(edges[k]))
        words = (
            f"{shown_day(day)}: done in {show(float(count) / len(plan.in_order), 'share')} of the plans" if day else ""
        )
        regions.append(Region(f"day {k}", box_x, kit.px(TOP), max(wide, 1.0), kit.px(HIGH), words))
    shapes.append(Line(0, base, width, base, "line", 1.0))
    shapes += _day_names(plan, (float(left), float(right)), x, kit, base)
    shapes += _date_post(plan, x(plan.deadline), kit, width, base)
    shapes += _chance_words(chance, wanted, kit)
    return Picture(width, base + kit.px(AXIS_H), tuple(shapes), tuple(regions))


def _date_post(plan: Scheduled, at: float, kit: Kit, width: float, base: float) -> list[Shape]:
    """The date as a post with its day."""
    date = plan.begins(plan.deadline) if plan.deadline is not None else None
    left = at > width / 2
    x, anchor = (at - kit.px(6), "end") if left else (at + kit.px(6), "start")
    return [Line(at, kit.px(TOP) - kit.px(6), at, base + kit.px(4), "ink", 2.4),
            kit.words(x, kit.px(TOP), shown_day(date) if date else "", "small", bold=True, anchor=anchor)]  # fmt: skip


def _chance_words(chance: float, wanted: float, kit: Kit) -> list[Shape]:
    """The chance, and what is wanted."""
    said = f"in time: {chance * 100:.3g} %"
    ink = "holds_text" if chance >= wanted else "breaks_text"
    beside = kit.width(said, "heading", bold=True) + kit.px(12)
    return [kit.words(0, kit.px(8), said, "heading", ink, bold=True),
            kit.words(beside, kit.px(9), f"wanted: {show(wanted, 'share')}", "small", "mute")]  # fmt: skip


def _day_names(plan: Scheduled, span: tuple[float, float], x: object, kit: Kit, base: float) -> list[Shape]:
    """Days below the bars, so far apart that they can be read."""
    assert callable(x)
    days = span[1] - span[0]
    step = next((s for s in (1, 2, 4, 7, 14, 28, 56) if x(span[0] + s) - x(span[0]) >= kit.px(46)), max(int(days), 1))
    found: list[Shape] = []
    for k in range(int(days // step) + 1):
        at = span[0] + k * step
        day = plan.begins(at)
        if day is not None:
            anchor = "start" if k == 0 else "middle"
            found.append(kit.figures(x(at), base + kit.px(12), shown_day(day), "tiny", "mute", anchor=anchor))
    return found


def holder_bars(plan: Scheduled) -> list[Bar]:
    """What holds the date, for `share_bars`."""
    return [
        Bar(plan.rows[h.task].task.name, h.share, show(h.share, "share"), ink_of(plan.rows[h.task]))
        for h in plan.holders[:6]
    ]  # fmt: skip


def people_picture(plan: Scheduled, project: Project, kit: Kit, width: float, picked: PlanPick) -> Picture:
    """Everybody with the hours that they have to give and those that they have, to carry tasks onto."""
    people = project.plan.people
    if not people:
        return hint_picture("Nobody yet: add who is in the team, with their hours a week.", kit, width)
    columns = max(min(len(people), int(width // kit.px(150))), 1)
    wide, high = (width - kit.px(8) * (columns - 1)) / columns, kit.px(36)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for k, person in enumerate(people):
        x, y = (k % columns) * (wide + kit.px(8)), (k // columns) * (high + kit.px(6))
        load, room = load_h(plan, person.id), _room(plan, project, k)
        share = load / room if room > 0 else (1.5 if load else 0.0)
        ink = "breaks" if share > 1 + 1e-9 else "tight" if share > 0.8 else "holds"
        shapes.append(Box(x, y, wide, high, "soft", "ink" if picked.person == person.id else "", 3.0))
        shapes.append(
            kit.words(
                x + kit.px(8), y + kit.px(12), kit.cut(person.name, wide * 0.4, "small", bold=True), "small", bold=True
            )
        )
        hours = f"{hours_words(load)} of {hours_words(room)}" if person.hours_a_week is not None else "hours not said"
        shapes.append(kit.figures(x + wide - kit.px(8), y + kit.px(12), hours, "small", "ink", anchor="end"))
        bar = wide - kit.px(16)
        shapes.append(Box(x + kit.px(8), y + kit.px(24), bar, kit.px(6), "line", radius=2.0))
        if share > 0:
            shapes.append(Box(x + kit.px(8), y + kit.px(24), bar * min(share, 1.0), kit.px(6), ink, radius=2.0))
        words = f"{person.name}: {hours} until the date. Carry a task here to give it."
        regions.append(Region(f"person {person.id}", x, y, wide, high, words, of=PlanPick(person=person.id)))
    rows = -(-len(people) // columns)
    return Picture(width, rows * (high + kit.px(6)), tuple(shapes), tuple(regions))


def _room(plan: Scheduled, project: Project, k: int) -> float:
    if plan.today is None or plan.deadline is None:
        return 0.0
    hours = hours_of(project.plan.people[k], project.plan.calendar, plan.today)
    return float(hours[: max(int(plan.deadline), 0)].sum())
