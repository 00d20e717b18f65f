"""Placed parts as boxes: which reach into each other, in every pose, and what stands in the way of a hand or a plug."""

from functools import cached_property

from msgspec import Struct

from wired_union.kernel.subject import Node
from wired_union.physics.boxes import Box, box_of, overlapping, overlaps_m
from wired_union.project.fit_model import Clearance
from wired_union.project.model import Concept, Item, Pose, Project

MOST_PAIRS = 3000
"""Pairs that are looked at: a heap in one place has more than anybody reads."""
CLEAR_M = 0.001
"""Boxes that reach less than this into each other are taken to touch."""
ROOM_M = {"a hand": (0.1, 0.1), "a plug": (0.03, 0.05), "a screwdriver": (0.02, 0.15), "a cable's bend": (0.02, 0.03)}
"""Width and depth of the room that each needs: common practice, from memory."""
SIDES = {"front": (0, 1), "back": (0, -1), "left": (1, 1), "right": (1, -1), "above": (2, 1), "below": (2, -1)}
"""Axis of the box, and which way along it."""


class Placed(Struct, frozen=True):
    """One copy of a part that has a place and a size."""

    item: Item
    copy: int
    box: Box

    @property
    def name(self) -> str:
        return self.item.name if self.item.count == 1 else f"{self.item.name} {self.copy + 1}"


class Overlap(Struct, frozen=True):
    """Two parts whose boxes reach into each other; "" for the pose as built."""

    one: Placed
    other: Placed
    deep_m: float
    pose: str


class Access(Struct, frozen=True):
    """Room before a side of a part: what reaches into it, and how deep."""

    clearance: Clearance
    item: Item
    depth_m: float
    width_m: float
    blocked: tuple[tuple[str, float], ...] = ()
    missing: tuple[str, ...] = ()


class Fitting(Struct, frozen=True, dict=True):
    """What touches what, what is in the way, and which parts nothing is known of; worked out when it is asked for."""

    concept: Concept

    @cached_property
    def placed(self) -> "tuple[Placed, ...]":
        return placed_parts(self.concept)

    @cached_property
    def overlaps(self) -> tuple[Overlap, ...]:
        """As built, and what only a pose makes touch."""
        found = list(overlaps_of(self.placed))
        known = {_pair(x) for x in found}
        for pose in (p for p in self.concept.poses if p.shifts):
            moved = frozenset(s.item for s in pose.shifts)
            new = [x for x in overlaps_of(placed_parts(self.concept, pose), pose.name, moved) if _pair(x) not in known]
            known |= {_pair(x) for x in new}
            found += new
        return tuple(found)

    @cached_property
    def is_cut(self) -> bool:
        """Whether there are more pairs than were looked at."""
        solid = [p.box for p in self.placed if p.item.fills == "its box"]
        return len(solid) ** 2 > MOST_PAIRS and len(overlapping(solid, MOST_PAIRS)) >= MOST_PAIRS

    @cached_property
    def accesses(self) -> tuple[Access, ...]:
        items = {i.id: i for i in self.concept.items}
        return tuple(_access(c, items[c.item], self.placed, self.unplaced) for c in self.concept.clearances)

    @cached_property
    def unplaced(self) -> tuple[str, ...]:
        """Parts of which a copy has no place, or no size."""
        return tuple(i.name for i in self._solid if len(i.places) < i.count or not _has_size(i))

    @cached_property
    def unsized(self) -> tuple[str, ...]:
        """Parts with places of which the size is not known."""
        return tuple(i.name for i in self._solid if i.places and not _has_size(i))

    @property
    def _solid(self) -> list[Item]:
        return [i for i in self.concept.items if i.fills != "spread about"]


def placed_parts(concept: Concept, pose: Pose | None = None) -> tuple[Placed, ...]:
    """Every copy with a place and a size, moved as the pose has it; what is gone then is left out."""
    shifts = {s.item: s for s in pose.shifts} if pose is not None else {}
    found = []
    for item in concept.items:
        part, shift = item.part, shifts.get(item.id)
        if item.fills == "spread about" or not (part.length_m and part.width_m and part.height_m):
            continue
        if shift is not None and shift.mass_kg == 0:
            continue
        dx, dy, dz = (shift.dx_m, shift.dy_m, shift.dz_m) if shift is not None else (0.0, 0.0, 0.0)
        for copy, place in enumerate(item.places[: item.count]):
            middle = (place.x_m + dx, place.y_m + dy, place.z_m + dz)
            sides = (part.length_m, part.width_m, part.height_m)
            found.append(Placed(item, copy, box_of(middle, sides, place.turn_deg, place.tilt_deg)))
    return tuple(found)


def overlaps_of(placed: tuple[Placed, ...], pose: str = "", among: frozenset[str] = frozenset()) -> tuple[Overlap, ...]:
    """Pairs that reach into each other, the deepest first: all, or those of which one is among some items.

    What may have parts inside touches nothing. Of a heap of parts in one place the first pairs are enough.
    """
    solid = [p for p in placed if p.item.fills == "its box"]
    if among and not any(p.item.id in among for p in solid):
        return ()
    pairs = overlapping([p.box for p in solid], MOST_PAIRS)
    if among:
        pairs = [(a, b) for a, b in pairs if solid[a].item.id in among or solid[b].item.id in among]
    if not pairs:
        return ()
    deep = overlaps_m([p.box for p in solid], pairs).tolist()
    found = [Overlap(solid[a], solid[b], d, pose) for (a, b), d in zip(pairs, deep, strict=True) if d > CLEAR_M]
    return tuple(sorted(found, key=lambda x: (-x.deep_m, x.one.name, x.other.name)))


def _pair(overlap: Overlap) -> tuple[str, int, str, int]:
    return overlap.one.item.id, overlap.one.copy, overlap.other.item.id, overlap.other.copy


def _has_size(item: Item) -> bool:
    return bool(item.part.length_m and item.part.width_m and item.part.height_m)


def _access(clearance: Clearance, item: Item, placed: tuple[Placed, ...], unplaced: tuple[str, ...]) -> Access:
    """What reaches into the room before the first copy of a part."""
    width, depth = ROOM_M[clearance.access]
    depth = clearance.depth_m or depth
    own = next((p for p in placed if p.item.id == item.id), None)
    if own is None:
        return Access(clearance, item, depth, width, missing=(f"{item.name}: its place and size",))
    room = _room_before(own.box, clearance, width, depth)
    others = [p for p in placed if p is not own and p.item.fills == "its box"]
    pairs = [(0, k + 1) for k in range(len(others))]
    deep = overlaps_m([room, *(p.box for p in others)], pairs).tolist() if pairs else []
    blocked = [(p.name, d) for p, d in zip(others, deep, strict=True) if d > CLEAR_M]
    blocked.sort(key=lambda x: -x[1])
    missing = tuple(f"{name}: its place and size" for name in unplaced)
    return Access(clearance, item, depth, width, tuple(blocked), missing)


def _room_before(box: Box, clearance: Clearance, width: float, depth: float) -> Box:
    """The room that must be free: as wide as what must get there, before the middle of that side."""
    axis, way = SIDES[clearance.side]
    far = way * (box.half[axis] + depth / 2)
    x, y, z = (m + far * a for m, a in zip(box.middle, box.axes[axis], strict=True))
    half = tuple(depth / 2 if n == axis else width / 2 for n in range(3))
    return Box((x, y, z), half, box.axes)  # type: ignore[arg-type]


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple(
        (i.id, i.name, i.count, i.places, i.fills, i.part.length_m, i.part.width_m, i.part.height_m)
        for i in concept.items
    )
    return items, concept.poses, concept.clearances


FITTING = Node("fitting", _read, lambda project, _: Fitting(project.concept))
