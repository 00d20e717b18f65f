"""What else runs say: effects of two-level settings, what is taken for what, how far a link reaches, wear, how well
values fit their band.
"""

import math
from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.runs_of_trials import box_figures
from wired_union.physics.settings import (
    FactorialEffects,
    LinkReach,
    ProcessCapability,
    WearRate,
    factorial_effects,
    link_reach,
    process_capability,
)
from wired_union.physics.statistics import SuccessInterval, success_interval
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects.trials.shown import Row, is_good, is_measured, says_packets
from wired_union.units import show

WEAK_DB = 5.0
"""Signal-to-noise below which a slow chirp link gets unreliable near obstructions: common practice."""
RELIABLE = 0.95
"""Packets that must arrive where no wish says it: common practice."""
CAPABLE = 1.33
"""Cpk from which on a spread is taken to fit its band: common practice."""


class Effect(Struct, frozen=True):
    """What a setting does, or two together: from low to high, and the chance that luck does as much."""

    name: str
    size: float
    p_value: float


class Effects(Struct, frozen=True):
    """All of them; with what is missing where they cannot be told apart."""

    effects: tuple[Effect, ...] = ()
    error: float = 0.0
    degrees: int = 0
    missing: str = ""


def effects_of(trial: Trial) -> Effects:
    """Effects of the settings of a trial, of its runs that count and say every level; a good run is 1, a bad one 0."""
    count = len(trial.factors)
    runs = [r for r in trial.runs if not r.struck and len(r.levels) == count and _response(trial, r) is not None]
    if not runs:
        return Effects(missing="No run says the level of each setting yet.")
    levels = [1.0 if high else -1.0 for r in runs for high in r.levels]
    values = [v for r in runs if (v := _response(trial, r)) is not None]
    try:
        found: FactorialEffects = factorial_effects(levels, values)
    except ValueError:
        left = [mix for mix in range(2**count) if not any(_mix(r) == mix for r in runs)]
        lacks = f"{len(left)} of {2**count} mixes are not run yet" if left else "run some of the mixes twice"
        return Effects(missing=f"Not told apart yet: {lacks}.")
    names = [f.name for f in trial.factors]
    names += [f"{a} with {b}" for n, a in enumerate(names) for b in names[n + 1 : count]]
    each = zip(names, found.effects, found.p_values, strict=True)
    return Effects(tuple(Effect(*e) for e in each), found.standard_error, found.degrees)


def _response(trial: Trial, run: Run) -> float | None:
    if is_measured(trial):
        return run.value
    if trial.counts == "packets":
        return (run.received or 0) / run.sent if says_packets(run) and run.sent else None
    return float(is_good(trial, run))


def _mix(run: Run) -> int:
    return sum(1 << n for n, high in enumerate(run.levels) if high)


class Seen(Struct, frozen=True):
    """A table of what was there and what it was taken for, and of each how often it was seen for what it is."""

    names: tuple[str, ...]
    counts: tuple[tuple[int, ...], ...]
    """Rows what was there, columns what it was taken for."""
    right: tuple[SuccessInterval | None, ...]


def seen_of(row: Row) -> Seen:
    """The table of one version, in the order in which things first came."""
    runs = [r for r in row.runs if r.was.strip() and r.seen.strip()]
    names: dict[str, str] = {}
    for word in (w for r in runs for w in (r.was, r.seen)):
        names.setdefault(word.strip().lower(), word.strip())
    keys = list(names)
    counts = [[0] * len(keys) for _ in keys]
    for r in runs:
        counts[keys.index(r.was.strip().lower())][keys.index(r.seen.strip().lower())] += 1
    right = tuple(
        success_interval(c[n], sum(c), row.trial.confidence) if sum(c) else None for n, c in enumerate(counts)
    )
    return Seen(tuple(names.values()), tuple(map(tuple, counts)), right)


def seen_words(row: Row) -> str:
    """ "Shell is taken for stone most: 4 of 20." """
    t = seen_of(row)
    wrong = [(c, n, m) for n, line in enumerate(t.counts) for m, c in enumerate(line) if n != m and c]
    if not wrong:
        return "Nothing was taken for anything else yet."
    most, n, m = max(wrong)
    return f"{t.names[n]} is most often taken for {t.names[m]}: {most} of {sum(t.counts[n])}."


class Reach(Struct, frozen=True):
    """A link under one condition: counts by distance, how far it is reliable, where its signal gets weak."""

    condition: str
    counts: tuple[tuple[float, int, int], ...]
    """Distance in metres, received, sent."""
    found: LinkReach | None
    weak_m: float | None = None
    """Where the signal comes to 5 dB over the noise, by a line over the logarithm of distance."""


def reaches_of(row: Row, wanted: float) -> tuple[Reach, ...]:
    """Of each condition, in the order in which it first came, from runs that say their distance."""
    groups: dict[str, list[Run]] = {}
    for run in row.runs:
        if run.setting is not None and run.setting > 0 and says_packets(run):
            groups.setdefault(run.condition, []).append(run)
    return tuple(_reach(name, runs, wanted) for name, runs in groups.items())


def _reach(condition: str, runs: Sequence[Run], wanted: float) -> Reach:
    by: dict[float, list[int]] = {}
    for r in runs:
        known = by.setdefault(r.setting or 0.0, [0, 0])
        known[0], known[1] = known[0] + (r.received or 0), known[1] + (r.sent or 0)
    counts = tuple((d, got, sent) for d, (got, sent) in sorted(by.items()))
    try:
        found = link_reach([c[0] for c in counts], [c[1] for c in counts], [c[2] for c in counts],
                           min(max(wanted, 0.5), 0.999))  # fmt: skip
    except ValueError:
        found = None
    return Reach(condition or "as it is", counts, found, _weak(runs))


def _weak(runs: Sequence[Run]) -> float | None:
    """Where a line through signal-to-noise over ln d comes to what is weak; None where it does not fall."""
    points = [(math.log(r.setting), r.value) for r in runs if r.setting and r.value is not None]
    if len({x for x, _ in points}) < 2:
        return None
    mean_x, mean_y = (math.fsum(p[k] for p in points) / len(points) for k in (0, 1))
    slope = math.fsum((x - mean_x) * (y - mean_y) for x, y in points) / math.fsum((x - mean_x) ** 2 for x, _ in points)
    if slope >= 0:
        return None
    at = mean_x + (WEAK_DB - mean_y) / slope
    return math.exp(at) if at < 25 else None


def reach_words(reach: Reach, wanted: float) -> str:
    """ "behind metal: 95 % arrive up to 210 m, 160 to 270 m can be; 5 dB over the noise at 240 m" """
    far = max((c[0] for c in reach.counts), default=0.0)
    if reach.found is None:
        said = "packets do not get fewer with distance yet: go further, until some are lost"
    elif reach.found.reach_m > far:
        said = f"reliable as far as it was tried, {show(far, 'm')}"
    else:
        f = reach.found
        said = (f"{show(wanted, 'share')} arrive up to {show(f.reach_m, 'm')},"
                f" {show(f.lower_m, 'm')} to {show(f.upper_m, 'm')} can be")  # fmt: skip
    weak = f"; {show(WEAK_DB, 'dB')} over the noise at {show(reach.weak_m, 'm')}" if reach.weak_m is not None else ""
    return f"{reach.condition}: {said}{weak}."


def wear_of(row: Row) -> WearRate | None:
    """By how much values change from run to run; None below eight, or where nothing is measured."""
    return row.wear


def wear_words(row: Row, wear: WearRate) -> str:
    """ "−0.4 mm a run, −0.6 to −0.2 mm can be: below 150 mm in about 37 runs." """
    trial, unit = row.trial, row.trial.unit
    said = f"{show(wear.rate, unit)} a run, {show(wear.lower, unit)} to {show(wear.upper, unit)} can be"
    end = trial.band_low if wear.rate < 0 else trial.band_high
    value = math.fsum(row.values[-5:]) / len(row.values[-5:])
    if end is None or (value - end) * wear.rate >= 0:
        return f"{said}."
    left = (end - value) / wear.rate
    side = "below" if wear.rate < 0 else "above"
    return f"{said}: {side} {show(end, unit)} in about {max(round(left), 1)} runs, should it go on so."


def capability_of(row: Row) -> ProcessCapability | None:
    """How well values fit into a band with two ends; None without one, or where nothing varies."""
    low, high, mean = row.trial.band_low, row.trial.band_high, row.mean
    if low is None or high is None or not low < high or mean is None or not mean.sd > 0:
        return None
    return process_capability(mean.mean, mean.sd, len(row.values), low, high, row.trial.confidence)


def accuracy_words(row: Row) -> str:
    """ "7 mm below the middle of the band; Cpk 0.8 (0.6 or more): 2.1 % of such a spread falls outside." """
    c = capability_of(row)
    if c is None:
        return ""
    side = "above" if c.bias > 0 else "below"
    few = " With fewer than 25 runs that is rough." if len(row.values) < 25 else ""
    return (f"{show(abs(c.bias), row.trial.unit)} {side} the middle of the band. Cpk {c.cpk:.2f}, {c.cpk_lower:.2f} or"
            f" more ({CAPABLE} is usual): {show(c.outside, 'share')} of such a spread falls outside.{few}")  # fmt: skip


def outliers_of(trial: Trial) -> frozenset[int]:
    """Numbers from 1 of runs whose value lies beyond the whiskers of its version and condition; they are kept."""
    groups: dict[tuple[str, str, float | None], list[tuple[int, float]]] = {}
    for n, r in enumerate(trial.runs, 1):
        if r.value is not None and not r.struck:
            groups.setdefault((r.version, r.condition, r.setting), []).append((n, r.value))
    found: set[int] = set()
    for some in groups.values():
        if len(some) >= 5:
            box = box_figures([v for _, v in some])
            found |= {n for n, v in some if not box.whisker_low <= v <= box.whisker_high}
    return frozenset(found)
