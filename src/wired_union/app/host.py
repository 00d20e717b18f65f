"""What the parts of a window ask of it, and of each other."""

from pathlib import Path
from typing import Protocol

from PyQt6.QtWidgets import QWidget

from wired_union.app.file_desk import FileDesk
from wired_union.project.model import Project
from wired_union.ui.places import Places
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


class Host(Protocol):
    """A window with at most one project in it."""

    store: Store | None
    files: FileDesk
    places: Places
    stage: str

    @property
    def theme(self) -> Theme: ...
    @property
    def widget(self) -> QWidget:
        """What its dialogs stand before."""

    def hold(self, project: Project, path: Path | None, *, saved: bool = True, sentence: str = "opened") -> None:
        """Show a project in this window."""

    def today(self) -> str:
        """The date for the notebook and for documents."""

    def say(self, text: str) -> None:
        """Say something on the line above the strip."""
