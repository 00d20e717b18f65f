"""Edits of lanes and the parts in them. Each returns a Change, or raises ProjectError with what to do."""

from collections.abc import Sequence
from typing import Any

from wired_union import units
from wired_union.project.cables import cable_of, length_of
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    find_item,
    new_id,
    replaced,
    with_concept,
    with_concept_value,
)
from wired_union.project.errors import ProjectError
from wired_union.project.model import (
    STATES,
    Concept,
    Feed,
    Item,
    Knowledge,
    Origin,
    Part,
    Project,
    State,
    Subsystem,
    Use,
)
from wired_union.project.references import copied, without
from wired_union.project.value import BadFigure, checked


def add_subsystem(project: Project, name: str) -> Change:
    name = checked_name(name, "subsystem")
    lane = Subsystem(id=new_id(name, (s.id for s in project.concept.subsystems)), name=name)
    after = with_concept(project, subsystems=(*project.concept.subsystems, lane))
    return Change(project, after, f"add subsystem {name}")


def rename_subsystem(project: Project, subsystem: str, name: str) -> Change:
    lane = by_id(project.concept.subsystems, subsystem, "subsystem")
    name = checked_name(name, "subsystem")
    return _with_lane(project, lane, f"rename {lane.name} to {name}", name=name)


def set_share(project: Project, subsystem: str, field: str, value: float | None) -> Change:
    """Set a subsystem's share of mass ("mass_share_kg") or power ("power_share_w"), None for no share."""
    lane = by_id(project.concept.subsystems, subsystem, "subsystem")
    if value is not None and value <= 0:
        raise ProjectError("A share is above zero; leave the field empty for no share.")
    said = units.show_named(field, value) if value is not None else "no limit"
    return _with_lane(project, lane, f"{lane.name}: {units.plain_words(field)} {said}", **{field: value})


def remove_subsystem(project: Project, subsystem: str) -> Change:
    """Remove an empty lane. Raises ProjectError while parts are in it."""
    lane = by_id(project.concept.subsystems, subsystem, "subsystem")
    held = sum(i.subsystem == subsystem for i in project.concept.items)
    if held:
        raise ProjectError(f"{lane.name} still holds {held} parts. Move or delete them first.")
    sought = next((n.name for n in project.concept.needs if n.subsystem == subsystem), None)
    if sought:
        raise ProjectError(f"{lane.name} still looks for {sought}. Fill or drop that first.")
    after = with_concept_value(project, without(project.concept, "subsystems", subsystem))
    return Change(project, after, f"delete subsystem {lane.name}")


def add_item(
    project: Project,
    subsystem: str,
    part: Part,
    *,
    source: str | None = None,
    count: int = 1,
    origin: Origin = "to buy",
) -> Change:
    """Add a part to a lane, fed from the item `source` where given."""
    lane = by_id(project.concept.subsystems, subsystem, "subsystem")
    item = Item(
        id=new_id(part.name, (i.id for i in project.concept.items)),
        name=part.name,
        subsystem=lane.id,
        part=part,
        count=count,
        origin=origin,
    )
    feeds = project.concept.feeds if source is None else (*project.concept.feeds, Feed(source=source, load=item.id))
    after = with_concept(project, items=(*project.concept.items, item), feeds=feeds)
    return Change(project, after, f"add {item.name} to {lane.name}")


def duplicate_item(project: Project, item_id: str) -> Change:
    """A copy beside the original, with the same feed and the same use in every mode."""
    concept, item = project.concept, find_item(project, item_id)
    copy = item.but(id=new_id(item.name, (i.id for i in concept.items)), places=())  # nothing is where another is
    at = concept.items.index(item) + 1
    grown = concept.but(items=(*concept.items[:at], copy, *concept.items[at:]))
    after = with_concept_value(project, copied(grown, "items", item.id, copy.id))
    return Change(project, after, f"duplicate {item.name}")


def remove_item(project: Project, item_id: str) -> Change:
    """Delete an item; what it fed is then fed by what fed it."""
    concept, item = project.concept, find_item(project, item_id)
    above = next((f.source for f in concept.feeds if f.load == item.id), None)
    feeds = tuple(f.but(source=above) if f.source == item.id and above else f for f in concept.feeds)
    left = concept.but(items=tuple(i for i in concept.items if i is not item), feeds=feeds)
    after = with_concept_value(project, without(left, "items", item.id))
    return Change(project, after, f"delete {item.name}")


def rename_item(project: Project, item_id: str, name: str) -> Change:
    name = checked_name(name, "part")
    old = find_item(project, item_id).name
    return _with_item(project, item_id, f"rename {old} to {name}", name=name)


def set_count(project: Project, item_id: str, count: int) -> Change:
    item = find_item(project, item_id)
    if not 1 <= count <= 10_000 or count != int(count):
        raise ProjectError("Give a whole number from 1 to 10 000. Delete the part if there is to be none.")
    sentence = f"{item.name}: {item.count} becomes {int(count)}"
    return _with_item(project, item_id, sentence, count=int(count), places=item.places[: int(count)])


def move_item(project: Project, item_id: str, subsystem: str, place: int | None = None) -> Change:
    """Move an item to a lane, at `place` among the lane's items (the end when None)."""
    concept, item = project.concept, find_item(project, item_id)
    lane = by_id(concept.subsystems, subsystem, "subsystem")
    moved = item if item.subsystem == lane.id else item.but(subsystem=lane.id)
    others = [i for i in concept.items if i is not item]
    there = [i for i in others if i.subsystem == lane.id]
    at = len(others) if place is None or place >= len(there) else others.index(there[max(place, 0)])
    others.insert(at, moved)
    return Change(project, with_concept(project, items=tuple(others)), f"move {item.name} to {lane.name}")


def swap_part(project: Project, item_id: str, part: Part, *, origin: Origin = "to buy") -> Change:
    """Put another part in an item's place. Its name follows unless the team has given it one of their own."""
    item = find_item(project, item_id)
    name = part.name if item.name == item.part.name else item.name
    swapped = _with_item(
        project, item_id, f"swap {item.name} for {part.name}", part=part, name=name, knowledge="datasheet",
        origin=origin,
    )  # fmt: skip
    was = swapped.after.concept.weighings
    kept = tuple(w for w in was if w.item != item_id)  # they were of the other part
    return swapped if len(kept) == len(was) else Change(
        project, with_concept(swapped.after, weighings=kept), swapped.sentence
    )  # fmt: skip


def set_part_value(project: Project, item_id: str, path: str, value: Any) -> Change:
    """Set one value of an item's part, by its path: "mass_kg", "load.active_a". None says that it is not known."""
    item = find_item(project, item_id)
    part = with_value(item.part, path, value)
    words = units.plain_words(path)
    text = (
        units.show_named(path, value, project.brief.currency) if isinstance(value, int | float | None) else str(value)
    )
    return _with_item(project, item_id, f"{item.name}: {words} {text}", part=part)


def with_value(part: Part, path: str, value: Any) -> Part:
    """The part with one value replaced. Raises ProjectError when the value cannot be."""
    facet, _, field = path.rpartition(".")
    if facet and getattr(part, facet, None) is None:
        raise ProjectError(f"{part.name} has no {facet} figures.")
    target = getattr(part, facet) if facet else part
    try:
        new = checked(target, **{field: value})
    except BadFigure as error:
        raise ProjectError(f"{units.plain_words(field)}: {error.reason}.") from error
    return part.but(**{facet: new}) if facet else new


def set_knowledge(project: Project, item_id: str, knowledge: Knowledge) -> Change:
    item = find_item(project, item_id)
    return _with_item(project, item_id, f"{item.name} is now known by {knowledge}", knowledge=knowledge)


def set_origin(project: Project, item_id: str, origin: Origin) -> Change:
    item = find_item(project, item_id)
    return _with_item(project, item_id, f"{item.name}: {origin}", origin=origin)


def set_fills(project: Project, item_id: str, fills: str) -> Change:
    """Say how a part fills its room: "its box", "open inside" or "spread about"."""
    item = find_item(project, item_id)
    with figures_of(item.name):
        new = checked(item, fills=fills)
    return _with_item(project, item_id, f"{item.name} fills {_FILLS[fills]}", fills=new.fills)


_FILLS = {"its box": "its box", "open inside": "a room that others may be in", "spread about": "no room of its own"}


def feed_from(project: Project, item_id: str, source: str | None) -> Change:
    """Feed an item from another, or from nothing. Raises ProjectError where that would make a ring."""
    concept, item = project.concept, find_item(project, item_id)
    others = tuple(f for f in concept.feeds if f.load != item.id)
    if source is None:
        return Change(project, with_concept(project, feeds=others), f"disconnect {item.name}")
    giver = find_item(project, source)
    if not feeds_others(giver.part):
        raise ProjectError(f"{giver.name} cannot feed anything. Choose a pack, supply, rail, regulator or driver.")
    if item.part.supply is not None:
        raise ProjectError(f"{item.name} is a supply: it comes from outside and is fed by nothing here.")
    _check_stand_in(concept, others, item, giver)
    above = {f.load: f.source for f in others}
    at: str | None = giver.id
    while at is not None:
        if at == item.id:
            raise ProjectError(f"{item.name} already feeds {giver.name}; they cannot feed each other.")
        at = above.get(at)
    old = next((f for f in concept.feeds if f.load == item.id), Feed(source=source, load=item.id))
    feeds = (*others, old.but(source=source))
    return Change(project, with_concept(project, feeds=feeds), f"feed {item.name} from {giver.name}")


def _check_stand_in(concept: Concept, others: Sequence[Feed], item: Item, giver: Item) -> None:
    """A supply stands in for one pack or feeds loads of its own. Raises ProjectError for both."""
    if giver.part.supply is None:
        return
    fed = [i for f in others if f.source == giver.id for i in concept.items if i.id == f.load]
    pack = next((i for i in fed if i.part.pack is not None), None)
    if pack is not None:
        raise ProjectError(f"{giver.name} stands in for {pack.name}. Feed {item.name} from {pack.name}.")
    if item.part.pack is not None and fed:
        raise ProjectError(f"{giver.name} feeds {fed[0].name}. Feed that from {item.name} first, then plug this in.")


def shift_levels(project: Project, item_id: str, shifter: str) -> Change:
    """Send an item's signals through a level shifter; "" for straight to its controller."""
    item = find_item(project, item_id)
    if not shifter:
        return _with_item(project, item_id, f"{item.name} talks straight to its controller", shifted_by="")
    through = find_item(project, shifter)
    if through.part.shifter is None:
        raise ProjectError(f"{through.name} is no level shifter.")
    return _with_item(project, item_id, f"{item.name} talks through {through.name}", shifted_by=through.id)


def set_wire(project: Project, item_id: str, length_m: float | None, awg: int | None) -> Change:
    """Set the wire an item is fed through."""
    item = find_item(project, item_id)
    feed = next((f for f in project.concept.feeds if f.load == item.id), None)
    if feed is None:
        raise ProjectError(f"{item.name} is not fed by anything yet. Connect it first.")
    cable = cable_of(project.concept, feed)
    try:
        if cable is not None:  # the wire is the cable's: a length that its places give stays theirs
            kept = length_of(project.concept, cable)[0] == length_m
            new_cable = checked(cable, awg=awg) if kept else checked(cable, awg=awg, length_m=length_m)
            after = with_concept(project, cables=replaced(project.concept.cables, cable, new_cable))
            return Change(project, after, f"{cable.name}: {units.show(length_m, 'm')} of AWG {awg}")
        new = checked(feed, wire_length_m=length_m, wire_awg=awg)
    except BadFigure as error:
        raise ProjectError(f"wire to {item.name}: {error.reason}.") from error
    after = with_concept(project, feeds=replaced(project.concept.feeds, feed, new))
    return Change(project, after, f"wire to {item.name}: {units.show(length_m, 'm')} of AWG {awg}")


def set_use(project: Project, mode_id: str, item_id: str, state: State, duty: float = 1.0) -> Change:
    """Set what an item does in a mode. Raises ProjectError for a duty outside 0 to 1 or an unknown state."""
    mode, item = by_id(project.concept.modes, mode_id, "mode"), find_item(project, item_id)
    if state not in STATES:
        raise ProjectError(f"{item.name}: choose one of {', '.join(STATES)}.")
    if not 0 <= duty <= 1:
        raise ProjectError("Duty is from 0 to 100 %.")
    old = next((u for u in mode.uses if u.item == item_id), None)
    rest = old.rest if old else "idle"
    new = (old or Use(item=item_id, state=state)).but(state=state, duty=duty, rest=rest)
    uses = replaced(mode.uses, old, new) if old else (*mode.uses, new)
    share = f" {units.show(duty, fraction=True)} of the time" if duty < 1 else ""
    modes = replaced(project.concept.modes, mode, mode.but(uses=uses))
    return Change(project, with_concept(project, modes=modes), f"{item.name} is {state}{share} in {mode.name}")


def feeds_others(part: Part) -> bool:
    """Whether a part can power another."""
    return any(facet is not None for facet in (part.pack, part.supply, part.regulator, part.driver, part.rail))


def _with_item(project: Project, item_id: str, sentence: str, **new: Any) -> Change:
    old = find_item(project, item_id)
    items = replaced(project.concept.items, old, old.but(**new))
    return Change(project, with_concept(project, items=items), sentence)


def _with_lane(project: Project, lane: Subsystem, sentence: str, **new: Any) -> Change:
    lanes = replaced(project.concept.subsystems, lane, lane.but(**new))
    return Change(project, with_concept(project, subsystems=lanes), sentence)


def rename_project(project: Project, name: str, subtitle: str | None = None) -> Change:
    name = checked_name(name, "project")
    new = {"name": name} if subtitle is None else {"name": name, "subtitle": subtitle.strip()}
    return Change(project, project.but(**new), f"call the project {name}")
