"""The notebook that writes itself: what an edit was, what it moved and what it is about, read off the values."""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from wired_union.kernel.ripple import compare
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.model import Concept, Project
from wired_union.project.notebook_edits import entry_id
from wired_union.project.notebook_model import About, Entry, EntryKind

MOST_ABOUT = 6
"""Things that an entry is linked to; an edit of more is an edit of the whole."""
_SILENT = ("notebook", "at_work", "days_left_out", "sections_left_out", "keeps_history")
"""Fields of a project whose edits need no entry: the notebook itself, and how it is looked at."""


def with_entry(before: Assessment, after: Assessment, change: Change, when: str, by: str) -> Project:
    """The project after an edit with the entry that the edit writes; the project itself where it needs none."""
    sentence = change.sentence
    one, other = before.project, after.project
    changed = changed_fields(one, other)
    if not changed - set(_SILENT):
        return other
    text = sentence[:1].upper() + sentence[1:]
    linked = tuple({(a.what, a.id): a for a in about(one, other)}.values())[:MOST_ABOUT]
    entry = Entry(
        id=entry_id(other, when, by, text), when=when, by=by, text=text,
        kind=change.kind or kind_of(one, other, changed),
        moved=compare(before, after, sentence).shown, about=linked,
    )  # fmt: skip
    return other.but(notebook=(*other.notebook, entry))


def changed_fields(one: Any, other: Any) -> set[str]:
    """Fields in which two values of a kind are not the same value."""
    return {f for f in one.__struct_fields__ if getattr(one, f) is not getattr(other, f)
            and getattr(one, f) != getattr(other, f)}  # fmt: skip


_KINDS: Mapping[str, EntryKind] = {
    "trials": "trial", "decision": "decision", "defects": "fault", "versions": "version", "ledger": "delivery",
}  # fmt: skip
_CONCEPT_KINDS: Mapping[str, EntryKind] = {
    "weighings": "weighing", "readings": "reading", "wakings": "reading", "calibrations": "reading",
    "retired": "retirement", "questions": "decision",
}  # fmt: skip


def kind_of(one: Project, other: Project, changed: set[str]) -> EntryKind:
    """What kind of thing happened, by what it changed."""
    for field, kind in _KINDS.items():
        if field in changed:
            return kind
    for mine, theirs in _both(one, other):
        within = changed_fields(mine, theirs)
        for field, kind in _CONCEPT_KINDS.items():
            if field in within:
                return kind
    return "edit"


def about(one: Project, other: Project) -> Iterator[About]:
    """Parts, limits, trials, faults, versions and concepts that an edit changed, added or took away."""
    for mine, theirs in _both(one, other):
        yield from (About(what="part", id=i.id, name=i.name) for i in _otherwise(mine.items, theirs.items, "id"))
        weighed = {w.item for w in _otherwise(mine.weighings, theirs.weighings, "id")}
        weighed |= {r.item for r in {*mine.readings} ^ {*theirs.readings}}
        names = {i.id: i.name for i in theirs.items}
        yield from (About(what="part", id=i, name=names[i]) for i in sorted(weighed) if i in names)
        if mine.retired != theirs.retired:
            yield About(what="concept", id=theirs.id, name=theirs.name)
    here, there = {c.id for c in one.concepts}, {c.id for c in other.concepts}
    yield from (About(what="concept", id=c.id, name=c.name) for c in other.concepts if c.id not in here)
    yield from (About(what="concept", id=c.id, name=c.name) for c in one.concepts if c.id not in there)
    limits = _otherwise(one.brief.limits, other.brief.limits, "measure")
    yield from (About(what="limit", id=x.measure, name=x.name) for x in limits)
    yield from (About(what="trial", id=t.id, name=t.name) for t in _otherwise(one.trials, other.trials, "id"))
    yield from (About(what="fault", id=d.id, name=d.name) for d in _otherwise(one.defects, other.defects, "id"))
    yield from (About(what="version", id=v.id, name=v.name) for v in _otherwise(one.versions, other.versions, "id"))


def _both(one: Project, other: Project) -> Iterator[tuple[Concept, Concept]]:
    """Concepts that are in both and are not the same value."""
    if one.concepts is other.concepts:
        return
    there = {c.id: c for c in other.concepts}
    yield from ((c, there[c.id]) for c in one.concepts if c.id in there and c is not there[c.id])


def _otherwise(mine: tuple[Any, ...], theirs: tuple[Any, ...], key: str) -> Iterable[Any]:
    """Values that are in one of two lists alone, or differ; as they are now, where they are."""
    if mine is theirs:
        return ()
    was, now = ({getattr(v, key): v for v in values} for values in (mine, theirs))
    ids = dict.fromkeys([*now, *was])
    return [now.get(i, was.get(i)) for i in ids if was.get(i) is not now.get(i) and was.get(i) != now.get(i)]
