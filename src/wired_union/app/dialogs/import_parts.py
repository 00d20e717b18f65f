"""Import a sheet of parts: every row and its problems before anything is added, and where the good ones go."""

from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from wired_union.catalogue.library import Library
from wired_union.catalogue.sheet import Row, Sheet, bad_rows_csv, reading
from wired_union.project import edits
from wired_union.project.file import write_whole
from wired_union.ui.fields import Choice, button, label
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.ui.worker import Worker
from wired_union.units import MONEY, plain_words, show

SHELF_MOST = 500
"""More rows than that make a project file heavy; they go to the library."""
_HEADINGS = ("row", "part", "class", "mass", "price", "have", "what is wrong")


class RowModel(QAbstractTableModel):
    """Rows of a sheet for a table that shows only what is on screen."""

    def __init__(self, theme: Theme, money: str = MONEY) -> None:
        super().__init__()
        self._theme, self._money = theme, money
        self._rows: list[Row] = []

    def show_rows(self, rows: list[Row]) -> None:
        self.beginResetModel()
        self._rows = rows
        self.endResetModel()

    def cells(self, row: int) -> tuple[str, ...]:
        """The texts of a row, what is wrong with it last."""
        return _cells(self._rows[row], self._money)

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self._rows)

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return len(_HEADINGS)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = 0) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return _HEADINGS[section]
        return None

    def data(self, index: QModelIndex, role: int = 0) -> Any:
        row = self._rows[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return _cells(row, self._money)[index.column()]
        if role == Qt.ItemDataRole.ForegroundRole and not row.good:
            return self._theme.colour("breaks_text" if index.column() == len(_HEADINGS) - 1 else "mute")
        return None


def _cells(row: Row, money: str) -> tuple[str, ...]:
    wrong = "; ".join(f"{plain_words(p.field)}: {p.text}" for p in row.problems)
    if row.stock is None:
        return str(row.number), row.name, "", "", "", "", wrong
    part, have = row.stock.part, row.stock.have
    donated = " donated" if row.stock.donated else ""
    return (str(row.number), part.name, part.kind, show(part.mass_kg, "kg"), show(part.price, money),
            f"{have}{donated}" if have else "", wrong)  # fmt: skip


class ImportParts(QDialog):
    """A sheet on its way in. It is read off the interface thread, and can be left at any time."""

    def __init__(self, path: Path, store: Store, library: Library, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._path, self._store, self._library = path, store, library
        self.sheet: Sheet | None = None
        self.worker = Worker(self)
        self.worker.told.connect(self._told)
        self.worker.failed.connect(lambda _, text: self._say(text))
        self.setWindowTitle(f"Import parts from {path.name}")
        self.resize(theme.px(860), theme.px(560))
        self.title = label("Reading …", "heading")
        self.note = label("Nothing is added before you say so.", "mute", wrap=True)
        self.only_bad = QCheckBox("only rows with problems")
        self.only_bad.toggled.connect(self._fill)
        self.table = QTableView()
        self.table.setAccessibleName("Rows of the sheet")
        self._model = RowModel(theme, store.project.brief.currency)
        self.table.setModel(self._model)
        self.table.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.table.setWordWrap(False)
        self.wrong = label("", "error", wrap=True)
        chosen = self.table.selectionModel()
        assert chosen is not None
        chosen.currentRowChanged.connect(lambda now, _: self._show_wrong(now.row()))
        self.where = Choice(
            [("shelf", "this project's shelf"), ("library", "the store library on this computer")], "Where they go"
        )
        self.where.setMinimumContentsLength(26)
        self.add_button = button("Add the good rows", self.add, kind="main")
        self.bad_button = button("Write the bad rows …", self.write_bad)
        self._lay_out(theme)
        self._set_ready(False)
        self.worker.start(0, partial(reading, path))

    def _lay_out(self, theme: Theme) -> None:
        column = QVBoxLayout(self)
        column.addWidget(self.title)
        column.addWidget(self.note)
        column.addWidget(self.only_bad)
        column.addWidget(self.table, 1)
        column.addWidget(self.wrong)
        header, rows = self.table.horizontalHeader(), self.table.verticalHeader()
        assert header is not None
        assert rows is not None
        for section, width in enumerate((42, 180, 108, 62, 56, 60)):
            self.table.setColumnWidth(section, theme.px(width))
        header.setSectionResizeMode(len(_HEADINGS) - 1, QHeaderView.ResizeMode.Stretch)
        rows.hide()
        rows.setDefaultSectionSize(theme.px(25))
        foot = QHBoxLayout()
        foot.addWidget(label("Into", "mute"))
        foot.addWidget(self.where)
        foot.addStretch(1)
        foot.addWidget(self.bad_button)
        foot.addWidget(button("Cancel", self.reject))
        foot.addWidget(self.add_button)
        column.addLayout(foot)

    def _set_ready(self, ready: bool) -> None:
        good = bool(self.sheet and self.sheet.good)
        self.add_button.setEnabled(ready and good)
        self.bad_button.setEnabled(ready and bool(self.sheet and self.sheet.bad))
        self.where.setEnabled(ready)

    def _told(self, _: int, step: int | Sheet) -> None:
        if isinstance(step, int):
            self.title.setText(f"{step} rows read …")
            return
        self.sheet = step
        good, bad = len(step.good), len(step.bad)
        self.title.setText(f"{good} rows can be added, {bad} cannot" if bad else f"All {good} rows can be added")
        left = f" Headings that mean nothing here: {', '.join(step.left_out)}." if step.left_out else ""
        mend = " Write the bad rows to a sheet, mend them there and import that." if bad else ""
        self._say(f"Nothing is added before you say so.{mend}{left}")
        self.where.show_value("library" if good > SHELF_MOST else "shelf")
        self.add_button.setText(f"Add {good} good rows" if bad else f"Add {good} rows")
        self._set_ready(True)
        self._fill()

    def _say(self, text: str) -> None:
        self.note.setText(text)

    def _fill(self) -> None:
        if self.sheet is not None:
            rows = list(self.sheet.bad if self.only_bad.isChecked() else self.sheet.rows)
            self._model.show_rows(rows)
            first = next((n for n, row in enumerate(rows) if not row.good), -1)
            self._show_wrong(first)
            if first >= 0:
                self.table.selectRow(first)

    def _show_wrong(self, row: int) -> None:
        """What is wrong with a row, whole: the table has one line for it."""
        number, *_, said = self._model.cells(row) if row >= 0 else ("", "")
        self.wrong.setText(f"Row {number}: {said}" if said else "")

    def add(self) -> None:
        """Add the good rows where they are to go."""
        assert self.sheet is not None
        good = self.sheet.good
        if str(self.where.currentData()) == "shelf":
            if len(good) > 20 * SHELF_MOST:
                self._say(f"{len(good)} rows would make the project file heavy. Put them into the library.")
                return
            if self._store.attempt(edits.add_to_shelf, good):
                self.accept()
            return
        self._set_ready(False)
        self.worker = Worker(self)
        self.worker.told.connect(lambda _, n: self.title.setText(f"{n} of {len(good)} are in …"))
        self.worker.failed.connect(self._add_failed)
        self.worker.ended.connect(lambda _: self.accept())
        self.worker.start(0, partial(self._library.adding, good))

    def _add_failed(self, _: int, text: str) -> None:
        self._say(text)
        self._set_ready(True)

    def write_bad(self) -> None:
        """Write the rows that were refused, each with what is wrong."""
        assert self.sheet is not None
        usual = str(self._path.with_name(f"{self._path.stem}-to-mend.csv"))
        text, _ = QFileDialog.getSaveFileName(self, "Write the bad rows", usual, "CSV (*.csv)")
        if not text:
            return
        try:
            write_whole(Path(text), bad_rows_csv(self.sheet))
        except OSError as error:
            self._say(f"{Path(text).name} could not be written: {(error.strerror or str(error)).lower()}.")
            return
        self._say(f"The bad rows are in {text}.")

    def done(self, result: int) -> None:
        self.worker.stop()
        self.worker.wait()
        super().done(result)
