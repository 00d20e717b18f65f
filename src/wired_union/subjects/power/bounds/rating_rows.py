"""Rows for what hangs in the tree: enough voltage at each input, and no more current than a part may carry.

Lower bounds like the rest of `power_bound`: a combination that breaks a row breaks the hard requirement of the real
assessment, at the worst instant with the pack at its reserve. Wires drop what flows through them: Ohm's law.
"""

from collections.abc import Callable, Iterator

import numpy as np

from wired_union.choose.bounds import Row
from wired_union.choose.combination import Option
from wired_union.physics.battery import Array
from wired_union.project.model import Item, Part
from wired_union.subjects.power.bounds.power_bound import PowerBound
from wired_union.subjects.power.bounds.reach import Coefficients, amperes_at, plus
from wired_union.subjects.power.checks.converters import channels_of
from wired_union.subjects.power.checks.rails import at_start_a
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.packs import PackFigures
from wired_union.subjects.power.suiting import needs
from wired_union.subjects.power.tree import Node

LOOSE = 1e-9


class RatingRows:
    """The rows of one question, for each pack that may stand in it."""

    def __init__(self, bound: PowerBound) -> None:
        self._bound, self._question = bound, bound.question
        self._at: dict[str, Coefficients] = {}
        self._nodes = bound.question.assessment.of(POWER).tree.nodes

    def rows(self, pack: PackFigures) -> list[Row]:
        """Every row for a pack; those of hard requirements that break today already are left out."""
        found: list[Row] = []
        for node in self._nodes.values():
            if node.item.id == self._bound.root.item.id:
                continue
            found += self._supply(node, pack)
            found += self._carried(node, pack)
        return found

    def too_high(self, pack: PackFigures) -> list[np.ndarray]:
        """For each slot, which options would get more than they survive from the full pack."""
        found = []
        for choice in self._question.choices:
            direct = choice.slot.id in self._nodes and not self._regulated(self._nodes[choice.slot.id])
            skip = f"input-high:{choice.slot.id}" in self._question.hard_before
            full = pack.open_circuit_at(1.0)
            found.append(
                np.array([direct and not skip and full > (needs(o.part)[1] or np.inf) for o in choice.options])
            )
        return found

    def _regulated(self, node: Node) -> bool:
        return any(self._bound.reach.regulators(n) for n in self._bound.reach.above[node.item.id])

    def _options(self, item: Item) -> tuple[int | None, list[Item]]:
        slot = self._bound.reach.slot_of.get(item.id)
        if slot is None:
            return None, [item]
        return slot, [o.item for o in self._question.choices[slot].options]

    def _coefficients(self, stop: str) -> Coefficients:
        if stop not in self._at:
            self._at[stop] = self._bound.reach.coefficients(self._bound.tables, worst=True, stop=stop)
        return self._at[stop]

    def _supply(self, node: Node, pack: PackFigures) -> Iterator[Row]:
        """What is left at an input after the pack and every wire on the way: at least what it needs."""
        hard = self._question.hard_before
        if self._regulated(node) or {f"input-low:{node.item.id}", f"dropout:{node.item.id}"} & hard:
            return
        slot, items = self._options(node.item)
        need = np.array([needs(i.part)[0] or 0.0 for i in items])
        if not need.any():
            return
        open_v = pack.open_circuit_at(self._question.project.brief.energy_reserve)
        drops = [(pack.values.resistance_ohm, self._bound.worst)]
        for part in (node, *self._bound.reach.above[node.item.id]):
            if part.wire_ohm:
                drops.append((part.wire_ohm, self._through(part)))
        for mode in range(self._bound.reach.modes):
            columns = [np.zeros(len(c.options)) for c in self._question.choices]
            fixed = 0.0
            for ohm, flow in drops:
                fixed += ohm * float(amperes_at(flow.rest, open_v, 0.0)[mode])
                for k, kinds in enumerate(flow.slots):
                    columns[k] = columns[k] + ohm * amperes_at(kinds, open_v, 0.0)[:, mode]
            if slot is None:
                fixed += float(need[0])
            else:
                columns[slot] = columns[slot] + need
            yield columns, (open_v - fixed) * (1 + LOOSE)

    def _through(self, node: Node) -> Coefficients:
        """What flows into a node: what hangs below it, and what it takes itself."""
        reach, item = self._bound.reach, node.item
        below = self._coefficients(item.id)
        if reach.regulators(node):
            return Coefficients(tuple((k[0] * 0, k[1] * 0, k[2] * 0) for k in below.slots), reach.nothing)
        slot = reach.slot_of.get(item.id)
        if slot is None:
            current = reach.fixed[True].get(item.id, np.zeros(reach.modes))
            own = reach.at(item, current, self._above_of(node), worst=True)
            return Coefficients(below.slots, plus(below.rest, own))
        rows = [
            reach.at(o.item, c[True], self._above_of(node), worst=True)
            for o, c in zip(self._question.choices[slot].options, self._bound.tables[slot], strict=True)
        ]
        amperes, watts, siemens = (np.array([row[k] for row in rows]) for k in range(3))
        slots = list(below.slots)
        slots[slot] = plus(slots[slot], (amperes, watts, siemens))
        return Coefficients(tuple(slots), below.rest)

    def _above_of(self, node: Node) -> str:
        return self._bound.reach.above[node.item.id][0].item.id

    def _carried(self, node: Node, pack: PackFigures) -> Iterator[Row]:
        """What a rail, driver or regulator passes on, at most what it may."""
        hard, item_id = self._question.hard_before, node.item.id
        for check, most in (("rail", _rail_most), ("driver-sum", _driver_most), ("regulator", _regulator_most)):
            slot, items = self._options(node.item)
            caps = np.array([_or_inf(most(i)) for i in items])
            if f"{check}:{item_id}" in hard or not np.isfinite(caps).any():
                continue
            yield from self._capped(self._coefficients(item_id), slot, caps, pack, node)
        yield from self._channels(node)

    def _capped(
        self, flow: Coefficients, slot: int | None, caps: Array, pack: PackFigures, node: Node
    ) -> Iterator[Row]:
        high_v = pack.open_circuit_at(self._question.project.brief.energy_reserve)
        regulators = [
            r for n in (node, *self._bound.reach.above[node.item.id]) for r in self._bound.reach.regulators(n)
        ]
        if regulators:  # behind a regulator the voltage is what it makes
            high_v = max(r.output_v for r in regulators)
        bounded = np.where(np.isfinite(caps), caps, 1e6)
        for mode in range(self._bound.reach.modes):
            columns = [amperes_at(k, high_v, 0.0)[:, mode] for k in flow.slots]
            left = -float(amperes_at(flow.rest, high_v, 0.0)[mode])
            if slot is None:
                left += float(bounded[0]) * (1 + LOOSE)
            else:
                columns[slot] = columns[slot] - bounded * (1 + LOOSE)
            yield columns, left

    def _channels(self, node: Node) -> Iterator[Row]:
        """Each motor on a driver, times those that share its channel, at most what a channel may carry."""
        slot, items = self._options(node.item)
        if f"driver:{node.item.id}" in self._question.hard_before or not any(i.part.driver for i in items):
            return
        motors = [c.item for c in node.children]
        wanted = sum(m.count * channels_of(m) for m in motors)
        caps = np.array([_channel_cap(i, wanted) for i in items])
        for motor in motors:
            chosen = self._bound.reach.slot_of.get(motor.id)
            if motor.part.load is not None and motor.part.load.draw != "current":
                continue
            if any(i.part.stepper is not None for i in self._options(motor)[1]):
                continue  # its driver holds another current than the supply gives
            columns = [np.zeros(len(c.options)) for c in self._question.choices]
            most = 0.0
            if chosen is None:
                worst = self._bound.reach.fixed[True].get(motor.id, np.zeros(1))
                most = -float(worst.max(initial=0.0)) / motor.count
            else:
                columns[chosen] = np.array(
                    [_own_draw(o, c[True], motor.count) for o, c in
                     zip(self._question.choices[chosen].options, self._bound.tables[chosen], strict=True)]
                )  # fmt: skip
            if slot is None:
                most += float(caps[0]) * (1 + LOOSE)
            else:
                columns[slot] = columns[slot] - caps * (1 + LOOSE)
            yield columns, most


def _own_draw(option: Option, current: Array, count: int) -> float:
    load = option.part.load
    return float(current.max(initial=0.0)) / count if load is not None and load.draw == "current" else 0.0


def _channel_cap(item: Item, wanted: int) -> float:
    driver = item.part.driver
    if driver is None or driver.channel_current_a is None:
        return 1e6
    return driver.channel_current_a / -(-wanted // (driver.channels * item.count))


def _or_inf(value: float | None) -> float:
    return float("inf") if value is None else value


def _times(read: Callable[[Part], float | None]) -> Callable[[Item], float | None]:
    def most(item: Item) -> float | None:
        one = read(item.part)
        return None if one is None else one * item.count

    return most


_rail_most = _times(at_start_a)
_regulator_most = _times(lambda p: p.regulator.max_current_a if p.regulator else None)


def _driver_most(item: Item) -> float | None:
    driver = item.part.driver
    if driver is None or driver.total_current_a is None or driver.channels * item.count == 1:
        return None
    return driver.total_current_a * item.count
