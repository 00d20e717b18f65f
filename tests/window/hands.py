"""What hands do in a window: click, type into a named field, find a button by what it says."""

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit, QPushButton


def click(widget) -> None:
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton)


def press(canvas, region: str) -> None:
    """Click on a region of a canvas."""
    place = canvas.region(region)
    spot = QPoint(round(place.x + place.w / 2), round(place.y + place.h / 2))
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=spot)


def answer(monkeypatch, text: str, ok: bool = True) -> None:
    """Answer the next question for a text."""
    monkeypatch.setattr("wired_union.ui.ask.word", lambda *a, **k: (text, ok))


def named(view, text: str) -> QPushButton:
    """The button of a view or its panel that starts with a text."""
    QTest.qWait(1)  # what was just laid out is shown
    made = [b for w in (view, view.panel) for b in w.findChildren(QPushButton) if b.isVisibleTo(w)]
    return next(b for b in made if b.text().startswith(text))


def typed(view, name: str, text: str) -> QLineEdit:
    """Type into the field of the panel with that accessible name, and press Enter."""
    QTest.qWait(1)
    line = next(
        x for x in view.panel.findChildren(QLineEdit) if x.accessibleName() == name and x.isVisibleTo(view.panel)
    )
    line.setFocus()
    line.setText(text)
    QTest.keyClick(line, Qt.Key.Key_Return)
    return line
