"""The margin strip: every limit, always on screen, and the line above it that says what the last edit moved."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QScrollArea, QWidget

from wired_union.kernel.results import Measure
from wired_union.kernel.ripple import Ripple
from wired_union.picture.wire import limit_words, strip_cell
from wired_union.ui.canvas import PictureButton
from wired_union.ui.fields import button, label
from wired_union.ui.theme import Theme

HEIGHT, LEAST_CELL = 76.0, 128.0


def spoken(measure: Measure) -> str:
    """A limit in words, for a screen reader."""
    gaps = f", lacks {'; '.join(measure.missing)}" if measure.missing else ""
    return f"{measure.label}: {measure.shown} {limit_words(measure)}, {measure.verdict.value}{gaps}"


class MarginStrip(QScrollArea):
    """Cells of equal width, one a limit that is computed; scrolls when there are more than fit."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setObjectName("strip")
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidgetResizable(True)
        self._inside = QWidget()
        self._row = QHBoxLayout(self._inside)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(0)
        self.setWidget(self._inside)
        self._cells: dict[str, PictureButton] = {}
        self._measures: tuple[Measure, ...] = ()
        self._rings: dict[str, Measure] = {}
        self.setFixedHeight(theme.px(HEIGHT))
        self.setAccessibleName("Limits")

    def show_measures(self, measures: tuple[Measure, ...], preview: Ripple | None) -> None:
        """Show the limits, with rings where a pending edit would land."""
        if [m.id for m in measures] != list(self._cells):
            self._rebuild(measures)
        self._measures = measures
        self._rings = {m.id: m.after for m in preview.moves if m.moved} if preview else {}
        self._draw()

    def cell(self, measure_id: str) -> PictureButton:
        return self._cells[measure_id]

    def ring_of(self, measure_id: str) -> Measure | None:
        """Where the ring of a limit stands, None without one."""
        return self._rings.get(measure_id)

    def _rebuild(self, measures: tuple[Measure, ...]) -> None:
        for cell in self._cells.values():
            self._row.removeWidget(cell)
            cell.deleteLater()
        self._cells = {}
        for measure in measures:
            cell = PictureButton(self._theme)
            cell.clicked.connect(lambda _=False, i=measure.id: self.chosen.emit(i))
            self._cells[measure.id] = cell
            self._row.addWidget(cell)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._draw()

    def _draw(self) -> None:
        if not self._measures:
            return
        least = self._theme.px(LEAST_CELL)
        view = self.viewport()
        room = view.width() if view is not None else self.width()
        width = max(room // len(self._measures), least)
        scrolls = width * len(self._measures) > room
        height = self._theme.px(HEIGHT) - (self._theme.px(10) if scrolls else 1)
        for measure in self._measures:
            picture = strip_cell(measure, self._theme.kit, width, height, self._rings.get(measure.id))
            self._cells[measure.id].show_picture(picture, spoken(measure))
            self._cells[measure.id].setToolTip(spoken(measure))


class RippleLine(QFrame):
    """What the last edit moved; the team can say why, for the notebook."""

    reasoned = pyqtSignal(str)
    undone = pyqtSignal()

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

    @property
    def text(self) -> str:
        return self._text.text()

    def say(self, text: str, *, edit: bool = False) -> None:
        """Show a text; an edit can be reasoned about and undone."""
        self._text.setText(text)
        self._text.setToolTip(text)
        self.why.setVisible(edit)
        self._undo.setVisible(edit)
        self.setVisible(bool(text))

    def _reasoned(self) -> None:
        if self.why.text().strip():
            self.reasoned.emit(self.why.text().strip())
            self.why.clear()
