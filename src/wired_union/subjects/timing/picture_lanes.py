"""A processor's first moments as lanes: when each task is due and runs, what is late; and what that means in words."""

import math

from wired_union.kernel.results import Verdict
from wired_union.picture.axis import ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture, kept_inside
from wired_union.subjects.timing.lanes import Lanes, Room
from wired_union.subjects.timing.log import Log, within
from wired_union.subjects.timing.tasks import ProcessorResult, TaskResult
from wired_union.units import round_down, show

ROW, NAMED, DENSE = 44.0, 122.0, 5.0
INKS = ("plum", "copper", "slate", "moss", "unknown")


def lanes_picture(
    result: ProcessorResult, lanes: Lanes, kit: Kit, width: float, chosen: str, log: Log | None = None
) -> Picture:
    """A lane for each task, the most urgent on top, under it what a log says. Regions stand for tasks, by their ids."""
    if not lanes.tasks:
        return hint_picture("No task yet. Add what it does again and again, and how long each run takes.", kit, width)
    left, right, row = kit.px(NAMED), width - kit.px(6), kit.px(ROW)
    scale = (right - left) / lanes.until_s
    bottom = row * len(lanes.tasks)
    shapes: list[Shape] = []
    for t in ticks(0, lanes.until_s, 5):
        x = left + t * scale
        shapes.append(Line(x, 0, x, bottom, "line"))
        text = show(t, "s") if t else "0"
        shapes.append(kit.figures(x, bottom + kit.px(10), text, "small", "mute", anchor="middle"))
    regions = []
    for n, task in enumerate(lanes.tasks):
        base = row * (n + 1) - kit.px(8)
        if task.id == chosen:
            shapes.insert(0, Box(0, row * n + 1, width, row - 2, "soft", radius=3))
        found = result.of(task.id)
        shapes += _name(task.name, found, kit, left, row * n + row / 2, bold=task.id == chosen)
        shapes.append(Line(left, base, right, base, "line"))
        dense = task.period_s * scale < kit.px(DENSE)
        shapes += (_dense if dense else _runs)(n, lanes, left, scale, base, row, kit)
        for start, end in within(log, task.id, lanes.until_s) if log is not None else ():
            wide = max((min(end, lanes.until_s) - start) * scale, 1.2)
            shapes.append(Box(left + start * scale, base + 2, wide, kit.px(4), "ink"))
        regions.append(Region(f"task {task.id}", 0, row * n, width, row, task_words(found), of=task.id))
    return Picture(width, bottom + kit.px(20), kept_inside(shapes, kit, width), tuple(regions))


def _dense(n: int, lanes: Lanes, left: float, scale: float, base: float, row: float, kit: Kit) -> list[Shape]:
    """What starts too often to be told apart: as high as its share of the time."""
    ran = sum(s.end_s - s.start_s for s in lanes.run.stretches if s.task == n) / lanes.until_s
    high = (row - kit.px(16)) * 0.72
    wide, text = lanes.until_s * scale, f"{show(ran, 'share')} of the time"
    return [
        Box(left, base - max(high * ran, 2.0), wide, max(high * ran, 2.0), INKS[n % len(INKS)]),
        kit.words(left + kit.px(6), base - high * 0.7, text, "small", "mute"),
    ]


def _merged(lanes: Lanes, n: int, gap_s: float) -> list[tuple[float, float]]:
    """Stretches of a task, those joined that no eye could tell apart."""
    found: list[tuple[float, float]] = []
    for s in lanes.run.stretches:
        if s.task != n:
            continue
        if found and s.start_s - found[-1][1] <= gap_s:
            found[-1] = (found[-1][0], s.end_s)
        else:
            found.append((s.start_s, s.end_s))
    return found


def _name(name: str, found: TaskResult | None, kit: Kit, left: float, y: float, *, bold: bool) -> list[Shape]:
    period = f"{show(found.task.period_s, 's')}" if found is not None else ""
    ink = "ink" if found is None or found.verdict is not Verdict.BREAKS else "breaks"
    return [
        kit.words(left - kit.px(8), y - kit.px(7), kit.cut(name, left - kit.px(10), "small", bold=bold), "small", ink,
                  bold=bold, anchor="end"),
        kit.figures(left - kit.px(8), y + kit.px(7), period, "small", "mute", anchor="end"),
    ]  # fmt: skip


def _runs(n: int, lanes: Lanes, left: float, scale: float, base: float, row: float, kit: Kit) -> list[Shape]:
    """Each due time as a thin line, each stretch that it runs as a box; a run that ended late is red."""
    task, high = lanes.tasks[n], row - kit.px(16)
    due = task.deadline_s or task.period_s
    own = [(j.released_s, lanes.until_s if j.end_s is None else j.end_s) for j in lanes.run.jobs if j.task == n]
    late = [(released, end) for released, end in own if end > released + due * (1 + 1e-9)]
    shapes: list[Shape] = [
        Line(left + j.released_s * scale, base, left + j.released_s * scale, base - high, "mute", 1.0)
        for j in lanes.run.jobs if j.task == n
    ]  # fmt: skip
    for start, end in _merged(lanes, n, 1.0 / scale):
        ink = "breaks" if any(a <= start and end <= b for a, b in late) else INKS[n % len(INKS)]
        wide = max((end - start) * scale, 1.2)
        shapes.append(Box(left + start * scale, base - high * 0.72, wide, high * 0.72, ink, radius=1.5))
    return shapes


def task_words(found: TaskResult | None) -> str:
    """What is known of a task in a line."""
    if found is None:
        return ""
    task = found.task
    runs = f"runs up to {show(task.most_s, 's')}" if task.most_s is not None else "its run is not known"
    waits = f", waits {show(task.waits_s, 's')}" if task.waits_s else ""
    head = f"{task.name}: every {show(task.period_s, 's')} {runs}{waits}"
    if found.response_s is None:
        return f"{head}; not known yet: {'; '.join(found.missing)}"
    if not math.isfinite(found.response_s):
        return f"{head}; done later and later"
    return f"{head}; done {show(found.response_s, 's')} after it is due at the most, of {show(found.deadline_s, 's')}"


def load_words(result: ProcessorResult) -> str:
    """ "72 % busy" """
    if result.load is None:
        return "not known yet"
    least = "at least " if any(t.task.most_s is None for t in result.tasks) else ""
    return f"{least}{show(result.load, 'share')} busy"


def lanes_words(result: ProcessorResult, room: Room | None, seen_s: float | None) -> str:
    """What the lanes mean: whether all are in time, which is the closest, what would still fit."""
    known = [t for t in result.tasks if t.response_s is not None]
    if not known:
        return f"Not known yet: {'; '.join(result.missing)}." if result.missing else ""
    late = [t.task.name for t in result.tasks if t.verdict is Verdict.BREAKS]
    if late:
        return f"{', '.join(late)} {'is' if len(late) == 1 else 'are'} late."
    nearest = max(known, key=lambda t: (t.response_s or 0.0) / t.deadline_s)
    ends = nearest.response_s or 0.0
    first = "Every task meets its deadline." if not result.missing else f"Not known yet: {'; '.join(result.missing)}."
    closest = f" “{nearest.task.name}” is the closest: it ends {show(ends, 's')} after it is due at the most"
    here = f" (in this picture {show(seen_s, 's')})" if seen_s and seen_s < ends * (1 - 1e-6) else ""
    fits = f", {show(nearest.deadline_s - ends, 's')} early{here}."
    if room is None:
        return f"{first}{closest}{fits}"
    if room.run_s < 1e-6:
        return f"{first}{closest}{fits} No task every {show(room.period_s, 's')} would fit besides."
    below = f", below “{room.below}”" if room.below else ", above all"
    more = f" One more of {show(round_down(room.run_s), 's')} every {show(room.period_s, 's')} would still fit{below}."
    return f"{first}{closest}{fits}{more}"


def seen_words(result: ProcessorResult, seen: dict[str, float]) -> str:
    """ "Seen at worst: Control 5.1 ms of 6.4 ms worked out, …" """
    told = [f"{t.task.name} {show(seen[t.task.id], 's')} of {show(t.response_s, 's')}" for t in result.tasks
            if t.response_s is not None and math.isfinite(t.response_s) and seen.get(t.task.id)]  # fmt: skip
    return f"Seen at worst, of what is worked out: {', '.join(told)}." if told else "Nothing ran."
