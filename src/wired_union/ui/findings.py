"""Findings that act: what, why, and remedies that can be tried on."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, QRect, Qt, QTimerEvent, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QPushButton, QVBoxLayout, QWidget
from PyQt6.sip import isdeleted

from wired_union.kernel.results import Finding, Remedy
from wired_union.kernel.ripple import Outcome, Ripple, outcome, ripple, ripples
from wired_union.project.change import Change, next_letter
from wired_union.ui.canvas import TellsPointed
from wired_union.ui.fields import button, wrapped
from wired_union.ui.prose import Paragraph, Prose, muted
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

BAR = 4
"""Width of the bar at the left of a card, in the colour of its verdict."""
BESIDE = 150.0
"""Width of a remedy's text, with room for a small button beside it."""


class PreviewButton(TellsPointed, QPushButton):
    """A button that says when it is pointed at or focused."""

    def __init__(self, text: str, kind: str = "link") -> None:
        super().__init__(text)
        self.setObjectName(kind)
        self.setAutoDefault(False)


class ChangeButton(PreviewButton):
    """A change on a button: pointing at it shows rings, pressing it does it."""

    def __init__(self, text: str, change: Change, store: Store, kind: str = "link") -> None:
        super().__init__(text, kind)
        self._change, self._store = change, store
        self._effect: Ripple | None = None
        self.pointed.connect(self._show)
        self.clicked.connect(lambda _=False: store.apply(change))

    def _show(self, on: bool) -> None:
        if self._change.before is not self._store.project:
            return
        if self._effect is None:
            self._effect = ripple(self._store.assessment, self._change)
        self._store.show_preview(self._effect if on else None)


class RemedyButton(PreviewButton):
    """A remedy: pointing at it shows rings, pressing it does it, or goes to the part where only people can.

    What it does for the finding is worked out with that of others once the screen is drawn (`Outcomes`), and written
    behind it; `useless` is told where that is nothing.
    """

    gone_to = pyqtSignal()
    useless = pyqtSignal()

    def __init__(self, remedy: Remedy, finding: Finding, store: Store, theme: Theme, room: float = BESIDE) -> None:
        self._text, self._room = "→ " + remedy.label, room
        super().__init__(wrapped(self._text, theme, room))
        self.change, self._finding, self._store, self._theme = remedy.change, finding, store, theme
        self._is_fact = remedy.is_fact
        self._effect: Ripple | None = None
        self._told: Outcome | None = None
        self.pointed.connect(self._show)
        self.clicked.connect(self._act)

    def _worked_out(self) -> Ripple | None:
        """The ripple of the remedy; None once the project has moved on, or where only people can act."""
        if self.change is None or self.change.before is not self._store.project:
            return None
        if self._effect is None:
            self._effect = ripple(self._store.assessment, self.change)
        return self._effect

    def _show(self, on: bool) -> None:
        self._store.show_preview(self._worked_out() if on else None)

    def _act(self) -> None:
        if self.change is None:
            self.gone_to.emit()
        else:
            self._store.apply(self.change)

    @property
    def due(self) -> bool:
        """Whether it is still there, for the project as it is now."""
        return not isdeleted(self) and self.change is not None and self.change.before is self._store.project

    def weigh(self, found: Ripple) -> None:
        """Keep what the remedy does, and what that is worth."""
        self._effect, self._told = found, outcome(self._store.assessment, found, self._finding)

    def say(self) -> None:
        """Say what the remedy does, once that is known."""
        told = self._told
        if told is None:
            return
        if not told.helps and not self._is_fact:
            self.useless.emit()
        elif told.words:
            self.setText(wrapped(f"{self._text}: {told.words}", self._theme, self._room))


A_FEW = 2
"""Remedies worked out between two looks at the keyboard; more at once would be cheaper and hold up the hands."""


WAIT_MS = 60


class Outcomes(QObject):
    """Works out what the remedies on a screen do, a few at a time, once it has been drawn; says it of all at once."""

    def __init__(self, buttons: list[RemedyButton], store: Store, parent: QObject) -> None:
        super().__init__(parent)
        self._buttons, self._store, self._next, self._waits = buttons, store, 0, 0
        self.startTimer(0)

    def _again(self, event: QTimerEvent, after_ms: int) -> None:
        self.killTimer(event.timerId())
        self._waits = after_ms
        self.startTimer(after_ms)

    def timerEvent(self, event: QTimerEvent | None) -> None:
        assert event is not None
        if QApplication.mouseButtons() != Qt.MouseButton.NoButton:  # something is dragged: it has every frame
            self._again(event, WAIT_MS)
            return
        if self._waits:
            self._again(event, 0)
            return
        now = [b for b in self._buttons[self._next : self._next + A_FEW] if b.due]
        self._next += A_FEW
        for made, found in zip(now, ripples(self._store.assessment, [b.change for b in now if b.change]), strict=True):
            made.weigh(found)
        if self._next >= len(self._buttons):
            self.killTimer(event.timerId())
            for made in self._buttons:
                if made.due:
                    made.say()


def as_concept_button(change: Change, store: Store, try_as: Callable[[Change], None]) -> QPushButton:
    """A small button that takes a change up as the next concept instead of making it in this one."""
    letter = next_letter(store.project).upper()
    made = button(
        f"as {letter}", lambda: try_as(change), kind="link", tip=f"Try it as concept {letter}; this one stays"
    )
    made.setAccessibleName(f"Try as concept {letter}")
    return made


class FindingCard(QWidget):
    """One finding. `go` opens what it is about; `try_as` takes a remedy up as a concept of its own."""

    def __init__(
        self, finding: Finding, store: Store, theme: Theme, go: Callable[[Finding], None],
        try_as: Callable[[Change], None], room: float = BESIDE,
    ) -> None:  # fmt: skip
        super().__init__()
        box = QVBoxLayout(self)
        box.setContentsMargins(theme.px(10) + BAR, theme.px(8), theme.px(8), theme.px(7))
        box.setSpacing(theme.px(3))
        verdict = finding.verdict.value
        told = [Paragraph(finding.title, role="heading", bold=True, beside=verdict, beside_ink=f"{verdict}_text"),
                Paragraph(finding.what)]  # fmt: skip
        self.prose = Prose(theme, [*told, muted(finding.why)] if finding.why else told)
        box.addWidget(self.prose)
        self.remedies: list[RemedyButton] = []
        self._finding, self._store, self._theme, self._room = finding, store, theme, room
        self._hands = partial(go, finding), try_as

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("soft"))
        painter.fillRect(QRect(0, 0, BAR, self.height()), self._theme.colour(self._finding.verdict.value))
        painter.end()

    def offer(self) -> None:
        """Work out what could be done, and put it under the finding."""
        gone_to, try_as = self._hands
        box = self.layout()
        assert box is not None
        for remedy in self._finding.remedies:
            made = RemedyButton(remedy, self._finding, self._store, self._theme, self._room)
            made.gone_to.connect(gone_to)
            line = QWidget()
            row = QHBoxLayout(line)
            row.setContentsMargins(0, 0, 0, 0)
            row.addWidget(made, 1)
            if remedy.change is not None:
                row.addWidget(as_concept_button(remedy.change, self._store, try_as))
            made.useless.connect(line.hide)
            self.remedies.append(made)
            box.addWidget(line)
