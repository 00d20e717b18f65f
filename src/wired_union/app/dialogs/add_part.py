"""Add a part: search the catalogue, see what fits and why the rest does not."""

import re

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wired_union import units
from wired_union.catalogue.library import Library, LibraryError
from wired_union.catalogue.own_shapes import SHAPES, own_part
from wired_union.catalogue.parts import catalogue
from wired_union.choose.candidates import free_of, refusals_new, shelf, source_for
from wired_union.kernel.ripple import ripple
from wired_union.kernel.subject import Selection
from wired_union.picture.card import gist
from wired_union.project import edits
from wired_union.project.change import Change
from wired_union.project.model import Part
from wired_union.ui.fields import Choice, button, label
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


class AddPart(QDialog):
    """Catalogue parts for one lane. Moving over them previews their ripple on the strip."""

    def __init__(
        self, store: Store, theme: Theme, lane: str, parent: QWidget | None = None, library: Library | None = None
    ) -> None:
        super().__init__(parent)
        self._store, self._theme, self._lane, self._library = store, theme, lane, library
        self._shelf = shelf(store.project)
        name = next(s.name for s in store.project.concept.subsystems if s.id == lane)
        self.setWindowTitle(f"Add a part to {name}")
        self.resize(theme.px(640), theme.px(520))
        general = {p.id for p in catalogue()}
        own = [i.part for i in store.project.concept.items if i.part.id not in general]
        shelved = [s.part for s in store.project.shelf]
        self._general = list({p.id: p for p in (*catalogue(), *own, *shelved)}.values())
        self._parts = self._general
        self._why: dict[str, tuple[str, ...]] = {}
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search: motor 12 V, pressure, 5 V 3 A …")
        self.search.setAccessibleName("Search parts")
        kinds = sorted({p.kind for p in self._general})
        self.kind = Choice([("", "every class"), *((k, k) for k in kinds)], "Class")
        self.kind.setMinimumContentsLength(len("every class"))
        self.only_fitting = QCheckBox("only what fits")
        self.list = QListWidget()
        self.list.setAccessibleName("Parts")
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._count = label("", "mute")
        self._lay_out()
        self.search.textChanged.connect(self._fill)
        self.kind.activated.connect(self._fill)
        self.only_fitting.toggled.connect(self._fill)
        self.list.currentItemChanged.connect(self._preview)
        self.list.itemActivated.connect(lambda _: self.add())
        self._fill()
        self.search.setFocus()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        row = QHBoxLayout()
        row.addWidget(self.search, 1)
        row.addWidget(self.kind)
        row.addWidget(self.only_fitting)
        column.addLayout(row)
        column.addWidget(self._count)
        column.addWidget(self.list, 1)
        foot = QHBoxLayout()
        self.own_kind = Choice([(k, k) for k in SHAPES], "What kind of own part")
        foot.addWidget(label("Not here?", "mute"))
        foot.addWidget(button("Make our own part:", self.add_own, kind="link"))
        foot.addWidget(self.own_kind)
        foot.addStretch(1)
        foot.addWidget(button("Cancel", self.reject))
        foot.addWidget(button("Add it", self.add, kind="main"))
        column.addLayout(foot)

    def _fill(self) -> None:
        words = search_words(self.search.text())
        kind = str(self.kind.currentData() or "")
        self.list.clear()
        fitting = 0
        self._parts = [*self._general, *self._from_library(kind)]
        shown = [p for p in self._parts if (not kind or p.kind == kind) and _matches(p, words)]
        shown.sort(key=lambda p: (bool(self._refused(p)), free_of(self._shelf, p, 1)[0] == 0))
        for part in shown:
            why = self._refused(part)
            fitting += not why
            if why and self.only_fitting.isChecked():
                continue
            said = f"does not fit: {'; '.join(why)}" if why else "fits"
            free, origin = free_of(self._shelf, part, 1)
            said += f" · {origin}, {free} on the shelf" if free else ""
            price = units.show(part.price, self._store.project.brief.currency)
            figures = f"{gist(part)} · {units.show(part.mass_kg, 'kg')} · {price}"
            entry = QListWidgetItem(f"{part.name}    {figures}\n{said}")
            entry.setData(Qt.ItemDataRole.UserRole, part.id)
            if why:
                entry.setForeground(self._theme.colour("mute"))
            self.list.addItem(entry)
        self._count.setText(f"{fitting} of {len(shown)} fit what the rails, the controller and the limits leave")
        if self.list.count():
            self.list.setCurrentRow(0)

    def _refused(self, part: Part) -> tuple[str, ...]:
        if part.id not in self._why:
            self._why[part.id] = tuple(refusals_new(self._store.assessment, part))
        return self._why[part.id]

    def _from_library(self, kind: str) -> list[Part]:
        """What the store's library has for what is typed; nothing while nothing is typed."""
        if self._library is None or not self.search.text().strip():
            return []
        try:
            found = self._library.search(self.search.text(), (kind,) if kind else ())
        except LibraryError as error:
            self._store.refused.emit(str(error))
            return []
        return [s.part for s in found.stocks]

    @property
    def part(self) -> Part | None:
        entry = self.list.currentItem()
        wanted = entry.data(Qt.ItemDataRole.UserRole) if entry else None
        return next((p for p in self._parts if p.id == wanted), None)

    def _change(self, part: Part) -> Change:
        origin = free_of(self._shelf, part, 1)[1]
        fed_by = source_for(self._store.assessment, part)
        return edits.add_item(self._store.project, self._lane, part, source=fed_by, origin=origin)

    def _preview(self) -> None:
        part = self.part
        self._store.show_preview(ripple(self._store.assessment, self._change(part)) if part else None)

    def add(self) -> None:
        """Add the part at the cursor, fed from what suits it."""
        part = self.part
        if part is not None and self._store.apply(self._change(part)):
            self._store.change(Selection, item=self._store.project.concept.items[-1].id)
            self.accept()

    def add_own(self) -> None:
        """Add a part of the team's own, with every figure still to be given."""
        name = self.search.text().strip() or "Our own part"
        kind = str(self.own_kind.currentData())
        part = own_part(kind, name)
        if self._store.apply(edits.add_item(self._store.project, self._lane, part)):
            item = self._store.project.concept.items[-1]
            self._store.attempt(edits.set_knowledge, item.id, "guess")
            self._store.change(Selection, item=item.id)
            self.accept()

    def done(self, result: int) -> None:
        self._store.show_preview(None)
        super().done(result)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.search.hasFocus():
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(max(0, min(self.list.currentRow() + step, self.list.count() - 1)))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.add()
        else:
            super().keyPressEvent(event)


def search_words(typed: str) -> list[str]:
    """What must be found: words, and figures together with their unit, so that "12 V" is not 12 mA at 5 V."""
    plain = typed.lower().replace("\u202f", " ")
    return [re.sub(r"\s+", " ", w) for w in re.findall(r"\d[\d.]*\s+[a-zµω]{1,2}\b|\S+", plain)]


def _matches(part: Part, words: list[str]) -> bool:
    text = f"{part.name} {part.kind} {gist(part)} {part.note}".lower().replace("\u202f", " ")
    return all(w in text for w in words)
