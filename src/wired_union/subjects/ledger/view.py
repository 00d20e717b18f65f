"""Money: where it goes, the ledger line by line, what one costs if more are made, what we would do next."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QHeaderView,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.subjects.ledger import edits
from wired_union.subjects.ledger.making import MAKING, is_asked
from wired_union.subjects.ledger.pick import MoneyPick
from wired_union.subjects.ledger.picture import money_picture, unit_picture, ways_picture
from wired_union.subjects.ledger.read_purchases import read_purchases, take_purchases
from wired_union.subjects.ledger.shown import amount_words, exact
from wired_union.subjects.ledger.view_panel import MoneyPanel
from wired_union.subjects.mass.gives import MONEY, MoneyResult
from wired_union.ui import ask
from wired_union.ui.canvas import Canvas
from wired_union.ui.fields import button, empty, label
from wired_union.ui.import_table import ImportTable
from wired_union.ui.sheets import open_table
from wired_union.ui.view import Desk, View, card, row
from wired_union.units import show

HEADS = ("what", "state", "amount", "how many", "on", "by", "from", "receipt", "budget line")
LEAST_ROWS, MOST_ROWS, ROW_H = 3, 12, 24


class MoneyView(View):
    stage, title = "ledger", "Money"

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.bar = Canvas(self.theme, name="Where the money goes")
        self.note = label("", "mute", wrap=True)
        self.column.addWidget(card(self.theme, label("Where the money goes", "heading"), self.bar, self.note))
        self.table = self._make_table()
        more = row(
            button("+ a line", self._add_line, kind="main", tip="Quoted, ordered, paid, donated: one line each"),
            button("Import purchases …", self.read, kind="link", tip="From CSV or XLSX"),
            button("a rate …", self._add_rate, kind="link", tip="What one of another currency is in the project's"),
        )
        self.column.addWidget(card(self.theme, label("Ledger", "heading"), self.table, more))
        self.unit = Canvas(self.theme, name="What one costs by how many are made")
        self._ways = QWidget()
        self._ways_box = QVBoxLayout(self._ways)
        self._ways_box.setContentsMargins(0, 0, 0, 0)
        self.said = label("", "mute", wrap=True)
        acts = row(
            button("if more are made", self._making, kind="link", tip="How many, hours, wage, margin"),
            button("+ a part we make", self._add_made, kind="link", tip="Cut, milled, printed, moulded, stamped"),
        )
        self.column.addWidget(card(self.theme, label("If more are made", "heading"), self.unit, self.said, self._ways,
                                   acts))  # fmt: skip
        self.next_year = label("", "mute", wrap=True)
        self.column.addWidget(card(self.theme, label("Next year", "heading"), self.next_year,
                                   row(button("+ an upgrade", self._add_upgrade, kind="link"))))  # fmt: skip
        self.column.addStretch(1)
        self.details = MoneyPanel(self)
        self._lines: tuple[str, ...] = ()

    def _make_table(self) -> QTableWidget:
        table = QTableWidget(0, len(HEADS))
        table.setHorizontalHeaderLabels(list(HEADS))
        table.setAccessibleName("Ledger")
        table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        table.setTabKeyNavigation(False)
        table.currentCellChanged.connect(lambda n, *_: self._pick_line(n))
        down, across = table.verticalHeader(), table.horizontalHeader()
        if down is not None and across is not None:
            down.hide()
            down.setDefaultSectionSize(self.theme.px(ROW_H))
            across.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            across.setStretchLastSection(True)
        return table

    def refresh(self) -> None:
        project, assessment, kit = self.store.project, self.store.assessment, self.theme.kit
        money, limit = assessment.of(MONEY), project.brief.limit("money")
        at = limit.value if limit is not None else None
        self.bar.show_layout(lambda w, h: money_picture(money, at, project, kit, w))
        self.note.setText(_note(money, project))
        measure = assessment.measure("money")
        of = f" of {measure.limit_shown}" if measure.limit is not None else ""
        self.subtitle.setText(f"{measure.shown}{of} · {len(project.ledger)} lines in the ledger")
        self._show_lines(money, project)
        self._show_making()
        rows = [f"{u.name}: {show(u.cost, project.brief.currency)}, {show(u.days, 'days')}. {u.gain}".strip()
                for u in project.upgrades]  # fmt: skip
        self.next_year.setText("\n".join(rows) or "What we would do next, with what it costs and what it brings.")
        self.details.show()

    def _show_lines(self, money: MoneyResult, project: Project) -> None:
        currency = project.brief.currency
        self.table.blockSignals(True)
        self.table.setRowCount(len(money.costs))
        for n, c in enumerate(money.costs):
            p = c.line
            texts = (p.name, p.state, amount_words(p, currency), str(p.count), p.on, p.by, p.giver, p.receipt,
                     p.budget_line)  # fmt: skip
            for k, text in enumerate(texts):
                cell = QTableWidgetItem(text)
                if c.lacks:
                    cell.setForeground(self.theme.colour("unknown_text"))
                self.table.setItem(n, k, cell)
        self._lines = tuple(c.line.id for c in money.costs)
        picked = self.store.picked(MoneyPick).line
        if picked in self._lines:
            self.table.selectRow(self._lines.index(picked))
        else:
            self.table.clearSelection()
            self.table.setCurrentCell(-1, -1)
        self.table.blockSignals(False)
        rows = min(max(len(self._lines), LEAST_ROWS), MOST_ROWS) + 1
        self.table.setFixedHeight(self.theme.px(rows * ROW_H + 12))

    def _show_making(self) -> None:
        project, kit = self.store.project, self.theme.kit
        asked = is_asked(project)
        self.unit.setVisible(asked)
        empty(self._ways_box)
        if not asked:
            self.said.setText("What one costs by how many are made, with tools, labour and price: say how many first.")
            return
        found, currency = self.store.assessment.of(MAKING), project.brief.currency
        self.unit.show_layout(lambda w, h: unit_picture(found, project, kit, w))
        words = []
        if found.kit_cost is not None:
            price = found.making.kit_price
            asked_for = f", {exact(price, currency)} is asked" if price is not None else ""
            words.append(f"The add-on package costs {exact(found.kit_cost, currency)}{asked_for}.")
        self.said.setText(" ".join(words))
        self.said.setVisible(bool(words))
        machines = found.making.quantity or 1
        for made in found.made:
            canvas = Canvas(self.theme, name=f"Ways to make {made.made.name}")
            canvas.show_layout(lambda w, h, m=made: ways_picture(m, machines, project, kit, w))  # type: ignore[misc]
            head = button(made.made.name, partial(self.store.pick, MoneyPick(made=made.made.id)), kind="link")
            best = f"cheapest for {machines:,}: {made.best_way(machines).process}" if made.ways else ""
            self._ways_box.addWidget(row(head, label(best, "mute")))
            self._ways_box.addWidget(canvas)

    # what hands do

    def _pick_line(self, n: int) -> None:
        if 0 <= n < len(self._lines):
            self.store.pick(MoneyPick(line=self._lines[n]))

    def _making(self) -> None:
        self.store.pick(MoneyPick(making=True))

    def _asked(self, title: str, question: str, edit: Callable[..., object], then: Callable[[], MoneyPick]) -> None:
        name, meant = ask.word(self, title, question)
        if meant and self.store.attempt(edit, name):  # type: ignore[arg-type]
            self.store.pick(then())

    def _add_line(self) -> None:
        self._asked("A line", "What is it? “Gearmotors”, “Postage”. State and amount come next.", edits.add_purchase,
                    lambda: MoneyPick(line=self.store.project.ledger[-1].id))  # fmt: skip

    def _add_made(self) -> None:
        self._asked("A part we make", "Which part can be made in several ways? “Deck”, “Bit”", edits.add_made,
                    lambda: MoneyPick(made=self.store.project.concept.making.made[-1].id))  # fmt: skip

    def _add_upgrade(self) -> None:
        self._asked("An upgrade", "What would we do next? “Motors with encoders”", edits.add_upgrade,
                    lambda: MoneyPick(upgrade=self.store.project.upgrades[-1].id))  # fmt: skip

    def _add_rate(self) -> None:
        text, meant = ask.word(
            self,
            "A rate",
            f"Currency and what one of it is in {self.store.project.brief.currency}, "
            "by your bank: “EUR 0.86”. Nothing is fetched.",
        )
        if not meant:
            return
        name, _, rate = text.strip().rpartition(" ")
        try:
            value = edits.read_rate(rate)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        self.store.attempt(edits.set_rate, name, value, self.desk.today())

    def read(self) -> None:
        """Purchases from a sheet, each looked at first."""
        text = open_table(self, "Purchases from a sheet")
        if not text:
            return
        try:
            found = read_purchases(self.store.project, text)
        except ProjectError as error:
            self.store.refused.emit(str(error))
            return
        currency = self.store.project.brief.currency
        rows = [(r.number, (r.name, r.line.state if r.line else "", amount_words(r.line, currency) if r.line else ""),
                 r.wrong) for r in found.rows]  # fmt: skip
        shown = ImportTable(
            self, self.theme, "Purchases from a sheet", ("what", "state", "amount"), rows, found.left_out
        )
        if shown.exec() == QDialog.DialogCode.Accepted:
            self.store.attempt(take_purchases, found)


def _note(money: MoneyResult, project: Project) -> str:
    """What is settled, what may still come, and what it would cost without gifts."""
    currency = project.brief.currency
    said = f"{exact(money.spent, currency)} settled, {exact(money.to_come, currency)} to come"
    said += f" and up to {exact(money.spread, currency)} on top. " if money.spread else ". "
    if money.gifts:
        said += f"Without gifts and what was there it would cost {exact(money.total + money.gifts, currency)}. "
    if money.missing:
        said += f"Not known yet: {'; '.join(money.missing[:3])}."
    return said.strip()
