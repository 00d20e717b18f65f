"""The next run of a trial: by one press, by what is measured or seen, by a foot switch, from a sheet."""

from collections.abc import Callable
from functools import partial
from typing import Any, Protocol

from PyQt6.QtWidgets import QFileDialog, QMessageBox

from wired_union.instruments.door import NoReading
from wired_union.project.errors import ProjectError
from wired_union.project.trial_model import Counts, Run, Trial
from wired_union.subjects.trials import edits
from wired_union.subjects.trials.foot_switch import run_of
from wired_union.subjects.trials.paste import packets_read, read_runs
from wired_union.subjects.trials.shown import TrialResult, is_measured
from wired_union.subjects.trials.view_switch import FootSwitch
from wired_union.ui.fields import Choice, EntryField, Form, button, label, number_reader
from wired_union.ui.sheets import clipboard_text, open_table
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.view import View, row

KEPT = ("version", "condition", "setting", "by")
"""What of a run stays for the next one until it is changed."""
ONCE = ("note", "picture")
"""What is of one run alone."""
ASKED: dict[Counts, tuple[str, ...]] = {"what is seen": ("was",), "packets": ("value",)}
"""What is asked besides, by what counts: what was there to be seen; signal over noise."""
CALLED = {"value": "signal to noise"}


class Panel(Protocol):
    """What it needs of the panel that it stands in."""

    view: View
    store: Store
    theme: Theme
    fields: dict[str, Any]

    @property
    def column(self) -> Any: ...

    @property
    def result(self) -> TrialResult | None: ...


class NextRun:
    """Its fields in the panel, and the runs that they make."""

    def __init__(self, panel: Panel) -> None:
        self.panel, self.view, self.store, self.theme = panel, panel.view, panel.store, panel.theme
        self.switch = FootSwitch(panel.view, self.pressed)
        self.next: dict[str, dict[str, Any]] = {}
        """What the next run of each trial has in common with the last; of this look only."""

    def show(self, trial: Trial) -> None:
        """What the next run is: one press for good and bad, a field for what is measured."""
        self.panel.column.addWidget(label(f"Run {len(trial.runs) + 1}", "heading"))
        if trial.counts == "pass or fail":
            good = button("Good", partial(self.mark, True), kind="main", tip="G")
            bad = button("Bad", partial(self.mark, False), tip="B")
            self.panel.column.addWidget(row(good, bad))
            self.panel.column.addWidget(label("or the keys G and B, or a foot switch", "mute"))
            self.panel.fields |= {"good": good, "bad": bad}
        form = Form(self.theme)
        if is_measured(trial):
            self._result(form, trial, "value", "measured", number_reader(trial.unit), "what was measured")
        elif trial.counts == "packets":
            self._result(form, trial, "packets", "arrived", packets_read, "97 of 100")
        elif trial.counts == "what is seen":
            self._result(form, trial, "seen", "it saw", str.strip, "what it took it for")
        self._levels(form, trial)
        last = self.kept(trial)
        for name in (*ASKED.get(trial.counts, ()), *KEPT, *ONCE):
            reader = self._reader(trial, name)
            entry = EntryField(reader, f"{trial.name}: {CALLED.get(name, name)} of the next run")
            value = last.get(name)
            entry.show_text(
                "" if value in {None, ""} else f"{value:g}" if isinstance(value, float) else str(value), "not said"
            )
            entry.committed.connect(partial(self._keep, trial.id, name))
            form.add(CALLED.get(name, name), entry)
            self.panel.fields[f"next {name}"] = entry
        self.panel.column.addWidget(form)
        paste = button("paste runs", self._paste, kind="link", tip="From a sheet: a run a line")
        self.panel.column.addWidget(row(paste, button("from a file …", self._open, kind="link")))
        choose = button("a picture of it …", partial(self._choose_picture, trial), kind="link",
                        tip="Of the next run; it stays where it is, the run keeps its name")  # fmt: skip
        self.panel.column.addWidget(row(self.switch.button(trial.id), choose))
        self.panel.column.addWidget(self.switch.said())

    def _reader(self, trial: Trial, name: str) -> Callable[[str], Any]:
        """How a text of the next run is read: distances in metres, signals in decibels."""
        if name == "value":
            return number_reader("dB", empty=True)
        if name == "setting":
            return number_reader("m" if trial.counts == "packets" else "", empty=True)
        return str.strip

    def kept(self, trial: Trial) -> dict[str, Any]:
        """What the next run has in common with the last."""
        last = trial.runs[-1] if trial.runs else Run()
        found = {name: getattr(last, name) for name in (*KEPT, "was")} | self.next.get(trial.id, {})
        levels = found.get("levels", last.levels)
        full = len(levels) == len(trial.factors)
        return found | {"levels": levels if full else (False,) * len(trial.factors)}

    def _keep(self, trial_id: str, name: str, value: Any) -> None:
        self.next.setdefault(trial_id, {})[name] = value if value is not None or name == "setting" else ""

    def mark(self, good: bool) -> None:
        """One run more, good or bad."""
        r = self.panel.result
        if r is None or not self.view.isVisible() or r.trial.counts != "pass or fail":
            return
        self.store.attempt(edits.add_run, r.trial.id, good=good, on=self.view.desk.today(), **self._figures(r.trial))

    def pressed(self, trial_id: str, said: str) -> None:
        """One run more by the foot switch. Raises NoReading for a line that is no run."""
        trial = next((t for t in self.store.project.trials if t.id == trial_id), None)
        if trial is None:
            raise NoReading("The trial that it was for is gone.")
        run = run_of(trial, said)
        self.store.attempt(edits.add_run, trial.id, on=self.view.desk.today(), **run, **self._figures(trial))

    def _result(
        self, form: Form, trial: Trial, name: str, text: str, read: Callable[[str], Any], hint: str
    ) -> None:  # fmt: skip
        """A field whose entry is a run."""
        field = EntryField(read, f"{trial.name}: {text}")
        field.show_text("", hint)
        field.committed.connect(partial(self._entered, field, name))
        form.add(text, field)
        self.panel.fields[name] = field

    def _entered(self, field: EntryField, name: str, value: Any) -> None:
        r = self.panel.result
        if r is None or value in {None, ""}:
            return
        run = {"received": value[0], "sent": value[1]} if name == "packets" else {name: value}
        self.store.attempt_or(field.complain, edits.add_run, r.trial.id, on=self.view.desk.today(), **run,
                              **self._figures(r.trial))  # fmt: skip

    def _levels(self, form: Form, trial: Trial) -> None:
        """The level of each two-level setting in the next run."""
        now = self.kept(trial).get("levels") or (False,) * len(trial.factors)
        for n, factor in enumerate(trial.factors):
            choice = Choice(
                [("", factor.low or "low"), ("high", factor.high or "high")], f"{trial.name}: {factor.name}"
            )
            choice.show_value("high" if n < len(now) and now[n] else "")
            choice.picked.connect(partial(self._set_level, trial, n))
            form.add(factor.name, choice)
            self.panel.fields[f"level {n + 1}"] = choice

    def _set_level(self, trial: Trial, number: int, word: str) -> None:
        now = list(self.kept(trial).get("levels") or (False,) * len(trial.factors))
        now += [False] * (len(trial.factors) - len(now))
        now[number] = bool(word)
        self.next.setdefault(trial.id, {})["levels"] = tuple(now[: len(trial.factors)])

    def _figures(self, trial: Trial) -> dict[str, Any]:
        """What is said of the next run; a note and a picture are of that one run alone."""
        figures = {k: v for k, v in self.kept(trial).items() if v not in {None, "", ()}}
        for name in {"was", "value"} - set(ASKED.get(trial.counts, ())):
            figures.pop(name, None)
        for name in (*ONCE, "value"):
            self.next.get(trial.id, {}).pop(name, None)
        return figures

    def _choose_picture(self, trial: Trial) -> None:
        path, _ = QFileDialog.getOpenFileName(self.view, "A picture of the run", "", "Pictures (*.png *.jpg *.jpeg)")
        if path:
            self._keep(trial.id, "picture", path)
            self.view.refresh()

    def _paste(self) -> None:
        self.take(clipboard_text())

    def _open(self) -> None:
        if text := open_table(self.view, "Runs"):
            self.take(text)

    def take(self, text: str) -> None:
        """Runs from a sheet; where one makes no sense that is said, and nothing is taken."""
        r = self.panel.result
        if r is None:
            return
        try:
            rows = read_runs(r.trial, text)
            self.store.apply(edits.add_runs(self.store.project, r.trial.id, rows))
        except ProjectError as error:
            QMessageBox.warning(self.view, "The runs were not taken", str(error))
