"""Control loops: a card each with its response and its margins, and sliders for what P, I and D do."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QButtonGroup, QFileDialog, QHBoxLayout, QMessageBox, QPushButton, QVBoxLayout, QWidget

from wired_union.kernel.subject import Assessment
from wired_union.picture.shapes import Kit, Picture
from wired_union.project.change import Change
from wired_union.project.errors import ProjectError
from wired_union.subjects.timing.edits_shared import add_loop, set_loop
from wired_union.subjects.timing.fit_step import fit_words, fitted, read_step
from wired_union.subjects.timing.loops import LOOPS, LoopResult
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.picture_bode import bode_picture
from wired_union.subjects.timing.picture_loop import loop_picture, loop_rows
from wired_union.subjects.timing.picture_roots import roots_picture
from wired_union.subjects.timing.tunings import Tuned, taken, tunings
from wired_union.subjects.timing.view_slide import decade_slider
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Form, button, empty, label, wrapped
from wired_union.ui.slider import FigureSlider
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.view import card
from wired_union.ui.worker import Worker

BESIDE = 250.0
SLID = (("control_gain", "gain, P", ""), ("integral_s", "integral time, I", "s"),
        ("derivative_s", "derivative time, D", "s"), ("speed_gain", "against its speed", ""),
        ("predicts_s", "predicts ahead", "s"))  # fmt: skip


PICTURES: dict[str, Callable[[LoopResult, Kit, float], Picture]] = {
    "response": loop_picture, "over frequency": bode_picture, "roots": roots_picture,
}  # fmt: skip


class LoopCards(QWidget):
    """A card for each loop, and one more."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__()
        self._store, self._theme = store, theme
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(theme.px(8))
        self.responses: dict[str, Canvas] = {}
        self._rows: dict[str, QVBoxLayout] = {}
        self.modes: dict[tuple[str, str], QPushButton] = {}
        self._worker = Worker(self)
        self._worker.told.connect(self._rules_told)
        self._tuned: tuple[LoopResult | None, list[Tuned]] = (None, [])
        self._whole: dict[str, LoopResult] = {}
        """What is drawn with all that takes longer: it is not drawn again while it stays the same."""
        self.shown: dict[str, str] = {}
        """Which picture of each loop: its response, over frequency, or its roots."""

    def show_all(self) -> None:
        """Draw what the store holds."""
        found = self._store.assessment.of(LOOPS)
        if list(self.responses) != [r.loop.id for r in found] or self._column.count() == 0:
            self._rebuild(found)
        for r in found:
            if self._whole.get(r.loop.id) is not r:
                self.show_loop(r, whole=True)

    def show_loop(self, r: LoopResult, *, whole: bool = False) -> None:
        """Draw one loop as a result has it; what a plant that is off does only where there is time for it."""
        self._whole = (
            {**self._whole, r.loop.id: r} if whole else {k: v for k, v in self._whole.items() if k != r.loop.id}
        )
        draw = PICTURES[self.shown.get(r.loop.id, "response")]
        self.responses[r.loop.id].show_layout(lambda w, h: draw(r, self._theme.kit, w))
        rows = self._rows[r.loop.id]
        empty(rows)
        form = Form(self._theme)
        for row in loop_rows(r, whole=whole):
            form.add(row.name, label(row.text, "figures"))
        rows.addWidget(form)
        rows.addStretch(1)

    def _rebuild(self, found: tuple[LoopResult, ...]) -> None:
        empty(self._column)
        self.responses, self._rows, self.modes, self._whole = {}, {}, {}, {}
        for r in found:
            self._column.addWidget(self._card(r))
        new = button("+ a control loop", self._add, kind="link")
        self._column.addWidget(new if found else card(self._theme, label("Control loops", "heading"), new))

    def _card(self, r: LoopResult) -> QWidget:
        title = button(r.loop.name, partial(self._pick, r.loop.id), kind="link")
        canvas = Canvas(self._theme, name=f"Response of {r.loop.name}")
        inside = QWidget()
        row = QHBoxLayout(inside)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(canvas, 1)
        rows = QVBoxLayout()
        side = QWidget()
        side.setLayout(rows)
        side.setFixedWidth(self._theme.px(290))
        row.addWidget(side)
        self.responses[r.loop.id], self._rows[r.loop.id] = canvas, rows
        head = QWidget()
        line = QHBoxLayout(head)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(title)
        line.addStretch(1)
        modes = QButtonGroup(head)
        for name in PICTURES:
            mode = button(name, partial(self.show_picture, r.loop.id, name), kind="mode")
            mode.setCheckable(True)
            mode.setChecked(self.shown.get(r.loop.id, "response") == name)
            modes.addButton(mode)
            self.modes[r.loop.id, name] = mode
            line.addWidget(mode)
        return card(self._theme, head, inside)

    def show_picture(self, loop_id: str, name: str) -> None:
        """Draw a loop's response to a step, its gain and phase over frequency, or where its roots go."""
        self.shown[loop_id] = name
        self.modes[loop_id, name].setChecked(True)
        self.show_loop(next(r for r in self._store.assessment.of(LOOPS) if r.loop.id == loop_id), whole=True)

    def _pick(self, loop_id: str) -> None:
        self._store.pick(SharedPick("control_loops", loop_id))

    def _add(self) -> None:
        name, meant = ask.word(self, "A control loop", "What does it hold? “Drive speed”, “Heading to the target”")
        if meant and self._store.attempt(add_loop, name=name):
            self._pick(self._store.project.concept.control_loops[-1].id)

    # the panel

    def sliders(self, loop_id: str) -> QWidget:
        """What P, I and D each do: dragged, the response and the strip follow; let go, it is so."""
        loop = next(x for x in self._store.project.concept.control_loops if x.id == loop_id)
        held = QWidget()
        column = QVBoxLayout(held)
        column.setContentsMargins(0, 0, 0, 0)
        self.slid: dict[str, FigureSlider] = {}
        for field, text, unit in SLID:
            value = getattr(loop, field)
            if not value:
                continue
            edit = partial(self._edit, loop_id, field)
            self.slid[field] = decade_slider(self._store, self._theme, text, unit, value, edit, self.show_assessed)
            column.addWidget(self.slid[field])
        self.fitted = label("", "mute", wrap=True)
        column.addWidget(button("take the plant from a measured step", partial(self._open_step, loop_id), kind="link"))
        column.addWidget(self.fitted)
        self._rules = QVBoxLayout()
        column.addLayout(self._rules)
        result = next(r for r in self._store.assessment.of(LOOPS) if r.loop.id == loop_id)
        if self._tuned[0] is result:
            self._show_rules(result, self._tuned[1])
        else:  # it takes more than a frame
            self._worker.start(0, lambda: iter([(result, tunings(result))]))
        return held

    def _rules_told(self, _: int, told: tuple[LoopResult, list[Tuned]]) -> None:
        result, rules = self._tuned = told
        picked = self._store.picked(SharedPick)
        if picked == SharedPick("control_loops", result.loop.id) and result in self._store.assessment.of(LOOPS):
            self._show_rules(result, rules)

    def _show_rules(self, result: LoopResult, rules: list[Tuned]) -> None:
        """What published rules say, a button each."""
        if rules:
            self._rules.addWidget(label("Settings by published rules", "heading"))
        for tuned in rules:
            figures = taken(result.loop, tuned)
            take = partial(self._store.attempt, set_loop, value_id=result.loop.id, **figures)
            self._rules.addWidget(button(wrapped(tuned.words, self._theme, BESIDE), take, kind="link"))

    def _open_step(self, loop_id: str) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "A measured step: time, value, input", "", "CSV (*.csv)")
        if path:
            self.fit_step(loop_id, Path(path))

    def fit_step(self, loop_id: str, path: Path) -> None:
        """Read a step that was measured, fit gain, lag and dead time, and take them as one edit."""
        loop = next(x for x in self._store.project.concept.control_loops if x.id == loop_id)
        try:
            measured = read_step(path.read_text(encoding="utf-8", errors="replace"))
            figures, told = fitted(loop, measured)
        except (OSError, ProjectError, ValueError) as error:
            QMessageBox.warning(self, "The step was not taken", str(error))
            return
        self._store.attempt(set_loop, value_id=loop_id, **figures)
        self.fitted.setText(fit_words(measured, told))

    def _edit(self, loop_id: str, field: str, value: float) -> Change:
        figures: dict[str, Any] = {field: value}
        return set_loop(self._store.project, value_id=loop_id, **figures)

    def show_assessed(self, assessment: Assessment) -> None:
        """Draw every loop that is in sight, or on the panel, as an assessment has it, where it is another."""
        picked = self._store.picked(SharedPick)
        for r in assessment.of(LOOPS):
            canvas = self.responses.get(r.loop.id)
            if canvas is None or self._whole.get(r.loop.id) is r:
                continue
            if picked == SharedPick("control_loops", r.loop.id) or not canvas.visibleRegion().isEmpty():
                self.show_loop(r)
