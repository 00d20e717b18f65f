"""A real window, offscreen, in folders of its own."""

import pytest
from PyQt6 import sip
from PyQt6.QtWidgets import QMessageBox

from wired_union.app.main_window import MainWindow
from wired_union.app.run import make_app
from wired_union.subjects.parts.view import PartsView
from wired_union.ui.places import Places


@pytest.fixture(scope="session")
def qapp():
    """The application as the program makes it: its fonts, its style."""
    return make_app(["wired-union"])


@pytest.fixture
def places(tmp_path) -> Places:
    return Places(
        tmp_path / "config" / "settings.json", tmp_path / "recovery", tmp_path / "store.sqlite", tmp_path / "kept"
    )


@pytest.fixture
def open_window(qtbot, places, monkeypatch):
    """Makes windows; at the end they are closed without saving, and no journal is left to the next test."""
    made: list[MainWindow] = []

    def make(*, demo: str = "mudlark", size: tuple[int, int] = (1280, 800)) -> MainWindow:
        window = MainWindow(places, lambda: "2026-11-24")
        window.resize(*size)
        if demo:
            window.open_demo(demo)
        window.show()
        window.activateWindow()
        qtbot.waitUntil(window.isActiveWindow, timeout=10_000)  # focus is only told to an active window
        made.append(window)
        return window

    yield make
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Discard)
    for window in made:
        window.close()
        window.files.release()
        sip.delete(window)  # at once: the next window would dress this one's widgets too


@pytest.fixture
def window(open_window) -> MainWindow:
    return open_window()


@pytest.fixture
def parts(window, qtbot):
    """The Parts view with the battery selected and its alternatives worked out."""
    window.go("parts")
    return ready(window, qtbot, "battery")


def ready(window: MainWindow, qtbot, item: str) -> PartsView:
    window.go_to_item(item)
    view = window.views["parts"]
    assert isinstance(view, PartsView)
    qtbot.waitUntil(lambda: view.tries_ready, timeout=20_000)
    return view
