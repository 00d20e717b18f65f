"""The right panel: beside the work where there is room, else a drawer over it, with a key and a handle."""

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QMoveEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QStackedWidget, QWidget

from wired_union.ui.theme import Theme

PANEL_W, HANDLE_W, BESIDE_FROM = 300.0, 24.0, 1100.0
"""Widths at the usual size of texts; below the last the panel is a drawer."""
KEY = "F9"


class _Handle(QPushButton):
    """The handle of the drawer; `placed` when the layout has put it somewhere."""

    placed = pyqtSignal()

    def moveEvent(self, event: QMoveEvent | None) -> None:
        super().moveEvent(event)
        self.placed.emit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.placed.emit()


class Drawer(QObject):
    """Puts the panels of the views where they fit. `middle` is the row they stand in, `over` what they may cover."""

    def __init__(self, theme: Theme, panels: QStackedWidget, middle: QHBoxLayout, over: QWidget) -> None:
        super().__init__(over)
        self._theme, self.panels, self._middle, self._over = theme, panels, middle, over
        self.is_drawer = self.is_open = False
        self.handle = _Handle("‹")
        self.handle.setObjectName("handle")
        self.handle.setFixedWidth(theme.px(HANDLE_W))
        self.handle.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.handle.setAccessibleName("Details")
        self.handle.setToolTip(f"Details of what is selected  ({KEY})")
        self.handle.clicked.connect(self.toggle)
        middle.addWidget(panels)
        middle.addWidget(self.handle)
        self.handle.hide()
        self.handle.placed.connect(self._follow)
        panels.setFixedWidth(theme.px(PANEL_W))

    def _follow(self) -> None:
        """Follow the handle, which the layout puts in its place after this has been told of a new size."""
        if self.is_drawer:
            self._lay_over()

    def fit(self, window_width: int) -> None:
        """Stand beside the work, or over it, as the window's width asks."""
        drawer = window_width < self._theme.px(BESIDE_FROM)
        if drawer != self.is_drawer:
            self.is_drawer, self.is_open = drawer, False
            if drawer:
                self._middle.removeWidget(self.panels)
                self.panels.setParent(self._over)
            else:
                self._middle.insertWidget(self._middle.count() - 1, self.panels)
        self.show()

    def toggle(self) -> None:
        self.is_open = not self.is_open
        self.show()
        if self.is_drawer and self.is_open:
            self.panels.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def open(self) -> None:
        """Open it for a selection that asks for it."""
        if self.is_drawer and not self.is_open:
            self.is_open = True
            self.show()

    def close(self) -> bool:
        """Close it; whether it was open."""
        was = self.is_drawer and self.is_open
        if was:
            self.is_open = False
            self.show()
        return was

    def hide(self) -> None:
        """Take it off the screen, as on the start page."""
        self.panels.hide()
        self.handle.hide()

    def show(self) -> None:
        self.handle.setVisible(self.is_drawer)
        self.handle.setText("›" if self.is_open else "‹")
        self.panels.setVisible(not self.is_drawer or self.is_open)
        if self.is_drawer:
            self._lay_over()

    def _lay_over(self) -> None:
        width = self._theme.px(PANEL_W)
        top, height = self.handle.y(), self.handle.height()
        right = self.handle.x() if self.handle.isVisible() else self._over.width()
        self.panels.setGeometry(right - width, top, width, height)
        self.panels.raise_()
