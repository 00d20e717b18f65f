"""Texts under each other, wrapped to the width there is and painted by one widget."""

from collections.abc import Sequence

from msgspec import Struct
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFont, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wired_union.picture.palette import SIZES
from wired_union.ui.theme import Theme

WRAPPED = int(Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
APART, USUAL_WIDE, BOUNDLESS = 3.0, 220.0, 1e6


class Paragraph(Struct, frozen=True):
    """A text in one look; `beside` stands at the right of its first line in the ink `beside_ink`, a word or figures."""

    text: str
    ink: str = "ink"
    role: str = "base"
    bold: bool = False
    beside: str = ""
    beside_ink: str = "ink"
    figures: bool = False


def muted(text: str) -> Paragraph:
    """What explains and does not decide."""
    return Paragraph(text, "mute", "small")


class Prose(QWidget):
    """Paragraphs. One widget, since a label for each costs several layouts and a style of its own."""

    def __init__(self, theme: Theme, paragraphs: Sequence[Paragraph]) -> None:
        super().__init__()
        self._theme, self._paragraphs = theme, tuple(paragraphs)
        self._laid: dict[int, tuple[list[QRectF], float]] = {}
        self.setAccessibleName(self.said)
        policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    @property
    def said(self) -> str:
        """All that stands here, a paragraph a line."""
        return "\n".join(f"{p.text} {p.beside}".rstrip() for p in self._paragraphs)

    def heightForWidth(self, width: int) -> int:
        return round(self._lay_out(width)[1] + 0.5)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(USUAL_WIDE), 0)  # the height follows from the width that it is given

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(USUAL_WIDE / 2), 0)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        for paragraph, place in zip(self._paragraphs, self._lay_out(self.width())[0], strict=True):
            painter.setFont(self._font(paragraph))
            painter.setPen(self._theme.colour(paragraph.ink))
            painter.drawText(place, WRAPPED, paragraph.text)
            if paragraph.beside:
                self._paint_beside(painter, paragraph, place)
        painter.end()

    def _paint_beside(self, painter: QPainter, paragraph: Paragraph, place: QRectF) -> None:
        """The word at the right, on the base line of the text at its left."""
        base = place.top() + self._theme.metrics(self._size(paragraph), "words", paragraph.bold).ascent()
        painter.setFont(self._theme.font(*_face_beside(self._theme, paragraph)))
        painter.setPen(self._theme.colour(paragraph.beside_ink))
        painter.drawText(QPointF(self.width() - self._beside_wide(paragraph), base), paragraph.beside)

    def _lay_out(self, width: int) -> tuple[list[QRectF], float]:
        """Where each paragraph stands in a width, and the height of all."""
        if width not in self._laid:  # a layout asks for the same few widths, with and without a scroll bar
            places: list[QRectF] = []
            y = 0.0
            for one in self._paragraphs:
                room = width - (self._beside_wide(one) + self._theme.px(8) if one.beside else 0)
                metrics = self._theme.metrics(self._size(one), "words", one.bold)
                high = metrics.boundingRect(QRectF(0, 0, max(room, 1), BOUNDLESS), WRAPPED, one.text).height()
                places.append(QRectF(0, y, max(room, 1), high))
                y += high + self._theme.px(APART)
            self._laid[width] = (places, max(y - self._theme.px(APART), 0))
        return self._laid[width]

    def _beside_wide(self, paragraph: Paragraph) -> float:
        return self._theme.width(paragraph.beside, *_face_beside(self._theme, paragraph))

    def _size(self, paragraph: Paragraph) -> float:
        return self._theme.px(SIZES[paragraph.role])

    def _font(self, paragraph: Paragraph) -> QFont:
        return self._theme.font(self._size(paragraph), bold=paragraph.bold)


def _face_beside(theme: Theme, paragraph: Paragraph) -> tuple[float, str, bool]:
    """Size, family and weight of what stands beside."""
    if paragraph.figures:
        return theme.px(SIZES["base"]), "figures", False
    return theme.px(SIZES["small"]), "words", True
