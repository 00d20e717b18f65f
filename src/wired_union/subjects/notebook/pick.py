"""What is selected on the Notebook screen, and a merge under way."""

from collections.abc import Callable, Mapping

from msgspec import Struct

from wired_union.project.merge import Side
from wired_union.project.model import Project

NOW = "now"
"""Stands for the present among the versions."""


class NotePick(Struct, frozen=True):
    """An entry or a fault by its id; one or two versions to compare, the present among them."""

    entry: str = ""
    fault: str = ""
    versions: tuple[str, ...] = ()


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
