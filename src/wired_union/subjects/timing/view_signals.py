"""Wires without bytes on a card: servo frames, PWM, samples of a converter, edges of an encoder."""

from functools import partial

from PyQt6.QtWidgets import QMenu

from wired_union.project.signal_model import Signal
from wired_union.project.value import choices
from wired_union.subjects.timing.edits_shared import add_signal
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.signals import SIGNALS, signal_words
from wired_union.ui import ask
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

USUAL: dict[str, dict[str, float]] = {
    "servo frames": {"frequency_hz": 50.0}, "PWM": {"frequency_hz": 20e3}, "analogue": {"frequency_hz": 1e3},
    "encoder": {},
}  # fmt: skip


class SignalsCard(ListCard):
    """All of them, and one more."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__(theme, "Pulses, samples and edges")
        self._store = store
        self.box.addLayout(self.listed)
        self.box.addWidget(
            button("+ a wire without bytes", self._offer, kind="link",
                   tip="Servo frames, a PWM, a sensor's voltage, an encoder")
        )  # fmt: skip

    def show_all(self) -> None:
        """Write what the store holds."""
        empty(self.listed)
        for r in self._store.assessment.of(SIGNALS):
            self.listed.addWidget(button(r.signal.name, partial(self._pick, r.signal.id), kind="link"))
            self.listed.addWidget(label(f"{signal_words(r)}.", "mute", wrap=True))

    def _pick(self, signal_id: str) -> None:
        self._store.pick(SharedPick("signals", signal_id))

    def _offer(self) -> None:
        menu = QMenu(self)
        for kind in choices(Signal, "kind"):
            menu.addAction(kind, partial(self.add, kind))
        menu.popup(self.cursor().pos())

    def add(self, kind: str) -> None:
        """Ask for a name, and add one of a kind."""
        name, meant = ask.word(self, f"A wire: {kind}", "What does it carry? “Gripper servo”, “Force”, “Wheel turns”")
        if meant and self._store.attempt(add_signal, name=name, kind=kind, **USUAL[kind]):
            self._pick(self._store.project.concept.signals[-1].id)
