"""Ctrl K: parts, numbers, actions and calculators in one list."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from wired_union.app.actions import Entry
from wired_union.ui.theme import Theme

MOST = 60


def rank(entries: list[Entry], typed: str) -> list[Entry]:
    """Entries that hold every word typed, those that start with it first."""
    words = typed.lower().replace("\u202f", " ").split()
    found = []
    for entry in entries:
        text = f"{entry.text} {entry.kind}".lower().replace("\u202f", " ").replace("-", " ")
        if all(w.replace("-", " ") in text for w in words):
            found.append((not text.startswith(typed.lower().strip()), entry))
    found.sort(key=lambda x: x[0])
    return [entry for _, entry in found[:MOST]]


class FindAnything(QDialog):
    """A field and a list under it. Enter does what is chosen."""

    def __init__(self, entries: list[Entry], theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._entries = entries
        self._shown: list[Entry] = []
        self.setWindowTitle("Find a part, a number or an action")
        self.resize(theme.px(560), theme.px(420))
        self.field = QLineEdit()
        self.field.setPlaceholderText("A part, a number, an action, or a calculator such as “voltage drop”")
        self.field.setAccessibleName("Find")
        self.list = QListWidget()
        self.list.setAccessibleName("Found")
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column = QVBoxLayout(self)
        column.addWidget(self.field)
        column.addWidget(self.list, 1)
        self.field.textChanged.connect(self._fill)
        self.list.itemActivated.connect(lambda _: self.choose())
        self._fill("")

    def _fill(self, typed: str) -> None:
        self._shown = rank(self._entries, typed)
        self.list.clear()
        for entry in self._shown:
            self.list.addItem(QListWidgetItem(f"{entry.kind}:  {entry.text}"))
        if not self._shown:
            self.list.addItem(QListWidgetItem("Nothing found. Try another word."))
        self.list.setCurrentRow(0)

    def choose(self) -> None:
        """Do what the cursor is on."""
        row = self.list.currentRow()
        if 0 <= row < len(self._shown):
            self.accept()
            self._shown[row].act()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(max(0, min(self.list.currentRow() + step, self.list.count() - 1)))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.choose()
        else:
            super().keyPressEvent(event)
