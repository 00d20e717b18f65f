"""What the cards and the panel of the Interlocks screen share: what is selected, and which gates are broken."""

from typing import Any

from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.ui import ask
from wired_union.ui.view import Desk, View


class InterlocksBase(View):
    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.broken: set[str] = set()
        """Gates that are broken to see what is left; of this look only, not of the project."""

    @property
    def picked(self) -> InterlockPick:
        return self.store.picked(InterlockPick)

    def pick(self, room: str, of: str) -> None:
        """Select one thing by its room and id."""
        self.store.pick(InterlockPick(room, of))

    def press_gate(self, gate_id: str) -> None:
        """Break a gate, or mend it again, and select it."""
        self.broken ^= {gate_id}
        if self.picked == InterlockPick("gates", gate_id):
            self.refresh()
        self.pick("gates", gate_id)

    def add(self, room: str, title: str, hint: str, edit: Any, **figures: Any) -> None:
        """Ask for a name, add one more, and select it."""
        name, meant = ask.word(self, title, hint)
        if meant and self.store.attempt(edit, name=name, **figures):
            self.pick(room, getattr(self.store.project.concept, room)[-1].id)
