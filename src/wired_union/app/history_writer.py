"""Keeping the way back beside a file, off the interface thread."""

from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from threading import Thread

from PyQt6.QtCore import QObject, pyqtSignal

from wired_union.project.errors import ProjectError
from wired_union.project.history import drop_history, write_history
from wired_union.project.model import Project
from wired_union.ui.store import Step


class HistoryWriter(QObject):
    """Writes the steps that led to a saved value, one writing after the other."""

    trouble = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._known: dict[int, str] = {}
        self._held: list[Project] = []
        self._folder: Path | None = None
        self._thread: Thread | None = None

    def write(self, folder: Path, steps: Sequence[Step]) -> None:
        """Keep the steps in a folder, where the project asks for it; else keep none."""
        self.wait()
        present = steps[-1].project
        if not present.keeps_history:
            with suppress(OSError):
                drop_history(folder, present)
            return
        if folder != self._folder:
            self._folder, self._known, self._held = folder, {}, []
        self._thread = Thread(target=self._write, args=(folder, tuple(steps)), name="history", daemon=True)
        self._thread.start()

    def wait(self) -> None:
        """Until what is being written is written."""
        if self._thread is not None:
            self._thread.join()
            self._thread = None

    def _write(self, folder: Path, steps: Sequence[Step]) -> None:
        try:
            values = [(s.sentence, s.project) for s in steps]
            self._held = [p for _, p in values]  # while they are held, no other value has their identity
            there = {id(p) for p in self._held}
            self._known = {k: digest for k, digest in self._known.items() if k in there}
            write_history(folder, values, self._known)
        except (ProjectError, OSError) as error:
            self.trouble.emit(f"The project is saved, its way back is not. {error}")
