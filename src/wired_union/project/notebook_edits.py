"""Edits of the notebook: an entry that somebody writes, the reason of an edit. What was written is never taken away."""

from binascii import crc32

from wired_union.project.change import Change, by_id, plain, replaced
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.notebook_model import About, Entry, Photo

MOST_LETTERS = 20_000


def entry_id(project: Project, when: str, by: str, text: str) -> str:
    """The id of a new entry: two members who write on their own get different ones, the same done twice one."""
    taken = {e.id for e in project.notebook}
    number = len(project.notebook)
    while True:
        made = f"{when}-{crc32(f'{number}|{when}|{by}|{text}'.encode(errors='replace')):08x}"
        if made not in taken:
            return made
        number += 1


def entry_text(text: str, what: str = "entry") -> str:
    """What somebody wrote, without control characters. Raises ProjectError for nothing, or for far too much."""
    said = plain(text)
    if not said:
        raise ProjectError(f"Write the {what} first: what did you see, decide, try?")
    if len(said) > MOST_LETTERS:
        raise ProjectError(f"Keep the {what} under {MOST_LETTERS:,} characters; put the rest into a file beside it.")
    return said


def write_entry(
    project: Project, when: str, by: str, text: str, photos: tuple[Photo, ...] = (), about: tuple[About, ...] = (),
    why: str = "",
) -> Change:  # fmt: skip
    """An entry that somebody writes."""
    said = entry_text(text)
    entry = Entry(
        id=entry_id(project, when, by, said), when=when, by=by.strip(), text=said, kind="note", photos=photos,
        about=about, why=plain(why),
    )  # fmt: skip
    return Change(project, project.but(notebook=(*project.notebook, entry)), f"note: {said[:60]}")


def give_reason(project: Project, entry: str, why: str) -> Change:
    """Say why something was done, in its entry."""
    old = by_id(project.notebook, entry, "entry")
    said = entry_text(why, "reason")
    after = project.but(notebook=replaced(project.notebook, old, old.but(why=said)))
    return Change(project, after, f"because: {said[:60]}")


def with_entry_ids(project: Project) -> Project:
    """The project with an id for each entry of an older file, the same for the same entry in every copy of it."""
    if all(e.id for e in project.notebook):
        return project
    taken = {e.id for e in project.notebook}
    found = []
    for entry in project.notebook:
        number, made = 0, entry.id
        while not entry.id and (not made or made in taken):
            made = f"{entry.when}-{crc32(f'{number}|{entry.text}'.encode(errors='replace')):08x}"
            number += 1
        taken.add(made)
        found.append(entry if entry.id else entry.but(id=made))
    return project.but(notebook=tuple(found))
