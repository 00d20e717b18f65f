"""What every view has: the store, a work area, a right panel, and when to redraw."""

from collections.abc import Callable, Sequence
from functools import partial

from msgspec import Struct
from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QFrame, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget
from PyQt6.sip import isdeleted

from wired_union.kernel.results import Finding
from wired_union.kernel.subject import Caution
from wired_union.project.change import Change
from wired_union.project.kept import Kept
from wired_union.ui.fields import Elided, label
from wired_union.ui.findings import BESIDE, FindingCard, Outcomes
from wired_union.ui.panel import Panel
from wired_union.ui.places import Places
from wired_union.ui.prose import Paragraph, Prose, muted
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


class Desk(Struct, frozen=True):
    """What the window gives a view: the store, the look, and ways to other places."""

    store: Store
    theme: Theme
    go_to_item: Callable[[str], None]
    go_to_stage: Callable[[str], None]
    add_part: Callable[[str], None]
    try_as: Callable[[Change], None]
    today: Callable[[], str]
    places: Places
    kept: Callable[[], Kept]
    """where pictures and versions of the project are"""
    hand: Callable[[], str]
    """who works here, for the notebook"""
    i_am: Callable[[str], None]
    """say who works here"""
    hand_over: Callable[..., tuple[bytes, list[str]]]
    """(assessment, kept, day, kind, ending, left out, told) to a report, or everything: `app.hand_over`"""


class View(QScrollArea):
    """A stage: its work area is this widget, its right panel is `panel`. It holds no project state."""

    stage = ""
    title = ""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk, self.store, self.theme = desk, desk.store, desk.theme
        self._folding: list[tuple[QBoxLayout, float, Callable[[bool], object]]] = []
        self.setObjectName("workarea")
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.inside = QWidget()
        self.inside.setObjectName("paper")
        self.setWidget(self.inside)
        self.column = QVBoxLayout(self.inside)
        u = self.theme.px
        self.column.setContentsMargins(u(16), u(10), u(14), u(10))
        self.column.setSpacing(u(8))
        head = QHBoxLayout()
        self.head_row = head
        head.setSpacing(u(8))
        head.addWidget(label(self.title, "title"))
        self.subtitle = Elided()
        head.addWidget(self.subtitle, 1)
        self.column.addLayout(head)
        self.panel = Panel(self.theme)
        self.panel.setAccessibleName(f"{self.title}: details")

    def flow(
        self, one: QWidget, other: QWidget, *, wide: QWidget, least: float, parent: QWidget | None = None,
        beside_w: float | None = None,
    ) -> QBoxLayout:  # fmt: skip
        """Two widgets in a row, `wide` stretching, that become a column where the view is narrower than `least`.

        `beside_w` is the width of `one` in the row; in a column it takes what there is. A fixed width would not do: Qt
        counts the height of a column as if each of its widgets had the whole width.
        """
        layout = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        if parent is not None:
            parent.setLayout(layout)
            layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(self.theme.px(8))
        for widget in (one, other):
            layout.addWidget(widget, 1 if widget is wide else 0)

        def beside(wide: bool) -> None:
            one.setMaximumWidth(self.theme.px(beside_w) if wide and beside_w is not None else MOST_WIDE)

        if beside_w is not None:
            one.setMinimumWidth(self.theme.px(beside_w))
        self._folding.append((layout, least, beside))
        return layout

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        for layout, least, beside in self._folding:
            wide = self.width() >= max(self.theme.px(least), _needed(layout))
            beside(wide)
            way = QBoxLayout.Direction.LeftToRight if wide else QBoxLayout.Direction.TopToBottom
            layout.setDirection(way)

    def refresh(self) -> None:
        """Show the store's project and assessment."""
        raise NotImplementedError

    def selection_moved(self) -> None:
        """Show another selection; a view that selects nothing just redraws."""
        self.refresh()

    def previewed(self) -> None:
        """Show or drop a preview; most views leave that to the strip."""

    def write_out(self) -> None:
        """Write what this stage hands over, where it hands over something."""

    def show_item(self, item_id: str) -> None:
        """Bring an item into sight, in the view where items are edited."""

    def finding_cards(
        self, findings: list[Finding], column: QVBoxLayout | None = None, room: float = BESIDE
    ) -> None:  # fmt: skip
        """Put findings into a column, the panel's where none is given; `room` is that of a remedy's words."""
        target = self.panel.column if column is None else column  # an empty layout is falsy
        cards = [FindingCard(f, self.store, self.theme, self._go, self.desk.try_as, room) for f in findings]
        for made in cards:
            target.addWidget(made)
        if self.window() is not None and self.window().isVisible():  # type: ignore[union-attr]
            self._offer(cards)
        else:  # remedies are worked out when they can be looked at
            QTimer.singleShot(0, partial(self._offer, cards))

    def show_cautions(self, cautions: Sequence[Caution]) -> None:
        """Put what can hurt someone under what the panel says."""
        told = [
            p for c in cautions
            for p in (Paragraph(c.title, "tight_text", bold=True), muted(c.text))
        ]  # fmt: skip
        if told:
            self.panel.column.addWidget(Prose(self.theme, told))

    def _offer(self, cards: list[FindingCard]) -> None:
        """Put the remedies under their findings; what each does is worked out once they are drawn."""
        live = [made for made in cards if not isdeleted(made)]
        for made in live:
            made.offer()
        buttons = [b for made in live for b in made.remedies if b.change is not None]
        if buttons:
            Outcomes(buttons, self.store, live[0])

    def _go(self, finding: Finding) -> None:
        if finding.items:
            self.desk.go_to_item(finding.items[0])

    def panel_width(self) -> float:
        """Room for a picture in the panel, whether its scroll bar shows or not."""
        return self.panel.width() - self.theme.px(28 + 11)


def _needed(layout: QBoxLayout) -> int:
    """Width that the widgets of a layout take beside each other, with the margins of the view."""
    widgets = [w for n in range(layout.count()) if (at := layout.itemAt(n)) is not None and (w := at.widget())]
    return sum(w.minimumSizeHint().width() for w in widgets) + layout.spacing() + MARGINS


MARGINS, MOST_WIDE = 60, 16_777_215


def card(theme: Theme, *widgets: QWidget) -> QFrame:
    """A white card with widgets in a column."""
    frame = QFrame()
    frame.setObjectName("card")
    column = QVBoxLayout(frame)
    column.setContentsMargins(theme.px(14), theme.px(10), theme.px(14), theme.px(10))
    column.setSpacing(theme.px(6))
    for widget in widgets:
        column.addWidget(widget)
    return frame


def row(*widgets: QWidget) -> QWidget:
    """Widgets beside each other, to the left."""
    holder = QWidget()
    line = QHBoxLayout(holder)
    line.setContentsMargins(0, 0, 0, 0)
    for widget in widgets:
        line.addWidget(widget)
    line.addStretch(1)
    return holder
