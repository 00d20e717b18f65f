"""Purchases from a sheet: every row with its figures, or what is wrong. Nothing is taken before it is looked at."""

from typing import Any

from msgspec import Struct

from wired_union.project.change import Change, new_id
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.money_model import MONEY_STATES, Purchase
from wired_union.project.pasted import rows_of
from wired_union.project.value import made
from wired_union.subjects.ledger.edits import check_returned
from wired_union.units import CURRENCIES, UnitError, parse

COLUMNS = {
    "what": "name",
    "name": "name",
    "item": "name",
    "state": "state",
    "status": "state",
    "amount": "amount",
    "price": "amount",
    "total": "amount",
    "cost": "amount",
    "currency": "currency",
    "how many": "count",
    "count": "count",
    "qty": "count",
    "quantity": "count",
    "came back": "returned",
    "returned": "returned",
    "refund": "returned",
    "on": "on",
    "date": "on",
    "by": "by",
    "who": "by",
    "from": "giver",
    "shop": "giver",
    "donor": "giver",
    "receipt": "receipt",
    "budget line": "budget_line",
    "part": "part",
    "spare": "spare",
    "costs in the end": "",
}
"""Headings that are understood, and what they are; one without meaning is left out."""
TEXTS = ("currency", "by", "giver", "receipt", "budget_line", "part")


class ReadLine(Struct, frozen=True):
    """A row of the sheet: its number, what it is called, and the line of the ledger, or what is wrong."""

    number: int
    name: str
    line: Purchase | None
    wrong: tuple[str, ...] = ()


class ReadLedger(Struct, frozen=True):
    rows: tuple[ReadLine, ...]
    left_out: tuple[str, ...]
    """headings that mean nothing here"""

    @property
    def good(self) -> tuple[Purchase, ...]:
        return tuple(r.line for r in self.rows if r.line is not None and not r.wrong)


def read_purchases(project: Project, text: str) -> ReadLedger:
    """Every row of a sheet. Raises ProjectError where no heading says which column holds what was bought."""
    rows = rows_of(text)
    heads = [c.strip().lower() for c in rows[0]] if rows else []
    kinds = [COLUMNS.get(h) for h in heads]
    if "name" not in kinds:
        raise ProjectError("No column is called what. The first row holds the headings: what, state, amount, on, by, "
                           "receipt, part.")  # fmt: skip
    left_out = tuple(h for h, k in zip(heads, kinds, strict=True) if k is None and h)
    taken = {p.id for p in project.ledger}
    found = []
    for n, row in enumerate(rows[1:], 2):
        cells = {k: c.strip() for k, c in zip(kinds, row, strict=False) if k and c.strip()}
        one = _row(cells, n, taken)
        taken |= {one.line.id} if one.line is not None else set()
        found.append(one)
    return ReadLedger(tuple(found), left_out)


def _row(cells: dict[str, str], number: int, taken: set[str]) -> ReadLine:
    name = cells.get("name", "")
    figures: dict[str, Any] = {k: cells[k] for k in TEXTS if k in cells}
    wrong: list[str] = []
    for field in ("amount", "returned"):
        _amount(figures, wrong, field, cells)
    _count(figures, wrong, cells)
    try:
        figures |= {"on": checked_day(cells["on"])} if "on" in cells else {}
    except ProjectError as error:
        wrong.append(str(error))
    state = cells.get("state", "paid").lower()
    if state not in MONEY_STATES:
        wrong.append(f"“{state}” is no state: {', '.join(MONEY_STATES)}")
    figures |= {"state": state if state in MONEY_STATES else "paid", "spare": cells.get("spare", "").lower() in YES}
    line = None
    try:
        line = made(Purchase, id=new_id(name or "line", taken), name=name, **figures)
        check_returned(line)
    except ProjectError as error:
        wrong.append(str(error))
    return ReadLine(number, name or "no name", line, tuple(wrong))


YES = frozenset({"yes", "true", "1", "x"})


def _amount(figures: dict[str, Any], wrong: list[str], field: str, cells: dict[str, str]) -> None:
    """An amount, with the sign of its currency where one stands in the cell."""
    text = cells.get(field, "")
    sign = next((c for c in CURRENCIES if len(c) == 1 and c in text), "")
    if not text:
        return
    try:
        figures[field] = parse(text, sign)
    except UnitError as error:
        wrong.append(str(error))
        return
    if sign and "currency" not in figures:
        figures["currency"] = sign


def _count(figures: dict[str, Any], wrong: list[str], cells: dict[str, str]) -> None:
    text = cells.get("count", "")
    if not text:
        return
    try:
        value = parse(text)
    except UnitError as error:
        wrong.append(str(error))
        return
    if value != int(value):
        wrong.append(f"“{text}” is no whole number")
    else:
        figures["count"] = int(value)


def take_purchases(project: Project, read: ReadLedger) -> Change:
    """All good rows added to the ledger. Raises ProjectError where none is good."""
    if not read.good:
        raise ProjectError("No row can be taken. Each says what is wrong with it.")
    lines = len(read.good)
    return Change(project, project.but(ledger=(*project.ledger, *read.good)),
                  f"{lines} more {'line' if lines == 1 else 'lines'} of the ledger from a sheet")  # fmt: skip
