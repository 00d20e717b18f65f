"""Edits of slots: what must hold for a place, places without a part yet, several swaps at once, the team's shelf."""

from collections.abc import Mapping, Sequence
from typing import Any

from wired_union import units
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    find_item,
    new_id,
    replaced,
    with_concept,
)
from wired_union.project.errors import ProjectError
from wired_union.project.model import Item, Need, Origin, Part, Project, Stock
from wired_union.project.part_edits import add_item, swap_part
from wired_union.project.value import BadFigure, checked


def set_requirement(project: Project, slot_id: str, field: str, value: Any) -> Change:
    """Ask something of a slot, an item's or a need's; None asks for it no longer."""
    slot = find_slot(project, slot_id)
    try:
        requires = checked(slot.requires, **{field: None if value == "" else value})
    except BadFigure as error:
        raise ProjectError(f"{requirement_words(field)}: {error.reason}.") from error
    text = (
        "anything"
        if value is None
        else units.show_named(field, value, project.brief.currency)
        if isinstance(value, float)
        else str(value)
    )
    return _with_slot(project, slot, f"{slot.name}: {requirement_words(field)} {text}", requires=requires)


_SPOKEN = {
    "logic_v": "logic level", "supply_v": "supply voltage", "coldest_c": "coldest air", "hottest_c": "hottest air",
    "range_low": "range, down to", "range_high": "range, up to", "quantity": "measures",
}  # fmt: skip


def requirement_words(field: str) -> str:
    """A requirement's name in words: "least_torque_n_m" is "torque, at least"."""
    if field in _SPOKEN:
        return _SPOKEN[field]
    words = units.plain_words(field)
    for start, end in (("least ", ", at least"), ("most ", ", at most")):
        if words.startswith(start):
            return words.removeprefix(start) + end
    return words


def find_slot(project: Project, slot_id: str) -> Item | Need:
    """The item or need with that id. Raises ProjectError where there is none."""
    need = next((n for n in project.concept.needs if n.id == slot_id), None)
    return need or find_item(project, slot_id)


def add_need(project: Project, subsystem: str, name: str, kinds: Sequence[str] = ()) -> Change:
    """A place that no part fills yet."""
    name = checked_name(name, "need")
    by_id(project.concept.subsystems, subsystem, "subsystem")
    taken = [*(i.id for i in project.concept.items), *(n.id for n in project.concept.needs)]
    need = Need(id=new_id(name, taken), name=name, subsystem=subsystem, kinds=tuple(kinds))
    after = with_concept(project, needs=(*project.concept.needs, need))
    return Change(project, after, f"look for {name}")


def set_need(project: Project, need_id: str, **new: Any) -> Change:
    """Change a need's name, kinds, count or subsystem."""
    need = by_id(project.concept.needs, need_id, "need")
    with figures_of(need.name):
        changed = checked(need, **new)
    fields = {k: getattr(changed, k) for k in new}
    return _with_slot(project, need, f"change what is looked for: {changed.name}", **fields)


def remove_need(project: Project, need_id: str) -> Change:
    need = by_id(project.concept.needs, need_id, "need")
    after = with_concept(project, needs=tuple(n for n in project.concept.needs if n is not need))
    return Change(project, after, f"look for {need.name} no longer")


def fill_need(project: Project, need_id: str, part: Part, *, source: str | None = None,
              origin: Origin = "to buy") -> Change:  # fmt: skip
    """Put a part where one was looked for: an item with the need's name, count and requirements."""
    need = by_id(project.concept.needs, need_id, "need")
    emptied = remove_need(project, need_id).after
    added = add_item(emptied, need.subsystem, part, source=source, count=need.count, origin=origin).after
    made = added.concept.items[-1]
    item = made.but(name=need.name, requires=need.requires)
    after = with_concept(added, items=replaced(added.concept.items, made, item))
    return Change(project, after, f"{need.name}: take {part.name}")


def take_part(project: Project, slot_id: str, part: Part, *, source: str | None = None,
              origin: Origin = "to buy") -> Change:  # fmt: skip
    """Put a part in a slot, an item's or a need's."""
    if any(n.id == slot_id for n in project.concept.needs):
        return fill_need(project, slot_id, part, source=source, origin=origin)
    return swap_part(project, slot_id, part, origin=origin)


def swap_parts(project: Project, parts: Mapping[str, tuple[Part, Origin]]) -> Change:
    """Several swaps as one edit, by item id; parts that are in place already stay as they are.

    Raises ProjectError when nothing would change.
    """
    after, said = project, []
    for item_id, (part, origin) in parts.items():
        item = find_item(after, item_id)
        if item.part.id == part.id:
            continue
        after = swap_part(after, item_id, part, origin=origin).after
        said.append(f"{item.name} for {part.name}")
    if not said:
        raise ProjectError("Every one of these parts is in place already.")
    return Change(project, after, f"swap {', '.join(said)}")


def add_to_shelf(project: Project, stocks: Sequence[Stock]) -> Change:
    """Put parts on the team's shelf; a part that is there already gets the new figures."""
    if not stocks:
        raise ProjectError("There is nothing to put on the shelf.")
    new = {s.part.id: s for s in stocks}
    kept = [new.pop(s.part.id, s) for s in project.shelf]
    after = project.but(shelf=(*kept, *new.values()))
    what = stocks[0].part.name if len(stocks) == 1 else f"{len(stocks)} parts"
    return Change(project, after, f"put {what} on the shelf")


def remove_from_shelf(project: Project, part_id: str) -> Change:
    stock = next((s for s in project.shelf if s.part.id == part_id), None)
    if stock is None:
        raise ProjectError("That part is no longer on the shelf.")
    after = project.but(shelf=tuple(s for s in project.shelf if s is not stock))
    return Change(project, after, f"take {stock.part.name} off the shelf")


def _with_slot(project: Project, slot: Item | Need, sentence: str, **new: Any) -> Change:
    changed = slot.but(**new)
    if isinstance(slot, Need):
        after = with_concept(project, needs=replaced(project.concept.needs, slot, changed))
    else:
        after = with_concept(project, items=replaced(project.concept.items, slot, changed))
    return Change(project, after, sentence)
