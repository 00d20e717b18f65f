"""Panels of the Concepts view: one criterion with its scores, one question that a test decides."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QVBoxLayout

from wired_union import units
from wired_union.project import concept_edits as edits
from wired_union.project.concept_edits import said
from wired_union.project.model import Concept, Criterion, Question
from wired_union.subjects.concepts import decision_edits
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


def criterion_panel(column: QVBoxLayout, store: Store, theme: Theme, criterion: Criterion) -> None:
    """Fields for a criterion: its name and weight, and each living concept's score with who gave it and why."""
    column.addWidget(label(criterion.name, "title", wrap=True))
    hint = "A must-have knocks a concept out; it is not scored." if criterion.must_have else "Scores are from 0 to 10."
    column.addWidget(label(hint, "mute", wrap=True))
    form = Form(theme)
    name = EntryField(str.strip, "Name of the criterion")
    name.show_text(criterion.name)
    name.committed.connect(
        lambda v: store.attempt_or(name.complain, decision_edits.set_criterion, criterion.id, name=v)
    )
    form.add("Called", name)
    if not criterion.must_have:
        weight = EntryField(number_reader(""), "Weight")
        weight.show_text(units.show(criterion.weight))
        weight.committed.connect(
            lambda v: store.attempt_or(weight.complain, decision_edits.set_criterion, criterion.id, weight=v)
        )
        form.add("Weight", weight, "Against the other weights; only their proportions count")
    column.addWidget(form)
    for concept in store.project.living:
        column.addWidget(label(said(concept), "heading"))
        column.addWidget(_score_form(store, theme, criterion, concept))
    column.addWidget(
        button("Drop this criterion", partial(store.attempt, decision_edits.remove_criterion, criterion.id))
    )


def _score_form(store: Store, theme: Theme, criterion: Criterion, concept: Concept) -> Form:
    form = Form(theme)
    score = criterion.score(concept.id)
    if criterion.must_have:
        choice = Choice([("", "not said"), ("10", "yes"), ("0", "no")], f"{criterion.name}, {concept.letter}")
        choice.show_value("" if score is None else "10" if score.value >= 5 else "0")
        choice.picked.connect(
            lambda v: store.attempt(decision_edits.set_score, criterion.id, concept.id, float(v) if v else None)
        )
        form.add("Holds", choice)
    else:
        field = EntryField(number_reader("", empty=True), f"Score of {concept.letter}")
        field.show_text("" if score is None else units.show(score.value), "not scored")
        field.committed.connect(
            lambda v: store.attempt_or(field.complain, decision_edits.set_score, criterion.id, concept.id, v)
        )
        form.add("Score", field, "0 to 10; leave empty to take it away")
    if score is not None:
        for name, text in (("by", "Given by"), ("why", "Why")):
            line = EntryField(str.strip, f"{text}, {concept.letter}")
            line.show_text(getattr(score, name))
            line.committed.connect(
                lambda v, n=name: store.attempt(
                    decision_edits.set_score, criterion.id, concept.id, score.value, **{n: v}
                )
            )
            form.add(text, line)
    return form


def question_panel(
    column: QVBoxLayout, store: Store, theme: Theme, concept: Concept, question: Question, today: Callable[[], str]
) -> None:  # fmt: skip
    """Fields for a question: the test that decides, when, what counts as better, its risk, and its answer."""
    column.addWidget(label(question.question, "title", wrap=True))
    column.addWidget(label(f"left to a test by {said(concept)}", "mute", wrap=True))
    form = Form(theme)
    words = (("question", "Question"), ("test", "The test"), ("date", "Date"), ("better", "Better is"))
    for name, text in words:
        field = EntryField(str.strip, text)
        field.show_text(getattr(question, name), "2026-11-28" if name == "date" else "")
        field.committed.connect(partial(_set, store, concept, question, field, name))
        form.add(text, field)
    for name, text, tip in (("chance_of_no", "Chance of a bad answer", "From 0 to 100 %"),
                            ("days_lost", "Days it would cost", "Days lost when the answer is bad")):  # fmt: skip
        value = getattr(question, name)
        field = EntryField(number_reader("", empty=True), text)
        share = name == "chance_of_no"
        field.show_text("" if value is None else units.show(value, fraction=share), "not judged")
        field.committed.connect(partial(_set, store, concept, question, field, name))
        form.add(text, field, tip)
    answer = EntryField(str.strip, "What the test showed")
    answer.show_text(question.answer, "still open")
    answer.committed.connect(
        lambda text: store.attempt_or(answer.complain, edits.answer_question, concept.id, question.id, text, today())
    )
    form.add("What it showed", answer, "With an answer the question is closed; it stays, with its day")
    for name, text, hint in (("figures", "Figures", "9 of 10, 3.4 N"), ("answered_on", "Answered on", "2026-11-28")):
        field = EntryField(str.strip, text)
        field.show_text(getattr(question, name), hint)
        field.committed.connect(partial(_set, store, concept, question, field, name))
        form.add(text, field)
    column.addWidget(form)
    column.addWidget(button("Drop this question", partial(store.attempt, edits.remove_question, concept.id,
                                                          question.id)))  # fmt: skip


def _set(store: Store, concept: Concept, question: Question, field: EntryField, name: str, value: object) -> None:
    store.attempt_or(field.complain, edits.set_question, concept.id, question.id, **{name: value})
