"""Every figure that the runtime rests on with the spread that its knowledge leaves."""

from collections.abc import Iterator, Mapping
from typing import Literal

from msgspec import Struct

from wired_union.project.model import Item, Knowledge
from wired_union.subjects.power.assess import PowerResult

What = Literal["current", "capacity", "resistance", "loss"]
SPREAD: dict[What, dict[Knowledge, float]] = {
    "current": {"measured": 0.03, "datasheet": 0.10, "estimate": 0.20, "guess": 0.35},
    "capacity": {"measured": 0.02, "datasheet": 0.06, "estimate": 0.12, "guess": 0.20},
    "resistance": {"measured": 0.05, "datasheet": 0.20, "estimate": 0.35, "guess": 0.50},
    "loss": {"measured": 0.05, "datasheet": 0.15, "estimate": 0.30, "guess": 0.50},
}
"""Standard deviation of a figure as a share of it, by how well it is known: common practice, no standard."""
WORDS: dict[What, str] = {"current": "current", "capacity": "capacity", "resistance": "resistance", "loss": "losses"}


class Unknown(Struct, frozen=True):
    """One figure that spreads: of which item, which figure, and by how much of itself (standard deviation)."""

    item: str
    name: str
    what: What
    spread: float
    knowledge: Knowledge

    @property
    def called(self) -> str:
        """How people call it: "Gearmotor: current"."""
        return f"{self.name}: {WORDS[self.what]}"


def unknowns_of(result: PowerResult, knowledge: Mapping[str, Knowledge]) -> tuple[Unknown, ...]:
    """Currents of all loads, capacity and resistance of packs, losses of converters; only what feeds or is fed.

    `knowledge` is how well each item is known now: power does not look at that.
    """
    nodes = result.tree.nodes.values()
    return tuple(_unknown(n.item, what, knowledge.get(n.item.id, "guess")) for n in nodes for what in _figures(n.item))


def _figures(item: Item) -> Iterator[What]:
    part = item.part
    if part.load is not None:
        yield "current"
    if part.pack is not None:
        yield "capacity"
        yield "resistance"
    if part.regulator is not None and part.regulator.passes_power:
        yield "loss"


def _unknown(item: Item, what: What, known: Knowledge) -> Unknown:
    return Unknown(item.id, item.name, what, SPREAD[what][known], known)
