"""An edit that has been worked out: the project before, the project after, and a sentence that says what it did."""

import re
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from itertools import chain, product
from typing import Any, TypeVar

from msgspec import Struct

from wired_union.project.errors import ProjectError
from wired_union.project.model import Brief, Concept, Item, Project
from wired_union.project.notebook_model import EntryKind
from wired_union.project.value import BadFigure
from wired_union.units import plain_words

T = TypeVar("T")
_LETTERS = "abcdefghijklmnopqrstuvwxyz"


class Change(Struct, frozen=True):
    before: Project
    after: Project
    sentence: str
    kind: EntryKind | None = None
    """what the notebook files it under, where what it changed does not say it"""


def with_brief(project: Project, **new: Any) -> Project:
    brief: Brief = project.brief.but(**new)
    return project.but(brief=brief)


def with_concept(project: Project, **new: Any) -> Project:
    """The project with fields of its concept at work replaced."""
    old = project.concept
    concept: Concept = old.but(**new)
    return project.but(concepts=replaced(project.concepts, old, concept))


def with_concept_value(project: Project, concept: Concept) -> Project:
    """The project with its concept at work replaced."""
    return project.but(concepts=replaced(project.concepts, project.concept, concept))


def replaced(values: tuple[T, ...], old: T, new: T) -> tuple[T, ...]:
    return tuple(new if v is old else v for v in values)


def by_id(values: Iterable[T], wanted: str, what: str) -> T:
    """The value with that id. Raises ProjectError when there is none."""
    for value in values:
        if value.id == wanted:  # type: ignore[attr-defined]
            return value
    raise ProjectError(f"There is no {what} “{wanted}” any more; it may have been deleted.")


@contextmanager
def figures_of(name: str) -> Iterator[None]:
    """Says whose figure cannot be, and what would be right: raises ProjectError for BadFigure."""
    try:
        yield
    except BadFigure as error:
        raise ProjectError(f"{name}: {plain_words(error.field)} {error.reason}.") from error


def find_item(project: Project, item_id: str) -> Item:
    return by_id(project.concept.items, item_id, "part")


def new_id(name: str, taken: Iterable[str]) -> str:
    """A readable id from a name, with a number where it is taken: "gearmotor", "gearmotor-2"."""
    base = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "thing"
    used = set(taken)
    if base not in used:
        return base
    return next(f"{base}-{n}" for n in range(2, len(used) + 3) if f"{base}-{n}" not in used)


def plain(text: str) -> str:
    """A text without control characters, which no sheet and no document can hold, and without spaces around it."""
    if text.isprintable():
        return text.strip()
    for c in {c for c in set(text) if not c.isprintable() and c not in "\n\t"}:
        text = text.replace(c, "" if 0xD800 <= ord(c) < 0xE000 else " ")
    return text.strip()


def next_letter(project: Project) -> str:
    """The first id that no concept has: "a" to "z", then "aa"."""
    taken = {c.id for c in project.concepts}
    pairs = ("".join(p) for p in product(_LETTERS, repeat=2))
    return next(x for x in chain(_LETTERS, pairs) if x not in taken)


def checked_name(name: str, what: str) -> str:
    """The name without spaces around it. Raises ProjectError when it is empty or too long."""
    name = plain(name)
    if not name:
        raise ProjectError(f"Give the {what} a name.")
    if len(name) > 120:
        raise ProjectError(f"Keep the name of the {what} under 120 characters.")
    return name
