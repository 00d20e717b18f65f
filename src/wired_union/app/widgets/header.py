"""The header: project, concept, find-anything, and whether the work is saved."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QWidget

from wired_union.app.theme.theme import Theme
from wired_union.app.widgets.fields import button, label

HEIGHT = 44.0


class Header(QWidget):
    """44 px at the top of the window."""

    find_pressed = pyqtSignal()

    def __init__(self, theme: Theme, menu: QMenu) -> None:
        super().__init__()
        self.setObjectName("header")
        self.setFixedHeight(theme.px(HEIGHT))
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(14), 0, theme.px(12), 0)
        row.setSpacing(theme.px(10))
        self.menu = QToolButton()
        self.menu.setText("Menu")
        self.menu.setAccessibleName("Menu")
        self.menu.setMenu(menu)
        self.menu.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.name = label("", "heading")
        self.subtitle = label("", "quiet")
        self.saved = label("", "quiet")
        find = button("Find a part, a number or an action      Ctrl K", self.find_pressed.emit)
        find.setMinimumWidth(theme.px(250))
        row.addWidget(self.menu)
        row.addWidget(self.name)
        row.addWidget(self.subtitle)
        row.addStretch(1)
        row.addWidget(find)
        row.addStretch(1)
        row.addWidget(self.saved)

    def show_state(self, name: str, subtitle: str, saved: str) -> None:
        self.name.setText(name)
        self.subtitle.setText(subtitle)
        self.saved.setText(saved)
