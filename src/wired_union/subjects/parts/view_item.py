"""The panel of a selected part: what is to be said of it, what it could be instead, and its figures."""

from collections.abc import Callable

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from wired_union.project.model import Item
from wired_union.ui.fields import button, empty, label
from wired_union.ui.item_form import ItemForm
from wired_union.ui.tries import TryList
from wired_union.ui.try_work import TryWork
from wired_union.ui.view import View

_KNOWN = {"guess": "a guess", "estimate": "an estimate", "datasheet": "from a datasheet", "measured": "measured"}


class ItemPanel(QObject):
    """Fills the panel of a view; loaded and made when a part is first selected."""

    def __init__(self, view: View, duplicate: Callable[[], object], delete: Callable[[], object]) -> None:
        super().__init__(view)
        self._view, self._hands = view, (duplicate, delete)
        self._work = TryWork(view.store, self)
        self._work.started.connect(self._started)
        self._work.finished.connect(self._show_tries)
        self.build()

    def build(self) -> None:
        """Put its widgets into the panel, in place of what is there."""
        view, theme = self._view, self._view.theme
        view.panel.clear()
        self._heading, self._where = label("", "title", wrap=True), label("", "mute", wrap=True)
        self._findings, findings = QVBoxLayout(), QWidget()
        self._findings.setSpacing(theme.px(7))
        findings.setLayout(self._findings)
        self._findings.setContentsMargins(0, 0, 0, 0)
        self._caution = label("", "mute", wrap=True)
        self.tries = TryList(view.store, theme, view.desk.try_as)
        self.tries.more.connect(self._show_tries)
        self.form = ItemForm(view.store, theme)
        hint = label("what it does to each limit; rings on the strip show where it lands", "mute", wrap=True)
        every = button("All candidates and refusals", lambda: view.desk.go_to_stage("candidates"), kind="link")
        for widget in (self._heading, self._where, findings, self._caution, label("Try instead", "heading"), hint,
                       self.tries, every, label("Its figures", "heading"), self.form, self._row()):  # fmt: skip
            view.panel.column.addWidget(widget)
        view.panel.column.addStretch(1)

    def _row(self) -> QWidget:
        row, (duplicate, delete) = QWidget(), self._hands
        buttons = QHBoxLayout(row)
        buttons.setContentsMargins(0, 0, 0, 0)
        buttons.addWidget(button("Duplicate", duplicate, tip="Ctrl D"))
        buttons.addWidget(button("Delete", delete, tip="Delete"))
        return row

    def show_item(self, item: Item) -> None:
        """Show a part as the project has it now."""
        assessment = self._view.store.assessment
        lane = next(s for s in self._view.store.project.concept.subsystems if s.id == item.subsystem)
        self._heading.setText(item.name + (f" ×{item.count}" if item.count > 1 else ""))
        self._where.setText(f"{item.part.kind} in {lane.name} · {_KNOWN[item.knowledge]} · {item.origin}")
        empty(self._findings)
        self._view.finding_cards([f for f in assessment.findings if item.id in f.items], self._findings)
        warnings = [f"{c.title}: {c.text}" for c in assessment.cautions if item.id in c.items]
        self._caution.setText("\n".join(warnings))
        self._caution.setVisible(bool(warnings))
        self.form.show_item(item)
        self._work.start(item.id)

    def stop(self) -> None:
        """Work out no more alternatives."""
        self._work.stop()

    def ready(self, item_id: str) -> bool:
        """Whether every alternative of a part has been worked out."""
        return self._work.ready(item_id)

    def _started(self, other: bool) -> None:
        if other:
            self.tries.reset()
        self.tries.show_tries([], self._view.panel_width(), working=True)

    def _show_tries(self) -> None:
        self.tries.show_tries(self._work.tries, self._view.panel_width())
