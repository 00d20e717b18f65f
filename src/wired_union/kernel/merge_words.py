"""A conflict of a merge in words: what it is, what each side has, who did it when, and how well each is known."""

from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from wired_union.kernel.differences import fields_differ, shown_value
from wired_union.project.keyed import keys_of
from wired_union.project.merge import Conflict, Merged, Side
from wired_union.project.model import Concept, Item, Project
from wired_union.project.value import ROOM_WORDS, Value
from wired_union.units import plain_words

ORDER_OF_KNOWLEDGE = ("guess", "estimate", "datasheet", "measured")
MOST_TOLD = 4
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


def told(conflict: Conflict, base: Project | None, ours: Project, theirs: Project) -> Told:
    """A conflict in words."""
    path = [_step(p, conflict.where) for p in (ours, theirs, base) if p is not None]
    names = _names(ours) | _names(theirs)
    mine, others = _values(conflict, names)
    known = [_knowledge(p, conflict.where) for p in (ours, theirs)]
    sources = [_source(p, base, conflict.where, k) for p, k in zip((ours, theirs), known, strict=True)]
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
    quiet = {"concepts", "plan", "brief", "part"}
    kept = [s for s in said if s and (s not in quiet or s == said[-1])]
    return ", ".join(kept)


def _values(conflict: Conflict, names: dict[str, str]) -> tuple[str, str]:
    """What each side has, in words."""
    if conflict.kind == "joins":
        return (_kept_words(conflict.has[0]), _kept_words(conflict.has[1]))
    one, other = conflict.ours, conflict.theirs
    field = conflict.where[-1]
    shown = []
    for mine, has in ((one, conflict.has[0]), (other, conflict.has[1])):
        shown.append(_one_value(field, mine, conflict.base, names) if has else "taken away")
    if shown[0] == shown[1]:  # two values of one name: say in what they differ
        return _apart(one, other, names)
    return shown[0], shown[1]


def _kept_words(has: bool) -> str:
    return "keep it" if has else "leave it out, with what names it"


def _one_value(field: str, value: Any, base: Any, names: dict[str, str]) -> str:
    if isinstance(value, Value) and isinstance(base, type(value)):
        changed = fields_differ(getattr(value, "name", "") or plain_words(field), base, value, names=names)
        return "; ".join(changed[:MOST_TOLD]) + (
            f"; and {len(changed) - MOST_TOLD} more" if changed[MOST_TOLD:] else ""
        )
    return shown_value(field, value, names)


def _apart(one: Any, other: Any, names: dict[str, str]) -> tuple[str, str]:
    """Two values that are shown alike, by what tells them apart."""
    if isinstance(one, Value) and isinstance(other, Value):
        changed = fields_differ("", one, other, names=names)[:MOST_TOLD]
        return ("as it is here", "; ".join(c.strip(" ,:") for c in changed) or "otherwise")
    return repr(one), repr(other)


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
