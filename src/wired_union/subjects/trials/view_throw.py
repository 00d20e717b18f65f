"""Throws on the Trials screen: a card for each, and its figures in the panel."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.subjects.trials import throw_edits as edits
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.picture_throw import throw_picture, throw_words
from wired_union.subjects.trials.throws import CHARGES, THROWS, Thrown
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, button, empty, label
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, card, row

WORDS = {
    "speed_m_s": "speed", "speed_spread_m_s": "which varies by", "angle_deg": "angle", "angle_spread_deg": "that by",
    "height_m": "from a height of", "drag_coefficient": "drag of the air", "mass_kg": "mass", "diameter_m": "diameter",
    "band_low_m": "lands from", "band_high_m": "lands to", "wall_m": "a wall at", "wall_height_m": "wall height",
}  # fmt: skip
EMPTIES = dict.fromkeys(WORDS, "not known") | {"band_low_m": "no nearest", "band_high_m": "no farthest",
                                                   "wall_m": "no wall"}  # fmt: skip


class ThrowCards:
    """One card for all throws, and the panel of the one that is selected."""

    def __init__(self, view: View) -> None:
        self.view, self.store, self.theme = view, view.store, view.theme
        self.fields: dict[str, Any] = {}
        self._shown: tuple[object, object] | None = None
        self._holder = QWidget()
        self._box = QVBoxLayout(self._holder)
        self._box.setContentsMargins(0, 0, 0, 0)
        add = button("+ a throw", self.add, kind="link", tip="Where it lands, how often, with which angle or charge")
        self.card = card(self.theme, label("Throw and flight", "heading"), self._holder, row(add))

    @property
    def current(self) -> Thrown | None:
        picked = self.store.picked(TrialPick).throw
        return next((t for t in self.store.assessment.of(THROWS) if t.throw.id == picked), None)

    def refresh(self) -> None:
        """Every throw as it stands."""
        throws, charges = self.store.assessment.of(THROWS), self.store.assessment.of(CHARGES)
        if (throws, charges) == self._shown:  # the very same while nothing of it is another
            return
        self._shown = throws, charges
        empty(self._box)
        kit = self.theme.kit
        for t in throws:
            head = button(t.throw.name, partial(self.store.pick, TrialPick(throw=t.throw.id)), kind="link")
            canvas = Canvas(self.theme, name=f"Flight of {t.throw.name}")
            canvas.show_layout(lambda w, h, t=t: throw_picture(t, kit, w))  # type: ignore[misc]
            for widget in (row(head), canvas, label(throw_words(t, *charges[t.throw.id]), "mute", wrap=True)):
                self._box.addWidget(widget)

    def panel(self, t: Thrown) -> None:
        """Findings and figures."""
        column, throw = self.view.panel.column, t.throw
        column.addWidget(label(throw.name, "title", wrap=True))
        found = [f for f in self.store.assessment.findings if f.subject == "trials" and f.of == throw.id
                 and f.measure == f"throw:{throw.id}"]  # fmt: skip
        self.view.finding_cards(found)
        form = ValueForm(self.theme, self.store, throw, throw.name, partial(self._set, throw.id), words=WORDS,
                         skip={"trial", "beyond"}, empties=EMPTIES)  # fmt: skip
        trials = [(r.trial.id, r.trial.name) for r in self.store.assessment.of(TRIALS)]
        choice = Choice([("", "none"), *trials], f"{throw.name}: charge by")
        choice.show_value(throw.trial)
        choice.picked.connect(lambda v: self._set(throw.id, lambda _: None, "trial", v))
        form.add("charge by", choice, "Runs with the charge as their setting and the distance as their value")
        column.addWidget(form)
        self.fields = {**form.fields, "trial": choice}
        away = partial(self.store.attempt, edits.remove_throw, value_id=throw.id)
        column.addWidget(button(f"take {throw.name} away", away, kind="link"))

    def add(self) -> None:
        """Ask what it is called, and add it."""
        name, meant = ask.word(self.view, "A throw", "What flies? “Ball into the goal”, “Line to the boat”")
        if meant and self.store.attempt(edits.add_throw, name=name):
            self.store.pick(TrialPick(throw=self.store.project.concept.throws[-1].id))

    def _set(self, throw_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_throw, throw_id, **{field: new})
