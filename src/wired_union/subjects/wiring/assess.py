"""Wiring: pins, buses, levels and cables together, and the measures that follow."""

from collections.abc import Iterator
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.project.model import Item, Project
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.wiring.laid import LAID
from wired_union.subjects.wiring.leads import CableResult, FeedLoss, cable_results, loss_of
from wired_union.subjects.wiring.levels import Level, levels_of
from wired_union.subjects.wiring.pins import PINS, PinsResult
from wired_union.subjects.wiring.shared import SharedBus, buses_of, cable_between


class Loose(Struct, frozen=True):
    """A controller and a part whose signals go to it, and no cable between."""

    board: Item
    item: Item


class Wires(Struct, frozen=True, dict=True):
    """Cables with what flows through them, feeds and signals that lie in none, and buses."""

    cables: tuple[CableResult, ...]
    bare: tuple[FeedLoss, ...]
    loose: tuple[Loose, ...]
    buses: tuple[SharedBus, ...]
    names: dict[str, str]

    @cached_property
    def length_m(self) -> float:
        """All cables and wires whose length is known."""
        cables = sum(c.laid.all_m or 0.0 for c in self.cables)
        return cables + sum((x.feed.wire_length_m or 0.0) for x in self.bare)

    @cached_property
    def length_missing(self) -> tuple[str, ...]:
        lacks = [f"{c.laid.cable.name}: its length" for c in self.cables if c.laid.length_m is None]
        lacks += [f"the wire to {self.names.get(x.feed.load, '')}" for x in self.bare if x.feed.wire_length_m is None]
        return (*lacks, *(f"the cable from {x.board.name} to {x.item.name}" for x in self.loose))

    @cached_property
    def losses(self) -> tuple[tuple[str, FeedLoss], ...]:
        """Every feed with the id of its cable, "" where none carries it."""
        return (*((c.id, x) for c in self.cables for x in c.losses), *(("", x) for x in self.bare))

    @cached_property
    def worst_drop(self) -> tuple[str, FeedLoss] | None:
        known = [(x.share, n) for n, (_, x) in enumerate(self.losses) if x.share is not None]
        return self.losses[max(known)[1]] if known else None

    def cable(self, cable_id: str) -> CableResult | None:
        return next((c for c in self.cables if c.id == cable_id), None)


def _read(project: Project) -> tuple[object, ...]:
    concept, brief = project.concept, project.brief
    return concept.wiring, concept.poses, concept.buses, brief.hottest_c, tuple((i.id, i.places) for i in concept.items)


def _work(project: Project, given: Given) -> Wires:
    concept, power, pins, laid = project.concept, given.of(POWER), given.of(PINS), given.of(LAID)
    cables = cable_results(concept, project.brief, laid, power)
    carried = {f.load for c in laid for f in c.feeds}
    bare = tuple(loss_of(power, f) for f in power.concept.feeds if f.load not in carried)
    pairs = dict.fromkeys((w.tooth.item.id, w.wish.key.item) for w in pins.wired if w.wish.key.item)
    items = {i.id: i for i in concept.items}
    loose = tuple(Loose(items[b], items[i]) for b, i in pairs if cable_between(laid, b, i) is None)
    names = {i.id: i.name for i in concept.items}
    return Wires(cables, bare, loose, tuple(buses_of(concept, pins, laid)), names)


WIRES = Node("wires", _read, _work, (POWER, PINS, LAID))


def _levels(project: Project, given: Given) -> tuple[Level, ...]:
    return tuple(levels_of(project.concept, given.of(PINS)))


def _level_figures(project: Project) -> tuple[object, ...]:
    items = project.concept.items
    told = tuple((i.id, i.name, i.part.link, i.part.port, i.part.shifter, i.shifted_by) for i in items)
    return project.concept.own_lines, told


LEVELS = Node("levels", _level_figures, _levels, (PINS,))


def measures(assessment: Assessment) -> Iterator[Measure]:
    """Pins that are taken and free, length of all cables, and the worst share of a rail lost in a wire."""
    pins, wires = assessment.of(PINS), assessment.of(WIRES)
    names = {i.id: i.name for i in assessment.project.concept.items}
    lacks = tuple(f"{names[i]}: {words}" if i else words for i, words in pins.missing)
    if not pins.wishes and not lacks:
        lacks = ("a controller, and signals that go to it",)
    unsolved = () if pins.solved else ("a pin for each signal",)
    yield Measure("pins", "Pins", float(pins.used), "", missing=(*lacks, *unsolved))
    free = float(len(pins.free)) if pins.solved and pins.teeth else None
    yield Measure("spare-pins", "Spare pins", free, "", missing=(*lacks, *unsolved))
    anything = bool(wires.cables or wires.bare or wires.loose)
    nothing = () if anything else ("any cable",)
    yield Measure("cable-length", "Cables", wires.length_m, "m", missing=(*wires.length_missing, *nothing))
    worst = wires.worst_drop
    yield Measure("wire-drop", "Drop in wires", worst[1].share if worst is not None else None, "share",
                  missing=drop_missing(wires))  # fmt: skip


def drop_missing(wires: Wires) -> tuple[str, ...]:
    lacks = tuple(dict.fromkeys(x.missing for _, x in wires.losses if x.missing))
    return lacks if wires.losses else ("anything that is fed",)


def said_pins(pins: PinsResult) -> str:
    """ "25 of 40 pins" """
    return f"{pins.used} of {pins.pins} pins"
