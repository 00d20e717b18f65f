"""What stands beside a pack on the Power screen: another pack through diodes, or in turn through a switch."""

from functools import partial
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout

from wired_union.kernel.results import tried
from wired_union.project.model import Item
from wired_union.subjects.power import edits
from wired_union.ui.fields import button, label, wrapped
from wired_union.ui.findings import ChangeButton
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.value_form import ValueForm

WAYS = (
    ("through Schottky diodes", {"how": "diodes", "drop_v": 0.4}),
    ("through ideal diodes", {"how": "diodes", "drop_v": 0.02}),
    ("one after the other", {"how": "switch"}),
)
"""How two packs may be joined, with the voltage that such diodes keep: common practice."""
WORDS = {"drop_v": "a diode keeps", "max_current_a": "bears at most", "how": "joined by"}


class Beside:
    """Fills the panel while a pack is chosen."""

    def __init__(self, store: Store, theme: Theme) -> None:
        self._store, self._theme = store, theme

    def fill(self, column: QVBoxLayout, node: str) -> None:
        """What stands beside it, and what might; nothing for what is no pack of cells alone."""
        concept = self._store.project.concept
        item = next((i for i in concept.items if i.id == node), None)
        if item is None or not _is_cells(item):
            return
        names = {i.id: i.name for i in concept.items}
        for joint in (j for j in concept.joined_packs if j.pack == node):
            name = names[joint.beside]
            column.addWidget(label(f"{name} beside {item.name}", "heading", wrap=True))
            column.addWidget(ValueForm(self._theme, self._store, joint, name, partial(self._set, node, joint.beside),
                                       words=WORDS, skip={"pack", "beside"}))  # fmt: skip
            away = partial(self._store.attempt, edits.part_packs, joint.beside)
            column.addWidget(button(wrapped(f"{name} by itself again", self._theme), away, kind="link"))
        self._offer(column, item)

    def _offer(self, column: QVBoxLayout, item: Item) -> None:
        """Every other pack that feeds nothing, each way."""
        concept = self._store.project.concept
        busy = {j.beside for j in concept.joined_packs} | {j.pack for j in concept.joined_packs} - {item.id}
        for other in (i for i in concept.items if _is_cells(i) and i.id not in {item.id, *busy}):
            for words, figures in WAYS:
                change = tried(edits.join_pack, self._store.project, item.id, other.id, **figures)
                if change is not None:
                    said = wrapped(f"{other.name} beside it, {words}", self._theme)
                    column.addWidget(ChangeButton(said, change, self._store))

    def _set(self, pack: str, beside: str, complain: Any, field: str, new: Any) -> None:
        self._store.attempt_or(complain, edits.join_pack, pack, beside, **{field: new})


def _is_cells(item: Item) -> bool:
    return item.part.pack is not None and item.part.regulator is None
