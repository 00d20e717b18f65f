"""Power: what each mode takes from each pack, the peak with start-up, and how long the mission lasts."""

from dataclasses import dataclass, field
from functools import cache, cached_property
from typing import Any

import numpy as np

from wired_union.assess.power_draw import column, draw_at_input, mode_currents, settle
from wired_union.assess.power_tree import Node, PowerTree, grow_tree, state_in
from wired_union.assess.results import Measure, judged
from wired_union.physics.battery import CHEMISTRIES, Array, Chemistry, PackValues, pack, peukert_rate
from wired_union.physics.discharge import Discharge, charge_grid, end_places, run_down
from wired_union.project.model import Brief, Concept, Item, Mode

RUNNING = ("active", "peak")
_GRID = charge_grid()


@dataclass(frozen=True)
class PackFigures:
    """A pack ready to be asked: its values, chemistry, cut-off, and open-circuit voltage over the grid of charge."""

    item: Item
    values: PackValues
    chemistry: Chemistry
    cutoff_v: float
    open_circuit_v: Array = field(repr=False)

    def open_circuit_at(self, charge: float) -> float:
        return float(np.interp(charge, _GRID[::-1], self.open_circuit_v[::-1]))


@dataclass(frozen=True)
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


def _or_inf(value: float) -> float:
    return float("inf") if value != value else value


@dataclass(frozen=True)
class PowerResult:
    """What follows from a concept's feeds, modes and mission."""

    concept: Concept
    brief: Brief
    tree: PowerTree
    packs: tuple[PackResult, ...]
    missing: tuple[str, ...]
    average_a: tuple[dict[str, float], ...] = field(repr=False)
    starting_a: tuple[dict[str, float], ...] = field(repr=False)
    measures: tuple[Measure, ...]
    flows: dict[tuple[int, float, bool], Any] = field(default_factory=dict, repr=False, compare=False)
    """What `mode_flows` has worked out already; several checks and views ask for the same."""
    settled: dict[tuple[str, int, float, bool], Any] = field(default_factory=dict, repr=False, compare=False)
    """By pack: the voltage it has come to, and the draw of every node below it."""

    @cached_property
    def mode_index(self) -> dict[str, int]:
        return {m.id: i for i, m in enumerate(self.concept.modes)}


def assess_power(concept: Concept, brief: Brief) -> PowerResult:
    """Assess a concept's power: the mission simulated, the peaks, and what is missing."""
    tree = grow_tree(concept)
    average, _, starting, gaps = current_tables(concept)
    known = {i.id: pack_figures(i) for i in concept.items if i.part.pack is not None}
    missing = tuple(dict.fromkeys([*gaps, *_missing_parts(concept, tree, known)]))
    packs = tuple(
        _assess_pack(node, figures, concept, brief, average, starting)
        for node in tree.packs
        if (figures := known[node.item.id]) is not None
    )
    measures = tuple(judged(m, brief) for m in _measures(packs, concept, missing))
    return PowerResult(
        concept, brief, tree, packs, missing, tuple(average), tuple(starting), measures
    )  # fmt: skip


Table = list[dict[str, float]]
"""For each mode the current of each load by item id, all copies together, at rated voltage."""


def current_tables(concept: Concept) -> tuple[Table, Table, Table, list[str]]:
    """Each mode's average currents, undivided currents, currents at its worst instant, and what is not known."""
    loads = tuple(i for i in concept.items if i.part.load is not None)
    average, steady = [], []
    gaps: list[str] = []
    for mode in concept.modes:
        mean, full, unknown = mode_currents(mode, loads)
        average.append(mean)
        steady.append(full)
        gaps.extend(f"{i.name}: its current when {state_in(mode, i.id)}" for i in loads if i.id in unknown)
    return average, steady, _start_currents(concept, loads, steady), gaps


def pack_figures(item: Item) -> PackFigures | None:
    """A pack item's figures; None where its capacity or resistance is not known. Copies stand in parallel."""
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


def _start_currents(
    concept: Concept, loads: tuple[Item, ...], steady: list[dict[str, float]]
) -> list[dict[str, float]]:
    """Currents at the worst instant of each mode: what starts in it at its start-up current, the rest at work.

    Brushed motors start at stall current, and several starting together add: common practice.
    """
    starters = [i for i in loads if i.part.load is not None and i.part.load.startup_a is not None]
    result = []
    for index, mode in enumerate(concept.modes):
        currents = dict(steady[index])
        rises = {
            i.id: max(i.count * (i.part.load.startup_a or 0.0), currents[i.id])  # type: ignore[union-attr]
            for i in starters
            if state_in(mode, i.id) in RUNNING and _starts_in(concept, mode, i.id)
        }
        if mode.staggered and rises:
            rises = _largest_single_rise(rises, currents, starters)
        currents.update(rises)
        result.append(currents)
    return result


def _largest_single_rise(rises: dict[str, float], currents: dict[str, float], starters: list[Item]) -> dict[str, float]:
    counts = {i.id: i.count for i in starters}
    one = {i: currents[i] + (rises[i] - currents[i]) / counts[i] for i in rises}
    first = max(one, key=lambda i: one[i] - currents[i])
    return {first: one[first]}


def _starts_in(concept: Concept, mode: Mode, item_id: str) -> bool:
    """Whether an item that runs in a mode was at rest before it somewhere in the mission, or cycles within it."""
    use = next((u for u in mode.uses if u.item == item_id), None)
    if use is not None and use.duty < 1:
        return True
    phases = concept.mission.phases
    modes = {m.id: m for m in concept.modes}
    for i, phase in enumerate(phases):
        if phase.mode != mode.id:
            continue
        before = phases[i - 1].mode if i else None
        if before is None or state_in(modes[before], item_id) not in RUNNING:
            return True
    return not phases


def _assess_pack(
    node: Node,
    figures: PackFigures,
    concept: Concept,
    brief: Brief,
    average: list[dict[str, float]],
    starting: list[dict[str, float]],
) -> PackResult:
    modes = len(average)
    draw = draw_at_input(node, _instants(average, starting))
    ohm = figures.values.resistance_ohm
    open_v = np.empty((2 * modes, len(_GRID)))
    open_v[:modes], open_v[modes:] = figures.open_circuit_v, figures.open_circuit_at(brief.energy_reserve)
    volts = np.broadcast_to(settle(open_v, ohm, column(draw)), open_v.shape)
    amperes = (open_v - volts) / ohm if ohm else np.broadcast_to(column(draw).at(volts), open_v.shape)
    voltage, current = volts[:modes], amperes[:modes]
    phases = [(i, p.duration_s) for p in concept.mission.phases for i in [_mode_place(concept, p.mode)]]
    discharge = None
    if phases:
        rate = peukert_rate(current, figures.values.capacity_ah, figures.chemistry)
        discharge = run_down(rate, end_places(voltage, figures.cutoff_v, brief.energy_reserve), phases)
    return PackResult(
        node, figures, voltage, current, tuple(amperes[modes:, 0].tolist()), tuple(volts[modes:, 0].tolist()), discharge
    )


def _mode_place(concept: Concept, mode_id: str) -> int:
    return next(i for i, m in enumerate(concept.modes) if m.id == mode_id)


def _instants(average: list[dict[str, float]], starting: list[dict[str, float]]) -> dict[str, Array]:
    """Currents by item over all instants: each mode's average, then each mode's worst."""
    both = [*average, *starting]
    if not both:
        return {}
    table = np.array([list(c.values()) for c in both])
    return {item: table[:, k] for k, item in enumerate(both[0])}


def _missing_parts(concept: Concept, tree: PowerTree, packs: dict[str, PackFigures | None]) -> list[str]:
    gaps = [f"{i.name}: what feeds it" for i in tree.unfed]
    if not concept.mission.phases:
        gaps.append("the mission: which modes, and how long each lasts")
    for item in concept.items:
        regulator, load = item.part.regulator, item.part.load
        if item.part.pack is not None and packs[item.id] is None:
            gaps.append(f"{item.name}: chemistry, cell capacity and resistance")
        if regulator is not None and regulator.topology == "switching" and not regulator.efficiency_curve:
            gaps.append(f"{item.name}: its efficiency curve")
        if load is not None and load.draw != "current" and load.rated_v is None:
            gaps.append(f"{item.name}: the voltage its currents are given at")
    if not packs:
        gaps.append("a pack")
    return gaps


def _measures(packs: tuple[PackResult, ...], concept: Concept, missing: tuple[str, ...]) -> list[Measure]:
    runs = [p.discharge.runtime_s for p in packs if p.discharge is not None]
    runtime = min(runs, default=None)
    peaks = [max(p.peak_current_a) for p in packs if p.peak_current_a]
    cannot = any(x != x for p in packs for x in p.peak_current_a)
    peak = max(peaks, default=None) if not cannot else float("inf")
    lows = [min(p.peak_voltage_v) / p.figures.cutoff_v for p in packs if p.peak_voltage_v and not cannot]
    low_pack = next((min(p.peak_voltage_v) for p in packs if p.peak_voltage_v and not cannot), None)
    energy = sum(p.figures.values.energy_wh for p in packs) or None
    peak_gaps = tuple(m for m in missing if not m.startswith("the mission"))
    return [
        Measure("runtime", "Runtime", runtime, "s", direction="at least", missing=missing),
        Measure("peak-current", "Peak current", peak, "A", missing=peak_gaps),
        Measure("lowest-voltage", "Lowest voltage", low_pack if lows else None, "V", direction="at least",
                missing=peak_gaps),
        Measure("pack-energy", "Pack energy", energy, "Wh", direction="at least"),
    ]  # fmt: skip
