"""A card for each hazard: its gates on a wire, in one state, some of them broken to see what is left."""

from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import GATES, STATES
from wired_union.subjects.interlocks.gates import GatesResult, fires_with
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.subjects.interlocks.picture_gates import gates_picture
from wired_union.subjects.interlocks.view_base import InterlocksBase
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Choice, button, empty, label
from wired_union.ui.view import card


class GatesCards(QWidget):
    """One below the other; those of hazards without gates say so in a line."""

    def __init__(self, view: InterlocksBase) -> None:
        super().__init__()
        self.view = view
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(view.theme.px(8))
        self.canvases: dict[str, Canvas] = {}
        self.choices: dict[str, Choice] = {}
        self._notes: dict[str, QLabel] = {}
        self.state = ""

    def show_all(self) -> None:
        """Draw what the store holds; cards are kept while the hazards are the same."""
        found = [r for r in self.view.store.assessment.of(GATES) if r.groups]
        states = self.view.store.project.concept.states
        if self.state not in {s.id for s in states}:
            self.state = states[0].id if states else ""
        if list(self.canvases) != [r.hazard.id for r in found]:
            self._rebuild(found)
        kit, picked, broken = self.view.theme.kit, self.view.picked, frozenset(self.view.broken)
        for r in found:
            self.canvases[r.hazard.id].show_layout(
                lambda w, h, r=r: gates_picture(r, self.state, broken, kit, w, picked)  # type: ignore[misc]
            )
            self.choices[r.hazard.id].offer([(s.id, f"in {s.name}") for s in states])
            self.choices[r.hazard.id].show_value(self.state)
            self.choices[r.hazard.id].setVisible(bool(states))
            self._notes[r.hazard.id].setText(self._said(r, broken))

    def _said(self, r: GatesResult, broken: frozenset[str]) -> str:
        """What is left of the gates in that state."""
        names = self.view.store.assessment.of(STATES).machine.names
        where = f" in {names[self.state]}" if self.state in names else ""
        own = {g.id: g for group in r.groups for g in group}
        gone = [own[g].name for g in broken if g in own]
        keys = [g.name for g in own.values() if g.has_key]
        says = "Released" if fires_with(r, broken, self.state) else "Not released"
        with_broken = f" with {' and '.join(gone)} broken" if gone else ""
        least = f"{r.least}" if r.least is not None else "more than 3"
        key = f" {', '.join(keys)} take{'s' if len(keys) == 1 else ''} a key that somebody keeps." if keys else ""
        return f"{says}{where}{with_broken}. Least number of failures: {least}, wanted {r.wanted}.{key}"

    def _rebuild(self, found: list[GatesResult]) -> None:
        empty(self._box)
        self.canvases, self.choices, self._notes = {}, {}, {}
        for r in found:
            canvas = Canvas(self.view.theme, name=f"Gates before {r.hazard.name}")
            canvas.chosen.connect(self._chosen)
            choice = Choice([("", "")], f"State in which gates before {r.hazard.name} are drawn")
            choice.picked.connect(self._in_state)
            head = QWidget()
            row = QHBoxLayout(head)
            row.setContentsMargins(0, 0, 0, 0)
            row.addWidget(button(r.hazard.name, partial(self.view.pick, "hazards", r.hazard.id), kind="link"))
            row.addStretch(1)
            row.addWidget(label("every gate must close · press one to break it", "mute"))
            row.addWidget(choice)
            note = label("", "mute", wrap=True)
            add = button("+ a gate", partial(self._add, r.hazard.id), kind="link")
            self.canvases[r.hazard.id], self.choices[r.hazard.id] = canvas, choice
            self._notes[r.hazard.id] = note
            self._box.addWidget(card(self.view.theme, head, canvas, note, add))

    def _in_state(self, state: str) -> None:
        self.state = state
        self.show_all()

    def _chosen(self, of: object) -> None:
        if isinstance(of, InterlockPick) and of.room == "gates":
            self.view.press_gate(of.id)
        elif isinstance(of, InterlockPick):
            self.view.store.pick(of)

    def _add(self, hazard_id: str) -> None:
        name, meant = ask.word(self, "A gate", "What must be so? “Key switch”, “Core present”, “Armed”")
        if meant and self.view.store.attempt(edits.add_gate, name, hazard_id):
            self.view.pick("gates", self.view.store.project.concept.gates[-1].id)
