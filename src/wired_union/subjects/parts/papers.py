"""What Parts hands over: the list of parts."""

from collections.abc import Iterator

from wired_union.catalogue.sheet import is_number_column
from wired_union.catalogue.sheet_files import rows, table_bytes
from wired_union.kernel.subject import Assessment, Paper


def papers(assessment: Assessment) -> Iterator[Paper]:
    """The list as a sheet and as plain text."""
    for ending in (".xlsx", ".csv"):
        yield Paper(f"parts{ending}", "every part with its figures", lambda e=ending: _list(assessment, e))  # type: ignore[misc]


def _list(assessment: Assessment, ending: str) -> bytes:
    head, body = rows(assessment.project)
    return table_bytes(head, body, ending, frozenset(n for n, name in enumerate(head) if is_number_column(name)))
