"""Files of one window: open, save, who else has it open, and the recovery journal."""

import os
from pathlib import Path

from PyQt6.QtCore import QFileSystemWatcher, QLockFile, QObject, QTimer, pyqtSignal

from wired_union.app.beside_writer import BesideWriter
from wired_union.app.journal_writer import JournalWriter
from wired_union.catalogue.demo import KEPT_WITH_DEMOS
from wired_union.project import file as project_file
from wired_union.project.errors import FileError
from wired_union.project.file import Stamp, changed_since, clear_stray, stamp_of
from wired_union.project.journal import Journal
from wired_union.project.kept import Kept, folder_beside
from wired_union.ui.places import Places
from wired_union.ui.store import Store


class FileDesk(QObject):
    """The file behind a store. One window writes a file at a time; the journal follows every edit."""

    path_changed = pyqtSignal()
    changed_outside = pyqtSignal()
    """Another program has written to the file."""
    trouble = pyqtSignal(str)

    def __init__(self, places: Places) -> None:
        super().__init__()
        self.places = places
        self.path: Path | None = None
        self.store: Store | None = None
        self._lock: QLockFile | None = None
        self._journal = Journal.start(places.journals)
        self._writer = JournalWriter(self._journal)
        self._writer.trouble.connect(self._say_once)
        self._writer.kept.connect(self._forget_trouble)
        self._said_trouble = False
        self._stamp: Stamp | None = None
        self._told: Stamp | None = None
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(lambda _: QTimer.singleShot(SETTLED_MS, self.look_outside))
        self._beside = BesideWriter()
        self._beside.trouble.connect(self.trouble)

    def adopt(self, store: Store, path: Path | None) -> None:
        """Look after a store whose value is in `path` (None: in no file yet)."""
        self.release()
        self.store = store
        store.changed.connect(self._write_journal)
        self._take(path)
        self._write_journal()

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
            self.trouble.emit(f"{path} is open in another window. Save under another name.")
            return False
        try:
            project_file.save(self.store.project, path)
        except FileError as error:
            self.trouble.emit(str(error))
            return False
        if path != self.path:
            self._take(path)
        self._stamp = stamp_of(path)
        self.store.mark_saved()
        self._beside.write(self.kept, folder_beside(path), self.store.way_here)
        self._forget_journal()
        settings = self.places.read_settings().opened(path)
        self.places.write_settings(settings)
        return True

    @property
    def kept(self) -> Kept:
        """Where pictures and versions are: the user's own folder, beside the file, with the demos."""
        beside = (folder_beside(self.path),) if self.path is not None else ()
        return Kept((self.places.kept, *beside, *KEPT_WITH_DEMOS))

    def release(self) -> None:
        """Let go of the store and its file; the journal of saved work goes with it."""
        if self.store is not None:
            self.store.changed.disconnect(self._write_journal)
        self.store = None
        self._forget_journal()
        self._beside.wait()
        if self._lock is not None:
            self._lock.unlock()
            self._lock = None
        if watched := self._watcher.files():
            self._watcher.removePaths(watched)
        self.path = None

    def _take(self, path: Path | None) -> None:
        if self._lock is not None:
            self._lock.unlock()
        self._lock, self.path = None, path
        if watched := self._watcher.files():
            self._watcher.removePaths(watched)
        if path is not None:
            self._watcher.addPath(str(path))
            lock = _lock_of(path)
            if lock.tryLock(0):  # a folder that cannot be written simply has no lock
                self._lock = lock
            self.places.write_settings(self.places.read_settings().opened(path))
            self._stamp = stamp_of(path)
            clear_stray(path)
        self.path_changed.emit()

    def changed_elsewhere(self, path: Path) -> bool:
        """Whether another program has written to the file since it was opened or saved here."""
        return path == self.path and changed_since(path, self._stamp)

    def look_outside(self) -> None:
        """See whether another program has written to the file, and say it once of each time."""
        path = self.path
        if path is None:
            return
        if str(path) not in self._watcher.files() and path.exists():  # it was replaced, which the watcher loses
            self._watcher.addPath(str(path))
        if changed_since(path, self._stamp) and (found := stamp_of(path)) != self._told:
            self._told = found
            self.changed_outside.emit()

    def took(self, stamp: Stamp | None) -> None:
        """What another program wrote is in the store's value now: saving need not ask."""
        self._stamp = stamp

    def _write_journal(self) -> None:
        """Keep unsaved work, at once and off the interface thread; of several edits in a row the last counts."""
        if self.store is None or not self.store.unsaved:
            self._forget_journal()
            return
        self._writer.write(self.store.project, self.path, self.store.unsaved_edits)

    def keep(self) -> bool:
        """Keep unsaved work now, and wait until it is kept; whether it is."""
        self._write_journal()
        return self._writer.wait()

    def _say_once(self, text: str) -> None:
        if not self._said_trouble:
            self._said_trouble = True
            self.trouble.emit(text)

    def _forget_trouble(self) -> None:
        self._said_trouble = False

    def _forget_journal(self) -> None:
        self._writer.wait()
        self._journal.clear()


SETTLED_MS = 150
"""After a change before the file is looked at: who replaces it does so in two steps."""


def _lock_of(path: Path) -> QLockFile:
    """The lock of the file that a path, or a link, leads to."""
    real = Path(os.path.realpath(path))
    lock = QLockFile(str(real.with_name(f".{real.name}.lock")))
    lock.setStaleLockTime(0)
    return lock
