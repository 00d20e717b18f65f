"""What to put on a scale first, what was weighed when, and the fields of a weighing."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from wired_union.project import edits
from wired_union.project.model import Item
from wired_union.project.weighing_model import Weighing
from wired_union.subjects.mass.assess import MASS
from wired_union.ui.fields import EntryField, Form, button, empty, label, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show

FIRST, LAST = 5, 8
"""How many parts to weigh first, and how many weighings, are named."""


def weighed_words(weighing: Weighing) -> str:
    """ "840 g, 4 together, by the kitchen scale ±0.5 g" """
    together = f", {weighing.copies} together" if weighing.copies > 1 else ""
    by = f", by {weighing.scale}" if weighing.scale else ""
    step = f", to ±{show(weighing.step_kg / 2, 'kg')}" if weighing.step_kg else ""
    return f"{show(weighing.mass_kg, 'kg')}{together}{by}{step}"


class WeighCard(QFrame):
    """Parts whose weighing narrows the total most, and the list of weighings, the latest first."""

    def __init__(self, store: Store, theme: Theme, choose: Callable[[str], object]) -> None:
        super().__init__()
        self.setObjectName("card")
        self._store, self._choose = store, choose
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(14), theme.px(10), theme.px(14), theme.px(10))
        row.setSpacing(theme.px(24))
        self._first, self._list = QVBoxLayout(), QGridLayout()
        self._first.setSpacing(0)
        self._list.setSpacing(theme.px(4))
        for title, inner in (("Weigh first", self._first), ("Weighed", self._list)):
            side = QVBoxLayout()
            side.setSpacing(theme.px(4))
            side.addWidget(label(title, "heading"))
            side.addLayout(inner)
            side.addStretch(1)
            row.addLayout(side, 1)

    def show_list(self) -> None:
        """Show what the store holds."""
        empty(self._first)
        empty(self._list)
        lines = self._store.assessment.of(MASS).to_weigh()
        for line in lines[:FIRST]:
            words = f"{line.item.name}: narrows the total by {show(line.allowance_kg, 'kg')}"
            self._first.addWidget(button(words, partial(self._choose, line.item.id), kind="link"))
        if not lines:
            self._first.addWidget(label("Every part that has a mass is measured.", "mute", wrap=True))
        elif len(lines) > FIRST:
            rest = sum(x.allowance_kg for x in lines[FIRST:])
            self._first.addWidget(label(f"{len(lines) - FIRST} others, together {show(rest, 'kg')}", "mute"))
        self._show_weighed()

    def _show_weighed(self) -> None:
        concept = self._store.project.concept
        names = {i.id: i.name for i in concept.items}
        latest = sorted(concept.weighings, key=lambda w: w.on, reverse=True)
        for n, weighing in enumerate(latest[:LAST]):
            what = f"{weighing.on or 'no day'} · {names[weighing.item]}"
            self._list.addWidget(label(what, "mute", wrap=True), n, 0)
            self._list.addWidget(label(weighed_words(weighing), "", wrap=True), n, 1)
            off = button("take off", partial(self._store.attempt, edits.drop_weighing, weighing.id), kind="link",
                         tip="Take it off the list; the mass stays")  # fmt: skip
            off.setAccessibleName(f"take {names[weighing.item]} off the list")
            self._list.addWidget(off, n, 2)
        if not latest:
            self._list.addWidget(label("Nothing yet: select a part and say what the scale shows.", "mute", wrap=True))


class WeighForm(QWidget):
    """What the scale shows of a part: how many lie on it, which scale, to what step; the mass commits them all."""

    def __init__(self, store: Store, theme: Theme, item: Item, today: Callable[[], str]) -> None:
        super().__init__()
        self._store, self._item, self._today = store, item, today
        last = store.project.concept.weighings[-1:]
        form = Form(theme)
        self.copies = EntryField(number_reader("", whole=True), "How many on the scale")
        self.copies.show_text("1")
        self.scale = EntryField(str.strip, "Which scale")
        self.scale.show_text(last[0].scale if last else "", "kitchen scale")
        self.step = EntryField(number_reader("kg", empty=True), "The least it tells apart")
        self.step.show_text(show(last[0].step_kg, "kg") if last and last[0].step_kg else "", "1 g")
        self.mass = EntryField(number_reader("kg"), "Mass on the scale")
        self.mass.show_text("", show(item.part.mass_kg, "kg"))
        self.mass.committed.connect(self._weighed)
        if item.count > 1:
            form.add("Copies on the scale", self.copies, "More at once are more exact")
        form.add("Which scale", self.scale, "Kept with the weighing")
        form.add("It tells apart", self.step, "The least step that the scale shows")
        form.add("It shows", self.mass, "A weighed part needs no allowance")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(form)

    def _weighed(self, mass_kg: float) -> None:
        try:
            copies = number_reader("", whole=True)(self.copies.line.text())
            step = number_reader("kg", empty=True)(self.step.line.text())
        except ValueError as error:
            self.mass.complain(str(error))
            return
        self._store.attempt_or(
            self.mass.complain, edits.weigh, self._item.id, mass_kg, int(copies or 1), self._today(),
            self.scale.line.text(), step,
        )  # fmt: skip
