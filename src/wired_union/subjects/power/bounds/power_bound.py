"""What a combination draws at least, as sums over its slots: the linear part of the search's proof.

Every figure leaves losses out (wires, the pack's own resistance, efficiency below its best), so that a combination
that breaks a row here breaks the real limit too. A row proves that something cannot be; only the real assessment
says that it can. Sources: Kirchhoff's current law; power of a converter is at least output power over best efficiency.
"""

from functools import cached_property

import numpy as np
from msgspec import Struct

from wired_union.choose.combination import Question
from wired_union.physics.battery import Array
from wired_union.physics.cell_state import FULL_C
from wired_union.physics.discharge import MANY_CYCLES
from wired_union.project.model import Concept, Item
from wired_union.subjects.power.bounds.draws import Tables, amperes_per_kg, own_tables
from wired_union.subjects.power.bounds.reach import Coefficients, Kinds, Reach, amperes_at, plus
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.packs import PackFigures, pack_figures
from wired_union.subjects.power.tree import Node

SLACK = 1.0005
"""The real mission is tabulated on a grid of charge; a row may be that much too strict, and is loosened by it."""


class PowerBound(Struct, frozen=True, dict=True):
    """Lower bounds of what a combination draws: on average and at the worst instant of each mode."""

    question: Question
    root: Node
    reach: Reach
    tables: Tables
    average: Coefficients
    worst: Coefficients

    @cached_property
    def pack_slot(self) -> int | None:
        """Which slot chooses the pack, None where it stands fixed."""
        ids = [c.slot.id for c in self.question.choices]
        return ids.index(self.root.item.id) if self.root.item.id in ids else None

    def pack_at(self, option: int | None) -> PackFigures | None:
        """The pack's figures with that option of its slot."""
        if self.pack_slot is None or option is None:
            return pack_figures(self.root.item, self.pack_c)
        return pack_figures(self.question.choices[self.pack_slot].options[option].item, self.pack_c)

    @property
    def pack_c(self) -> float:
        """How cold the pack gets; where a box may keep it warmer than the air, as if it stayed warm."""
        concept, brief = self.question.project.concept, self.question.project.brief
        return FULL_C if concept.enclosures or concept.warm_parts else brief.coldest_c

    def runtime_row(self, pack: PackFigures, runtime_s: float) -> tuple[list[Array], float]:
        """Σ of the slots' charge in Ah over `runtime_s` must be at most the second figure, or the runtime is less."""
        hours, per_volt = self._weights(pack, runtime_s)
        reserve = self.question.project.brief.energy_reserve
        amount = (1.0 - reserve) * pack.values.capacity_ah * SLACK
        columns = [_charge(k, hours, per_volt, pack.cutoff_v) for k in self.average.slots]
        return columns, amount - float(_charge(self.average.rest, hours, per_volt, pack.cutoff_v))

    def inverse_row(self, pack: PackFigures, low_s: float, high_s: float) -> tuple[list[Array], float]:
        """Σ of the slots' figures plus the second figure is at most 1/runtime, for runtimes from `low_s` to `high_s`.

        Until T a mode has had at least its share of T less what the phases can be out of step with it, so the charge
        used is at least T·(mean rate) − (what is out of step), and that is at most what the pack gives.
        """
        concept, reserve = self.question.project.concept, self.question.project.brief.energy_reserve
        amount = (1.0 - reserve) * pack.values.capacity_ah * SLACK
        share, behind_s = _out_of_step(concept, low_s, high_s)
        high_v = pack.open_circuit_at(1.0)
        rates = [amperes_at(k, high_v, pack.cutoff_v) for k in self.average.slots]
        rest = amperes_at(self.average.rest, high_v, pack.cutoff_v)
        spare = float(rest @ behind_s) + sum(float((r @ behind_s).max()) for r in rates)
        whole = 3600 * amount + max(spare, 0.0)
        return [r @ share / whole for r in rates], float(rest @ share) / whole

    def _weights(self, pack: PackFigures, runtime_s: float) -> tuple[Array, Array]:
        """Hours in each mode until `runtime_s`, and the same hours over the highest voltage the pack has then.

        The charge at any time is at most what the thriftiest combination would leave.
        """
        concept, reserve = self.question.project.concept, self.question.project.brief.energy_reserve
        full_v = pack.open_circuit_at(1.0)
        least_a = amperes_at(self.average.rest, full_v, pack.cutoff_v) + sum(
            amperes_at(k, full_v, pack.cutoff_v).min(axis=0) for k in self.average.slots
        )
        sag_v = pack.values.resistance_ohm * least_a
        place = {m.id: i for i, m in enumerate(concept.modes)}
        cycle = np.zeros(len(concept.modes))
        for phase in concept.mission.phases:
            cycle[place[phase.mode]] += phase.duration_s / 3600
        whole = runtime_s / concept.mission.cycle_s
        if whole >= MANY_CYCLES:
            # 1/runtime is concave and homogeneous in (amperes, watts): watts count at the mean voltage
            mean_v = float(np.mean([pack.open_circuit_at(q) for q in np.linspace(reserve, 1.0, 201)]))
            return cycle * whole, cycle * whole / np.maximum(mean_v * SLACK - sag_v, pack.cutoff_v)
        hours, per_volt = np.zeros(len(cycle)), np.zeros(len(cycle))
        left_h, charge = runtime_s / 3600, 1.0
        while left_h > 0:
            for phase in concept.mission.phases:
                m, lasts = place[phase.mode], min(phase.duration_s / 3600, left_h)
                hours[m] += lasts
                per_volt[m] += lasts / max(pack.open_circuit_at(charge) - sag_v[m], pack.cutoff_v)
                charge = max(charge - lasts * float(least_a[m]) / (pack.values.capacity_ah * SLACK), reserve)
                left_h -= lasts
        return hours, per_volt

    def peak_rows(self, pack: PackFigures, most_a: float, least_v: float) -> list[tuple[list[Array], float]]:
        """For each mode: Σ of the slots' current at its worst instant must be at most the second figure.

        `most_a` is the limit on the peak, `least_v` the least voltage at the pack; the pack's own rating and
        cut-off count too, since breaking them breaks a hard requirement.
        """
        open_v = pack.open_circuit_at(self.question.project.brief.energy_reserve)
        ohm = pack.values.resistance_ohm
        spec = pack.item.part.pack
        rating = float("inf")
        if spec is not None and spec.max_current_a:  # the least strict that the check may take it at
            rating = max(spec.max_current_a, spec.pulse_current_a or 0.0) * pack.item.count
        floor_v = max(least_v, pack.cutoff_v)
        most = min(most_a, rating, (open_v - floor_v) / ohm if ohm > 0 else float("inf"))
        if most == float("inf"):
            return []
        at_most = most * (1 + 1e-9) - amperes_at(self.worst.rest, open_v, floor_v)
        columns = [amperes_at(k, open_v, floor_v) for k in self.worst.slots]
        return [([c[:, m] for c in columns], float(at_most[m])) for m in range(len(at_most))]


def _out_of_step(concept: Concept, low_s: float, high_s: float) -> tuple[Array, Array]:
    """Each mode's share of the mission, and the most seconds it can be behind that share between two times."""
    place = {m.id: i for i, m in enumerate(concept.modes)}
    cycle_s = concept.mission.cycle_s
    share = np.zeros(len(concept.modes))
    for phase in concept.mission.phases:
        share[place[phase.mode]] += phase.duration_s / cycle_s
    had, at = np.zeros(len(share)), 0.0
    corners = [(at, had.copy())]
    for phase in concept.mission.phases:
        had[place[phase.mode]] += phase.duration_s
        at += phase.duration_s
        corners.append((at, had.copy()))
    behind = [share * t - h for t, h in corners]
    if high_s - low_s < cycle_s:
        times = np.array([t for t, _ in corners])
        table = np.array(behind)

        def at_time(t: float) -> Array:
            return np.array([np.interp(t % cycle_s, times, table[:, m]) for m in range(len(share))])

        cycles = (low_s // cycle_s, low_s // cycle_s + 1)
        inside = [
            b
            for (t, _), b in zip(corners, behind, strict=True)
            if any(low_s < t + k * cycle_s < high_s for k in cycles)
        ]
        behind = [at_time(low_s), at_time(high_s), *inside]
    return share, np.asarray(np.max(behind, axis=0))


def _charge(kinds: Kinds, hours: Array, hours_per_volt: Array, low_v: float) -> Array:
    amperes, watts, siemens = kinds
    return np.asarray((amperes + siemens * low_v) @ hours + watts @ hours_per_volt)


def bound_power(question: Question) -> PowerBound | None:
    """The bound of a question; None where not one pack of cells alone feeds the concept, or nothing is ever used."""
    packs = question.assessment.of(POWER).tree.roots
    concept = question.project.concept
    options = [o.item for c in question.choices for o in c.options]
    if concept.sun_panels or any(_drops(i) for i in (*concept.items, *options)):
        return None  # what the sun brings, and what a diode keeps, is in no row
    if len(packs) != 1 or not concept.modes or not concept.mission.phases or not _all_cells(question, packs[0].item):
        return None
    tables = [own_tables(question, k) for k in range(len(question.choices))]
    reach = Reach(question, packs[0], tables)
    average = _with_mass(question, reach, reach.coefficients(tables, worst=False))
    worst = reach.coefficients(tables, worst=True)
    return PowerBound(question, packs[0], reach, tables, average, worst)


def _drops(item: Item) -> bool:
    return item.part.rail is not None and item.part.rail.drop_v > 0


def _all_cells(question: Question, root: Item) -> bool:
    """Whether a root is a pack of cells alone, whatever is chosen for it: no supply, no power bank."""
    options = [o.item for c in question.choices if c.slot.id == root.id for o in c.options]
    return all(i.part.pack is not None and i.part.regulator is None for i in (root, *options))


def _with_mass(question: Question, reach: Reach, average: Coefficients) -> Coefficients:
    """The same with what each option's weight above the lightest adds to the current of the motors that carry it."""
    extra = reach.nothing
    for item, per_kg in amperes_per_kg(question):
        extra = plus(extra, reach.at(item, per_kg, worst=False))
    slots = []
    for choice, kinds in zip(question.choices, average.slots, strict=True):
        mass = np.array([o.mass_kg for o in choice.options])
        above = np.maximum(mass - mass.min(), 0.0)[:, None]
        slots.append((kinds[0] + above * extra[0], kinds[1] + above * extra[1], kinds[2] + above * extra[2]))
    return Coefficients(tuple(slots), average.rest)
