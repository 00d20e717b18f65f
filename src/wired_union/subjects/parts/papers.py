"""What Parts hands over: the list of parts, and what is still to be bought."""

from collections.abc import Iterator

from wired_union.catalogue.sheet import is_number_column
from wired_union.catalogue.sheet_files import rows, table_bytes
from wired_union.kernel.subject import Assessment, Paper


def papers(assessment: Assessment) -> Iterator[Paper]:
    """The list as a sheet and as plain text, and what is still to be bought of it."""
    for ending in (".xlsx", ".csv"):
        yield Paper(f"parts{ending}", "every part with its figures", lambda e=ending: _list(assessment, e))  # type: ignore[misc]
    if any(i.origin == "to buy" for i in assessment.project.concept.items):
        yield Paper("orders.csv", "what is still to be bought", lambda: _orders(assessment))


def _orders(assessment: Assessment) -> bytes:
    """What is to be bought, what takes longest to come first; what is not known stays empty."""
    project = assessment.project
    wanted = [i for i in project.concept.items if i.origin == "to buy"]
    wanted.sort(key=lambda i: -(i.part.delivery_days if i.part.delivery_days is not None else 1e9))
    body = [
        [i.part.name, str(i.count), _number(i.part.price),
         _number(None if i.part.price is None else i.part.price * i.count), _number(i.part.delivery_days), i.part.note]
        for i in wanted
    ]  # fmt: skip
    currency = project.brief.currency
    head = ["part", "count", f"price {currency}", f"together {currency}", "delivery days", "note"]
    return table_bytes(head, body, ".csv", frozenset())


def _number(value: float | None) -> str:
    return "" if value is None else f"{value:g}"


def _list(assessment: Assessment, ending: str) -> bytes:
    head, body = rows(assessment.project)
    return table_bytes(head, body, ending, frozenset(n for n, name in enumerate(head) if is_number_column(name)))
