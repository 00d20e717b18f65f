"""Trials: every run a mark, what the runs allow, boxes over conditions, one setting swept."""

from collections.abc import Mapping
from functools import partial

from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QMenu, QVBoxLayout, QWidget

from wired_union.subjects.trials import edits
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.looks import (
    RELIABLE,
    accuracy_words,
    effects_of,
    reach_words,
    reaches_of,
    seen_of,
    seen_words,
)
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.picture import trial_picture
from wired_union.subjects.trials.picture_boxes import boxes_picture, sweep_of, sweep_picture, sweep_words
from wired_union.subjects.trials.picture_looks import effects_picture, effects_words, reach_picture, seen_picture
from wired_union.subjects.trials.picture_scores import scores_picture
from wired_union.subjects.trials.shown import TrialResult, is_measured, ordered_runs
from wired_union.subjects.trials.view_course import CourseCards
from wired_union.subjects.trials.view_panel import TrialPanel
from wired_union.subjects.trials.view_throw import ThrowCards
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.view import Desk, View, card, row

IN_FULL = 3
"""Trials that are all drawn in full."""
KINDS: dict[str, dict[str, object]] = {
    "Accuracy: values against a band …": {"counts": "a value", "proves": "share inside"},
    "A link: packets by distance …": {"counts": "packets", "setting": "distance in m"},
    "What it sees: right and wrong …": {"counts": "what is seen"},
    "Service: a stranger does it …": {"counts": "a time", "proves": "share inside", "unit": "s", "strangers": True,
                                      "tried": "somebody who has never done it swaps the part"},
}  # fmt: skip
"""Kinds of trials by what they are for, and how they begin."""


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
        self._boxes_said = label("", "mute", wrap=True)
        self.boxes_card = card(self.theme, self._boxes_head, self.boxes, self._boxes_said)
        self.sweep_card = card(self.theme, self._sweep_head, self.sweep, self._sweep_said)
        self.scores = Canvas(self.theme, name="Score table: ten of each")
        self.scores.chosen.connect(self._chosen)
        note = label("the last ten runs of every aspect", "mute")
        self.scores_card = card(self.theme, row(label("Ten of each", "heading"), note), self.scores)
        self.column.insertWidget(self.column.indexOf(self._cards), self.scores_card)
        self.look = Canvas(self.theme, name="What else the runs say")
        self._look_head, self._look_said = label("", "heading"), label("", "mute", wrap=True)
        self.look_card = card(self.theme, self._look_head, self.look, self._look_said)
        self.column.addWidget(self.look_card)
        holder = QWidget()
        beside = self.flow(self.boxes_card, self.sweep_card, wide=self.sweep_card, least=720.0, parent=holder)
        beside.setStretch(0, 1)
        self.column.addWidget(holder)
        self.column.addWidget(card(self.theme, row(
            button("+ a trial", self._offer_limits, kind="link", tip="Of a limit of the brief, or of its own"),
        )))  # fmt: skip
        self.column.addStretch(1)
        self.course = CourseCards(self)
        self.throw = ThrowCards(self)
        for made in (self.course.card, self.throw.card):
            self.column.insertWidget(self.column.count() - 1, made)
        self.details = TrialPanel(self)
        for key, good in (("G", True), ("B", False)):
            QShortcut(QKeySequence(key), self, partial(self.details.entry.mark, good))

    @property
    def result(self) -> TrialResult | None:
        """The trial that is selected, else the first."""
        found = self.store.assessment.of(TRIALS)
        picked = self.store.picked(TrialPick)
        return next((r for r in found if r.trial.id == picked.id), found[0] if found else None)

    def refresh(self) -> None:
        found = self.store.assessment.of(TRIALS)
        now, kit = self.result, self.theme.kit
        whole = found if len(found) <= IN_FULL or now is None else (now,)  # of many, one; the score table has all
        if list(self.canvases) != [r.trial.id for r in whole]:
            self._rebuild(whole)
        picked = TrialPick(now.trial.id if now is not None else "")
        for r in whole:
            self.canvases[r.trial.id].show_layout(
                lambda w, h, r=r: trial_picture(r, kit, w, picked)  # type: ignore[misc]
            )
        runs = ordered_runs(found)
        self.subtitle.setText(f"{runs} runs in {len(found)} trials · what is shown, and what is only hoped"
                              if found else "what is shown, and what is only hoped")  # fmt: skip
        self.scores_card.setVisible(len(found) > 1)
        self.scores.show_layout(lambda w, h: scores_picture(found, kit, w, picked))
        self._over(now)
        self._look(now)
        self.course.refresh()
        self.throw.refresh()
        if self.store.picked(TrialPick).course:
            self.panel.clear()
            self.course.fields.clear()
            self.course.panel()
            self.panel.column.addStretch(1)
            return
        thrown = self.throw.current
        if thrown is not None:
            self.panel.clear()
            self.throw.panel(thrown)
            self.panel.column.addStretch(1)
            return
        self.details.show()

    def _over(self, now: TrialResult | None) -> None:
        """Boxes of a trial that measures, and its setting where one is varied."""
        trial = now.trial if now is not None else None
        packets = trial is not None and trial.counts == "packets"
        sweeps = trial is not None and not packets and any(r.setting is not None for r in trial.runs)
        conditions = {r.condition for r in trial.runs} if trial is not None else set()
        measures = trial is not None and is_measured(trial) and any(r.value is not None for r in trial.runs)
        measures = measures and (len(conditions) > 1 or not sweeps)
        self.boxes_card.setVisible(measures)
        self.sweep_card.setVisible(sweeps)
        if trial is None:
            return
        kit = self.theme.kit
        if measures:
            self._boxes_head.setText(f"{trial.name}, by condition")
            self.boxes.show_layout(lambda w, h: boxes_picture(trial, kit, w))
            said = accuracy_words(now.now) if now is not None and now.now is not None else ""
            self._boxes_said.setText(said)
            self._boxes_said.setVisible(bool(said))
        if sweeps:
            self._sweep_head.setText(f"{trial.name}, by {trial.setting or 'setting'}")
            self.sweep.show_layout(lambda w, h: sweep_picture(trial, kit, w))
            self._sweep_said.setText(sweep_words(trial, sweep_of(trial)))

    def _look(self, now: TrialResult | None) -> None:
        """What else the runs of the selected trial say: effects of settings, what is taken for what, its reach."""
        trial, kit = now.trial if now is not None else None, self.theme.kit
        row = now.now if now is not None else None
        packets = trial is not None and trial.counts == "packets"
        seen = trial is not None and trial.counts == "what is seen" and row is not None
        self.look_card.setVisible(bool(trial is not None and trial.factors) or packets or seen)
        if trial is None or now is None:
            return
        if trial.factors:
            self._look_head.setText(f"{trial.name}: what each setting does, from low to high")
            self.look.show_layout(lambda w, h: effects_picture(trial, kit, w))
            self._look_said.setText(effects_words(trial, effects_of(trial)))
        elif packets:
            wanted = now.wish.value if now.wish is not None and 0.5 <= now.wish.value < 1 else RELIABLE
            reaches = reaches_of(row, wanted) if row is not None else ()
            self._look_head.setText(f"{trial.name}: packets that arrive, by distance")
            self.look.show_layout(lambda w, h: reach_picture(reaches, wanted, kit, w))
            self._look_said.setText("\n".join(reach_words(r, wanted) for r in reaches))
        elif seen and row is not None:
            self._look_head.setText(f"{trial.name}: what was there, and what it was taken for")
            self.look.show_layout(lambda w, h: seen_picture(seen_of(row), kit, w))
            self._look_said.setText(seen_words(row))

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
        for words, kind in KINDS.items():
            menu.addAction(words, partial(self.add, "", kind))
        menu.addSeparator()
        taken = {t.limit for t in self.store.project.trials}
        for limit in self.store.project.brief.limits:
            if limit.measure not in taken:
                menu.addAction(f"{limit.name}, as the brief wishes …", partial(self.add, limit.measure))
        menu.popup(self.cursor().pos())

    def add(self, limit: str, kind: Mapping[str, object] | None = None) -> None:
        """Ask what it is called, and add it."""
        wish = self.store.project.brief.limit(limit) if limit else None
        name, meant = ask.word(self, "A trial", "What is tried again and again? “Good cores”, “Core length”",
                               text=wish.name if wish is not None else "")  # fmt: skip
        figures = {"unit": self.store.assessment.measure(limit).unit} if limit else dict(kind or {})
        if meant and self.store.attempt(edits.add_trial, name, limit, **figures):
            self.store.pick(TrialPick(self.store.project.trials[-1].id))
