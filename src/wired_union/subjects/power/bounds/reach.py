"""The way from a part up to the pack, at the best that each converter on it can do. Source: Kirchhoff's current law."""

import numpy as np
from msgspec import Struct

from wired_union.choose.combination import Question
from wired_union.physics.battery import Array
from wired_union.project.model import Item, Regulator
from wired_union.subjects.power.bent import best_curve
from wired_union.subjects.power.bounds.draws import Tables, contexts, currents
from wired_union.subjects.power.bounds.minorant import lines_under
from wired_union.subjects.power.net import quiescent_a
from wired_union.subjects.power.tree import Node

Kinds = tuple[Array, Array, Array]
"""Amperes, watts and siemens at the pack, each over modes."""


class Coefficients(Struct, frozen=True):
    """What each option of each slot adds at the pack, shape (options, modes), and the rest, shape (modes,)."""

    slots: tuple[Kinds, ...]
    rest: Kinds


def amperes_at(kinds: Kinds, high_v: float, low_v: float) -> Array:
    """Least current at the pack: power at the highest voltage, conductance at the lowest."""
    amperes, watts, siemens = kinds
    return np.asarray(amperes + watts / high_v + siemens * low_v)


class Reach:
    """The way from each item up to the pack, with the best that each converter on it can do."""

    def __init__(self, question: Question, root: Node, tables: Tables) -> None:
        self.question, self.root, self._tables = question, root, tables
        self._moved = {load.actuator for load in question.project.concept.loads}
        self._lines: dict[tuple[str, bool], tuple[Array, Array]] = {}
        self.slot_of = {c.slot.id: k for k, c in enumerate(question.choices)}
        self.modes = len(question.project.concept.modes)
        self.above: dict[str, tuple[Node, ...]] = {}
        self._walk(root)
        concept = question.project.concept
        rows = [currents(c, question.least_kg) for c in contexts(question, concept)]
        self.fixed = tuple({k: np.min([r[which][k] for r in rows], axis=0) for k in rows[0][which]} for which in (0, 1))

    def _walk(self, root: Node) -> None:
        self._nodes: list[Node] = []
        todo: list[tuple[Node, tuple[Node, ...]]] = [(root, ())]
        while todo:
            node, above = todo.pop()
            self.above[node.item.id] = above
            self._nodes.append(node)
            todo.extend((child, (node, *above)) for child in node.children)

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

    def line_under(self, node: Node, worst: bool) -> tuple[Array, Array]:
        """What a switching regulator takes at its input at least: watts a + b times what it gives, in each mode."""
        key = (node.item.id, worst)
        if key not in self._lines:
            (regulator,) = self.regulators(node)
            volts, name = regulator.output_v, node.item.id
            flow = self.coefficients(self._tables, worst=worst, stop=name)
            low = amperes_at(flow.rest, volts, 0.0) + sum(amperes_at(k, volts, 0.0).min(axis=0) for k in flow.slots)
            low = np.maximum(low, 0.0)
            high = np.maximum(self._most_given(node, worst), low)
            self._lines[key] = lines_under(regulator, node.item.count, low, high)
        return self._lines[key]

    def _most_given(self, node: Node, worst: bool) -> Array:
        """The most current any combination takes behind a node in each mode, losses on the way left generous."""
        return sum((self._most_taken(child, worst) for child in node.children), np.zeros(self.modes))

    def _most_taken(self, node: Node, worst: bool) -> Array:
        slot = self.slot_of.get(node.item.id)
        items = [node.item] if slot is None else [o.item for o in self.question.choices[slot].options]
        if worst or node.item.id in self._moved:  # what starts, and what a task sets
            own = np.full(self.modes, max(max(_most_current(i), _blocked_current(i)) for i in items))
        elif slot is None:
            own = self.fixed[False].get(node.item.id, np.zeros(self.modes))
        else:
            own = np.max([mean for mean, _ in self._tables[slot]], axis=0)
        if any(i.part.load is not None and i.part.load.draw != "current" for i in items):
            own = own * max((i.part.load.rated_v or 1.0) for i in items if i.part.load is not None) * GENEROUS
        passed = self._most_given(node, worst) * (GENEROUS if self.regulators(node) else 1.0)
        return np.asarray(own + passed + max(quiescent_a(i) for i in items))

    def at(self, item: Item, current: Array, stop: str = "", *, worst: bool) -> Kinds:
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
        return self._up(kinds, item, stop, worst)

    def own_use(self, item: Item, stop: str = "", *, worst: bool) -> Kinds:
        """What a converter or driver uses itself, at the output of `stop`."""
        amperes, zero = np.full(self.modes, quiescent_a(item)), np.zeros(self.modes)
        return self._up((amperes, zero, zero), item, stop, worst)

    def _always(self, stop: str, worst: bool) -> Kinds:
        """What regulators take whatever they give, by their lines, at the output of `stop`."""
        found = self.nothing
        zero = np.zeros(self.modes)
        for node in self._nodes:
            if not self._is_straight(node) or not self.is_below(node.item.id, stop):
                continue
            found = plus(found, self._up((zero, self.line_under(node, worst)[0], zero), node.item, stop, worst))
        return found

    def _is_straight(self, node: Node) -> bool:
        """Whether a node has one regulator whatever is chosen, a switching one, so that a line lies under it."""
        found = self.regulators(node)
        return len(found) == 1 and node.item.id not in self.slot_of and found[0].passes_power

    def _up(self, kinds: Kinds, item: Item, stop: str, worst: bool) -> Kinds:
        for node in self.above.get(item.id, ()):
            if node.item.id == stop:
                break
            found = self.regulators(node)
            if not found:
                continue
            low_v, high_v = min(r.output_v for r in found), max(r.output_v for r in found)
            amperes = amperes_at(kinds, high_v, low_v)
            zero = np.zeros_like(amperes)
            if self._is_straight(node):
                kinds = (zero, amperes * self.line_under(node, worst)[1], zero)
            elif all(r.passes_power for r in found):
                kinds = (zero, amperes * low_v / self.best_efficiency(node), zero)
            else:  # a linear one passes the current on; a mix draws at least the lesser, which is not summed here
                kinds = (amperes if all(not r.passes_power for r in found) else zero, zero, zero)
        return kinds

    def coefficients(self, tables: Tables, *, worst: bool, stop: str = "") -> Coefficients:
        """What every slot's options and the rest draw at the output of `stop`, of what hangs below it."""
        slots = []
        for choice, options in zip(self.question.choices, tables, strict=True):
            inside = self.is_below(choice.slot.id, stop)
            rows = [
                plus(self.at(o.item, c[worst], stop, worst=worst), self.own_use(o.item, stop, worst=worst))
                if inside
                else self.nothing
                for o, c in zip(choice.options, options, strict=True)
            ]
            slots.append(
                (np.array([r[0] for r in rows]), np.array([r[1] for r in rows]), np.array([r[2] for r in rows]))
            )
        rest = self._always(stop, worst)
        for item in self.question.project.concept.items:
            if item.id in self.slot_of or item.id not in self.above or not self.is_below(item.id, stop):
                continue
            current = self.fixed[worst].get(item.id, np.zeros(self.modes))
            rest = plus(rest, plus(self.at(item, current, stop, worst=worst), self.own_use(item, stop, worst=worst)))
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


def _blocked_current(item: Item) -> float:
    """What a motor takes at the most that its task can set."""
    motor = item.part.motor
    return item.count * ((motor.stall_current_a if motor is not None else None) or 0.0)


def _best_up_to(regulator: Regulator, current_a: float) -> float:
    curve = best_curve(regulator)
    if not curve:
        return 1.0
    amperes, shares = [a for a, _ in curve], [e for _, e in curve]
    inside = [e for a, e in curve if a <= current_a]
    return max([*inside, float(np.interp(current_a, amperes, shares))])


def plus(one: Kinds, other: Kinds) -> Kinds:
    """Both together."""
    return one[0] + other[0], one[1] + other[1], one[2] + other[2]
