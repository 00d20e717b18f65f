"""Long work off the interface thread: a generator that reports as it goes, and can be stopped between its steps."""

from collections.abc import Callable, Iterator
from threading import Event
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from wired_union.errors import plain_text


class Worker(QObject):
    """Runs one generator at a time; what an older one still says is dropped."""

    told = pyqtSignal(int, object)
    """(revision the work was started for, what the generator gave)"""
    ended = pyqtSignal(int)
    failed = pyqtSignal(int, str)
    _through = pyqtSignal(int)
    """Number of a run that has nothing more to say; an older one must not make a newer look idle."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._stop, self._going = Event(), Event()
        self._going.set()
        self.running = False
        self._through.connect(self._over)
        self._number = 0

    def start(self, revision: int, work: Callable[[], Iterator[Any]]) -> None:
        """Stop what runs, and run this."""
        self.stop()
        self._stop = Event()
        self._number += 1
        self.running = True
        self._going.set()
        self._pool.start(_Run(self, revision, self._number, work, self._stop, self._going))

    def stop(self) -> None:
        """Ask what runs to stop after its present step; what it gave so far stands."""
        self._stop.set()
        self._going.set()
        self.running = False

    def hold(self) -> None:
        """Let what runs wait before its next step."""
        self._going.clear()

    def go_on(self) -> None:
        self._going.set()

    def wait(self) -> None:
        self._pool.waitForDone()

    def _over(self, number: int) -> None:
        if number == self._number:
            self.running = False

    def run_through(self, number: int, revision: int, failure: str | None) -> None:
        """Called by a run at its end, in its own thread: signals cross to the interface thread in this order."""
        self._through.emit(number)
        if failure is None:
            self.ended.emit(revision)
        else:
            self.failed.emit(revision, failure)


class _Run(QRunnable):
    def __init__(
        self, worker: Worker, revision: int, number: int, work: Callable[[], Iterator[Any]], stop: Event, going: Event
    ) -> None:
        super().__init__()
        self._number = number
        self._worker, self._revision, self._work, self._stop, self._going = worker, revision, work, stop, going

    def run(self) -> None:
        try:
            for step in self._work():
                self._going.wait()
                if self._stop.is_set():
                    return
                self._worker.told.emit(self._revision, step)
        except Exception as error:  # a thread has nobody else to tell
            self._worker.run_through(self._number, self._revision, plain_text(error))
            return
        self._worker.run_through(self._number, self._revision, None)
