"""What a combination draws at least, as sums over its slots: the linear part of the search's proof.

Every figure leaves losses out (wires, the pack's own resistance, efficiency below its best), so that a combination
that breaks a row here breaks the real limit too. A row proves that something cannot be; only the real assessment
says that it can. Sources: Kirchhoff's current law; power of a converter is at least output power over best efficiency.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from wired_union.assess.motion import with_usual_currents
from wired_union.assess.power import PackFigures, Table, current_tables, pack_figures
from wired_union.assess.power_tree import Node
from wired_union.choose.combination import Choice, Question
from wired_union.physics.battery import Array
from wired_union.physics.discharge import MANY_CYCLES
from wired_union.project.change import replaced
from wired_union.project.model import Concept, Item, Mode, Regulator
from wired_union.project.motion_model import WheelLoad

SLACK = 1.0005
"""The real mission is tabulated on a grid of charge; a row may be that much too strict, and is loosened by it."""

Kinds = tuple[Array, Array, Array]
"""Amperes, watts and siemens at the pack, each over modes."""


@dataclass(frozen=True)
class Coefficients:
    """What each option of each slot adds at the pack, shape (options, modes), and the rest, shape (modes,)."""

    slots: tuple[Kinds, ...]
    rest: Kinds


@dataclass(frozen=True)
class PowerBound:
    """Lower bounds of what a combination draws: on average and at the worst instant of each mode."""

    question: Question
    root: Node
    reach: "Reach"
    tables: "Tables"
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
            return pack_figures(self.root.item)
        return pack_figures(self.question.choices[self.pack_slot].options[option].item)

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
        rating = spec.max_current_a * pack.item.count if spec is not None and spec.max_current_a else float("inf")
        floor_v = max(least_v, pack.cutoff_v)
        most = min(most_a, rating, (open_v - floor_v) / ohm if ohm > 0 else float("inf"))
        if most == float("inf"):
            return []
        at_most = most * (1 + 1e-9) - amperes_at(self.worst.rest, open_v, floor_v)
        columns = [amperes_at(k, open_v, floor_v) for k in self.worst.slots]
        return [([c[:, m] for c in columns], float(at_most[m])) for m in range(len(at_most))]


def amperes_at(kinds: Kinds, high_v: float, low_v: float) -> Array:
    """Least current at the pack: power at the highest voltage, conductance at the lowest."""
    amperes, watts, siemens = kinds
    return np.asarray(amperes + watts / high_v + siemens * low_v)


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
    """The bound of a question; None where more or fewer than one pack feeds the concept, or nothing is ever used."""
    packs = question.assessment.power.tree.packs
    concept = question.project.concept
    if len(packs) != 1 or not concept.modes or not concept.mission.phases:
        return None
    tables = [_tables(question, k) for k in range(len(question.choices))]
    reach = Reach(question, packs[0])
    average = reach.coefficients(tables, worst=False)
    worst = reach.coefficients(tables, worst=True)
    return PowerBound(question, packs[0], reach, tables, average, worst)


Tables = list[list[tuple[Array, Array]]]
"""By slot and option, its own current over modes: on average, and at least at the worst instant."""


def _tables(question: Question, slot: int) -> list[tuple[Array, Array]]:
    """For each option of a slot its own current over modes: on average, and at least at the worst instant."""
    concept, choice = question.project.concept, question.choices[slot]
    least_kg = least_mass_kg(question)
    found = []
    for option in choice.options:
        items = concept.items if option.now else replaced(concept.items, choice.slot, option.item)
        variant = concept.model_copy(update={"items": items})
        rows = [_currents(c, least_kg) for c in _contexts(question, variant)]
        average = np.min([_of(mean, choice) for mean, _ in rows], axis=0)
        worst = np.min([_of(peak, choice) for _, peak in rows], axis=0)
        found.append((average, worst))
    return found


def least_mass_kg(question: Question) -> float:
    """The mass of the lightest combination; what has to be moved weighs at least that."""
    return question.base_kg + sum(min(o.mass_kg for o in c.options) for c in question.choices)


def _contexts(question: Question, concept: Concept) -> list[Concept]:
    """The concept with every wheel that a load may run on, since the wheel sets what its motor draws."""
    found = [concept]
    wheels = {load.wheel for load in concept.loads if isinstance(load, WheelLoad)}
    for choice in question.choices:
        if choice.slot.id not in wheels:
            continue
        old = next(i for i in concept.items if i.id == choice.slot.id)
        found = [
            c.model_copy(update={"items": tuple(o.item if i.id == old.id else i for i in c.items)})
            for c in found
            for o in choice.options
        ]
    return found


def _currents(concept: Concept, mass_kg: float) -> tuple[Table, Table]:
    """Average currents, and what the worst instant has at least, with what has to be moved."""
    average, steady, starting, _ = current_tables(with_usual_currents(concept, mass_kg))
    return average, _least_worst(concept.modes, steady, starting)


def _least_worst(modes: Sequence[Mode], steady: Table, starting: Table) -> Table:
    """Currents that the worst instant has at least: where starts are staggered only one rises, so none is counted."""
    return [s if mode.staggered else b for mode, s, b in zip(modes, steady, starting, strict=True)]


def _of(table: Table, choice: Choice) -> Array:
    return np.array([row.get(choice.slot.id, 0.0) for row in table])


class Reach:
    """The way from each item up to the pack, with the best that each converter on it can do."""

    def __init__(self, question: Question, root: Node) -> None:
        self.question, self.root = question, root
        self.slot_of = {c.slot.id: k for k, c in enumerate(question.choices)}
        self.modes = len(question.project.concept.modes)
        self.above: dict[str, tuple[Node, ...]] = {}
        self._walk(root, ())
        concept = question.project.concept
        rows = [_currents(c, least_mass_kg(question)) for c in _contexts(question, concept)]
        self.fixed = tuple(
            [{k: min(r[which][m].get(k, 0.0) for r in rows) for k in rows[0][which][m]} for m in range(self.modes)]
            for which in (0, 1)
        )

    def _walk(self, node: Node, above: tuple[Node, ...]) -> None:
        self.above[node.item.id] = above
        for child in node.children:
            self._walk(child, (node, *above))

    def regulators(self, node: Node) -> tuple[Regulator, ...]:
        """Every regulator that may stand at a node."""
        slot = self.slot_of.get(node.item.id)
        items = [node.item] if slot is None else [o.item for o in self.question.choices[slot].options]
        return tuple(i.part.regulator for i in items if i.part.regulator is not None)

    def best_efficiency(self, node: Node) -> float:
        """The most that any regulator at this node can do at any load that some combination puts on it."""
        most = self.most_output(node)
        return max((_best_up_to(r, most / node.item.count) for r in self.regulators(node)), default=1.0)

    def most_output(self, node: Node) -> float:
        """The most current any combination takes behind a regulator in any mode, losses and all left generous."""
        total = 0.0
        for child in node.children:
            slot = self.slot_of.get(child.item.id)
            items = [child.item] if slot is None else [o.item for o in self.question.choices[slot].options]
            total += max(_most_current(i) for i in items)
            if child.item.part.regulator is not None or child.children:
                total += GENEROUS * self.most_output(child)
        return total

    def at(self, item: Item, current: Array, stop: str = "") -> Kinds:
        """What an item's own current, at its rated voltage, is at least at the output of `stop` (the pack's if "")."""
        load, zero = item.part.load, np.zeros_like(current)
        kinds: Kinds = (zero, zero, zero)
        if load is not None:
            if load.draw == "current" or not load.rated_v:
                kinds = (current, zero, zero)
            elif load.draw == "power":
                kinds = (zero, current * load.rated_v, zero)
            else:
                kinds = (zero, zero, current / load.rated_v)
        return self._up(kinds, item, stop)

    def own_use(self, item: Item, stop: str = "") -> Kinds:
        """What a converter or driver uses itself, at the output of `stop`."""
        part = item.part
        quiescent = part.regulator.quiescent_a if part.regulator else part.driver.quiescent_a if part.driver else 0.0
        amperes = np.full(self.modes, quiescent * item.count)
        zero = np.zeros(self.modes)
        return self._up((amperes, zero, zero), item, stop)

    def _up(self, kinds: Kinds, item: Item, stop: str) -> Kinds:
        for node in self.above.get(item.id, ()):
            if node.item.id == stop:
                break
            found = self.regulators(node)
            if not found:
                continue
            low_v, high_v = min(r.output_v for r in found), max(r.output_v for r in found)
            amperes = amperes_at(kinds, high_v, low_v)
            zero = np.zeros_like(amperes)
            if all(r.topology == "switching" for r in found):
                kinds = (zero, amperes * low_v / self.best_efficiency(node), zero)
            else:  # a linear one passes the current on; a mix draws at least the lesser, which is not summed here
                kinds = (amperes if all(r.topology == "linear" for r in found) else zero, zero, zero)
        return kinds

    def coefficients(self, tables: Tables, *, worst: bool, stop: str = "") -> Coefficients:
        """What every slot's options and the rest draw at the output of `stop`, of what hangs below it."""
        slots = []
        for choice, options in zip(self.question.choices, tables, strict=True):
            inside = self.is_below(choice.slot.id, stop)
            rows = [
                plus(self.at(o.item, c[worst], stop), self.own_use(o.item, stop)) if inside else self.nothing
                for o, c in zip(choice.options, options, strict=True)
            ]
            slots.append(
                (np.array([r[0] for r in rows]), np.array([r[1] for r in rows]), np.array([r[2] for r in rows]))
            )
        rest = self.nothing
        for item in self.question.project.concept.items:
            if item.id in self.slot_of or item.id not in self.above or not self.is_below(item.id, stop):
                continue
            current = np.array([row.get(item.id, 0.0) for row in self.fixed[worst]])
            rest = plus(rest, plus(self.at(item, current, stop), self.own_use(item, stop)))
        return Coefficients(tuple(slots), rest)

    def is_below(self, item: str, stop: str) -> bool:
        """Whether an item hangs below a node; everything in the tree hangs below the pack ("")."""
        return item in self.above and (not stop or any(n.item.id == stop for n in self.above[item]))

    @property
    def nothing(self) -> Kinds:
        zero = np.zeros(self.modes)
        return zero, zero, zero


GENEROUS = 4.0
"""A converter behind another takes at most that many times its output current: it steps up by less, and loses less."""


def _most_current(item: Item) -> float:
    load = item.part.load
    if load is None:
        return 0.0
    known = [a for a in (load.sleep_a, load.idle_a, load.active_a, load.peak_a, load.startup_a) if a is not None]
    return item.count * max(known, default=0.0)


def _best_up_to(regulator: Regulator, current_a: float) -> float:
    curve = regulator.efficiency_curve
    if not curve:
        return 1.0
    amperes, shares = [a for a, _ in curve], [e for _, e in curve]
    inside = [e for a, e in curve if a <= current_a]
    return max([*inside, float(np.interp(current_a, amperes, shares))])


def plus(one: Kinds, other: Kinds) -> Kinds:
    """Both together."""
    return one[0] + other[0], one[1] + other[1], one[2] + other[2]
