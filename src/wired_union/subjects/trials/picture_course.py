"""The course drawn: tasks along the time with the post where it is up, and the ways between places."""

from collections.abc import Sequence

from wired_union.picture.axis import time_ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Ring, Shape, hint_picture
from wired_union.project.model import Concept
from wired_union.subjects.trials.course import SURE, CourseResult, Done, Walked
from wired_union.subjects.trials.course_search import Best
from wired_union.subjects.trials.pick import TrialPick
from wired_union.units import show

TOP, BAR_H, NOTE_H, AXIS_H, ROOM = 16.0, 34.0, 38.0, 26.0, 1.06
INKS = ("slate", "copper", "moss", "plum")


def course_picture(found: CourseResult, kit: Kit, width: float, picked: TrialPick) -> Picture:
    """Each task as long as it takes, driving between as a thin line, the spread of the whole hatched at the end."""
    w = found.walked
    if w is None or not w.done:
        lacks = f"Not known yet: {'; '.join(found.missing[:3])}." if found.missing else "No task is planned."
        return hint_picture(lacks, kit, width)
    late = w.time_s(SURE)
    reach = max(late, w.ground.allowed_s) * ROOM
    per_s, top, high = (width - kit.px(8)) / reach, kit.px(TOP), kit.px(BAR_H)
    middle = top + high / 2
    shapes: list[Shape] = [Line(0, middle, w.usual_s * per_s, middle, "mute", 1.6)]
    regions: list[Region] = []
    for d in w.done:
        shapes += _task(d, kit, per_s, top, picked)
        x, length = (d.at_s - d.leg.usual_s) * per_s, d.leg.usual_s * per_s
        words = (f"{d.leg.task.name}: done at {show(d.at_s, 's')}, in time {show(d.in_time, 'share')}, brings"
                 f" {show(d.leg.worth * d.in_time, 'points')} on average")  # fmt: skip
        regions.append(Region(f"task {d.leg.task.id}", x, top, max(length, kit.px(6)), high, words,
                              of=TrialPick(course=True, task=d.leg.task.id)))  # fmt: skip
    shapes += _trips(w, kit, per_s, top + high + kit.px(25))
    shapes += _hatch(w.usual_s * per_s, late * per_s, top, high, kit)
    shapes += _post(w, kit, per_s, top, high)
    bottom = top + high + kit.px(NOTE_H)
    shapes.append(Line(0, bottom, width, bottom, "line", 1.0))
    for t in time_ticks(reach, 7):
        if t <= reach:
            anchor = "start" if t == 0 else "middle"
            shapes.append(kit.figures(t * per_s, bottom + kit.px(11), show(t, "s"), "tiny", "mute", anchor=anchor))
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes), tuple(regions))


def _task(d: Done, kit: Kit, per_s: float, top: float, picked: TrialPick) -> list[Shape]:
    """A box with its name and what it is worth; one that is hardly in time is hollow."""
    x, length, high = (d.at_s - d.leg.usual_s) * per_s, d.leg.usual_s * per_s, kit.px(BAR_H)
    ink = INKS[d.trip % len(INKS)]
    full = d.in_time >= 0.5
    chosen = picked.task == d.leg.task.id
    shapes: list[Shape] = [Box(x + 0.5, top, max(length - 1, 1.5), high, ink if full else "card", ink, 2.0, 1.4)]
    if length > kit.px(30):
        text = kit.cut(d.leg.task.name, length - kit.px(8), "tiny", "figures", True)
        shapes.append(kit.figures(x + kit.px(4), top + high / 2, text, "tiny", "card" if full else "ink", bold=True))
    points = f"{d.leg.points:g}"
    if length > kit.width(points, "tiny", "figures") + 2:
        shapes.append(kit.figures(x + length / 2, top + high + kit.px(11), points, "tiny", "mute", anchor="middle"))
    if chosen:
        shapes.append(Line(x, top + high + kit.px(3), x + length, top + high + kit.px(3), "ink", 2.0))
    return shapes


def _trips(w: Walked, kit: Kit, per_s: float, y: float) -> list[Shape]:
    """The name of each trip under its first task, as far as the next one."""
    first = [d for n, d in enumerate(w.done) if n == 0 or w.done[n - 1].trip != d.trip]
    starts = [(d.at_s - d.leg.usual_s) * per_s for d in first]
    ends = [*starts[1:], w.time_s(SURE) * per_s]
    return [
        kit.words(
            x, y, kit.cut(w.ground.names[d.trip], end - x - kit.px(6), "tiny", bold=True), "tiny", "ink", bold=True
        )
        for d, x, end in zip(first, starts, ends, strict=True)
    ]


def _hatch(begin: float, end: float, top: float, high: float, kit: Kit) -> list[Shape]:
    """From the usual end to that of one time in ten."""
    step = kit.px(6)
    lines: list[Shape] = [Line(begin, top + high / 2, end, top + high / 2, "mute", 1.2)]
    x = begin + step / 2
    while x < end:
        lines.append(Line(x, top + high * 0.75, x + step / 2, top + high * 0.25, "mute", 1.4))
        x += step
    return lines


def _post(w: Walked, kit: Kit, per_s: float, top: float, high: float) -> list[Shape]:
    x = w.ground.allowed_s * per_s
    lost = w.last_lost > 0.1
    return [
        Line(x, top - kit.px(4), x, top + high + kit.px(6), "breaks" if lost else "ink", 2.6),
        kit.words(x, top - kit.px(10), f"time is up, {show(w.ground.allowed_s, 's')}", "tiny",
                  "breaks_text" if lost else "ink", bold=True, anchor="end" if x > kit.px(120) else "start"),
    ]  # fmt: skip


NEAR = 0.01
"""Points on average below which one plan is as good as another."""
MAP_H, EDGE = 170.0, 26.0


def map_picture(concept: Concept, found: CourseResult, kit: Kit, width: float) -> Picture:
    """Places from above, and the way of each trip between them."""
    places, w = concept.course_places, found.walked
    if not places:
        return hint_picture("Without places driving is part of each task's time.", kit, width)
    xs, ys = [p.x_m for p in places], [p.y_m for p in places]
    span_x, span_y = max(max(xs) - min(xs), 0.1), max(max(ys) - min(ys), 0.1)
    scale = min((width - 2 * kit.px(EDGE) - kit.px(60)) / span_x, kit.px(MAP_H - 2 * EDGE) / span_y)

    def at(x: float, y: float) -> tuple[float, float]:
        return kit.px(EDGE) + (x - min(xs)) * scale, kit.px(MAP_H - EDGE) - (y - min(ys)) * scale

    start = next((p for p in places if p.id == concept.course.start), None)
    where = {p.id: at(p.x_m, p.y_m) for p in places}
    shapes: list[Shape] = []
    if w is not None and start is not None:
        for k, (trip, numbers) in enumerate(p for p in w.plan if p[1]):
            legs = [where[w.ground.trips[trip][n].task.place] for n in numbers]
            way = _beside([where[start.id], *legs, where[start.id]], (k - 1) * kit.px(2.5))
            shapes.append(Poly(tuple(way), INKS[trip % len(INKS)], width=2.0))
    for p in places:
        x, y = where[p.id]
        shapes.append(Ring(x, y, kit.px(6), "ink", 1.8, (), "ink" if p is start else "card"))
        shapes.append(kit.words(x + kit.px(10), y, p.name, "tiny", "ink", bold=p is start))
    return Picture(width, kit.px(MAP_H), tuple(shapes))


def _beside(way: Sequence[tuple[float, float]], aside: float) -> list[tuple[float, float]]:
    """Ways a little beside each other, so that each is seen."""
    return [(x + aside, y + aside) for x, y in way]


def course_words(found: CourseResult) -> str:
    """ "113 points on average, 95 to 130 eight times in ten. 225 s usual, 247 s one time in ten." """
    w = found.walked
    if w is None:
        return f"Not known yet: {'; '.join(found.missing)}." if found.missing else "No trip yet."
    if not w.done:
        return "Every task is left out."
    last = w.done[-1].leg.task.name
    return (f"{show(w.points, 'points')} on average, {show(w.reached(SURE), 'points')} or more nine times in ten."
            f" {show(w.usual_s, 's')} usual, {show(w.time_s(SURE), 's')} one time in ten: {last}, the last, is lost in"
            f" {show(w.last_lost, 'share')}.")  # fmt: skip


def best_words(w: Walked, best: Best) -> str:
    """ "Best of all 24 orders: C A D B, +9 points on average, proven." """
    order = ", ".join(w.ground.names[n] for n, tasks in best.plan if tasks)
    kept = {(n, k) for n, tasks in best.plan for k in tasks}
    out = [leg.task.name for n, t in enumerate(w.ground.trips) for k, leg in enumerate(t) if (n, k) not in kept]
    without = f", without {', '.join(out)}" if out else ""
    sure = "proven" if best.proven else f"not proven: none brings more than {show(best.most, 'points')}"
    gain = best.points - w.points
    if gain < NEAR:
        return f"This is the best of all {best.orders} orders of trips and of what is left out: {sure}."
    return (f"Best of all {best.orders} orders of trips and of what is left out: {order}{without},"
            f" +{show(gain, 'points')} on average, {sure}.")  # fmt: skip
