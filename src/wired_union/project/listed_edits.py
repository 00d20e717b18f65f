"""Edits of a concept's lists of values with ids: one more, one less, other figures."""

from collections.abc import Iterable, Iterator
from typing import Any, TypeVar

from wired_union import units
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    new_id,
    replaced,
    with_concept,
    with_concept_value,
)
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.references import ONE_NAME, in_room, without
from wired_union.project.value import ROOM_WORDS, Value, checked, made, references

V = TypeVar("V", bound=Value)


def add_listed(project: Project, room: str, of_kind: type[Value], word: str, name: str, **figures: Any) -> Change:
    """One more value of a kind in a list of the concept; its other figures are typical until they are said.

    Args:
        room: the field of the concept that holds the list
        of_kind: of its values
        word: what one is called: "sight"
        name: how this one is called
    """
    listed = getattr(project.concept, room)
    value = one_more(of_kind, word, name, _taken(project, room), figures)
    name = name_of(project, value)
    _check_named(project, value)
    return Change(project, with_concept(project, **{room: (*listed, value)}), f"{name}: one more {word}")


def one_more(of_kind: type[V], word: str, name: str, taken: Iterable[str], figures: dict[str, Any]) -> V:
    """A new value with a name and an id of its own. Raises ProjectError for a figure that cannot be."""
    name = checked_name(name, word)
    with figures_of(name):
        return made(of_kind, id=new_id(name, taken), name=name, **figures)


def changed_one(listed: Iterable[V], value_id: str, word: str, figures: dict[str, Any]) -> tuple[V, V]:
    """A value of a list, and the same with other figures. Raises ProjectError for what cannot be, or names nothing."""
    old = by_id(listed, value_id, word)
    with figures_of(getattr(old, "name", word)):
        return old, checked(old, **figures)


def _taken(project: Project, room: str) -> Iterator[str]:
    """Ids of a list, and of those that must not share one with it."""
    rooms = {room, *(r for group in ONE_NAME if room in group for r in group)}
    return (x.id for r in rooms for x in getattr(project.concept, r))


def set_listed(project: Project, room: str, value_id: str, word: str, **figures: Any) -> Change:
    """Other figures of one of them. Raises ProjectError for what cannot be, or names nothing."""
    listed = getattr(project.concept, room)
    old = by_id(listed, value_id, word)
    with figures_of(name_of(project, old)):
        new = checked(old, **figures)
    _check_named(project, new)
    said = ", ".join(f"{units.plain_words(f)} {said_value(project, new, f)}" for f in figures)
    return Change(
        project, with_concept(project, **{room: replaced(listed, old, new)}), f"{name_of(project, new)}: {said}"
    )


def remove_listed(project: Project, room: str, value_id: str, word: str) -> Change:
    """One less."""
    listed = getattr(project.concept, room)
    old = by_id(listed, value_id, word)
    after = with_concept_value(project, without(project.concept, room, value_id))
    return Change(project, after, f"{name_of(project, old)}: no longer looked at")


def name_of(project: Project, value: Value) -> str:
    """What a value is called; of one without a name, the part that it is of."""
    if name := getattr(value, "name", ""):
        return str(name)
    names = {i.id: i.name for i in project.concept.items}
    return names.get(getattr(value, "item", ""), "It")


def said_value(project: Project, value: Value, field: str) -> str:
    """A figure with its unit, the name of what is named, "none" for nothing."""
    given, ref = getattr(value, field), references(type(value)).get(field)
    if ref is not None and given:
        return str(by_id(in_room(project, ref.room), given, ROOM_WORDS[ref.room]).name)
    if isinstance(given, bool):
        return "yes" if given else "no"
    if given is None or given == "":
        return "none"
    if isinstance(given, tuple):
        return f"{len(given)} of them" if given else "none"
    return units.show_named(field, given) if isinstance(given, int | float) else str(given)


def _check_named(project: Project, value: Value) -> None:
    """Raise ProjectError where it names what is not there."""
    for field, ref in references(type(value)).items():
        named = getattr(value, field)
        if named and not any(x.id == named for x in in_room(project, ref.room)):
            raise ProjectError(f"There is no {ROOM_WORDS[ref.room]} “{named}”. Choose one that there is.")
