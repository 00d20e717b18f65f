"""Concepts: where each lands, what differs, what is weighed, and what a test is to decide."""

from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QMessageBox, QVBoxLayout, QWidget

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Selection
from wired_union.picture.shapes import Picture
from wired_union.project import concept_edits as edits
from wired_union.project.concept_edits import said
from wired_union.project.model import Concept, Stock
from wired_union.subjects.concepts import decision_edits
from wired_union.subjects.concepts.compare import answered_questions, common_parts, compare_concepts, open_questions
from wired_union.subjects.concepts.pick import ConceptsPick, QuestionMark
from wired_union.subjects.concepts.picture import (
    decision_picture,
    difference_picture,
    landing_picture,
    legend_picture,
    sureness_picture,
    sureness_words,
    verdict_words,
)  # fmt: skip
from wired_union.subjects.concepts.picture_questions import question_rows
from wired_union.subjects.concepts.view_panels import criterion_panel, question_panel
from wired_union.subjects.concepts.weighing import Weighing, weigh_up
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.findings import ChangeButton
from wired_union.ui.view import Desk, View, card
from wired_union.units import show


class ConceptsView(View):
    stage, title = "concepts", "Concepts"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.legend = Canvas(self.theme, name="Concepts by letter")
        self.legend.chosen.connect(self._choose)
        self.landing = Canvas(self.theme, name="Where each concept lands on each limit")
        self.landing.chosen.connect(self._choose)
        self.column.addWidget(card(self.theme, label("Where each lands", "heading"), self.legend, self.landing))
        self._difference_title = label("", "heading")
        self.differences = Canvas(self.theme, name="What differs")
        self.questions = Canvas(self.theme, name="To be decided by test")
        self.questions.chosen.connect(self._choose_question)
        self._weigh_title, self._totals = label("What no formula knows", "heading"), label("", "figures")
        self.decision = Canvas(self.theme, name="Criteria, weights and scores")
        self.decision.chosen.connect(self._choose_criterion)
        self.sureness = Canvas(self.theme, name="How sure the order is")
        self._sure_words = label("", "mute", wrap=True)
        self.column.addLayout(self._lower_row())
        self.column.addStretch(1)

    def _lower_row(self) -> QHBoxLayout:
        left = card(
            self.theme, self._difference_title, self.differences, label("Decided by test, riskiest first", "heading"),
            self.questions, button("+ leave something to a test", self._add_question, kind="link"),
        )  # fmt: skip
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self._weigh_title, 1)
        row.addWidget(self._totals)
        buttons = QWidget()
        add = QHBoxLayout(buttons)
        add.setContentsMargins(0, 0, 0, 0)
        add.addWidget(button("+ criterion", self._add_criterion, kind="link"))
        add.addWidget(button("+ must-have", partial(self._add_criterion, must_have=True), kind="link"))
        add.addStretch(1)
        right = card(
            self.theme, head, self.decision, buttons, label("How sure is the order", "heading"), self.sureness,
            self._sure_words,
        )  # fmt: skip
        lower = QHBoxLayout()
        lower.setSpacing(self.theme.px(8))
        for side in (left, right):
            column = side.layout()
            assert isinstance(column, QVBoxLayout)
            column.addStretch(1)
            lower.addWidget(side, 1)
        return lower

    # what is selected

    @property
    def chosen(self) -> Concept:
        """The concept in the panel: the one selected, else the one at work."""
        project = self.store.project
        wanted = self.store.picked(Selection).concept
        return next((c for c in project.concepts if c.id == wanted), project.concept)

    @property
    def _compared(self) -> tuple[Concept, Concept] | None:
        """The concept at work, and the one it is compared with."""
        project = self.store.project
        chosen = self.chosen
        if chosen.id != project.concept.id:
            return project.concept, chosen
        others = [c for c in (*project.living, *project.concepts) if c.id != chosen.id]
        return (project.concept, others[0]) if others else None

    def _choose(self, concept_id: str) -> None:
        self.store.pick(ConceptsPick(), replace(self.store.picked(Selection), concept=concept_id))

    def _choose_question(self, mark: QuestionMark) -> None:
        self.store.pick(ConceptsPick(question=mark))

    def _choose_criterion(self, criterion: str) -> None:
        self.store.pick(ConceptsPick(criterion=criterion))

    # showing

    def refresh(self) -> None:
        project, kit = self.store.project, self.theme.kit
        alive, retired = len(project.living), len(project.concepts) - len(project.living)
        count = f"{len(project.concepts)} under one brief" if len(project.concepts) > 1 else "one under this brief"
        self.subtitle.setText(f"{count} · {alive} alive" + (f", {retired} retired" if retired else ""))
        assessments, chosen = self.store.concept_assessments, self.chosen.id
        self.legend.show_layout(lambda w, h: legend_picture(project, kit, w, chosen=chosen))
        self.landing.show_layout(lambda w, h: landing_picture(project, assessments, kit, w, chosen=chosen))
        self._show_differences()
        open_ones = [*open_questions(project), *answered_questions(project)]
        picked = self.store.picked(ConceptsPick).question
        self.questions.show_layout(lambda w, h: question_rows(open_ones, kit, w, chosen=picked))
        self._show_decision(weigh_up(project, assessments))
        self._show_panel()

    def _show_differences(self) -> None:
        pair, kit = self._compared, self.theme.kit
        if pair is None:
            self._difference_title.setText("One concept so far")
            rows = [("", "Copy it and change the copy: both stay, side by side.")]
        else:
            one, other = pair
            self._difference_title.setText(f"What {other.letter} does otherwise than {one.letter}")
            rows = compare_concepts(self.store.project, one, other) or [("", "Nothing: they are the same.")]
        self.differences.show_layout(lambda w, h: difference_picture(rows, kit, w))

    def _show_decision(self, weighing: Weighing) -> None:
        project, kit = self.store.project, self.theme.kit
        picked = self.store.picked(ConceptsPick).criterion
        if not project.decision.criteria:
            words = kit.words(0, 10, "Add what counts and no formula knows.", "small", "mute")
            self.decision.show_layout(lambda w, h: Picture(w, 22, (words,)))
        else:
            self.decision.show_layout(lambda w, h: decision_picture(project, weighing, kit, w, chosen=picked))
        known = sorted((s for s in weighing.standings if s.total is not None), key=lambda s: -(s.total or 0.0))
        marked = [f"{s.concept.letter} {show(s.total)}{' (out)' if s.knocked_out else ''}" for s in known]
        self._totals.setText("   ".join(marked))
        out = [f"{s.concept.letter} is out: {s.knocked_out[0]}." for s in weighing.standings if s.knocked_out]
        enough = len(known) > 1
        self.sureness.setVisible(enough and bool(weighing.overturns))
        if not enough:
            gaps = [f"{s.concept.letter}: {', '.join(s.missing)}" for s in weighing.standings if s.missing]
            lacking = f"Not scored yet: {'; '.join(gaps)}." if gaps else "Score two concepts to see an order."
            self._sure_words.setText(" ".join([lacking, *out]))
            return
        fair = [s for s in known if not s.knocked_out]
        first = (fair if len(fair) > 1 else known)[0].concept
        tail = " Their scores are compared all the same." if len(fair) < 2 else ""
        self._sure_words.setText(" ".join([sureness_words(weighing, first), *out]) + (tail if out else ""))
        if weighing.overturns:
            nearest = [o for o in weighing.overturns if o.criterion.id == weighing.overturns[0].criterion.id]
            self.sureness.show_layout(lambda w, h: sureness_picture(project, first, nearest, kit, w))

    # the panel

    def _show_panel(self) -> None:
        self.panel.clear()
        picked, project = self.store.picked(ConceptsPick), self.store.project
        criterion = next((c for c in project.decision.criteria if c.id == picked.criterion), None)
        question = next(
            ((c, q) for c in project.concepts for q in c.questions if QuestionMark(c.id, q.id) == picked.question), None
        )
        if criterion is not None:
            criterion_panel(self.panel.column, self.store, self.theme, criterion)
        elif question is not None:
            question_panel(self.panel.column, self.store, self.theme, *question, self.desk.today)
        else:
            self._concept_panel(self.chosen)
        self.panel.column.addStretch(1)

    def _concept_panel(self, concept: Concept) -> None:
        column = self.panel.column
        column.addWidget(label(said(concept), "title", wrap=True))
        column.addWidget(label(self._history(concept), "mute", wrap=True))
        if concept.retired is not None:
            column.addWidget(label(f"“{concept.retired.why}”", wrap=True))
            column.addWidget(button("Bring it back", partial(self.store.attempt, edits.revive_concept, concept.id),
                                    kind="main"))  # fmt: skip
        else:
            self._living_buttons(concept)
        measures = self.store.concept_assessments[concept.id].measures
        column.addWidget(label("How it stands", "heading"))
        column.addWidget(label(f"{verdict_words(measures)}.", "mute", wrap=True))
        if concept.id == self.store.project.concept.id:
            urgent = [f for f in self.store.assessment.findings if f.verdict in {Verdict.BREAKS, Verdict.TIGHT}]
            self.finding_cards(urgent[:2])
        self._common_panel()

    def _history(self, concept: Concept) -> str:
        origin = next((c for c in self.store.project.concepts if c.id == concept.copied_from), None)
        told = []
        if origin is not None:
            told.append(f"copied from {origin.letter}" + (f" on {concept.copied_on}" if concept.copied_on else ""))
        if concept.id == self.store.project.concept.id:
            told.append("at work: the strip and every view show it")
        if concept.retired is not None:
            told.append(f"retired {concept.retired.when}".rstrip())
        return " · ".join(told) or "one of the concepts under this brief"

    def _living_buttons(self, concept: Concept) -> None:
        column = self.panel.column
        if concept.id != self.store.project.concept.id:
            change = edits.switch_concept(self.store.project, concept.id)
            column.addWidget(ChangeButton(f"Work on {concept.letter}", change, self.store, "main"))
        row = QWidget()
        buttons = QHBoxLayout(row)
        buttons.setContentsMargins(0, 0, 0, 0)
        buttons.addWidget(button("New …", self._new, tip="From nothing but the lanes and modes"))
        buttons.addWidget(button("Copy …", partial(self.copy, concept.id)))
        buttons.addWidget(button("Retire …", partial(self._retire, concept)))
        column.addWidget(row)
        column.addWidget(button("Rename …", partial(self._rename, concept), kind="link"))

    def _common_panel(self) -> None:
        project = self.store.project
        if len(project.living) < 2:
            return
        common = common_parts(project)
        column = self.panel.column
        column.addWidget(label("Instead of deciding today", "heading"))
        letters = " and ".join(c.letter for c in project.living)
        unpriced = f" No price yet: {', '.join(common.unpriced)}." if common.unpriced else ""
        text = (
            f"{letters} may both live until the tests are run. Parts that every one of them uses are ordered safely:"
            f" {len(common.parts)} of the {common.of} still to buy in {project.concept.letter},"
            f" {show(common.cost, project.brief.currency)}.{unpriced}"
        )
        column.addWidget(label(text, "mute", wrap=True))
        if common.parts:
            column.addWidget(button("Write the order list …", self._write_order))

    # what buttons do

    def _new(self) -> None:
        name, ok = ask.word(self, "New concept", "What is it called? It starts without parts.")
        if ok and self.store.attempt(edits.new_concept, name):
            self._choose(self.store.project.concept.id)

    def copy(self, concept_id: str) -> None:
        """Copy a concept under a name the team gives."""
        concept = next(c for c in self.store.project.concepts if c.id == concept_id)
        name, ok = ask.word(self, f"Copy {said(concept)}", "What is the copy called?")
        if ok and self.store.attempt(edits.copy_concept, concept_id, name, self.desk.today()):
            self._choose(self.store.project.concept.id)

    def _rename(self, concept: Concept) -> None:
        name, ok = ask.word(self, said(concept), "What is it called?", text=concept.name)
        if ok:
            self.store.attempt(edits.rename_concept, concept.id, name)

    def _retire(self, concept: Concept) -> None:
        why, ok = ask.word(self, f"Retire {said(concept)}", "Why? Whoever reads this next year will ask.")
        if ok:
            self.store.attempt(edits.retire_concept, concept.id, why, self.desk.today())

    def _add_question(self) -> None:
        text, ok = ask.word(self, "To be decided by test", f"What does {self.store.project.concept.letter}"
                                        " leave open? Such as: Do wet wheels slip on the bank?")  # fmt: skip
        if ok and self.store.attempt(edits.add_question, text):
            concept = self.store.project.concept
            self._choose_question(QuestionMark(concept.id, concept.questions[-1].id))

    def _add_criterion(self, must_have: bool = False) -> None:
        hint = "What must be so, or the concept is out?" if must_have else "What counts that no formula knows?"
        name, ok = ask.word(self, "Must-have" if must_have else "Criterion", hint)
        if ok and self.store.attempt(decision_edits.add_criterion, name, must_have=must_have):
            self._choose_criterion(self.store.project.decision.criteria[-1].id)

    def _write_order(self) -> None:
        from wired_union.catalogue.sheet_files import write_sheet
        from wired_union.project.documents import DocumentError

        text, _ = QFileDialog.getSaveFileName(self, "Write the order list", str(Path.home() / "order.xlsx"),
                                              "XLSX (*.xlsx);;CSV (*.csv)")  # fmt: skip
        if not text:
            return
        try:
            write_sheet([Stock(part=i.part, have=n) for i, n in common_parts(self.store.project).parts], Path(text))
        except DocumentError as error:
            QMessageBox.warning(self, "Order list", str(error))
