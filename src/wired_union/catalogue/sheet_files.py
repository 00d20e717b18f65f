"""Parts as CSV or XLSX: a project's list or a sheet of any parts; SI values, columns of the catalogue's own form."""

import csv
import io
from collections.abc import Iterable, Sequence
from pathlib import Path

from msgspec import Struct

from wired_union.catalogue.parts import columns, to_row
from wired_union.catalogue.sheet import harmless, is_number, is_number_column, sheet_table
from wired_union.project.change import plain
from wired_union.project.documents import DocumentError, write_bytes
from wired_union.project.model import Project, Stock

_ITEM = ("subsystem", "item", "count", "knowledge", "origin")


def rows(project: Project) -> tuple[list[str], list[list[str]]]:
    """Header and rows; only columns that some part fills."""
    lanes = {s.id: s.name for s in project.concept.subsystems}
    flat = [to_row(i.part) for i in project.concept.items]
    used = [name for name, _ in columns() if any(name in row for row in flat)]
    body = [
        [lanes[i.subsystem], i.name, str(i.count), i.knowledge, i.origin, *(row.get(name, "") for name in used)]
        for i, row in zip(project.concept.items, flat, strict=True)
    ]
    return [*_ITEM, *used], body


def write_parts(project: Project, path: Path) -> None:
    """Write the list as its ending says. Raises DocumentError for another ending or a place that cannot be written."""
    _write_table(*rows(project), path)


def write_sheet(stocks: Iterable[Stock], path: Path) -> None:
    """Write a sheet of parts that `catalogue.sheet` reads back. Raises DocumentError as `write_parts`."""
    _write_table(*sheet_table(stocks), path)


def _write_table(head: list[str], body: list[list[str]], path: Path) -> None:
    ending = path.suffix.lower()
    if ending not in {".csv", ".xlsx"}:
        raise DocumentError(f"“{path.name}”: a parts list is .csv or .xlsx. Give the file one of these endings.")
    numbers = frozenset(n for n, name in enumerate(head) if is_number_column(name))
    write_bytes(path, table_bytes(head, body, ending, numbers))


def table_bytes(head: list[str], body: list[list[str]], ending: str, numbers: frozenset[int]) -> bytes:
    """A table as .csv or .xlsx; `numbers` are the columns whose cells are numbers. Nothing in it runs as a formula."""
    return _csv(head, body) if ending == ".csv" else _xlsx(head, body, numbers)


def _csv(head: list[str], body: list[list[str]]) -> bytes:
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow([harmless(cell) for cell in head])
    writer.writerows([harmless(cell) for cell in row] for row in body)
    return out.getvalue().encode("utf-8")


class Page(Struct, frozen=True):
    """A page of a workbook: what it is called, its headings, its cells, and which columns hold numbers."""

    title: str
    head: list[str]
    body: list[list[str]]
    numbers: frozenset[int] = frozenset()


def book_bytes(pages: Sequence[Page]) -> bytes:
    """A workbook of several pages. Nothing in it runs as a formula."""
    from openpyxl import Workbook
    from openpyxl.styles import Font

    book = Workbook()
    if book.active is not None:
        book.remove(book.active)
    for page in pages:
        sheet = book.create_sheet(page.title)
        sheet.append(page.head)
        for cell in sheet[1]:
            cell.font = Font(bold=True)
            if cell.data_type == "f":
                cell.data_type = "s"
        for row in page.body:
            sheet.append([float(c) if n in page.numbers and is_number(c) else plain(c) for n, c in enumerate(row)])
            for cell in sheet[sheet.max_row]:
                if cell.data_type == "f":  # a name such as "=A1" is a text, not a formula
                    cell.data_type = "s"
        for n, column in enumerate(sheet.columns):
            longest = max(len(str(c.value or "")) for c in column)
            sheet.column_dimensions[column[0].column_letter].width = min(max(longest + 2, 8 if n else 18), 60)
        sheet.freeze_panes = "A2"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _xlsx(head: list[str], body: list[list[str]], numbers: frozenset[int]) -> bytes:
    return book_bytes([Page("Parts", head, body, numbers)])
