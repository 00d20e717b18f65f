"""The right panel of Trials: enter a run, how it stands, five in a row, its form, the runs that were made."""

from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox

from wired_union.catalogue.sheet import SheetError, table_text
from wired_union.physics.runs_of_trials import compare_rates, streak_chance
from wired_union.project.errors import ProjectError
from wired_union.project.trial_model import Run, Trial
from wired_union.subjects.trials import edits
from wired_union.subjects.trials.foot_switch import run_of
from wired_union.subjects.trials.paste import read_runs
from wired_union.subjects.trials.shown import TrialResult, is_good
from wired_union.subjects.trials.view_switch import FootSwitch
from wired_union.ui import ask
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, row
from wired_union.units import show

KEPT = ("version", "condition", "setting", "by")
"""What of a run stays for the next one until it is changed."""
WORDS = {
    "tried": "what is done", "conditions": "always the same", "what_counts": "what counts", "counts": "a run is",
    "proves": "it proves by", "band_low": "wanted from", "band_high": "wanted to", "wanted": "wanted rate",
    "confidence": "sure by", "planned": "runs decided on", "setting": "what is varied", "question": "decides",
}  # fmt: skip
EMPTIES = {"band_low": "no least", "band_high": "no most", "wanted": "by the brief", "planned": "not decided"}
SKIP = {"runs", "concept", "limit", "beyond"}
IN_A_ROW, LISTED, LONGEST = 5, 8, 34


class TrialPanel:
    """Fills the panel of the view by the trial that is selected."""

    def __init__(self, view: Any) -> None:
        self.view: View = view
        self.store, self.theme = view.store, view.theme
        self.fields: dict[str, Any] = {}
        self.switch = FootSwitch(view, self.pressed)
        self.next: dict[str, dict[str, Any]] = {}
        """What the next run of each trial has in common with the last; of this look only."""

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
        self._now(trial)
        self._in_a_row(r)
        self._versions(r)
        self._runs(trial)
        self.column.addWidget(label("The trial", "heading"))
        commit = partial(self._set, trial.id)
        form = ValueForm(self.theme, self.store, trial, trial.name, commit, words=WORDS, skip=SKIP, empties=EMPTIES)
        self._concept_and_limit(form, trial)
        self.column.addWidget(form)
        self.fields |= form.fields
        away = partial(self.store.attempt, edits.remove_trial, trial.id)
        self.column.addWidget(button(f"take {trial.name} away", away, kind="link"))
        self.column.addStretch(1)

    # entering

    def _now(self, trial: Trial) -> None:
        """What the next run is: one press for good and bad, a field for what is measured."""
        self.column.addWidget(label(f"Run {len(trial.runs) + 1}", "heading"))
        if trial.counts == "pass or fail":
            good = button("Good", partial(self.mark, True), kind="main", tip="G")
            bad = button("Bad", partial(self.mark, False), tip="B")
            self.column.addWidget(row(good, bad))
            self.column.addWidget(label("or the keys G and B, or a foot switch", "mute"))
            self.fields |= {"good": good, "bad": bad}
        form = Form(self.theme)
        if trial.counts != "pass or fail":
            field = EntryField(number_reader(trial.unit), f"{trial.name}: measured")
            field.show_text("", "what was measured")
            field.committed.connect(partial(self._measured, field))
            form.add("measured", field)
            self.fields["value"] = field
        last = self.kept(trial)
        for name in KEPT:
            reader = number_reader("", empty=True) if name == "setting" else str.strip
            entry = EntryField(reader, f"{trial.name}: {name} of the next run")
            value = last.get(name)
            entry.show_text(
                "" if value in {None, ""} else f"{value:g}" if isinstance(value, float) else str(value), "not said"
            )
            entry.committed.connect(partial(self._keep, trial.id, name))
            form.add(name, entry)
            self.fields[f"next {name}"] = entry
        self.column.addWidget(form)
        self.column.addWidget(row(button("paste runs", self._paste, kind="link", tip="From a sheet: a run a line"),
                                  button("from a file …", self._open, kind="link")))  # fmt: skip
        self.column.addWidget(row(self.switch.button()))
        self.column.addWidget(self.switch.said())

    def kept(self, trial: Trial) -> dict[str, Any]:
        """What the next run has in common with the last."""
        last = trial.runs[-1] if trial.runs else Run()
        return {name: getattr(last, name) for name in KEPT} | self.next.get(trial.id, {})

    def _keep(self, trial_id: str, name: str, value: Any) -> None:
        self.next.setdefault(trial_id, {})[name] = value if value is not None or name == "setting" else ""

    def mark(self, good: bool) -> None:
        """One run more, good or bad."""
        r = self.result
        if r is None or not self.view.isVisible() or r.trial.counts != "pass or fail":
            return
        self.store.attempt(edits.add_run, r.trial.id, good=good, on=self.view.desk.today(), **self._figures(r.trial))

    def pressed(self, said: str) -> None:
        """One run more by the foot switch. Raises NoReading for a line that is no run."""
        r = self.result
        if r is not None:
            run = run_of(r.trial, said)
            self.store.attempt(edits.add_run, r.trial.id, on=self.view.desk.today(), **run, **self._figures(r.trial))

    def _measured(self, field: EntryField, value: float | None) -> None:
        r = self.result
        if r is not None and value is not None:
            self.store.attempt_or(field.complain, edits.add_run, r.trial.id, value=value, on=self.view.desk.today(),
                                  **self._figures(r.trial))  # fmt: skip

    def _figures(self, trial: Trial) -> dict[str, Any]:
        return {k: v for k, v in self.kept(trial).items() if v not in {None, ""}}

    def _paste(self) -> None:
        clipboard = QApplication.clipboard()
        self.take(clipboard.text() if clipboard is not None else "")

    def _open(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self.view, "Runs", "", "Tables (*.csv *.txt *.xlsx)")
        if not path:
            return
        try:
            self.take(table_text(Path(path)))
        except SheetError as error:
            QMessageBox.warning(self.view, "It was not read", str(error))

    def take(self, text: str) -> None:
        """Runs from a sheet; where one makes no sense that is said, and nothing is taken."""
        r = self.result
        if r is None:
            return
        try:
            rows = read_runs(r.trial, text)
            self.store.apply(edits.add_runs(self.store.project, r.trial.id, rows))
        except ProjectError as error:
            QMessageBox.warning(self.view, "The runs were not taken", str(error))

    # how it stands

    def _in_a_row(self, r: TrialResult) -> None:
        """Five good ones in a row before a change is kept; and how often luck brings as many."""
        row_ = r.now
        if row_ is None or not r.is_rate or not row_.runs:
            return
        self.column.addWidget(label("Five in a row", "heading"))
        dots = "●" * min(row_.streak, IN_A_ROW) + "○" * max(IN_A_ROW - row_.streak, 0)
        rate = row_.good / len(row_.runs)
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
        c = compare_rates(new.good, len(new.runs), old.good, len(old.runs), r.trial.confidence)
        names = f"{new.version or 'as it is'} against {old.version or 'as it is'}"
        self.column.addWidget(label(names, "heading", wrap=True))
        self.column.addWidget(label(
            f"{_points(c.difference)}, between {_points(c.difference_lower)} and {_points(c.difference_upper)}."
            f" Two that are alike differ as much in {show(c.p_value, 'share')} of such trials.", "mute",
            wrap=True))  # fmt: skip

    def _runs(self, trial: Trial) -> None:
        """The last runs, each to be struck out with a reason, or counted again."""
        if not trial.runs:
            return
        self.column.addWidget(label("Runs", "heading"))
        for number in range(len(trial.runs), max(len(trial.runs) - LISTED, 0), -1):
            run = trial.runs[number - 1]
            made = button(run_words(trial, number, run), partial(self._strike, trial.id, number, run), kind="link",
                          tip="Count it again" if run.struck else "Strike it out, with the reason")  # fmt: skip
            self.column.addWidget(made)
            self.fields[f"run {number}"] = made

    def _strike(self, trial_id: str, number: int, run: Run) -> None:
        if run.struck:
            self.store.attempt(edits.strike, trial_id, number, "")
            return
        why, meant = ask.word(self.view, f"Run {number} does not count", "Why? It stays, marked with the reason.")
        if meant and why.strip():
            self.store.attempt(edits.strike, trial_id, number, why)

    # the trial itself

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


def run_words(trial: Trial, number: int, run: Run) -> str:
    """ "21 good · silt · 2026-11-26", "20 struck out: bit bent" """
    result = edits.show_in(trial, run.value) if run.value is not None else "good" if run.good else "bad"
    inside = "" if run.value is None or is_good(trial, run) else ", outside"
    version = run.version if run.version != trial.runs[-1].version else ""
    struck = f"struck out: {run.struck}" if run.struck else ""
    said = " · ".join(filter(None, (f"{number} {result}{inside}", struck, run.condition, version, run.on)))
    return said if len(said) <= LONGEST else f"{said[: LONGEST - 1]}…"
