"""The left rail: stages in the order teams work, each with its verdict."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Subject
from wired_union.picture.shapes import Box, Kit, Picture, Shape
from wired_union.picture.wire import glyph
from wired_union.ui.canvas import PictureButton
from wired_union.ui.theme import Theme

WIDTH = 148.0


def stage_picture(name: str, verdict: Verdict | None, kit: Kit, *, here: bool, high: float = 28) -> Picture:
    """One stage of the rail."""
    w, h = kit.px(WIDTH), kit.px(high)
    shapes: list[Shape] = [Box(0, 0, w, h, "chalk" if here else "deep")]
    shapes.append(kit.words(kit.px(16), h / 2, name, "base", "ink" if here else "rail_ink", bold=here))
    if here:
        shapes.append(Box(0, 0, kit.px(4), h, "copper"))
    tone = "" if here else "rail_"
    shapes += glyph(verdict, kit.px(17), h / 2, w - kit.px(31), tone)
    return Picture(w, h, tuple(shapes))


BESIDES = 150.0
"""Height of the window that header, strip and the line above it take."""
ROWS = (28, 27, 26, 25, 24, 23, 22, 21, 20)
"""Heights of a stage, the roomiest first; what does not fit at the last scrolls."""
HEAD_LESS, MOST_TOP = 5, 12
"""A group's name is so much lower than a stage; room above the first one at most."""


class Rail(QScrollArea):
    """Stage buttons under their groups, in the order of the keys; scrolls where there is not room for all."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme, subjects: tuple[Subject, ...]) -> None:
        super().__init__()
        self._theme, self._subjects = theme, subjects
        self.setObjectName("rail")
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFixedWidth(theme.px(WIDTH))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Stages")
        self._inside = QWidget()
        self._inside.setObjectName("railInside")
        self._column = QVBoxLayout(self._inside)
        self._column.setSpacing(0)
        self._heads: list[tuple[str, PictureButton]] = []
        self._buttons: dict[str, PictureButton] = {}
        self._here, self._verdicts, self._row_h = "", dict[str, Verdict | None](), ROWS[0]
        for number, subject in enumerate(subjects, 1):
            self._add(number, subject)
        self._column.addStretch(1)
        self.setWidget(self._inside)
        self.setWidgetResizable(True)
        self._draw()

    def _add(self, number: int, subject: Subject) -> None:
        if subject.group not in {g for g, _ in self._heads}:
            head = PictureButton(self._theme, subject.group)
            head.setEnabled(False)
            head.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            self._heads.append((subject.group, head))
            self._column.addWidget(head)
        made = PictureButton(self._theme, subject.title)
        key = f"Alt+{number % 10}" if number <= TENTH else "Ctrl+K"
        made.setToolTip(f"{subject.title}  ({key})")
        made.clicked.connect(lambda _=False, s=subject.id: self.chosen.emit(s))
        self._buttons[subject.id] = made
        self._column.addWidget(made)

    def show_stages(self, here: str, verdicts: dict[str, Verdict | None]) -> None:
        """Show where the window is, and every stage's verdict."""
        moved = here != self._here
        self._here, self._verdicts = here, verdicts
        self._draw()
        if moved and here in self._buttons:
            self.ensureWidgetVisible(self._buttons[here], 0, self._theme.px(40))

    def fit(self, window_height: float) -> None:
        """Move closer together in a low window."""
        room = window_height / self._theme.kit.scale - BESIDES
        rows, heads = len(self._subjects), len(self._heads)
        fitting = (h for h in ROWS if h * rows + (h - HEAD_LESS) * heads + MOST_TOP / 2 <= room)
        row_h = next(fitting, ROWS[-1])
        if row_h != self._row_h:
            self._row_h = row_h
            self._draw()

    def button(self, stage: str) -> PictureButton:
        return self._buttons[stage]

    def _draw(self) -> None:
        kit = self._theme.kit
        row_h = self._row_h
        head_h, top = row_h - HEAD_LESS, MOST_TOP if row_h == ROWS[0] else MOST_TOP / 4
        self._column.setContentsMargins(0, kit_px(kit, top), 0, 0)
        for group, head in self._heads:
            text = kit.figures(kit.px(16), kit.px(head_h) * 0.55, group, "tiny", "rail_mute", bold=True)
            head.show_picture(Picture(kit.px(WIDTH), kit.px(head_h), (text,)))
        for subject in self._subjects:
            verdict = self._verdicts.get(subject.id)
            said = f"{subject.title}, {verdict.value if verdict else 'nothing judged'}"
            picture = stage_picture(subject.title, verdict, kit, here=subject.id == self._here, high=row_h)
            self._buttons[subject.id].show_picture(picture, said)


TENTH = 10
"""Stages that have an Alt key; the others are found with Ctrl K, or walked to with Ctrl PageUp and PageDown."""


def kit_px(kit: Kit, value: float) -> int:
    return round(kit.px(value))
