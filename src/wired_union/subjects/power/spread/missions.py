"""Missions side by side: what each figure is in each of them, and what flows then."""

from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.cell_state import rises_by
from wired_union.physics.sensitivity import bell, even_draws
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.flow import Flows, flows_of, handed_over, voltages_of
from wired_union.subjects.power.instants import HALF
from wired_union.subjects.power.net import Draws, Net, draws_of, net_of
from wired_union.subjects.power.packs import PackFigures, PackResult, holds_up
from wired_union.subjects.power.spread.unknowns import Unknown, What
from wired_union.subjects.power.supplies import CONTACT_OHM, SupplyFigures

SEED = 20


class Missions(Struct, frozen=True, eq=False, dict=True):
    """Some missions: what was drawn of each unknown, standard normal, shape (missions, unknowns)."""

    result: PowerResult
    unknowns: tuple[Unknown, ...]
    normal: Array

    @property
    def count(self) -> int:
        return len(self.normal)

    @cached_property
    def net(self) -> Net:
        return net_of([self.result.tree])

    @cached_property
    def _place(self) -> Mapping[tuple[str, What], int]:
        return {(u.item, u.what): n for n, u in enumerate(self.unknowns)}

    def times(self, item: str, what: What) -> Array:
        """Times its own that a figure is in each mission: about its median, logarithms normal; 1 where none spreads."""
        place = self._place.get((item, what))
        if place is None:
            return np.ones(self.count)
        return np.asarray(np.exp(self.normal[:, place] * self.unknowns[place].spread))

    @cached_property
    def _current_times(self) -> Array:
        """Of every load, shape (loads, missions, 1)."""
        found = np.ones((len(self.result.currents.row), self.count, 1))
        for item, row in self.result.currents.row.items():
            found[row, :, 0] = self.times(item, "current")
        return found

    def currents(self, table: Array) -> Array:
        """Current of each load in each mode of each mission, shape (loads, missions × modes)."""
        found = self._current_times * table[:, None, :]
        return np.asarray(found.reshape(len(table), -1))

    def draws(self, table: Array) -> Draws:
        """What is drawn everywhere with the currents of a table over (loads, modes)."""
        return draws_of(self.net, self.result.currents.row, self.currents(table), self._loss_times)

    @cached_property
    def _loss_times(self) -> Mapping[int, Array]:
        """Of every converter, at every instant."""
        lossy = (u.item for u in self.unknowns if u.what == "loss" and u.item in self.net.index)
        return {self.net.index[i]: np.repeat(self.times(i, "loss"), self.result.modes) for i in lossy}

    def ohms(self, pack: PackFigures, charges: Array) -> Array:
        """Resistance of a pack over (missions × modes, charges); of several on one supply the worst alone."""
        reserve = self.result.energy_reserve
        alone = [(m, float(m.ohm_at(reserve))) for m in pack.members] or [(pack, pack.values.resistance_ohm)]
        joins = pack.values.resistance_ohm - max(ohm for _, ohm in alone)
        ohm = np.maximum.reduce([ohm * self.times(m.item.id, "resistance") for m, ohm in alone]) + joins
        return np.asarray(np.repeat(ohm, self.result.modes)[:, None] * rises_by(charges, pack.empty_times))

    def capacity_ah(self, pack: PackFigures) -> Array:
        """Of all that stand side by side, shape (missions,)."""
        members = pack.members or (pack,)
        return sum((m.values.capacity_ah * self.times(m.item.id, "capacity") for m in members), np.zeros(self.count))

    @cached_property
    def flows(self) -> Flows:
        """Every node on average, half charged, at (missions × modes) instants; as `PowerResult.flows` has one."""
        draws = self.draws(self.result.currents.average)
        packs = {i: self._root(i, f, draws) for i, f in self.result.figures.items()}
        found = flows_of(self.net, draws, voltages_of(self.net, draws, packs), packs)
        for pack, supply in self.result.tree.stands_in.items():
            found = handed_over(found, self.net.index[pack], self.net.index[supply], self._plugged_in)
        return found

    @cached_property
    def _plugged_in(self) -> Array:
        return np.tile(np.array([m.plugged_in for m in self.result.concept.modes], dtype=bool), self.count)

    def _root(
        self, item: str, figures: PackFigures | SupplyFigures | None, draws: Draws
    ) -> tuple[float | Array | None, Array]:  # fmt: skip
        """Resistance and voltage without load of one source at every instant."""
        instants = self.count * self.result.modes
        charges = np.full(instants, HALF)
        if figures is None:
            return None, np.full(instants, np.nan)
        open_v, ohm = figures.along(charges, self._plugged_in)
        if isinstance(figures, SupplyFigures):
            return ohm, open_v
        if figures.converter is None:
            own = self.ohms(figures, np.array([HALF]))[:, 0]
            if figures.stand_in is None:
                return own, open_v
            return np.where(self._plugged_in, ohm, np.maximum(own, CONTACT_OHM)), open_v
        works: Any = holds_up(self.net, self.net.index[item], [figures], charges, draws)
        if figures.stand_in is not None:
            works = works | self._plugged_in
        return ohm, np.where(works, open_v, np.nan)


def normal_draws(count: int, unknowns: Sequence[Unknown], seed: int = SEED) -> Array:
    """Standard normal values that cover their range evenly, in any of the first lots too; (count, unknowns)."""
    found = bell(even_draws(count, len(unknowns), seed))
    return np.asarray(found[np.random.default_rng(seed).permutation(count)])


def run_down(result: PowerResult) -> list[PackResult]:
    """The packs that are run down."""
    return [p for p in result.packs if p.discharge is not None]
