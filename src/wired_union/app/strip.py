"""The margin strip: every limit, always on screen, and the line above it that says what the last edit moved."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QScrollArea, QWidget

from wired_union.kernel.results import Measure
from wired_union.kernel.ripple import Ripple
from wired_union.picture.strip import HIGH, Arrangement, arrange, bundle_cell, cell_least, strip_cell
from wired_union.picture.wire import limit_words
from wired_union.ui.canvas import PictureButton
from wired_union.ui.fields import button, label
from wired_union.ui.theme import Theme


def spoken(measure: Measure) -> str:
    """A limit in words, for a screen reader."""
    gaps = f", lacks {'; '.join(measure.missing)}" if measure.missing else ""
    return f"{measure.label}: {measure.shown} {limit_words(measure)}, {measure.verdict.value}{gaps}"


class MarginStrip(QScrollArea):
    """Every limit, always on screen. What holds gathers in a bundle where there is no room for all; it opens."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setObjectName("strip")
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidgetResizable(True)
        self._inside = QWidget()
        self._inside.setObjectName("paper")
        self.setWidget(self._inside)
        self._cells: dict[str, PictureButton] = {}
        self._measures: tuple[Measure, ...] = ()
        self._rings: dict[str, Measure] = {}
        self.opened = False
        self._drawn: tuple[object, ...] = ()
        self.bundle = PictureButton(theme)
        self.bundle.setParent(self._inside)
        self.bundle.clicked.connect(self.toggle)
        self.setFixedHeight(theme.px(HIGH))
        self.setAccessibleName("Limits")

    def show_measures(self, measures: tuple[Measure, ...], preview: Ripple | None) -> None:
        """Show the limits, with rings where a pending edit would land."""
        self._measures = measures
        self._rings = {m.id: m.after for m in preview.moves if m.moved} if preview else {}
        for gone in set(self._cells) - {m.id for m in measures}:
            self._cells.pop(gone).deleteLater()
        for measure in measures:
            if measure.id not in self._cells:
                cell = PictureButton(self._theme)
                cell.setParent(self._inside)  # before it is shown, or it would be a window of its own
                cell.clicked.connect(lambda _=False, i=measure.id: self.chosen.emit(i))
                self._cells[measure.id] = cell
        self._draw()

    def cell(self, measure_id: str) -> PictureButton:
        return self._cells[measure_id]

    def ring_of(self, measure_id: str) -> Measure | None:
        """Where the ring of a limit stands, None without one."""
        return self._rings.get(measure_id)

    @property
    def bundled(self) -> tuple[str, ...]:
        """Ids of the limits in the bundle."""
        return tuple(m.id for m in self._arranged().bundled)

    def toggle(self) -> None:
        """Open the bundle, or close it again."""
        self.opened = not self.opened and bool(self.bundled)
        self._draw()
        if self.opened:
            self._cells[self.bundled[0]].setFocus()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._draw()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._draw()

    @property
    def _window_height(self) -> int:
        window = self.window()
        return window.height() if window is not None else 800

    def _arranged(self) -> Arrangement:
        return arrange(self._measures, self._theme.kit, float(self.width()))

    def _draw(self) -> None:
        """Put the cells that are shown in their places: one row, or rows of all limits while the bundle is open."""
        looks = (self._measures, self._rings, self.opened, self.width(), self._window_height)
        if not self.isVisible() or looks == self._drawn:
            return
        self._drawn = looks
        arranged = self._arranged()
        self.opened = self.opened and bool(arranged.bundled)
        high, wide = self._theme.px(HIGH), self.width()
        if self.opened:
            least = max(cell_least(m, self._theme.kit) for m in self._measures)
            across = max(int(wide // least), 1)
            cell_w, bundle_w, shown = wide // across, wide // across, self._measures
        else:
            shown, cell_w = arranged.shown, int(arranged.cell_w)
            bundle_w = max(wide - cell_w * len(shown), int(arranged.bundle_w))
            across = len(shown) + 1
            if cell_w * len(shown) + (bundle_w if arranged.bundled else 0) > wide > cell_w:
                across = wide // cell_w  # a second row, before anything that decides is out of sight
                bundle_w = cell_w = wide // across
        rows = -(-(len(shown) + bool(arranged.bundled)) // across)
        scrolls = cell_w > wide
        self.setHorizontalScrollBarPolicy(_BARS[scrolls])
        most = max(int(self._window_height * MOST_SHARE // high), 1)
        self.setVerticalScrollBarPolicy(_BARS[rows > most])
        self.setFixedHeight(min(rows, most) * high + (self._theme.px(10) if scrolls else 0))
        corners = [((n % across) * cell_w, (n // across) * high) for n in range(len(shown) + 1)]
        self._inside.setMinimumSize(cell_w if scrolls else 0, rows * high)
        places = {m.id: corner for m, corner in zip(shown, corners, strict=False)}
        for measure in self._measures:
            self._place(measure, places.get(measure.id), cell_w, high)
        self._place_bundle(arranged, corners[-1], bundle_w, high)

    def _place(self, measure: Measure, where: tuple[int, int] | None, width: float, height: float) -> None:
        cell = self._cells[measure.id]
        cell.setVisible(where is not None)
        cell.setToolTip(spoken(measure))
        cell.setAccessibleName(spoken(measure))
        if where is not None:
            picture = strip_cell(measure, self._theme.kit, width, height - 1, self._rings.get(measure.id))
            cell.show_picture(picture, spoken(measure))
            cell.move(*where)

    def _place_bundle(self, arranged: Arrangement, where: tuple[int, int], width: float, height: float) -> None:
        self.bundle.setVisible(bool(arranged.bundled))
        if not arranged.bundled:
            return
        kit = self._theme.kit
        picture = bundle_cell(arranged.bundled, kit, width, height - 1, self._rings, opened=self.opened)
        names = ", ".join(m.label for m in arranged.bundled)
        self.bundle.show_picture(picture, f"{len(arranged.bundled)} limits gathered: {names}")
        self.bundle.setToolTip(f"{names}  (F6)")
        self.bundle.move(*where)


MOST_SHARE = 0.45
"""Of the window's height that the open bundle may take; beyond it scrolls."""
_BARS = {False: Qt.ScrollBarPolicy.ScrollBarAlwaysOff, True: Qt.ScrollBarPolicy.ScrollBarAsNeeded}


class RippleLine(QFrame):
    """What the last edit moved; the team can say why, for the notebook."""

    reasoned = pyqtSignal(str)
    undone = pyqtSignal()
    acted = pyqtSignal()
    """what was offered is asked for"""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("rippleLine")
        self.setFixedHeight(theme.px(30))
        self._text = label("", "figures")
        self.why = QLineEdit()
        self.why.setPlaceholderText("why? Enter keeps it in the notebook")
        self.why.setAccessibleName("Reason for the last edit")
        self.why.setFixedWidth(theme.px(250))
        self.why.setFixedHeight(theme.px(24))
        self.why.returnPressed.connect(self._reasoned)
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(14), 0, theme.px(12), 0)
        row.addWidget(self._text, 1)
        row.addWidget(self.why)
        self._undo = button("undo", self.undone.emit, kind="link")
        row.addWidget(self._undo)
        self.act = button("", self.acted.emit, kind="link")
        row.addWidget(self.act)

    @property
    def text(self) -> str:
        return self._text.text()

    def say(self, text: str, *, edit: bool = False, act: str = "") -> None:
        """Show a text; an edit can be reasoned about and undone, and something else offered by its name."""
        self._text.setText(text)
        self._text.setToolTip(text)
        self.why.setVisible(edit)
        self._undo.setVisible(edit)
        self.act.setText(act)
        self.act.setVisible(bool(act))
        self.setVisible(bool(text))

    def _reasoned(self) -> None:
        if self.why.text().strip():
            self.reasoned.emit(self.why.text().strip())
            self.why.clear()
