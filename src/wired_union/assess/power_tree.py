"""Feeds as a tree, and what each load draws in each mode."""

from dataclasses import dataclass, field
from functools import cached_property

from wired_union.physics.wire import wire_gauge
from wired_union.project.model import Concept, Feed, Item, Load, Mode, State

_FALLBACK: dict[State, tuple[str, ...]] = {
    # a state without a figure takes the next livelier one, so that a gap never makes a pack last longer
    "sleep": ("sleep_a", "idle_a", "active_a"),
    "idle": ("idle_a", "active_a"),
    "active": ("active_a", "peak_a"),
    "peak": ("peak_a", "startup_a"),
}


@dataclass(slots=True, frozen=True)
class Node:
    """An item in the tree, the resistance of the wire that feeds it, and what it feeds."""

    item: Item
    wire_ohm: float
    children: tuple["Node", ...]
    only_current: bool
    """Whether it takes the same current at any voltage, so that its wire costs volts but no more amperes."""

    @property
    def supply_v(self) -> float | None:
        """Voltage this node gives to what it feeds, where it sets one itself."""
        return self.item.part.regulator.output_v if self.item.part.regulator else None


@dataclass(frozen=True)
class PowerTree:
    """Packs with what they feed, and loads that nothing feeds."""

    packs: tuple[Node, ...]
    unfed: tuple[Item, ...]
    source_of: dict[str, str] = field(repr=False)

    @cached_property
    def nodes(self) -> dict[str, Node]:
        """Every node under a pack by its item's id, parents first."""
        found: dict[str, Node] = {}
        todo = list(self.packs)
        while todo:
            node = todo.pop(0)
            found[node.item.id] = node
            todo.extend(node.children)
        return found

    def pack_of(self, item_id: str) -> str | None:
        """Id of the pack that in the end feeds an item."""
        at: str | None = item_id
        while at is not None and at in self.source_of:
            at = self.source_of[at]
        return at if any(p.item.id == at for p in self.packs) else None


def wire_resistance_ohm(feed: Feed) -> float:
    """Resistance of the wire there and back, 0 where it is not described."""
    if feed.wire_length_m is None or feed.wire_awg is None:
        return 0.0
    return 2 * feed.wire_length_m * wire_gauge(feed.wire_awg).resistance_ohm_per_m


def grow_tree(concept: Concept) -> PowerTree:
    """The power tree of a concept; feeds of a checked concept never form a ring."""
    items = {i.id: i for i in concept.items}
    below: dict[str, list[Feed]] = {}
    source_of: dict[str, str] = {}
    for feed in concept.feeds:
        below.setdefault(feed.source, []).append(feed)
        source_of[feed.load] = feed.source

    def node(item: Item, wire_ohm: float) -> Node:
        fed = below.get(item.id)
        children = tuple(node(items[f.load], wire_resistance_ohm(f)) for f in fed) if fed else ()
        return Node(item, wire_ohm, children, _only_current(item, children))

    roots = [i for i in concept.items if i.part.pack is not None and i.id not in source_of]
    packs = tuple(node(i, 0.0) for i in roots)
    top = {i.id for i in roots}
    unfed = tuple(i for i in concept.items if i.part.load is not None and _top(i.id, source_of) not in top)
    return PowerTree(packs, unfed, source_of)


def _only_current(item: Item, children: tuple[Node, ...]) -> bool:
    regulator, load = item.part.regulator, item.part.load
    if regulator is not None:
        return regulator.topology == "linear"
    return (load is None or load.draw == "current") and all(c.only_current for c in children)


def _top(item_id: str, source_of: dict[str, str]) -> str:
    while item_id in source_of:
        item_id = source_of[item_id]
    return item_id


def state_current(load: Load, state: State) -> float | None:
    """Current of one part in a state, at its rated voltage; None where no figure says."""
    if state == "off":
        return 0.0
    for name in _FALLBACK[state]:
        value: float | None = getattr(load, name)
        if value is not None:
            return value
    return None


def state_in(mode: Mode, item_id: str) -> State:
    """The state a mode puts an item in."""
    return next((u.state for u in mode.uses if u.item == item_id), mode.otherwise)
