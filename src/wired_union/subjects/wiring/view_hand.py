"""What people's parts hand each other, and the operator's controls, each on a card."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMessageBox

from wired_union.project.documents import DocumentError, write_bytes
from wired_union.subjects.wiring.agreed import HANDED
from wired_union.subjects.wiring.edits import add_control, add_interface
from wired_union.subjects.wiring.exports import controls_card
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.ui import ask
from wired_union.ui.fields import button, empty, label
from wired_union.ui.list_card import ListCard
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

Pick = Callable[[WiringPick], None]


class HandedCard(ListCard):
    """Every interface with how far it is, and one more."""

    def __init__(self, store: Store, theme: Theme, pick: Pick) -> None:
        super().__init__(theme, "What people’s parts hand each other")
        self._store, self._pick = store, pick
        self.box.addLayout(self.listed)
        self.box.addWidget(
            button("+ an interface", self._add, kind="link",
                   tip="A signal, a message or a mechanical face that one person's part hands to another's")
        )  # fmt: skip

    def show_all(self) -> None:
        """Write what the store holds."""
        empty(self.listed)
        names = {i.id: i.name for i in self._store.project.concept.items}
        for handed in self._store.assessment.of(HANDED):
            i = handed.interface
            act = partial(self._pick, WiringPick("interfaces", i.id))
            self.listed.addWidget(button(i.name, act, kind="link"))
            ends = f"{names.get(i.one, 'nobody yet')} → {names.get(i.other, 'nobody yet')}"
            self.listed.addWidget(label(f"{ends}: {handed.stands}", "mute", wrap=True))

    def _add(self) -> None:
        hint = "What is handed over? “Wheel speeds”, “Lid on box”, “Bumper pressed”"
        name, meant = ask.word(self, "An interface", hint)
        if meant and self._store.attempt(add_interface, name=name):
            self._pick(WiringPick("interfaces", self._store.project.concept.interfaces[-1].id))


class ControlsCard(ListCard):
    """Every control of the operator, ways to steer side by side, one more, and the card to print."""

    def __init__(self, store: Store, theme: Theme, pick: Pick) -> None:
        super().__init__(theme, "Controls of the operator")
        self._store, self._pick = store, pick
        self.box.addLayout(self.listed)
        self.box.addWidget(button("+ a control", self._add, kind="link", tip="Which stick, key or button does what"))
        self.printed = button("save a card to print", self._save, kind="link")
        self.box.addWidget(self.printed)

    def show_all(self) -> None:
        """Write what the store holds."""
        empty(self.listed)
        concept = self._store.project.concept
        states = {s.id: s.name for s in concept.states}
        self.printed.setVisible(bool(concept.controls))
        for c in sorted(concept.controls, key=lambda c: c.scheme):
            self.listed.addWidget(button(c.name, partial(self._pick, WiringPick("controls", c.id)), kind="link"))
            scheme = f"{c.scheme}: " if c.scheme else ""
            where = f" in {states[c.state]}" if c.state in states else ""
            self.listed.addWidget(
                label(f"{scheme}{c.input or 'no input yet'} → {c.does or 'nothing yet'}{where}", "mute", wrap=True)
            )

    def _add(self) -> None:
        name, meant = ask.word(self, "A control", "What is it called? “Drive”, “Stop”, “Take a core”")
        if meant and self._store.attempt(add_control, name=name):
            self._pick(WiringPick("controls", self._store.project.concept.controls[-1].id))

    def _save(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save the card", "controls.html", "HTML (*.html)")
        if path:
            save(self, path, controls_card(self._store.assessment).encode())


def save(parent: "HandedCard | ControlsCard | object", path: str, data: bytes) -> bool:
    """Write a file whole; what keeps it from being written is said."""
    try:
        write_bytes(Path(path), data)
    except DocumentError as error:
        QMessageBox.warning(parent if isinstance(parent, ListCard) else None, "It was not saved", str(error))
        return False
    return True
