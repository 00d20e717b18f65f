"""Power: what each mode takes from each pack, the peak with start-up, and how long the mission lasts."""

from collections.abc import Mapping, Sequence
from functools import cached_property

from msgspec import Struct, field
from msgspec.structs import replace

from wired_union.kernel.results import Measure
from wired_union.physics.battery import Array
from wired_union.project.model import Concept, Item, Mode
from wired_union.project.part_edits import feeds_others
from wired_union.subjects.power.currents import Currents, currents_of_all
from wired_union.subjects.power.flow import Flow, Flows
from wired_union.subjects.power.instants import Figure, Instants, Supplies
from wired_union.subjects.power.missing import NO_MISSION, Around, Gap, missing_by_itself, missing_of
from wired_union.subjects.power.net import shape_of
from wired_union.subjects.power.packs import PackFigures, PackResult, assess_packs, figures_of
from wired_union.subjects.power.supplies import SupplyFigures, SupplyResult
from wired_union.subjects.power.tree import PowerTree, grow_tree


class Source(Struct, frozen=True):
    """Something in the concept that could feed a part, with the range of voltage it gives."""

    item: Item
    low_v: float
    high_v: float
    rested_v: float
    """From full packs that rest."""


class PowerResult(Struct, frozen=True, eq=False, dict=True):
    """What follows from a concept's feeds, modes and mission."""

    concept: Concept
    around: Around
    tree: PowerTree
    packs: tuple[PackResult, ...]
    missing: tuple[Gap, ...]
    currents: Currents
    instants: Instants
    figures: dict[str, PackFigures | SupplyFigures | None]
    """Of every pack and supply; None for a pack that is not known."""
    columns: dict[tuple[int, bool], dict[str, Flow]] = field(default_factory=dict)
    """What `mode_flows` has read out already; several checks and views ask for the same."""
    by_itself: tuple[Gap, ...] = ()
    """What else is not known that decides how long it lasts, and nothing besides."""

    @property
    def energy_reserve(self) -> float:
        """Share of every pack that is not planned on."""
        return self.around.energy_reserve

    @property
    def gaps(self) -> list[str]:
        """What is not known of how much flows on average, in words: all that is missing but peaks."""
        return [m.said for m in self.missing if m.lacks != "a peak"]

    @cached_property
    def mode_index(self) -> dict[str, int]:
        return {m.id: i for i, m in enumerate(self.concept.modes)}

    @property
    def flows(self) -> Flows:
        """Every node in every mode: first on average at half charge, then at the worst instant at the reserve."""
        return self.instants.flows

    def input_v(self, item_id: str) -> Array:
        """Voltage at the input of one item, as in `flows`. Raises KeyError where no pack feeds it."""
        return self.instants.input_v(item_id)

    @cached_property
    def modes(self) -> int:
        return len(self.concept.modes)

    @cached_property
    def full_v(self) -> dict[str, float]:
        """Highest voltage at each node's input: packs at the end of their charge. Nothing where one is not known."""
        return self._at_inputs({i: f.highest_v for i, f in self.figures.items() if f is not None})

    @cached_property
    def rested_v(self) -> dict[str, float]:
        """The same from full packs that rest without load."""
        return self._at_inputs({i: f.rested_v for i, f in self.figures.items() if f is not None})

    def _at_inputs(self, packs: Mapping[str, float]) -> dict[str, float]:
        found: dict[str, float] = {}
        given: dict[str, float] = {}
        for name, node in self.tree.nodes.items():
            above = self.tree.source_of.get(name)
            volts = given.get(above) if above is not None else packs.get(name)
            if volts is None:
                continue
            found[name] = volts
            given[name] = volts if above is None else node.supply_v or volts
        return found

    @cached_property
    def limiting(self) -> PackResult | None:
        """The pack that ends the mission first; None where none has been run down."""
        run = [(p.discharge.runtime_s, n, p) for n, p in enumerate(self.packs) if p.discharge is not None]
        return min(run, default=(0.0, 0, None))[2]

    @cached_property
    def hardest(self) -> PackResult | None:
        """The pack that is asked for the highest current at its worst instant; None without a known pack."""
        return max(self.packs, key=lambda p: p.highest_a, default=None)

    @cached_property
    def supplies(self) -> tuple[SupplyResult, ...]:
        """Every supply at the worst instant of every mode."""
        found = []
        for root in self.tree.roots:
            figures = self.figures[root.item.id]
            if isinstance(figures, SupplyFigures):
                rows = (self.flows.row(root.item.id, name)[self.modes :] for name in ("current_a", "input_v"))
                current, volts = (tuple(row.tolist()) for row in rows)
                found.append(SupplyResult(root, figures, current, volts))
        return tuple(found)

    @property
    def worst_mode(self) -> int:
        """Index of the mode in which most is asked of a pack, or of a supply where there is no pack."""
        if self.hardest is not None:
            return self.hardest.worst_mode
        most = max(self.supplies, key=lambda s: max(map(_or_inf, s.peak_current_a), default=0.0), default=None)
        if most is None:
            return 0
        return max(range(self.modes), key=lambda m: _or_inf(most.peak_current_a[m]), default=0)

    def average(self, item_id: str, figure: Figure) -> Array:
        """A figure of a node on average in every mode, at half charge."""
        return self.flows.row(item_id, figure)[: self.modes]

    def most(self, item_id: str, figure: Figure) -> tuple[float, Mode | None]:
        """Highest figure of a node over all modes, and the mode; NaN wins, since nothing can deliver it."""
        value, mode = self.instants.highest(item_id, figure)
        return (value, self.concept.modes[mode]) if self.modes else (0.0, None)

    def lowest_v(self, item_id: str) -> tuple[float, Mode | None]:
        """Lowest voltage at a node's input over all modes, and the mode; NaN wins."""
        value, mode = self.instants.lowest_v(item_id)
        return (value, self.concept.modes[mode]) if self.modes else (float("inf"), None)

    def lowest_of_all(self) -> dict[str, tuple[float, Mode | None]]:
        """`lowest_v` of every node, at once."""
        if not self.modes:
            return dict.fromkeys(self.tree.nodes, (float("inf"), None))
        modes = self.concept.modes
        return {i: (v, modes[m]) for i, v, m in self.instants.lowest_of_all()}

    @cached_property
    def offered(self) -> tuple["Source", ...]:
        """Everything fed by a known pack that can feed more, packs first, with the range of voltage it gives."""
        found = (self.source(name) for name in self.tree.nodes)
        return tuple(s for s in found if s is not None)

    def source(self, item_id: str) -> "Source | None":
        """An item as a source, None where it feeds nothing, or no known pack feeds it."""
        node = self.tree.nodes.get(item_id)
        if node is None or not feeds_others(node.item.part) or item_id not in self.full_v:
            return None
        if item_id in self.tree.stands_in.values():  # what hangs on its pack hangs on it
            return None
        made = node.supply_v if item_id not in self.figures else None
        if made is not None:
            return Source(node.item, made, made, made)
        return Source(node.item, self.lowest_v(item_id)[0], self.full_v[item_id], self.rested_v[item_id])

    @cached_property
    def measures(self) -> tuple[Measure, ...]:
        return tuple(_measures(self.packs, self.supplies, self.figures, self.missing, self.by_itself))


def assess_power(concept: Concept, around: Around, usual: Mapping[str, float] | None = None) -> PowerResult:
    """Assess a concept's power: the mission run down, the peaks, and what is missing.

    `usual` has the current at work of loads whose task sets it, by item id.
    """
    return assess_powers([concept], [around], [usual or {}])[0]


def assess_powers(
    concepts: Sequence[Concept], around: Sequence[Around], usual: Sequence[Mapping[str, float]]
) -> list[PowerResult]:  # fmt: skip
    """Assess several concepts, those of one shape together."""
    trees = [grow_tree(c, a.hottest_c) for c, a in zip(concepts, around, strict=True)]
    found: dict[int, PowerResult] = {}
    for group in _alike(concepts, trees, [a.energy_reserve for a in around]):
        results = _assess([concepts[n] for n in group], [trees[n] for n in group], [around[n] for n in group],
                          [usual[n] for n in group])  # fmt: skip
        found.update(zip(group, results, strict=True))
    return [found[n] for n in range(len(concepts))]


def _alike(
    concepts: Sequence[Concept], trees: Sequence[PowerTree], energy_reserves: Sequence[float]
) -> list[list[int]]:
    """Which concepts differ only in what stands at their places, so that they can be solved side by side."""
    if len(concepts) == 1:
        return [[0]]
    groups: list[tuple[object, list[int]]] = []
    for n, (concept, tree) in enumerate(zip(concepts, trees, strict=True)):
        draws = [i.id if i.part.load is not None else None for i in concept.items]
        key = (shape_of(tree), draws, concept.modes, concept.mission, energy_reserves[n])
        group = next((g for known, g in groups if known == key), None)
        if group is None:
            groups.append((key, [n]))
        else:
            group.append(n)
    return [g for _, g in groups]


def _assess(
    concepts: Sequence[Concept], trees: Sequence[PowerTree], around: Sequence[Around],
    usual: Sequence[Mapping[str, float]],
) -> list[PowerResult]:  # fmt: skip
    """Concepts of one shape and one reserve."""
    energy_reserve = around[0].energy_reserve
    currents = currents_of_all(concepts, usual)
    figures = [figures_of(t, a.energy_reserve, a.pack_c, dict(a.charged_w)) for t, a in zip(trees, around, strict=True)]
    supplies = Supplies(trees, currents, figures, concepts[0].modes, energy_reserve)
    packs = assess_packs(supplies.net, supplies.draws, [t.roots for t in trees], concepts[0], energy_reserve, figures)
    return [
        PowerResult(
            c,
            around[v],
            tree,
            run,
            missing_of(c, tree, drawn, known, around[v]),
            drawn,
            Instants(supplies, v),
            known,
        )
        for v, (c, tree, run, drawn, known) in enumerate(zip(concepts, trees, packs, currents, figures, strict=True))
    ]


def renamed(result: PowerResult, concept: Concept) -> PowerResult:
    """The same figures with a concept's own names, of the same parts, feeds and modes."""
    if result.concept is concept:
        return result
    tree = grow_tree(concept, result.around.hottest_c)
    known = figures_of(tree, result.around.energy_reserve, result.around.pack_c, dict(result.around.charged_w))
    packs = tuple(
        replace(p, node=tree.nodes[name], figures=new if isinstance(new, PackFigures) else p.figures)
        for p in result.packs
        for name in [p.node.item.id]
        for new in [known[name]]
    )
    missing = missing_of(concept, tree, result.currents, known, result.around)
    return PowerResult(concept, result.around, tree, packs, missing, result.currents, result.instants, known)


def asked_of(result: PowerResult, wanted_s: float) -> PowerResult:
    """The same with what must be known of cells for them to last that long, which nothing else rests on."""
    gaps = tuple(missing_by_itself(result.packs, wanted_s))
    return replace(result, by_itself=gaps) if gaps else result


def _or_inf(value: float) -> float:
    return float("inf") if value != value else value


def _measures(
    packs: tuple[PackResult, ...], supplies: tuple[SupplyResult, ...],
    figures: Mapping[str, PackFigures | SupplyFigures | None], missing: tuple[Gap, ...], by_itself: tuple[Gap, ...],
) -> list[Measure]:  # fmt: skip
    runs = [p.discharge.runtime_s for p in packs if p.discharge is not None]
    if supplies and not any(isinstance(f, PackFigures) or f is None for f in figures.values()):
        runs = [float("inf")]  # what is plugged in does not run down
    roots: list[PackResult | SupplyResult] = [*packs, *supplies]
    peaks = [a for p in roots for a in p.peak_current_a]
    cannot = not all(p.delivers for p in roots)
    peak = float("inf") if cannot else max(peaks, default=None)
    low_pack = None if cannot else min((v for p in roots for v in p.peak_voltage_v), default=None)
    energy = sum(p.figures.rated_energy_wh for p in packs) or None
    said = tuple(m.said for m in (*missing, *by_itself) if m.lacks != "a peak")
    peak_gaps = tuple(m.said for m in missing if m != NO_MISSION)
    unknown_packs = tuple(f"the energy of {i}" for i, f in figures.items() if f is None)
    return [
        Measure("runtime", "Runtime", min(runs, default=None), "s", direction="at least", missing=said),
        Measure("peak-current", "Peak current", peak, "A", missing=peak_gaps),
        Measure("lowest-voltage", "Lowest voltage", low_pack, "V", direction="at least", missing=peak_gaps),
        Measure("pack-energy", "Pack energy", energy, "Wh", direction="at least", missing=unknown_packs),
    ]
