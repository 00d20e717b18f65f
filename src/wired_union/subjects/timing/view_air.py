"""Radio links on one card: each with what arrives over distance, and its time on the air."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMenu, QWidget

from wired_union.subjects.timing.air import AIR, LinkResult
from wired_union.subjects.timing.edits_shared import add_link
from wired_union.subjects.timing.findings_air import RULES
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.picture_air import clearance_words, energy_words, link_picture, link_words
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show


class AirCard(ListCard):
    """All links, and one more."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__(theme, "Through the air")
        self._store, self._theme = store, theme
        self.share = label("", "mute", wrap=True)
        self.box.addWidget(self.share)
        self.box.addLayout(self.listed)
        self.box.addWidget(button("+ a radio link", self._offer, kind="link"))
        self.strengths: dict[str, Canvas] = {}
        self._said: dict[str, Any] = {}

    def show_all(self) -> None:
        """Draw what the store holds."""
        found = self._store.assessment.of(AIR)
        if list(self.strengths) != [r.link.id for r in found]:
            self._rebuild(found)
        whole = sum(r.hour_share for r in found)
        self.share.setText(f"On the air {show(whole, 'share')} of the hour, all together. {RULES}" if found else
                           "A link says how long each packet takes, and whether it gets through.")  # fmt: skip
        for r in found:
            energy = energy_words(self._store.project.concept, r)
            clear = clearance_words(r)
            words = "; ".join(filter(None, (link_words(r), energy)))
            self._said[r.link.id].setText(f"{words}. {clear}".removesuffix(" "))
            self.strengths[r.link.id].show_layout(lambda w, h, r=r: link_picture(r, self._theme.kit, w))  # type: ignore[misc]

    def _rebuild(self, found: tuple[LinkResult, ...]) -> None:
        empty(self.listed)
        self.strengths, self._said = {}, {}
        for r in found:
            canvas, said = Canvas(self._theme, name=f"Strength of {r.link.name}"), label("", "mute", wrap=True)
            self.listed.addWidget(button(r.link.name, partial(self._pick, r.link.id), kind="link"))
            for widget in (said, canvas):
                self.listed.addWidget(widget)
            self.strengths[r.link.id], self._said[r.link.id] = canvas, said

    def _pick(self, link_id: str) -> None:
        self._store.pick(SharedPick("radio_links", link_id))

    def _offer(self) -> None:
        """The radios of the concept, and one by name."""
        menu = QMenu(self)
        for item in self._store.project.concept.items:
            if item.part.kind == "radio":
                menu.addAction(item.name, partial(self._add, item.id))
        menu.addAction("another one", partial(self._add, ""))
        menu.popup(self.cursor().pos())

    def _add(self, item_id: str) -> None:
        self.add_named(self, item_id)

    def add_named(self, parent: QWidget, item_id: str) -> None:
        """Ask for a name, and add it."""
        name, meant = ask.word(parent, "A radio link", "What goes where? “Position to the shore”")
        if meant and self._store.attempt(add_link, name=name, item=item_id):
            self._pick(self._store.project.concept.radio_links[-1].id)
