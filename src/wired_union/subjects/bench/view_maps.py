"""Analogue chains and surfaces on the Bench screen: their pictures in the middle, their figures in the panel."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMessageBox, QVBoxLayout

from wired_union.project.errors import ProjectError
from wired_union.subjects.bench import map_edits as edits
from wired_union.subjects.bench.chains import CHAINS, Chained
from wired_union.subjects.bench.code_surface import surface_c, surface_name, surface_python
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.picture_maps import chain_picture, chain_words, surface_picture, surface_words
from wired_union.subjects.bench.surfaces import SURFACED, Surfaced
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.sheets import clipboard_text, open_table, save_code
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, card, row
from wired_union.units import show

LISTED = 10
CHAIN_WORDS = {"item": "the sensor", "unit": "quantity in", "volts_per_unit": "V for one of it",
               "offset_v": "V at nothing",
               "reference_v": "converter reference", "noise_v": "noise before it", "sample_hz": "samples a second",
               "fastest_hz": "fastest change", "corner_hz": "filter corner", "hum_hz": "a disturbance at",
               "hum_v": "its amplitude", "averaged": "samples averaged", "wanted": "off by at most",
               "confidence": "holds for"}  # fmt: skip
SURFACE_WORDS = {"unit": "quantity in", "x_name": "first input", "x_unit": "it in", "y_name": "second input",
                 "y_unit": "that in", "form": "surface", "wanted": "off by at most",
                 "confidence": "holds for"}  # fmt: skip
EMPTIES = {"wanted": "not said", "corner_hz": "no filter", "hum_hz": "none known", "hum_v": "not known"}


class MapCards:
    """Fills the middle of the view and the panel for one chain or one surface."""

    def __init__(self, view: View, fields: dict[str, Any]) -> None:
        self.view, self.store, self.theme, self.fields = view, view.store, view.theme, fields

    @property
    def current(self) -> Chained | Surfaced | None:
        """The one that is selected."""
        picked, assessment = self.store.picked(BenchPick), self.store.assessment
        chain = next((c for c in assessment.of(CHAINS) if c.chain.id == picked.chain), None)
        return chain or next((s for s in assessment.of(SURFACED) if s.surface.id == picked.surface), None)

    def show(self, box: QVBoxLayout, now: Chained | Surfaced) -> None:
        """Its picture, its words."""
        kit = self.theme.kit
        if isinstance(now, Chained):
            canvas = Canvas(self.theme, name=f"From the sensor to the number, {now.chain.name}")
            canvas.show_layout(lambda w, h: chain_picture(now, kit, w))
            box.addWidget(card(self.theme, label(now.chain.name, "heading"), canvas,
                               label(chain_words(now), "mute", wrap=True)))  # fmt: skip
            return
        canvas = Canvas(self.theme, name=f"{now.surface.name} over both inputs")
        canvas.show_layout(lambda w, h: surface_picture(now, kit, w))
        note = f"{now.surface.y_name} over {now.surface.x_name}, lines of one value"
        box.addWidget(card(self.theme, row(label(now.surface.name, "heading"), label(note, "mute")), canvas,
                           label(surface_words(now), "mute", wrap=True)))  # fmt: skip

    def panel(self, now: Chained | Surfaced) -> None:
        """Findings and figures; of a surface its points and its code."""
        value = now.chain if isinstance(now, Chained) else now.surface
        column, store = self.view.panel.column, self.store
        column.addWidget(label(value.name, "title", wrap=True))
        self.view.finding_cards([f for f in store.assessment.findings if f.subject == "bench" and f.of == value.id])
        is_chain = isinstance(now, Chained)
        units = {"wanted": value.unit, "confidence": "share"}
        set_one = partial(self._set, edits.set_chain if is_chain else edits.set_surface, value.id)
        words = CHAIN_WORDS if is_chain else SURFACE_WORDS
        form = ValueForm(self.theme, store, value, value.name, set_one, words=words,
                         skip={"points", "beyond"}, empties=EMPTIES, measured_in=units)  # fmt: skip
        column.addWidget(form)
        self.fields |= form.fields
        if isinstance(now, Surfaced):
            self._points(now)
        away = edits.remove_chain if is_chain else edits.remove_surface
        column.addWidget(button("take it away", partial(store.attempt, away, value_id=value.id), kind="link"))

    def _points(self, s: Surfaced) -> None:
        column, surface = self.view.panel.column, s.surface
        paste = button("paste points", self._paste, kind="link", tip="Both inputs and the value, or a table")
        column.addWidget(row(paste, button("from a file …", self._open, kind="link")))
        column.addWidget(row(button("as C", partial(self._save, s, "h"), kind="link"),
                             button("as Python", partial(self._save, s, "py"), kind="link")))  # fmt: skip
        for number in range(len(surface.points), max(len(surface.points) - LISTED, 0), -1):
            p = surface.points[number - 1]
            struck = f" · struck out: {p.struck}" if p.struck else ""
            text = (f"{number}: {show(p.x, surface.x_unit)}, {show(p.y, surface.y_unit)}:"
                    f" {show(p.value, surface.unit)}{struck}")  # fmt: skip
            made = button(text[:44], partial(self._strike, surface.id, number, p.struck), kind="link")
            column.addWidget(made)
            self.fields[f"point {number}"] = made

    def _paste(self) -> None:
        self.take(clipboard_text())

    def _open(self) -> None:
        if text := open_table(self.view, "Points"):
            self.take(text)

    def take(self, text: str) -> None:
        """Points from a sheet; where one makes no sense that is said, and nothing is taken."""
        now = self.current
        if not isinstance(now, Surfaced):
            return
        try:
            points = edits.read_points(now.surface, text)
            self.store.apply(edits.add_points(self.store.project, now.surface.id, points))
        except ProjectError as error:
            QMessageBox.warning(self.view, "The points were not taken", str(error))

    def _strike(self, surface_id: str, number: int, struck: str) -> None:
        if struck:
            self.store.attempt(edits.strike_point, surface_id, number, "")
            return
        why, meant = ask.word(self.view, f"Point {number} does not count", "Why? It stays, marked with the reason.")
        if meant and why.strip():
            self.store.attempt(edits.strike_point, surface_id, number, why)

    def _save(self, s: Surfaced, kind: str) -> None:
        save_code(self.view, surface_name(s), kind, partial(surface_c if kind == "h" else surface_python, s))

    def add_chain(self) -> None:
        """Ask what it is called, and add it."""
        name, meant = ask.word(self.view, "An analogue chain", "What is read over volts? “Pack voltage”, “Distance”")
        if meant and self.store.attempt(edits.add_chain, name=name):
            self.store.pick(BenchPick(chain=self.store.project.concept.analogue_chains[-1].id))

    def add_surface(self) -> None:
        """Ask what it is called, and add it."""
        name, meant = ask.word(self.view, "A surface", "What is it over two inputs? “Grip force”, “Pressure”")
        if meant and self.store.attempt(edits.add_surface, name=name):
            self.store.pick(BenchPick(surface=self.store.project.concept.surfaces[-1].id))

    def _set(self, change: Any, value_id: str, complain: Any, field: str, new: Any) -> None:
        self.store.attempt_or(complain, change, value_id=value_id, **{field: new})
