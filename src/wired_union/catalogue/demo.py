"""The demo projects that ship with the program: all made up."""

from pathlib import Path

from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text
from wired_union.project.model import Project
from wired_union.shipped import DEMOS

NAMES = ("mudlark", "bat-counter")


def demo(name: str = "mudlark") -> Project:
    """A demo project. Raises ProjectError when there is none of that name."""
    if name not in NAMES:
        raise ProjectError(f"There is no demo “{name}”. There are: {', '.join(NAMES)}.")
    file = DEMOS / f"{name}.union.json"
    return from_text(file.read_text(encoding="utf-8"), Path(file.name))
