"""The entries as a list that is drawn as far as it is seen: day, hand, what, what it moved, why, small pictures."""

from collections.abc import Sequence

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from wired_union.picture.shapes import Picture
from wired_union.project.notebook_model import Entry
from wired_union.subjects.notebook.picture_entry import entry_picture, thumb_places
from wired_union.ui.painter import paint
from wired_union.ui.theme import Theme
from wired_union.ui.thumbs import Thumbs

TEXT = Qt.ItemDataRole.DisplayRole
HEARD = Qt.ItemDataRole.AccessibleTextRole


class _Entries(QAbstractListModel):
    """The entries that are shown, the latest first."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.entries: tuple[Entry, ...] = ()
        self.left_out: frozenset[str] = frozenset()

    def show_entries(self, entries: Sequence[Entry], left_out: Sequence[str]) -> None:
        self.beginResetModel()
        self.entries, self.left_out = tuple(entries), frozenset(left_out)
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.entries)

    def data(self, index: QModelIndex, role: int = TEXT) -> object:
        if role not in (TEXT, HEARD) or not 0 <= index.row() < len(self.entries):
            return None
        e = self.entries[index.row()]
        return " ".join(filter(None, (e.when, e.by, e.text, e.moved, e.why)))

    def first_of_day(self, row: int) -> bool:
        """Whether a day begins with that row."""
        return row == 0 or self.entries[row - 1].when != self.entries[row].when


class _Drawn(QStyledItemDelegate):
    """Draws an entry; its height follows from its texts."""

    def __init__(self, theme: Theme, thumbs: Thumbs, model: _Entries, parent: QListView) -> None:
        super().__init__(parent)
        self._theme, self._thumbs, self._model, self._list = theme, thumbs, model, parent
        self._laid: dict[tuple[Entry, bool, bool, bool, int], Picture] = {}

    def _picture(self, row: int, picked: bool) -> Picture:
        viewport = self._list.viewport()
        width = viewport.width() if viewport is not None else 0
        entry, day = self._model.entries[row], self._model.first_of_day(row)
        key = (entry, day, picked, entry.when in self._model.left_out, width)
        if key not in self._laid:
            if len(self._laid) > MOST_LAID:
                self._laid.clear()
            self._laid[key] = entry_picture(
                entry, self._theme.kit, float(width), day=day, picked=picked, left_out=key[3]
            )
        return self._laid[key]

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(10, round(self._picture(index.row(), False).height))

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        picked = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.save()
        painter.translate(QRectF(option.rect).topLeft())
        paint(painter, self._picture(index.row(), picked), self._theme)
        self._paint_thumbs(painter, self._model.entries[index.row()], float(option.rect.width()))
        painter.restore()

    def _paint_thumbs(self, painter: QPainter, entry: Entry, width: float) -> None:
        for digest, form, x, y, w, h in thumb_places(entry, self._theme.kit, width):
            place = QRectF(x, y, w, h)
            painter.fillRect(place, self._theme.colour("line"))
            found = self._thumbs.get(digest, form, round(w), round(h))
            if found is not None and not found.isNull():
                painter.drawPixmap(round(x + (w - found.width()) / 2), round(y + (h - found.height()) / 2), found)
            elif found is not None:
                painter.setPen(self._theme.colour("mute"))
                painter.setFont(self._theme.font(self._theme.kit.size("tiny"), "words", False))
                painter.drawText(place, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, "not found here")


MOST_LAID = 4000


class EntryList(QListView):
    """Entries, the latest first; `selectionModel` tells which is chosen."""

    def __init__(self, theme: Theme, thumbs: Thumbs) -> None:
        super().__init__()
        self.setAccessibleName("Entries")
        self.setObjectName("entries")
        self.shown = _Entries(self)
        self.setModel(self.shown)
        self.setItemDelegate(_Drawn(theme, thumbs, self.shown, self))
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setLayoutMode(QListView.LayoutMode.Batched)
        self.setFrameShape(QListView.Shape.NoFrame)
        self.setMinimumHeight(theme.px(160))
        thumbs.came.connect(self._redraw)

    def _redraw(self) -> None:
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def choose(self, entry: str) -> None:
        """Mark an entry, and bring it into sight; "" marks none."""
        row = next((n for n, e in enumerate(self.shown.entries) if entry and e.id == entry), -1)
        if row < 0:
            self.clearSelection()
            self.setCurrentIndex(QModelIndex())
            return
        self.setCurrentIndex(self.shown.index(row))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()
