"""What is read from a sheet, looked at before it is taken: every row, and what is wrong with it."""

from collections.abc import Sequence

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QTableWidget, QTableWidgetItem, QVBoxLayout, QWidget

from wired_union.ui.fields import button, label
from wired_union.ui.theme import Theme


class ImportTable(QDialog):
    """Rows with their numbers, cells and problems; accepted where the good ones are to be taken."""

    def __init__(
        self, parent: QWidget, theme: Theme, title: str, head: Sequence[str],
        rows: Sequence[tuple[int, Sequence[str], Sequence[str]]], left_out: Sequence[str] = (),
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.setWindowTitle(title)
        self.resize(theme.px(820), theme.px(480))
        good = sum(not wrong for _, _, wrong in rows)
        column = QVBoxLayout(self)
        column.addWidget(label(title, "heading"))
        said = f"{good} of {len(rows)} rows can be taken; the others say what is wrong, and stay out."
        if left_out:
            said += f" Columns that mean nothing here: {', '.join(left_out)}."
        column.addWidget(label(said, "mute", wrap=True))
        self.table = QTableWidget(len(rows), len(head) + 2)
        self.table.setHorizontalHeaderLabels(["row", *head, "what is wrong"])
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setAccessibleName(title)
        for n, (number, cells, wrong) in enumerate(rows):
            for k, text in enumerate((str(number), *cells, "; ".join(wrong))):
                item = QTableWidgetItem(text)
                item.setToolTip(text)
                if wrong:
                    item.setForeground(theme.colour("breaks_text"))
                self.table.setItem(n, k, item)
        self.table.resizeColumnsToContents()
        header = self.table.horizontalHeader()
        if header is not None:
            header.setStretchLastSection(True)
        column.addWidget(self.table, 1)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(button("Cancel", self.reject))
        self.take = button(f"Take {good} {'row' if good == 1 else 'rows'}", self.accept, kind="main")
        self.take.setEnabled(good > 0)
        foot.addWidget(self.take)
        column.addLayout(foot)
