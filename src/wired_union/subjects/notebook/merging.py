"""A merge in the window: from what both came, what is to be chosen, and the edit that it ends in."""

from collections.abc import Callable
from pathlib import Path

from wired_union.kernel.merge_pick import MergePick
from wired_union.kernel.merge_words import Told, summary, told
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.common import common_version
from wired_union.project.kept import Kept, folder_beside
from wired_union.project.merge import Merged, merged
from wired_union.project.model import Project


def begin_merge(
    ours: Project, theirs: Project, path: Path, kept: Kept, asked: Callable[[], tuple[str, bool]]
) -> MergePick | None:  # fmt: skip
    """A merge to be shown; None where nobody says which file came first, and it has to be known."""
    beside = folder_beside(path)
    found = common_version(ours, theirs, Kept((*kept.folders, beside)))
    if found is not None:
        name = f"both started from {found[0].name}, {found[0].on}"
        return MergePick(path.name, theirs, found[1], name, {}, str(beside))
    word, meant = asked()
    first = word.strip().casefold()
    if not meant or first not in FIRST:
        return None
    base = {"ours": ours, "theirs": theirs, "neither": None}[first]
    return MergePick(path.name, theirs, base, FIRST[first], {}, str(beside))


FIRST = {
    "ours": "this file came first: theirs went on from it", "theirs": "their file came first: this one went on from it",
    "neither": "nothing is known of what both came from: what one alone has is kept",
}  # fmt: skip


def result(ours: Project, pick: MergePick) -> Merged:
    """Both put together, as far as is chosen. Raises ProjectError where they do not join up."""
    assert pick.theirs is not None
    return merged(pick.base, ours, pick.theirs, dict(pick.chosen))


def conflicts(ours: Assessment, pick: MergePick, found: Merged) -> list[Told]:
    """What there is to choose, in words."""
    assert pick.theirs is not None
    return [told(c, pick.base, ours.project, pick.theirs, ours.units) for c in found.conflicts]


def as_change(ours: Project, pick: MergePick, found: Merged) -> Change:
    """The edit that takes the merge."""
    return Change(ours, found.project, f"merge with {pick.name}: {summary(found)}", "merge")
