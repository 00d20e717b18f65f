"""Try instead: alternatives with what each does to every limit that moves."""

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.choose.alternatives import Alternative, never_mended
from wired_union.kernel.ripple import Move
from wired_union.picture.shapes import Box, Kit, Picture, Shape
from wired_union.project.change import Change
from wired_union.ui.canvas import PictureButton
from wired_union.ui.fields import button, empty, label
from wired_union.ui.findings import as_concept_button
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show, show_change

FIRST = 5
CORNER = 34.0


def moves_worth_showing(alternative: Alternative) -> list[Move]:
    """The limits that move by a two-thousandth or more, the ones that change verdict first."""
    moved = [m for m in alternative.ripple.moved if m.before.verdict is not m.after.verdict or _size(m) > 5e-4]
    return sorted(moved, key=lambda m: m.before.verdict is m.after.verdict)


def _size(move: Move) -> float:
    if move.change is None or not move.before.value:
        return 1.0
    return abs(move.change / move.before.value)


def try_picture(alternative: Alternative, kit: Kit, width: float, *, lit: bool = False) -> Picture:
    """Name, how it fits, and up to six moves with an arrow, a figure and a colour for better or worse.

    The top right corner stays free for a small button.
    """
    left, inner = kit.px(11), width - kit.px(22)
    moves = moves_worth_showing(alternative)[:6]
    said = f"breaks: {alternative.breaks[0]}" if alternative.breaks else _fits(alternative)
    lines = kit.few_lines(said, inner, 3, "small")
    rows = -(-len(moves) // 3)
    height = kit.px(30) + kit.px(15) * len(lines) + kit.px(36) * rows + kit.px(4)
    ink = "breaks_text" if alternative.breaks else "mute"
    shapes: list[Shape] = [
        Box(0.75, 0.75, width - 1.5, height - 1.5, "soft" if lit else "card", "ink" if lit else "line", 4,
            1.8 if lit else 1.0),
        kit.words(left, kit.px(15), kit.cut(alternative.title, inner - kit.px(CORNER), "base", bold=True), "base",
                  bold=True),
    ]  # fmt: skip
    for i, line in enumerate(lines):
        shapes.append(kit.words(left, kit.px(32) + kit.px(15) * i, line, "small", ink))
    top = kit.px(30) + kit.px(15) * len(lines)
    for i, move in enumerate(moves):
        x, y = left + inner / 3 * (i % 3), top + kit.px(36) * (i // 3)
        tone = {True: "holds_text", False: "tight_text", None: "ink"}[move.better]
        tone = "breaks_text" if move.after.verdict.value == "breaks" and not move.better else tone
        shapes.append(kit.figures(x, y + kit.px(9), kit.cut(move.after.label, inner / 3 - 6, "small", "figures"),
                                  "small", "mute"))  # fmt: skip
        shapes.append(kit.figures(x, y + kit.px(24), _figure(move), "base", tone, bold=True))
    return Picture(width, height, tuple(shapes))


def _figure(move: Move) -> str:
    if move.change is None:
        return move.after.shown
    arrow = "▲ " if move.change > 0 else "▼ "
    return arrow + show(abs(move.change), move.after.unit)


def _fits(alternative: Alternative) -> str:
    said = _fit_words(alternative)
    shelf = alternative.candidate.shelf_words if alternative.candidate is not None else ""
    return f"{shelf}; {said}" if shelf else said


def _fit_words(alternative: Alternative) -> str:
    moves = alternative.ripple.moves
    mended = [m.after.label for m in moves if m.before.verdict.value == "breaks" and m.after.verdict.value != "breaks"]
    worse = [m.after.label for m in moves if m.after.verdict.value == "breaks" and m.before.verdict.value != "breaks"]
    if worse:
        return f"fits, but {', '.join(worse).lower()} would break"
    return f"fits, and mends {', '.join(mended).lower()}" if mended else "fits"


class TryList(QWidget):
    """The alternatives as cards. Pointing shows rings; pressing swaps."""

    more = pyqtSignal()

    def __init__(self, store: Store, theme: Theme, try_as: Callable[[Change], None]) -> None:
        super().__init__()
        self._store, self._theme, self._try_as = store, theme, try_as
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(theme.px(7))
        self._shown = FIRST
        self.cards: list[PictureButton] = []

    def show_tries(self, tries: list[Alternative], width: float, *, working: bool = False) -> None:
        """Show the best of the alternatives; `working` says that more are being worked out."""
        empty(self._box)
        self.cards = []
        if not working and (left := never_mended(tries)):
            self._box.addWidget(label(f"None of these mends {' or '.join(left)}.", "mute", wrap=True))
        for alternative in tries[: self._shown]:
            card = PictureButton(self._theme)
            card.show_picture(try_picture(alternative, self._theme.kit, width), _spoken(alternative))
            card.pointed.connect(lambda on, a=alternative, c=card: self._point(a, c, on, width))
            card.clicked.connect(lambda _=False, a=alternative: self._store.apply(a.change))
            if alternative.breaks:
                card.setToolTip("\n".join(alternative.breaks))
            corner = as_concept_button(alternative.change, self._store, self._try_as)
            corner.setParent(card)
            corner.move(round(width) - self._theme.px(CORNER + 4), self._theme.px(3))
            self.cards.append(card)
            self._box.addWidget(card)
        if working:
            self._box.addWidget(label("working out the rest …", "mute"))
        elif len(tries) > self._shown:
            more = button(f"show the other {len(tries) - self._shown}", self._show_all, kind="link")
            self._box.addWidget(more)
        elif not tries:
            self._box.addWidget(label("Nothing else of this class in the catalogue.", "mute", wrap=True))

    def _show_all(self) -> None:
        self._shown = 1000
        self.more.emit()

    def reset(self) -> None:
        self._shown = FIRST

    def _point(self, alternative: Alternative, card: PictureButton, on: bool, width: float) -> None:
        current = alternative.change.before is self._store.project
        self._store.show_preview(alternative.ripple if on and current else None)
        card.show_picture(try_picture(alternative, self._theme.kit, width, lit=on))


def _spoken(alternative: Alternative) -> str:
    moves = ", ".join(f"{m.after.label} {show_change(m.change, m.after.unit)}"
                      for m in moves_worth_showing(alternative) if m.change is not None)  # fmt: skip
    breaks = f"; breaks {alternative.breaks[0]}" if alternative.breaks else ""
    return f"Try {alternative.title}: {moves or 'nothing moves'}{breaks}"
