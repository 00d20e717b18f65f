"""What can be saved of the wiring: drawings, tables, lists, header files."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QFileDialog, QVBoxLayout, QWidget

from wired_union.kernel.subject import Assessment
from wired_union.subjects.wiring import exports
from wired_union.subjects.wiring.bench_drawing import bench_pages, labels_picture, pages_pdf, pages_svg
from wired_union.subjects.wiring.pins import PINS
from wired_union.subjects.wiring.view_hand import save
from wired_union.ui.fields import button, label
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme


class FileButtons(QWidget):
    """A press each."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__()
        self._store, self._theme = store, theme
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(theme.px(2))
        box.addWidget(label("For the bench", "heading"))
        box.addWidget(button("bench drawing (PDF)", self._drawing_pdf, kind="link", tip="A page for each controller and"
                             " each cable"))  # fmt: skip
        box.addWidget(button("bench drawing (SVG)", self._drawing_svg, kind="link"))
        for text, name, make in (
            ("pin table", "pins.csv", exports.pin_table), ("cut list", "cut-list.csv", exports.cut_list),
            ("connector list", "connectors.csv", exports.connector_list),
        ):  # fmt: skip
            box.addWidget(button(f"{text} (CSV)", partial(self._table, text, name, make), kind="link"))
        box.addWidget(button("label sheet (PDF)", self._labels, kind="link"))
        for board in store.assessment.of(PINS).boards():
            box.addWidget(button(f"pins of {board.name} for C", partial(self._header, board.id, "h"), kind="link"))
            box.addWidget(
                button(f"pins of {board.name} for Python", partial(self._header, board.id, "py"), kind="link")
            )

    def _table(self, text: str, name: str, make: Callable[[Assessment], str]) -> None:
        path, _ = QFileDialog.getSaveFileName(self, f"Save the {text}", name, "CSV (*.csv)")
        if path:
            save(self, path, make(self._store.assessment).encode())

    def _header(self, board_id: str, kind: str) -> None:
        board = next(b for b in self._store.assessment.of(PINS).boards() if b.id == board_id)
        words = "C (*.h)" if kind == "h" else "Python (*.py)"
        path, _ = QFileDialog.getSaveFileName(self, "Save the names of the pins", f"pins.{kind}", words)
        if path:
            make = exports.c_header if kind == "h" else exports.python_header
            save(self, path, make(self._store.assessment, board).encode())

    def _drawing_pdf(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save the bench drawing", "bench-drawing.pdf", "PDF (*.pdf)")
        if path:
            save(self, path, pages_pdf(bench_pages(self._store.assessment, self._theme.kit)))

    def _drawing_svg(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save the bench drawing", "bench-drawing.svg", "SVG (*.svg)")
        if path:
            save(self, path, pages_svg(bench_pages(self._store.assessment, self._theme.kit)).encode())

    def _labels(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save the labels", "labels.pdf", "PDF (*.pdf)")
        if path:
            save(self, path, pages_pdf(labels_picture(self._store.assessment, self._theme.kit)))
