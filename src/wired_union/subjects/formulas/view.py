"""Formulas: knobs with sliders, formulas with their numbers, and what a formula may name."""

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout

from wired_union import units
from wired_union.kernel.results import Measure
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Selection, limit_on
from wired_union.picture.shapes import Box, Kit, Picture, Shape
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.project.model import Formula, Knob
from wired_union.subjects.brief.gives import add_limit
from wired_union.subjects.formulas import edits
from wired_union.subjects.formulas.assess import Answer, Answers
from wired_union.subjects.formulas.pick import FormulaPick
from wired_union.ui import ask
from wired_union.ui.canvas import PictureButton
from wired_union.ui.fields import EntryField, Form, button, empty, label
from wired_union.ui.slider import FigureSlider
from wired_union.ui.view import Desk, View, card

ROW_H = 62.0


def formula_row(answer: Answer, measure: Measure, kit: Kit, width: float, *, selected: bool) -> Picture:
    """A formula on two lines: its name and what it gives; its expression and its numbers."""
    left, right = kit.px(12), width - kit.px(12)
    shown = "not worked out" if answer.wrong else measure.shown
    ink = "unknown_text" if answer.wrong or measure.missing else f"{measure.verdict.value}_text"
    if measure.limit is None and not answer.wrong and not measure.missing:
        ink = "ink"
    room = right - left
    said = answer.wrong or f"= {answer.numbers}"
    shapes: list[Shape] = [
        *([Box(1, 1, width - 2, kit.px(ROW_H) - 2, "soft", radius=4)] if selected else []),
        kit.words(left, kit.px(14), kit.cut(answer.formula.name, room * 0.6, "base", bold=True), "base", bold=True),
        kit.figures(right, kit.px(14), shown, "base", ink, bold=True, anchor="end"),
        kit.figures(left, kit.px(32), kit.cut(answer.formula.text, room, "small", "figures"), "small"),
        kit.figures(left, kit.px(48), kit.cut(said, room, "small", "figures"), "small", "mute"),
    ]
    return Picture(width, kit.px(ROW_H), tuple(shapes))


class FormulasView(View):
    stage, title = "formulas", "Formulas"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.subtitle.setText("what the team works out itself")
        self._knobs, self._rows = QVBoxLayout(), QVBoxLayout()
        self.add_knob = button("+ a knob", self._add_knob, kind="link")
        self.add_formula = button("+ a formula", self._add_formula, kind="link")
        for heading, inside, add in (("Knobs", self._knobs, self.add_knob), ("Formulas", self._rows, self.add_formula)):
            made = card(self.theme, label(heading, "heading"))
            column = made.layout()
            assert isinstance(column, QVBoxLayout)
            column.addLayout(inside)
            column.addWidget(add)
            self.column.addWidget(made)
        self.column.addStretch(1)
        self.sliders: dict[str, FigureSlider] = {}
        self.entries: dict[str, EntryField] = {}
        self.rows: dict[str, PictureButton] = {}
        self.fields: dict[str, EntryField] = {}
        self._knobs_for: tuple[object, ...] = ()
        self._form_for = ""

    # what is shown

    @property
    def selected(self) -> Formula | None:
        """The formula in the panel: the one picked, else the first."""
        formulas = self.store.project.brief.formulas
        wanted = self.store.picked(FormulaPick).formula
        return next((f for f in formulas if f.id == wanted), formulas[0] if formulas else None)

    def refresh(self) -> None:
        self._show_knobs()
        self._show_rows()
        self._show_panel()

    def previewed(self) -> None:
        self._show_rows()

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._show_rows()

    def _show_knobs(self) -> None:
        knobs = self.store.project.concept.knobs
        shape = tuple((k.id, k.name, k.unit) for k in knobs)
        if shape != self._knobs_for:
            self._knobs_for = shape
            empty(self._knobs)
            self.sliders, self.entries = {}, {}
            for knob in knobs:
                self._knobs.addWidget(self._slider(knob))
            if not knobs:
                text = "A knob is a number of our own, such as “arm length = 350 mm”; formulas use it by its name."
                self._knobs.addWidget(label(text, "mute", wrap=True))
        for knob in knobs:
            self.sliders[knob.id].set_ends(knob.least, knob.most)
            self.sliders[knob.id].show_value(knob.value)
            self.entries[knob.id].show_text(units.show(knob.value, knob.unit))

    def _slider(self, knob: Knob) -> FigureSlider:
        slider = FigureSlider(self.theme, knob.name, knob.unit, knob.most, knob.least)
        slider.moved.connect(partial(self._knob_moved, knob.id))
        slider.let_go.connect(partial(self._knob_let_go, knob.id))
        entry = EntryField(partial(edits.read_amount, unit=knob.unit), f"{knob.name}, typed")
        entry.setFixedWidth(self.theme.px(110))
        entry.committed.connect(partial(self._type_knob, knob.id))
        gone = button("×", partial(self.store.attempt, edits.remove_knob, knob.id), kind="link")
        gone.setAccessibleName(f"Take {knob.name} away")
        gone.setToolTip(f"Take {knob.name} away")
        slider.figure.hide()  # the entry says it
        for widget in (entry, gone):
            slider.row.addWidget(widget)
        self.sliders[knob.id], self.entries[knob.id] = slider, entry
        return slider

    def _knob_moved(self, knob_id: str, value: float) -> None:
        """Show on the strip where letting go here would lead."""
        change = self._knob_change(knob_id, value)
        unit = next(k.unit for k in self.store.project.concept.knobs if k.id == knob_id)
        self.entries[knob_id].show_text(units.show(_rounded(value), unit))
        self.store.show_preview(ripple(self.store.assessment, change) if change is not None else None)

    def _knob_let_go(self, knob_id: str, value: float) -> None:
        change = self._knob_change(knob_id, value)
        if change is not None:
            self.store.apply(change)

    def _knob_change(self, knob_id: str, value: float) -> Change | None:
        try:
            return edits.set_knob(self.store.project, knob_id, value=_rounded(value))
        except ProjectError:
            return None

    def _type_knob(self, knob_id: str, value: float) -> None:
        """A typed number; the slider reaches to it."""
        knob = next(k for k in self.store.project.concept.knobs if k.id == knob_id)
        least, most = min(knob.least, value), max(knob.most, value)
        self.store.attempt_or(
            self.entries[knob_id].complain, edits.set_knob, knob_id, value=value, least=least, most=most
        )

    def _answers(self) -> tuple[Answer, ...]:
        preview = self.store.preview
        return Answers(preview.after if preview is not None else self.store.assessment).all()

    def _show_rows(self) -> None:
        answers = self._answers()
        if list(self.rows) != [a.formula.id for a in answers]:
            empty(self._rows)
            self.rows = {}
            for answer in answers:
                made = PictureButton(self.theme)
                made.clicked.connect(partial(self._choose, answer.formula.id))
                self.rows[answer.formula.id] = made
                self._rows.addWidget(made)
            if not answers:
                text = "A formula works something out, such as “pieces = floor((arm - spring) / piece)”."
                self._rows.addWidget(label(text, "mute", wrap=True))
        viewport, here = self.viewport(), self.selected
        width = (viewport.width() if viewport is not None else 700) - self.theme.px(64)
        shown = self.store.preview.after if self.store.preview is not None else self.store.assessment
        for answer in answers:
            measure = shown.measure(f"formula:{answer.formula.id}")
            chosen = here is not None and here.id == answer.formula.id
            picture = formula_row(answer, measure, self.theme.kit, width, selected=chosen)
            said = f"{answer.formula.name}: {answer.wrong or measure.shown}, {answer.formula.text}"
            self.rows[answer.formula.id].show_picture(picture, said)

    def _choose(self, formula_id: str) -> None:
        self.store.pick(FormulaPick(formula=formula_id))

    # what hands do

    def _add_knob(self) -> None:
        text, meant = ask.word(self, "A knob", "A name and a number, such as “arm length = 350 mm”")
        if meant:
            self.store.attempt(edits.add_knob, text)

    def _add_formula(self) -> None:
        text, meant = ask.word(self, "A formula", "A name and an expression: “pieces = floor((arm - spring) / piece)”")
        if meant and self.store.attempt(edits.add_formula, text):
            self._choose(self.store.project.brief.formulas[-1].id)

    # the panel

    def _show_panel(self) -> None:
        formula = self.selected
        if formula is None:
            self._form_for = ""
            self.panel.clear()
            self.panel.column.addWidget(label("Formulas", "title"))
            text = "What a spreadsheet beside the program would hold: it follows every edit, with its units checked."
            self.panel.column.addWidget(label(text, "mute", wrap=True))
            self.panel.column.addStretch(1)
            return
        if self._form_for != formula.id:
            self._form_for = formula.id
            self._build_panel(formula)
        for name, text in (("name", formula.name), ("text", formula.text), ("unit", formula.unit)):
            self.fields[name].show_text(text, "what comes out" if name == "unit" else "")
        self._list_names()
        limited = self.store.project.brief.limit(f"formula:{formula.id}") is not None
        self._limit.setText("Go to its limit" if limited else "Put a limit on it")

    def _build_panel(self, formula: Formula) -> None:
        self.panel.clear()
        column, form = self.panel.column, Form(self.theme)
        column.addWidget(label("The formula", "title"))
        self.fields = {
            "name": EntryField(str.strip, "Name of the formula"), "text": EntryField(str.strip, "Expression"),
            "unit": EntryField(str.strip, "Unit it is shown in"),
        }  # fmt: skip
        for name, words, tip in (
            ("name", "Called", ""), ("text", "Expression", "Names, numbers with units, + − × ÷ ^, floor, min, sqrt …"),
            ("unit", "In", "mm, £, pieces …; empty for the unit that comes out"),
        ):  # fmt: skip
            form.add(words, self.fields[name], tip)
            self.fields[name].committed.connect(partial(self._set, formula.id, name))
        column.addWidget(form)
        self._limit = button("Put a limit on it", partial(self._put_limit, formula.id), kind="main")
        column.addWidget(self._limit)
        column.addWidget(button("Take it away", partial(self.store.attempt, edits.remove_formula, formula.id)))
        column.addWidget(label("What it may name", "heading"))
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search: mass, motor, runtime …")
        self.search.setAccessibleName("Search names")
        self.search.textChanged.connect(self._list_names)
        self.names = QListWidget()
        self.names.setAccessibleName("Names that a formula may use")
        self.names.setToolTip("Enter puts it into the expression")
        self.names.setMinimumHeight(self.theme.px(180))
        self.names.itemActivated.connect(self._insert)
        column.addWidget(self.search)
        column.addWidget(self.names, 1)

    def _list_names(self) -> None:
        words = self.search.text().lower().split()
        self.names.clear()
        for name, shown in Answers(self.store.assessment).names.all():
            if all(w in name.lower() for w in words):
                entry = QListWidgetItem(f"{name}    {shown}")
                entry.setData(Qt.ItemDataRole.UserRole, name)
                self.names.addItem(entry)

    def _insert(self, entry: QListWidgetItem) -> None:
        line = self.fields["text"].line
        line.insert(str(entry.data(Qt.ItemDataRole.UserRole)))
        line.setModified(True)
        line.setFocus()

    def _set(self, formula_id: str, name: str, value: str) -> None:
        self.store.attempt_or(self.fields[name].complain, edits.set_formula, formula_id, **{name: value})

    def _put_limit(self, formula_id: str) -> None:
        measure_id = f"formula:{formula_id}"
        if self.store.project.brief.limit(measure_id) is None:
            assessment = self.store.assessment
            limit = limit_on(assessment.measure(measure_id), assessment.kind_of(measure_id))
            if not self.store.attempt(add_limit, limit):
                return
        self.store.change(Selection, measure=measure_id)
        self.desk.go_to_stage("brief")


def _rounded(value: float) -> float:
    """Three figures: what a slider can be set to."""
    return float(f"{value:.3g}")
