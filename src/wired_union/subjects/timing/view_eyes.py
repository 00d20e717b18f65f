"""Cameras and what looks through their pictures, on a card: how many of them, and how old what they say is."""

from functools import partial

from PyQt6.QtWidgets import QMenu

from wired_union.subjects.timing.edits_shared import add_eye
from wired_union.subjects.timing.eyes import EYES, eye_words
from wired_union.subjects.timing.pick import SharedPick
from wired_union.ui import ask
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


class EyesCard(ListCard):
    """All of them, and one more."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__(theme, "Pictures that are looked through")
        self._store = store
        self.box.addLayout(self.listed)
        self.box.addWidget(
            button("+ an eye", self._offer, kind="link", tip="A camera with what looks for something in it")
        )

    def show_all(self) -> None:
        """Write what the store holds."""
        empty(self.listed)
        for r in self._store.assessment.of(EYES):
            self.listed.addWidget(button(r.eye.name, partial(self._pick, r.eye.id), kind="link"))
            words = eye_words(r)
            self.listed.addWidget(label(f"{words[:1].upper()}{words[1:]}.", "mute", wrap=True))

    def _pick(self, eye_id: str) -> None:
        self._store.pick(SharedPick("eyes", eye_id))

    def _offer(self) -> None:
        """The cameras of the concept, and one by name."""
        menu = QMenu(self)
        for item in self._store.project.concept.items:
            if item.part.kind == "camera":
                menu.addAction(item.name, partial(self.add, item.id))
        menu.addAction("another one", partial(self.add, ""))
        menu.popup(self.cursor().pos())

    def add(self, item_id: str) -> None:
        """Ask for a name, and add it."""
        name, meant = ask.word(self, "An eye", "What does it look for? “Marker”, “Line on the floor”")
        if meant and self._store.attempt(add_eye, name=name, item=item_id):
            self._pick(self._store.project.concept.eyes[-1].id)
