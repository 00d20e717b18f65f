"""A merge under way, which waits for choices: picked in a store like anything else that is looked at."""

from collections.abc import Callable, Mapping

from msgspec import Struct

from wired_union.project.merge import Side
from wired_union.project.model import Project


class MergePick(Struct, frozen=True):
    """A merge that waits for choices: the other file, what both came from, and what is chosen so far."""

    name: str = ""
    theirs: Project | None = None
    base: Project | None = None
    base_name: str = ""
    chosen: Mapping[str, Side] = {}
    folder: str = ""
    """where what is kept beside the other file is"""
    taken: Callable[[], object] | None = None
    """told once the merge is taken"""
