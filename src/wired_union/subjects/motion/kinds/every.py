"""Every kind of load to move, by the word that the file has for it.

A new one is its value in `project/motion_model.py` and a file here of that name. Each is loaded when it is first met.
"""

from functools import cache
from importlib import import_module

from wired_union.project.model import AnyLoad
from wired_union.project.motion_model import LOAD_KINDS
from wired_union.subjects.motion.kind import LoadKind


@cache
def named_kind(word: str) -> LoadKind:
    """The kind of that word. Raises ModuleNotFoundError where there is none."""
    kind: LoadKind = import_module(f"wired_union.subjects.motion.kinds.{word}").KIND
    return kind


def every_kind() -> dict[str, LoadKind]:
    """All of them, in the order that a menu offers them."""
    return {word: named_kind(word) for word in LOAD_KINDS}


def kind_of(load: AnyLoad) -> LoadKind:
    """The kind that a load is of."""
    return named_kind(load.kind)
