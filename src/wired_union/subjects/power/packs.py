"""Packs of a concept: their figures, and how each runs down through the mission and sags at its worst instant."""

from collections.abc import Sequence
from functools import cache

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import CHEMISTRIES, Array, Chemistry, PackValues, pack, peukert_rate
from wired_union.physics.discharge import Discharge, charge_grid, end_places, run_down
from wired_union.project.model import Concept, Item
from wired_union.subjects.power.net import Draws, Net, current_out, is_zero, solve_points
from wired_union.subjects.power.tree import Node, pack_is_known

_GRID = charge_grid()


class PackFigures(Struct, frozen=True, eq=False):
    """A pack ready to be asked: its values, chemistry, cut-off, and open-circuit voltage over the grid of charge."""

    item: Item
    values: PackValues
    chemistry: Chemistry
    cutoff_v: float
    open_circuit_v: Array

    @property
    def highest_v(self) -> float:
        """Voltage at the end of its charge: what hangs on it must survive that."""
        series = self.item.part.pack.series if self.item.part.pack is not None else 0
        return max(series * self.chemistry.charge_end_v, float(self.open_circuit_v[0]))

    def open_circuit_at(self, charge: float) -> float:
        return float(np.interp(charge, _GRID[::-1], self.open_circuit_v[::-1]))

    def open_circuit_along(self, charges: Array) -> Array:
        """Open-circuit voltage at several charges."""
        return np.interp(charges, _GRID[::-1], self.open_circuit_v[::-1])


class PackResult(Struct, frozen=True, eq=False):
    """One pack through the mission. Arrays are over (modes, grid of charge)."""

    node: Node
    figures: PackFigures
    voltage_v: Array
    current_a: Array
    peak_current_a: tuple[float, ...]
    peak_voltage_v: tuple[float, ...]
    discharge: Discharge | None

    @property
    def worst_mode(self) -> int:
        """Index of the mode with the highest peak; a peak that cannot be delivered is the highest of all."""
        return max(range(len(self.peak_current_a)), key=lambda m: _or_inf(self.peak_current_a[m]), default=0)

    @property
    def highest_a(self) -> float:
        """Highest current of any mode, infinite where one cannot be delivered; 0 without modes."""
        return max((_or_inf(a) for a in self.peak_current_a), default=0.0)

    @property
    def delivers(self) -> bool:
        """Whether it gives what every mode asks for at its worst instant."""
        return all(a == a for a in self.peak_current_a)


def _or_inf(value: float) -> float:
    return float("inf") if value != value else value


def pack_figures(item: Item) -> PackFigures | None:
    """A pack's figures; None where its chemistry, capacity or resistance is not known. Copies stand in parallel."""
    spec = item.part.pack
    assert spec is not None
    if not pack_is_known(spec):
        return None
    chemistry = CHEMISTRIES[spec.chemistry]
    assert spec.cell_capacity_ah is not None
    assert spec.cell_resistance_ohm is not None
    values = pack(
        spec.series, spec.parallel * item.count, chemistry.nominal_v, spec.cell_capacity_ah, spec.cell_resistance_ohm
    )
    cutoff = spec.series * (spec.cutoff_cell_v or chemistry.cutoff_v)
    return PackFigures(item, values, chemistry, cutoff, spec.series * _cell_curve(spec.chemistry))


@cache
def _cell_curve(chemistry: str) -> Array:
    """Open-circuit voltage of one cell over the grid of charge."""
    figures = CHEMISTRIES[chemistry]
    return np.interp(_GRID, figures.charge, figures.open_circuit_v)


Known = list[PackFigures]
"""One pack's figures in each variant."""


def assess_packs(
    net: Net, draws: Draws, nodes: Sequence[Sequence[Node]], concept: Concept, energy_reserve: float,
    figures: Sequence[dict[str, PackFigures | None]],
) -> list[tuple[PackResult, ...]]:  # fmt: skip
    """Every known pack of every variant through the mission; `nodes` has each variant's packs."""
    found: list[tuple[PackResult, ...]] = [() for _ in nodes]
    for place, first in enumerate(nodes[0]):
        known = [f for one in figures if (f := one[first.item.id]) is not None]
        if known:  # variants of one shape know the same packs
            results = _assess_pack(net, draws, [v[place] for v in nodes], known, concept, energy_reserve)
            found = [(*had, new) for had, new in zip(found, results, strict=True)]
    return found


def _assess_pack(
    net: Net, draws: Draws, nodes: Sequence[Node], figures: Known, concept: Concept, energy_reserve: float
) -> list[PackResult]:  # fmt: skip
    modes, variants, n = len(concept.modes), len(nodes), net.index[nodes[0].item.id]
    average, worst = _halves(draws, variants, modes)
    open_v = np.stack([f.open_circuit_v for f in figures]).repeat(modes, axis=0)
    ohm = _per_instant([f.values.resistance_ohm for f in figures], modes)
    voltage, current = (a.reshape(variants, modes, len(_GRID)) for a in _loaded(net, n, ohm, open_v, average))
    low_v = np.repeat([f.open_circuit_at(energy_reserve) for f in figures], modes)[:, None]
    peak_v, peak_a = (a.reshape(variants, modes).tolist() for a in _loaded(net, n, ohm, low_v, worst))
    place = {m.id: i for i, m in enumerate(concept.modes)}
    phases = [(place[p.mode], p.duration_s) for p in concept.mission.phases]
    return [
        PackResult(node, one, voltage[v], current[v], tuple(peak_a[v]), tuple(peak_v[v]),
                   _run(one, voltage[v], current[v], phases, energy_reserve))
        for v, (node, one) in enumerate(zip(nodes, figures, strict=True))
    ]  # fmt: skip


def _run(
    figures: PackFigures, voltage: Array, current: Array, phases: list[tuple[int, float]], energy_reserve: float
) -> Discharge | None:
    if not phases:
        return None
    rate = peukert_rate(current, figures.values.capacity_ah, figures.chemistry)
    return run_down(rate, end_places(voltage, figures.cutoff_v, energy_reserve), phases)


def _per_instant(ohms: list[float], modes: int) -> float | Array:
    return ohms[0] if len(set(ohms)) == 1 else np.repeat(ohms, modes)[:, None]


def _halves(draws: Draws, variants: int, modes: int) -> tuple[Draws, Draws]:
    """What is drawn on average, and at the worst instants, each over (variant, mode)."""

    def half(table: Array, which: int) -> Array:
        if variants == 1:
            return table[:, which * modes : (which + 1) * modes]
        return table.reshape(len(table), variants, 2, modes)[:, :, which].reshape(len(table), variants * modes)

    def halved(which: int) -> Draws:
        current, power, conductance, output_a = (
            half(t, which) for t in (draws.current, draws.power, draws.conductance, draws.output_a)
        )
        return Draws(current, power, conductance, output_a)

    return halved(0), halved(1)


def _loaded(net: Net, n: int, ohm: float | Array, open_v: Array, draws: Draws) -> tuple[Array, Array]:
    """Voltage and current of a pack over (instants, charges)."""
    solved = solve_points(net, n, open_v, ohm, draws, extra=1)
    volts = np.broadcast_to(solved[net.out[n]], open_v.shape)
    if not is_zero(ohm):
        return volts, (open_v - volts) / ohm
    return volts, np.broadcast_to(current_out(net, n, solved, draws, extra=1), open_v.shape)
