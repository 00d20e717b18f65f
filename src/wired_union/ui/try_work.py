"""Alternatives of one slot, worked out between events so that the window stays awake."""

from collections.abc import Iterable, Iterator

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wired_union.choose.alternatives import TOGETHER, Alternative, alternatives
from wired_union.project.model import Stock
from wired_union.ui.store import Store

AT_ONCE = TOGETHER


class TryWork(QObject):
    """Works out a slot's alternatives for the present project; an edit or another slot starts it anew."""

    started = pyqtSignal(bool)
    """True for another slot, False for the same slot of a project that moved on."""
    finished = pyqtSignal()

    def __init__(self, store: Store, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._store = store
        self.tries: list[Alternative] = []
        self._worker: Iterator[Alternative] | None = None
        self._for: tuple[int, str] = (-1, "")
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._work)

    def start(self, slot_id: str, more: Iterable[Stock] = ()) -> None:
        """Start on a slot, unless it is under way or done already."""
        wanted = (self._store.revision, slot_id)
        if self._for == wanted:
            return
        other = self._for[1] != slot_id
        self._for = wanted
        self.tries = []
        self._worker = alternatives(self._store.assessment, slot_id, more)
        self.started.emit(other)
        self._timer.start()

    def stop(self) -> None:
        self._timer.stop()

    def ready(self, slot_id: str) -> bool:
        """Whether every alternative of the slot has been worked out."""
        return self._worker is None and self._for == (self._store.revision, slot_id)

    def _work(self) -> None:
        if self._worker is None or self._for[0] != self._store.revision:
            self._timer.stop()
            return
        for _ in range(AT_ONCE):
            found = next(self._worker, None)
            if found is None:
                self._timer.stop()
                self._worker = None
                self.tries.sort(key=lambda a: a.rank)
                self.finished.emit()
                return
            self.tries.append(found)
