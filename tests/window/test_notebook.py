"""The notebook in the window: what was said of an edit is read again, and found."""

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from wired_union.app.dialogs.notebook import Notebook
from wired_union.ui.store import Store

from .hands import typed


def opened(monkeypatch, window) -> Notebook:
    """The dialog that Ctrl B opens."""
    found: list[Notebook] = []
    monkeypatch.setattr(Notebook, "exec", lambda self: found.append(self))
    QTest.keyClick(window, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    return found[0]


def test_the_reason_of_an_edit_is_read_in_the_notebook(window, monkeypatch):
    store: Store = window.store
    window.go("brief")
    typed(window.views["brief"], "Limit", "6 h")
    window.ripple_line.why.setText("the tide is longer there")
    QTest.keyClick(window.ripple_line.why, Qt.Key.Key_Return)
    assert len(store.project.notebook) == 1
    notebook = opened(monkeypatch, window)
    text = notebook.page.toPlainText()
    assert window.today() in text
    assert "the tide is longer there" in text
    notebook.search.setText("TIDE longer")
    assert "the tide is longer there" in notebook.page.toPlainText()
    notebook.search.setText("tide shorter")
    assert notebook.page.toPlainText() == "No entry holds all of these words."


def test_an_empty_notebook_says_how_it_fills(window, monkeypatch):
    assert "press Enter: it is kept here" in opened(monkeypatch, window).page.toPlainText()
