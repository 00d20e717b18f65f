"""The mission under the drawings: point at a phase to see how it stands then, or let it play through all of them."""

from collections.abc import Callable

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from wired_union.subjects.mass.along import PhaseStand, stands_along
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.picture_along import PhasePick, along_picture
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, label
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

STEP_MS = 900


class AlongMission(QWidget):
    """Phases with the slope at which it tips in each; hands over the pose to draw."""

    def __init__(self, store: Store, theme: Theme, take_pose: Callable[[str], None]) -> None:
        super().__init__()
        self._store, self._theme, self._take_pose = store, theme, take_pose
        self._stands: tuple[PhaseStand, ...] = ()
        self._played = -1
        self._timer = QTimer(self)
        self._timer.setInterval(STEP_MS)
        self._timer.timeout.connect(self.step)
        self.play = button(
            "▶ play the mission", self.toggle, kind="link", tip="Draws every phase in turn, as it stands then"
        )
        self.canvas = Canvas(theme, name="The mission: how it stands in every phase")
        self.canvas.chosen.connect(self._chosen)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(theme.px(4))
        head = QHBoxLayout()
        head.addWidget(label("Along the mission, the slope at which it tips", "mute"), 1)
        head.addWidget(self.play)
        box.addLayout(head)
        box.addWidget(self.canvas)

    def show_mission(self) -> None:
        """Draw what the store holds; hidden without phases."""
        concept, every = self._store.project.concept, self._store.assessment.of(BALANCE)
        self._stands = stands_along(concept, every) if every.table is not None or every.poses else ()
        self.setVisible(bool(self._stands))
        if self._played >= len(self._stands):
            self._rest()
        self._draw()

    def _draw(self) -> None:
        limit = self._store.assessment.measure("tip-angle").limit
        self.canvas.show_layout(lambda w, h: along_picture(self._stands, limit, self._played, self._theme.kit, w))

    def toggle(self) -> None:
        """Play from the first phase, or stop."""
        if self._timer.isActive():
            self._rest()
            self._draw()
            return
        self._played = -1
        self.play.setText("■ stop")
        self._timer.start()
        self.step()

    def step(self) -> None:
        """The next phase; after the last it rests."""
        if self._played + 1 >= len(self._stands):
            self._rest()
            self._draw()
            return
        self._show(self._played + 1)

    def _show(self, number: int) -> None:
        self._played = number
        self._take_pose(self._stands[number].pose)
        self._draw()

    def _rest(self) -> None:
        self._timer.stop()
        self._played = -1
        self.play.setText("▶ play the mission")

    def _chosen(self, of: object) -> None:
        if isinstance(of, PhasePick) and of.number < len(self._stands):
            self._timer.stop()
            self.play.setText("▶ play the mission")
            self._show(of.number)
