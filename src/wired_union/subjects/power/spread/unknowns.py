"""Every figure that the runtime rests on with the spread that its knowledge leaves."""

from collections.abc import Iterator, Mapping
from statistics import stdev
from typing import Literal

from msgspec import Struct

from wired_union.project.model import Item, Knowledge, Project
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.net import quiescent_a

What = Literal[
    "current", "capacity", "resistance", "loss", "cooling", "warmth", "walls", "shell", "lid", "panel", "sky", "inlet",
    "charge", "idle",
]  # fmt: skip
SPREAD: dict[What, dict[Knowledge, float]] = {
    "current": {"measured": 0.03, "datasheet": 0.10, "estimate": 0.20, "guess": 0.35},
    "capacity": {"measured": 0.02, "datasheet": 0.06, "estimate": 0.12, "guess": 0.20},
    "resistance": {"measured": 0.05, "datasheet": 0.20, "estimate": 0.35, "guess": 0.50},
    "loss": {"measured": 0.05, "datasheet": 0.15, "estimate": 0.30, "guess": 0.50},
    "panel": {"measured": 0.03, "datasheet": 0.05, "estimate": 0.12, "guess": 0.25},
    "idle": {"measured": 0.10, "datasheet": 0.30, "estimate": 0.40, "guess": 0.50},
}
"""Standard deviation of a figure as a share of it, by how well it is known: common practice, no standard."""
ROUGHLY: dict[What, float] = {
    "cooling": 0.20, "warmth": 0.10, "walls": 0.20, "shell": 0.10, "lid": 0.15, "sky": 0.15, "inlet": 0.10,
    "charge": 0.30,
}  # fmt: skip
"""The same of figures that the program takes from common practice and of which no part says how well they are known:
films of air are good to a fifth or a quarter (Incropera & DeWitt, chapter 7, cited from memory).
"""
MEASURED_AS: dict[str, What] = {
    "load.active_a": "current", "pack.cell_capacity_ah": "capacity", "pack.cell_resistance_ohm": "resistance",
}  # fmt: skip
"""Which figure that spreads a reading is of."""
ENOUGH = 3
"""Readings of which it can be said how far they go apart."""
NOTHING: Mapping[tuple[str, What], float] = {}
WORDS: dict[What, str] = {
    "current": "current", "capacity": "capacity", "resistance": "resistance", "loss": "losses",
    "cooling": "how it sheds its heat", "warmth": "the heat that it stores", "walls": "how its walls pass heat on",
    "shell": "the heat that its walls store", "lid": "sun on its lid",
    "panel": "power in full sun", "sky": "the sun that it lets through", "inlet": "power into the cells",
    "charge": "what a charge loses", "idle": "self-discharge",
}  # fmt: skip


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


Read = dict[tuple[str, What], float]
"""Figures that instruments have shown and the plan has taken, by item: how far the readings go apart, as a share."""


def read_of(project: Project) -> Read:
    """Figures of which the last reading is what the plan counts with."""
    shown: dict[tuple[str, str], list[float]] = {}
    for reading in project.concept.readings:
        if reading.figure in MEASURED_AS:
            shown.setdefault((reading.item, reading.figure), []).append(reading.value)
    items, found = {i.id: i for i in project.concept.items}, Read()
    for (item_id, figure), values in shown.items():
        facet, name = figure.split(".")
        now = getattr(getattr(items[item_id].part, facet, None), name, None)
        if now == values[-1]:
            found[item_id, MEASURED_AS[figure]] = stdev(values) / abs(now) if len(values) >= ENOUGH and now else 0.0
    return found


def unknowns_of(
    result: PowerResult, knowledge: Mapping[str, Knowledge], read: Mapping[tuple[str, What], float] = NOTHING
) -> tuple[Unknown, ...]:  # fmt: skip
    """Currents of all loads, capacity and resistance of packs, what converters and drivers lose and take for
    themselves; only what feeds or is fed.

    `knowledge` is how well each item is known now: power does not look at that. `read` has what was measured of it.
    """
    nodes = result.tree.nodes.values()
    return tuple(_unknown(n.item, what, knowledge.get(n.item.id, "guess"), read)
                 for n in nodes for what in _figures(n.item))  # fmt: skip


def _figures(item: Item) -> Iterator[What]:
    part = item.part
    if part.load is not None:
        yield "current"
    if part.pack is not None:
        yield "capacity"
        yield "resistance"
    if (part.regulator is not None and part.regulator.passes_power) or quiescent_a(item):
        yield "loss"


def rough(item: str, name: str, what: What) -> Unknown:
    """A figure of common practice, of an item or of something else that has a name."""
    return Unknown(item, name, what, ROUGHLY[what], "estimate")


def of_item(item: Item, what: What, knowledge: Mapping[str, Knowledge]) -> Unknown:
    """A figure of an item, as well known as the item is."""
    return _unknown(item, what, knowledge.get(item.id, "guess"), NOTHING)


def _unknown(item: Item, what: What, known: Knowledge, read: Mapping[tuple[str, What], float]) -> Unknown:
    apart = read.get((item.id, what))
    if apart is None:
        return Unknown(item.id, item.name, what, SPREAD[what][known], known)
    return Unknown(item.id, item.name, what, max(SPREAD[what]["measured"], apart), "measured")
