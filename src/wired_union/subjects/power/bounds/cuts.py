"""What a broken limit or finding of power proves: thirstier loads and weaker packs break it too.

A combination that breaks a power limit still breaks it when any of its loads is swapped for a thirstier one, or its
pack for a weaker one of the same cells. A cut names, for each slot that matters, the options of which that is true.
"""

from collections.abc import Iterable
from functools import cached_property

import numpy as np

from wired_union.choose.bounds import Bounds
from wired_union.choose.combination import Choice, Question, Tried
from wired_union.choose.cuts import Cut
from wired_union.kernel.results import Finding, Measure
from wired_union.physics.converter import Curve
from wired_union.project.model import Item, Pack, Regulator
from wired_union.subjects.motion.gives import shaping_parts
from wired_union.subjects.power.bent import curves_of
from wired_union.subjects.power.bounds.bounds import PowerBounds
from wired_union.subjects.power.bounds.power_bound import PowerBound
from wired_union.subjects.power.checks.rails import is_fuse
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.tree import BRAINS, PowerTree

NEVER_MENDED = {"runtime", "peak-current", "lowest-voltage"}
"""Limits that more load never mends."""
THIRST = {"dropout", "input-low", "pack", "brown-out", "heat"}
"""Findings that more load anywhere never mends, while the part itself stays."""
TIMED = {"input-low", "brown-out", "pack"}
"""Findings of the first two in which it matters how long a start takes."""
CARRIED = {"driver", "driver-sum", "rail", "regulator"}
"""Findings on what a part carries: more load below it never mends them."""


class PowerCuts:
    """What power proves from combinations of one question."""

    def __init__(self, question: Question, bound: PowerBound | None) -> None:
        self._question, self._bound = question, bound
        self._slot_of = {c.slot.id: k for k, c in enumerate(question.choices)}

    def of_runtime(self, tried: Tried) -> Cut:
        """None that is thirstier or weaker runs longer than this combination."""
        return Cut(self._sets(tried, self._electrical, None), tried.runtime_s)

    def of_limit(self, tried: Tried, measure: Measure) -> Cut | None:
        return Cut(self._sets(tried, self._electrical, None)) if measure.kind in NEVER_MENDED else None

    def of_finding(self, tried: Tried, finding: Finding) -> Cut | None:
        check, item = finding.check, finding.of
        mine = self._slot_of.get(item)
        if check == "input-high":
            return Cut(self._exactly(tried, [item, *self._tree.above(item)]))
        if check == "level":
            brains = [c.slot.id for c in self._question.choices if c.slot.part.kind in BRAINS]
            shifters = [c.slot.id for c in self._question.choices if c.slot.part.shifter is not None]
            return Cut(self._exactly(tried, [item, *brains, *shifters]))
        if check in CARRIED and (self._divides(item) or self._is_fuse(item)):
            return None  # less may divide worse, and a stronger motor is up to its speed sooner
        if check in CARRIED and self._draws_current_below(item):
            slots = [self._slot_of[i] for i in (item, *self._tree.below(item)) if i in self._slot_of]
            return Cut(self._sets(tried, slots, mine))
        if check in TIMED:
            return Cut(self._sets(tried, self._electrical, mine, alike=True))
        if check in CARRIED | THIRST:
            return Cut(self._sets(tried, self._electrical, mine))
        return None

    def _divides(self, item: str) -> bool:
        """Whether several regulators at one place divide their loads between them."""
        node = self._tree.nodes.get(item)
        return node is not None and node.item.count > 1 and node.item.part.regulator is not None

    def _is_fuse(self, item: str) -> bool:
        node = self._tree.nodes.get(item)
        return node is not None and is_fuse(node.item.part)

    def _exactly(self, tried: Tried, items: Iterable[str]) -> tuple[tuple[int, frozenset[int]], ...]:
        slots = sorted({self._slot_of[i] for i in items if i in self._slot_of})
        return tuple((s, frozenset((tried.places[s],))) for s in slots)

    def _sets(
        self, tried: Tried, slots: Iterable[int], alone: int | None, *, alike: bool = False
    ) -> tuple[tuple[int, frozenset[int]], ...]:  # fmt: skip
        """Each slot with the options that are no better for the power; `alone` stays as it is.

        `alike` leaves only those that start in the same time: one that takes more may take it later, and dip less.
        """
        return tuple((s, self._set(s, tried.places[s], alone=s == alone, alike=alike)) for s in slots)

    def _set(self, slot: int, place: int, *, alone: bool, alike: bool) -> frozenset[int]:
        if alone:
            return frozenset((place,))
        found, options = self._no_better(slot, place), self._question.choices[slot].options
        return frozenset(j for j in found if not alike or _times(options[j].item) == _times(options[place].item))

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
    def _shaping(self) -> frozenset[str]:
        """Parts whose size or mass sets what a motor has to give."""
        return shaping_parts(self._question.project.concept)

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
        if self._question.project.concept.loads and (lighter or choice.slot.id in self._shaping):
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

    @property
    def _tree(self) -> PowerTree:
        return self._question.assessment.of(POWER).tree

    def _draws_current_below(self, item: str) -> bool:
        """Whether what hangs below takes the same current at any voltage, whatever is chosen there."""
        nodes = self._tree.nodes
        below = {item, *self._tree.below(item)}
        options = [o.item for c in self._question.choices if c.slot.id in below for o in c.options]
        kept = [n.item for i, n in nodes.items() if i in below]
        return item in nodes and all(
            i.part.load is None or i.part.load.draw == "current" for i in (*kept, *options) if i.id != item
        ) and not any(i.part.regulator is not None for i in (*kept, *options) if i.id != item)  # fmt: skip


def _is_electrical(item: Item) -> bool:
    part = item.part
    return any(
        facet is not None
        for facet in (part.load, part.pack, part.supply, part.regulator, part.driver, part.rail, part.panel)
    )


def _times(item: Item) -> tuple[object, ...]:
    """What sets how its current goes as it starts."""
    load, motor = item.part.load, item.part.motor
    return (
        None if load is None else (load.inductance_h, load.warms_s, load.peak_s),
        None if motor is None else (motor.inductance_h, motor.rotor_inertia_kg_m2, motor.gear_ratio),
    )


def _is_plain_load(item: Item) -> bool:
    part = item.part
    return part.load is not None and part.pack is None and part.regulator is None and part.driver is None


def _weaker_pack(one: Item, other: Item) -> bool:
    a, b = one.part.pack, other.part.pack
    assert a is not None
    assert b is not None
    if (a.chemistry, a.series, a.least_load_a) != (b.chemistry, b.series, b.least_load_a):
        return False
    if one.part.regulator != other.part.regulator:
        return False
    if (a.measured_at_c, a.worn, a.empty_times) != (b.measured_at_c, b.worn, b.empty_times):
        return False  # which of them gives more depends on how cold it gets
    copies_a, copies_b = a.parallel * one.count, b.parallel * other.count
    capacity = (b.cell_capacity_ah or 0.0) * copies_b <= (a.cell_capacity_ah or 0.0) * copies_a
    resistance = _ohm(b) / copies_b >= _ohm(a) / copies_a
    by_itself = (b.self_discharge_a_month or 0.0) >= (a.self_discharge_a_month or 0.0)
    rating = (b.max_current_a or float("inf")) * other.count <= (a.max_current_a or float("inf")) * one.count
    rating = rating and (a.pulse_current_a, a.pulse_s) == (b.pulse_current_a, b.pulse_s)
    return capacity and resistance and by_itself and rating and (b.cutoff_cell_v or 0.0) >= (a.cutoff_cell_v or 0.0)


def _ohm(cells: Pack) -> float:
    return (cells.cell_resistance_ohm or 0.0) + cells.cell_slow_ohm + cells.cell_minutes_ohm


def _input_rises(regulator: Regulator) -> bool:
    """Whether input power rises with output current along the whole efficiency curve: at each of two input voltages,
    and so at every one between."""
    return all(_rises(curve) for curve in curves_of(regulator))


def _rises(curve: Curve) -> bool:
    amperes, shares = (np.array(x) for x in zip(*curve, strict=True))
    fine = np.linspace(0.0, amperes[-1] * 1.2, 400)
    taken = fine / np.interp(fine, amperes, shares)
    return bool((np.diff(taken) >= -1e-12).all())


def cuts_of(question: Question, bounds: Bounds | None) -> PowerCuts:
    """What power proves for a question, with the bounds that power handed it."""
    return PowerCuts(question, bounds.bound if isinstance(bounds, PowerBounds) else None)
