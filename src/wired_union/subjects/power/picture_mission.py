"""The mission as a chart: which mode when, current and voltage of the pack, and where it ends."""

from collections.abc import Iterator, Sequence

from msgspec import Struct

from wired_union.picture.axis import ticks, time_ticks
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Region, Shape
from wired_union.project.model import Concept
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.trace import Trace
from wired_union.units import show

MODE_INKS = ("copper", "plum", "slate", "unknown", "moss", "copper_soft", "plum_soft", "slate_soft")
MOST_BLOCKS = 90
GRIP = 4.0
ROUND_OFF = 1e-6


class PhaseMark(Struct, frozen=True):
    """A phase of the mission on the bar, from 0."""

    index: int


class EdgeMark(Struct, frozen=True):
    """The end of a phase, from 0, that can be dragged."""

    index: int


class Extras(Struct, frozen=True):
    """What is to be seen besides: a stretch that is shaded, in seconds, and another concept's run, with its name."""

    stretch: tuple[float, float] | None = None
    name: str = ""
    beside: Trace | None = None


NO_EXTRAS = Extras()


class MissionChart(Struct, frozen=True):
    """A laid-out chart: the picture, and how pixels map to seconds on the mode bar and on the curves."""

    picture: Picture
    left: float
    bar_s_per_px: float
    curve_s_per_px: float
    trace: Trace

    def seconds(self, x: float) -> float:
        """When a place on the curves is, never before the begin."""
        return max((x - self.left) * self.curve_s_per_px, 0.0)

    def reading(self, x: float) -> str:
        """What the curves say at a place, in words."""
        time = (x - self.left) * self.curve_s_per_px
        end = self.trace.times_s[-1] if self.trace.times_s else 0.0
        if end and time > end * (1 + ROUND_OFF):
            return f"{show(time, 's')}: the pack ended at {show(end, 's')}"
        found = self.trace.at(min(time, end))
        if found is None:
            return ""
        current, voltage, charge = found
        return f"{show(time, 's')}: {show(current, 'A')}, {show(voltage, 'V')}, {show(charge, fraction=True)} left"


def mode_ink(concept: Concept, mode_id: str) -> str:
    """The colour a mode wears on the chart, by its order."""
    return MODE_INKS[[m.id for m in concept.modes].index(mode_id) % len(MODE_INKS)]


def mission_chart(
    concept: Concept, pack: PackResult, trace: Trace, kit: Kit, width: float, height: float,
    extras: Extras = NO_EXTRAS,
) -> MissionChart:  # fmt: skip
    """Lay out the mission of one pack, with what is to be seen besides.

    Regions: "edge:i" after phase i (first cycle), "phase:i", and "curve".
    """
    left, right = kit.px(54), width - kit.px(10)
    top = kit.px(20)
    run = pack.discharge
    assert run is not None
    mission = concept.mission
    whole = max(mission.duration_s, min(run.runtime_s, mission.duration_s * 1.5))
    one_cycle = mission.repeats * len(mission.phases) > MOST_BLOCKS
    bar_span = mission.cycle_s if one_cycle else whole
    bar_scale, curve_scale = bar_span / (right - left), whole / (right - left)
    shapes: list[Shape] = []
    regions: list[Region] = []
    cycles = 1 if one_cycle else -(-whole // mission.cycle_s)
    mode_bar(shapes, regions, concept, kit, left, top, bar_scale, bar_span, int(cycles))
    if one_cycle:
        note = f"one cycle of {show(mission.cycle_s, 's')}, {mission.repeats} times"
        shapes.append(kit.figures(right, kit.px(8), note, "small", "mute", anchor="end"))
    y0, y1 = top + kit.px(32), height - kit.px(24)
    middle = y0 + (y1 - y0) * 0.54
    if extras.stretch is not None:
        shapes += _shade([min(max(left + t / curve_scale, left), right) for t in extras.stretch], y0, y1)
    _curves(
        shapes, pack, trace, kit, left, right, (y0, middle - kit.px(8)), (middle + kit.px(8), y1), curve_scale, extras
    )
    shapes += _time_axis(kit, left, y1, whole, curve_scale)
    if run.runtime_s <= whole:
        _end_line(
            shapes, kit, left + run.runtime_s / curve_scale, y0, y1, run.runtime_s, run.ended_by, mission.duration_s
        )
    regions.append(Region("curve", left, y0, right - left, y1 - y0, "current and voltage of the pack", "brush"))
    return MissionChart(Picture(width, height, tuple(shapes), tuple(regions)), left, bar_scale, curve_scale, trace)


def mode_bar(
    shapes: list[Shape], regions: list[Region], concept: Concept, kit: Kit, left: float, top: float, scale: float,
    span: float, cycles: int | None = None,
) -> None:  # fmt: skip
    """Which mode is on when, as blocks; where no cycles are said, all that fit, or none where they are too many."""
    if cycles is None:
        cycles = int(-(-span // concept.mission.cycle_s)) if concept.mission.cycle_s > 0 else 0
        if cycles * len(concept.mission.phases) > MOST_BLOCKS:
            return
    names = {m.id: m.name for m in concept.modes}
    at, height = 0.0, kit.px(18)
    for cycle in range(cycles):
        for i, phase in enumerate(concept.mission.phases):
            end = min(at + phase.duration_s, span)
            if at >= span:
                return
            x, w = left + at / scale, (end - at) / scale
            planned = cycle < concept.mission.repeats
            ink = mode_ink(concept, phase.mode)
            shapes.append(Box(x, top, max(w - 1, 0.5), height, ink if planned else "", "" if planned else ink, 2))
            if w > kit.width(names[phase.mode], "small", "figures", True) + 10:
                on = "card" if planned else "mute"
                shapes.append(kit.figures(x + 6, top + height / 2, names[phase.mode], "small", on, bold=True))
            if cycle == 0:
                said = f"{names[phase.mode]}, {show(phase.duration_s, 's')}"
                regions.append(Region(f"phase:{i}", x, top, w, height, said, of=PhaseMark(i)))
                regions.append(
                    Region(
                        f"edge:{i}", x + w - GRIP, top - 3, 2 * GRIP, height + 6, f"end of {said}", "edge", EdgeMark(i)
                    )
                )
            at += phase.duration_s


def _curves(
    shapes: list[Shape], pack: PackResult, trace: Trace, kit: Kit, left: float, right: float,
    upper: tuple[float, float], lower: tuple[float, float], scale: float, extras: Extras,
) -> None:  # fmt: skip
    beside = extras.beside
    most = max([*trace.current_a, *(beside.current_a if beside is not None else ())], default=1.0) or 1.0
    marks = ticks(0, most * 1.1, 3)
    top = max(marks[-1], most * 1.28)
    for mark in marks:
        y = _height(mark, 0, top, upper)
        shapes.append(Line(left, y, right, y, "line"))
        shapes.append(kit.figures(left - 6, y, show(mark, "A"), "small", "mute", anchor="end"))
    cutoff = pack.figures.cutoff_v
    both = (*trace.voltage_v, *(beside.voltage_v if beside is not None else ()))
    volts = [v for v in both if v == v] or [cutoff]
    low, high = min(*volts, cutoff) * 0.985, max(*volts, cutoff) * 1.01
    for mark in ticks(low, high, 3):
        y = _height(mark, low, high, lower)
        if abs(y - _height(cutoff, low, high, lower)) > kit.px(11):
            shapes.append(Line(left, y, right, y, "line"))
            shapes.append(kit.figures(left - 6, y, show(mark, "V"), "small", "mute", anchor="end"))
    y = _height(cutoff, low, high, lower)
    shapes.append(Line(left, y, right, y, "breaks", 1.2, (5.0, 4.0)))
    shapes.append(kit.figures(left - 6, y, show(cutoff, "V"), "small", "breaks_text", bold=True, anchor="end"))
    shapes.append(kit.figures(right, y - kit.px(8), "cut-off", "small", "breaks_text", anchor="end"))
    spans = (upper, (0.0, top)), (lower, (low, high))
    if beside is not None:
        shapes += _lines(beside, left, right, scale, spans, (5.0, 3.0))
    shapes += _lines(trace, left, right, scale, spans)
    said, y = "current from the pack", upper[0] + kit.px(3)
    shapes.append(kit.figures(left + 4, y, said, "small", "copper", bold=True))
    if beside is not None:
        after = left + kit.px(16) + kit.width(said, "small", "figures", True)
        shapes.append(kit.figures(after, y, f"dashed: {extras.name}", "small", "mute"))
    under = _height(cutoff, low, high, lower) - kit.px(9)
    shapes.append(kit.figures(left + 4, under, "voltage of the pack", "small", "ink", bold=True))


def _time_axis(kit: Kit, left: float, y: float, whole_s: float, scale: float) -> Iterator[Shape]:
    """Marks under the curves."""
    for t in time_ticks(whole_s, 8):
        x = left + t / scale
        yield Line(x, y, x, y + 4, "line")
        yield kit.figures(x, y + kit.px(13), show(t, "s") if t else "0", "small", "mute", anchor="middle")


def _shade(ends: Sequence[float], top: float, foot: float) -> Iterator[Shape]:
    """A stretch that is asked of, between its two ends."""
    yield Box(ends[0], top, max(ends[1] - ends[0], 1.0), foot - top, "soft")
    yield from (Line(x, top, x, foot, "mute", 1.2) for x in ends)


Span = tuple[tuple[float, float], tuple[float, float]]
"""Where a curve stands, from top to foot in pixels, and what its foot and its head are."""


def _lines(
    trace: Trace, left: float, right: float, scale: float, spans: tuple[Span, Span], dash: tuple[float, ...] = ()
) -> Iterator[Shape]:  # fmt: skip
    """Current and voltage of one run."""
    each = zip((trace.current_a, trace.voltage_v), ("copper", "ink"), spans, strict=True)
    for values, ink, (place, (bottom, head)) in each:
        along = _until(trace, values, (right - left) * scale)
        points = thinned([(left + t / scale, _height(v, bottom, head, place)) for t, v in along])
        if len(points) > 1:
            yield Poly(tuple(points), ink, width=1.0 if dash else 1.6, dash=dash)


def _until(trace: Trace, values: Sequence[float], end_s: float) -> Iterator[tuple[float, float]]:
    """Samples up to a time, and the value at that time where the next sample lies beyond it."""
    before: tuple[float, float] | None = None
    for time_s, value in zip(trace.times_s, values, strict=True):
        if value != value:
            continue
        if time_s > end_s:
            if before is not None:
                share = (end_s - before[0]) / (time_s - before[0])
                yield end_s, before[1] + share * (value - before[1])
            return
        before = (time_s, value)
        yield before


def _height(value: float, low: float, high: float, span: tuple[float, float]) -> float:
    return span[1] - (value - low) / ((high - low) or 1.0) * (span[1] - span[0])


def thinned(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """At most the first, lowest, highest and last point of each pixel column."""
    kept: list[tuple[float, float]] = []
    column: list[tuple[float, float]] = []
    for point in [*points, (float("inf"), 0.0)]:
        if column and int(min(point[0], 1e9)) != int(column[0][0]):
            picks = {0, len(column) - 1}
            picks.add(min(range(len(column)), key=lambda i: column[i][1]))
            picks.add(max(range(len(column)), key=lambda i: column[i][1]))
            kept += [column[i] for i in sorted(picks)]
            column = []
        column.append(point)
    return kept


def _end_line(
    shapes: list[Shape], kit: Kit, x: float, y0: float, y1: float, runtime_s: float, why: str, planned_s: float
) -> None:
    short = runtime_s < planned_s
    ink, text = ("breaks", "breaks_text") if short else ("holds", "holds_text")
    shapes.append(Line(x, y0 - kit.px(8), x, y1, ink, 1.8))
    said = f"{why} at {show(runtime_s, 's')}"
    width, y = kit.width(said, "base", "figures", True), y0 + kit.px(5)
    shapes.append(Box(x - width - 10, y - kit.px(9), width + 9, kit.px(18), "card"))
    shapes.append(kit.figures(x - 6, y, said, "base", text, bold=True, anchor="end"))
