"""Widgets that show a picture: a canvas whose regions can be pointed at and walked by keys, and a painted button."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QEnterEvent,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy, QToolTip, QWidget

from wired_union.picture.shapes import Picture, Region
from wired_union.ui.painter import StillLayer, paint, paint_shapes
from wired_union.ui.theme import Theme

if TYPE_CHECKING:
    _Widget = QWidget
else:
    _Widget = object

Layout = Callable[[float, float], Picture]
"""(width, height) to the picture of that size."""

CARRIED_PX = 8
"""How far something must be dragged before it is carried rather than clicked."""
LEAST_SHIFT_PX = 2
"""A press that moves no further only selects."""
CURSOR_STEPS = 50
"""How many pushes by key take the cursor from one end of what it reads to the other."""
BRUSH_ALPHA = 0.18
_PUSHES = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
_STEPS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1}


class Canvas(QWidget):
    """Shows what a layout gives for its size. Regions: hover reads and points, click and Enter choose, edges drag, and
    what has the grip "carry" can be carried onto another region. Where a `reader` says something at a place, a cursor
    follows the pointer through all that it reads; Control and an arrow push it. Over what has the grip "brush" a
    stretch is drawn out, or pushed out by Control, Shift and an arrow.

    The signals carry what a region stands for.
    """

    chosen = pyqtSignal(object)
    pointed = pyqtSignal(object)
    dragged = pyqtSignal(object, float)
    dropped = pyqtSignal(object, float)
    carried = pyqtSignal(object, object, bool)
    """What is carried, over what (None for nothing), and whether it is let go there."""
    shifting = pyqtSignal(object, float, float)
    """What has the grip "place" is on its way by so many pixels."""
    shifted = pyqtSignal(object, float, float)
    """It is let go there."""
    nudged = pyqtSignal(object, int, int)
    """It is pushed by Shift and an arrow: to the right, and down."""
    brushed = pyqtSignal(float, float)
    """A stretch of the picture, from its left to its right end; both are one for none."""
    laid_out = pyqtSignal()

    def __init__(self, theme: Theme, layout: Layout | None = None, name: str = "", *, tall: bool = True) -> None:
        super().__init__()
        self._theme, self._lay_out = theme, layout
        self._picture = Picture(0, 0, ())
        self._focused: str = ""
        self._still = StillLayer()
        self._drag: tuple[object, float] | None = None
        self._shift: tuple[object, QPointF] | None = None
        self._carry: tuple[object, QPointF, QPointF] | None = None
        self._brush: tuple[Region, float, float] | None = None
        self._brushed: tuple[float, float] | None = None
        """Where a stretch began that is pushed out by keys, and how far it has come."""
        self._tall = tall
        self._pointed: object = None
        self.reader: Callable[[Region, float], str] | None = None
        self._cursor_x: float | None = None
        self.setMouseTracking(True)
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    @property
    def picture(self) -> Picture:
        return self._picture

    def show_layout(self, layout: Layout) -> None:
        """Show another layout, and take its height where the canvas follows its picture."""
        self._lay_out = layout
        self.lay_out()

    def lay_out(self) -> None:
        if self._lay_out is None or self.width() <= 1:
            return
        self._picture = self._lay_out(float(self.width()), float(self.height()))
        self._cursor_x = None
        if self._tall and round(self._picture.height) != self.height():
            self.setFixedHeight(round(self._picture.height))
        self.update()
        self.laid_out.emit()

    def region(self, wanted: str) -> Region:
        """The region of that id. Raises KeyError where there is none."""
        for region in self._picture.regions:
            if region.id == wanted:
                return region
        raise KeyError(wanted)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self.lay_out()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        self._still.paint(painter, self._picture, self._theme, self.size(), self.devicePixelRatioF())
        exposed = QRectF(event.rect()) if event is not None else None
        paint_shapes(painter, self._picture.shapes, self._theme, exposed)
        if self.hasFocus() and self._focused:
            region = next((r for r in self._picture.regions if r.id == self._focused), None)
            if region is not None:
                painter.setPen(QPen(self._theme.colour("ink"), 1.6, Qt.PenStyle.DotLine))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(QRectF(region.x - 2, region.y - 2, region.w + 4, region.h + 4), 4, 4)
        if self._carry is not None:
            painter.setPen(QPen(self._theme.colour("copper"), 2.0, Qt.PenStyle.DashLine))
            painter.drawLine(self._carry[1], self._carry[2])
        if self._brush is not None:
            region, start, end = self._brush
            shade = QColor(self._theme.colour("copper"))
            shade.setAlphaF(BRUSH_ALPHA)
            painter.fillRect(QRectF(min(start, end), region.y, abs(end - start), region.h), shade)
        reads = self._read_regions() if self._cursor_x is not None else []
        if self._cursor_x is not None and reads:
            painter.setPen(QPen(self._theme.colour("ink"), 1.0))
            top, foot = min(r.y for r in reads), max(r.y + r.h for r in reads)
            painter.drawLine(QPointF(self._cursor_x, top), QPointF(self._cursor_x, foot))
        painter.end()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = event.position()
        if self._drag is not None:
            self.dragged.emit(self._drag[0], at.x() - self._drag[1])
            return
        if self._shift is not None:
            way = at - self._shift[1]
            self.shifting.emit(self._shift[0], way.x(), way.y())
            return
        if self._brush is not None:
            self._brush = (*self._brush[:2], _within(self._brush[0], at.x()))
            self.update()
            return
        if self._carry is not None:
            self._carry = (*self._carry[:2], at)
            self.carried.emit(self._carry[0], self._onto(at), False)
            self.update()
            return
        region = self._picture.at(at.x(), at.y())
        edge = region is not None and region.grip == "edge"
        self._point(region.stands_for if region is not None else None)
        hand = Qt.CursorShape.SplitHCursor if edge else Qt.CursorShape.PointingHandCursor
        self.setCursor(hand if region else Qt.CursorShape.ArrowCursor)
        reads = region is not None and self.reader is not None and bool(self.reader(region, at.x()))
        self._put_cursor(at.x() if reads else None)
        if region is not None:
            QToolTip.showText(event.globalPosition().toPoint(), self._said(region, at.x()), self)
        else:
            QToolTip.hideText()

    def _put_cursor(self, x: float | None) -> None:
        if x != self._cursor_x:
            self._cursor_x = x
            self.update()

    def _read_regions(self) -> list[Region]:
        """The regions in which there is something to read at a place."""
        reader = self.reader
        if reader is None:
            return []
        return [r for r in self._picture.regions if any(reader(r, r.x + r.w * share) for share in (0.0, 0.5, 1.0))]

    def _push_brush(self, steps: int) -> bool:
        """The end of a stretch by so many steps, from where the cursor is; False where none can be drawn out."""
        region = next((r for r in self._picture.regions if r.grip == "brush"), None)
        if region is None:
            return False
        start = self._cursor_x if self._cursor_x is not None else region.x
        start, end = self._brushed or (start, start)
        end = _within(region, end + steps * region.w / CURSOR_STEPS)
        self._brushed = (start, end)
        self.brushed.emit(min(start, end), max(start, end))
        return True

    def _push_cursor(self, steps: int) -> bool:
        """The cursor by so many steps, told in words; False where nothing is to be read."""
        reads = self._read_regions()
        self._brushed = None
        if not reads:
            return False
        region = next((r for r in reads if r.id == self._focused), reads[0])
        at = self._cursor_x if self._cursor_x is not None else region.x
        x = min(max(at + steps * region.w / CURSOR_STEPS, region.x), region.x + region.w)
        self._put_cursor(x)
        said = self._said(region, x)
        self.setAccessibleDescription(said)
        QToolTip.showText(self.mapToGlobal(QPoint(round(x), round(region.y))), said, self)
        return True

    def _said(self, region: Region, x: float) -> str:
        return (self.reader(region, x) if self.reader else "") or region.label

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        region = self._picture.at(event.position().x(), event.position().y())
        if region is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._focus_on(region)
        self._brushed = None
        if region.grip == "brush":
            self._brush = (region, event.position().x(), event.position().x())
            return
        if region.grip == "edge":
            self._drag = (region.stands_for, event.position().x())
        else:
            self.chosen.emit(region.stands_for)
        if region.grip == "place":
            self._shift = (region.stands_for, event.position())
        if region.grip == "carry":
            self._carry = (region.stands_for, event.position(), event.position())

    def _onto(self, at: QPointF) -> object:
        """What lies under a place, besides what is carried; None for nothing, or before it is carried far."""
        assert self._carry is not None
        region = self._picture.at(at.x(), at.y())
        far = (at - self._carry[1]).manhattanLength() > CARRIED_PX
        return region.stands_for if region is not None and far and region.stands_for != self._carry[0] else None

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._drag is not None:
            region, start = self._drag
            self._drag = None
            self.dropped.emit(region, event.position().x() - start)
        if self._shift is not None:
            (moved, came_from), self._shift = self._shift, None
            way = event.position() - came_from
            if way.manhattanLength() > LEAST_SHIFT_PX:
                self.shifted.emit(moved, way.x(), way.y())
        if self._brush is not None:
            (_, start, end), self._brush = self._brush, None
            end = end if abs(end - start) > CARRIED_PX else start
            self.update()
            self.brushed.emit(min(start, end), max(start, end))
        if self._carry is not None:
            of, onto = self._carry[0], self._onto(event.position())
            self._carry = None
            self.carried.emit(of, onto, True)
            self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        regions = self._picture.regions
        key = Qt.Key(event.key())
        current = next((i for i, r in enumerate(regions) if r.id == self._focused), -1)
        if key in _PUSHES and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            stretches = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            if not (self._push_brush if stretches else self._push_cursor)(_STEPS[key]):
                super().keyPressEvent(event)
        elif key in _STEPS and regions:
            shift = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            if shift and current >= 0 and regions[current].grip == "edge":
                self.dropped.emit(regions[current].stands_for, float(_STEPS[key]) * 4)
                return
            if shift and current >= 0 and regions[current].grip == "place":
                self.nudged.emit(regions[current].stands_for, *_PUSHES[key])
                return
            self._focus_on(regions[(current + _STEPS[key]) % len(regions)])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and current >= 0:
            self.chosen.emit(regions[current].stands_for)
        else:
            super().keyPressEvent(event)

    def _point(self, of: object) -> None:
        """Say what is pointed at or walked to, None when nothing is any more."""
        if of != self._pointed:
            self._pointed = of
            self.pointed.emit(of)

    def _focus_on(self, region: Region) -> None:
        self._focused = region.id
        self.setAccessibleDescription(region.label)
        self._point(region.stands_for)
        self.update()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        if not self._focused and self._picture.regions:
            self._focus_on(self._picture.regions[0])
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self._point(None)
        self._put_cursor(None)
        self._brushed = None
        super().focusOutEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        self._point(None)
        self._put_cursor(None)
        super().leaveEvent(event)


def _within(region: Region, x: float) -> float:
    """A place, no further than the ends of a region."""
    return min(max(x, region.x), region.x + region.w)


class TellsPointed(_Widget):
    """What stands before a kind of widget so that it says, by its signal, that it is hovered or focused, or no more.

    Its four handlers cost nothing for the many other events; `event` would be asked for each.
    """

    pointed = pyqtSignal(bool)

    def enterEvent(self, event: QEnterEvent | None) -> None:
        self.pointed.emit(True)
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        self.pointed.emit(False)
        super().leaveEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        self.pointed.emit(True)
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self.pointed.emit(False)
        super().focusOutEvent(event)


class PictureButton(TellsPointed, QAbstractButton):
    """A button that paints a picture; hover and focus say so, for previews."""

    def __init__(self, theme: Theme, name: str = "") -> None:
        super().__init__()
        self._theme = theme
        self._picture = Picture(0, 0, ())
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_picture(self, picture: Picture, name: str = "", *, fixed: bool = True) -> None:
        self._picture = picture
        if name:
            self.setAccessibleName(name)
        if fixed:
            self.setFixedSize(round(picture.width), round(picture.height))
        self.update()

    @property
    def picture(self) -> Picture:
        return self._picture

    def sizeHint(self) -> QSize:
        return QSize(round(self._picture.width), round(self._picture.height))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        paint(painter, self._picture, self._theme, QRectF(event.rect()) if event is not None else None)
        if self.hasFocus():
            painter.setPen(QPen(self._theme.colour("ink"), 1.6, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(1.5, 1.5, self.width() - 3.0, self.height() - 3.0), 4, 4)
        painter.end()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
            return
        super().keyPressEvent(event)
