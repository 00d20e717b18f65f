"""What could be put between a load and a source that does not suit it: a regulator or a driver of the catalogue.

Each is an edit that adds the part, feeds it, and feeds the load from it; the ripple works out what that does.
"""

from collections.abc import Iterator

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Remedy, possible, tried
from wired_union.project.change import Change
from wired_union.project.model import Item, Part, Project
from wired_union.project.part_edits import add_item, feed_from
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.suiting import needs, suits, wants_driver

CLASSES = ("switching regulator", "linear regulator")
SUGGESTED = 3
IN_HAND = 0.8
"""Share of a rating that a suggested part is loaded with at the most: common practice."""


def insert(project: Project, item: Item, part: Part, source: str) -> Change:
    """Add a part, feed it from a source and the item from it: one edit. Raises ProjectError as its steps do."""
    with_part, new = added(project, item.subsystem, part, source)
    after = feed_from(with_part, item.id, new.id).after
    return Change(project, after, f"{new.name} between {_name(project, source)} and {item.name}")


def insert_behind(project: Project, giver: Item, part: Part) -> Change:
    """Add a part between an item and all that it feeds: one edit. Raises ProjectError as its steps do."""
    loads = [f.load for f in project.concept.feeds if f.source == giver.id]
    after, new = added(project, giver.subsystem, part, giver.id)
    for load in loads:
        after = feed_from(after, load, new.id).after
    return Change(project, after, f"{new.name} between {giver.name} and all that it feeds")


def added(project: Project, subsystem: str, part: Part, source: str) -> tuple[Project, Item]:
    """The project with a part more that is fed from a source, and the item that it has become."""
    after = add_item(project, subsystem, part).after
    known = {i.id for i in project.concept.items}
    new = next(i for i in after.concept.items if i.id not in known)
    fed = feed_from(after, new.id, source).after if _source_of(after, new.id) != source else after
    return fed, new


def _source_of(project: Project, item_id: str) -> str | None:
    return next((f.source for f in project.concept.feeds if f.load == item_id), None)


def _name(project: Project, item_id: str) -> str:
    return next((i.name for i in project.concept.items if i.id == item_id), item_id)


def ways_to_feed(project: Project, result: PowerResult, item: Item) -> tuple[Remedy, ...]:
    """What feeds an item that nothing suits or feeds yet: a source that is there, else a part in between."""
    return (*existing(project, result, item), *between(project, result, item))[:SUGGESTED]


def existing(project: Project, result: PowerResult, item: Item) -> tuple[Remedy, ...]:
    """Sources already there whose whole range of voltage suits; a motor only behind a driver."""
    driven = wants_driver(item.part)
    fitting = [
        s for s in result.offered
        if suits(s, item.part) and s.item.id != item.id and (s.item.part.driver is not None) == driven
    ]  # fmt: skip
    now = _source_of(project, item.id)
    return possible(*(
        (f"feed {item.name} from {s.item.name}", tried(feed_from, project, item.id, s.item.id))
        for s in reversed(fitting) if s.item.id != now
    ))  # fmt: skip


def between(project: Project, result: PowerResult, item: Item) -> tuple[Remedy, ...]:
    """Parts that make what the item takes from a source that is there, the lightest that bear it first."""
    found: list[Remedy] = []
    for part in sorted(_candidates(item), key=lambda p: (p.mass_kg or 0.0, p.id)):
        source = next((s for s in result.offered if s.item.part.driver is None and suits(s, part)), None)
        if source is not None and source.item.id != item.id:
            words = f"add {part.name}, fed from {source.item.name}"
            found += possible((words, tried(insert, project, item, part, source.item.id)))
        if len(found) == SUGGESTED:
            break
    return tuple(found)


def _candidates(item: Item) -> Iterator[Part]:
    """Drivers for what wants one, else regulators that make a voltage the item takes, and enough current."""
    current = (item.part.stepper.coil_current_a or 0.0) if item.part.stepper is not None else _most_current(item)
    if wants_driver(item.part):
        yield from (p for p in of_kind("motor driver") if _drives(p, item, current))
        return
    least, most = needs(item.part)
    for kind in CLASSES:
        for part in of_kind(kind):
            regulator = part.regulator
            if regulator is None or (least or 0.0) > regulator.output_v or regulator.output_v > (most or 0.0):
                continue
            if (regulator.max_current_a or 0.0) * IN_HAND >= current * item.count:
                yield part


def _drives(part: Part, item: Item, current: float) -> bool:
    driver, wanted = part.driver, item.count * (2 if item.part.stepper is not None else 1)
    if driver is None or driver.channels < wanted:
        return False
    whole = driver.total_current_a or 0.0
    return (driver.channel_current_a or 0.0) * IN_HAND >= current and whole * IN_HAND >= current * wanted


def _most_current(item: Item) -> float:
    load = item.part.load
    if load is None:
        return 0.0
    return max((a for a in (load.active_a, load.peak_a, load.startup_a) if a is not None), default=0.0)
