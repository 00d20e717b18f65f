"""The ledger as a page of the workbook."""

from wired_union.catalogue.sheet_files import Page
from wired_union.kernel.subject import Assessment
from wired_union.subjects.mass.gives import MONEY

HEAD = ["what", "state", "amount", "currency", "how many", "came back", "on", "by", "from", "receipt", "budget line",
        "part", "spare", "costs in the end"]  # fmt: skip


def pages(assessment: Assessment) -> list[Page]:
    """One line of the ledger a row; amounts with their pennies."""
    body = []
    for c in assessment.of(MONEY).costs:
        p = c.line
        body.append([
            p.name, p.state, _pence(p.amount), p.currency or assessment.project.brief.currency, str(p.count),
            _pence(p.returned), p.on, p.by, p.giver, p.receipt, p.budget_line, p.part, "yes" if p.spare else "",
            "" if c.lacks else _pence(c.net),
        ])  # fmt: skip
    return [Page("Ledger", HEAD, body, frozenset({2, 4, 5, 13}))]


def _pence(value: float | None) -> str:
    return f"{value:.2f}" if value is not None else ""
