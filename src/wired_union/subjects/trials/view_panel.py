"""The right panel of Trials: enter a run, how it stands, five in a row, its form, the runs that were made."""

from collections.abc import Iterator
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.sip import isdeleted

from wired_union.physics.runs_of_trials import compare_rates, runs_to_tell_apart, streak_chance
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects.trials import edits
from wired_union.subjects.trials.looks import outliers_of
from wired_union.subjects.trials.shown import TrialResult, is_good, is_measured
from wired_union.subjects.trials.view_next_run import NextRun
from wired_union.ui import ask
from wired_union.ui.fields import Choice, button, label
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View
from wired_union.ui.worker import Worker
from wired_union.units import show

WORDS = {
    "tried": "what is done", "conditions": "always the same", "what_counts": "what counts", "counts": "a run is",
    "proves": "it proves by", "band_low": "wanted from", "band_high": "wanted to", "wanted": "wanted rate",
    "confidence": "sure by", "planned": "runs decided on", "setting": "what is varied", "question": "decides",
}  # fmt: skip
EMPTIES = {"band_low": "no least", "band_high": "no most", "wanted": "by the brief", "planned": "not decided"}
SKIP = {"runs", "concept", "limit", "beyond", "factors"}
IN_A_ROW, LISTED, LONGEST, POINTS_APART = 5, 8, 34, 0.2
PICTURE_W = 220.0


class TrialPanel:
    """Fills the panel of the view by the trial that is selected."""

    def __init__(self, view: Any) -> None:
        self.view: View = view
        self.store, self.theme = view.store, view.theme
        self.fields: dict[str, Any] = {}
        self.entry = NextRun(self)
        self.worker = Worker(view)
        self.worker.told.connect(self._apart_told)
        self._told_apart = label("", "mute")

    @property
    def column(self) -> Any:
        return self.view.panel.column

    @property
    def result(self) -> TrialResult | None:
        found: TrialResult | None = self.view.result  # type: ignore[attr-defined]
        return found

    def show(self) -> None:
        """The trial that is selected."""
        self.view.panel.clear()
        self.fields = {}
        r = self.result
        if r is None:
            self.column.addWidget(label("Trials", "title"))
            self.column.addWidget(label("Add a trial of something that the brief wishes.", "mute", wrap=True))
            self.column.addStretch(1)
            return
        trial = r.trial
        self.column.addWidget(label(trial.name, "title", wrap=True))
        limit = self.store.project.brief.limit(trial.limit) if trial.limit else None
        if limit is not None:
            self.column.addWidget(label(f"proof of “{limit.name}” in the brief", "mute", wrap=True))
        found = [f for f in self.store.assessment.findings if f.subject == "trials" and f.of == trial.id]
        self.view.finding_cards(found)
        self.entry.show(trial)
        self._in_a_row(r)
        self._versions(r)
        self._apart(r)
        self._runs(trial)
        self.column.addWidget(label("The trial", "heading"))
        commit = partial(self._set, trial.id)
        form = ValueForm(self.theme, self.store, trial, trial.name, commit, words=WORDS, skip=SKIP, empties=EMPTIES)
        self._concept_and_limit(form, trial)
        self.column.addWidget(form)
        self.fields |= form.fields
        self._factors(trial)
        away = partial(self.store.attempt, edits.remove_trial, trial.id)
        self.column.addWidget(button(f"take {trial.name} away", away, kind="link"))
        self.column.addStretch(1)

    # how it stands

    def _in_a_row(self, r: TrialResult) -> None:
        """Five good ones in a row before a change is kept; and how often luck brings as many."""
        row_ = r.now
        if row_ is None or not r.is_rate or not row_.runs:
            return
        self.column.addWidget(label("Five in a row", "heading"))
        dots = "●" * min(row_.streak, IN_A_ROW) + "○" * max(IN_A_ROW - row_.streak, 0)
        rate = sum(row_.marks) / len(row_.runs)
        chance = streak_chance(rate, row_.longest, len(row_.runs)).probability if row_.longest else 1.0
        said = f"{min(row_.streak, IN_A_ROW)} of {IN_A_ROW}, then keep it"
        self.column.addWidget(label(f"{dots}  {said}", "", wrap=True))
        if row_.longest:
            luck = f"Longest {row_.longest}: at this rate luck brings that in {show(chance, 'share')} of such rows."
            self.column.addWidget(label(luck, "mute", wrap=True))

    def _versions(self, r: TrialResult) -> None:
        """The last version against the one before it."""
        if len(r.rows) < 2 or not r.is_rate:
            return
        new, old = r.rows[0], r.rows[1]
        c = compare_rates(new.good, new.tries, old.good, old.tries, r.trial.confidence)
        names = f"{new.version or 'as it is'} against {old.version or 'as it is'}"
        self.column.addWidget(label(names, "heading", wrap=True))
        self.column.addWidget(label(
            f"{_points(c.difference)}, between {_points(c.difference_lower)} and {_points(c.difference_upper)}."
            f" Two that are alike differ as much in {show(c.p_value, 'share')} of such trials.", "mute",
            wrap=True))  # fmt: skip

    def _apart(self, r: TrialResult) -> None:
        """How many runs of each version would tell this rate from another, on request: it takes its time."""
        if r.value is None or not r.is_rate or not r.rows:
            return
        self._told_apart = label("", "mute", wrap=True)
        self._told_apart.hide()
        ask = button("how many runs tell versions apart?", partial(self._count_apart, r), kind="link",
                     tip="For a difference of twenty points, seen four times in five")  # fmt: skip
        self.column.addWidget(ask)
        self.column.addWidget(self._told_apart)
        self.fields["apart"] = ask

    def _count_apart(self, r: TrialResult) -> None:
        one = min(max(r.value or 0.0, 0.02), 0.98)
        other = one - POINTS_APART if one >= 0.5 else one + POINTS_APART
        sure = r.trial.confidence

        def work() -> Iterator[str]:
            count = runs_to_tell_apart(one, other, sure, 0.8).runs_each
            yield f"To tell {show(one, 'share')} from {show(other, 'share')}, seen four times in five: {count} of each."

        self.worker.start(self.store.revision, work)

    def _apart_told(self, _: int, words: object) -> None:
        if isinstance(words, str) and not isdeleted(self._told_apart):
            self._told_apart.setText(words)
            self._told_apart.show()

    def _runs(self, trial: Trial) -> None:
        """The last runs, each to be struck out with a reason, or counted again."""
        if not trial.runs:
            return
        self.column.addWidget(label("Runs", "heading"))
        odd = outliers_of(trial)
        for number in range(len(trial.runs), max(len(trial.runs) - LISTED, 0), -1):
            run = trial.runs[number - 1]
            if run.picture:
                self._picture(number, run.picture)
            words = run_words(trial, number, run, odd=number in odd)
            made = button(words, partial(self._strike, trial.id, number, run), kind="link",
                          tip="Count it again" if run.struck else "Strike it out, with the reason")  # fmt: skip
            self.column.addWidget(made)
            self.fields[f"run {number}"] = made

    def _picture(self, number: int, name: str) -> None:
        """The picture of a run above its words; where it is not found, that is said."""
        shown = label("", "mute", wrap=True)
        picture = QPixmap(name) if Path(name).is_file() else QPixmap()
        if picture.isNull():
            shown.setText(f"The picture of run {number} is not found: {name}")
        else:
            size = self.theme.px(PICTURE_W)
            shown.setPixmap(picture.scaledToWidth(size, Qt.TransformationMode.SmoothTransformation))
            shown.setAccessibleName(f"Picture of run {number}")
        self.column.addWidget(shown)
        self.fields[f"picture {number}"] = shown

    def _strike(self, trial_id: str, number: int, run: Run) -> None:
        if run.struck:
            self.store.attempt(edits.strike, trial_id, number, "")
            return
        why, meant = ask.word(self.view, f"Run {number} does not count", "Why? It stays, marked with the reason.")
        if meant and why.strip():
            self.store.attempt(edits.strike, trial_id, number, why)

    # the trial itself

    def _factors(self, trial: Trial) -> None:
        """Settings that are tried at two levels each, in every mix."""
        for n, factor in enumerate(trial.factors, 1):
            words = f"{factor.name}: {factor.low} or {factor.high}, take it away"
            self.column.addWidget(button(words, partial(self.store.attempt, edits.remove_factor, trial.id, n),
                                         kind="link"))  # fmt: skip
        tip = "Run every mix of a few: what each does, and what two do together"
        self.column.addWidget(button("+ a setting at two levels", partial(self._add_factor, trial.id), kind="link",
                                     tip=tip))  # fmt: skip

    def _add_factor(self, trial_id: str) -> None:
        words, meant = ask.word(self.view, "A setting at two levels", "Its name and both levels: “Bit: 28 mm, 32 mm”")
        if not meant or not words.strip():
            return
        name, _, levels = words.partition(":")
        low, _, high = levels.partition(",")
        self.store.attempt(edits.add_factor, trial_id, name, low.strip() or "low", high.strip() or "high")

    def _set(self, trial_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_trial, trial_id, **{field: new})

    def _concept_and_limit(self, form: ValueForm, trial: Trial) -> None:
        project = self.store.project
        options = {
            "limit": [("", "nothing in the brief"), *((x.measure, x.name) for x in project.brief.limits)],
            "concept": [("", "any concept"), *((c.id, f"{c.letter} {c.name}") for c in project.concepts)],
        }  # fmt: skip
        for name, text in (("limit", "proves"), ("concept", "tries")):
            choice = Choice(options[name], f"{trial.name}: {text}")
            choice.show_value(getattr(trial, name))
            choice.picked.connect(partial(self._pick, trial.id, name))
            form.add(text, choice)
            self.fields[name] = choice

    def _pick(self, trial_id: str, name: str, value: str) -> None:
        figures = {name: value}
        trial = next((t for t in self.store.project.trials if t.id == trial_id), None)
        if name == "limit" and value and trial is not None and trial.proves == "mean":
            figures["unit"] = self.store.assessment.measure(value).unit
        self.store.attempt(edits.set_trial, trial_id, **figures)


def _points(share: float) -> str:
    """ "+20 %" """
    return f"{'+' if share > 0 else ''}{show(share, 'share')}"


def run_words(trial: Trial, number: int, run: Run, *, odd: bool = False) -> str:
    """ "21 good · silt · 2026-11-26", "20 struck out: bit bent" """
    result = edits.result_words(trial, run)
    inside = ", outside" if is_measured(trial) and run.value is not None and not is_good(trial, run) else ""
    inside += ", far off" if odd else ""
    version = run.version if run.version != trial.runs[-1].version else ""
    struck = f"struck out: {run.struck}" if run.struck else ""
    said = " · ".join(filter(None, (f"{number} {result}{inside}", struck, run.condition, version, run.on)))
    return said if len(said) <= LONGEST else f"{said[: LONGEST - 1]}…"
