"""Values over conditions as boxes against the band that is wanted; over one setting, the best of a parabola."""

import math
from collections.abc import Callable, Sequence

from msgspec import Struct

from wired_union.physics.runs_of_trials import BoxFigures, box_figures
from wired_union.picture.axis import ticks, with_room
from wired_union.picture.shapes import Box, Kit, Line, Picture, Poly, Ring, Shape, hint_picture
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects.trials.shown import is_good
from wired_union.units import show

ROW_H, NAME_W, AXIS_H = 58.0, 110.0, 26.0


class Group(Struct, frozen=True):
    """Values under one condition: their box, and how many are inside the band."""

    name: str
    values: tuple[float, ...]
    inside: int
    box: BoxFigures


def groups_of(trial: Trial) -> tuple[Group, ...]:
    """Values by the condition they were measured under, in the order in which it first came."""
    found: dict[str, list[Run]] = {}
    for run in trial.runs:
        if run.value is not None and not run.struck:
            found.setdefault(run.condition, []).append(run)
    return tuple(
        Group(name or "as it is", tuple(v for r in runs if (v := r.value) is not None),
              sum(is_good(trial, r) for r in runs), box_figures([v for r in runs if (v := r.value) is not None]))
        for name, runs in found.items()
    )  # fmt: skip


def boxes_picture(trial: Trial, kit: Kit, width: float) -> Picture:
    """A box for each condition, the band behind them, how many are inside."""
    groups = groups_of(trial)
    if not groups:
        return hint_picture("No value yet.", kit, width)
    ends = [v for g in groups for v in g.values] + [x for x in (trial.band_low, trial.band_high) if x is not None]
    low, high = with_room(min(ends), max(ends), 0.06)
    left, right = kit.px(NAME_W), width - kit.px(16)

    def at(value: float) -> float:
        return left + (value - low) / (high - low) * (right - left)

    bottom = len(groups) * kit.px(ROW_H)
    shapes: list[Shape] = []
    if trial.band_low is not None or trial.band_high is not None:
        begin = at(trial.band_low) if trial.band_low is not None else left
        end = at(trial.band_high) if trial.band_high is not None else right
        shapes.append(Box(begin, 0, max(end - begin, 1.0), bottom, "soft"))
    for value in ticks(low, high, 5):
        shapes.append(Line(at(value), 0, at(value), bottom, "line", 1.0))
        shapes.append(kit.figures(at(value), bottom + kit.px(12), show(value, trial.unit), "tiny", "mute",
                                  anchor="middle"))  # fmt: skip
    for n, group in enumerate(groups):
        shapes += _box(group, at, kit, (n + 0.5) * kit.px(ROW_H), trial)
    return Picture(width, bottom + kit.px(AXIS_H), tuple(shapes))


def _box(group: Group, at: Callable[[float], float], kit: Kit, y: float, trial: Trial) -> list[Shape]:
    b, half = group.box, kit.px(12)
    name = kit.cut(group.name, kit.px(NAME_W - 12), "small", bold=True)
    inside = f"{group.inside} of {len(group.values)} inside"
    has_band = trial.band_low is not None or trial.band_high is not None
    told, at_x = inside if has_band else f"{len(group.values)} runs", kit.px(NAME_W - 12)
    shapes: list[Shape] = [
        kit.words(at_x, y - kit.px(7), name, "small", bold=True, anchor="end"),
        kit.words(at_x, y + kit.px(9), told, "tiny", "mute", anchor="end"),
        Line(at(b.whisker_low), y, at(b.whisker_high), y, "slate", 1.4),
        Box(at(b.lower_quartile), y - half, max(at(b.upper_quartile) - at(b.lower_quartile), 1.0), 2 * half, "card",
            "slate", 2.0, 1.6),
        Line(at(b.median), y - half, at(b.median), y + half, "slate", 3.0),
    ]  # fmt: skip
    return shapes + [Ring(at(v), y, kit.px(4), "slate", 1.4, ()) for v in b.outliers]


class Sweep(Struct, frozen=True):
    """A setting with the rate or mean at each of its values, and the best of a parabola through them."""

    points: tuple[tuple[float, float, float], ...]
    """Each setting with its rate or mean, and the standard error of that."""
    curve: tuple[float, float, float] | None = None
    """Of the parabola a + b·x + c·x²."""
    best: float | None = None
    best_low: float | None = None
    best_high: float | None = None


def sweep_of(trial: Trial) -> Sweep:
    """Runs by their setting. A parabola by least squares over all runs; where it is best only if it bends that way, and
    its range by the runs' own spread (delta method).
    """
    import numpy as np

    rates = trial.proves != "mean"
    runs = [r for r in trial.runs if r.setting is not None and not r.struck and (rates or r.value is not None)]
    by: dict[float, list[float]] = {}
    for r in runs:
        assert r.setting is not None
        by.setdefault(r.setting, []).append(float(is_good(trial, r)) if rates else r.value or 0.0)
    points = tuple((x, sum(v) / len(v), _standard_error(v)) for x, v in sorted(by.items()))
    if len(points) < 3 or len(runs) < 4:
        return Sweep(points)
    x = np.array([s for s, v in by.items() for _ in v])
    y = np.array([one for v in by.values() for one in v])
    middle, scale = float(x.mean()), float(np.ptp(x)) / 2
    t = (x - middle) / scale
    design = np.vstack([np.ones_like(t), t, t * t]).T
    coefficients, _, rank, _ = np.linalg.lstsq(design, y, rcond=None)
    if rank < 3:
        return Sweep(points)
    a, b, c = (float(v) for v in coefficients)
    curve = (a - b * middle / scale + c * (middle / scale) ** 2, b / scale - 2 * c * middle / scale**2, c / scale**2)
    if not c < 0:
        return Sweep(points, curve)
    top = -b / (2 * c)
    free = len(y) - 3
    spread = float(((y - design @ coefficients) ** 2).sum()) / free if free > 0 else 0.0
    slope = np.array([0.0, -1 / (2 * c), b / (2 * c * c)])
    inverse = np.linalg.pinv(design)
    error = 2 * float(np.sqrt(spread) * np.linalg.norm(slope @ inverse))
    if not -1 <= top <= 1 or not math.isfinite(error):
        return Sweep(points, curve)
    ends = [middle + scale * v for v in (top, top - error, top + error)]
    return Sweep(points, curve, *ends)


def _standard_error(values: Sequence[float]) -> float:
    """Of a mean; 0 where one run says nothing of it."""
    if len(values) < 2:
        return 0.0
    mean = math.fsum(values) / len(values)
    return math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (len(values) - 1) / len(values))


def sweep_words(trial: Trial, sweep: Sweep) -> str:
    """ "best 33, between 29 and 37" """
    if len(sweep.points) < 3:
        return "Three settings are needed for a curve."
    if sweep.best is None or sweep.best_low is None or sweep.best_high is None:
        return "No best between the settings that were tried: go further."
    name = trial.setting or "setting"
    ends = sorted((sweep.best_low, sweep.best_high))
    return f"Best {name} {show(sweep.best, '')}, between {show(ends[0], '')} and {show(ends[1], '')}."


def sweep_picture(trial: Trial, kit: Kit, width: float) -> Picture:
    """Points, the curve through them, and where it is best."""
    sweep = sweep_of(trial)
    if not sweep.points:
        return hint_picture("No run with a setting yet.", kit, width)
    high, left, right = kit.px(150), kit.px(52), width - kit.px(20)
    xs, ys = [p[0] for p in sweep.points], [p[1] + k * p[2] for p in sweep.points for k in (-2, 2)]
    (x0, x1), (y0, y1) = with_room(min(xs), max(xs), 0.08), with_room(min(ys), max(ys), 0.1)

    def place(x: float, y: float) -> tuple[float, float]:
        return left + (x - x0) / (x1 - x0) * (right - left), high - (min(max(y, y0), y1) - y0) / (y1 - y0) * high

    shapes: list[Shape] = [Line(left, high, right, high, "mute", 1.2)]
    unit = "share" if trial.proves != "mean" else trial.unit
    for value in ticks(x0, x1, 6):
        shapes.append(kit.figures(place(value, y0)[0], high + kit.px(12), show(value, ""), "tiny", "mute",
                                  anchor="middle"))  # fmt: skip
    for value in ticks(y0, y1, 3):
        shapes.append(
            kit.figures(left - kit.px(6), place(x0, value)[1], show(value, unit), "tiny", "mute", anchor="end")
        )
    shapes += _curve(sweep, place, (x0, x1), (y0, y1))
    if sweep.best is not None:
        x, _ = place(sweep.best, y0)
        shapes.append(Line(x, 0, x, high, "copper", 1.4, (4.0, 3.0)))
    for x_value, y_value, error in sweep.points:
        (x, low), (_, high_end) = place(x_value, y_value - 2 * error), place(x_value, y_value + 2 * error)
        shapes.append(Line(x, low, x, high_end, "mute", 1.4))
        shapes.append(Ring(*place(x_value, y_value), kit.px(5), "ink", 1.8, (), "card"))
    return Picture(width, high + kit.px(AXIS_H), tuple(shapes))


def _curve(
    sweep: Sweep, place: Callable[[float, float], tuple[float, float]], across: tuple[float, float],
    up: tuple[float, float],
) -> Sequence[Shape]:  # fmt: skip
    """The parabola where it is in sight."""
    if sweep.curve is None:
        return ()
    a, b, c = sweep.curve
    xs = [across[0] + (across[1] - across[0]) * n / 120 for n in range(121)]
    points = [(x, a + b * x + c * x * x) for x in xs]
    return (Poly(tuple(place(x, y) for x, y in points if up[0] <= y <= up[1]), "moss", width=2.0),)
