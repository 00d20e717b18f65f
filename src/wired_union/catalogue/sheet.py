"""Sheets of parts, CSV or XLSX: read with every row's problems, and written the same way.

A heading is a column of the catalogue ("load.active_a"), its words ("active current"), or a usual name for it
("weight", "cost", "qty"), with a unit in brackets where the cells carry none: "Mass (g)". A cell may carry its own.
"""

import codecs
import csv
import io
import math
import re
from collections.abc import Iterable, Iterator, Sequence
from functools import cache
from itertools import chain, islice
from pathlib import Path
from typing import Any

from msgspec import Struct

from wired_union import units
from wired_union.catalogue.parts import FACETS, CatalogueError, columns, from_row, to_row
from wired_union.catalogue.physical_sense import Problem, problems
from wired_union.errors import PlainError
from wired_union.project.change import new_id, plain
from wired_union.project.file import refuse_special
from wired_union.project.model import Part, Stock
from wired_union.project.value import BadFigure, holds_number, made

STOCK_COLUMNS = {"have": "how many there are", "donated": "yes where they were donated"}
_USUAL = {
    "weight": "mass_kg", "cost": "price", "unit price": "price", "class": "kind", "type": "kind", "category": "kind",
    "description": "note", "notes": "note", "comment": "note", "title": "name", "part": "name", "item": "name",
    "qty": "have", "stock": "have", "count": "have", "in stock": "have", "lead time": "delivery_days",
    "length": "length_m", "width": "width_m", "height": "height_m", "bus": "link.bus", "interface": "link.bus",
    "logic level": "link.logic_v", "pins": "link.pins", "chemistry": "pack.chemistry", "cells": "pack.series",
    "capacity": "pack.cell_capacity_ah", "stall torque": "motor.stall_torque_n_m",
    "stall current": "motor.stall_current_a", "no load speed": "motor.no_load_speed_rad_s",
    "supply voltage": "load.rated_v", "voltage": "load.rated_v", "current": "load.active_a",
}  # fmt: skip
MOST_ROWS = 1_000_000
MOST_COLUMNS = 300
MOST_TEXT = 5000
MOST_UNPACKED = 600_000_000
TELL_EVERY = 500


class SheetError(PlainError):
    """A sheet that cannot be read at all; the text says what to do."""


class Row(Struct, frozen=True):
    """One row of a sheet: its number as the sheet counts, what it holds, and what is wrong with it.

    The cells are kept of rows that are refused only, so that a large sheet fits in memory.
    """

    number: int
    cells: tuple[tuple[str, str], ...]
    stock: Stock | None
    problems: tuple[Problem, ...]

    @property
    def good(self) -> bool:
        return self.stock is not None and not self.problems

    @property
    def name(self) -> str:
        """What to call the row in a list."""
        return self.stock.part.name if self.stock is not None else next((v for _, v in self.cells if v), "empty row")


class Sheet(Struct, frozen=True):
    """A sheet that was read: its rows, and headings that mean nothing here and were left out."""

    name: str
    rows: tuple[Row, ...]
    left_out: tuple[str, ...]

    @property
    def good(self) -> tuple[Stock, ...]:
        return tuple(r.stock for r in self.rows if r.good and r.stock is not None)

    @property
    def bad(self) -> tuple[Row, ...]:
        return tuple(r for r in self.rows if not r.good)


class _Column(Struct, frozen=True):
    heading: str
    path: str
    unit: str


def read_sheet(path: Path) -> Sheet:
    """Read a sheet whole. Raises SheetError as `reading`."""
    *_, sheet = reading(path)
    assert isinstance(sheet, Sheet)
    return sheet


def reading(path: Path) -> Iterator["int | Sheet"]:
    """Read a sheet, telling every so often how many rows are read; the sheet comes last.

    Raises SheetError: a file that is no sheet, cannot be read, or has no heading that is understood.
    """
    table = rows_of(path)
    headings = [str(h or "").strip() for h in next(table, ())]
    known = [column_for(h) for h in headings]
    if len(headings) > MOST_COLUMNS:
        raise SheetError(f"{path.name} has over {MOST_COLUMNS} columns. Leave out what is not of a part.")
    if not any(c is not None and c.path == "name" for c in known):
        raise SheetError(
            f"{path.name}: no column is called name. The first row holds the headings; name and kind must be among"
            " them, as in an exported sheet."
        )
    rows: list[Row] = []
    ids: dict[str, int] = {}
    for number, cells in enumerate(table, 2):
        texts = [cell_text(c) for c in cells[:MOST_COLUMNS]] if cells else []
        if any(texts):
            rows.append(_read(number, headings, known, texts, ids))
        if len(rows) > MOST_ROWS:
            raise SheetError(f"{path.name} has over {MOST_ROWS} rows. Split it.")
        if number % TELL_EVERY == 0:
            yield len(rows)
    yield Sheet(path.name, tuple(rows), tuple(h for h, c in zip(headings, known, strict=True) if c is None and h))


def column_for(heading: str) -> _Column | None:
    """The column that a heading means; None where it means nothing here."""
    found = re.fullmatch(r"(.*?)\s*[(\[]([^)\]]*)[)\]]\s*", heading)
    words, unit = (found[1], found[2].strip()) if found else (heading, "")
    wanted = re.sub(r"\s+", " ", words.replace("_", " ").replace("-", " ").strip().lower())
    path = _PATHS.get(words.strip()) or _USUAL.get(wanted) or _BY_WORDS.get(wanted)
    return _Column(heading, path, unit) if path else None


def _paths() -> tuple[dict[str, str], dict[str, str]]:
    exact = {name: name for name, _ in (*columns(), *STOCK_COLUMNS.items())}
    by_words: dict[str, str] = {}
    for name in exact:
        by_words.setdefault(units.plain_words(name), name)
    return exact, by_words


_PATHS, _BY_WORDS = _paths()


@cache
def _holds_number(path: str) -> bool:
    """Whether a column holds a number: what the model says of that field of a part, or of the shelf."""
    if path in STOCK_COLUMNS:
        return path == "have"
    facet, _, field = path.rpartition(".")
    return holds_number(FACETS[facet] if facet else Part, field)


def _read(
    number: int, headings: Sequence[str], known: Sequence[_Column | None], texts: Sequence[str], ids: dict[str, int]
) -> Row:
    cells = tuple(zip(headings, texts, strict=False))
    flat: dict[str, str] = {}
    wrong: list[Problem] = []
    for column, text in zip(known, texts, strict=False):
        if column is None or not text:
            continue
        try:
            flat[column.path] = _value(column, text)
        except units.UnitError as error:
            wrong.append(Problem(column.path, str(error)))
    have, donated = flat.pop("have", "0"), flat.pop("donated", "no").lower() in {"yes", "true", "1", "y"}
    wrong += [Problem(n, f"is missing; every row needs a {n}") for n in ("name", "kind") if n not in flat]
    if wrong:
        return Row(number, cells, None, tuple(wrong))
    flat.setdefault("id", new_id(f"own {flat['name']}", ()))
    if flat["id"] in ids:
        return Row(number, cells, None, (Problem("id", f"“{flat['id']}” is in row {ids[flat['id']]} already"),))
    try:
        part = from_row(flat, "sheet")
        stock = made(Stock, part=part, have=_whole(have), donated=donated)
    except CatalogueError as error:
        field, _, reason = str(error).split(", ", 2)[-1].partition(": ")
        return Row(number, cells, None, (Problem(field, reason),))
    except (ValueError, BadFigure):
        return Row(number, cells, None, (Problem("have", f"“{have}” is no whole number of 0 or more"),))
    ids[part.id] = number
    wrong += problems(part)
    return Row(number, cells if wrong else (), stock, tuple(wrong))


def _value(column: _Column, text: str) -> str:
    """A cell as the catalogue writes it: numbers in SI, words as they are. Raises UnitError."""
    if not _holds_number(column.path):
        return text
    unit = units.unit_of(column.path)
    bare = re.fullmatch(r"[-+−]?[\d.,\s]+(?:[eE][-+]?\d+)?", text) is not None
    value = units.parse(f"{text} {column.unit}" if bare and column.unit else text, unit)
    return str(int(value)) if abs(value) < 1e15 and value == int(value) else repr(value)


def _whole(text: str) -> int:
    number = float(text)
    if not math.isfinite(number) or number != int(number):
        raise ValueError(text)
    return int(number)


def cell_text(cell: Any) -> str:
    """A cell as text; whole numbers without a point."""
    if cell is None:
        return ""
    if isinstance(cell, float) and math.isfinite(cell) and cell == int(cell):
        return str(int(cell))
    return plain(str(cell)[:MOST_TEXT])


def rows_of(path: Path) -> Iterator[Sequence[Any]]:
    """Rows of a sheet as its cells. Raises SheetError: no sheet, damaged, or it cannot be read."""
    ending = path.suffix.lower()
    if ending not in {".csv", ".tsv", ".txt", ".xlsx"}:
        raise SheetError(f"{path.name}: a sheet of parts is .csv or .xlsx. Save it as one of these.")
    try:
        refuse_special(path)
        yield from _xlsx_rows(path) if ending == ".xlsx" else _csv_rows(path)
    except OSError as error:
        raise SheetError(f"{path.name} cannot be read: {(error.strerror or str(error)).lower()}.") from error


def table_text(path: Path) -> str:
    """A sheet as lines of cells between tabs, as when it is pasted. Raises SheetError."""
    return "\n".join("\t".join(cell_text(c) for c in row) for row in islice(rows_of(path), MOST_ROWS))


def _csv_rows(path: Path) -> Iterator[Sequence[str]]:
    coding = _coding_of(path)
    with path.open(encoding=coding, errors="replace", newline="") as file:
        lines = (line.replace("\0", "") for line in file if not line.startswith("#"))
        head = next(lines, "")
        delimiter = max(",;\t", key=head.count)
        try:
            yield from csv.reader(chain((head,), lines), delimiter=delimiter)
        except csv.Error as error:
            raise SheetError(f"{path.name} is no table that can be read ({error}). Save it anew as CSV.") from error


def _coding_of(path: Path) -> str:
    """UTF-8 where the whole file is, else the usual one of older spreadsheets."""
    decoder = codecs.getincrementaldecoder("utf-8")()
    try:
        with path.open("rb") as file:
            while block := file.read(1 << 20):
                decoder.decode(block)
            decoder.decode(b"", final=True)
    except UnicodeDecodeError:
        return "cp1252"
    return "utf-8-sig"


def _xlsx_rows(path: Path) -> Iterator[Sequence[Any]]:
    from zipfile import ZipFile

    from openpyxl import load_workbook
    from openpyxl.worksheet._read_only import ReadOnlyWorksheet

    damaged = f"{path.name} is no XLSX file, or is damaged. Open and save it anew."
    try:
        with ZipFile(path) as packed:
            unpacked = sum(i.file_size for i in packed.infolist())
        if unpacked > MOST_UNPACKED:
            raise SheetError(
                f"{path.name} unpacks to {unpacked / 1e6:.0f} MB, which no sheet of parts needs. Split it."
            )
        book = load_workbook(path, read_only=True, data_only=True)
    except (SheetError, OSError):
        raise
    except Exception as error:  # whatever a damaged file leads the reader to
        raise SheetError(damaged) from error
    try:
        sheet = book.active
        if isinstance(sheet, ReadOnlyWorksheet):
            sheet.reset_dimensions()  # what the file says of its size may be wrong, or the far corner
            yield from sheet.iter_rows(values_only=True)  # no columns asked for: a gap of rows costs nothing
    except OSError:
        raise
    except Exception as error:  # whatever a damaged file leads the reader to
        raise SheetError(damaged) from error
    finally:
        book.close()


def sheet_table(stocks: Iterable[Stock]) -> tuple[list[str], list[list[str]]]:
    """Headings and rows of a sheet of parts that reads back as the same parts; only columns that some part fills."""
    kept = list(stocks)
    flat = [to_row(s.part) for s in kept]
    used = [name for name, _ in columns() if any(name in row for row in flat)]
    body = [
        [*(row.get(n, "") for n in used), str(s.have) if s.have else "", "yes" if s.donated else ""]
        for s, row in zip(kept, flat, strict=True)
    ]
    return [*used, *STOCK_COLUMNS], body


_RUNS = ("=", "+", "-", "@", "\uff1d", "\uff0b", "\uff0d", "\uff20")


def harmless(cell: str) -> str:
    """A text that a spreadsheet would run as a formula, quoted so that it stays a text."""
    bare = cell.lstrip()
    runs = bare.startswith(_RUNS) and not is_number(bare)
    return f"'{cell}" if runs or cell[:1] in {"\t", "\r", "\n"} else cell


def is_number(cell: str) -> bool:
    """Whether a cell's text is a finite number as this program writes it."""
    try:
        return math.isfinite(float(cell)) and cell.strip() == cell and "_" not in cell
    except ValueError:
        return False


def is_number_column(name: str) -> bool:
    """Whether a column holds numbers; a name that looks like one is a text all the same."""
    return name in {"count", "have"} or (name in _PATHS and _holds_number(name))


def bad_rows_csv(sheet: Sheet) -> str:
    """The rows that were refused, as CSV with what is wrong behind each, so that they can be mended and read again."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    headings = [h for h, _ in sheet.bad[0].cells] if sheet.bad else []
    writer.writerow([*headings, "what is wrong"])
    for row in sheet.bad:
        wrong = "; ".join(f"{p.field}: {p.text}" for p in row.problems)
        writer.writerow([harmless(text) for text in (*(text for _, text in row.cells), wrong)])
    return out.getvalue()


def stocks_of(parts: Iterable[Part]) -> list[Stock]:
    """Parts as a sheet holds them, with none in hand."""
    return [Stock(part=p) for p in parts]
