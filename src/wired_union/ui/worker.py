"""Long work off the interface thread: a generator that reports as it goes, and can be stopped between its steps."""

from collections.abc import Callable, Iterator
from threading import Event, Thread
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.sip import isdeleted

from wired_union.errors import plain_text

LOOK_S = 0.2
"""How often held work looks whether its worker still stands."""


class _Relay(QObject):
    """What a run speaks into. It belongs to the run as well, so a worker may go while a run still speaks."""

    told = pyqtSignal(int, object)
    ended = pyqtSignal(int)
    failed = pyqtSignal(int, str)
    through = pyqtSignal(int)

    def heard(self) -> bool:
        """Whether the worker still stands: with it goes its connection. Asked, since a slot that is called while
        things are taken down may be called when it is half gone itself."""
        return not isdeleted(self) and self.receivers(self.told) > 0


class Worker(QObject):
    """Runs one generator at a time; what an older one still says is dropped.

    A plain thread carries it, not a pool of Qt: a pool waits for its run when it is destroyed and holds the
    interpreter meanwhile, so that a window closed in the middle of a run would never go. A worker that is destroyed
    stops its run.
    """

    told = pyqtSignal(int, object)
    """(revision the work was started for, what the generator gave)"""
    ended = pyqtSignal(int)
    failed = pyqtSignal(int, str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._relay = _Relay()
        self._relay.through.connect(self._over)
        self._relay.told.connect(self.told)
        self._relay.ended.connect(self.ended)
        self._relay.failed.connect(self.failed)
        self._thread: Thread | None = None
        self._stop, self._going = Event(), Event()
        self._going.set()
        self.running = False
        self._number = 0

    def start(self, revision: int, work: Callable[[], Iterator[Any]]) -> None:
        """Stop what runs, and run this."""
        self.stop()
        self._stop = Event()
        self._number += 1
        self.running = True
        run = _Run(self._relay, revision, self._number, work, self._stop, self._going, self._thread)
        self._thread = Thread(target=run.run, daemon=True)
        self._thread.start()

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

    def wait(self, longest_s: float | None = None) -> None:
        """Until what runs has ended, or so long."""
        if self._thread is not None:
            self._thread.join(longest_s)

    def _over(self, number: int) -> None:
        if number == self._number:  # an older run that ends must not make a newer look idle
            self.running = False


class _Run:
    def __init__(
        self,
        relay: _Relay,
        revision: int,
        number: int,
        work: Callable[[], Iterator[Any]],
        stop: Event,
        going: Event,
        before: Thread | None,
    ) -> None:
        self._relay, self._revision, self._number = relay, revision, number
        self._work, self._stop, self._going, self._before = work, stop, going, before

    def run(self) -> None:
        if self._before is not None:
            self._before.join()
            self._before = None
        try:
            for step in self._work():
                if not self._may_go_on():
                    return
                self._relay.told.emit(self._revision, step)
        except Exception as error:  # a thread has nobody else to tell
            self._through(plain_text(error))
            return
        self._through(None)

    def _may_go_on(self) -> bool:
        """Waits while the work is held."""
        while not self._going.wait(LOOK_S):
            if not self._relay.heard():
                return False
        return not self._stop.is_set() and self._relay.heard()

    def _through(self, failure: str | None) -> None:
        """At the end, in the run's own thread: signals cross to the interface thread in this order."""
        if isdeleted(self._relay):
            return  # the program ends, and with it all that Qt has
        self._relay.through.emit(self._number)
        if failure is None:
            self._relay.ended.emit(self._revision)
        else:
            self._relay.failed.emit(self._revision, failure)
