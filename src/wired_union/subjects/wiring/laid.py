"""Cables as they lie: lengths, wires, mass and price, and the feeds with the wires of their cables.

Nothing of power is in it, so that Mass and Power may stand on it.
"""

from collections.abc import Mapping

from msgspec import Struct

from wired_union.kernel.subject import Given, Node
from wired_union.physics.wire import wire_mass
from wired_union.project.cables import carries_feed, count_of, ends_of, length_of, together
from wired_union.project.change import with_concept
from wired_union.project.model import Concept, Feed, Item, Project
from wired_union.project.ports import BUS_LINES, lines_of
from wired_union.project.wiring_model import Cable
from wired_union.subjects.wiring.wishes import is_controller, is_expander

SHEATH = 1.25
"""A sheath, a sleeve or ties add a quarter to what the wires weigh: common practice."""


class LaidCable(Struct, frozen=True):
    """One cable as it lies; figures that are not known are None."""

    cable: Cable
    length_m: float | None
    count: int
    feeds: tuple[Feed, ...]
    signals: int
    wires: int | None
    mass_kg: float | None
    """of one"""
    thick_m: float | None
    missing: tuple[str, ...]
    near: frozenset[str] = frozenset()
    """what sits where it starts"""

    @property
    def all_m(self) -> float | None:
        return None if self.length_m is None else self.length_m * self.count

    @property
    def all_kg(self) -> float | None:
        return None if self.mass_kg is None else self.mass_kg * self.count

    @property
    def is_plugged(self) -> bool:
        """Whether one part sits on the other, with nothing between."""
        return self.length_m == 0

    @property
    def moves_power(self) -> bool:
        return bool(self.feeds)


class Harness(Struct, frozen=True):
    """What all cables weigh and cost together; and what is not known of that."""

    mass_kg: float
    measured_kg: float
    """of that, what was weighed"""
    price: float
    unweighed: tuple[str, ...]
    unpriced: tuple[str, ...]
    cables: int


def lay(concept: Concept, cable: Cable, items: Mapping[str, Item], stacked: Mapping[str, str]) -> LaidCable:
    """One cable with what follows from where it lies and what it carries."""
    length, missing = length_of(concept, cable)
    feeds = tuple(f for f in concept.feeds if carries_feed(cable, f, stacked))
    near = frozenset({cable.start, *(i for i in stacked if stacked[i] == stacked.get(cable.start, cable.start))})
    signals, silent = signals_of(cable, items, near)
    signals += joined(concept, cable)
    lacks = list(missing)
    fed = {f.load for f in concept.feeds}
    hungry = [items[r.item].name for r in cable.reaches if r.item in items and _is_unfed(items[r.item], fed)]
    if cable.wires is None and length != 0:
        lacks += [f"{cable.name}: what feeds {name}" for name in hungry]
        silent = [*silent, *hungry]
    if cable.wires is None:
        lacks += [f"{cable.name}: which signals {name} needs" for name in silent if name not in hungry]
    wires = cable.wires if cable.wires is not None else None if silent else _wires(cable, feeds, signals, items) or None
    if wires is None and not silent and length != 0:
        lacks.append(f"{cable.name}: what it carries, or how many wires it has")
    made = wire_mass(cable.awg, wires) if cable.awg is not None and wires is not None else None
    plugged = length == 0
    if cable.awg is None and not plugged:
        lacks.append(f"{cable.name}: the gauge of its wires")
    if cable.mass_kg is not None:
        mass: float | None = cable.mass_kg
    elif plugged:
        mass = 0.0
    else:
        mass = made.mass_kg_per_m * length * SHEATH if made is not None and length is not None else None
    thick = cable.thick_m if cable.thick_m is not None else made.diameter_m if made is not None else None
    return LaidCable(cable, length, count_of(concept, cable), feeds, signals, wires, mass, thick, tuple(lacks), near)


def _is_unfed(item: Item, fed: set[str]) -> bool:
    """Whether a part draws a current and nothing is said to feed it."""
    return item.part.load is not None and item.part.pack is None and item.id not in fed


def signals_of(cable: Cable, items: Mapping[str, Item], near: frozenset[str]) -> tuple[int, list[str]]:
    """Signals that it carries: those of parts at one end where a controller is at another; and who does not say."""
    start = items.get(cable.start)
    far = [items[r.item] for r in cable.reaches if r.item in items]
    if start is None:
        return 0, []
    ends = [start, *far]
    if not any(is_controller(i) or is_expander(i) for i in (*ends, *(items[i] for i in near if i in items))):
        return 0, []
    found, silent = 0, []
    for item in ends:
        if is_controller(item):
            continue
        lines = lines_of(item.part)
        if lines is None:
            silent.append(item.name)
        else:
            found += len(lines) * (item.count if len(far) > 1 else 1)
    return found, silent


def joined(concept: Concept, cable: Cable) -> int:
    """Lines of controllers that talk through it, and of the team's own signals at its ends."""
    ends = ends_of(cable)
    between = sum(
        len(BUS_LINES.get(j.by, ("",))) for j in concept.joins if j.one != j.other and {j.one, j.other} <= ends
    )
    controllers = {i.id for i in concept.items if i.id in ends and is_controller(i)}
    own = sum(bool(controllers) and x.item in ends - controllers for x in concept.own_lines)
    return between + own


def _wires(cable: Cable, feeds: tuple[Feed, ...], signals: int, items: Mapping[str, Item]) -> int:
    """Two for each feed; one for each signal, and their common ground where no feed brings it."""
    several = len(cable.reaches) > 1
    power = sum(2 * (items[f.load].count if several and f.load in items else 1) for f in feeds)
    return power + signals + (1 if signals and not feeds else 0)


def with_wires(project: Project) -> Project:
    """The project whose cables keep the wires that they have, whatever part comes to their ends: so that mass is a sum
    over the parts.
    """
    concept = project.concept
    open_ended = [c for c in concept.cables if c.wires is None]
    if not open_ended:
        return project
    items, stacked = {i.id: i for i in concept.items}, together(concept)
    wires = {c.id: lay(concept, c, items, stacked).wires for c in open_ended}
    cables = tuple(c.but(wires=wires[c.id]) if wires.get(c.id) else c for c in concept.cables)
    return with_concept(project, cables=cables)


def _facets(item: Item) -> tuple[bool, ...]:
    return item.part.load is None, item.part.pack is None, item.part.board is None


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    if not concept.cables:
        return ()
    items = tuple(
        (i.id, i.name, i.count, i.places, i.part.kind, i.part.link, i.part.port, *_facets(i)) for i in concept.items
    )
    return concept.cables, concept.feeds, concept.poses, concept.joins, concept.own_lines, items


def _work(project: Project, _: Given) -> tuple[LaidCable, ...]:
    items = {i.id: i for i in project.concept.items}
    stacked = together(project.concept)
    return tuple(lay(project.concept, c, items, stacked) for c in project.concept.cables)


LAID = Node("laid cables", _read, _work)


def _feeds(project: Project, given: Given) -> tuple[Feed, ...]:
    """Feeds with the wire of the first cable that carries them."""
    concept = project.concept
    if not concept.cables:
        return concept.feeds
    wires: dict[str, Feed] = {}
    for one in given.of(LAID):
        for feed in one.feeds:
            wires.setdefault(feed.load, feed.but(wire_length_m=one.length_m, wire_awg=one.cable.awg))
    return tuple(wires.get(f.load, f) for f in concept.feeds)


FEEDS = Node("feeds as laid", lambda project: (project.concept.feeds, project.concept.cables), _feeds, (LAID,))


def _harness(_: Project, given: Given) -> Harness:
    cables = given.of(LAID)
    mass = sum(c.all_kg for c in cables if c.all_kg is not None)
    measured = sum(c.all_kg for c in cables if c.all_kg is not None and c.cable.mass_kg is not None)
    price = sum(c.cable.price * c.count for c in cables if c.cable.price is not None)
    unpriced = tuple(f"{c.cable.name}: its price" for c in cables if c.cable.price is None and not c.is_plugged)
    unweighed = tuple(c.cable.name for c in cables if c.mass_kg is None)
    return Harness(mass, measured, price, unweighed, unpriced, len(cables))


NO_CABLES = Harness(0.0, 0.0, 0.0, (), (), 0)
HARNESS = Node("harness", lambda _: (), _harness, (LAID,))
