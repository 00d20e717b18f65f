"""Small pictures of large ones: read off the interface thread, kept by what is in them."""

from collections import OrderedDict, deque
from collections.abc import Callable, Iterator
from pathlib import Path

from PyQt6.QtCore import QObject, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QImageReader, QPixmap
from PyQt6.QtWidgets import QLabel

from wired_union.ui.worker import Worker

MOST_KEPT = 300
"""Small pictures that are kept; those looked at longest ago go first."""
MOST_WAITING = 40
"""That wait to be read: what has been scrolled past need not be."""


class Thumbs(QObject):
    """Gives small pictures; one that is not there yet comes later, and `came` says so."""

    came = pyqtSignal()

    def __init__(self, find: Callable[[str, str], Path | None], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._find = find
        self._kept: OrderedDict[tuple[str, int], QPixmap | None] = OrderedDict()
        self._waiting: deque[tuple[str, str, int, int]] = deque(maxlen=MOST_WAITING)
        self._worker = Worker(self)
        self._worker.told.connect(self._take)

    def get(self, digest: str, form: str, width: int, height: int) -> QPixmap | None:
        """A picture of at most that size; None while it is being read, a null one where it cannot be."""
        key = (digest, width)
        if key in self._kept:
            self._kept.move_to_end(key)
            return self._kept[key]
        self._kept[key] = None
        self._waiting.append((digest, form, width, height))
        while len(self._kept) > MOST_KEPT:
            self._kept.popitem(last=False)
        if not self._worker.running:
            self._worker.start(0, self._read_all)
        return None

    def forget(self) -> None:
        """Look again for what was found nowhere."""
        for key in [k for k, p in self._kept.items() if p is None or p.isNull()]:
            del self._kept[key]

    def _read_all(self) -> Iterator[tuple[str, int, QImage]]:
        while self._waiting:
            digest, form, width, height = self._waiting.pop()  # the last asked for is the one looked at
            path = self._find(digest, form)
            yield digest, width, small_image(path, width, height) if path is not None else QImage()

    def _take(self, _: int, found: tuple[str, int, QImage]) -> None:
        digest, width, image = found
        self._kept[digest, width] = QPixmap.fromImage(image) if not image.isNull() else QPixmap()
        self.came.emit()
        dropped = [k for k, p in self._kept.items() if p is None and not self._waits(k)]
        for key in dropped:  # it was scrolled past before it was read: asked again, it is read again
            del self._kept[key]

    def _waits(self, key: tuple[str, int]) -> bool:
        return any((w[0], w[2]) == key for w in tuple(self._waiting))


def small_image(path: Path, width: int, height: int) -> QImage:
    """A picture no larger than that, the right way up; a null one where it cannot be read."""
    reader = QImageReader(str(path))
    reader.setAutoTransform(True)
    whole = reader.size()
    if whole.isValid():  # a JPEG is read small, which is many times faster than reading it whole
        reader.setScaledSize(whole.scaled(QSize(width, height), Qt.AspectRatioMode.KeepAspectRatio))
    return reader.read()


class PhotoLabel(QLabel):
    """One picture, shown as soon as it is read."""

    def __init__(self, thumbs: Thumbs, digest: str, form: str, size: tuple[int, int], name: str) -> None:
        super().__init__("…")
        self._ask = (digest, form, *size)
        self._thumbs = thumbs
        self.setAccessibleName(name)
        thumbs.came.connect(self._look)
        self._look()

    def _look(self) -> None:
        found = self._thumbs.get(*self._ask)
        if found is None:
            return
        self._thumbs.came.disconnect(self._look)
        if found.isNull():
            self.setText("not found beside the file: copy its folder along")
        else:
            self.setPixmap(found)
