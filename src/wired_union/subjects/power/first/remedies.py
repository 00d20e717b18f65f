"""What keeps a controller from resetting: starts apart, softly, behind a capacitor, through a thicker wire.

Each is sized by stepping the whole project with it; one that no size of mends is not offered.
"""

import math
from collections.abc import Callable, Iterator, Sequence

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Remedy, possible, tried
from wired_union.project.change import Change
from wired_union.project.model import Feed, Item, Part, Project
from wired_union.project.part_edits import set_count, set_part_value, set_wire, swap_part
from wired_union.subjects.power.edits import put_capacitor, stagger, start_after
from wired_union.subjects.power.first.run import Dip, First
from wired_union.subjects.power.insert import between, existing
from wired_union.units import show

FirstOf = Callable[[Project], First]
SOFT_S = (0.02, 0.05, 0.1, 0.2, 0.5, 1.0)
FARADS = (1e-4, 2.2e-4, 4.7e-4, 1e-3, 2.2e-3, 4.7e-3, 1e-2, 2.2e-2, 4.7e-2)
"""Capacitors on sale, from 100 µF; beyond 47 mF it is no longer a capacitor that helps."""
THICKEST = 8
GIVERS, DRIVERS = 2, 2


def margin_v(first: First, item_id: str) -> float:
    """What an item has left above the voltage at which it resets; −inf where that is not known."""
    found = next((w.margin_v for w in first.watched if w.item.id == item_id), None)
    return found if found is not None else -float("inf")


def remedies(project: Project, first: First, item: Item, dip: Dip, first_of: FirstOf) -> tuple[Remedy, ...]:
    """Everything that keeps an item from resetting, what costs nothing first."""
    mode = first.result.concept.modes[dip.mode]
    found: list[Remedy] = []
    if not mode.staggered:
        found += possible((f"start motors one after another in {mode.name}", tried(stagger, project, mode.id, True)))
    found += _later(project, first, item, dip, first_of)
    found += _softly(project, first, item, first_of)
    found += _other_drivers(project, first, item, first_of)
    found += _capacitor(project, first, item, first_of)
    found += _thicker(project, first, item, first_of)
    found += existing(project, first.result, item)[:GIVERS] + between(project, first.result, item)[:GIVERS]
    return tuple(found)


def least_of(changes: Sequence[tuple[str, Change]], item: Item, first_of: FirstOf) -> tuple[Remedy, ...]:
    """The first of some changes, from little to much, with which an item does not reset; none where the last does not.

    More of it must help no less, so that the place is halved.
    """
    if not changes or margin_v(first_of(changes[-1][1].after), item.id) < 0:
        return ()
    low, high = 0, len(changes) - 1
    while low < high:
        middle = (low + high) // 2
        if margin_v(first_of(changes[middle][1].after), item.id) < 0:
            low = middle + 1
        else:
            high = middle
    return possible(changes[low])


def _later(project: Project, first: First, item: Item, dip: Dip, first_of: FirstOf) -> tuple[Remedy, ...]:
    """Where kinds of parts start together: the last of them later, by the least time that keeps it up."""
    mode = first.result.concept.modes[dip.mode]
    starts = [s for s in first.starts if s.mode == dip.mode]
    starting = list(dict.fromkeys(i for s in starts for i, _ in s.circuit.starting))
    if len(starting) < 2 or mode.staggered:
        return ()
    names = {i.id: i.name for i in first.result.concept.items}
    last = starting[-1]
    made = ((f"{names[last]} {show(t, 's')} later in {mode.name}", tried(start_after, project, mode.id, last, t))
            for t in SOFT_S)  # fmt: skip
    return least_of([(words, c) for words, c in made if c is not None], item, first_of)


def _drivers(first: First) -> Iterator[Item]:
    """Drivers of what starts as windings."""
    turning = {i for s in first.starts for i, _ in s.circuit.windings}
    above = dict.fromkeys(first.result.tree.source_of[i] for i in turning)
    yield from (first.result.tree.nodes[i].item for i in above if first.result.tree.nodes[i].item.part.driver)


def _softly(project: Project, first: First, item: Item, first_of: FirstOf) -> tuple[Remedy, ...]:
    """A driver that opens slowly, so that the motor turns by the time it gets all."""
    found: list[Remedy] = []
    for driver in _drivers(first):
        made = (
            (f"{driver.name} opens over {show(t, 's')}",
             tried(set_part_value, project, driver.id, "driver.soft_start_s", t)) for t in SOFT_S
        )  # fmt: skip
        found += least_of([(words, c) for words, c in made if c is not None], item, first_of)
    return tuple(found)


def _other_drivers(project: Project, first: First, item: Item, first_of: FirstOf) -> tuple[Remedy, ...]:
    """Drivers of the catalogue that hold the current back and bear the supply, the least hold first."""
    limiting = sorted(
        ((d.current_limit_a, p.id, p) for p in of_kind("motor driver") if (d := p.driver) is not None
         and d.current_limit_a > 0 and d.made_for != "steppers"), reverse=True,
    )  # fmt: skip
    found: list[Remedy] = []
    for old in _drivers(first):
        now = old.part.driver.current_limit_a if old.part.driver is not None else 0.0
        for limit, _, part in limiting:
            if (now and limit >= now) or not _takes_its_place(first, part, old) or len(found) >= DRIVERS:
                continue
            change = _in_place(project, old, part)
            if change is not None and margin_v(first_of(change.after), item.id) >= 0:
                found += possible((f"take {change.sentence}", change))
    return tuple(found)


def _takes_its_place(first: First, part: Part, old: Item) -> bool:
    """Whether a driver survives what feeds it."""
    new = part.driver
    return new is not None and part.id != old.part.id and (new.input_max_v or 0.0) >= first.result.full_v.get(
        old.id, math.inf)  # fmt: skip


def _in_place(project: Project, old: Item, part: Part) -> Change | None:
    """As many drivers of a kind as have the channels of what is there."""
    assert part.driver is not None
    channels = old.part.driver.channels * old.count if old.part.driver is not None else 1
    count = -(-channels // part.driver.channels)
    swapped = tried(swap_part, project, old.id, part)
    made = tried(set_count, swapped.after, old.id, count) if swapped is not None and count != old.count else swapped
    if made is None:
        return None
    many = f"{count} × {part.name}" if count > 1 else part.name
    return Change(project, made.after, f"{many} in place of {old.name}")


def _capacitor(project: Project, first: First, item: Item, first_of: FirstOf) -> tuple[Remedy, ...]:
    """A capacitor where the wire to it, or to the regulator that makes its voltage, ends."""
    path = [item.id, *first.result.tree.above(item.id)]
    at = next((i for i in path if _is_wired(project, i)), path[-2] if len(path) > 1 else None)
    if at is None:
        return ()
    name = first.result.tree.nodes[at].item.name
    made = ((f"a capacitor of {show(f, 'F')} beside {name}", tried(put_capacitor, project, at, f)) for f in FARADS)
    return least_of([(words, c) for words, c in made if c is not None], item, first_of)


def _is_wired(project: Project, item_id: str) -> bool:
    feed = _feed(project, item_id)
    return feed is not None and bool(feed.wire_length_m)


def _feed(project: Project, item_id: str) -> Feed | None:
    return next((f for f in project.concept.feeds if f.load == item_id), None)


def _thicker(project: Project, first: First, item: Item, first_of: FirstOf) -> tuple[Remedy, ...]:
    """Thicker wire on the way to it."""
    found: list[Remedy] = []
    for at in (item.id, *first.result.tree.above(item.id)):
        feed = _feed(project, at)
        if feed is None or feed.wire_awg is None or not feed.wire_length_m:
            continue
        name = first.result.tree.nodes[at].item.name
        made = ((f"a wire of AWG {awg} to {name}", tried(set_wire, project, at, feed.wire_length_m, awg))
                for awg in range(feed.wire_awg - 1, THICKEST - 1, -1))  # fmt: skip
        found += least_of([(words, c) for words, c in made if c is not None], item, first_of)
    return tuple(found)
