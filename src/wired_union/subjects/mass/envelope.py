"""How long, wide and high the whole machine is, as far as places and sizes say, and whether it passes the gate."""

import math
from collections.abc import Iterator, Sequence
from functools import cached_property, lru_cache, partial

from msgspec import Struct

from wired_union.kernel.results import Finding, Measure, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment, Node
from wired_union.project.model import Concept, Part, Place, Project, Room
from wired_union.project.place_words import said_move
from wired_union.subjects.mass.place_edits import move_places
from wired_union.units import show

AXES, WORDS = ("length", "width", "height"), ("long", "wide", "high")
WIDTH, HEIGHT = 1, 2
SPARE_M = 0.001

Spot = tuple[float, float, float]
Size = tuple[float, float, float]


class End(Struct, frozen=True):
    """How far something reaches one way, and which item does."""

    at_m: float
    item: str
    """name of that item"""
    id: str


class Box(Struct, frozen=True):
    """What a copy takes up, or a room in which something is: its lowest and highest coordinates."""

    name: str
    low: Spot
    high: Spot
    item: str = ""
    """id of the item"""


class Envelope(Struct, frozen=True, dict=True):
    """What everything takes up."""

    boxes: tuple[Box, ...]
    """Of each copy that has a place."""
    rooms: tuple[Box, ...]
    """In which copies without a place are, wherever in it."""
    lacks: tuple[str, ...]
    floor_m: float | None
    """Lowest end of wheels and feet; None where nothing stands."""

    def low_end(self, axis: int) -> End:
        """What reaches furthest back, right or down, of what has a place."""
        return min((End(b.low[axis], b.name, b.item) for b in self.boxes), key=lambda e: e.at_m)

    def high_end(self, axis: int) -> End:
        """What reaches furthest forward, left or up, of what has a place."""
        return max((End(b.high[axis], b.name, b.item) for b in self.boxes), key=lambda e: e.at_m)

    def least_m(self, axis: int) -> float:
        """What is sure of a length: between the ends of what has a place."""
        return self._lengths[axis][0]

    def most_m(self, axis: int) -> float:
        """The most that it can be while everything is where it is said to be."""
        return self._lengths[axis][1]

    @cached_property
    def _lengths(self) -> list[tuple[float, float]]:
        every = (*self.boxes, *self.rooms)
        return [(self._between(self.boxes, axis), self._between(every, axis)) for axis in range(3)]

    def _between(self, boxes: Sequence[Box], axis: int) -> float:
        if not boxes:
            return 0.0
        lowest = min(b.low[axis] for b in boxes)
        if axis == HEIGHT and self.floor_m is not None:
            lowest = min(lowest, self.floor_m)
        return max(b.high[axis] for b in boxes) - lowest


def size_of(part: Part) -> Size | None:
    """Sides of a part as it stands unturned; a wheel stands on its tread. None where a side is not known."""
    wheel = part.wheel
    if wheel is not None:
        width = wheel.width_m or part.height_m
        return None if not width else (wheel.diameter_m, width, wheel.diameter_m)
    sides = part.length_m, part.width_m, part.height_m
    return None if None in sides else (sides[0] or 0.0, sides[1] or 0.0, sides[2] or 0.0)


@lru_cache(maxsize=8192)
def reach(size: Size, place: Place) -> tuple[Spot, Spot]:
    """Lowest and highest coordinates of a box at a place: tilted, then turned. Source: |R|·half for the rotation R."""
    length, width, height = (s / 2 for s in size)
    tilt, turn = math.radians(place.tilt_deg), math.radians(place.turn_deg)
    ct, st, cz, sz = abs(math.cos(tilt)), abs(math.sin(tilt)), abs(math.cos(turn)), abs(math.sin(turn))
    along = ct * length + st * height
    half = (cz * along + sz * width, sz * along + cz * width, st * length + ct * height)
    at = (place.x_m, place.y_m, place.z_m)
    (x0, x1), (y0, y1), (z0, z1) = ((a - h, a + h) for a, h in zip(at, half, strict=True))
    return (x0, y0, z0), (x1, y1, z1)


def envelope_of(concept: Concept) -> Envelope:
    """The box around all parts. What has no place lies in the room of its subsystem; what has neither is lacking."""
    boxes: list[Box] = []
    loose: list[Box] = []
    lacks: list[str] = []
    rooms = {s.id: s.room for s in concept.subsystems}
    for item in concept.items:
        size, room, here = size_of(item.part), rooms[item.subsystem], item.places[: item.count]
        if here and size is None:
            lacks.append(f"{item.name}: its size")
        if here and size is not None:
            boxes += [Box(item.name, *reach(size, place), item.id) for place in here]
        if len(here) < item.count and room is None:
            lacks.append(f"where {item.name} is")
        elif len(here) < item.count and room is not None:
            loose.append(Box(item.name, *sides_of(room), item.id))
    grounds = [f.z_m for f in concept.feet]
    grounds += [p.z_m - i.part.wheel.diameter_m / 2 for i in concept.items if i.part.wheel for p in i.places[: i.count]]
    return Envelope(tuple(boxes), tuple(loose), tuple(lacks), min(grounds, default=None))


def sides_of(room: Room) -> tuple[Spot, Spot]:
    """Lowest and highest coordinates of a room, whichever way round its sides were given."""
    pairs = (room.back_m, room.front_m), (room.right_m, room.left_m), (room.bottom_m, room.top_m)
    (x0, x1), (y0, y1), (z0, z1) = (sorted(pair) for pair in pairs)
    return (x0, y0, z0), (x1, y1, z1)


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple((i.id, i.name, i.count, i.subsystem, i.places, size_of(i.part), i.part.wheel) for i in concept.items)
    return items, tuple((s.id, s.name, s.room) for s in concept.subsystems), concept.feet


ENVELOPE = Node("envelope", _read, lambda project, _: envelope_of(project.concept))


def size_words(found: Envelope) -> str:
    """ "496 mm long, 440 mm wide, 430 mm high" """
    if not (found.boxes or found.rooms):
        return ""
    said = []
    for axis, word in enumerate(WORDS):
        least, most = show(found.least_m(axis), "m"), show(found.most_m(axis), "m")
        said.append(f"at least {least} {word}" if found.lacks else f"{most} {word}" if least == most
                    else f"{least} to {most} {word}")  # fmt: skip
    return ", ".join(said)


def is_asked(concept: Concept) -> bool:
    """Whether anything says where things are."""
    return any(i.places for i in concept.items) or any(s.room for s in concept.subsystems)


def envelope_measures(assessment: Assessment) -> Iterator[Measure]:
    """Length, width and height of the whole, and how full each room is."""
    concept = assessment.project.concept
    if not is_asked(concept):
        return
    found = assessment.of(ENVELOPE)
    for axis, name in enumerate(AXES):
        least, most = found.least_m(axis), found.most_m(axis)
        value = least if found.lacks else most
        yield Measure(name, name.capitalize(), value or None, "m", low=least, high=most, missing=found.lacks)
    for lane in concept.subsystems:
        if lane.room is not None:
            yield _filled(concept, lane.id, f"Room in {lane.name}", lane.room)


def _filled(concept: Concept, lane: str, label: str, room: Room) -> Measure:
    """Share of a room that the parts of its subsystem take as boxes."""
    items = [i for i in concept.items if i.subsystem == lane]
    lacks = tuple(f"{i.name}: its size" for i in items if size_of(i.part) is None)
    low, high = sides_of(room)
    space = math.prod(b - a for a, b in zip(low, high, strict=True))
    taken = sum(math.prod(size) * i.count for i in items if (size := size_of(i.part)) is not None)
    return Measure("room", label, taken / space if space else math.inf, "share", missing=lacks, of=lane)


def envelope_findings(assessment: Assessment) -> Iterator[Finding]:
    """Limits on length, width, height and rooms, with what sticks out; and the gate of the brief."""
    if not is_asked(assessment.project.concept):
        return
    yield from _limits(assessment)
    yield from gate_findings(assessment)


def _limits(assessment: Assessment) -> Iterator[Finding]:
    found = assessment.of(ENVELOPE)
    for measure in assessment.measures:
        if measure.limit is None or measure.kind not in {*AXES, "room"} or measure.value is None:
            continue
        lacking = f" Not known yet: {'; '.join(measure.missing)}." if measure.missing else ""
        what = f"{measure.shown} of {measure.limit_shown}."
        if measure.kind == "room":
            yield Finding("filled", measure.verdict, measure.label, what, f"Parts counted as boxes.{lacking}", (),
                          measure.id, of=measure.of, of_limit=True)  # fmt: skip
            continue
        axis = AXES.index(measure.kind)
        why = f"{_ends_words(found, axis)}{lacking}"
        offer = partial(_moves, assessment.project, found, axis, measure.value - measure.limit)
        yield Finding(measure.kind, measure.verdict, measure.label, what, why, (), measure.kind, offer, of_limit=True)


def _ends_words(found: Envelope, axis: int) -> str:
    if not found.boxes:
        return ""
    ways = (("back", "forward"), ("right", "left"), ("down", "up"))[axis]
    return f"Furthest {ways[0]} is {found.low_end(axis).item}, furthest {ways[1]} {found.high_end(axis).item}."


def _moves(project: Project, found: Envelope, axis: int, over_m: float) -> tuple[Remedy, ...]:
    """What sticks out furthest, moved in by what is too much."""
    if over_m <= 0 or not found.boxes:
        return ()
    tries = []
    for end, sign in ((found.high_end(axis), -1.0), (found.low_end(axis), 1.0)):
        item = next(i for i in project.concept.items if i.id == end.id)
        step = [0.0, 0.0, 0.0]
        step[axis] = round(sign * (over_m + SPARE_M), 4)
        dx, dy, dz = step
        tries.append((f"{item.name} {said_move(dx, dy, dz)}", tried(move_places, project, item.id, dx, dy, dz)))
    return possible(*tries)


def gate_findings(assessment: Assessment) -> Iterator[Finding]:
    """Whether the whole machine passes the gate of the brief, upright and straight on."""
    space, found = assessment.project.brief.space, assessment.of(ENVELOPE)
    for axis, gate in ((WIDTH, space.gate_width_m), (HEIGHT, space.gate_height_m)):
        if gate is None or not (found.boxes or found.rooms):
            continue
        least, most = found.least_m(axis), found.most_m(axis)
        if most <= gate and not found.lacks:
            continue
        sure = least > gate
        what = f"{show(least if sure else most, 'm')} {WORDS[axis]}; the gate is {show(gate, 'm')}."
        if not sure and found.lacks:
            what = f"Not known yet: {'; '.join(found.lacks)}."
        yield Finding(
            "gate", Verdict.BREAKS if sure else Verdict.UNKNOWN, f"Gate: {AXES[axis]}", what, _ends_words(found, axis),
            (), "", partial(_moves, assessment.project, found, axis, most - gate), hard=sure, of=AXES[axis],
        )  # fmt: skip


def hard_gate_findings(assessment: Assessment) -> Iterator[Finding]:
    """What does not pass the gate."""
    space = assessment.project.brief.space
    if is_asked(assessment.project.concept) and (space.gate_width_m is not None or space.gate_height_m is not None):
        yield from (f for f in gate_findings(assessment) if f.hard)
