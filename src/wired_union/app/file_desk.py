"""Files of one window: open, save, who else has it open, and the recovery journal."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QLockFile, QObject, QRunnable, QThreadPool, QTimer, pyqtSignal

from wired_union.app.places import Places
from wired_union.app.store import Store
from wired_union.project import file as project_file
from wired_union.project.errors import FileError
from wired_union.project.journal import Journal
from wired_union.project.model import Project

JOURNAL_DELAY_MS = 250


class _Task(QRunnable):
    def __init__(self, work: Callable[[], None]) -> None:
        super().__init__()
        self._work = work

    def run(self) -> None:
        self._work()


class FileDesk(QObject):
    """The file behind a store. One window writes a file at a time; the journal follows every edit."""

    path_changed = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(self, places: Places) -> None:
        super().__init__()
        self.places = places
        self.path: Path | None = None
        self.store: Store | None = None
        self._lock: QLockFile | None = None
        self._journal = Journal.start(places.journals)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(JOURNAL_DELAY_MS)
        self._timer.timeout.connect(self._write_journal)

    def adopt(self, store: Store, path: Path | None) -> None:
        """Look after a store whose value is in `path` (None: in no file yet)."""
        self.release()
        self.store = store
        store.changed.connect(self._soon)
        if store.unsaved:
            self._timer.start()
        self._take(path)

    def taken_elsewhere(self, path: Path) -> bool:
        """Whether another window has the file open."""
        if self.path is not None and path == self.path:
            return False
        lock = _lock_of(path)
        if lock.tryLock(0):
            lock.unlock()
            return False
        return lock.error() == QLockFile.LockError.LockFailedError

    def save(self, path: Path) -> bool:
        """Save to a path. What goes wrong is said, and the work stays open."""
        assert self.store is not None
        if path != self.path and self.taken_elsewhere(path):
            self.trouble.emit(f"{path.name} is open in another window. Save under another name.")
            return False
        try:
            project_file.save(self.store.project, path)
        except FileError as error:
            self.trouble.emit(str(error))
            return False
        if path != self.path:
            self._take(path)
        self.store.mark_saved()
        self._forget_journal()
        settings = self.places.read_settings().opened(path)
        self.places.write_settings(settings)
        return True

    def release(self) -> None:
        """Let go of the store and its file; the journal of saved work goes with it."""
        if self.store is not None:
            self.store.changed.disconnect(self._soon)
        self.store = None
        self._forget_journal()
        if self._lock is not None:
            self._lock.unlock()
            self._lock = None
        self.path = None

    def _take(self, path: Path | None) -> None:
        if self._lock is not None:
            self._lock.unlock()
        self._lock, self.path = None, path
        if path is not None:
            lock = _lock_of(path)
            if lock.tryLock(0):  # a folder that cannot be written simply has no lock
                self._lock = lock
            self.places.write_settings(self.places.read_settings().opened(path))
        self.path_changed.emit()

    def _soon(self) -> None:
        """Write the journal a quarter of a second after the first of some edits, however many follow."""
        if not self._timer.isActive():
            self._timer.start()

    def _write_journal(self) -> None:
        if self.store is None or not self.store.unsaved:
            self._forget_journal()
            return
        project, path, edits = self.store.project, self.path, self.store.unsaved_edits
        self._pool.start(_Task(lambda: self._write(project, path, edits)))

    def _write(self, project: Project, path: Path | None, edits: tuple[str, ...]) -> None:
        try:
            self._journal.write(project, path, edits)
        except OSError as error:
            self.trouble.emit(f"The recovery journal cannot be written ({error.strerror}). Save often.")

    def _forget_journal(self) -> None:
        self._timer.stop()
        self._pool.waitForDone()
        self._journal.clear()


def _lock_of(path: Path) -> QLockFile:
    lock = QLockFile(str(path.with_name(f".{path.name}.lock")))
    lock.setStaleLockTime(0)
    return lock
