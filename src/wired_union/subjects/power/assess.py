"""Power: what each mode takes from each pack, the peak with start-up, and how long the mission lasts."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cache, cached_property
from typing import Literal, NamedTuple

import numpy as np

from wired_union.kernel.results import Measure
from wired_union.physics.battery import CHEMISTRIES, Array, Chemistry, PackValues, pack, peukert_rate
from wired_union.physics.discharge import Discharge, charge_grid, end_places, run_down
from wired_union.project.model import Concept, Item
from wired_union.project.part_edits import feeds_others
from wired_union.subjects.power.currents import Currents, currents_of
from wired_union.subjects.power.flow import Flow, Flows, Packs, flows_of, voltages_of
from wired_union.subjects.power.net import Draws, Net, current_out, draws_of, net_of, solve_points
from wired_union.subjects.power.tree import Node, PowerTree, grow_tree

_GRID = charge_grid()
HALF = 0.5
"""Charge at which a mode is looked at on average."""


@dataclass(frozen=True, slots=True)
class Gap:
    """What is not known, in words, and the item that lacks it, "" for none."""

    said: str
    item: str = ""


@dataclass(frozen=True, eq=False)
class PackFigures:
    """A pack ready to be asked: its values, chemistry, cut-off, and open-circuit voltage over the grid of charge."""

    item: Item
    values: PackValues
    chemistry: Chemistry
    cutoff_v: float
    open_circuit_v: Array = field(repr=False)

    def open_circuit_at(self, charge: float) -> float:
        return float(np.interp(charge, _GRID[::-1], self.open_circuit_v[::-1]))


@dataclass(frozen=True, eq=False)
class PackResult:
    """One pack through the mission. Arrays are over (modes, grid of charge)."""

    node: Node
    figures: PackFigures
    voltage_v: Array = field(repr=False)
    current_a: Array = field(repr=False)
    peak_current_a: tuple[float, ...]
    peak_voltage_v: tuple[float, ...]
    discharge: Discharge | None = field(repr=False)

    @property
    def worst_mode(self) -> int:
        """Index of the mode with the highest peak; a peak that cannot be delivered is the highest of all."""
        return max(range(len(self.peak_current_a)), key=lambda m: _or_inf(self.peak_current_a[m]), default=0)

    @property
    def delivers(self) -> bool:
        """Whether it gives what every mode asks for at its worst instant."""
        return all(a == a for a in self.peak_current_a)


def _or_inf(value: float) -> float:
    return float("inf") if value != value else value


class Source(NamedTuple):
    """Something in the concept that could feed a part, with the range of voltage it gives."""

    item: Item
    low_v: float
    high_v: float


Figure = Literal["current_a", "output_a", "input_v"]


@dataclass(frozen=True, eq=False)
class PowerResult:
    """What follows from a concept's feeds, modes and mission."""

    concept: Concept
    energy_reserve: float
    tree: PowerTree
    packs: tuple[PackResult, ...]
    missing: tuple[Gap, ...]
    currents: Currents = field(repr=False)
    net: Net = field(repr=False)
    draws: Draws = field(repr=False)
    pack_figures: dict[str, PackFigures | None] = field(repr=False)
    columns: dict[tuple[int, bool], dict[str, Flow]] = field(default_factory=dict, repr=False)
    """What `mode_flows` has read out already; several checks and views ask for the same."""

    @cached_property
    def mode_index(self) -> dict[str, int]:
        return {m.id: i for i, m in enumerate(self.concept.modes)}

    @cached_property
    def _packs(self) -> Packs:
        """Each pack at every instant: first on average at half charge, then at the worst instant at the reserve."""
        charges = np.repeat([HALF, self.energy_reserve], len(self.concept.modes))
        return {
            p.item.id: (figures.values.resistance_ohm if figures is not None else None, self._open_v(figures, charges))
            for p in self.tree.packs
            for figures in [self.pack_figures[p.item.id]]
        }

    @cached_property
    def _voltages(self) -> Array:
        return voltages_of(self.net, self.draws, self._packs)

    @cached_property
    def flows(self) -> Flows:
        """Every node in every mode: first on average at half charge, then at the worst instant at the reserve."""
        return flows_of(self.net, self.draws, self._voltages, self._packs)

    def input_v(self, item_id: str) -> Array:
        """Voltage at the input of one item, as in `flows`. Raises KeyError where no pack feeds it."""
        row: Array = self._voltages[self.net.point[self.net.index[item_id]]]
        return row

    def _open_v(self, figures: PackFigures | None, charges: Array) -> Array:
        if figures is None:
            return np.full(len(charges), np.nan)
        return np.interp(charges, _GRID[::-1], figures.open_circuit_v[::-1])

    @cached_property
    def modes(self) -> int:
        return len(self.concept.modes)

    @cached_property
    def full_v(self) -> dict[str, float]:
        """Highest voltage at each node's input: full packs without load. Nothing where the pack is not known."""
        found: dict[str, float] = {}
        given: dict[str, float] = {}
        for name, node in self.tree.nodes.items():
            figures = self.pack_figures.get(name)
            above = self.tree.source_of.get(name)
            volts = given.get(above) if above is not None else figures.open_circuit_at(1.0) if figures else None
            if volts is None:
                continue
            found[name] = volts
            given[name] = node.supply_v or volts
        return found

    def worst(self, item_id: str, figure: Figure) -> Array:
        """A figure of a node at the worst instant of every mode; NaN where nothing can deliver it."""
        return self._row(item_id, figure)[self.modes :]

    def average(self, item_id: str, figure: Figure) -> Array:
        """A figure of a node on average in every mode, at half charge."""
        return self._row(item_id, figure)[: self.modes]

    def _row(self, item_id: str, figure: Figure) -> Array:
        flows = self.flows
        table = {"current_a": flows.current_a, "output_a": flows.output_a, "input_v": flows.input_v}[figure]
        row: Array = table[flows.index[item_id]]
        return row

    def most(self, item_id: str, figure: Figure) -> tuple[float, str]:
        """Highest figure of a node over all modes, and the mode's name; NaN wins, since nothing can deliver it."""
        row = self.worst(item_id, figure)
        if not len(row):
            return 0.0, ""
        place = int(np.argmax(np.where(np.isnan(row), np.inf, row)))
        return float(row[place]), self.concept.modes[place].name

    def lowest_v(self, item_id: str) -> tuple[float, str]:
        row = self.worst(item_id, "input_v")
        if not len(row):
            return float("inf"), ""
        place = int(np.argmin(np.where(np.isnan(row), -np.inf, row)))
        return float(row[place]), self.concept.modes[place].name

    @cached_property
    def offered(self) -> tuple["Source", ...]:
        """Everything fed by a known pack that can feed more, packs first, with the range of voltage it gives."""
        return tuple(
            Source(node.item, node.supply_v or self.lowest_v(name)[0], node.supply_v or self.full_v[name])
            for name, node in self.tree.nodes.items()
            if feeds_others(node.item.part) and name in self.full_v
        )

    @cached_property
    def measures(self) -> tuple[Measure, ...]:
        return tuple(_measures(self.packs, self.pack_figures, self.missing))


def assess_power(concept: Concept, energy_reserve: float, usual: Mapping[str, float] | None = None) -> PowerResult:
    """Assess a concept's power: the mission run down, the peaks, and what is missing.

    `usual` has the current at work of loads whose task sets it, by item id.
    """
    tree = grow_tree(concept)
    currents, net = currents_of(concept, usual), net_of(tree)
    draws = draws_of(net, currents, np.hstack([currents.average, currents.starting]))
    figures = {i.id: pack_figures(i) for i in concept.items if i.part.pack is not None}
    missing = _missing(concept, tree, currents, figures)
    packs = tuple(
        _assess_pack(node, known, net, draws, concept, energy_reserve)
        for node in tree.packs
        if (known := figures[node.item.id]) is not None
    )
    return PowerResult(concept, energy_reserve, tree, packs, missing, currents, net, draws, figures)


def renamed(result: PowerResult, concept: Concept) -> PowerResult:
    """The same figures with a concept's own names, of the same parts, feeds and modes."""
    if result.concept is concept:
        return result
    tree = grow_tree(concept)
    known = {
        i: replace(f, item=tree.nodes[i].item if i in tree.nodes else f.item) if f is not None else None
        for i, f in result.pack_figures.items()
    }
    packs = tuple(
        replace(p, node=tree.nodes[name], figures=known[name] or p.figures)
        for p in result.packs
        for name in [p.node.item.id]
    )
    missing = _missing(concept, tree, result.currents, known)
    return PowerResult(
        concept, result.energy_reserve, tree, packs, missing, result.currents, result.net, result.draws, known
    )


def _missing(
    concept: Concept, tree: PowerTree, currents: Currents, packs: Mapping[str, PackFigures | None]
) -> tuple[Gap, ...]:
    return tuple(dict.fromkeys([*_missing_currents(concept, currents), *_missing_parts(concept, tree, packs)]))


def pack_figures(item: Item) -> PackFigures | None:
    """A pack's figures; None where its chemistry, capacity or resistance is not known. Copies stand in parallel."""
    spec = item.part.pack
    assert spec is not None
    chemistry = CHEMISTRIES.get(spec.chemistry)
    if chemistry is None or spec.cell_capacity_ah is None or spec.cell_resistance_ohm is None:
        return None
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


def _assess_pack(
    node: Node, figures: PackFigures, net: Net, draws: Draws, concept: Concept, energy_reserve: float
) -> PackResult:
    modes, n = len(concept.modes), net.index[node.item.id]
    average = _instants(draws, slice(0, modes))
    open_v = np.broadcast_to(figures.open_circuit_v, (modes, len(_GRID)))
    voltage, current = _loaded(net, n, figures, open_v, average)
    worst = _instants(draws, slice(modes, 2 * modes))
    low_v = np.full((modes, 1), figures.open_circuit_at(energy_reserve))
    peak_v, peak_a = _loaded(net, n, figures, low_v, worst)
    place = {m.id: i for i, m in enumerate(concept.modes)}
    phases = [(place[p.mode], p.duration_s) for p in concept.mission.phases]
    discharge = None
    if phases:
        rate = peukert_rate(current, figures.values.capacity_ah, figures.chemistry)
        discharge = run_down(rate, end_places(voltage, figures.cutoff_v, energy_reserve), phases)
    return PackResult(
        node, figures, voltage, current, tuple(peak_a[:, 0].tolist()), tuple(peak_v[:, 0].tolist()), discharge
    )


def _instants(draws: Draws, which: slice) -> Draws:
    return Draws(draws.current[:, which], draws.power[:, which], draws.conductance[:, which], draws.output_a[:, which])


def _loaded(net: Net, n: int, figures: PackFigures, open_v: Array, draws: Draws) -> tuple[Array, Array]:
    """Voltage and current of a pack over (modes, charges)."""
    ohm = figures.values.resistance_ohm
    solved = solve_points(net, n, open_v, ohm, draws, extra=1)
    volts = np.broadcast_to(solved[net.out[n]], open_v.shape)
    if ohm:
        return volts, (open_v - volts) / ohm
    return volts, np.broadcast_to(current_out(net, n, solved, draws, extra=1), open_v.shape)


def _missing_currents(concept: Concept, currents: Currents) -> list[Gap]:
    if not currents.unknown:
        return []
    names = {i.id: i.name for i in concept.items}
    states = {m.id: {u.item: u.state for u in m.uses} for m in concept.modes}
    rest = {m.id: m.otherwise for m in concept.modes}
    return [Gap(f"{names[i]}: its current when {states[m].get(i, rest[m])}", i) for i, m in currents.unknown]


def _missing_parts(concept: Concept, tree: PowerTree, packs: Mapping[str, PackFigures | None]) -> list[Gap]:
    gaps = [Gap(f"{i.name}: what feeds it", i.id) for i in tree.unfed]
    if not concept.modes:
        gaps.append(Gap("how it is used: its modes"))
    if not concept.mission.phases:
        gaps.append(NO_MISSION)
    for item in concept.items:
        regulator, load = item.part.regulator, item.part.load
        if item.part.pack is not None and packs[item.id] is None:
            gaps.append(Gap(f"{item.name}: chemistry, cell capacity and resistance", item.id))
        if regulator is not None and regulator.topology == "switching" and not regulator.efficiency_curve:
            gaps.append(Gap(f"{item.name}: its efficiency curve", item.id))
        if load is not None and load.draw != "current" and load.rated_v is None:
            gaps.append(Gap(f"{item.name}: the voltage its currents are given at", item.id))
    if not packs:
        gaps.append(Gap("a pack"))
    return gaps


NO_MISSION = Gap("the mission: which modes, and how long each lasts")


def _measures(
    packs: tuple[PackResult, ...], figures: Mapping[str, PackFigures | None], missing: tuple[Gap, ...]
) -> list[Measure]:
    runs = [p.discharge.runtime_s for p in packs if p.discharge is not None]
    peaks = [a for p in packs for a in p.peak_current_a]
    cannot = not all(p.delivers for p in packs)
    peak = float("inf") if cannot else max(peaks, default=None)
    low_pack = None if cannot else min((v for p in packs for v in p.peak_voltage_v), default=None)
    energy = sum(p.figures.values.energy_wh for p in packs) or None
    said = tuple(m.said for m in missing)
    peak_gaps = tuple(m.said for m in missing if m != NO_MISSION)
    unknown_packs = tuple(f"the energy of {i}" for i, f in figures.items() if f is None)
    return [
        Measure("runtime", "Runtime", min(runs, default=None), "s", direction="at least", missing=said),
        Measure("peak-current", "Peak current", peak, "A", missing=peak_gaps),
        Measure("lowest-voltage", "Lowest voltage", low_pack, "V", direction="at least", missing=peak_gaps),
        Measure("pack-energy", "Pack energy", energy, "Wh", direction="at least", missing=unknown_packs),
    ]
