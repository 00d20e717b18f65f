"""Strength and heat: everything that must bear, a row each, with its checks."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMenu, QVBoxLayout

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape
from wired_union.project.strength_model import AnyTest, PlateTest, TolerancesTest
from wired_union.subjects.strength import edits
from wired_union.subjects.strength.assess import STRENGTH
from wired_union.subjects.strength.kinds import KINDS
from wired_union.subjects.strength.pick import StrengthPick
from wired_union.subjects.strength.results import TestResult
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, empty, label, number_reader
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import Desk, View, card
from wired_union.units import show

ROW, NAMED, SAID = 30.0, 190.0, 250.0
WORDS = {
    "item": "it is of", "thick_m": "thick", "most_sag_m": "may sag", "factor": "should bear, times",
    "shock": "on a bump",
    "load_kg": "and besides", "circle_m": "on a circle of", "force_n": "force across", "arm_m": "beside the middle",
    "pull_n": "pull along", "drop_m": "falls", "strength_n": "breaks at", "gap_m": "gap left", "by": "counted by",
    "against": "fixed to", "made_c": "put together at", "across_m": "turns over", "most_m": "may shift",
    "most_deg": "may turn it", "stiffness_n_per_m": "feet or foam", "room_m": "can give",
    "most_g": "bears, times its weight",
    "each_kg": "each lifts at most",
}  # fmt: skip
EMPTIES = {"most_sag_m": "not asked", "most_m": "not asked", "most_deg": "not asked", "room_m": "not asked"}


class StrengthView(View):
    stage, title = "strength", "Strength"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.subtitle.setText("what must bear, fit together, stay aligned or be dropped")
        self.rows = Canvas(self.theme, name="What must bear")
        self.rows.chosen.connect(lambda of: self.store.pick(StrengthPick(str(of))))
        hint = "Each bar is the share that is used of what there is; the mark is all of it."
        self.column.addWidget(
            card(self.theme, label("What must bear", "heading"), label(hint, "mute", wrap=True), self.rows,
                 button("+ something to look at", self._offer_kinds, kind="link"))
        )  # fmt: skip
        self._figures = QVBoxLayout()
        self._figures.setSpacing(self.theme.px(4))
        self._title = label("", "heading")
        holder = card(self.theme, self._title)
        layout = holder.layout()
        assert isinstance(layout, QVBoxLayout)
        layout.addLayout(self._figures)
        self._card = holder
        self.column.addWidget(holder)
        self.column.addStretch(1)

    def refresh(self) -> None:
        found, chosen = self.store.assessment.of(STRENGTH), self.store.picked(StrengthPick).test
        self.rows.show_layout(lambda w, h: rows_picture(found, self.theme.kit, w, chosen))
        result = next((r for r in found if r.test.id == chosen), None)
        self._card.setVisible(result is not None)
        if result is not None:
            self._show_figures(result)
        self._show_panel(result)

    def _show_figures(self, result: TestResult) -> None:
        empty(self._figures)
        self._title.setText(f"{result.test.name}: {KINDS[result.test.kind].words}")
        form = Form(self.theme)
        for check in result.checks:
            form.add(check.name, label(f"{check.said} · {check.verdict.value}", wrap=True))
        for row in result.rows:
            form.add(row.name, label(row.text, "figures"))
        self._figures.addWidget(form)
        if result.missing:
            self._figures.addWidget(label(f"Not known yet: {'; '.join(result.missing)}.", "mute", wrap=True))
        if result.caution:
            self._figures.addWidget(label(result.caution, "mute", wrap=True))

    def _show_panel(self, result: TestResult | None) -> None:
        self.panel.clear()
        column = self.panel.column
        about = [f for f in self.store.assessment.findings if f.subject == "strength"]
        if result is None:
            column.addWidget(label("Strength and heat", "title"))
            hint = "Select a row to say what it is, or add a plate, bolts, a tether, sizes in a row, a drop."
            column.addWidget(label(hint, "mute", wrap=True))
            self.finding_cards(about[:6])
            column.addStretch(1)
            return
        test = result.test
        column.addWidget(label(test.name, "title", wrap=True))
        self.finding_cards([f for f in about if f.of == test.id][:4])
        form = ValueForm(self.theme, self.store, test, test.name, partial(self._set, test), words=WORDS,
                         skip={"carries", "sizes"}, empties=EMPTIES)  # fmt: skip
        column.addWidget(form)
        if isinstance(test, PlateTest):
            self._lying(test)
        if isinstance(test, TolerancesTest):
            self._sizes(test)
        away = partial(self.store.attempt, edits.remove_test, value_id=test.id)
        column.addWidget(button(f"take {test.name} away", away, kind="link"))
        column.addStretch(1)

    def _set(self, test: AnyTest, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_test, value_id=test.id, **{field: new})

    def _lying(self, test: PlateTest) -> None:
        """The parts on a plate, each laid on it or taken off by picking it."""
        on = {c.item for c in test.carries}
        items = [i for i in self.store.project.concept.items if i.id != test.item]
        said = ", ".join(i.name for i in items if i.id in on) or "nothing of the list"
        options = [("", said), *((i.id, f"{'not ' if i.id in on else ''}{i.name}") for i in items)]
        choice = Choice(options, f"{test.name}: lies on it")
        choice.show_value("")
        choice.picked.connect(lambda v: v and self.store.attempt(edits.lay_on, test.id, v, on=v not in on))
        form = Form(self.theme)
        form.add("lies on it", choice, "spread evenly")
        self.panel.column.addWidget(form)

    def _sizes(self, test: TolerancesTest) -> None:
        """What adds up: each size with how far it may be off; one more."""
        form = Form(self.theme)
        for size in test.sizes:
            field = EntryField(number_reader("m", empty=True), f"{test.name}: {size.name} off by")
            field.show_text(show(size.off_m, "m"))
            field.committed.connect(
                lambda v, n=size.name, f=field: self.store.attempt_or(f.complain, edits.set_deviation, test.id, n, v)
            )
            form.add(f"{size.name}, ±", field, "empty takes it out")
        self.panel.column.addWidget(form)
        self.panel.column.addWidget(button("+ a size", partial(self._add_size, test.id), kind="link"))

    def _add_size(self, test_id: str) -> None:
        name, meant = ask.word(self, "A size in the row", "What is it? “Lid, printed”: ±0.2 mm is usual of a print")
        if meant:
            self.store.attempt(edits.set_deviation, test_id, name, 0.0002)

    def _offer_kinds(self) -> None:
        menu = QMenu(self)
        for kind, what in KINDS.items():
            menu.addAction(what.words, partial(self.add, kind))
        menu.popup(self.cursor().pos())

    def add(self, kind: str) -> None:
        """Ask for a name, and look at one of that kind."""
        name, meant = ask.word(self, f"A {KINDS[kind].words}", "What is it called?")
        if meant and self.store.attempt(edits.add_test, kind, name):
            self.store.pick(StrengthPick(self.store.project.concept.borne[-1].id))


def rows_picture(found: tuple[TestResult, ...], kit: Kit, width: float, chosen: str) -> Picture:
    """A row for each check: whose, its bar against the mark, its figures."""
    if not found:
        words = "Name a plate, bolts, a tether, sizes in a row, a drop, and see whether it bears."
        return Picture(width, kit.px(24), (kit.words(0, kit.px(10), words, "small", "mute"),))
    inks = {Verdict.HOLDS: "holds", Verdict.TIGHT: "tight", Verdict.BREAKS: "breaks", Verdict.UNKNOWN: "unknown"}
    row, left = kit.px(ROW), kit.px(NAMED)
    whole = max(width - left - kit.px(SAID), kit.px(60)) / 1.2
    shapes: list[Shape] = []
    regions: list[Region] = []
    y = 0.0
    for r in found:
        for n, check in enumerate(r.checks or (None,)):
            middle = y + row / 2
            if n == 0:
                name = kit.cut(r.test.name, left - kit.px(8), "base", bold=r.test.id == chosen)
                shapes.append(kit.words(0, middle, name, "base", bold=r.test.id == chosen))
            said = "not known yet"
            if check is not None:
                verdict = Verdict.UNKNOWN if r.missing and check.verdict is not Verdict.BREAKS else check.verdict
                said = f"{check.name}: {check.said}"
                shapes.append(Box(left, middle - 3, max(whole * min(check.use, 1.2), 1.5), 6, inks[verdict]))
                shapes.append(Line(left + whole, middle - kit.px(9), left + whole, middle + kit.px(9), "ink", 2.0))
            text = kit.cut(said, kit.px(SAID - 8), "small")
            shapes.append(kit.words(left + whole * 1.2 + kit.px(12), middle, text, "small"))
            regions.append(Region(f"{r.test.id}/{n}", 0, y, width, row, f"{r.test.name}, {said}", of=r.test.id))
            y += row
    return Picture(width, y, tuple(shapes), tuple(regions))
