"""Where in the free space a part stands best: the place at which the machine tips last."""

import math
from collections.abc import Iterator, Sequence
from itertools import product

from wired_union.project.change import Change, find_item, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Item, Place, Project
from wired_union.project.place_words import said_move
from wired_union.subjects.mass.balance import assess_balances
from wired_union.subjects.mass.envelope import Box, envelope_of, reach, sides_of, size_of

STEPS_M = (0.04, 0.02, 0.01, 0.005)
"""The search looks around at the first, then ever finer around the best."""
REACH = 4
"""Steps each way at first; then one."""
MOST_ITEMS = 500
"""Among more the search takes longer than a moment."""
CLEAR_M, WORTH_DEG = 1e-6, 0.05

Way = tuple[float, float, float]
STAYS: Way = (0.0, 0.0, 0.0)


def best_place(project: Project, item_id: str) -> Change:
    """Move a part to where the machine tips last in its worst pose, by a search in free space.

    It stays inside what the machine takes up now, in the room of its subsystem where that has one and in whatever it
    is inside of; it runs into nothing that it does not touch already. Raises ProjectError: it has no place or size,
    too little is known of how the machine stands, or it stands nowhere better.
    """
    item = find_item(project, item_id)
    size = size_of(item.part)
    if item.count != 1 or len(item.places) != 1 or size is None:
        raise ProjectError(f"{item.name}: a best place is looked for one part that has a place and a size.")
    concept = project.concept
    if len(concept.items) > MOST_ITEMS:
        raise ProjectError(f"A best place is looked for among {MOST_ITEMS} parts at most.")
    now = _tips_at([concept])[0]
    if now is None:
        raise ProjectError("How it stands is not known yet; say first what its note asks for.")
    free = _Free(concept, item)
    best, way = now, STAYS
    for n, step in enumerate(STEPS_M):
        tries = [w for w in _around(way, step, REACH if n == 0 else 1) if free.holds(w)]
        tries.sort(key=lambda w: math.dist(w, STAYS))  # of equals, the least way
        for tried, tip in zip(tries, _tips_at([_moved(concept, item, w) for w in tries]), strict=True):
            if tip is not None and tip > best + 1e-9:
                best, way = tip, tried
    if best < now + WORTH_DEG:
        raise ProjectError(f"{item.name}: it stands nowhere better in the free space.")
    after = with_concept(project, items=_moved(concept, item, way).items)
    return Change(project, after, f"{item.name} {said_move(*way)}, where it tips last: +{best - now:.1f}°")


def _around(way: Way, step: float, reach_steps: int) -> Iterator[Way]:
    steps = range(-reach_steps, reach_steps + 1)
    for a, b, c in product(steps, steps, steps):
        yield round(way[0] + step * a, 6), round(way[1] + step * b, 6), round(way[2] + step * c, 6)


def _moved(concept: Concept, item: Item, way: Way) -> Concept:
    return concept.but(items=replaced(concept.items, item, item.but(places=(_at(item.places[0], way),))))


def _at(place: Place, way: Way) -> Place:
    return place.but(x_m=place.x_m + way[0], y_m=place.y_m + way[1], z_m=place.z_m + way[2])


def _tips_at(concepts: Sequence[Concept]) -> list[float | None]:
    """The slope at which each tips at the least; None where it is not known."""
    found = []
    for balance in assess_balances(concepts):
        first = balance.worst.first
        found.append(None if first is None or balance.lacking else first.least_deg)
    return found


class _Free:
    """Where one part may be among the others."""

    def __init__(self, concept: Concept, item: Item) -> None:
        size = size_of(item.part)
        assert size is not None
        self._size, self._place = size, item.places[0]
        here = self._box(STAYS)
        others = envelope_of(concept.but(items=tuple(i for i in concept.items if i is not item))).boxes
        room = next(s.room for s in concept.subsystems if s.id == item.subsystem)
        within = [Box("", *sides_of(room))] if room is not None else []
        self._within = [b for b in (*within, *others) if _inside(here, b)]
        self._apart = [b for b in others if not _touch(here, b)]
        x, y, z = ([b.low[k] for b in (*others, here)] for k in range(3))
        far_x, far_y, far_z = ([b.high[k] for b in (*others, here)] for k in range(3))
        self._whole = Box("", (min(x), min(y), min(z)), (max(far_x), max(far_y), max(far_z)))

    def holds(self, way: Way) -> bool:
        """Whether it may be moved so far."""
        box = self._box(way)
        return (
            _inside(box, self._whole)
            and all(_inside(box, b) for b in self._within)
            and not any(_touch(box, b) for b in self._apart)
        )

    def _box(self, way: Way) -> Box:
        return Box("", *reach(self._size, _at(self._place, way)))


def _inside(box: Box, around: Box) -> bool:
    return all(b >= a - CLEAR_M for a, b in zip(around.low, box.low, strict=True)) and all(
        b <= a + CLEAR_M for a, b in zip(around.high, box.high, strict=True)
    )


def _touch(one: Box, other: Box) -> bool:
    return all(one.low[k] < other.high[k] - CLEAR_M and other.low[k] < one.high[k] - CLEAR_M for k in range(3))
