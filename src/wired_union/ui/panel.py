"""The right panel of a view."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from wired_union.ui.fields import empty
from wired_union.ui.theme import Theme


class Panel(QScrollArea):
    """The right panel of a view: a column that scrolls."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self._theme = theme
        self._inside = QWidget()
        self._inside.setObjectName("paper")
        self.column = QVBoxLayout(self._inside)
        self.column.setContentsMargins(theme.px(15), theme.px(14), theme.px(13), theme.px(14))
        self.column.setSpacing(theme.px(8))
        self.setWidget(self._inside)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def clear(self) -> None:
        """Take everything out of the column."""
        empty(self.column)
