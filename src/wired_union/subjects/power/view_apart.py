"""What spreads, told apart in a panel: drawn off the interface thread, shown as it comes."""

from collections.abc import Callable, Iterator, Sequence
from typing import Any, Protocol

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.kernel.subject import Node
from wired_union.subjects.power.spread.picture import advice
from wired_union.subjects.power.spread.told import Told
from wired_union.subjects.power.spread.told_picture import told_picture
from wired_union.subjects.power.spread.unknowns import Unknown
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import label
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.worker import Worker

REST_MS = 150
"""How long hands must rest before anything is drawn, so that no edit waits for it."""
DRAWING, NONE_SAYS = "Drawing missions …", "No part says what it works at."


class Drawable(Protocol):
    """What can be drawn in lots."""

    @property
    def gaps(self) -> tuple[str, ...]: ...

    def lots(self) -> Iterator[Any]: ...


Rows = Callable[[Any], Sequence[Told]]
Shares = Callable[[Any], list[tuple[Unknown, float]]]


Words = Callable[[Any], str]


def _nothing_more(_: object) -> str:
    return ""


class Apart:
    """Begins to draw when its panel is filled with figures that have moved on, and stops when it is left."""

    def __init__(self, store: Store, theme: Theme, parent: QWidget, node: Node, called: str) -> None:
        self._store, self._theme, self._node, self._called = store, theme, node, called
        self.worker = Worker(parent)
        self.worker.told.connect(self._told)
        self.worker.failed.connect(self._failed)
        self._rest = QTimer(parent)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self._begin)
        self._of: Drawable | None = None
        self._number = 0
        """Of the run that is listened to."""
        self.some: Any = None
        """What has been drawn so far; None while nothing has."""
        self._tell: Callable[[str], None] = self._nothing

    @staticmethod
    def _nothing(_: str) -> None:
        """Nobody is told."""

    def fill(self, column: QVBoxLayout, rows: Rows, shares: Shares, words: Words = _nothing_more) -> None:
        """The rows of what is drawn, what there is to say of it, and what to measure first."""
        odds: Drawable = self._store.assessment.of(self._node)
        if odds.gaps:
            self.rest()
            column.addWidget(label(f"Not drawn yet: {odds.gaps[0]}.", "mute", wrap=True))
            return
        table, first = Canvas(self._theme, name=self._called), label("", "mute", wrap=True)
        column.addWidget(table)
        column.addWidget(first)

        def tell(meanwhile: str) -> None:
            said = list(rows(self.some)) if self.some is not None else []
            told = (words(self.some), advice(shares(self.some))) if said else (meanwhile,)
            first.setText(" ".join(filter(None, told)))
            table.show_layout(lambda w, h: told_picture(said, self._theme.kit, w))

        self._tell = tell
        if odds is not self._of:
            self.worker.stop()
            self._number += 1  # what an older run still says is of other figures
            self._of, self.some = odds, None
            self._rest.start()
        tell(DRAWING if self.some is None else NONE_SAYS)

    def _begin(self) -> None:
        """Hands rest: what is on show now is worth drawing."""
        if self._of is not None:
            self._number += 1
            self.worker.start(self._number, self._of.lots)

    def _told(self, number: int, some: object) -> None:
        if number == self._number and self._of is not None:
            self.some = some
            self._tell(NONE_SAYS)

    def _failed(self, number: int, why: str) -> None:
        if number == self._number:
            self._tell(why)

    def rest(self) -> None:
        """Another picture is on show: nothing goes on."""
        self.worker.stop()
        self._rest.stop()
        self._number += 1
        self._of, self.some, self._tell = None, None, self._nothing
