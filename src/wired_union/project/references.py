"""References between values, declared in the model (`Ref`) and walked generically: checked, cleared, copied.

A new field that names another value needs only its `Ref`; checking a file, removing and duplicating follow.
"""

import types
from collections.abc import Callable, Iterable, Iterator
from functools import cache
from typing import Any, TypeVar

from msgspec import Struct

from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Feed, Project
from wired_union.project.value import ROOM_WORDS, Ref, Value, field_names, field_types, named_values, references

Path = tuple[int | str, ...]
V = TypeVar("V", bound=Value)
PROJECT_ROOMS: dict[str, Callable[[Project], tuple[Any, ...]]] = {
    "concepts": lambda project: project.concepts,
    "people": lambda project: project.plan.people,
    "machines": lambda project: project.plan.machines,
}
"""Lists of the project that values name by id, in whatever concept they are."""
ROOMS = tuple(room for room in ROOM_WORDS if room not in PROJECT_ROOMS)
"""Lists of a concept that values name by id."""


ONE_NAME = (("calibrations", "error_budgets", "analogue_chains", "surfaces"),)
"""Lists whose values give measures of one kind: their ids must differ all over them."""


def in_room(project: Project, room: str) -> tuple[Any, ...]:
    """What a reference to a room may name: a list of the project, or of the concept at work."""
    found: tuple[Any, ...] = PROJECT_ROOMS[room](project) if room in PROJECT_ROOMS else getattr(project.concept, room)
    return found


class Fault(ProjectError):
    """Something in a project that does not join up: where, and why."""

    def __init__(self, path: Path, reason: str) -> None:
        self.path, self.reason = path, reason
        super().__init__(reason)


class Found(Struct, frozen=True):
    """One reference: the value that holds it, where that is, the field, its declaration and the id it names."""

    path: Path
    value: Value
    field: str
    ref: Ref
    id: str


def check_whole(project: Project) -> None:
    """Raise Fault at the first thing that does not join up: an id given twice, a name of nothing, a feed in a ring."""
    for path, values in _tuples(project, ()):
        _check_ids(path, values)
    for found, known in _named_and_known(project):
        _check_one(found, known, ROOM_WORDS[found.ref.room])
    for index, concept in enumerate(project.concepts):
        check_feeds(concept.feeds, ("concepts", index, "feeds"))
        for rooms in ONE_NAME:
            _check_one_name(concept, rooms, index)


def _named_and_known(project: Project) -> Iterator[tuple[Found, set[str]]]:
    """Every reference of a project, with the ids that it may name."""
    everywhere = {room: {x.id for x in listed(project)} for room, listed in PROJECT_ROOMS.items()}
    for found in _references(project, (), stop=Concept):
        yield found, everywhere[found.ref.room]
    for index, concept in enumerate(project.concepts):
        known = {room: {x.id for x in getattr(concept, room)} for room in ROOMS} | everywhere
        for found in _references(concept, ("concepts", index)):
            yield found, known[found.ref.room]


def dangling(project: Project) -> list[Found]:
    """References that name nothing: what is left where one hand took something away that another hand names."""
    return [found for found, known in _named_and_known(project) if found.id not in known]


def _check_one_name(concept: Concept, rooms: tuple[str, ...], index: int) -> None:
    """Raise Fault where an id stands in two of the lists."""
    taken: dict[str, str] = {}
    for room in rooms:
        for n, value in enumerate(getattr(concept, room)):
            if taken.setdefault(value.id, room) != room:
                reason = f"an id of {taken[value.id]} is “{value.id}” too; give one of them another"
                raise Fault(("concepts", index, room, n), reason)


def whole(project: Project) -> Project:
    """The project itself. Raises Fault where it does not join up."""
    check_whole(project)
    return project


def _check_one(found: Found, known: set[str], what: str) -> None:
    if found.id not in known:
        where = getattr(found.value, "name", "") or getattr(found.value, "id", "") or type(found.value).__name__.lower()
        raise Fault((*found.path, found.field), f"{where} names the {what} “{found.id}”, which does not exist")


def _check_ids(path: Path, values: tuple[Any, ...]) -> None:
    seen: set[str] = set()
    for index, value in enumerate(values):
        if value.id in seen:
            raise Fault((*path, index), f"two {path[-1]} share the id “{value.id}”; give one of them another")
        seen.add(value.id)


def check_feeds(feeds: Iterable[Feed], path: Path) -> None:
    """Raise Fault where something is fed twice, or feeds itself in a ring."""
    source_of: dict[str, str] = {}
    for index, feed in enumerate(feeds):
        if feed.load in source_of:
            raise Fault((*path, index), f"“{feed.load}” is fed twice; keep one feed")
        source_of[feed.load] = feed.source
    settled: set[str] = set()
    for load in source_of:
        walked: set[str] = set()
        at = load
        while at in source_of and at not in settled:
            if at in walked:
                raise Fault(path, f"“{load}” feeds itself in a ring; open it")
            walked.add(at)
            at = source_of[at]
        settled |= walked


def _tuples(value: Value, path: Path) -> Iterator[tuple[Path, tuple[Any, ...]]]:
    """Every tuple of values that have ids, with where it is."""
    for name in _with_ids(type(value)):
        inner = getattr(value, name)
        if isinstance(inner, tuple):
            if inner and hasattr(inner[0], "id"):
                yield (*path, name), inner
            for index, one in enumerate(inner):
                yield from _tuples(one, (*path, name, index))
        elif isinstance(inner, Value):
            yield from _tuples(inner, (*path, name))


def _references(value: Value, path: Path, stop: type[Value] | None = None) -> Iterator[Found]:
    """Every reference in a value that names something; `stop` is a kind that is not looked into."""
    kind = type(value)
    for field, ref in references(kind).items():
        named = getattr(value, field)
        if named:
            yield Found(path, value, field, ref, named)
    for name in _with_references(kind):
        inner = getattr(value, name)
        if isinstance(inner, tuple):
            for index, one in enumerate(inner):
                if stop is None or not isinstance(one, stop):
                    yield from _references(one, (*path, name, index), stop)
        elif isinstance(inner, Value):
            yield from _references(inner, (*path, name), stop)


@cache
def inner_kinds(kind: type[Value]) -> dict[str, tuple[type[Value], ...]]:
    """Fields of a kind of value that hold values, with the kinds that they may hold."""
    found = {name: tuple(_kinds_in(hint)) for name, hint in field_types(kind).items()}
    return {name: kinds for name, kinds in found.items() if kinds}


def _kinds_in(hint: Any) -> list[type[Value]]:
    if isinstance(hint, type) and not isinstance(hint, types.GenericAlias):
        return [hint] if issubclass(hint, Value) else []
    return [kind for inner in getattr(hint, "__args__", ()) for kind in _kinds_in(inner)]


def every_kind(root: type[Value]) -> tuple[type[Value], ...]:
    """A kind of value and all kinds that can be in it, however deep."""
    found, due = [root], [root]
    while due:
        for kind in (k for kinds in inner_kinds(due.pop()).values() for k in kinds if k not in found):
            found.append(kind)
            due.append(kind)
    return tuple(found)


@cache
def _with_references(kind: type[Value]) -> tuple[str, ...]:
    """Fields whose values, or values in them, name something."""
    return tuple(
        name for name, kinds in inner_kinds(kind).items() if any(references(k) or _with_references(k) for k in kinds)
    )


@cache
def _with_ids(kind: type[Value]) -> tuple[str, ...]:
    """Fields whose values, or values in them, have ids."""
    return tuple(
        name for name, kinds in inner_kinds(kind).items() if any("id" in field_names(k) or _with_ids(k) for k in kinds)
        and not all(k.__name__ == "Part" for k in kinds)
    )  # fmt: skip


def who_names(value: Value, room: str, named: str) -> list[Found]:
    """Every reference in a value to one thing of a room."""
    return [f for f in _references(value, ()) if f.ref.room == room and f.id == named]


def forgotten(value: V, room: str, gone: str) -> V:
    """The value without any reference to what is gone: what names it is dropped or cleared, as declared.

    Raises ProjectError where something that must name it still does.
    """
    new: dict[str, Any] = {}
    for field, ref in references(type(value)).items():
        if ref.room == room and getattr(value, field) == gone:
            if ref.gone == "keep":
                raise ProjectError(f"{getattr(value, 'name', 'Something')} still needs it. Move or delete that first.")
            new[field] = ""
    for name in _with_references(type(value)):
        inner = getattr(value, name)
        if isinstance(inner, tuple):
            kept = tuple(forgotten(one, room, gone) for one in inner if not _goes_with(one, room, gone))
            if len(kept) < len(inner) or any(a is not b for a, b in zip(kept, inner, strict=True)):
                new[name] = kept
        elif isinstance(inner, Value) and (changed := forgotten(inner, room, gone)) is not inner:
            new[name] = changed
    return value.but(**new) if new else value


def without(concept: Concept, room: str, gone: str) -> Concept:
    """The concept without one value of a room, and without what goes with it, and with that in turn."""
    concept = concept.but(**{room: tuple(x for x in getattr(concept, room) if x.id != gone)})
    if room not in ROOMS:
        return concept
    for other in ROOMS:
        for value in [x for x in getattr(concept, other) if _goes_with(x, room, gone)]:
            concept = without(concept, other, value.id)
    return forgotten(concept, room, gone)


def cleared_of(concept: Concept, room: str, gone: str) -> Concept:
    """The concept without one value of a room, with what cannot be without it gone as well."""
    for field in inner_kinds(Concept):
        inner = getattr(concept, field)
        for value in inner if isinstance(inner, tuple) else ():
            if _cannot_be_without(value, room, gone):
                concept = cleared_of(concept, field, value.id)
    return without(concept, room, gone)


def _cannot_be_without(value: Value, room: str, gone: str) -> bool:
    return any(
        ref.room == room and ref.gone == "keep" and getattr(value, field) == gone
        for field, ref in references(type(value)).items()
    )


def renamed(value: V, room: str, old: str, new: str) -> V:
    """The value with every reference to one thing of a room naming it by another id."""
    refs = references(type(value)).items()
    found: dict[str, Any] = {field: new for field, ref in refs if ref.room == room and getattr(value, field) == old}
    for name in _with_references(type(value)):
        inner = getattr(value, name)
        if isinstance(inner, tuple):
            found[name] = tuple(renamed(one, room, old, new) for one in inner)
        elif isinstance(inner, Value):
            found[name] = renamed(inner, room, old, new)
    return value.but(**found) if found else value


def _goes_with(value: Value, room: str, gone: str) -> bool:
    return any(
        ref.room == room and ref.gone == "drop" and getattr(value, field) == gone
        for field, ref in references(type(value)).items()
    )


def copied(value: V, room: str, of: str, copy: str) -> V:
    """The value with a duplicate of everything that names `of` and is declared to follow it, naming `copy`."""
    new: dict[str, Any] = {}
    for name in _with_references(type(value)):
        inner = getattr(value, name)
        if isinstance(inner, tuple):
            more = tuple(m for one in inner if (m := _copy_of(one, room, of, copy)) is not None)
            same = tuple(copied(one, room, of, copy) for one in inner)
            if more or any(a is not b for a, b in zip(same, inner, strict=True)):
                new[name] = (*same, *more)
        elif isinstance(inner, Value) and (changed := copied(inner, room, of, copy)) is not inner:
            new[name] = changed
    return value.but(**new) if new else value


def _copy_of(value: Value, room: str, of: str, copy: str) -> Value | None:
    fields = [
        field for field, ref in references(type(value)).items()
        if ref.room == room and ref.copied and getattr(value, field) == of
    ]  # fmt: skip
    return value.but(**dict.fromkeys(fields, copy)) if fields else None


def all_values(value: Value) -> Iterator[Value]:
    """A value and every value in it."""
    yield value
    for _, inner in named_values(value):
        if isinstance(inner, Value):
            yield from all_values(inner)
        elif isinstance(inner, tuple):
            for one in inner:
                if isinstance(one, Value):
                    yield from all_values(one)
