"""What is kept beside a saved file, written off the interface thread: pictures, versions, the way back."""

from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path
from threading import Thread

from PyQt6.QtCore import QObject, pyqtSignal

from wired_union.project.errors import ProjectError
from wired_union.project.history import drop_history, write_history
from wired_union.project.kept import Kept, named
from wired_union.project.model import Project
from wired_union.ui.store import Step

SOON_S = 0.3
"""How long a save waits for it: a few pictures are there when it returns, five hundred come after it."""


class BesideWriter(QObject):
    """Brings what a saved project names to beside its file, then its way back; one writing after the other."""

    trouble = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._known: dict[int, str] = {}
        self._held: list[Project] = []
        self._folder: Path | None = None
        self._thread: Thread | None = None

    def write(self, kept: Kept, folder: Path, steps: Sequence[Step]) -> None:
        """Bring everything into a folder; keep the steps there where the project asks for it, else keep none."""
        self.wait()
        project = steps[-1].project
        if folder != self._folder:
            self._folder, self._known, self._held = folder, {}, []
        works: list[Callable[[], None]] = []
        if any(named(project)):
            works.append(lambda: self._bring(kept, folder, project))
        if project.keeps_history:
            works.append(lambda: self._steps(folder, tuple(steps)))
        else:
            with suppress(OSError):
                drop_history(folder, project)
        if works:
            self._thread = Thread(target=self._run, args=(works,), name="beside", daemon=True)
            self._thread.start()
            self._thread.join(SOON_S)

    def wait(self) -> None:
        """Until what is being written is written."""
        if self._thread is not None:
            self._thread.join()
            self._thread = None

    def _run(self, works: Sequence[Callable[[], None]]) -> None:
        for work in works:
            try:
                work()
            except (ProjectError, OSError) as error:
                self.trouble.emit(f"The project is saved, but not all that is kept beside it. {error}")

    def _bring(self, kept: Kept, folder: Path, project: Project) -> None:
        missing = kept.bring(project, folder)
        if missing:
            self.trouble.emit(f"The project is saved. Found nowhere, so not beside it: {'; '.join(missing)}.")

    def _steps(self, folder: Path, steps: Sequence[Step]) -> None:
        values = [(s.sentence, s.project) for s in steps]
        self._held = [p for _, p in values]  # while they are held, no other value has their identity
        there = {id(p) for p in self._held}
        self._known = {k: digest for k, digest in self._known.items() if k in there}
        write_history(folder, values, self._known)
