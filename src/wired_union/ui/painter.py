"""Drawing a picture with Qt: the shapes are laid out already, this only sets pens and draws."""

from collections.abc import Callable, Sequence
from math import inf
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QPainter, QPainterPath, QPixmap, QPolygonF

from wired_union.picture.shapes import Box, Line, Picture, Poly, Ribbon, Ring, Shape, Text
from wired_union.ui.theme import Theme


def paint(painter: QPainter, picture: Picture, theme: Theme, exposed: QRectF | None = None) -> None:
    """Draw a picture at the painter's origin; shapes that stand above or below `exposed` are left out."""
    paint_shapes(painter, picture.still, theme, exposed)
    paint_shapes(painter, picture.shapes, theme, exposed)


def paint_shapes(painter: QPainter, shapes: Sequence[Shape], theme: Theme, exposed: QRectF | None = None) -> None:
    """Draw shapes one over the other."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    top, bottom = (exposed.top(), exposed.bottom()) if exposed is not None else (-inf, inf)
    for shape in shapes:
        kind = type(shape)
        if exposed is not None:
            high, low = _REACH[kind](shape)
            if low < top or high > bottom:
                continue
        _DRAW[kind](painter, shape, theme)


class StillLayer:
    """What lies still in a picture, painted once and kept while it is the same tuple, size and theme."""

    def __init__(self) -> None:
        self._of: tuple[tuple[Shape, ...], Theme, QSize, float] | None = None
        self._kept = QPixmap()

    def paint(self, painter: QPainter, picture: Picture, theme: Theme, size: QSize, ratio: float) -> None:
        """Draw it at the painter's origin."""
        if not picture.still:
            return
        known = self._of
        if known is None or known[0] is not picture.still or known[1] is not theme or known[2:] != (size, ratio):
            self._of = (picture.still, theme, size, ratio)
            self._kept = QPixmap(size * ratio)
            self._kept.setDevicePixelRatio(ratio)
            self._kept.fill(Qt.GlobalColor.transparent)
            own = QPainter(self._kept)
            paint_shapes(own, picture.still, theme)
            own.end()
        painter.drawPixmap(0, 0, self._kept)


def _line(painter: QPainter, shape: Line, theme: Theme) -> None:
    painter.setPen(theme.pen(shape.ink, shape.width, shape.dash))
    painter.drawLine(QPointF(shape.x1, shape.y1), QPointF(shape.x2, shape.y2))


def _poly(painter: QPainter, shape: Poly, theme: Theme) -> None:
    points = QPolygonF([QPointF(x, y) for x, y in shape.points])
    painter.setPen(theme.pen(shape.ink, shape.width, shape.dash))
    painter.setBrush(theme.brush(shape.fill))
    if shape.fill:
        painter.drawPolygon(points)
    else:
        painter.drawPolyline(points)


def _ribbon(painter: QPainter, shape: Ribbon, theme: Theme) -> None:
    bend = (shape.x1 + shape.x2) / 2
    path = QPainterPath(QPointF(shape.x1, shape.y1))
    path.cubicTo(QPointF(bend, shape.y1), QPointF(bend, shape.y2), QPointF(shape.x2, shape.y2))
    painter.setPen(theme.pen(shape.fill, shape.thick))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(path)


def _ring(painter: QPainter, shape: Ring, theme: Theme) -> None:
    painter.setPen(theme.pen(shape.ink, shape.width, shape.dash))
    painter.setBrush(theme.brush(shape.fill))
    painter.drawEllipse(QPointF(shape.x, shape.y), shape.r, shape.r)


def _box(painter: QPainter, shape: Box, theme: Theme) -> None:
    painter.setPen(theme.pen(shape.ink, shape.width, shape.dash))
    if shape.hatch:
        painter.setBrush(QBrush(theme.colour(shape.hatch), Qt.BrushStyle.BDiagPattern))
    else:
        painter.setBrush(theme.brush(shape.fill))
    painter.drawRoundedRect(QRectF(shape.x, shape.y, shape.w, shape.h), shape.radius, shape.radius)


def _text(painter: QPainter, shape: Text, theme: Theme) -> None:
    painter.setFont(theme.font(shape.size, shape.family, shape.bold))
    painter.setPen(theme.colour(shape.ink))
    x = shape.x
    if shape.anchor != "start":
        width = theme.width(shape.text, shape.size, shape.family, shape.bold)
        x -= width if shape.anchor == "end" else width / 2
    painter.drawText(QPointF(x, shape.y + shape.size * 0.35), shape.text)


_REACH: dict[type[Shape], Callable[[Any], tuple[float, float]]] = {
    Line: lambda s: (min(s.y1, s.y2) - s.width, max(s.y1, s.y2) + s.width),
    Poly: lambda s: (
        min((y for _, y in s.points), default=0.0) - s.width,
        max((y for _, y in s.points), default=0.0) + s.width,
    ),
    Ribbon: lambda s: (min(s.y1, s.y2) - s.thick, max(s.y1, s.y2) + s.thick),
    Ring: lambda s: (s.y - s.r - s.width, s.y + s.r + s.width),
    Box: lambda s: (s.y - s.width, s.y + s.h + s.width),
    Text: lambda s: (s.y - s.size, s.y + s.size),
}
"""The least and the most y that a shape reaches."""

_DRAW: dict[type[Shape], Callable[[QPainter, Any, Theme], None]] = {
    Line: _line,
    Poly: _poly,
    Ribbon: _ribbon,
    Ring: _ring,
    Box: _box,
    Text: _text,
}
