"""What bends: the drawing of every beam, and the fields of one."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QFrame, QVBoxLayout

from wired_union import units
from wired_union.project.meanings import meanings
from wired_union.project.model import Beam
from wired_union.project.value import choices
from wired_union.subjects.mass.beam_edits import add_beam, hang, remove_beam, set_beam
from wired_union.subjects.mass.beams import BEAMS
from wired_union.subjects.mass.pick import MassPick
from wired_union.subjects.mass.picture_beams import beams_picture
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

ROUND, UNUSED = {"rod", "round tube"}, {"rod": {"height_m", "wall_m"}, "round tube": {"height_m"}, "bar": {"wall_m"}}
WORDS = {"length_m": "free length", "load_kg": "and besides", "shock": "on a bump", "most_sag_m": "may sag",
         "support": "held as", "item": "it is"}  # fmt: skip


class BeamsCard(QFrame):
    """Every beam, bent; one is selected to say what it is."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("card")
        self._store, self._theme = store, theme
        self.canvas = Canvas(theme, name="What bends")
        self.canvas.chosen.connect(lambda beam: store.pick(MassPick(beam=str(beam))))
        box = QVBoxLayout(self)
        box.setContentsMargins(theme.px(14), theme.px(10), theme.px(14), theme.px(10))
        box.setSpacing(theme.px(6))
        hint = "Sag is drawn larger than it is, the same in every row. Strengths are typical of a grade."
        for widget in (label("What bends", "heading"), label(hint, "mute", wrap=True), self.canvas,
                       button("+ something that bends", self._ask, kind="link")):  # fmt: skip
            box.addWidget(widget)

    def show_beams(self) -> None:
        """Draw what the store holds."""
        found, chosen = self._store.assessment.of(BEAMS), self._store.picked(MassPick).beam
        self.canvas.show_layout(lambda w, h: beams_picture(found, self._theme.kit, w, chosen))

    def _ask(self) -> None:
        name, ok = ask.word(self, "Something that bends", "What is it? An axle, an arm, a mast, a bracket.")
        if ok:
            self._store.attempt(add_beam, name)
            beams = self._store.project.concept.beams
            if beams and beams[-1].name == name.strip():
                self._store.pick(MassPick(beam=beams[-1].id))


class BeamForm(Form):
    """Every figure of a beam, from its own declaration, and what hangs on it."""

    def __init__(self, store: Store, theme: Theme, beam: Beam) -> None:
        super().__init__(theme)
        self._store, self._beam = store, beam
        self.fields: dict[str, EntryField] = {}
        for name, meaning in meanings(Beam).items():
            if name in {"id", "name", "carries"} or name in UNUSED.get(beam.profile, set()):
                continue
            text = WORDS.get(name, units.plain_words(name))
            if name == "width_m" and beam.profile in ROUND:
                text = "diameter"
            if name == "item":
                self.add(text, self._item_choice(), meaning)
            elif words := choices(Beam, name):
                self.add(text, self._choice(name, text, words), meaning)
            else:
                self.add(text, self._field(name, text), meaning)
        self.add("carries", self._carried_choice(), "parts that hang on it")
        away = f"take {beam.name} away"
        self.add("", button(away, partial(store.attempt, remove_beam, beam.id), kind="link"))

    def _field(self, name: str, text: str) -> EntryField:
        field = EntryField(number_reader(units.unit_of(name), empty=name == "most_sag_m"), f"{self._beam.name}: {text}")
        value = getattr(self._beam, name)
        shown = f"{value:g} times" if name == "shock" else units.show_named(name, value) if value is not None else ""
        field.show_text(shown, "not asked")
        field.committed.connect(partial(self._set, name))
        self.fields[name] = field
        return field

    def _set(self, name: str, value: Any) -> None:
        self._store.attempt_or(self.fields[name].complain, set_beam, self._beam.id, **{name: value})

    def _choice(self, name: str, text: str, words: tuple[str, ...]) -> Choice:
        choice = Choice([(w, w) for w in words], f"{self._beam.name}: {text}")
        choice.show_value(getattr(self._beam, name))
        choice.picked.connect(lambda v: self._store.attempt(set_beam, self._beam.id, **{name: v}))
        return choice

    def _item_choice(self) -> Choice:
        items = self._store.project.concept.items
        choice = Choice([("", "no part of the list"), *((i.id, i.name) for i in items)], f"{self._beam.name}: it is")
        choice.show_value(self._beam.item)
        choice.picked.connect(lambda v: self._store.attempt(set_beam, self._beam.id, item=v))
        return choice

    def _carried_choice(self) -> Choice:
        """The parts that hang on it, each hung up or taken off by picking it."""
        on = {c.item for c in self._beam.carries}
        items = [i for i in self._store.project.concept.items if i.id != self._beam.item]
        said = ", ".join(i.name for i in items if i.id in on) or "nothing of the list"
        options = [("", said), *((i.id, f"{'not ' if i.id in on else ''}{i.name}") for i in items)]
        choice = Choice(options, f"{self._beam.name}: carries")
        choice.show_value("")
        choice.picked.connect(lambda v: v and self._store.attempt(hang, self._beam.id, v, on=v not in on))
        return choice
