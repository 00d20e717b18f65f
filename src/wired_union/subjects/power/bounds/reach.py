"""The way from a part up to the pack, at the best that each converter on it can do. Source: Kirchhoff's current law."""

import numpy as np
from msgspec import Struct

from wired_union.choose.combination import Question
from wired_union.physics.battery import Array
from wired_union.project.model import Item, Regulator
from wired_union.subjects.power.bounds.draws import Tables, contexts, currents
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

    def __init__(self, question: Question, root: Node) -> None:
        self.question, self.root = question, root
        self.slot_of = {c.slot.id: k for k, c in enumerate(question.choices)}
        self.modes = len(question.project.concept.modes)
        self.above: dict[str, tuple[Node, ...]] = {}
        self._walk(root)
        concept = question.project.concept
        rows = [currents(c, question.least_kg) for c in contexts(question, concept)]
        self.fixed = tuple({k: np.min([r[which][k] for r in rows], axis=0) for k in rows[0][which]} for which in (0, 1))

    def _walk(self, root: Node) -> None:
        todo: list[tuple[Node, tuple[Node, ...]]] = [(root, ())]
        while todo:
            node, above = todo.pop()
            self.above[node.item.id] = above
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
            current = self.fixed[worst].get(item.id, np.zeros(self.modes))
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
