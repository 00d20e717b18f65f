"""A lane of part cards: its head, its cards in rows, and the place where a dragged card would land."""

from typing import Protocol

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QResizeEvent
from PyQt6.QtWidgets import QFrame, QPushButton, QSizePolicy, QWidget

from wired_union.kernel.results import Verdict
from wired_union.picture.card import CARD_H, CARD_W, card_label, part_card
from wired_union.picture.shapes import Picture
from wired_union.project.model import Item
from wired_union.subjects.parts.picture_lane import HEAD_H, HEAD_W
from wired_union.ui.canvas import PictureButton
from wired_union.ui.fields import button
from wired_union.ui.theme import Theme

GAP = 10.0
_WALK = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


class CardHands(Protocol):
    """Who is told what is done to a card. Calls, since a signal of each of many cards takes time to connect."""

    def select(self, item_id: str) -> None: ...
    def walk(self, item_id: str, dx: int, dy: int) -> None: ...
    def shove(self, item_id: str, dx: int, dy: int) -> None: ...
    def carry(self, item_id: str, corner: QPoint) -> None: ...
    def land(self, item_id: str, point: QPoint) -> None: ...


class PartCard(PictureButton):
    """A card: focus selects it, arrows walk, Alt and arrows move it, a drag carries it to another lane."""

    def __init__(self, theme: Theme, item_id: str, hands: CardHands) -> None:
        super().__init__(theme)
        self.item_id, self._hands = item_id, hands
        self.clicked.connect(lambda _=False: hands.select(item_id))
        self._press: QPoint | None = None
        self._carrying = False

    def show_item(self, item: Item, verdict: Verdict | None, width: float, *, selected: bool) -> None:
        picture = part_card(item, verdict, self._theme.kit, width, selected=selected)
        self.show_picture(picture, card_label(item, verdict))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self._hands.select(self.item_id)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in _WALK:
            alt = event.modifiers() & Qt.KeyboardModifier.AltModifier
            (self._hands.shove if alt else self._hands.walk)(self.item_id, *_WALK[key])
            return
        super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._press = event.position().toPoint()
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._press is not None and event.buttons() & Qt.MouseButton.LeftButton:
            far = (event.position().toPoint() - self._press).manhattanLength() > 8
            if far or self._carrying:
                self._carrying = True
                self._hands.carry(self.item_id, event.globalPosition().toPoint() - self._press)
                return
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._press = None
        if self._carrying:
            self._carrying = False
            self.setDown(False)
            self._hands.land(self.item_id, event.globalPosition().toPoint())
            return
        super().mouseReleaseEvent(event)


class Lane(QFrame):
    """One subsystem. Places its cards in as many rows as they need."""

    head_pressed = pyqtSignal(str)
    add_pressed = pyqtSignal(str)
    resized = pyqtSignal()

    def __init__(self, theme: Theme, lane_id: str) -> None:
        super().__init__()
        self.setObjectName("card")
        self.lane_id = lane_id
        self._theme = theme
        self.head = PictureButton(theme)
        self.head.setParent(self)
        self.head.clicked.connect(lambda _=False: self.head_pressed.emit(lane_id))
        self.add: QPushButton = button("+ part", lambda: self.add_pressed.emit(lane_id), kind="link", tip="Add a part")
        self.add.setParent(self)
        self.cards: list[PartCard] = []
        self.laid_out = False
        policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Preferred)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def show_head(self, picture: Picture, said: str) -> None:
        self.head.show_picture(picture, said)
        self.add.setAccessibleName(f"Add a part to {said.split(',')[0]}")

    def card_width(self) -> float:
        """Width of a card, so that a row of them fills the lane."""
        u = self._theme.px
        room = self._room(self.width())
        return min((room + u(GAP)) / self._columns(self.width()) - u(GAP), u(CARD_W) * 1.4)

    def _room(self, width: int) -> int:
        return width - self._left() - self._theme.px(8)

    def _columns(self, width: int) -> int:
        u = self._theme.px
        return max((self._room(width) + u(GAP)) // (u(CARD_W) + u(GAP)), 1)

    def heightForWidth(self, width: int) -> int:
        u = self._theme.px
        rows = max(-(-len(self.cards) // self._columns(width)), 1)
        return u(10) + max(u(HEAD_H) + u(2), rows * (u(CARD_H) + u(GAP)) - u(GAP) + u(10))

    def sizeHint(self) -> QSize:
        u = self._theme.px
        return QSize(self._left() + u(8 + CARD_W), u(10) + u(HEAD_H) + u(2))  # more rows follow from the width

    def _left(self) -> int:
        u = self._theme.px
        return u(14) + u(HEAD_W) + u(12)

    def place_cards(self) -> None:
        """Lay head, cards and the add button out for the present width."""
        u = self._theme.px
        left, top, gap = u(14), u(10), u(GAP)
        self.head.move(left, top)
        size = self.add.sizeHint()
        self.add.setGeometry(left + u(HEAD_W) - size.width(), top - u(1), size.width(), size.height())
        self.add.raise_()
        self.add.show()
        w, h = round(self.card_width()), u(CARD_H)
        across = self._columns(self.width())
        previous: QWidget = self.head
        for n, card in enumerate(self.cards):
            card.move(self._left() + n % across * (w + gap), top + n // across * (h + gap))
            card.show()
            QWidget.setTabOrder(previous, card)
            previous = card
        QWidget.setTabOrder(previous, self.add)
        self.updateGeometry()

    def place_at(self, point: QPoint) -> int:
        """Which place among its cards a point in this lane stands for."""
        before = [c for c in self.cards if (c.y() + c.height(), c.x() + c.width() / 2) < (point.y(), point.x())
                  or (c.y() <= point.y() <= c.y() + c.height() and c.x() + c.width() / 2 < point.x())]  # fmt: skip
        return len(before)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.laid_out = True
        self.resized.emit()
        self.place_cards()
