"""Packets on a card: a strip of bits each; the panel has their fields, and saves them as code."""

from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QMessageBox, QVBoxLayout, QWidget

from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.timing_model import Packet, PacketField
from wired_union.subjects.timing.edits_shared import add_field, add_packet, remove_field, set_field
from wired_union.subjects.timing.packet_code import c_code, python_code
from wired_union.subjects.timing.packets import PACKETS, PacketResult
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.picture_packet import packet_picture, packet_words
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import EntryField, Form, button, empty, label, number_reader
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

FIELDS = (("least", "from"), ("most", "to"), ("resolution", "in steps of"))


USUAL = {
    "flag": (1.0, "Yes or no: one bit"), "identity": (15.0, "Who sends it: one of 16"),
    "answer": (1.0, "A request, or the answer to one: one bit"),
    "sequence": (255.0, "Counts up: what is lost is seen"),
}  # fmt: skip
"""What many packets have besides numbers."""


class PacketsCard(ListCard):
    """All packets, and one more."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__(theme, "Packets, bit by bit")
        self._store, self._theme = store, theme
        self.box.addLayout(self.listed)
        self.box.addWidget(button("+ a packet", self._add, kind="link"))
        self.strips: dict[str, Canvas] = {}
        self._said: dict[str, Any] = {}

    def show_all(self) -> None:
        """Draw what the store holds."""
        found = self._store.assessment.of(PACKETS)
        if list(self.strips) != [r.packet.id for r in found]:
            self._rebuild(found)
        for r in found:
            self._said[r.packet.id].setText(packet_words(r))
            self.strips[r.packet.id].show_layout(lambda w, h, r=r: packet_picture(r, self._theme.kit, w, ""))  # type: ignore[misc]

    def _rebuild(self, found: tuple[PacketResult, ...]) -> None:
        empty(self.listed)
        self.strips, self._said = {}, {}
        for r in found:
            canvas, said = Canvas(self._theme, name=f"Bits of {r.packet.name}"), label("", "mute", wrap=True)
            canvas.chosen.connect(lambda _, p=r.packet.id: self._pick(p))
            self.listed.addWidget(button(r.packet.name, partial(self._pick, r.packet.id), kind="link"))
            self.listed.addWidget(said)
            self.listed.addWidget(canvas)
            self.strips[r.packet.id], self._said[r.packet.id] = canvas, said

    def _pick(self, packet_id: str) -> None:
        self._store.pick(SharedPick("packets", packet_id))

    def _add(self) -> None:
        name, meant = ask.word(self, "A packet", "What does it carry? “Position and battery”")
        if meant and self._store.attempt(add_packet, name=name):
            self._pick(self._store.project.concept.packets[-1].id)

    # the panel

    def fields_form(self, packet: Packet) -> QWidget:
        """Every field with its ends and its step; one more; and the packet as code."""
        held = QWidget()
        column = QVBoxLayout(held)
        column.setContentsMargins(0, 0, 0, 0)
        for field in packet.fields:
            column.addWidget(label(field.name, "heading"))
            form = Form(self._theme)
            for name, text in FIELDS:
                form.add(text, self._entry(packet, field, name, text))
            gone = partial(self._store.attempt, remove_field, packet.id, field.id)
            form.add("", button(f"without {field.name}", gone, kind="link"))
            column.addWidget(form)
        column.addWidget(button("+ a field", partial(self.add_field, packet.id), kind="link"))
        row = QHBoxLayout()
        for name, (most, tip) in USUAL.items():
            add = partial(self._store.attempt, add_field, packet.id, name, least=0.0, most=most, resolution=1.0)
            row.addWidget(button(f"+ {name}", add, kind="link", tip=tip))
        column.addLayout(row)
        for text, write, suffix in (("save as Python", python_code, "py"), ("save as C", c_code, "h")):
            made = button(text, partial(self._save, packet, write, suffix), kind="link")
            made.setEnabled(bool(packet.fields))
            column.addWidget(made)
        return held

    def _entry(self, packet: Packet, field: PacketField, name: str, text: str) -> EntryField:
        entry = EntryField(number_reader(""), f"{field.name}: {text}")
        entry.show_text(np.format_float_positional(getattr(field, name), trim="-"))
        entry.committed.connect(
            lambda v: self._store.attempt_or(entry.complain, set_field, packet.id, field.id, **{name: v})
        )
        return entry

    def add_field(self, packet_id: str) -> None:
        """Ask for the name of one more field."""
        name, meant = ask.word(self, "A field", "What is it? “Latitude”, from −90 to 90 in steps of 0.00001")
        if meant:
            self._store.attempt(add_field, packet_id, name)

    def _save(self, packet: Packet, write: Any, suffix: str) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save the packet as code", f"{packet.id}.{suffix}")
        if path:
            try:
                write_bytes(Path(path), write(packet).encode())
            except DocumentError as error:
                QMessageBox.warning(self, "Packet as code", str(error))
