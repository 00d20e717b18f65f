"""Feeds as a tree, parents before what they feed, and what each load draws in each state."""

from collections import deque
from collections.abc import Iterator, Mapping
from functools import cached_property

from msgspec import Struct

from wired_union.physics.battery import CHEMISTRIES
from wired_union.physics.wire import copper_warmth, wire_gauge
from wired_union.project.model import Concept, Feed, Item, JoinedPack, Load, Mode, Pack, State
from wired_union.subjects.power.joined import joined_in

BRAINS = ("microcontroller", "computer")
"""Classes of what must not reset."""

_FALLBACK: dict[State, tuple[str, ...]] = {
    # a state without a figure takes the next livelier one, so that a gap never makes a pack last longer
    "sleep": ("sleep_a", "idle_a", "active_a"),
    "idle": ("idle_a", "active_a"),
    "active": ("active_a", "peak_a"),
    "peak": ("peak_a", "startup_a"),
}


class Node(Struct, frozen=True, eq=False):
    """An item in the tree, the resistance of the wires that feed its copies side by side, and what it feeds."""

    item: Item
    wire_ohm: float
    channel_ohm: float
    """Resistance of the driver's channels that feed its copies side by side, 0 behind anything else."""
    children: tuple["Node", ...]
    own_ohm: float = 0.0
    """Resistance of the part itself that passes its current on: contacts, a transistor."""

    @property
    def drop_v(self) -> float:
        """Voltage that the part keeps for itself while it passes its current on: a diode's."""
        rail = self.item.part.rail
        return rail.drop_v if rail is not None and self.item.part.regulator is None else 0.0

    @property
    def feed_ohm(self) -> float:
        """All that lies between what feeds it and its input."""
        return self.wire_ohm + self.channel_ohm + self.own_ohm

    @property
    def supply_v(self) -> float | None:
        """Voltage this node gives to what it feeds, where it sets one itself."""
        return self.item.part.regulator.output_v if self.item.part.regulator else None


class PowerTree(Struct, frozen=True, dict=True):
    """Packs and supplies with what they feed, and loads that nothing feeds."""

    roots: tuple[Node, ...]
    unfed: tuple[Item, ...]
    source_of: dict[str, str]
    stands_in: dict[str, str]
    """Packs that run on a supply while it is plugged in, each with that supply; neither feeds the other."""
    beside: dict[str, tuple[JoinedPack, ...]]
    """Packs that loads hang on, with what stands beside each on the same supply."""

    @cached_property
    def nodes(self) -> dict[str, Node]:
        """Every node under a pack by its item's id, parents first."""
        found: dict[str, Node] = {}
        todo = deque(self.roots)
        while todo:
            node = todo.popleft()
            found[node.item.id] = node
            todo.extend(node.children)
        return found

    def above(self, item_id: str) -> Iterator[str]:
        """What feeds an item, what feeds that, and so on."""
        while item_id in self.source_of:
            item_id = self.source_of[item_id]
            yield item_id

    def below(self, item_id: str) -> list[str]:
        """Everything that an item feeds, and what that feeds."""
        node = self.nodes.get(item_id)
        todo, found = list(node.children) if node else [], []
        while todo:
            child = todo.pop()
            found.append(child.item.id)
            todo.extend(child.children)
        return found

    def root_of(self, item_id: str) -> str | None:
        """Id of the pack or supply that in the end feeds an item."""
        top = next(reversed([item_id, *self.above(item_id)]))
        return top if any(p.item.id == top for p in self.roots) else None


def copper_c(hottest_c: float) -> float:
    """Copper that wires are worked out with: as warm as the hottest air, never below the 20 °C of the tables."""
    return max(hottest_c, 20.0)


def wire_resistance_ohm(feed: Feed, hottest_c: float) -> float:
    """Resistance of the wire there and back in the hottest air, 0 where it is not described."""
    if feed.wire_length_m is None or feed.wire_awg is None:
        return 0.0
    return 2 * feed.wire_length_m * wire_gauge(feed.wire_awg).resistance_ohm_per_m * copper_warmth(copper_c(hottest_c))


def _feed_ohms(feed: Feed, items: Mapping[str, Item], hottest_c: float) -> tuple[float, float]:
    """Resistance of the wires and of the driver's channels to a load: one to every copy, while there are any."""
    load, source = items[feed.load], items[feed.source]
    driver = source.part.driver if source.part.regulator is None else None
    channels = min(load.count, driver.channels * source.count) if driver is not None else 1
    each = (driver.on_resistance_ohm if driver is not None else None) or 0.0
    return wire_resistance_ohm(feed, hottest_c) / load.count, each / channels


def _own(item: Item) -> float:
    rail = item.part.rail
    return rail.resistance_ohm / item.count if rail is not None and item.part.regulator is None else 0.0


def grow_tree(concept: Concept, hottest_c: float) -> PowerTree:
    """The power tree of a concept, its wires in the hottest air; feeds of a checked concept never form a ring."""
    items = {i.id: i for i in concept.items}
    stands_in = _standing_in(concept, items)
    below: dict[str, list[Feed]] = {}
    source_of: dict[str, str] = {}
    for feed in concept.feeds:
        if items[feed.load].part.pack is not None or items[feed.load].part.supply is not None:
            continue  # what charges a pack is not worked out: it gives, whatever is on its other side
        below.setdefault(feed.source, []).append(feed)
        source_of[feed.load] = feed.source
    roots = [i for i in concept.items if (i.part.pack or i.part.supply) is not None]
    order: list[tuple[str, Feed | None]] = [(i.id, None) for i in roots]
    for name, _ in order:  # grows while it is walked: parents first
        order.extend((f.load, f) for f in below.get(name, ()))
    made: dict[str, Node] = {}
    for name, way in reversed(order):
        wire, channel = _feed_ohms(way, items, hottest_c) if way is not None else (0.0, 0.0)
        made[name] = Node(
            items[name], wire, channel, tuple(made[f.load] for f in below.get(name, ())), _own(items[name])
        )
    unfed = tuple(i for i in concept.items if i.part.load is not None and i.id not in made)
    return PowerTree(tuple(made[i.id] for i in roots), unfed, source_of, stands_in, joined_in(concept)[0])


def _standing_in(concept: Concept, items: Mapping[str, Item]) -> dict[str, str]:
    """Packs fed from a supply that feeds nothing else."""
    fed: dict[str, list[str]] = {}
    for feed in concept.feeds:
        fed.setdefault(feed.source, []).append(feed.load)
    return {
        loads[0]: source for source, loads in fed.items()
        if items[source].part.supply is not None and len(loads) == 1 and items[loads[0]].part.pack is not None
    }  # fmt: skip


def pack_is_known(cells: Pack) -> bool:
    """Whether a pack has the figures without which nothing can be said of it."""
    known = cells.cell_capacity_ah is not None and cells.cell_resistance_ohm is not None
    return known and cells.chemistry in CHEMISTRIES


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
