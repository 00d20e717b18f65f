"""The last net: an exception anywhere is caught at the top, the work is kept, and the window stays.

Qt ends a program when a slot, a timer or a paint event raises and nobody has said otherwise; `Guard` says otherwise.
"""

import sys
import threading
from collections.abc import Callable
from types import TracebackType

from PyQt6.QtCore import QObject, Qt, pyqtSignal

from wired_union.errors import plain_text


class Guard(QObject):
    """Takes every exception that nothing else caught. `keep` saves the work; `tell` shows a sentence and details."""

    _caught = pyqtSignal(object)

    def __init__(self, keep: Callable[[], object], tell: Callable[[str, str], object]) -> None:
        super().__init__()
        self._keep, self._tell = keep, tell
        self._told: set[str] = set()
        self._busy = False
        self._caught.connect(self.take, type=Qt.ConnectionType.QueuedConnection)  # type: ignore[call-arg]
        self._before = sys.excepthook, threading.excepthook

    def stand(self) -> None:
        """Take over from Python's own way of ending on an exception."""
        sys.excepthook = self._hook
        threading.excepthook = lambda told: self._hook(told.exc_type, told.exc_value, told.exc_traceback)

    def stand_down(self) -> None:
        sys.excepthook, threading.excepthook = self._before

    def _hook(self, kind: type[BaseException], error: BaseException | None, where: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt | SystemExit):
            self._before[0](kind, error or kind(), where)
            return
        # windows are shown from their own thread only, and PyQt drops what fails elsewhere while this hook runs
        self._caught.emit(error or kind())

    def take(self, error: BaseException) -> None:
        """Keep the work, and say what happened: once for each fault, however often it comes back."""
        details = details_of(error)
        if details in self._told:
            return
        if self._busy:  # another fault is being told: this one comes after it
            self._caught.emit(error)
            return
        self._busy = True
        try:
            self._keep()
            self._told.add(details)
            self._tell(f"{plain_text(error)} Your work is kept, and the window goes on.", details)
        except Exception as worse:  # the net must not fall itself
            print(details, details_of(worse), sep="\n", file=sys.stderr)
        finally:
            self._busy = False


def details_of(error: BaseException) -> str:
    """What happened, for whoever mends the program."""
    import traceback  # not needed while nothing fails

    return "".join(traceback.format_exception(error))
