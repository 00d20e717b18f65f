"""Trials: every run a mark, what the runs allow, boxes over conditions, one setting swept."""

from functools import partial

from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QMenu, QVBoxLayout, QWidget

from wired_union.subjects.trials import edits
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.picture import trial_picture
from wired_union.subjects.trials.picture_boxes import boxes_picture, sweep_of, sweep_picture, sweep_words
from wired_union.subjects.trials.shown import TrialResult, ordered_runs
from wired_union.subjects.trials.view_course import CourseCards
from wired_union.subjects.trials.view_panel import TrialPanel
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.view import Desk, View, card, row


class TrialsView(View):
    stage, title = "trials", "Trials"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._cards = QWidget()
        self._box = QVBoxLayout(self._cards)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(self.theme.px(8))
        self.canvases: dict[str, Canvas] = {}
        self.column.addWidget(self._cards)
        self.boxes = Canvas(self.theme, name="Values over conditions")
        self.sweep = Canvas(self.theme, name="One setting swept")
        self._boxes_head, self._sweep_head = label("", "heading"), label("", "heading")
        self._sweep_said = label("", "mute", wrap=True)
        self.boxes_card = card(self.theme, self._boxes_head, self.boxes)
        self.sweep_card = card(self.theme, self._sweep_head, self.sweep, self._sweep_said)
        holder = QWidget()
        beside = self.flow(self.boxes_card, self.sweep_card, wide=self.sweep_card, least=720.0, parent=holder)
        beside.setStretch(0, 1)
        self.column.addWidget(holder)
        self.column.addWidget(card(self.theme, row(
            button("+ a trial", self._offer_limits, kind="link", tip="Of a limit of the brief, or of its own"),
        )))  # fmt: skip
        self.column.addStretch(1)
        self.course = CourseCards(self)
        self.column.insertWidget(self.column.count() - 1, self.course.card)
        self.details = TrialPanel(self)
        for key, good in (("G", True), ("B", False)):
            QShortcut(QKeySequence(key), self, partial(self.details.mark, good))

    @property
    def result(self) -> TrialResult | None:
        """The trial that is selected, else the first."""
        found = self.store.assessment.of(TRIALS)
        picked = self.store.picked(TrialPick)
        return next((r for r in found if r.trial.id == picked.id), found[0] if found else None)

    def refresh(self) -> None:
        found = self.store.assessment.of(TRIALS)
        if list(self.canvases) != [r.trial.id for r in found]:
            self._rebuild(found)
        now, kit = self.result, self.theme.kit
        picked = TrialPick(now.trial.id if now is not None else "")
        for r in found:
            self.canvases[r.trial.id].show_layout(
                lambda w, h, r=r: trial_picture(r, kit, w, picked)  # type: ignore[misc]
            )
        runs = ordered_runs(found)
        self.subtitle.setText(f"{runs} runs in {len(found)} trials · what is shown, and what is only hoped"
                              if found else "what is shown, and what is only hoped")  # fmt: skip
        self._over(now)
        self.course.refresh()
        if self.store.picked(TrialPick).course:
            self.panel.clear()
            self.course.fields.clear()
            self.course.panel()
            self.panel.column.addStretch(1)
            return
        self.details.show()

    def _over(self, now: TrialResult | None) -> None:
        """Boxes of a trial that measures, and its setting where one is varied."""
        trial = now.trial if now is not None else None
        sweeps = trial is not None and any(r.setting is not None for r in trial.runs)
        conditions = {r.condition for r in trial.runs} if trial is not None else set()
        measures = trial is not None and any(r.value is not None for r in trial.runs)
        measures = measures and (len(conditions) > 1 or not sweeps)
        self.boxes_card.setVisible(measures)
        self.sweep_card.setVisible(sweeps)
        if trial is None:
            return
        kit = self.theme.kit
        if measures:
            self._boxes_head.setText(f"{trial.name}, by condition")
            self.boxes.show_layout(lambda w, h: boxes_picture(trial, kit, w))
        if sweeps:
            self._sweep_head.setText(f"{trial.name}, by {trial.setting or 'setting'}")
            self.sweep.show_layout(lambda w, h: sweep_picture(trial, kit, w))
            self._sweep_said.setText(sweep_words(trial, sweep_of(trial)))

    def _rebuild(self, found: tuple[TrialResult, ...]) -> None:
        empty(self._box)
        self.canvases = {}
        if not found:
            hint = "No trial yet. A trial is run again and again, until it shows what the brief wishes."
            self._box.addWidget(card(self.theme, label(hint, "mute", wrap=True)))
        for r in found:
            canvas = Canvas(self.theme, name=f"Runs of {r.trial.name}")
            canvas.chosen.connect(self._chosen)
            head = button(r.trial.name, partial(self.store.pick, TrialPick(r.trial.id)), kind="link")
            note = label("a mark is a run; the rope is what the runs allow", "mute")
            self._box.addWidget(card(self.theme, row(head, note), canvas))
            self.canvases[r.trial.id] = canvas

    def _chosen(self, of: object) -> None:
        if isinstance(of, TrialPick):
            self.store.pick(of)

    def _offer_limits(self) -> None:
        """A limit that it proves, or none."""
        menu = QMenu(self)
        menu.addAction("Of nothing in the brief …", partial(self.add, ""))
        taken = {t.limit for t in self.store.project.trials}
        for limit in self.store.project.brief.limits:
            if limit.measure not in taken:
                menu.addAction(f"{limit.name}, as the brief wishes …", partial(self.add, limit.measure))
        menu.popup(self.cursor().pos())

    def add(self, limit: str) -> None:
        """Ask what it is called, and add it."""
        wish = self.store.project.brief.limit(limit) if limit else None
        name, meant = ask.word(self, "A trial", "What is tried again and again? “Good cores”, “Core length”",
                               text=wish.name if wish is not None else "")  # fmt: skip
        unit = self.store.assessment.measure(limit).unit if limit else ""
        if meant and self.store.attempt(edits.add_trial, name, limit, unit):
            self.store.pick(TrialPick(self.store.project.trials[-1].id))
