"""Ways driven by counting on a card: where each ends up, and what every other heading or correction would leave."""

from functools import partial

from PyQt6.QtWidgets import QMenu

from wired_union.project.model import WheelLoad
from wired_union.subjects.timing.edits_shared import add_way
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.picture_way import way_picture
from wired_union.subjects.timing.ways import WAYS, others_of, way_words
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show


class WaysCard(ListCard):
    """All of them, and one more."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__(theme, "Ways driven by counting")
        self._store, self._theme = store, theme
        self.box.addLayout(self.listed)
        self.box.addWidget(button("+ a way", self._offer, kind="link",
                                  tip="How far off a machine is that counts its wheels' turns"))  # fmt: skip

    def show_all(self) -> None:
        """Draw what the store holds."""
        empty(self.listed)
        for r in self._store.assessment.of(WAYS):
            self.listed.addWidget(button(r.way.name, partial(self._pick, r.way.id), kind="link"))
            words = way_words(r)
            self.listed.addWidget(label(f"{words[:1].upper()}{words[1:]}.", "mute", wrap=True))
            canvas = Canvas(self._theme, name=f"Way {r.way.name}")
            canvas.show_layout(lambda w, h, r=r: way_picture(r, self._theme.kit, w))  # type: ignore[misc]
            self.listed.addWidget(canvas)
            others = [f"{words} {show(off.most_across_m, 'm')}" for words, _, off in others_of(r)] if r.off else []
            if others:
                self.listed.addWidget(label(f"Across it would be with {'; '.join(others)}.", "mute", wrap=True))

    def _pick(self, way_id: str) -> None:
        self._store.pick(SharedPick("ways", way_id))

    def _offer(self) -> None:
        """The wheels of the concept, and one without."""
        menu = QMenu(self)
        for load in self._store.project.concept.loads:
            if isinstance(load, WheelLoad):
                menu.addAction(f"on {load.name}", partial(self.add, load.id))
        menu.addAction("another one", partial(self.add, ""))
        menu.popup(self.cursor().pos())

    def add(self, load_id: str) -> None:
        """Ask for a name, and add it."""
        name, meant = ask.word(self, "A way", "From where to where? “Gate to the first station”")
        if meant and self._store.attempt(add_way, name=name, load=load_id):
            self._pick(self._store.project.concept.ways[-1].id)
