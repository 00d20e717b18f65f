"""A conflict of a merge in words: what it is, what each side has, who did it when, and how well each is known."""

from collections.abc import Iterator, Sequence
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from wired_union.kernel.differences import Units, fields_differ, shown_value
from wired_union.project.keyed import keys_of
from wired_union.project.merge import Conflict, Merged, Side
from wired_union.project.model import Concept, Item, Project
from wired_union.project.value import ROOM_WORDS, Value, named_values
from wired_union.units import plain_words, show

ORDER_OF_KNOWLEDGE = ("guess", "estimate", "datasheet", "measured")
MOST_TOLD, MOST_IN_ORDER = 4, 8
"""Figures of a value that are told where the whole of it is to be chosen."""


class Told(Struct, frozen=True):
    """A conflict as it is shown."""

    id: str
    title: str
    ours: str
    theirs: str
    ours_from: str
    """who did it, when, and how well it is known, as far as the file says"""
    theirs_from: str
    better_known: Side | None
    """the side whose figure is better known, None where that does not decide"""


def told(
    conflict: Conflict, base: Project | None, ours: Project, theirs: Project, units: Units = MappingProxyType({})
) -> Told:  # fmt: skip
    """A conflict in words; `units` are those of limits, by their measures."""
    path = [_step(p, conflict.where) for p in (ours, theirs, base) if p is not None]
    names = _names(ours) | _names(theirs)
    mine, others = _values(conflict, names, units)
    known = [_knowledge(p, conflict.where) for p in (ours, theirs)]
    quiet = isinstance(conflict.ours, Item)  # its knowledge is among what is shown
    sources = [_source(p, base, conflict.where, "" if quiet else k) for p, k in zip((ours, theirs), known, strict=True)]
    title = max(path, key=len)
    because = f" ({conflict.because})" if conflict.because else ""
    return Told(conflict.id, f"{title}{because}", mine, others, sources[0], sources[1], _better(known))


def _step(project: Project, where: Sequence[str]) -> str:
    """Where a conflict is, as the names of what it is in: "Core tube, mass"."""
    at: Any = project
    said: list[str] = []
    for step in where:
        if isinstance(at, tuple):
            keys = keys_of(at)
            found = at[keys[0].index(step)] if keys is not None and step in keys[0] else None
            name = getattr(found, "name", "") or getattr(found, "question", "") or step
            if isinstance(found, Concept):
                name = f"{found.letter} {name}" if len(project.concepts) > 1 else ""
            said.append(str(name))
            at = found
            continue
        at = getattr(at, step, None)
        if not isinstance(at, tuple) or step == where[-1]:
            said.append(plain_words(step))
    quiet = {"concepts", "part", *(name for name, value in named_values(project) if isinstance(value, Value))}
    kept = [s for s in said if s and (s not in quiet or said[-1] == said[0])]
    return ", ".join(kept)


def _values(conflict: Conflict, names: dict[str, str], units: Units) -> tuple[str, str]:
    """What each side has, in words."""
    if conflict.kind == "joins":
        return (_kept_words(conflict.has[0]), _kept_words(conflict.has[1]))
    if conflict.kind == "order":
        return _in_order(conflict.ours, names), _in_order(conflict.theirs, names)
    one, other, field = conflict.ours, conflict.theirs, conflict.where[-1]
    if not all(conflict.has):
        shown = [_changed(field, v, conflict.base, names) if has else "taken away"
                 for v, has in zip((one, other), conflict.has, strict=True)]  # fmt: skip
        return shown[0], shown[1]
    if isinstance(one, Value) and type(one) is type(other):
        return _apart(one, other, conflict.base, names)
    if field == "value" and conflict.where[0] == "brief":
        unit = units.get(conflict.where[2], "")
        mine, others = show(one, unit), show(other, unit)
    else:
        mine, others = shown_value(field, one, names), shown_value(field, other, names)
    return (mine, others) if mine != others else (repr(one), repr(other))


def _in_order(keys: Sequence[str], names: dict[str, str]) -> str:
    return ", ".join(names.get(k, k) for k in keys[:MOST_IN_ORDER]) + (" …" if len(keys) > MOST_IN_ORDER else "")


def _kept_words(has: bool) -> str:
    return "keep it" if has else "leave it out, with what names it"


def _changed(field: str, value: Any, base: Any, names: dict[str, str]) -> str:
    """What one side changed in a value that the other took away; its name where there was nothing before."""
    if isinstance(value, Value) and isinstance(base, type(value)):
        changed = fields_differ(getattr(value, "name", "") or plain_words(field), base, value, names=names)
        return _few(changed)
    return shown_value(field, value, names)


def _few(said: Sequence[str]) -> str:
    more = [f"and {len(said) - MOST_TOLD} more"] if said[MOST_TOLD:] else []
    return "; ".join([*said[:MOST_TOLD], *more])


def _apart(one: Value, other: Value, base: Any, names: dict[str, str]) -> tuple[str, str]:
    """Two values by what tells them apart: their names where these differ, else the figures that do."""
    own = [str(getattr(v, "name", "")) for v in (one, other)]
    if own[0] != own[1]:
        return _named_and_changed(one, base, names), _named_and_changed(other, base, names)
    pairs = list(_leaves(one, other))
    said = [
        [f"{plain_words(f)} {shown_value(f, v, names)}" for f, *both in pairs for v in both[n : n + 1]] for n in (0, 1)
    ]
    mine, others = _few(said[0]), _few(said[1])
    return (mine, others) if mine != others else (repr(one), repr(other))


def _named_and_changed(value: Value, base: Any, names: dict[str, str]) -> str:
    """A value's name, and what was changed in it where it is the one that was there before."""
    name = str(getattr(value, "name", ""))
    if not isinstance(base, type(value)) or getattr(base, "name", "") != name:
        return name
    changed = [f"{plain_words(f)} {shown_value(f, v, names)}" for f, v, _ in _leaves(value, base)]
    return f"{name}, {_few(changed)}" if changed else name


def _leaves(one: Value, other: Value) -> Iterator[tuple[str, Any, Any]]:
    """Fields in which two values differ, also those of values in them."""
    for field, was in named_values(one):
        now = getattr(other, field)
        if was == now:
            continue
        if isinstance(was, Value) and type(was) is type(now):
            yield from _leaves(was, now)
        else:
            yield field, was, now


def _knowledge(project: Project, where: Sequence[str]) -> str:
    """How well the item is known that a conflict is in, "" for none."""
    item = _item(project, where)
    return item.knowledge if item is not None and "part" in where else ""


def _item(project: Project, where: Sequence[str]) -> Item | None:
    if len(where) < 4 or where[0] != "concepts" or where[2] != "items":
        return None
    concept = next((c for c in project.concepts if c.id == where[1]), None)
    return next((i for i in concept.items if i.id == where[3]), None) if concept is not None else None


def _better(known: Sequence[str]) -> Side | None:
    if not all(k in ORDER_OF_KNOWLEDGE for k in known) or known[0] == known[1]:
        return None
    return "ours" if ORDER_OF_KNOWLEDGE.index(known[0]) > ORDER_OF_KNOWLEDGE.index(known[1]) else "theirs"


def _source(project: Project, base: Project | None, where: Sequence[str], known: str) -> str:
    """The last entry of a side's own about what is in conflict: who and when; and how well it is known."""
    old = {e.id for e in base.notebook} if base is not None else set()
    entries = [e for e in project.notebook if e.id not in old and any(a.id in where for a in e.about)]
    said = [" ".join(filter(None, (entries[-1].by, entries[-1].when)))] if entries else []
    return ", ".join(filter(None, [*said, known]))


def _names(project: Project) -> dict[str, str]:
    """What ids of a project stand for."""
    rooms = [room for room in ROOM_WORDS if hasattr(project.concept, room)]
    return {v.id: getattr(v, "name", v.id) for c in project.concepts for room in rooms for v in getattr(c, room)}


def summary(found: Merged) -> str:
    """ "31 figures of ours kept, 12 of theirs taken, 3 alike, 1 to choose" """
    left = len(found.open)
    said = [f"{found.from_ours} of ours kept", f"{found.from_theirs} of theirs taken", f"{found.alike} alike in both"]
    return ", ".join([*said, f"{left} to choose" if left else "nothing to choose"])
