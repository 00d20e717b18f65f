"""Thousands of missions side by side: every one with its own currents, losses, capacity and resistance."""

from collections.abc import Iterator, Mapping

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.discharge import stretched_s
from wired_union.project.model import Knowledge
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.packs import PackFigures, PackResult, from_cells, loaded
from wired_union.subjects.power.spread.missions import SEED, Missions, normal_draws, run_down
from wired_union.subjects.power.spread.unknowns import NOTHING, Unknown, What, unknowns_of

CHUNK, CELLS, MOST_LEGS, ENDLESS_H = 1000, 20, 400, 1e12
"""Cells of the grid of charge hold every knot of the chemistries' curves."""


class Drawn(Struct, frozen=True, eq=False):
    """Missions so far: the unknowns, what was drawn of each (count, unknowns; standard normal), and the runtimes."""

    unknowns: tuple[Unknown, ...]
    normal: Array
    runtime_s: Array
    peak_a: Array
    """Highest current from any pack of cells at the worst instant of each mission; endless where it cannot be given."""
    low_v: Array
    """Lowest voltage of any pack of cells then; 0 where it cannot be given."""
    wanted: int
    """How many there will be."""


def drawn(
    result: PowerResult, knowledge: Mapping[str, Knowledge], count: int, seed: int = SEED,
    read: Mapping[tuple[str, What], float] = NOTHING,
) -> Iterator[Drawn]:  # fmt: skip
    """Missions in lots, each time with all so far; the last has `count`. Nothing where no pack is run down."""
    packs = run_down(result)
    if not packs:
        return
    unknowns = unknowns_of(result, knowledge, read)
    normal = normal_draws(count, unknowns, seed)
    lots: list[tuple[Array, Array, Array]] = []
    for start in range(0, count, CHUNK):
        some = Missions(result, unknowns, normal[start : start + CHUNK])
        runtimes = np.min([_runtimes(some, p) for p in packs], axis=0)
        peaks, lows = zip(*(_worst(some, p) for p in packs), strict=True)
        lots.append((runtimes, np.max(peaks, axis=0), np.min(lows, axis=0)))
        runtime, peak, low = (np.concatenate(rows) for rows in zip(*lots, strict=True))
        yield Drawn(unknowns, normal[: len(runtime)], runtime, peak, low, count)


def _runtimes(some: Missions, pack: PackResult) -> Array:
    """Runtime of each mission on one pack, in seconds; endless where nothing draws."""
    result, figures = some.result, pack.figures
    count, modes = some.count, result.modes
    draws = some.draws(result.currents.average)
    charges = np.linspace(1.0, 0.0, CELLS + 1)
    open_v = np.interp(charges, np.linspace(0, 1, len(figures.open_circuit_v)), figures.open_circuit_v[::-1])
    n = some.net.index[pack.node.item.id]
    wide, ohms = np.broadcast_to(open_v, (count * modes, CELLS + 1)), some.ohms(figures, charges)
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        if figures.converter is None:
            volts, amperes = loaded(some.net, n, ohms, wide, draws)
        else:
            volts, amperes, _ = from_cells(some.net, n, [figures] * count, modes, ohms, wide, draws)
    rate = figures.rate_per_h(amperes, np.repeat(some.capacity_ah(figures), modes)[:, None])
    volts, rate = np.array(volts).reshape(count, modes, -1), rate.reshape(count, modes, -1)
    if figures.stand_in is not None:
        rests = np.array([m.plugged_in for m in result.concept.modes])
        rate[:, rests], volts[:, rests] = 0.0, open_v
    plain = _run(result, rate, _ends(volts - _floor(figures, charges), 0.0, result.energy_reserve))
    used = 1 - (pack.discharge.charge if pack.discharge is not None else 0.0)
    return np.array([stretched_s(t, used, figures.net_lost_per_h) for t in plain.tolist()])


def _worst(some: Missions, pack: PackResult) -> tuple[Array, Array]:
    """Peak and lowest voltage of one pack in each mission, at its reserve; of a power bank nothing is said."""
    result, figures = some.result, pack.figures
    count, modes = some.count, result.modes
    if figures.converter is not None:
        return np.zeros(count), np.full(count, np.inf)
    at = np.array([result.energy_reserve])
    open_v = np.full((count * modes, 1), figures.open_circuit_at(result.energy_reserve))
    draws = some.draws(result.currents.starting)
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        n = some.net.index[pack.node.item.id]
        volts, amperes = loaded(some.net, n, some.ohms(figures, at), open_v, draws)
    rests = np.array([m.plugged_in and figures.stand_in is not None for m in result.concept.modes])
    peak = np.where(rests, 0.0, np.nan_to_num(amperes.reshape(count, modes), nan=np.inf))
    low = np.where(rests, open_v[0, 0], np.nan_to_num(volts.reshape(count, modes), nan=0.0))
    return peak.max(axis=1), low.min(axis=1)


def _floor(figures: PackFigures, charges: Array) -> float | Array:
    """The cut-off at each place of the coarser grid; between two places the higher."""
    floor = figures.floor_v
    if not isinstance(floor, np.ndarray):
        return floor
    fine = np.linspace(1.0, 0.0, len(floor))
    wide = (fine[0] - fine[1]) / 2
    return np.array([floor[np.abs(fine - c) <= wide + 1e-12].max() for c in charges])


def _ends(volts: Array, cutoff_v: float, reserve: float) -> Array:
    """Place on the grid at which each mode must stop, shape (missions, modes)."""
    under = ~(volts >= cutoff_v)
    first = under.argmax(axis=2)
    floor = (1.0 - reserve) * CELLS
    low = np.take_along_axis(volts, first[..., None], axis=2)[..., 0]
    above = np.take_along_axis(volts, np.maximum(first - 1, 0)[..., None], axis=2)[..., 0]
    with np.errstate(invalid="ignore", divide="ignore"):
        part = np.where(np.isnan(low), 0.0, (above - cutoff_v) / (above - low))
    place = np.where(first > 0, first - 1 + part, 0.0)
    return np.asarray(np.where(under.any(axis=2), np.minimum(place, floor), floor))


def _run(result: PowerResult, rate: Array, ends: Array) -> Array:
    """Phase by phase until every mission has ended; on the mean rate where there are too many phases for that."""
    phases = [(result.mode_index[p.mode], p.duration_s / 3600) for p in result.concept.mission.phases]
    cycle_h = sum(d for _, d in phases)
    with np.errstate(divide="ignore", invalid="ignore"):
        mean = np.add.reduce([rate[:, m] * d for m, d in phases]) / cycle_h
    rough = np.median(_hours(mean[:, None])[:, 0, -1])
    used = sorted({m for m, _ in phases})
    if rough / cycle_h * len(phases) > MOST_LEGS:
        hours = _hours(mean[:, None])[:, 0]
        return np.asarray(_time_at(hours, ends[:, used].min(axis=1)) * 3600)
    return _stepped(_hours(rate), ends, phases)


def _stepped(hours: Array, ends: Array, phases: list[tuple[int, float]]) -> Array:
    count = len(hours)
    place, now, runtime = np.zeros(count), np.zeros(count), np.full(count, np.inf)
    going = np.ones(count, dtype=bool)
    for _ in range(MOST_LEGS):
        before = place.copy()
        for m, lasts in phases:
            table, end = hours[:, m], ends[:, m]
            start = _time_at(table, np.minimum(place, CELLS))
            left = np.maximum(_time_at(table, end) - start, 0.0)
            left = np.where(place >= end, 0.0, left)
            over = going & (left <= lasts)
            runtime[over] = (now[over] + left[over]) * 3600
            going &= ~over
            now += lasts
            place = np.where(going, _place_at(table, start + lasts), place)
            if not going.any():
                return runtime
        if not (going & (place > before)).any():
            return runtime
    return runtime


def _hours(rate: Array) -> Array:
    """Hours from full to each place of the grid; endless past where nothing draws. Shape as `rate`."""
    with np.errstate(divide="ignore", invalid="ignore"):
        slow = np.where(rate > 0, 1.0 / rate, ENDLESS_H)
    slow = np.where(np.isfinite(slow), slow, ENDLESS_H)
    found = np.zeros(rate.shape)
    np.cumsum((slow[..., :-1] + slow[..., 1:]) / (2 * CELLS), axis=-1, out=found[..., 1:])
    return found


def _time_at(hours: Array, place: Array) -> Array:
    """Hours at a place of each row; shapes (missions, CELLS + 1) and (missions,)."""
    cell = np.minimum(place.astype(int), CELLS - 1)
    rows = np.arange(len(hours))
    low, high = hours[rows, cell], hours[rows, cell + 1]
    return np.asarray(low + (place - cell) * (high - low))


def _place_at(hours: Array, time_h: Array) -> Array:
    """Place of each row at some hours."""
    cell = np.clip((hours <= time_h[:, None]).sum(axis=1) - 1, 0, CELLS - 1)
    rows = np.arange(len(hours))
    low, high = hours[rows, cell], hours[rows, cell + 1]
    return np.asarray(np.minimum(cell + (time_h - low) / np.maximum(high - low, 1e-15), float(CELLS)))
