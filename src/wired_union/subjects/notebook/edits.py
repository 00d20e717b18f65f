"""Edits of the notebook's own: an entry is corrected or struck out with what it said kept, faults, days left out."""

from typing import Any

from wired_union.project.change import Change, by_id, checked_name, plain, replaced
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import changed_one, one_more
from wired_union.project.model import Project
from wired_union.project.notebook_edits import entry_text
from wired_union.project.notebook_model import About, Attempt, Defect, Entry, Former, Photo
from wired_union.project.value import made


def correct_entry(project: Project, entry: str, text: str, on: str, by: str) -> Change:
    """Another text for an entry; what it said before stays with it."""
    old, said = by_id(project.notebook, entry, "entry"), entry_text(text)
    if said == old.text:
        return Change(project, project, "nothing corrected")
    former = Former(text=old.text, why=old.why, corrected_on=on, corrected_by=by)
    return _with(project, old, f"correct: {said[:60]}", text=said, former=(*old.former, former))


def strike_entry(project: Project, entry: str, why: str) -> Change:
    """Strike an entry out, with the reason; it stays to be read. Without a reason it counts again."""
    old = by_id(project.notebook, entry, "entry")
    word = "strike out" if why.strip() else "count again"
    return _with(project, old, f"{word}: {old.text[:60]}", struck=plain(why))


def add_photo(project: Project, entry: str, photo: Photo) -> Change:
    """A picture with an entry, once."""
    old = by_id(project.notebook, entry, "entry")
    if any(p.digest == photo.digest for p in old.photos):
        raise ProjectError("That picture is with this entry already.")
    return _with(project, old, f"picture: {photo.caption or old.text[:60]}", photos=(*old.photos, photo))


def call_photo(project: Project, entry: str, digest: str, caption: str) -> Change:
    """Say what a picture shows."""
    old = by_id(project.notebook, entry, "entry")
    photos = tuple(p.but(caption=plain(caption)) if p.digest == digest else p for p in old.photos)
    return _with(project, old, f"picture: {plain(caption)}", photos=photos)


def link_entry(project: Project, entry: str, about: About) -> Change:
    """Link an entry to a part, a limit, a trial; linked already, it is no longer."""
    old = by_id(project.notebook, entry, "entry")
    left = tuple(a for a in old.about if (a.what, a.id) != (about.what, about.id))
    new = left if len(left) < len(old.about) else (*old.about, about)
    word = "about" if len(new) > len(left) else "not about"
    return _with(project, old, f"{word} {about.name or about.id}: {old.text[:60]}", about=new)


def _with(project: Project, old: Entry, sentence: str, **new: Any) -> Change:
    after = project.but(notebook=replaced(project.notebook, old, old.but(**new)))
    return Change(project, after, sentence)


def leave_out_day(project: Project, day: str) -> Change:
    """Leave a day's entries out of the report, or tell them again; in the notebook they stay."""
    out = project.days_left_out
    after = tuple(d for d in out if d != day) if day in out else (*out, day)
    word = "tell" if day in out else "leave out"
    return Change(project, project.but(days_left_out=after), f"{word} {day} in the report")


# faults


def add_fault(project: Project, name: str, on: str, by: str) -> Change:
    """A fault that was found."""
    fault = one_more(Defect, "fault", name, (d.id for d in project.defects), {"found_on": on, "found_by": by})
    return Change(project, project.but(defects=(*project.defects, fault)), f"fault found: {fault.name}")


def set_fault(project: Project, fault: str, **figures: Any) -> Change:
    """Other words or days of a fault. Raises ProjectError for what is no day, or names nothing."""
    for field in ("found_on", "closed_on"):
        if field in figures:
            figures[field] = checked_day(figures[field])
    if "name" in figures:
        figures["name"] = checked_name(figures["name"], "fault")
    old, new = changed_one(project.defects, fault, "fault", figures)
    said = ", ".join(
        f"{f.replace('_', ' ')}: {v}" if v else f"{f.replace('_', ' ')}: not known" for f, v in figures.items()
    )
    return Change(project, project.but(defects=replaced(project.defects, old, new)), f"{new.name}: {said}")


def try_against(project: Project, fault: str, text: str, on: str, by: str) -> Change:
    """Something that was tried against a fault, and what came of it."""
    old = by_id(project.defects, fault, "fault")
    attempt = made(Attempt, text=entry_text(text, "attempt")[:120], on=on, by=by)
    new = old.but(attempts=(*old.attempts, attempt))
    return Change(
        project, project.but(defects=replaced(project.defects, old, new)), f"{old.name}: tried {attempt.text}"
    )


def close_fault(project: Project, fault: str, on: str) -> Change:
    """A fault is mended. Raises ProjectError where nobody says by what."""
    old = by_id(project.defects, fault, "fault")
    if not old.cure:
        raise ProjectError(f"{old.name}: say what mends it before it is closed; whoever meets it again will ask.")
    new = old.but(closed_on=checked_day(on))
    return Change(project, project.but(defects=replaced(project.defects, old, new)), f"{old.name}: closed, {old.cure}")


def open_again(project: Project, fault: str) -> Change:
    """A fault is back."""
    old = by_id(project.defects, fault, "fault")
    after = project.but(defects=replaced(project.defects, old, old.but(closed_on="")))
    return Change(project, after, f"{old.name}: open again")


def link_fault(project: Project, fault: str, about: About) -> Change:
    """Say which part a fault is of; linked already, it is no longer."""
    old = by_id(project.defects, fault, "fault")
    left = tuple(a for a in old.about if (a.what, a.id) != (about.what, about.id))
    new = left if len(left) < len(old.about) else (*old.about, about)
    after = project.but(defects=replaced(project.defects, old, old.but(about=new)))
    return Change(project, after, f"{old.name}: {'of' if len(new) > len(left) else 'not of'} {about.name or about.id}")


def keep_history(project: Project, kept: bool) -> Change:
    """Keep what can be undone with the file, or not."""
    word = "keep the way back with the file" if kept else "keep no way back with the file"
    return Change(project, project.but(keeps_history=kept), word)
