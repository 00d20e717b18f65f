"""Finding entries: by words, by kind, by what they are about."""

from collections.abc import Iterable, Iterator, Mapping

from wired_union.project.model import Project
from wired_union.project.notebook_model import Entry, EntryKind
from wired_union.project.value import Value, named_values

_QUIET = (
    "a about all an and are as at did do does everything for how in is it its of on or our so that the their there this"
    " to was we what when where which who why with"
)
QUIET = frozenset(_QUIET.split())
"""Words of a question that no entry need hold: "why is it 100:1", "all about the pack"."""
KINDS: Mapping[str, tuple[EntryKind, ...]] = {
    "everything": (), "written by hand": ("note",), "edits": ("edit", "merge"),
    "decisions": ("decision", "retirement"), "trials": ("trial",), "weighed and read": ("weighing", "reading"),
    "money": ("delivery",), "versions": ("version",), "faults": ("fault",),
}  # fmt: skip
"""What can be looked at alone."""


def wanted_words(text: str) -> list[str]:
    """The words of a search that count; all of them where none would."""
    words = text.casefold().replace("?", " ").split()
    return [w for w in words if w not in QUIET] or words


def found_entries(project: Project, text: str = "", kind: str = "everything") -> list[Entry]:
    """Entries that hold every word, in text, reason, names, captions or what they are about; the latest first."""
    words, kinds = wanted_words(text), KINDS.get(kind, ())
    entries = [e for e in project.notebook if not kinds or e.kind in kinds]
    if words:
        classes = _classes(project)
        held = {id(e): " ".join(_texts(e, classes)).casefold() for e in entries}
        entries = [e for e in entries if all(w in held[id(e)] for w in words)]
    entries.reverse()
    return sorted(entries, key=lambda e: e.when, reverse=True)


def _texts(entry: Entry, classes: Mapping[str, str]) -> Iterator[str]:
    yield from (entry.when, entry.by, entry.text, entry.why, entry.moved)
    yield from (p.caption for p in entry.photos)
    yield from (f.text for f in entry.former)
    for about in entry.about:
        yield about.name
        yield classes.get(about.id, "") if about.what == "part" else ""


def _classes(project: Project) -> dict[str, str]:
    """What each part is, in words: "pack battery", so that “the pack” finds a part of another name."""
    found: dict[str, str] = {}
    for concept in project.concepts:
        for item in concept.items:
            found[item.id] = " ".join([item.name, item.part.kind, *_facets(item.part)])
    return found


def _facets(part: Value) -> Iterable[str]:
    return (name for name, inner in named_values(part) if isinstance(inner, Value))
