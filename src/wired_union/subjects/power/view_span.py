"""The lower card of the Power screen: the mission, a start, temperatures, odds or charging, each on its own canvas."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.view_beside import OtherConcept
from wired_union.subjects.power.view_first import FirstHalf
from wired_union.subjects.power.view_light import Charging
from wired_union.subjects.power.view_mission import MissionHand
from wired_union.subjects.power.view_spread import Spread
from wired_union.subjects.power.view_warmth import Temperatures
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import Elided, button
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.view import card

SPANS = {"mission": "Mission", "first": "Start", "warmth": "Warmth", "spread": "Odds", "sun": "Charging"}
HINTS = {"mission": "drag an edge, or a stretch of the curves",
         "first": "point, or Ctrl ← →, to read every supply", "warmth": "point, or Ctrl ← →, to read",
         "spread": "if what is not known well goes as it may", "sun": "energy in against energy out"}  # fmt: skip
CHART_H = 200.0


class SpanCard:
    """Which of the five is on show follows the selection."""

    def __init__(self, store: Store, theme: Theme, parent: QWidget) -> None:
        self._store, self._theme = store, theme
        self.canvases = {
            "mission": Canvas(theme, name="Mission", tall=False), "first": Canvas(theme, name="The first half second"),
            "warmth": Canvas(theme, name="Temperatures"), "spread": Canvas(theme, name="The odds"),
            "sun": Canvas(theme, name="Charging"),
        }  # fmt: skip
        self.canvases["mission"].setFixedHeight(theme.px(CHART_H))
        self.other = OtherConcept(store, theme)
        self.mission = MissionHand(store, theme, self.canvases["mission"], self.other)
        self.first = FirstHalf(store, theme, self.canvases["first"], parent)
        self.warmth = Temperatures(store, theme, self.canvases["warmth"], parent)
        self.spread = Spread(store, theme, self.canvases["spread"], parent)
        self.sun = Charging(store, theme, self.canvases["sun"], parent)
        self.canvases["first"].chosen.connect(self._node_chosen)
        self.canvases["warmth"].chosen.connect(self.mission.choose)
        self.title, self._hint = Elided("heading"), Elided(whole=True)
        self.buttons = {span: self._button(span, words) for span, words in SPANS.items()}
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.title, 20)
        row.addWidget(self._hint, 1)
        for made in self.buttons.values():
            row.addWidget(made)
        self.widget = card(theme, head, *self.canvases.values())

    def _button(self, span: str, words: str) -> QPushButton:
        made = button(words, partial(self._store.change, PowerPick, span=span), kind="mode")
        made.setCheckable(True)
        return made

    def _node_chosen(self, of: object) -> None:
        if isinstance(of, str):
            self._store.change(PowerPick, node=of)

    def show(self, mode: str) -> None:
        """What the selection asks for; in a mode, where it is of one."""
        pick = self._store.picked(PowerPick)
        for span, made in self.buttons.items():
            made.setChecked(span == pick.span)
            self.canvases[span].setVisible(span == pick.span)
        for span, drawing in (("spread", self.spread), ("first", self.first.apart), ("warmth", self.warmth.apart),
                              ("sun", self.sun.apart)):  # fmt: skip
            if pick.span != span:
                drawing.rest()
        self._hint.setText(HINTS[pick.span])
        shown: dict[str, Callable[[], str]] = {
            "mission": self.mission.show, "first": partial(self.first.show, mode, pick.node),
            "warmth": partial(self.warmth.show, pick.node), "spread": self.spread.show,
            "sun": partial(self.sun.show, pick.node),
        }  # fmt: skip
        self._say(shown[pick.span]())

    def _say(self, text: str) -> None:
        """As wide as its words, cut where there is no room for them."""
        self.title.ensurePolished()
        self.title.setText(text)
        self.title.setMaximumWidth(self.title.fontMetrics().horizontalAdvance(text) + self._theme.px(8))

    def fill(self, column: QVBoxLayout, mode: str) -> None:
        """What the panel says first while one of them is on show; the mission's own form comes last."""
        pick = self._store.picked(PowerPick)
        if pick.span == "first":
            self.first.fill(column, mode, pick.node)
        elif pick.span == "warmth":
            self.warmth.fill(column, pick.node, partial(self.show, mode))
        elif pick.span == "spread":
            self.spread.fill(column)
        elif pick.span == "sun":
            self.sun.fill(column, pick.node)
