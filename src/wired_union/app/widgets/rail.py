"""The left rail: stages in the order teams work, each with its verdict."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union.app.theme.theme import Theme
from wired_union.app.widgets.canvas import PictureButton
from wired_union.assess.results import Verdict
from wired_union.picture.shapes import Box, Kit, Picture, Shape
from wired_union.picture.wire import glyph

WIDTH = 148.0
STAGES = (
    ("DEFINE", (("brief", "Brief"), ("concepts", "Concepts"))),
    ("CHOOSE", (("parts", "Parts"), ("candidates", "Candidates"), ("combination", "Best mix"), ("motion", "Motion"))),
    ("BUDGET", (("power", "Power"), ("mass", "Mass"), ("timing", "Timing"))),
)


def stage_picture(name: str, verdict: Verdict | None, kit: Kit, *, here: bool) -> Picture:
    """One stage of the rail."""
    w, h = kit.px(WIDTH), kit.px(28)
    shapes: list[Shape] = [Box(0, 0, w, h, "chalk" if here else "deep")]
    shapes.append(kit.words(kit.px(16), h / 2, name, "base", "ink" if here else "rail_ink", bold=here))
    if here:
        shapes.append(Box(0, 0, kit.px(4), h, "copper"))
    tone = "" if here else "rail_"
    shapes += glyph(verdict, kit.px(17), h / 2, w - kit.px(31), tone)
    return Picture(w, h, tuple(shapes))


class Rail(QWidget):
    """Stage buttons, in the order of the keys Alt+1 to Alt+9."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setFixedWidth(theme.px(WIDTH))
        self.setAccessibleName("Stages")
        self._buttons: dict[str, PictureButton] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(12), 0, 0)
        column.setSpacing(0)
        number = 0
        for group, stages in STAGES:
            head = PictureButton(theme, group)
            head.setEnabled(False)
            head.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            text = theme.kit.figures(theme.kit.px(16), theme.kit.px(13), group, "tiny", "rail_mute", bold=True)
            head.show_picture(Picture(theme.kit.px(WIDTH), theme.kit.px(24), (text,)))
            column.addWidget(head)
            for stage, name in stages:
                number += 1
                made = PictureButton(theme, name)
                made.setToolTip(f"{name}  (Alt+{number})")
                made.clicked.connect(lambda _=False, s=stage: self.chosen.emit(s))
                self._buttons[stage] = made
                column.addWidget(made)
        column.addStretch(1)

    def show_stages(self, here: str, verdicts: dict[str, Verdict | None]) -> None:
        for _, stages in STAGES:
            for stage, name in stages:
                verdict = verdicts.get(stage)
                said = f"{name}, {verdict.value if verdict else 'nothing judged'}"
                picture = stage_picture(name, verdict, self._theme.kit, here=stage == here)
                self._buttons[stage].show_picture(picture, said)

    def button(self, stage: str) -> PictureButton:
        return self._buttons[stage]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("deep"))
        painter.end()
