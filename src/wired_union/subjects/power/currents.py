"""Currents of every load in every mode, at its rated voltage: on average, undivided, and at the worst instant."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from wired_union.physics.battery import Array
from wired_union.project.model import STATES, Concept, Item, Load, Mode, State, Use
from wired_union.subjects.power.tree import state_current

RUNNING = ("active", "peak")
_PLACE: dict[State, int] = {state: n for n, state in enumerate(STATES)}


@dataclass(frozen=True, eq=False)
class Currents:
    """Tables over (loads, modes) in amperes, all copies of a load together."""

    row: Mapping[str, int]
    """Row of each load by item id."""
    average: Array = field(repr=False)
    steady: Array = field(repr=False)
    """While it is at work, without its pauses."""
    starting: Array = field(repr=False)
    """At the worst instant of each mode."""
    unknown: tuple[tuple[str, str], ...]
    """Item and mode ids of currents that no figure gives."""

    def of(self, table: Array, item_id: str) -> Array:
        """One load's currents over the modes; zeros for what is no load."""
        row = self.row.get(item_id)
        return table[row] if row is not None else np.zeros(table.shape[1])


def currents_of(concept: Concept, usual: Mapping[str, float] | None = None) -> Currents:
    """The currents of a concept's loads; `usual` has the current at work of loads whose task sets it, by item id."""
    loads = [i for i in concept.items if i.part.load is not None]
    row = {i.id: n for n, i in enumerate(loads)}
    table = _state_table(loads, usual or {})
    count = np.array([float(i.count) for i in loads])
    average, steady = np.empty((len(loads), len(concept.modes))), np.empty((len(loads), len(concept.modes)))
    unknown: list[tuple[str, str]] = []
    for m, mode in enumerate(concept.modes):
        now = table[:, _PLACE[mode.otherwise]]
        mean = now
        if mode.uses:
            now, mean = now.copy(), now.copy()
            for use in mode.uses:
                if (n := row.get(use.item)) is not None:
                    now[n] = table[n, _PLACE[use.state]]
                    rest = table[n, _PLACE[use.rest]] if use.duty < 1 else 0.0
                    mean[n] = use.duty * now[n] + (1 - use.duty) * rest
        gaps = np.isnan(mean) | np.isnan(now)
        if gaps.any():
            unknown += [(loads[n].id, mode.id) for n in np.flatnonzero(gaps)]
            mean, now = np.where(gaps, 0.0, mean), np.where(np.isnan(now), 0.0, now)
        average[:, m], steady[:, m] = mean * count, now * count
    return Currents(row, average, steady, _starting(concept, loads, steady), tuple(unknown))


def _state_table(loads: list[Item], usual: Mapping[str, float]) -> Array:
    """Current of one copy of each load in each state, NaN where no figure says; shape (loads, states)."""
    table = np.empty((len(loads), len(STATES)))
    for n, item in enumerate(loads):
        load = item.part.load
        assert load is not None
        table[n] = _states(load.but(active_a=usual[item.id]) if item.id in usual else load)
    return table


@lru_cache(maxsize=4096)
def _states(load: Load) -> tuple[float, ...]:
    return tuple(math.nan if (a := state_current(load, s)) is None else a for s in STATES)


def _starting(concept: Concept, loads: list[Item], steady: Array) -> Array:
    """Currents at the worst instant of each mode: what starts in it at its start-up current, the rest at work.

    Brushed motors start at stall current, and several starting together add: common practice.
    """
    starters = [(n, i) for n, i in enumerate(loads) if i.part.load is not None and i.part.load.startup_a is not None]
    starting = steady.copy()
    before = _modes_before(concept)
    states = [{u.item: u for u in m.uses} for m in concept.modes]
    for m, mode in enumerate(concept.modes):
        rises: dict[int, float] = {}
        for n, item in starters:
            if _starts(item.id, m, concept.modes, states, before):
                startup = item.part.load.startup_a or 0.0  # type: ignore[union-attr]
                rises[n] = max(item.count * startup, float(steady[n, m]))
        if mode.staggered and rises:
            one = {n: steady[n, m] + (a - steady[n, m]) / loads[n].count for n, a in rises.items()}
            first = max(one, key=lambda n: float(one[n] - steady[n, m]))
            rises = {first: float(one[first])}
        for n, amperes in rises.items():
            starting[n, m] = amperes
    return starting


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
    if (use.state if use is not None else modes[m].otherwise) not in RUNNING:
        return False
    if before is None or (use is not None and use.duty < 1):
        return True
    return any(p is None or _state(item, p, modes, states) not in RUNNING for p in before[m])


def _state(item: str, m: int, modes: tuple[Mode, ...], states: list[dict[str, Use]]) -> State:
    use = states[m].get(item)
    return use.state if use is not None else modes[m].otherwise
