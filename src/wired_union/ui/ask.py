"""Asking for one word, in the looks of the program."""

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from wired_union.ui.fields import button, label

WIDE = 420


class Ask(QDialog):
    """One question with a field; Enter takes the answer, Esc leaves it."""

    def __init__(self, parent: QWidget, title: str, question: str, text: str = "") -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.field = QLineEdit(text)
        self.field.setAccessibleName(question)
        self.field.selectAll()
        scale = parent.fontMetrics().height() / 16
        self.setMinimumWidth(round(WIDE * max(scale, 1.0)))
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        column.addWidget(label(title, "heading", wrap=True))
        column.addWidget(label(question, "mute", wrap=True))
        column.addWidget(self.field)
        foot = QHBoxLayout()
        foot.addStretch(1)
        cancel = button("Cancel", self.reject)
        take = button("OK", self.accept, kind="main")
        take.setDefault(True)
        foot.addWidget(cancel)
        foot.addWidget(take)
        column.addLayout(foot)
        self.field.setFocus()


def word(parent: QWidget, title: str, question: str, *, text: str = "") -> tuple[str, bool]:
    """Ask for one word; what was typed, and whether it was meant."""
    asked = Ask(parent, title, question, text)
    taken = asked.exec() == QDialog.DialogCode.Accepted
    return asked.field.text(), taken
