"""Currents of every load in every mode, at its rated voltage: on average, undivided, and at the worst instant."""

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import STATES, Concept, Item, Load, Mode, Part, State, Use
from wired_union.subjects.power.packs import pack_figures
from wired_union.subjects.power.tree import state_current

RUNNING = ("active", "peak")
_PLACE: dict[State, int] = {state: n for n, state in enumerate(STATES)}


class Currents(Struct, frozen=True, eq=False):
    """Tables over (loads, modes) in amperes, all copies of a load together."""

    row: Mapping[str, int]
    """Row of each load by item id."""
    average: Array
    rms: Array
    """Root of the mean square, with its pauses: what warms a wire."""
    steady: Array
    """While it is at work, without its pauses."""
    starting: Array
    """At the worst instant of each mode."""
    unknown: tuple[tuple[str, str], ...]
    """Item and mode ids of currents that no figure gives."""

    def of(self, table: Array, item_id: str) -> Array:
        """One load's currents over the modes; zeros for what is no load."""
        row = self.row.get(item_id)
        return table[row] if row is not None else np.zeros(table.shape[1])


def currents_of(concept: Concept, usual: Mapping[str, float] | None = None) -> Currents:
    """The currents of a concept's loads; `usual` has the current at work of loads whose task sets it, by item id."""
    return currents_of_all([concept], [usual or {}])[0]


def currents_of_all(concepts: Sequence[Concept], usual: Sequence[Mapping[str, float]]) -> list[Currents]:
    """The currents of variants of a concept: the same places for loads in the same modes, of other parts."""
    places = [n for n, i in enumerate(concepts[0].items) if i.part.load is not None]
    loads = [[c.items[n] for n in places] for c in concepts]
    row = {i.id: n for n, i in enumerate(loads[0])}
    table = _state_table(loads, usual)
    hardest = _with_peaks(table, loads)
    count = np.array([[float(i.count) for i in each] for each in loads])
    modes = concepts[0].modes
    average, rms, steady = (np.empty((len(concepts), len(places), len(modes))) for _ in range(3))
    unknown: list[list[tuple[str, str]]] = [[] for _ in concepts]
    for m, mode in enumerate(modes):
        now, mean, square = _in_mode(mode, table, hardest, row)
        gaps = np.isnan(mean) | np.isnan(now)
        if gaps.any():
            for v, n in np.argwhere(gaps):
                unknown[v].append((loads[0][n].id, mode.id))
            mean, now = np.where(gaps, 0.0, mean), np.where(np.isnan(now), 0.0, now)
            square = np.where(gaps, 0.0, square)
        average[:, :, m], rms[:, :, m], steady[:, :, m] = mean * count, np.sqrt(square) * count, now * count
    raised, held = zip(
        *((_over_rating(c, each), held_to_a(c, each)) for c, each in zip(concepts, loads, strict=True)), strict=True
    )
    starting = _starting(concepts[0], loads, count, steady, raised, held)
    return [Currents(row, average[v], rms[v], steady[v], starting[v], tuple(gaps)) for v, gaps in enumerate(unknown)]


def _in_mode(mode: Mode, table: Array, hardest: Array, row: Mapping[str, int]) -> tuple[Array, Array, Array]:
    """Of one copy of each load in a mode: most current, mean with its pauses, mean square; shape (variants, loads)."""
    now, mean = hardest[:, :, _PLACE[mode.otherwise]].copy(), table[:, :, _PLACE[mode.otherwise]].copy()
    square = mean * mean
    for use in mode.uses:
        if (n := row.get(use.item)) is not None:
            now[:, n] = hardest[:, n, _PLACE[use.state]]
            mean[:, n] = use.duty * table[:, n, _PLACE[use.state]]
            square[:, n] = use.duty * table[:, n, _PLACE[use.state]] ** 2
            if use.duty < 1:
                now[:, n] = np.maximum(now[:, n], hardest[:, n, _PLACE[use.rest]])
                mean[:, n] += (1 - use.duty) * table[:, n, _PLACE[use.rest]]
                square[:, n] += (1 - use.duty) * table[:, n, _PLACE[use.rest]] ** 2
    return now, mean, square


def _state_table(loads: Sequence[Sequence[Item]], usual: Sequence[Mapping[str, float]]) -> Array:
    """Current of one copy of each load in each state, NaN where no figure says; shape (variants, loads, states)."""
    table = np.empty((len(loads), len(loads[0]), len(STATES)))
    for n, first in enumerate(loads[0]):
        one = _states_of(first, usual[0])
        table[:, n] = one
        for v, each in enumerate(loads[1:], 1):
            if each[n].part.load is not first.part.load or usual[v].get(first.id) != usual[0].get(first.id):
                table[v, n] = _states_of(each[n], usual[v])
    return table


def _with_peaks(table: Array, loads: Sequence[Sequence[Item]]) -> Array:
    """The same at the hardest moment: what is at work comes to its peak; what starts like a motor does as it starts."""
    found = table.copy()
    peak, active = table[:, :, _PLACE["peak"]], found[:, :, _PLACE["active"]]
    comes = np.array([[_comes_to_peak(i) for i in each] for each in loads], dtype=bool)
    active[comes] = np.fmax(active, peak)[comes]
    return found


def _comes_to_peak(item: Item) -> bool:
    load = item.part.load
    return load is not None and load.peak_a is not None and startup_a(item) is None


def _states_of(item: Item, usual: Mapping[str, float]) -> tuple[float, ...]:
    load = item.part.load
    assert load is not None
    return _states(load.but(active_a=usual[item.id]) if item.id in usual else load)


@lru_cache(maxsize=4096)
def _states(load: Load) -> tuple[float, ...]:
    return tuple(math.nan if (a := state_current(load, s)) is None else a for s in STATES)


def _starting(
    concept: Concept, loads: Sequence[Sequence[Item]], count: Array, steady: Array, raised: Sequence[Sequence[float]],
    held_to: Sequence[Sequence[float]],
) -> Array:  # fmt: skip
    """Currents at the worst instant of each mode: what starts in it at its start-up current, the rest at work.

    Brushed motors start at stall current, and several starting together add: common practice. Stall current is V/R, so
    a source above the rated voltage raises it; below, the datasheet's is kept. A driver that limits holds it back.
    """
    startup = np.array([[_or_nan(startup_a(i)) for i in each] for each in loads]) * np.array(raised)
    held = np.array(held_to)
    starters = np.flatnonzero(~np.isnan(startup).all(axis=0)).tolist()
    starting = steady.copy()
    for m, (mode, starts) in enumerate(zip(concept.modes, _started(concept, [i.id for i in loads[0]]), strict=True)):
        rows = [n for n in starters if starts[n]]
        if not rows:
            continue
        level = steady[:, rows, m]
        against = [REVERSED if _reverses(mode, loads[0][n].id) else 1.0 for n in rows]
        risen = np.fmax(count[:, rows] * np.minimum(startup[:, rows] * against, held[:, rows]), level)
        if mode.staggered:
            risen = _one_by_one(level, risen, count[:, rows])
        starting[:, rows, m] = risen
    return starting


REVERSED = 2.0
"""Times its stall current that a motor takes which is reversed at full speed: its own voltage adds to the supply's."""


def _reverses(mode: Mode, item_id: str) -> bool:
    return any(u.reverses for u in mode.uses if u.item == item_id)


def _started(concept: Concept, ids: Sequence[str]) -> list[list[bool]]:
    """Whether each of some items starts, or is reversed, in each mode."""
    before = _modes_before(concept)
    states = [{u.item: u for u in m.uses} for m in concept.modes]
    return [
        [_starts(i, m, concept.modes, states, before) or _reverses(mode, i) for i in ids]
        for m, mode in enumerate(concept.modes)
    ]


def starting_in(concept: Concept) -> list[list[Item]]:
    """The items that start in each mode otherwise than they work, in the order of the concept: at more current,
    through a coil, or in bursts.
    """
    items = [i for i in concept.items if i.part.load is not None and _begins_otherwise(i)]
    return [[i for i, starts in zip(items, row, strict=True) if starts] for row in
            _started(concept, [i.id for i in items])]  # fmt: skip


def _over_rating(concept: Concept, loads: Sequence[Item]) -> list[float]:
    """For each load how far the source that it hangs on lies above its rated voltage: 1, or more."""
    if all(startup_a(i) is None for i in loads):
        return [1.0] * len(loads)
    items, source_of = {i.id: i for i in concept.items}, {f.load: f.source for f in concept.feeds}
    return [max(1.0, _source_v(i.id, items, source_of) / _rating_v(i)) for i in loads]


def held_to_a(concept: Concept, loads: Sequence[Item]) -> list[float]:
    """For each load the current to which its driver holds a channel; infinite where nothing limits it."""
    limits = {i.id: i.part.driver.current_limit_a for i in concept.items if i.part.driver is not None}
    if not any(limits.values()):
        return [math.inf] * len(loads)
    source_of = {f.load: f.source for f in concept.feeds}
    return [limits.get(source_of.get(i.id, ""), 0.0) or math.inf for i in loads]


def _rating_v(item: Item) -> float:
    """Voltage at which a load's start-up current is given; endless where nothing says, so that nothing is above it."""
    load = item.part.load
    return (load.rated_v if load is not None and load.draw == "current" else None) or math.inf


def _source_v(item_id: str, items: Mapping[str, Item], source_of: Mapping[str, str]) -> float:
    """Voltage of the regulator, supply or rested full pack that an item hangs on; 0 where it hangs on nothing known."""
    while item_id in source_of:
        item_id = source_of[item_id]
        part = items[item_id].part
        if part.regulator is not None and part.pack is None:
            return part.regulator.output_v
        if part.pack is not None:
            figures = pack_figures(items[item_id])
            own_v = figures.rested_v if figures is not None else 0.0
            other = items.get(source_of.get(item_id, ""))
            stand_in = other.part.supply if other is not None else None
            return max(own_v, stand_in.output_v) if stand_in is not None else own_v
        if part.supply is not None:
            return part.supply.output_v
    return 0.0


def _or_nan(amperes: float | None) -> float:
    return math.nan if amperes is None else amperes


MOTOR_WITHIN = frozenset({"pump", "fan"})
"""Classes whose parts hold a motor of which nothing is known but what they draw."""


def turns(part: Part) -> bool:
    """Whether a part starts like a brushed motor: at its stall current."""
    return any(x is not None for x in (part.motor, part.thrust, part.flywheel)) or part.kind in MOTOR_WITHIN


def startup_a(item: Item) -> float | None:
    """Current while it starts: given, else a motor's stall current, or what an actuator takes when blocked."""
    part = item.part
    if part.load is None or part.load.startup_a is not None:
        return part.load.startup_a if part.load is not None else None
    if part.motor is not None and part.motor.stall_current_a is not None:
        return part.motor.stall_current_a
    return part.load.peak_a if part.thrust is not None else None


def _begins_otherwise(item: Item) -> bool:
    return startup_a(item) is not None or is_coil(item) or bursts(item)


def bursts(item: Item) -> bool:
    """Whether it is known how long its peak lasts at a time."""
    load = item.part.load
    return load is not None and load.peak_s is not None and load.peak_a is not None and startup_a(item) is None


def is_coil(item: Item) -> bool:
    """Whether its current is known to rise through a coil that turns nothing: a solenoid, a valve, a relay."""
    load = item.part.load
    return load is not None and load.inductance_h is not None and bool(load.rated_v) and item.part.motor is None


def _one_by_one(level: Array, risen: Array, count: Array) -> Array:
    """Where one copy starts at a time, the worst instant has the one that rises most; shapes (variants, loads)."""
    rise = (risen - level) / count
    first = rise.argmax(axis=1)
    one = level.copy()
    each = np.arange(len(level))
    one[each, first] += rise[each, first]
    return one


def _modes_before(concept: Concept) -> list[list[int | None]] | None:
    """For each mode the modes that come right before it in the mission, None for its begin; None without a mission."""
    place = {m.id: n for n, m in enumerate(concept.modes)}
    phases = [place[p.mode] for p in concept.mission.phases]
    if not phases:
        return None
    found: list[list[int | None]] = [[] for _ in concept.modes]
    for n, m in enumerate(phases):
        previous = phases[n - 1] if n else None
        if previous not in found[m]:
            found[m].append(previous)
    return found


def _starts(
    item: str, m: int, modes: tuple[Mode, ...], states: list[dict[str, Use]], before: list[list[int | None]] | None
) -> bool:
    """Whether an item runs in a mode and was at rest before it somewhere in the mission, or pauses within it."""
    use = states[m].get(item)
    if not {_state(item, m, modes, states), use.rest if use is not None and use.duty < 1 else "off"} & set(RUNNING):
        return False
    if before is None or (use is not None and use.duty < 1):
        return True
    return any(p is None or _state(item, p, modes, states) not in RUNNING for p in before[m])


def _state(item: str, m: int, modes: tuple[Mode, ...], states: list[dict[str, Use]]) -> State:
    use = states[m].get(item)
    return use.state if use is not None else modes[m].otherwise
