"""What one combination that breaks something proves about others: a cut.

A combination that breaks a power limit still breaks it when any of its loads is swapped for a thirstier one, or its
pack for a weaker one of the same cells. A cut names, for each slot that matters, the options of which that is true.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from wired_union.assess.load_checks import BRAINS
from wired_union.assess.motion import carry, constants_of, load_measures
from wired_union.assess.motion_loads import Scene
from wired_union.assess.motion_results import Drive
from wired_union.assess.power import pack_figures
from wired_union.assess.power_tree import Node
from wired_union.assess.results import judged
from wired_union.choose.combination import Choice, Question, Tried
from wired_union.choose.draws import least_mass_kg
from wired_union.choose.power_bound import PowerBound
from wired_union.project.model import AnyLoad, Concept, Item, Regulator
from wired_union.project.motion_model import WheelLoad

POWER_LIMITS = {"runtime", "peak-current", "lowest-voltage"}
"""Limits that more load never mends."""


@dataclass(frozen=True)
class Cut:
    """Combinations whose every named slot holds one of the named options are out.

    `runtime_s` below infinity says why: none of them runs longer than that. They are out where more is wanted.
    """

    sets: tuple[tuple[int, frozenset[int]], ...]
    runtime_s: float = float("inf")

    def holds_for(self, places: tuple[int, ...]) -> bool:
        """Whether a combination is among those cut."""
        return all(places[slot] in options for slot, options in self.sets)

    def applies(self, low_s: float) -> bool:
        """Whether it counts where at least `low_s` of runtime is wanted."""
        return self.runtime_s == float("inf") or self.runtime_s < low_s


def no_good(places: Iterable[int]) -> Cut:
    """The cut of one combination alone."""
    return Cut(tuple((slot, frozenset((place,))) for slot, place in enumerate(places)))


class Cutter:
    """Makes cuts for one question."""

    def __init__(self, question: Question, bound: PowerBound | None) -> None:
        self._question, self._bound = question, bound
        self._slot_of = {c.slot.id: k for k, c in enumerate(question.choices)}

    def runtime_cut(self, tried: Tried) -> Cut:
        """None that is thirstier or weaker runs longer than this combination."""
        return Cut(self._sets(tried, self._electrical, None), tried.runtime_s)

    def cut(self, tried: Tried) -> Cut:
        """The widest cut that what this combination breaks allows."""
        if POWER_LIMITS & set(tried.broken):
            return Cut(self._sets(tried, self._electrical, None))
        if not tried.hard:
            wide = [
                self._motion_cut(tried, b.partition(":")[2])
                for b in tried.broken
                if b.startswith(("speed:", "motion:"))
            ]
            return max(wide, key=self._width) if wide else no_good(tried.places)
        cuts = [self._hard_cut(tried, finding) for finding in tried.hard]
        return max(cuts, key=self._width)

    def _width(self, cut: Cut) -> float:
        """Share of all combinations that a cut takes out."""
        share = 1.0
        for slot, options in cut.sets:
            share *= len(options) / len(self._question.choices[slot].options)
        return share

    def _hard_cut(self, tried: Tried, finding: str) -> Cut:
        check, _, item = finding.partition(":")
        if check == "motion":
            return self._motion_cut(tried, item.rpartition(":")[0])
        if check == "room":
            return Cut(self._exactly(tried, [item]))
        mine = self._slot_of.get(item)
        if check == "input-high":
            return Cut(self._exactly(tried, [item, *self._above(item)]))
        if check == "level":
            brains = [c.slot.id for c in self._question.choices if c.slot.part.kind in BRAINS]
            return Cut(self._exactly(tried, [item, *brains]))
        if check in {"driver", "driver-sum", "rail", "regulator"} and self._draws_current_below(item):
            slots = [self._slot_of[i] for i in (item, *self._below(item)) if i in self._slot_of]
            return Cut(self._sets(tried, slots, mine))
        return Cut(self._sets(tried, self._electrical, mine))

    def _motion_cut(self, tried: Tried, load_id: str) -> Cut:
        """A load that its motor does not carry: with the highest voltage and the lightest machine there can be, or only
        as it was tried."""
        concept = self._question.project_with(tried.places).concept
        load = next((x for x in concept.loads if x.id == load_id), None)
        if load is None or not breaks_at_best(self._question, concept, load, tried):
            return no_good(tried.places)
        return Cut(self._exactly(tried, [load.actuator, getattr(load, "wheel", ""), getattr(load, "store", "")]))

    def _exactly(self, tried: Tried, items: Iterable[str]) -> tuple[tuple[int, frozenset[int]], ...]:
        slots = sorted({self._slot_of[i] for i in items if i in self._slot_of})
        return tuple((s, frozenset((tried.places[s],))) for s in slots)

    def _sets(self, tried: Tried, slots: Iterable[int], alone: int | None) -> tuple[tuple[int, frozenset[int]], ...]:
        """Each slot with the options that are no better for the power; `alone` stays as it is."""
        return tuple(
            (s, frozenset((tried.places[s],)) if s == alone else self._no_better(s, tried.places[s])) for s in slots
        )

    def _no_better(self, slot: int, place: int) -> frozenset[int]:
        if not self._monotone:
            return frozenset((place,))
        return frozenset(np.flatnonzero(self._worse[slot][place]).tolist())

    @cached_property
    def _electrical(self) -> list[int]:
        """Slots where some option takes part in the power tree, or weighs on a motor."""
        moved = bool(self._question.project.concept.loads)
        return [
            k for k, c in enumerate(self._question.choices) if moved or any(_is_electrical(o.item) for o in c.options)
        ]

    @cached_property
    def _wheels(self) -> set[str]:
        """Parts whose size sets what a motor has to give."""
        loads = self._question.project.concept.loads
        return {x.wheel for x in loads if isinstance(x, WheelLoad)}

    @cached_property
    def _worse(self) -> list[np.ndarray]:
        """For each slot a table: option j is no better for the power than option i."""
        return [self._table(k, c) for k, c in enumerate(self._question.choices)]

    def _table(self, slot: int, choice: Choice) -> np.ndarray:
        n = len(choice.options)
        table = np.eye(n, dtype=bool)
        for i, one in enumerate(choice.options):
            for j, other in enumerate(choice.options):
                table[i, j] |= self._is_worse(slot, i, j, one.item, other.item)
        return table

    def _is_worse(self, slot: int, i: int, j: int, one: Item, other: Item) -> bool:
        choice = self._question.choices[slot]
        lighter = choice.options[j].mass_kg < choice.options[i].mass_kg
        if self._question.project.concept.loads and (lighter or choice.slot.id in self._wheels):
            return i == j  # less to move may mean less to draw
        if not _is_electrical(one) and not _is_electrical(other):
            return True
        if one.part.pack is not None and other.part.pack is not None:
            return _weaker_pack(one, other)
        if not _is_plain_load(one) or not _is_plain_load(other) or self._bound is None:
            return False
        a, b = one.part.load, other.part.load
        assert a is not None
        assert b is not None
        if a.draw != b.draw or (a.draw != "current" and a.rated_v != b.rated_v):
            return False
        for table in (self._bound.average.slots[slot], self._bound.worst.slots[slot]):
            if any((kind[j] < kind[i]).any() for kind in table):
                return False
        return True

    @cached_property
    def _monotone(self) -> bool:
        """Whether more load always means more current from the pack: no conductances, no odd efficiency curves."""
        options = [o.item for c in self._question.choices for o in c.options]
        items = [*self._question.project.concept.items, *options]
        if any(i.part.load is not None and i.part.load.draw == "resistance" for i in items):
            return False
        return all(_input_rises(i.part.regulator) for i in items if i.part.regulator is not None)

    @cached_property
    def _nodes(self) -> dict[str, Node]:
        return self._question.assessment.power.tree.nodes

    def _above(self, item: str) -> list[str]:
        source = self._question.assessment.power.tree.source_of
        found = []
        while item in source:
            item = source[item]
            found.append(item)
        return found

    def _below(self, item: str) -> list[str]:
        node = self._nodes.get(item)
        return [i for c in node.children for i in (c.item.id, *self._below(c.item.id))] if node else []

    def _draws_current_below(self, item: str) -> bool:
        """Whether what hangs below takes the same current at any voltage, whatever is chosen there."""
        node = self._nodes.get(item)
        below = {item, *self._below(item)}
        options = [o.item for c in self._question.choices if c.slot.id in below for o in c.options]
        kept = [n.item for i, n in self._nodes.items() if i in below]
        return node is not None and all(
            i.part.load is None or i.part.load.draw == "current" for i in (*kept, *options) if i.id != item
        ) and not any(i.part.regulator is not None for i in (*kept, *options) if i.id != item)  # fmt: skip


def breaks_at_best(question: Question, concept: Concept, load: AnyLoad, tried: Tried) -> bool:
    """Whether a load breaks what it must hold even with the highest voltage and the least mass of any combination."""
    item = next((i for i in concept.items if i.id == load.actuator), None)
    motor = constants_of(item.part) if item is not None else None
    if item is None or motor is None:
        return False
    parts = [i.part for i in (*concept.items, *(o.item for c in question.choices for o in c.options))]
    packs = [f.open_circuit_at(1.0) for i in _packs(question) if (f := pack_figures(i)) is not None]
    made = [p.regulator.output_v for p in parts if p.regulator is not None]
    volts = max([*packs, *made], default=0.0)
    drive = Drive(item, motor, volts, volts)
    result = carry(load, Scene(concept, least_mass_kg(question), drive, item, 0.0, ()))
    brief = question.project.brief
    measures = [judged(m, brief) for m in load_measures(result) if m.id in tried.broken]
    stuck = any(f"motion:{load.id}:{c.id}" in tried.hard and c.use > 1 for c in result.checks)
    return stuck or any(m.use is not None and m.use > 1 for m in measures)


def _packs(question: Question) -> list[Item]:
    options = [o.item for c in question.choices for o in c.options]
    return [i for i in (*question.project.concept.items, *options) if i.part.pack is not None]


def _is_electrical(item: Item) -> bool:
    part = item.part
    return any(facet is not None for facet in (part.load, part.pack, part.regulator, part.driver, part.rail))


def _is_plain_load(item: Item) -> bool:
    part = item.part
    return part.load is not None and part.pack is None and part.regulator is None and part.driver is None


def _weaker_pack(one: Item, other: Item) -> bool:
    a, b = one.part.pack, other.part.pack
    assert a is not None
    assert b is not None
    if (a.chemistry, a.series) != (b.chemistry, b.series):
        return False
    copies_a, copies_b = a.parallel * one.count, b.parallel * other.count
    capacity = (b.cell_capacity_ah or 0.0) * copies_b <= (a.cell_capacity_ah or 0.0) * copies_a
    resistance = (b.cell_resistance_ohm or 0.0) / copies_b >= (a.cell_resistance_ohm or 0.0) / copies_a
    rating = (b.max_current_a or float("inf")) * other.count <= (a.max_current_a or float("inf")) * one.count
    return capacity and resistance and rating and (b.cutoff_cell_v or 0.0) >= (a.cutoff_cell_v or 0.0)


def _input_rises(regulator: Regulator) -> bool:
    """Whether input power rises with output current along the whole efficiency curve."""
    if len(regulator.efficiency_curve) < 2:
        return True
    amperes = np.array([a for a, _ in regulator.efficiency_curve])
    shares = np.array([e for _, e in regulator.efficiency_curve])
    fine = np.linspace(0.0, amperes[-1] * 1.2, 400)
    taken = fine / np.interp(fine, amperes, shares)
    return bool((np.diff(taken) >= -1e-12).all())
