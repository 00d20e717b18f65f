"""What a team keeps: entries of the notebook, faults that were found, versions. Frozen values."""

from typing import Literal

from wired_union.project.value import Amount, Finite, Name, Value

EntryKind = Literal[
    "note", "edit", "decision", "trial", "weighing", "reading", "delivery", "retirement", "version", "fault", "merge"
]
Linked = Literal["part", "limit", "trial", "fault", "version", "concept"]
Landing = Literal["breaks", "tight", "holds", "unknown", ""]


class About(Value, frozen=True, kw_only=True):
    """What an entry is about. It keeps the name, since what it names may be gone when the entry is read."""

    what: Linked
    id: Name
    name: str = ""


class Photo(Value, frozen=True, kw_only=True):
    """A picture kept beside the project, by the SHA-256 of its bytes."""

    digest: Name
    form: Literal["png", "jpg"]
    caption: str = ""


class Former(Value, frozen=True, kw_only=True):
    """What an entry said before it was corrected."""

    text: str
    why: str = ""
    corrected_on: str = ""
    """when it was corrected, as 2026-11-28"""
    corrected_by: str = ""
    """who corrected it"""


class Entry(Value, frozen=True, kw_only=True):
    """A line of the notebook: when, by whom, what was done or seen, what it moved, and why. It is never taken away."""

    when: str
    text: str
    why: str = ""
    id: str = ""
    """its own, whoever wrote it; entries of older files have none"""
    kind: EntryKind = "edit"
    by: str = ""
    """who wrote it"""
    moved: str = ""
    """what it did to the limits"""
    about: tuple[About, ...] = ()
    photos: tuple[Photo, ...] = ()
    former: tuple[Former, ...] = ()
    """what it said before it was corrected, the first first"""
    struck: str = ""
    """why it does not count; it counts while empty"""


class Attempt(Value, frozen=True, kw_only=True):
    """What was tried against a fault, and what came of it."""

    text: Name
    on: str = ""
    """when, as 2026-11-28"""
    by: str = ""
    """who"""


class Defect(Value, frozen=True, kw_only=True):
    """A fault that was found: what is seen, its cause and its cure once they are known."""

    id: Name
    name: Name
    seen: str = ""
    """what happens, and when"""
    found_on: str = ""
    """when it was found, as 2026-11-28"""
    found_by: str = ""
    """who found it"""
    about: tuple[About, ...] = ()
    attempts: tuple[Attempt, ...] = ()
    """what was tried meanwhile"""
    cause: str = ""
    """why it happens; not known while empty"""
    cure: str = ""
    """what mends it; none yet while empty"""
    closed_on: str = ""
    """since when it is mended; open while empty"""


class Signature(Value, frozen=True, kw_only=True):
    """Somebody has read a caution, and will do as it says."""

    caution: Name
    """its title"""
    by: Name
    """who"""
    on: str = ""
    """when, as 2026-11-28"""


class Landed(Value, frozen=True, kw_only=True):
    """Where a limit stood in a version."""

    measure: Name
    name: str = ""
    value: Finite | None = None
    unit: str = ""
    limit: Amount | None = None
    verdict: Landing = ""


class Version(Value, frozen=True, kw_only=True):
    """A knot: the whole project as it was, kept beside the file by the SHA-256 of its text."""

    id: Name
    name: Name
    on: str = ""
    """when it was tied, as 2026-11-28"""
    by: str = ""
    """who tied it"""
    concept: str = ""
    """letter of the concept that was at work"""
    parent: str = ""
    """id of the version it came from; the first of its rope when empty"""
    digest: Name
    """SHA-256 of the project's text"""
    about: str = ""
    """what it is, in a few words"""
    changed: tuple[str, ...] = ()
    """everything that differs from the one it came from, in words"""
    landed: tuple[Landed, ...] = ()
    """where each limit stood"""
    dropped: str = ""
    """why it was given up; it is alive while empty"""
    dropped_on: str = ""
    """when it was given up"""
