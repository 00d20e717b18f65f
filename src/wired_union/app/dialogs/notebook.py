"""The notebook: what was done, what it moved and why, the latest first."""

from html import escape

from PyQt6.QtWidgets import QDialog, QLineEdit, QTextBrowser, QVBoxLayout, QWidget

from wired_union.project.model import Entry, Project
from wired_union.ui.fields import button, label
from wired_union.ui.theme import Theme

EMPTY = (
    "Nothing is written down yet. After an edit, say why on the line above the strip and press Enter: it is kept here."
)


def page(entries: tuple[Entry, ...], wanted: str) -> str:
    """Entries that hold every word that is looked for, as HTML, the latest first."""
    words = wanted.casefold().split()
    found = [e for e in reversed(entries) if all(w in f"{e.when} {e.text} {e.why}".casefold() for w in words)]
    if not found:
        return f"<p>{escape(EMPTY if not entries else 'No entry holds all of these words.')}</p>"
    return "".join(
        f"<p><b>{escape(e.when)}</b> {escape(e.text)}{f'<br><i>{escape(e.why)}</i>' if e.why else ''}</p>"
        for e in found
    )


class Notebook(QDialog):
    """Every entry of a project, with a search."""

    def __init__(self, project: Project, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._entries = project.notebook
        self.setWindowTitle(f"Notebook of {project.name}")
        self.resize(theme.px(620), theme.px(520))
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search: pack, 100:1, 2026-11 …")
        self.search.setAccessibleName("Search the notebook")
        self.search.textChanged.connect(self._show)
        self.page = QTextBrowser()
        self.page.setAccessibleName("Notebook")
        column = QVBoxLayout(self)
        column.addWidget(label("What was done, and why", "title"))
        column.addWidget(self.search)
        column.addWidget(self.page, 1)
        column.addWidget(button("Close", self.accept, kind="main"))
        self._show()

    def _show(self) -> None:
        self.page.setHtml(page(self._entries, self.search.text()))
