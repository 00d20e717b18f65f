"""Packs of a concept: their figures, and how each runs down through the mission and sags at its worst instant."""

from collections.abc import Callable, Mapping, Sequence
from functools import cache

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.battery import (
    CHEMISTRIES,
    MONTH_H,
    Array,
    Chemistry,
    PackValues,
    loaded_voltage,
    pack,
    peukert_rate,
)
from wired_union.physics.cell_state import FULL_C, NEW, CellState, rises_by, state_of
from wired_union.physics.discharge import Discharge, charge_grid, end_places, run_down, stretched
from wired_union.project.model import Concept, Item, JoinedPack, Regulator
from wired_union.subjects.power.bent import Bent
from wired_union.subjects.power.joined import Cells, as_one, together
from wired_union.subjects.power.net import (
    Draws,
    Net,
    current_out,
    efficiency_of,
    is_zero,
    lossier,
    quiescent_a,
    solve_points,
)
from wired_union.subjects.power.supplies import CONTACT_OHM, SupplyFigures, supply_figures
from wired_union.subjects.power.tree import Node, PowerTree, pack_is_known

_GRID = charge_grid()
NOTHING: Mapping[str, float] = {}


class PackFigures(Struct, frozen=True, eq=False):
    """A pack ready to be asked: its values, chemistry, cut-off, and open-circuit voltage over the grid of charge."""

    item: Item
    values: PackValues
    chemistry: Chemistry
    cutoff_v: float
    open_circuit_v: Array
    state: CellState = NEW
    """What is left of its figures as cold and as worn as it is; `values` count with it."""
    stand_in: SupplyFigures | None = None
    """The supply that it gives way to in the modes in which that is plugged in."""
    members: tuple["PackFigures", ...] = ()
    """Where others stand beside it: itself and each of them alone; `values` and the voltage are then of all."""
    cutoff_along_v: Array | None = None
    """Where others stand beside it: the cut-off of the one that gives, over the grid."""
    gives: Array | None = None
    """Where others stand beside it: share of what is used that each gives, shape (members, grid)."""
    gained_per_h: float = 0.0
    """Share of its charge that the sun surely brings in an hour, on the mean of a day."""

    @property
    def rated_energy_wh(self) -> float:
        """What is printed on it: new, and in a room."""
        spec = self.item.part.pack
        assert spec is not None
        return self.alone.values.voltage_v * (spec.cell_capacity_ah or 0.0) * spec.parallel * self.copies

    @property
    def empty_times(self) -> float:
        """Times its resistance when it is empty; of several together the worst counts all the time."""
        spec = self.item.part.pack
        return spec.empty_times if spec is not None and not self.members else 1.0

    def ohm_at(self, charge: float | Array) -> float | Array:
        """Its resistance with some charge left; a number where it stays the same."""
        if self.empty_times == 1.0:
            return self.values.resistance_ohm
        return self.values.resistance_ohm * rises_by(charge, self.empty_times)

    @property
    def alone(self) -> "PackFigures":
        """The same without what stands beside it."""
        return self.members[0] if self.members else self

    @property
    def floor_v(self) -> float | Array:
        """Its cut-off; over the grid where others stand beside it."""
        return self.cutoff_v if self.cutoff_along_v is None else self.cutoff_along_v

    def rate_per_h(self, current_a: Array, capacity_ah: float | Array) -> Array:
        """Share of the charge that a current uses in an hour, of so much capacity; along the grid, fine or coarse.

        Where others stand beside it each shrinks as if it gave alone what all give while it does.
        """
        if self.gives is None:
            return peukert_rate(current_a, capacity_ah, self.chemistry)
        plain = current_a / capacity_ah
        places = np.linspace(0, len(_GRID) - 1, current_a.shape[-1]).round().astype(int)
        stretched = np.zeros_like(plain)
        with np.errstate(invalid="ignore", divide="ignore"):
            for member, share in zip(self.members, self.gives[:, places], strict=True):
                own = peukert_rate(current_a, member.values.capacity_ah, member.chemistry) * member.values.capacity_ah
                stretched += share * np.fmax(own / current_a, 1.0)
        return plain * stretched

    @property
    def converter(self) -> Regulator | None:
        """What a power bank makes its voltage with; None for cells alone."""
        return self.item.part.regulator

    @property
    def shares(self) -> bool:
        """Whether several in parallel divide a current: not power banks, nor cells that are not charged together."""
        return self.converter is None and self.chemistry.rechargeable

    @property
    def copies(self) -> int:
        """How many count: all that share a load."""
        return self.item.count if self.shares else 1

    @property
    def highest_v(self) -> float:
        """Highest voltage that it gives: what hangs on it must survive that."""
        other = self.stand_in.output_v if self.stand_in is not None else 0.0
        beside = max((m.charged_v for m in self.members), default=0.0)
        return max(self.converter.output_v if self.converter is not None else self.charged_v, other, beside)

    @property
    def rested_v(self) -> float:
        """Highest voltage that it gives at rest, full."""
        other = self.stand_in.output_v if self.stand_in is not None else 0.0
        own = self.converter.output_v if self.converter is not None else self.open_circuit_at(1.0)
        return max(own, other)

    @property
    def lost_per_h(self) -> float:
        """Share of its charge that it loses by itself in an hour, as far as that is said."""
        if self.members:
            return sum(m.lost_per_h * m.values.capacity_ah for m in self.members) / self.values.capacity_ah
        spec = self.item.part.pack
        return (spec.self_discharge_a_month or 0.0) / MONTH_H if spec is not None else 0.0

    @property
    def net_lost_per_h(self) -> float:
        """What it loses by itself less what the sun brings; below 0 where it gains."""
        return self.lost_per_h - self.gained_per_h

    @property
    def charged_v(self) -> float:
        """Voltage of its cells at the end of their charge."""
        series = self.item.part.pack.series if self.item.part.pack is not None else 0
        return max(series * self.chemistry.charge_end_v, float(self.open_circuit_v[0]))

    def open_circuit_at(self, charge: float) -> float:
        return float(np.interp(charge, _GRID[::-1], self.open_circuit_v[::-1]))

    def along(self, charges: Array, plugged_in: Array) -> tuple[Array, float | Array]:
        """Voltage without load and resistance at several instants: the charge at each, and whether its supply is in."""
        if self.converter is not None:
            open_v = np.full(charges.shape, self.converter.output_v)
            ohm: float | Array = 0.0
        else:
            open_v, ohm = np.interp(charges, _GRID[::-1], self.open_circuit_v[::-1]), self.ohm_at(charges)
        if self.stand_in is None:
            return open_v, ohm
        given, its = self.stand_in.output_v, self.stand_in.resistance_ohm
        ohms = np.where(plugged_in, max(its, CONTACT_OHM), np.maximum(ohm, CONTACT_OHM))
        return np.where(plugged_in, given, open_v), ohms


class PackResult(Struct, frozen=True, eq=False):
    """One pack through the mission. Arrays are over (modes, grid of charge)."""

    node: Node
    figures: PackFigures
    voltage_v: Array
    current_a: Array
    peak_current_a: tuple[float, ...]
    peak_voltage_v: tuple[float, ...]
    discharge: Discharge | None
    bare_s: float = 0.0
    """How long it lasts without what it loses by itself or gains; 0 without a mission."""

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


def figures_of(
    tree: PowerTree, energy_reserve: float, coldest_c: Callable[[str], float] = lambda _: FULL_C,
    charged_w: Mapping[str, float] = NOTHING,
) -> dict[str, PackFigures | SupplyFigures | None]:  # fmt: skip
    """Figures of every pack and supply as cold as each gets; None for a pack that is not known."""
    found: dict[str, PackFigures | SupplyFigures | None] = {}
    for root in tree.roots:
        item, stand_in = root.item, tree.stands_in.get(root.item.id)
        if item.part.pack is None:
            found[item.id] = supply_figures(item)
        else:
            found[item.id] = pack_figures(
                item, coldest_c(item.id), None if stand_in is None else tree.nodes[stand_in].item
            )
    for name, watts in charged_w.items():
        if isinstance(figures := found.get(name), PackFigures) and figures.values.energy_wh > 0:
            gained = watts * figures.chemistry.stored_share / figures.values.energy_wh
            found[name] = replace(figures, gained_per_h=gained)
    for leader, joints in tree.beside.items():
        found[leader] = _with_beside(found, leader, joints, energy_reserve)
    return found


def _with_beside(
    found: Mapping[str, PackFigures | SupplyFigures | None], leader: str, joints: Sequence[JoinedPack], reserve: float
) -> PackFigures | SupplyFigures | None:  # fmt: skip
    """A pack with those beside it as one; by itself while one of them is not known, which `missing` tells."""
    own, others = found[leader], [found[j.beside] for j in joints]
    members = [m for m in (own, *others) if isinstance(m, PackFigures)]
    if not isinstance(own, PackFigures) or len(members) <= len(joints):
        return own
    in_turn = joints[0].how == "switch"
    through = [(0.0 if in_turn else j.drop_v or 0.0, j.resistance_ohm) for j in (joints[0], *joints)]
    cells = [Cells(m.open_circuit_v - drop, m.values.capacity_ah, float(m.ohm_at(reserve)) + ohm, m.cutoff_v - drop)
             for m, (drop, ohm) in zip(members, through, strict=True)]  # fmt: skip
    made = together(cells, reserve, in_turn=in_turn)
    return replace(
        own, values=as_one(own.values, made), open_circuit_v=made.open_v, cutoff_v=float(made.cutoff_v[-1]),
        cutoff_along_v=made.cutoff_v, gives=made.gives, members=tuple(members),
        gained_per_h=sum(m.gained_per_h * m.values.capacity_ah for m in members) / made.capacity_ah,
    )  # fmt: skip


def pack_figures(item: Item, coldest_c: float = FULL_C, stand_in: Item | None = None) -> PackFigures | None:
    """A pack's figures, as cold and worn as it is; None where its chemistry, capacity or resistance is not known.

    Copies stand in parallel; those that do not share count as one.
    """
    spec = item.part.pack
    assert spec is not None
    if not pack_is_known(spec):
        return None
    chemistry = CHEMISTRIES[spec.chemistry]
    assert spec.cell_capacity_ah is not None
    assert spec.cell_resistance_ohm is not None
    copies = item.count if chemistry.rechargeable and item.part.regulator is None else 1
    state = state_of(coldest_c, spec.measured_at_c, spec.worn, chemistry.share_at_0_c, chemistry.times_at_0_c)
    values = pack(
        spec.series, spec.parallel * copies, chemistry.nominal_v, spec.cell_capacity_ah * state.capacity_share,
        (spec.cell_resistance_ohm + spec.cell_slow_ohm + spec.cell_minutes_ohm) * state.resistance_times,
    )  # fmt: skip
    cutoff = spec.series * (spec.cutoff_cell_v or chemistry.cutoff_v)
    other = supply_figures(stand_in) if stand_in is not None else None
    return PackFigures(item, values, chemistry, cutoff, spec.series * _cell_curve(spec.chemistry), state, other)


@cache
def _cell_curve(chemistry: str) -> Array:
    """Open-circuit voltage of one cell over the grid of charge."""
    figures = CHEMISTRIES[chemistry]
    return np.interp(_GRID, figures.charge, figures.open_circuit_v)


Known = list[PackFigures]
"""One pack's figures in each variant."""


def assess_packs(
    net: Net, draws: Draws, nodes: Sequence[Sequence[Node]], concept: Concept, energy_reserve: float,
    figures: Sequence[Mapping[str, PackFigures | SupplyFigures | None]],
) -> list[tuple[PackResult, ...]]:  # fmt: skip
    """Every known pack of every variant through the mission; `nodes` has each variant's packs and supplies."""
    found: list[tuple[PackResult, ...]] = [() for _ in nodes]
    for place, first in enumerate(nodes[0]):
        known = [f for one in figures if isinstance(f := one[first.item.id], PackFigures)]
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
    low_v = np.repeat([f.open_circuit_at(energy_reserve) for f in figures], modes)[:, None]
    ohm = _along_grid(figures, modes)
    low_ohm = _per_instant([float(f.ohm_at(energy_reserve)) for f in figures], modes)
    if figures[0].converter is not None:
        run, peak = _bank(net, n, figures, modes, (ohm, open_v, average), (low_ohm, low_v, worst))
    else:
        run, peak = loaded(net, n, ohm, open_v, average), loaded(net, n, low_ohm, low_v, worst)
    voltage, current = (a.reshape(variants, modes, len(_GRID)) for a in run)
    peak_v, peak_a = (a.reshape(variants, modes) for a in peak)
    if figures[0].stand_in is not None:
        voltage, current, peak_v, peak_a = _relieved(concept, open_v, low_v, voltage, current, peak_v, peak_a)
    place = {m.id: i for i, m in enumerate(concept.modes)}
    phases = [(place[p.mode], p.duration_s) for p in concept.mission.phases]
    return [
        PackResult(node, one, voltage[v], current[v], tuple(peak_a[v].tolist()), tuple(peak_v[v].tolist()),
                   *_run(one, voltage[v], current[v], phases, energy_reserve))
        for v, (node, one) in enumerate(zip(nodes, figures, strict=True))
    ]  # fmt: skip


def _along_grid(figures: Known, modes: int) -> float | Array:
    """Resistance of each variant's pack: a number, or over the instants, or over the grid too where it rises."""
    if all(f.empty_times == 1.0 for f in figures):
        return _per_instant([f.values.resistance_ohm for f in figures], modes)
    return np.stack([np.broadcast_to(f.ohm_at(_GRID), _GRID.shape) for f in figures]).repeat(modes, axis=0)


Loaded = tuple[float | Array, Array, Draws]
"""A pack's resistance, its open-circuit voltage over (instants, charges), and what is drawn."""


def _bank(
    net: Net, n: int, figures: Known, modes: int, on_average: Loaded, at_worst: Loaded
) -> tuple[tuple[Array, Array], tuple[Array, Array]]:
    """A power bank: its cells' voltage and current through the mission, and what it gives at its worst instants.

    Its converter holds the output; its cells give that power through its efficiency, and what it takes itself. Where
    they would fall below the cut-off it switches off: not a number.
    """
    cells_v, cells_a, _ = from_cells(net, n, figures, modes, *on_average)
    low_v, _, given_a = from_cells(net, n, figures, modes, *at_worst)
    floor = np.repeat([f.cutoff_v for f in figures], modes)[:, None]
    made = _per_instant([c.output_v for f in figures if (c := f.converter) is not None], modes)
    works = low_v >= floor
    return (cells_v, cells_a), (np.where(works, made, np.nan), np.where(works, given_a, np.nan))


def from_cells(
    net: Net, n: int, figures: Known, modes: int, ohm: float | Array, open_v: Array, draws: Draws
) -> tuple[Array, Array, Array]:
    """Voltage and current of a power bank's cells over (instants, charges), and what it gives over (instants, 1).

    `figures` has each variant's bank, of so many modes each.
    """
    converters = [c for f in figures if (c := f.converter) is not None]
    made_v = np.repeat([c.output_v for c in converters], modes)[:, None]
    times = draws.times(n, extra=1)
    own_a = np.repeat([quiescent_a(f.item) for f in figures], modes)[:, None] * times
    _, given_a = loaded(net, n, 0.0, made_v, draws)
    given_w = given_a * made_v
    power_w = lossier(given_w, given_w / np.reshape(efficiency_of(net, n, given_a[:, 0]), (-1, 1)), times)
    with np.errstate(invalid="ignore", divide="ignore"):
        volts = loaded_voltage(open_v, ohm, own_a, power_w, np.zeros(1))
    return volts, power_w / volts + own_a, given_a


def holds_up(net: Net, n: int, figures: Known, charges: Array, draws: Draws) -> Array:
    """Whether the cells of a power bank carry what it gives at every instant; shape (instants,).

    `charges` are those of one variant's instants; `draws` has every variant's.
    """
    wide = len(charges)
    open_v = np.concatenate([np.interp(charges, _GRID[::-1], f.open_circuit_v[::-1]) for f in figures])[:, None]
    ohm = np.concatenate([np.broadcast_to(f.ohm_at(charges), charges.shape) for f in figures])[:, None]
    cells_v, _, _ = from_cells(net, n, figures, wide, ohm, open_v, draws)
    floor = np.repeat([f.cutoff_v for f in figures], wide)
    return np.asarray(cells_v[:, 0] >= floor)


def _relieved(
    concept: Concept, open_v: Array, low_v: Array, voltage: Array, current: Array, peak_v: Array, peak_a: Array
) -> tuple[Array, Array, Array, Array]:
    """The same with a pack that rests in the modes in which its supply is plugged in."""
    rests = np.array([m.plugged_in for m in concept.modes])
    rested, low = open_v.reshape(voltage.shape), low_v.reshape(peak_v.shape)
    return (
        np.where(rests[None, :, None], rested, voltage), np.where(rests[None, :, None], 0.0, current),
        np.where(rests, low, peak_v), np.where(rests, 0.0, peak_a),
    )  # fmt: skip


def _run(
    figures: PackFigures, voltage: Array, current: Array, phases: list[tuple[int, float]], energy_reserve: float
) -> tuple[Discharge | None, float]:
    """How it runs down, and how long that takes without what it loses by itself or gains."""
    if not phases:
        return None, 0.0
    rate = figures.rate_per_h(current, figures.values.capacity_ah)
    run = run_down(rate, end_places(voltage - figures.floor_v, 0.0, energy_reserve), phases)
    return stretched(run, figures.net_lost_per_h), run.runtime_s


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
        bent = [Bent(b.point, *(half(t[None], which)[0] for t in (b.low_v, b.high_v, b.low_w, b.high_w)))
                for b in draws.bent]  # fmt: skip
        return Draws(current, power, conductance, output_a, bent=bent)

    return halved(0), halved(1)


def loaded(net: Net, n: int, ohm: float | Array, open_v: Array, draws: Draws) -> tuple[Array, Array]:
    """Voltage and current of a pack over (instants, charges)."""
    solved = solve_points(net, n, open_v, ohm, draws, extra=1)
    volts = np.broadcast_to(solved[net.out[n]], open_v.shape)
    if not is_zero(ohm):
        return volts, (open_v - volts) / ohm
    return volts, np.broadcast_to(current_out(net, n, solved, draws, extra=1), open_v.shape)
