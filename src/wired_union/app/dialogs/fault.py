"""What is said when the program itself slips: a plain sentence, that the work is kept, and details to copy."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QDialog, QHBoxLayout, QPlainTextEdit, QVBoxLayout, QWidget

from wired_union.ui.fields import button, label
from wired_union.ui.theme import Theme


class Fault(QDialog):
    """Open beside the window, which goes on."""

    def __init__(self, text: str, details: str, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Something went wrong")
        self.resize(theme.px(560), theme.px(300))
        self.text, self.details = text, details
        column = QVBoxLayout(self)
        column.addWidget(label("Something went wrong", "heading"))
        column.addWidget(label(text, wrap=True))
        column.addWidget(
            label("If it comes back, give these details to whoever looks after the program:", "mute", wrap=True)
        )
        shown = QPlainTextEdit(details)
        shown.setReadOnly(True)
        shown.setAccessibleName("Details")
        column.addWidget(shown, 1)
        foot = QHBoxLayout()
        self.copy_button = button("Copy the details", self.copy)
        foot.addWidget(self.copy_button)
        foot.addStretch(1)
        foot.addWidget(button("Go on", self.accept, kind="main"))
        column.addLayout(foot)

    def copy(self) -> None:
        """Put the details on the clipboard."""
        clipboard = QApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self.details)
