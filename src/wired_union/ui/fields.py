"""Fields that take what people type, and labels that go with them."""

from collections.abc import Callable, Sequence
from typing import Any

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QPainter, QPaintEvent, QWheelEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from wired_union import units
from wired_union.ui.theme import Theme


def label(text: str, name: str = "", *, wrap: bool = False) -> QLabel:
    """A label; `name` is its role in the style sheet: title, heading, mute, error, figures."""
    made = QLabel(text)
    made.setObjectName(name)
    made.setTextFormat(Qt.TextFormat.PlainText)
    if wrap:
        made.setWordWrap(True)
    return made


def button(text: str, done: Callable[[], Any], *, kind: str = "", tip: str = "") -> QPushButton:
    """A push button; `kind` is "main", "link" or "mode"."""
    made = QPushButton(text)
    made.setObjectName(kind)
    made.clicked.connect(lambda _=False: done())
    made.setAutoDefault(False)
    if tip:
        made.setToolTip(tip)
    return made


def wrapped(text: str, theme: Theme, room: float = 196.0) -> str:
    """A long text of a button over several lines, since buttons do not wrap; as narrow as the narrowest panel."""
    return "\n    ".join(theme.kit.wrap(text, theme.px(room), "small", "words", True))


def empty(layout: QLayout) -> None:
    """Take every widget out of a layout, and out of the layouts in it."""
    while layout.count():
        entry = layout.takeAt(0)
        inner = entry.layout() if entry is not None else None
        if inner is not None:
            empty(inner)
        old = entry.widget() if entry is not None else None
        if old is not None:
            old.hide()
            old.deleteLater()


class Elided(QLabel):
    """One line that ends in … where it does not fit, or with `whole` is not there then; it never asks for width."""

    def __init__(self, name: str = "mute", *, whole: bool = False) -> None:
        super().__init__()
        self._whole = whole
        self.setObjectName(name)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        cut = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        drawn = "" if self._whole and cut != self.text() else cut
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, drawn)
        painter.end()
        self.setToolTip(self.text() if cut != self.text() else "")


class EntryField(QWidget):
    """A line that is committed by Enter or by leaving it; a bad entry stays, with one line under it, and changes
    nothing. `read` turns the text into a value or raises ValueError; `commit` takes the value and says why not, or "".
    """

    committed = pyqtSignal(object)

    def __init__(self, read: Callable[[str], Any], name: str) -> None:
        super().__init__()
        self._read = read
        self._shown = ""
        self._tried: str | None = None
        self.line = _Line(self)
        self.line.setAccessibleName(name)
        self.line.left.connect(self._commit)
        self.line.given_up.connect(self._give_up)
        self.error = label("", "error", wrap=True)
        self.error.hide()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(2)
        box.addWidget(self.line)
        box.addWidget(self.error)

    def show_text(self, text: str, placeholder: str = "") -> None:
        """Show a value, unless someone is in the middle of typing another."""
        if self.line.isModified() and self.line.hasFocus() and self.line.text() != self._shown:
            self._shown = text
            return
        self._shown, self._tried = text, None
        self.line.settled = text
        self.line.setText(text)
        self.line.setCursorPosition(0)
        self.line.setModified(False)
        self.line.setPlaceholderText(placeholder)
        self.complain("")

    def complain(self, text: str) -> None:
        """Put one line under the field, "" to take it away."""
        self.error.setText(text)
        self.error.setVisible(bool(text))
        self.line.setProperty("bad", bool(text))
        style = self.line.style()
        if style is not None:
            style.unpolish(self.line)
            style.polish(self.line)

    def _commit(self) -> None:
        text = self.line.text()
        if text == self._tried:  # Enter, and then leaving the field, must not do it twice
            return
        if text == self._shown:
            self.complain("")
            return
        self._tried = text
        try:
            value = self._read(text)
        except ValueError as error:
            self.complain(str(error))
            return
        self.complain("")
        self.line.setModified(False)
        self.committed.emit(value)

    def _give_up(self) -> None:
        self._tried = None
        self.line.setText(self._shown)
        self.line.setModified(False)
        self.complain("")


class _Line(QLineEdit):
    left = pyqtSignal()
    given_up = pyqtSignal()
    settled = ""
    """The text that stands for the present value."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.left.emit()
        elif event.key() == Qt.Key.Key_Escape and self.text() != self.settled:
            self.given_up.emit()
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """Keep Esc for giving an entry up, before the window's own Esc sees it."""
        override = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride
        if override and event.key() == Qt.Key.Key_Escape and self.text() != self.settled:  # type: ignore[union-attr]
            event.accept()  # type: ignore[union-attr]
            return True
        return super().event(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.left.emit()


def number_reader(unit: str, *, whole: bool = False, empty: bool = False) -> Callable[[str], float | None]:
    """Reads a number in a unit; an empty text is None where that is allowed."""

    def read(text: str) -> float | None:
        if empty and not text.strip():
            return None
        value = units.parse(text, unit)
        if whole and value != int(value):
            raise ValueError(f"“{text.strip()}” is not a whole number.")
        return value

    return read


class Choice(QComboBox):
    """A combo box that only its user moves: no wheel, no signal when shown a value."""

    picked = pyqtSignal(str)

    def __init__(self, options: Sequence[tuple[str, str]], name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(6)
        self.offer(options)
        self.activated.connect(lambda i: self.picked.emit(str(self.itemData(i))))

    def offer(self, options: Sequence[tuple[str, str]]) -> None:
        self.clear()
        for value, text in options:
            self.addItem(text, value)

    def show_value(self, value: str) -> None:
        self.setCurrentIndex(self.findData(value))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            event.ignore()


class Form(QWidget):
    """Labels on the left, fields on the right."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setVerticalSpacing(theme.px(6))
        self._grid.setColumnStretch(0, 45)
        self._grid.setColumnStretch(1, 55)
        self._rows = 0

    def add(self, text: str, field: QWidget, tip: str = "") -> None:
        name = label(text, "mute", wrap=True)
        name.setToolTip(tip)
        field.setToolTip(tip)
        self._grid.addWidget(name, self._rows, 0, Qt.AlignmentFlag.AlignVCenter)
        self._grid.addWidget(field, self._rows, 1)
        self._rows += 1

    def add_heading(self, text: str) -> None:
        self._grid.addWidget(label(text, "heading"), self._rows, 0, 1, 2)
        self._rows += 1
