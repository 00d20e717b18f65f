"""Starting the window."""

import gc
import os
import sys
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import QApplication

from wired_union.app.main_window import MainWindow
from wired_union.shipped import DESKTOP
from wired_union.ui.places import Places
from wired_union.ui.theme import load_fonts


def make_app(arguments: list[str]) -> QApplication:
    """The application with its fonts and style; the one there is when there is one already."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication([*arguments[:1], "-style", "Fusion", *arguments[1:]])  # in words: setStyle loads more
        app.setApplicationName("Wired Union")
        app.setDesktopFileName("org.wiredunion.WiredUnion")
        app.setWindowIcon(QIcon(str(DESKTOP / "org.wiredunion.WiredUnion.png")))
        load_fonts()
    return app


def make_window(places: Places | None = None, today: str = "") -> MainWindow:
    """A window with nothing in it yet, on a day that is told for pictures, else on the day that it is."""
    return MainWindow(places or Places.usual(), lambda: today or date.today().isoformat())


def run(path: Path | None = None, demo: str = "") -> int:
    """Open the window on a file, a demo or the start page, and stay until it is closed."""
    if not {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"} & set(os.environ):
        print(
            "No display found: start this in a desktop session. `wired-union check FILE` needs none.", file=sys.stderr
        )
        return 2
    app = make_app(sys.argv[:1])
    window = make_window()
    window.guard.stand()
    if demo:
        window.open_demo(demo)
    elif path is not None:
        window.open_path(path)
    window.show()
    gc.freeze()  # the collector need not walk what the start made, again and again
    gc.enable()
    QTimer.singleShot(0, window.offer_recovery)
    return app.exec()
