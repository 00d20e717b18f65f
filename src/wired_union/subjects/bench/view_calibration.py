"""A calibration on the Bench screen: its curve, how far it can be trusted, its points, its figures, its code."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMessageBox, QVBoxLayout
from PyQt6.sip import isdeleted

from wired_union.instruments.door import NoReading
from wired_union.physics.calibration import value_of
from wired_union.project.bench_model import Pair
from wired_union.project.errors import ProjectError
from wired_union.subjects.bench import edits
from wired_union.subjects.bench.calibrations import CALIBRATIONS, Calibrated
from wired_union.subjects.bench.code import c_code, name_of, python_code
from wired_union.subjects.bench.paste import read_pairs
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.picture_calibration import curve_picture, curve_words, error_picture, rest_picture
from wired_union.subjects.bench.view_instruments import REAL, Instruments
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import EntryField, Form, button, label, number_reader
from wired_union.ui.sheets import clipboard_text, open_table, save_code
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, card, row
from wired_union.units import show

WORDS = {"item": "the sensor", "unit": "quantity in", "reading_unit": "it says in", "form": "curve",
         "wanted": "off by at most", "confidence": "holds for",
         "far_off": "what lies far off"}  # fmt: skip
LISTED = 12


class CalibrationCards:
    """Fills the middle of the view and the panel for one calibration."""

    def __init__(self, view: View, fields: dict[str, Any], instruments: Instruments) -> None:
        self.instruments = instruments
        self.view, self.store, self.theme, self.fields = view, view.store, view.theme, fields

    def show(self, box: QVBoxLayout, c: Calibrated) -> None:
        """The curve and the error over the range."""
        curve = Canvas(self.theme, name=f"Curve of {c.calibration.name}")
        kit = self.theme.kit
        curve.show_layout(lambda w, h: curve_picture(c, kit, w))
        points = f"{len(c.pairs)} points"
        rest = Canvas(self.theme, name=f"What is left of each reading of {c.calibration.name}")
        rest.show_layout(lambda w, h: rest_picture(c, kit, w))
        rest.setVisible(c.fit is not None)
        box.addWidget(card(self.theme, row(label(c.calibration.name, "heading"), label(points, "mute")), curve,
                           label(curve_words(c), "mute", wrap=True), rest))  # fmt: skip
        error = Canvas(self.theme, name=f"How far {c.calibration.name} can be trusted")
        error.show_layout(lambda w, h: error_picture(c, kit, w))
        said = f"error over the range, {show(c.calibration.confidence, 'share')} of readings inside"
        box.addWidget(card(self.theme, row(label("How far it can be trusted", "heading"), label(said, "mute")), error))

    def panel(self, c: Calibrated) -> None:
        """Findings, a point more, its figures, its code, its points."""
        column, cal, store = self.view.panel.column, c.calibration, self.store
        column.addWidget(label(cal.name, "title", wrap=True))
        self.view.finding_cards([f for f in store.assessment.findings if f.subject == "bench" and f.of == cal.id][:4])
        self._point(c)
        form = ValueForm(self.theme, store, cal, cal.name, partial(self._set, cal.id), words=WORDS,
                         skip={"pairs", "beyond"}, empties={"wanted": "not said"},
                         measured_in={"wanted": cal.unit, "confidence": "share"})  # fmt: skip
        column.addWidget(form)
        self.fields |= form.fields
        column.addWidget(row(button("as C", partial(self._save, c, "h"), kind="link"),
                             button("as Python", partial(self._save, c, "py"), kind="link"),
                             button("take it away", partial(store.attempt, edits.remove_calibration, value_id=cal.id),
                                    kind="link")))  # fmt: skip
        column.addWidget(label("Points", "heading"))
        for number in range(len(cal.pairs), max(len(cal.pairs) - LISTED, 0), -1):
            p = cal.pairs[number - 1]
            struck = f" · struck out: {p.struck}" if p.struck else ""
            text = f"{number}: {show(p.known, cal.unit)}, {show(p.reading, cal.reading_unit)} {p.session}{struck}"
            made = button(text.strip()[:40], partial(self._strike, cal.id, number, p.struck), kind="link",
                          tip="Count it again" if p.struck else "Strike it out, with the reason")  # fmt: skip
            column.addWidget(made)
            self.fields[f"point {number}"] = made

    def _point(self, c: Calibrated) -> None:
        cal, form = c.calibration, Form(self.theme)
        known = EntryField(number_reader(cal.unit), f"{cal.name}: it was")
        reading = EntryField(number_reader(cal.reading_unit), f"{cal.name}: the sensor said")
        known.show_text("", "by something trusted")
        reading.show_text("", "what it said")
        reading.committed.connect(partial(self._typed, cal.id, known, cal.unit))
        form.add("it was", known)
        form.add("it said", reading)
        self.fields |= {"known": known, "reading": reading}
        self.view.panel.column.addWidget(form)
        tip = "From a sheet: what it was, what the sensor said"
        live = button("read it now", partial(self._live, c, known), kind="link",
                      tip="With the instrument that is chosen on the bench")  # fmt: skip
        self.fields["live"] = live
        self._said = label("", "error", wrap=True)
        self.view.panel.column.addWidget(row(live, button("paste points", self._paste, kind="link", tip=tip)))
        self.view.panel.column.addWidget(row(button("from a file …", self._open, kind="link", tip="CSV or XLSX")))
        self.view.panel.column.addWidget(self._said)
        self._said.hide()

    def _typed(self, cal_id: str, known: EntryField, unit: str, reading: float | None) -> None:
        try:
            value = number_reader(unit)(known.line.text())
        except ValueError as error:
            known.complain(str(error))
            return
        if value is not None and reading is not None:
            self.store.attempt(edits.add_pairs, cal_id, [Pair(known=value, reading=reading)])

    def _live(self, c: Calibrated, known: EntryField) -> None:
        """A point whose reading comes from the instrument; simulated, from the curve as far as there is one."""
        cal, instruments = c.calibration, self.instruments
        try:
            value = number_reader(cal.unit)(known.line.text())
            assert value is not None
            door = instruments.real_door() if instruments.kind in REAL else instruments.bench.beside(_said_at(c, value))
        except (ValueError, NoReading) as error:
            known.complain(str(error))
            return
        instruments.ask(door, lambda read: self.store.attempt(
            edits.add_pairs, cal.id, [Pair(known=value, reading=read, session=self.view.desk.today())]
        ), self._complain)  # fmt: skip

    def _complain(self, text: str) -> None:
        if not isdeleted(self._said):
            self._said.setText(text)
            self._said.setVisible(bool(text))

    def _open(self) -> None:
        if text := open_table(self.view, "Points"):
            self.take(text)

    def _paste(self) -> None:
        self.take(clipboard_text())

    def take(self, text: str) -> None:
        """Points from a sheet; where one makes no sense that is said, and nothing is taken."""
        c = self.current
        if c is None:
            return
        try:
            pairs = read_pairs(c.calibration, text)
            self.store.apply(edits.add_pairs(self.store.project, c.calibration.id, pairs))
        except ProjectError as error:
            QMessageBox.warning(self.view, "The points were not taken", str(error))

    @property
    def current(self) -> Calibrated | None:
        """The one that is selected."""
        picked = self.store.picked(BenchPick).calibration
        return next((c for c in self.store.assessment.of(CALIBRATIONS) if c.calibration.id == picked), None)

    def _set(self, cal_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, edits.set_calibration, value_id=cal_id, **{field: new})

    def _strike(self, cal_id: str, number: int, struck: str) -> None:
        if struck:
            self.store.attempt(edits.strike_pair, cal_id, number, "")
            return
        why, meant = ask.word(self.view, f"Point {number} does not count", "Why? It stays, marked with the reason.")
        if meant and why.strip():
            self.store.attempt(edits.strike_pair, cal_id, number, why)

    def _save(self, c: Calibrated, kind: str) -> None:
        save_code(self.view, name_of(c), kind, partial(c_code if kind == "h" else python_code, c))


def _said_at(c: Calibrated, known: float) -> float:
    """What a simulated sensor would say there."""
    return value_of(c.form, c.fit.coefficients, known) if c.fit is not None else known
