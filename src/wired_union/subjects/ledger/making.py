"""If more are made: what one costs by how many there are, from how many on it pays, which way to make a part is least.

Everything is worked out for all numbers of machines at once; the same numbers are drawn.
"""

import math
from functools import cached_property

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.kernel.subject import Node
from wired_union.physics.prices import price_with_margin
from wired_union.project.model import Concept, Project
from wired_union.project.money_model import Made, MakeWay, Making, UnitPart

Floats = NDArray[np.float64]
MOST = 100_000
"""Machines up to which it is sought from how many on it pays."""


class MadeCost(Struct, frozen=True, dict=True):
    """A part that can be made in several ways, in the order of their tools."""

    made: Made
    ways: tuple[MakeWay, ...]
    lacks: str = ""

    def each(self, way: MakeWay, machines: Floats) -> Floats:
        """What the pieces of one machine cost by a way, with its share of the tools."""
        pieces = machines * self.made.each
        tools = np.ceil(pieces / way.tool_lasts) if way.tool_lasts is not None else np.ones_like(pieces)
        return np.asarray((way.tool * tools + (way.each or 0.0) * pieces) / machines)

    def cheapest(self, machines: Floats) -> Floats:
        """The same by the way that is cheapest for that number."""
        return np.asarray(np.min([self.each(w, machines) for w in self.ways], axis=0))

    def best_way(self, machines: int) -> MakeWay:
        """The cheapest way for a number of machines."""
        at = np.array([float(machines)])
        return min(self.ways, key=lambda w: float(self.each(w, at)[0]))

    @cached_property
    def cheapest_from(self) -> tuple[int | None, ...]:
        """Of each way, the first number of machines for which no other costs less; None where there is none to 100 000.

        A tool that wears out may hand the part back to the way before for a while.
        """
        machines = np.arange(1, MOST + 1, dtype=float)
        least = self.cheapest(machines) if self.ways else machines
        found = []
        for way in self.ways:
            at = np.flatnonzero(self.each(way, machines) <= least * (1 + 1e-12))
            found.append(int(at[0]) + 1 if len(at) else None)
        return tuple(found)


class MakingResult(Struct, frozen=True, dict=True):
    """What one machine costs by how many are made."""

    making: Making
    flat: float
    """what is bought for one machine at one price for any number"""
    parts: tuple[tuple[float, int, UnitPart], ...]
    """parts that cost less where many are bought: price, how many in one machine, prices by number"""
    made: tuple[MadeCost, ...]
    missing: tuple[str, ...]

    def parts_cost(self, machines: Floats) -> Floats:
        """What is bought for one machine."""
        total = np.full_like(machines, self.flat)
        for price, count, by_number in self.parts:
            total += _price(price, by_number, machines * count) * count
        return total

    def made_cost(self, machines: Floats) -> Floats:
        """What is made ourselves for one machine, each in its cheapest way."""
        return np.asarray(sum((m.cheapest(machines) for m in self.made if m.ways), np.zeros_like(machines)))

    def labour_cost(self, machines: Floats) -> Floats:
        """Hours of one machine on average, paid: Wright 1936."""
        hours, wage = self.making.labour_h or 0.0, self.making.wage or 0.0
        return hours * wage * _learnt(machines, self.making.learning)

    def unit(self, machines: Floats) -> Floats:
        """What one costs, all told."""
        shared = self.making.fixed / machines
        return self.parts_cost(machines) + self.made_cost(machines) + self.labour_cost(machines) + shared

    @cached_property
    def unit_now(self) -> float | None:
        """What one of those that are made costs; None where nobody said how many."""
        return self.unit_at(self.making.quantity) if self.making.quantity is not None else None

    def unit_at(self, machines: int) -> float:
        """What one of so many costs."""
        return float(self.unit(np.array([float(machines)]))[0])

    @cached_property
    def price(self) -> float | None:
        """What is asked for one: as typed, or what leaves the margin on what one costs."""
        making = self.making
        if making.price is not None or making.margin is None or self.unit_now is None or making.margin >= 1:
            return making.price
        return price_with_margin(self.unit_now, making.margin).price_on_price

    @cached_property
    def pays_from(self) -> int | None:
        """From how many on all that is sold pays all that it cost; None where it does not within 100 000."""
        price, first = self.price, 1
        while price is not None and first <= MOST:
            last = min(first * 10 - 1, MOST)
            machines = np.arange(first, last + 1, dtype=float)
            found = np.flatnonzero((price - self.unit(machines)) * machines >= -1e-9)
            if len(found):
                return first + int(found[0])
            first = last + 1
        return None

    @property
    def kit_cost(self) -> float | None:
        """What the add-on package costs; None where something of it has no price, or there is none."""
        kit = self.making.kit
        if not kit or any(k.price is None for k in kit):
            return None
        return sum((k.price or 0.0) * k.count for k in kit)


def _price(one: float, by_number: UnitPart, pieces: Floats) -> Floats:
    """What one costs where so many are bought: the last break that they reach."""
    price = np.full_like(pieces, one)
    for b in sorted(by_number.breaks, key=lambda b: b.least):
        price = np.where(pieces >= b.least, b.price, price)
    return price


def _learnt(machines: Floats, rate: float) -> Floats:
    """Hours of each on average as a share of the first's, for every number that is asked."""
    if rate >= 1:
        return np.ones_like(machines)
    most = min(int(machines.max()), MOST)
    sums = np.cumsum(np.arange(1, most + 1, dtype=float) ** math.log2(rate))
    return np.asarray(sums[np.minimum(machines, most).astype(int) - 1] / np.minimum(machines, most))


Priced = tuple[str, str, int, float | None]
"""What making more reads of a part: id, name, count, price."""


def priced(concept: Concept) -> tuple[Priced, ...]:
    """Parts as making more reads them; none where nobody asked."""
    if concept.making == Making():
        return ()
    return tuple((i.id, i.name, i.count, i.part.price) for i in concept.items)


def assess_making(concept: Concept) -> MakingResult:
    """Everything about making more of the concept at work."""
    making = concept.making
    by_item = {p.item: p for p in making.parts}
    own = {m.item for m in making.made if m.item and m.ways}
    bought = [p for p in priced(concept) if p[0] not in own]
    flat = sum((price or 0.0) * count for i, _, count, price in bought if i not in by_item)
    parts = tuple((price or 0.0, count, by_item[i]) for i, _, count, price in bought if i in by_item)
    made = tuple(_made(m) for m in making.made)
    missing = [f"{name}: its price" for _, name, _, price in bought if price is None]
    missing += [f"{m.made.name}: {m.lacks}" for m in made if m.lacks]
    for value, words in ((making.quantity, "how many are made"), (making.labour_h, "hours that the first takes"),
                         (making.wage, "what an hour costs")):  # fmt: skip
        missing += [words] if value is None else []
    if making.margin is not None and making.margin >= 1 and making.price is None:
        missing.append("a margin below the whole price")
    return MakingResult(making, flat, parts, made, tuple(missing))


def _made(made: Made) -> MadeCost:
    """The ways by their tools, and what is not known of them."""
    ways = sorted((w for w in made.ways if w.each is not None), key=lambda w: (w.tool, -(w.each or 0.0)))
    gaps = [w.process for w in made.ways if w.each is None]
    lacks = "a way to make it" if not made.ways else f"what a piece costs by {gaps[0]}" if gaps else ""
    return MadeCost(made, tuple(ways), lacks)


def is_asked(project: Project) -> bool:
    """Whether anything was said of making more."""
    return project.concept.making != Making()


MAKING = Node(
    "making", lambda project: (priced(project.concept), project.concept.making),
    lambda project, _given: assess_making(project.concept),
)  # fmt: skip
