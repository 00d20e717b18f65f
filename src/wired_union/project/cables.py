"""What a cable carries, how long it is, and the feeds of a concept with the wires of their cables."""

from collections.abc import Iterator, Mapping

from wired_union.project.model import Concept, Feed, Item
from wired_union.project.place_model import Place
from wired_union.project.wiring_model import Cable


def ends_of(cable: Cable) -> frozenset[str]:
    """Ids of all that it joins."""
    return frozenset({cable.start, *(r.item for r in cable.reaches)} - {""})


def together(concept: Concept) -> dict[str, str]:
    """Parts that sit one on the other, through a cable of no length: each with the id that stands for all of them."""
    root: dict[str, str] = {}

    def top(item: str) -> str:
        while root.get(item, item) != item:
            item = root[item]
        return item

    for cable in concept.cables:
        if cable.length_m == 0 and cable.start:
            for reach in cable.reaches:
                root[top(reach.item)] = top(cable.start)
    return {item: top(item) for item in root}


def carries_feed(cable: Cable, feed: Feed, stacked: Mapping[str, str]) -> bool:
    """Whether a feed lies in a cable: it goes from its start, or what sits there, to what it reaches, or back."""
    if not cable.start:
        return False
    start = stacked.get(cable.start, cable.start)
    reached = {r.item for r in cable.reaches}
    source, load = stacked.get(feed.source, feed.source), stacked.get(feed.load, feed.load)
    if cable.length_m == 0:
        return source == load and {feed.source, feed.load} <= {cable.start, *reached}
    return (source == start and feed.load in reached) or (load == start and feed.source in reached)


def cable_of(concept: Concept, feed: Feed) -> Cable | None:
    """The first cable that a feed lies in."""
    stacked = together(concept)
    return next((c for c in concept.cables if carries_feed(c, feed, stacked)), None)


def laid_feed(concept: Concept, feed: Feed) -> Feed:
    """A feed with the wire of its cable; as it is where no cable carries it."""
    cable = cable_of(concept, feed)
    if cable is None:
        return feed
    length = length_of(concept, cable)[0]
    return feed.but(wire_length_m=length, wire_awg=cable.awg)


def length_of(concept: Concept, cable: Cable) -> tuple[float | None, tuple[str, ...]]:
    """Length of one such cable, as typed or by the places of what it joins; and what that lacks.

    By places: along, across and up from middle to middle to the copy that is farthest off, in the pose that asks for
    most, with its slack.
    """
    if cable.length_m is not None:
        return cable.length_m, ()
    lacks = unplaced(concept, cable)
    if lacks:
        return None, lacks
    return max(_ways(concept, cable), default=0.0) * (1 + cable.slack), ()


def unplaced(concept: Concept, cable: Cable) -> tuple[str, ...]:
    """What keeps its length from following from places."""
    items = {i.id: i for i in concept.items}
    if cable.start not in items or not cable.reaches:
        return (f"{cable.name}: what it joins",)
    ends = [items[i] for i in sorted(ends_of(cable)) if i in items]
    without = [i.name for i in ends if len(i.places) < i.count]
    return tuple(f"{cable.name}: its length, or the place of {name}" for name in without)


def _ways(concept: Concept, cable: Cable) -> Iterator[float]:
    for a, b in ends_in_poses(concept, cable):
        yield abs(a.x_m - b.x_m) + abs(a.y_m - b.y_m) + abs(a.z_m - b.z_m)


def ends_in_poses(concept: Concept, cable: Cable) -> Iterator[tuple[Place, Place]]:
    """Both ends of a cable, to every copy of what it reaches, as they stand in every pose."""
    for _, a, b in posed_ends(concept, cable):
        yield a, b


def posed_ends(concept: Concept, cable: Cable) -> Iterator[tuple[str, Place, Place]]:
    """The same with the name of the pose, "" for how it stands usually."""
    items = {i.id: i for i in concept.items}
    start = items.get(cable.start)
    if start is None or not start.places:
        return
    for pose in ("", *(p.id for p in concept.poses)):
        name = next((p.name for p in concept.poses if p.id == pose), "")
        starts = [_moved(concept, start, p, pose) for p in start.places]
        for reach in cable.reaches:
            far = items.get(reach.item)
            for place in far.places if far is not None else ():
                end = _moved(concept, far, place, pose)
                near = min(starts, key=lambda s: abs(s.x_m - end.x_m) + abs(s.y_m - end.y_m) + abs(s.z_m - end.z_m))
                yield name, near, end


def _moved(concept: Concept, item: Item | None, place: Place, pose: str) -> Place:
    shifts = next((p.shifts for p in concept.poses if p.id == pose), ())
    shift = next((s for s in shifts if item is not None and s.item == item.id), None)
    if shift is None:
        return place
    return place.but(x_m=place.x_m + shift.dx_m, y_m=place.y_m + shift.dy_m, z_m=place.z_m + shift.dz_m)


def count_of(concept: Concept, cable: Cable) -> int:
    """How many such cables there are: one for each copy where it reaches one part."""
    if cable.count is not None:
        return cable.count
    if len(cable.reaches) != 1:
        return 1
    far = next((i for i in concept.items if i.id == cable.reaches[0].item), None)
    start = next((i for i in concept.items if i.id == cable.start), None)
    return max(far.count if far is not None else 1, start.count if start is not None else 1)
