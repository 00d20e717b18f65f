"""Thousands of missions side by side: every one with its own currents, losses, capacity and resistance."""

from collections.abc import Iterator, Mapping

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.cell_state import rises_by
from wired_union.physics.discharge import stretched_s
from wired_union.physics.sensitivity import bell, even_draws
from wired_union.project.model import Knowledge
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.net import Net, draws_of, net_of
from wired_union.subjects.power.packs import PackFigures, PackResult, from_cells, loaded
from wired_union.subjects.power.spread.unknowns import NOTHING, Unknown, What, unknowns_of

SEED, CHUNK, CELLS, MOST_LEGS, ENDLESS_H = 20, 1000, 20, 400, 1e12
"""Cells of the grid of charge hold every knot of the chemistries' curves."""


Place = dict[tuple[str, str], int]
"""Which column of what was drawn a figure of an item is."""


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
    packs = [p for p in result.packs if p.discharge is not None]
    if not packs:
        return
    unknowns = unknowns_of(result, knowledge, read)
    normal = bell(even_draws(count, len(unknowns), seed))
    order = np.random.default_rng(seed).permutation(count)  # so that the first lots cover the whole range too
    normal = normal[order]
    lots: list[tuple[Array, Array, Array]] = []
    net, place = net_of([result.tree]), {(u.item, str(u.what)): n for n, u in enumerate(unknowns)}
    for start in range(0, count, CHUNK):
        factors = np.exp(normal[start : start + CHUNK] * np.array([u.spread for u in unknowns]))
        runtimes = np.min([_runtimes(result, net, p, place, factors) for p in packs], axis=0)
        peaks, lows = zip(*(_worst(result, net, p, place, factors) for p in packs), strict=True)
        lots.append((runtimes, np.max(peaks, axis=0), np.min(lows, axis=0)))
        runtime, peak, low = (np.concatenate(rows) for rows in zip(*lots, strict=True))
        yield Drawn(unknowns, normal[: len(runtime)], runtime, peak, low, count)


def _runtimes(result: PowerResult, net: Net, pack: PackResult, place: Place, factors: Array) -> Array:
    """Runtime of each mission on one pack, in seconds; endless where nothing draws."""
    count, modes = len(factors), result.modes
    draws = draws_of(net, result.currents.row, _currents(result, place, factors, result.currents.average))
    charges = np.linspace(1.0, 0.0, CELLS + 1)
    open_v = np.interp(charges, np.linspace(0, 1, len(pack.figures.open_circuit_v)), pack.figures.open_circuit_v[::-1])
    item = pack.node.item.id
    members = pack.figures.members or (pack.figures,)
    wide, ohms = np.broadcast_to(open_v, (count * modes, CELLS + 1)), _ohms(result, pack, place, factors, charges)
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        if pack.figures.converter is None:
            volts, amperes = loaded(net, net.index[item], ohms, wide, draws)
        else:
            each = [pack.figures] * count
            volts, amperes, _ = from_cells(net, net.index[item], each, modes, ohms, wide, draws)
    capacity = sum((m.values.capacity_ah * factors[:, place[m.item.id, "capacity"]] for m in members), np.zeros(count))
    rate = pack.figures.rate_per_h(amperes, np.repeat(capacity, modes)[:, None])
    volts, rate = np.array(volts).reshape(count, modes, -1), rate.reshape(count, modes, -1)
    if pack.figures.stand_in is not None:
        rests = np.array([m.plugged_in for m in result.concept.modes])
        rate[:, rests], volts[:, rests] = 0.0, open_v
    plain = _run(result, rate, _ends(volts - _floor(pack.figures, charges), 0.0, result.energy_reserve))
    used = 1 - (pack.discharge.charge if pack.discharge is not None else 0.0)
    return np.array([stretched_s(t, used, pack.figures.net_lost_per_h) for t in plain.tolist()])


def _worst(
    result: PowerResult, net: Net, pack: PackResult, place: Place, factors: Array
) -> tuple[Array, Array]:  # fmt: skip
    """Peak and lowest voltage of one pack in each mission, at its reserve; of a power bank nothing is said."""
    count, modes, figures = len(factors), result.modes, pack.figures
    if figures.converter is not None:
        return np.zeros(count), np.full(count, np.inf)
    draws = draws_of(net, result.currents.row, _currents(result, place, factors, result.currents.starting))
    at = np.array([result.energy_reserve])
    open_v = np.full((count * modes, 1), figures.open_circuit_at(result.energy_reserve))
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        volts, amperes = loaded(
            net, net.index[pack.node.item.id], _ohms(result, pack, place, factors, at), open_v, draws
        )
    rests = np.array([m.plugged_in and figures.stand_in is not None for m in result.concept.modes])
    peak = np.where(rests, 0.0, np.nan_to_num(amperes.reshape(count, modes), nan=np.inf))
    low = np.where(rests, open_v[0, 0], np.nan_to_num(volts.reshape(count, modes), nan=0.0))
    return peak.max(axis=1), low.min(axis=1)


def _ohms(
    result: PowerResult, pack: PackResult, place: Place, factors: Array, charges: Array
) -> Array:  # fmt: skip
    """Resistance of a pack over (missions × modes, charges); of several on one supply the worst alone."""
    figures, reserve = pack.figures, result.energy_reserve
    alone = [(m, float(m.ohm_at(reserve))) for m in figures.members] or [(figures, figures.values.resistance_ohm)]
    joins = figures.values.resistance_ohm - max(ohm for _, ohm in alone)
    ohm = np.maximum.reduce([ohm * factors[:, place[m.item.id, "resistance"]] for m, ohm in alone]) + joins
    return np.asarray(np.repeat(ohm, result.modes)[:, None] * rises_by(charges, figures.empty_times))


def _floor(figures: PackFigures, charges: Array) -> float | Array:
    """The cut-off at each place of the coarser grid; between two places the higher."""
    floor = figures.floor_v
    if not isinstance(floor, np.ndarray):
        return floor
    fine = np.linspace(1.0, 0.0, len(floor))
    wide = (fine[0] - fine[1]) / 2
    return np.array([floor[np.abs(fine - c) <= wide + 1e-12].max() for c in charges])


def _currents(
    result: PowerResult, place: Place, factors: Array, currents: Array
) -> Array:  # fmt: skip
    """Current of each load in each mode of each mission, shape (loads, missions × modes).

    A converter that loses more is one whose loads take more.
    """
    own = np.ones((len(result.currents.row), len(factors)))
    for item, row in result.currents.row.items():
        if (item, "current") in place:
            own[row] *= factors[:, place[item, "current"]]
        for above in result.tree.above(item):
            if (above, "loss") in place:
                own[row] *= _more(result, above, factors[:, place[above, "loss"]])
    table = own[:, :, None] * currents[:, None, :]
    return np.asarray(table.reshape(len(own), -1))


def _more(result: PowerResult, converter: str, factor: Array) -> Array:
    """How much more its input takes when its losses are so many times what its curve says; at its usual efficiency."""
    n = result.flows.index[converter]
    into, lost = result.flows.power_w[n, : result.modes], result.flows.loss_w[n, : result.modes]
    busiest = int(np.nan_to_num(into).argmax()) if len(into) else 0
    share = float(lost[busiest] / into[busiest]) if len(into) and into[busiest] > 0 else 0.0
    return (1 - share) + share * factor


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
