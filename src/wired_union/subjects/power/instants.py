"""Supplies of one shape solved together, each on average and at the worst instant of every mode."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from typing import Any, Literal

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Mode
from wired_union.subjects.power.currents import Currents
from wired_union.subjects.power.flow import Flows, Packs, flows_of, handed_over, voltages_of
from wired_union.subjects.power.net import draws_of, net_of
from wired_union.subjects.power.packs import PackFigures, holds_up
from wired_union.subjects.power.supplies import SupplyFigures
from wired_union.subjects.power.tree import PowerTree

Figure = Literal["current_a", "output_a", "input_v"]
HALF = 0.5
"""Charge at which a mode is looked at on average."""
Peaks = tuple[list[list[float]], list[list[int]]]
"""By node and variant: a figure, and the mode that it comes in."""


class Supplies:
    """Variants of one supply, side by side on the axis of instants; their flows are worked out when first asked for.

    A variant's instants are its modes on average at half charge, then its modes at their worst at the reserve.
    """

    def __init__(
        self, trees: Sequence[PowerTree], currents: Sequence[Currents],
        figures: Sequence[Mapping[str, PackFigures | SupplyFigures | None]], modes: Sequence[Mode],
        energy_reserve: float,
    ) -> None:  # fmt: skip
        self.modes, self.variants = len(modes), len(trees)
        self.net = net_of(trees)
        tables = [table for c in currents for table in (c.average, c.starting)]
        self.draws = draws_of(self.net, currents[0].row, np.hstack(tables))
        self._roots = [p.item.id for p in trees[0].roots]
        self._figures, self._stands_in = figures, trees[0].stands_in
        self._charges = np.repeat([HALF, energy_reserve], self.modes)
        self._plugged_in = np.array([m.plugged_in for m in modes] * 2, dtype=bool)

    @cached_property
    def packs(self) -> Packs:
        return {i: self._root(i, [f[i] for f in self._figures]) for i in self._roots}

    def _root(
        self, item_id: str, figures: Sequence[PackFigures | SupplyFigures | None]
    ) -> tuple[float | Array | None, Array]:
        ohm, volts = self._along(figures)
        banks = [f for f in figures if isinstance(f, PackFigures) and f.converter is not None]
        if not banks:
            return ohm, volts
        works = holds_up(self.net, self.net.index[item_id], banks, self._charges, self.draws)
        if banks[0].stand_in is not None:
            works = works | np.tile(self._plugged_in, self.variants)
        return ohm, np.where(works, volts, np.nan)

    def _along(self, figures: Sequence[PackFigures | SupplyFigures | None]) -> tuple[float | Array | None, Array]:
        """A pack's or supply's resistance and its voltage without load at every instant."""
        known = [f for f in figures if f is not None]
        if not known:
            return None, np.full(self.variants * len(self._charges), np.nan)
        volts, ohms = zip(*(f.along(self._charges, self._plugged_in) for f in known), strict=True)
        plain = {o for o in ohms if not isinstance(o, np.ndarray)}
        if len(plain) == 1 and all(not isinstance(o, np.ndarray) for o in ohms):
            return plain.pop(), np.concatenate(volts)
        return np.concatenate([np.broadcast_to(o, self._charges.shape) for o in ohms]), np.concatenate(volts)

    @cached_property
    def voltages(self) -> Array:
        return voltages_of(self.net, self.draws, self.packs)

    @cached_property
    def flows(self) -> Flows:
        found = flows_of(self.net, self.draws, self.voltages, self.packs)
        for pack, supply in self._stands_in.items():
            plugged_in = np.tile(self._plugged_in, self.variants)
            found = handed_over(found, self.net.index[pack], self.net.index[supply], plugged_in)
        return found

    @cached_property
    def highest(self) -> dict[Figure, Peaks]:
        """Highest figure of every node at the worst instants; what cannot be delivered, NaN, is the highest of all."""
        names: tuple[Figure, ...] = ("current_a", "output_a")
        return {f: self._extreme(self.flows.table(f), np.inf) for f in names}

    @cached_property
    def lowest_v(self) -> Peaks:
        """Lowest voltage at every node's input at the worst instants; NaN is the lowest of all."""
        return self._extreme(-self.voltages[self.net.point], np.inf, sign=-1.0)

    def _extreme(self, table: Array, beyond: float, sign: float = 1.0) -> Peaks:
        worst = table.reshape(len(table), self.variants, 2, self.modes)[:, :, 1]
        place = np.where(np.isnan(worst), beyond, worst).argmax(axis=2)
        values: Any = sign * np.take_along_axis(worst, place[:, :, None], axis=2)[:, :, 0]
        return values.tolist(), place.tolist()


class Instants(Struct, frozen=True, eq=False, dict=True):
    """One variant of supplies that were solved together."""

    supplies: Supplies
    variant: int

    @property
    def own(self) -> slice:
        wide = 2 * self.supplies.modes
        return slice(self.variant * wide, (self.variant + 1) * wide)

    @cached_property
    def flows(self) -> Flows:
        return self.supplies.flows.part(self.own)

    def input_v(self, item_id: str) -> Array:
        """Voltage at the input of one item. Raises KeyError where no pack feeds it."""
        net = self.supplies.net
        row: Array = self.supplies.voltages[net.point[net.index[item_id]], self.own]
        return row

    def highest(self, item_id: str, figure: Figure) -> tuple[float, int]:
        """Highest figure of a node, and the mode it comes in; 0 and 0 where there are no modes."""
        return self._of(self.supplies.highest[figure], item_id) if self.supplies.modes else (0.0, 0)

    def lowest_v(self, item_id: str) -> tuple[float, int]:
        """Lowest voltage at a node, and the mode it comes in; infinite and 0 where there are no modes."""
        return self._of(self.supplies.lowest_v, item_id) if self.supplies.modes else (float("inf"), 0)

    def lowest_of_all(self) -> Iterator[tuple[str, float, int]]:
        """Every node with the lowest voltage at its input, and the mode it comes in; not asked where there are none."""
        values, modes = self.supplies.lowest_v
        v = self.variant
        return ((i, values[n][v], modes[n][v]) for i, n in self.supplies.net.index.items())

    def _of(self, peaks: Peaks, item_id: str) -> tuple[float, int]:
        n, v = self.supplies.net.index[item_id], self.variant
        return peaks[0][n][v], peaks[1][n][v]
