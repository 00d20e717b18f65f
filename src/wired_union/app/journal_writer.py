"""Writing the journal off the interface thread: at once, and only the latest of what waits."""

from pathlib import Path
from threading import Condition, Thread

from msgspec import Struct
from PyQt6.QtCore import QObject, pyqtSignal

from wired_union.project.journal import Journal
from wired_union.project.model import Project


class _Work(Struct, frozen=True):
    project: Project
    file: Path | None
    edits: tuple[str, ...]


class JournalWriter(QObject):
    """Keeps the latest of some values in a journal, in a thread that starts when there is something to keep."""

    trouble = pyqtSignal(str)
    kept = pyqtSignal()

    def __init__(self, journal: Journal) -> None:
        super().__init__()
        self._journal = journal
        self._turn = Condition()
        self._next: _Work | None = None
        self._busy = self._failed = False

    def write(self, project: Project, file: Path | None, edits: tuple[str, ...]) -> None:
        """Keep a value; one that still waits is dropped for it."""
        with self._turn:
            self._next = _Work(project, file, edits)
            if self._busy:
                return
            self._busy = True
        Thread(target=self._run, name="journal", daemon=True).start()

    def wait(self) -> bool:
        """Wait until nothing is left to write; whether the last was kept."""
        with self._turn:
            self._turn.wait_for(lambda: not self._busy, timeout=30)
            return not self._failed

    def _run(self) -> None:
        while True:
            with self._turn:
                work, self._next = self._next, None
                if work is None:
                    self._busy = False
                    self._turn.notify_all()
                    return
            self._keep(work)

    def _keep(self, work: _Work) -> None:
        try:
            self._journal.write(work.project, work.file, work.edits)
        except OSError as error:
            self._failed = True
            self.trouble.emit(f"The recovery journal cannot be written ({error.strerror}). Save often.")
        except Exception as error:  # a thread has nobody else to tell
            self._failed = True
            self.trouble.emit(f"The recovery journal cannot be written ({type(error).__name__}). Save often.")
        else:
            self._failed = False
            self.kept.emit()
