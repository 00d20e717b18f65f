"""A card with a heading, what is listed on it, and a way to add one more."""

from PyQt6.QtWidgets import QFrame, QVBoxLayout

from wired_union.ui.fields import label
from wired_union.ui.theme import Theme


class ListCard(QFrame):
    """`box` is its column, under the heading; `listed` the layout in it that is made anew."""

    def __init__(self, theme: Theme, heading: str) -> None:
        super().__init__()
        self.setObjectName("card")
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(theme.px(14), theme.px(10), theme.px(14), theme.px(10))
        self.box.setSpacing(theme.px(4))
        self.box.addWidget(label(heading, "heading"))
        self.listed = QVBoxLayout()
