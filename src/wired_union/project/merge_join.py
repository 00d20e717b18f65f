"""What joins up after a merge: one side took something away that the other names; two feeds make a ring."""

from collections.abc import Callable
from typing import Any, Literal

from msgspec import Struct

from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Project
from wired_union.project.references import (
    PROJECT_ROOMS,
    Fault,
    Found,
    check_feeds,
    check_whole,
    cleared_of,
    dangling,
    forgotten,
)
from wired_union.project.value import ROOM_WORDS

Side = Literal["ours", "theirs"]
Where = tuple[str, ...]
MOST_ROUNDS = 10_000


class Joined(Struct, frozen=True):
    """A project that joins up, and where somebody had to choose: (where, why, what has it)."""

    project: Project
    conflicts: tuple[tuple[Where, str, tuple[bool, bool]], ...]


def joined(
    ours: Project, theirs: Project, found: Project, choice: Callable[[str], Side | None]
) -> Joined:  # fmt: skip
    """The project with what does not join up settled as is chosen: ours where nothing is.

    Raises ProjectError where it cannot be.
    """
    conflicts: dict[Where, tuple[str, tuple[bool, bool]]] = {}
    back: set[Where] = set()
    for _ in range(MOST_ROUNDS):
        left = dangling(found)
        if not left:
            break
        gap = left[0]
        where = _where(found, gap)
        named = [_find(p, where) for p in (ours, theirs)]
        has = (named[0] is not None, named[1] is not None)
        conflicts.setdefault(where, (_because(gap, found, where), has))
        kept = named[0 if choice("/".join(where)) != "theirs" else 1]
        if kept is not None and where not in back:
            back.add(where)
            found = _brought_back(found, where, kept)
        else:
            found = _cleared(found, where)
    found, fed = _fed(ours, theirs, found, choice)
    for where, because in fed:
        conflicts[where] = (because, (True, True))
    try:
        check_whole(found)
    except Fault as fault:
        raise ProjectError(
            f"The two files cannot be put together: {fault.reason}. Mend that in one of them, and merge again."
        ) from fault
    return Joined(found, tuple((w, because, has) for w, (because, has) in conflicts.items()))


def _where(project: Project, gap: Found) -> Where:
    """Where what a reference names would stand, from the project inwards."""
    if gap.ref.room in PROJECT_ROOMS:
        return ("concepts", gap.id) if gap.ref.room == "concepts" else ("plan", gap.ref.room, gap.id)
    concept = project.concepts[int(gap.path[1])]
    return ("concepts", concept.id, gap.ref.room, gap.id)


def _because(gap: Found, project: Project, where: Where) -> str:
    name = getattr(gap.value, "name", "") or type(gap.value).__name__.lower()
    return f"{name} names the {ROOM_WORDS[gap.ref.room]} “{gap.id}”, which one side took away"


def _find(project: Project, where: Where) -> Any:
    """What stands there in a project, None where nothing does."""
    if where[0] == "plan":
        return next((v for v in getattr(project.plan, where[1]) if v.id == where[2]), None)
    concept = next((c for c in project.concepts if c.id == where[1]), None)
    if len(where) == 2 or concept is None:
        return concept
    return next((v for v in getattr(concept, where[2]) if v.id == where[3]), None)


def _brought_back(project: Project, where: Where, value: Any) -> Project:
    if where[0] == "plan":
        return project.but(plan=project.plan.but(**{where[1]: (*getattr(project.plan, where[1]), value)}))
    if len(where) == 2:
        return project.but(concepts=(*project.concepts, value))
    return _in_concept(project, where[1], lambda c: c.but(**{where[2]: (*getattr(c, where[2]), value)}))


def _cleared(project: Project, where: Where) -> Project:
    """The project without what names what is gone."""
    if where[0] == "plan":
        return forgotten(project, where[1], where[2])
    if len(where) == 2:
        return forgotten(project, "concepts", where[1])
    return _in_concept(project, where[1], lambda c: cleared_of(c, where[2], where[3]))


def _in_concept(project: Project, wanted: str, edit: Callable[[Concept], Concept]) -> Project:
    return project.but(concepts=tuple(edit(c) if c.id == wanted else c for c in project.concepts))


def _fed(
    ours: Project, theirs: Project, found: Project, choice: Callable[[str], Side | None]
) -> tuple[Project, list[tuple[Where, str]]]:  # fmt: skip
    """The project with no feeds in a ring: those of one side where both together make one."""
    told: list[tuple[Where, str]] = []
    for concept in found.concepts:
        try:
            check_feeds(concept.feeds, ())
        except Fault as fault:
            where = ("concepts", concept.id, "feeds")
            told.append((where, fault.reason))
            side = theirs if choice("/".join(where)) == "theirs" else ours
            there = {i.id for i in concept.items}
            feeds = next((c.feeds for c in side.concepts if c.id == concept.id), ())
            kept = tuple(f for f in feeds if f.source in there and f.load in there)
            found = _in_concept(found, concept.id, lambda c, kept=kept: c.but(feeds=kept))  # type: ignore[misc]
    return found, told
