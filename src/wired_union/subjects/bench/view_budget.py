"""An error budget on the Bench screen: its picture in the middle, its figures and one contribution in the panel."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout

from wired_union.subjects.bench import budget_edits as edits
from wired_union.subjects.bench.budgets import BUDGETS, Budgeted
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.picture_budget import budget_picture, budget_words
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, card, row

WORDS = {"unit": "result in", "wanted": "off by at most", "confidence": "holds for"}
DOUBT_WORDS = {
    "of": "kind", "spread": "spread, ±", "spread_as": "which is", "unit": "spread in", "sensitivity": "moves it by",
    "averaged": "readings averaged", "readings": "known from readings", "together": "moves with",
    "calibration": "or from",
}  # fmt: skip


class BudgetCards:
    """Fills the middle of the view and the panel for one error budget."""

    def __init__(self, view: View, fields: dict[str, Any]) -> None:
        self.view, self.store, self.theme, self.fields = view, view.store, view.theme, fields
        self.canvas: Canvas | None = None

    @property
    def current(self) -> Budgeted | None:
        """The one that is selected."""
        picked = self.store.picked(BenchPick).budget
        return next((b for b in self.store.assessment.of(BUDGETS) if b.budget.id == picked), None)

    def show(self, box: QVBoxLayout, b: Budgeted) -> None:
        """What each contribution does, and all together."""
        self.canvas = Canvas(self.theme, name=f"What makes {b.budget.name} wrong")
        self.canvas.chosen.connect(self._chosen)
        kit, picked = self.theme.kit, self.store.picked(BenchPick)
        self.canvas.show_layout(lambda w, h: budget_picture(b, kit, w, picked))
        note = "a bar is how far one goes; squares add, so the longest counts most"
        add = button("+ what makes it wrong", partial(self._add, b.budget.id), kind="link")
        box.addWidget(card(self.theme, row(label(b.budget.name, "heading"), label(note, "mute")), self.canvas,
                           label(budget_words(b), "mute", wrap=True), row(add)))  # fmt: skip

    def panel(self, b: Budgeted) -> None:
        """Findings, figures of the budget, the contribution that is selected."""
        column, store, budget = self.view.panel.column, self.store, b.budget
        column.addWidget(label(budget.name, "title", wrap=True))
        self.view.finding_cards([f for f in store.assessment.findings if f.subject == "bench" and f.of == budget.id])
        number = store.picked(BenchPick).doubt
        if 1 <= number <= len(budget.doubts):
            doubt = budget.doubts[number - 1]
            column.addWidget(label(doubt.name, "heading", wrap=True))
            set_one = partial(self._set_doubt, budget.id, number)
            form = ValueForm(self.theme, store, doubt, doubt.name, set_one, words=DOUBT_WORDS, skip={"beyond"},
                             empties={"spread": "not known", "unit": budget.unit, "readings": "not said",
                                      "together": "nothing"},
                             measured_in={"spread": doubt.unit or budget.unit})  # fmt: skip
            column.addWidget(form)
            self.fields |= {f"doubt {name}": field for name, field in form.fields.items()}
            away = partial(store.attempt, edits.remove_doubt, budget.id, number)
            column.addWidget(button(f"take {doubt.name} away", away, kind="link"))
        column.addWidget(label("The result", "heading"))
        whole = ValueForm(self.theme, store, budget, budget.name, partial(self._set, budget.id), words=WORDS,
                          skip={"doubts", "beyond"}, empties={"wanted": "not said"},
                          measured_in={"wanted": budget.unit, "confidence": "share"})  # fmt: skip
        column.addWidget(whole)
        self.fields |= whole.fields
        gone = partial(store.attempt, edits.remove_budget, value_id=budget.id)
        column.addWidget(button("take the budget away", gone, kind="link"))

    def _chosen(self, of: object) -> None:
        if isinstance(of, BenchPick):
            self.store.pick(of)

    def _add(self, budget_id: str) -> None:
        name, meant = ask.word(self.view, "What makes it wrong", "“Steps of the converter”, “Heat”, “Mounted askew”")
        if meant and self.store.attempt(edits.add_doubt, budget_id, name):
            now = self.current
            if now is not None:
                self.store.pick(BenchPick(budget=budget_id, doubt=len(now.budget.doubts)))

    def add(self) -> None:
        """Ask what it is called, and add it."""
        name, meant = ask.word(self.view, "An error budget", "Of which figure? “Position of a core”, “Depth”")
        if meant and self.store.attempt(edits.add_budget, name=name):
            self.store.pick(BenchPick(budget=self.store.project.concept.error_budgets[-1].id))

    def _set(self, budget_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_budget, value_id=budget_id, **{field: new})

    def _set_doubt(self, budget_id: str, number: int, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_doubt, budget_id, number, **{field: new})
