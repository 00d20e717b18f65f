"""Drawing a picture with Qt: the shapes are laid out already, this only sets pens and draws."""

from collections.abc import Callable
from math import inf
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QPainter, QPainterPath, QPolygonF

from wired_union.picture.shapes import Box, Line, Picture, Poly, Ribbon, Ring, Shape, Text
from wired_union.ui.theme import Theme


def paint(painter: QPainter, picture: Picture, theme: Theme, exposed: QRectF | None = None) -> None:
    """Draw the shapes of a picture at the painter's origin; those that stand above or below `exposed` are left out."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    top, bottom = (exposed.top(), exposed.bottom()) if exposed is not None else (-inf, inf)
    for shape in picture.shapes:
        kind = type(shape)
        if exposed is not None:
            high, low = _REACH[kind](shape)
            if low < top or high > bottom:
                continue
        _DRAW[kind](painter, shape, theme)


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
