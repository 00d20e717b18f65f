"""The start page: what to open when there is no project."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from wired_union.catalogue.starts import STARTS
from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Kit, Picture, Shape, shifted
from wired_union.picture.wire import wire
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.theme import Theme


class StartPage(QWidget):
    """New, open, recent files, the demos, eight starts, and the four shapes of a wire explained."""

    def __init__(self, theme: Theme, new: Callable[[], None], find: Callable[[], None], demo: Callable[[str], None],
                 open_file: Callable[[Path], None], begin: Callable[[str], None]) -> None:  # fmt: skip
        super().__init__()
        self._open_file = open_file
        self.setObjectName("work")
        outer = QHBoxLayout(self)
        frame = QFrame()
        frame.setObjectName("card")
        frame.setMaximumWidth(theme.px(780))
        column = QVBoxLayout(frame)
        column.setContentsMargins(theme.px(32), theme.px(26), theme.px(32), theme.px(26))
        column.setSpacing(theme.px(10))
        column.addWidget(label("Wired Union", "title"))
        about = "Shows what an edit does to every limit of your machine before you make it."
        column.addWidget(label(about, "mute", wrap=True))
        wires = Canvas(theme, name="The four shapes of a wire")
        wires.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        wires.setFixedHeight(theme.px(104))
        column.addWidget(wires)
        wires.show_layout(lambda w, h: legend(theme.kit, w))
        row = QHBoxLayout()
        self.new = button("New project", new, kind="main")
        row.addWidget(self.new)
        row.addWidget(button("Open a file …", find))
        row.addWidget(button("Demo: Mudlark, a rover", lambda: demo("mudlark")))
        row.addWidget(button("Demo: bat counter", lambda: demo("bat-counter")))
        column.addLayout(row)
        column.addWidget(label("Or begin with something that works, and change it", "heading"))
        column.addLayout(_starts(begin))
        column.addWidget(label("Opened last", "heading"))
        self._recent = QVBoxLayout()
        column.addLayout(self._recent)
        column.addWidget(label("A file can also be dropped on this window.", "mute"))
        outer.addStretch(1)
        middle = QVBoxLayout()
        middle.addStretch(2)
        middle.addWidget(frame)
        middle.addStretch(3)
        outer.addLayout(middle, 4)
        outer.addStretch(1)

    def show_recent(self, paths: tuple[str, ...]) -> None:
        empty(self._recent)
        for text in paths:
            path = Path(text)
            made = button(f"{path.name}    in {path.parent}", partial(self._open_file, path), kind="link")
            made.setEnabled(path.exists())
            self._recent.addWidget(made)
        if not paths:
            self._recent.addWidget(label("Nothing yet.", "mute"))


def _starts(begin: Callable[[str], None]) -> QGridLayout:
    """A link to each start, in two columns."""
    grid = QGridLayout()
    grid.setVerticalSpacing(0)
    rows = -(-len(STARTS) // 2)
    for n, (name, words) in enumerate(STARTS.items()):
        made = button(words[:1].upper() + words[1:], partial(begin, name), kind="link")
        made.setAccessibleName(f"Begin with {words}")
        grid.addWidget(made, n % rows, n // rows)
    return grid


def legend(kit: Kit, width: float) -> Picture:
    """The four shapes, each with its word."""
    shapes: list[Shape] = []
    rows = ((0.62, Verdict.HOLDS, "holds: room to spare"), (0.95, Verdict.TIGHT, "tight: into what is kept in hand"),
            (1.12, Verdict.BREAKS, "breaks: past its limit"),
            (None, Verdict.UNKNOWN, "unknown: a figure is missing"))  # fmt: skip
    for i, (use, verdict, text) in enumerate(rows):
        y = kit.px(14 + 25 * i)
        shapes += shifted(wire(use, verdict, width * 0.5, y), 0, 0)
        shapes.append(kit.words(width * 0.53, y, text, "small", f"{verdict.value}_text", bold=True))
    return Picture(width, kit.px(104), tuple(shapes))
