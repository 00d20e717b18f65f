"""Interlocks: gates before what can hurt, states of the machine, what one failure can do, what to tick before a run."""

from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMenu, QMessageBox, QVBoxLayout, QWidget

from wired_union.project.documents import DocumentError, write_bytes
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import FAILING, GATES, STATES, STOPS
from wired_union.subjects.interlocks.code import c_code, python_code
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.subjects.interlocks.picture_failures import failures_picture, gate_rows, state_rows
from wired_union.subjects.interlocks.picture_states import Drawn, place_of, states_picture
from wired_union.subjects.interlocks.view_base import InterlocksBase
from wired_union.subjects.interlocks.view_gates import GatesCards
from wired_union.subjects.interlocks.view_hazards import HazardsCard
from wired_union.subjects.interlocks.view_panel import InterlockPanel
from wired_union.subjects.interlocks.view_walk import WalkCard
from wired_union.subjects.interlocks.wall import wall_page
from wired_union.subjects.timing.gives_times import TIMING
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.view import Desk, card, row

FAILURES_W = 264.0


class InterlocksView(InterlocksBase):
    stage, title = "interlocks", "Interlocks"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.gates = GatesCards(self)
        self.column.addWidget(self.gates)
        self.states = Canvas(self.theme, name="States of the machine")
        self.states.chosen.connect(self._chosen)
        self.states.shifted.connect(self._shifted)
        self.states.nudged.connect(lambda of, x, y: self._shifted(of, 20.0 * x, 20.0 * y))
        self._note = label("", "mute", wrap=True)
        left = card(self.theme, label("States of the machine", "heading"), self._note, self.states, row(
            button("+ a state", self._add_state, kind="link"),
            button("+ a way", self._offer_ways, kind="link", tip="From the state that is selected to another"),
            button("+ a cue", self._add_cue, kind="link", tip="What happens or is true: an event, or a threshold"),
        ))  # fmt: skip
        self.failures = Canvas(self.theme, name="What one failure can do")
        self.failures.chosen.connect(self._chosen)
        right = card(self.theme, label("What one failure can do", "heading"), self.failures,
                     button("+ a failure", self._add_failure, kind="link"))  # fmt: skip
        right.setMinimumWidth(self.theme.px(FAILURES_W))
        column = right.layout()
        assert isinstance(column, QVBoxLayout)
        column.addStretch(1)
        holder = QWidget()
        self.flow(left, right, wide=left, least=720.0, parent=holder)
        self.column.addWidget(holder)
        self.walk = WalkCard(self.store, self.theme, self._walked)
        self.column.addWidget(self.walk)
        self.hazards = HazardsCard(self)
        self.column.addWidget(self.hazards)
        self.column.addWidget(card(self.theme, label("To take away", "heading"), row(
            button("a page for the wall", self._save_wall, kind="link", tip="What to check before arming, to print"),
            button("states as C", partial(self._save_code, "h"), kind="link"),
            button("states as Python", partial(self._save_code, "py"), kind="link"),
        )))  # fmt: skip
        self.column.addStretch(1)
        self.details = InterlockPanel(self)

    def refresh(self) -> None:
        states, kit, picked = self.store.assessment.of(STATES), self.theme.kit, self.picked
        known = {g.id for g in self.store.project.concept.gates}
        self.broken &= known
        self.gates.show_all()
        chains = {c.chain.id: c.latency.most_s if c.latency is not None and not c.missing else None
                  for c in self.store.assessment.of(TIMING).chains}  # fmt: skip
        drawn = Drawn(states.machine, states.faults, chains, self.walk.state)
        self.states.show_layout(lambda w, h: states_picture(drawn, kit, w, picked))
        failing, gates = self.store.assessment.of(FAILING), self.store.assessment.of(GATES)
        rows = [*state_rows(failing), *gate_rows(gates)]
        self.failures.show_layout(lambda w, h: failures_picture(rows, kit, w, picked))
        reached, faults = len(states.machine.reached), len(states.faults)
        self.subtitle.setText(f"what must be true before it moves · {reached} states searched, all of them"
                              if reached else "what must be true before it moves")  # fmt: skip
        self._note.setText(self._said(reached, faults))
        self.walk.show_walk()
        self.hazards.show_all()
        self.details.show()

    def _said(self, reached: int, faults: int) -> str:
        """ "Every state can be left; from each, a stop within 188 ms." """
        if not reached:
            return ""
        known = [s.time_s for s in self.store.assessment.of(STOPS) if s.time_s is not None]
        measure = self.store.assessment.measure("stop-time")
        stop = f" From each, a stop within {measure.shown}." if known and not measure.missing else ""
        if faults:
            return f"{faults} thing{'s' if faults > 1 else ''} wrong with them, told to the right.{stop}"
        return f"Every state can be left, and none has two ways out at once.{stop}"

    def _chosen(self, of: object) -> None:
        if isinstance(of, InterlockPick):
            self.store.pick(of)

    def _shifted(self, of: object, dx: float, dy: float) -> None:
        if isinstance(of, InterlockPick) and of.room == "states":
            machine, scale = self.store.assessment.of(STATES).machine, self.theme.kit.scale
            x, y = place_of(machine, self.theme.kit, float(self.states.width()), of.id)
            self.store.attempt(edits.move_state, of.id, x + dx / scale, y + dy / scale)

    def _walked(self) -> None:
        self.refresh()

    # adding

    def _add_state(self) -> None:
        self.add("states", "A state", "What does it do then? “Wait”, “Drive”, “Stopped”", edits.add_state)

    def _add_cue(self) -> None:
        self.add("cues", "A cue", "What happens or is true? “Start pressed”, “Bump”, “Pack low”", edits.add_cue)

    def _add_failure(self) -> None:
        self.add("failures", "A failure", "What goes wrong? “Driver shorted”, “Wire torn”", edits.add_failure)

    def _offer_ways(self) -> None:
        """From the state that is selected, or the first, to any other."""
        states = self.store.project.concept.states
        here = next((s for s in states if self.picked == InterlockPick("states", s.id)), states[0] if states else None)
        menu = QMenu(self)
        for s in states:
            if here is not None:
                menu.addAction(f"{here.name} → {s.name}", partial(self._add_way, here.id, s.id))
        menu.popup(self.cursor().pos())

    def _add_way(self, start: str, end: str) -> None:
        hint = "What takes it there? “start”, “bump”, “core full”; its cue is said to the right"
        self.add("passages", "A way", hint, edits.add_passage, start=start, end=end)

    # files

    def _save_wall(self) -> None:
        self._save("before-arming.html", "HTML (*.html)", wall_page(self.store.assessment))

    def _save_code(self, kind: str) -> None:
        machine = self.store.assessment.of(STATES).machine
        try:
            text = (c_code if kind == "h" else python_code)(machine, self.store.project.name)
        except ValueError as error:
            QMessageBox.warning(self, "Nothing to write", str(error))
            return
        self._save(f"machine_states.{kind}", "C (*.h)" if kind == "h" else "Python (*.py)", text)

    def _save(self, name: str, kinds: str, text: str) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save", name, kinds)
        if not path:
            return
        try:
            write_bytes(Path(path), text.encode())
        except DocumentError as error:
            QMessageBox.warning(self, "It was not saved", str(error))
