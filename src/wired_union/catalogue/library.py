"""A lab's whole store in one local file: SQLite with full-text search. Parts that are used are copied from it.

Every figure that a slot can ask for is a column, so that the candidates of a slot are one query, however many rows.
"""

import re
import sqlite3
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import msgspec
from msgspec import Struct

from wired_union.catalogue.figures import FIGURES, Ask
from wired_union.errors import PlainError
from wired_union.project.model import Part, Stock
from wired_union.project.writing import compact

VERSION = 1
BATCH = 2000


class LibraryError(PlainError):
    """A library file that cannot be used; the text says what to do."""


class Found(Struct, frozen=True):
    """Rows that were found, and how many there are in all."""

    stocks: tuple[Stock, ...]
    total: int


class Library:
    """One library file. It is made when first written to; a missing one is empty."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def __len__(self) -> int:
        if not self.path.exists():
            return 0
        with self._open() as db:
            return int(db.execute("SELECT COUNT(*) FROM parts").fetchone()[0])

    def add(self, stocks: Iterable[Stock]) -> int:
        """Add parts, all or none; one whose id is there already is replaced. Gives how many were added."""
        return max(self.adding(stocks), default=0)

    def adding(self, stocks: Iterable[Stock]) -> Iterator[int]:
        """Add parts, telling after each batch how many are in. Left before its end, it adds none."""
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise LibraryError(
                f"{self.path.parent} cannot be made: {(error.strerror or str(error)).lower()}."
            ) from error
        count = 0
        with self._open(make=True) as db:
            for batch in _batches(stocks):
                keys = [(s.part.id,) for s in batch]
                db.executemany("DELETE FROM words WHERE rowid IN (SELECT rowid FROM parts WHERE id = ?)", keys)
                db.executemany(_INSERT, [_row(s) for s in batch])
                db.executemany(
                    "INSERT INTO words(rowid, text) SELECT rowid, ? FROM parts WHERE id = ?",
                    [(_words(s.part), s.part.id) for s in batch],
                )
                count += len(batch)
                yield count
            db.commit()

    def search(self, text: str, kinds: Sequence[str] = (), limit: int = 60) -> Found:
        """Parts that hold every word, those in hand first."""
        if not self.path.exists():
            return Found((), 0)
        where, values = _kinds_clause(kinds)
        tokens = re.findall(r"[\w.]+", text.lower())
        if tokens:
            tokens = tokens[:20]
            query = " ".join(f'"{t}"*' for t in tokens)
            where.append("rowid IN (SELECT rowid FROM words WHERE words MATCH ?)")
            values.append(query)
        clause = f"WHERE {' AND '.join(where)}" if where else ""
        with self._open() as db:
            total = db.execute(f"SELECT COUNT(*) FROM parts {clause}", values).fetchone()[0]
            rows = db.execute(
                f"SELECT data, have, donated FROM parts {clause} ORDER BY have = 0, price LIMIT ?", [*values, limit]
            ).fetchall()
        return Found(tuple(map(_stock, rows)), int(total))

    def candidates(self, kinds: Sequence[str], asks: Sequence[Ask], limit: int = 60) -> Found:
        """Parts of some classes: those that meet every ask first, in hand first, then those that miss the least asks.

        `total` counts those that meet every ask.
        """
        if not self.path.exists():
            return Found((), 0)
        where, values = _kinds_clause(kinds)
        clause = f"WHERE {' AND '.join(where)}" if where else ""
        tests = [f"COALESCE({a.figure} {'>=' if a.at_least else '<='} ?, 0)" for a in asks]
        asked = [a.value + (-1 if a.at_least else 1) * 1e-9 * max(abs(a.value), 1.0) for a in asks]
        meets = " + ".join(tests) or "0"
        with self._open() as db:
            meeting = f"FROM parts {clause} {'AND' if where else 'WHERE'} {meets} = {len(asks)}"
            given = [*values, *asked]
            rows = db.execute(
                f"SELECT data, have, donated {meeting} ORDER BY have = 0, price LIMIT ?", [*given, limit]
            ).fetchall()
            total = len(rows)
            if total == limit:
                total = db.execute(f"SELECT COUNT(*) {meeting}", given).fetchone()[0]
            else:  # those that miss the least follow
                rows = db.execute(
                    f"SELECT data, have, donated FROM parts {clause} ORDER BY {meets} DESC, have = 0, price LIMIT ?",
                    [*given, limit],
                ).fetchall()
        return Found(tuple(map(_stock, rows)), int(total))

    def kinds(self) -> tuple[str, ...]:
        if not self.path.exists():
            return ()
        with self._open() as db:
            return tuple(r[0] for r in db.execute("SELECT DISTINCT kind FROM parts ORDER BY kind"))

    def everything(self) -> Iterator[Stock]:
        """Every part, for export."""
        if self.path.exists():
            with self._open() as db:
                for row in db.execute("SELECT data, have, donated FROM parts ORDER BY kind, name"):
                    yield _stock(row)

    @contextmanager
    def _open(self, *, make: bool = False) -> Iterator[sqlite3.Connection]:
        try:
            db = sqlite3.connect(self.path)
            try:
                version = db.execute("PRAGMA user_version").fetchone()[0]
                if make and version == 0 and not db.execute("SELECT COUNT(*) FROM sqlite_master").fetchone()[0]:
                    db.executescript(_SCHEMA)
                    version = VERSION
                if version != VERSION:
                    raise LibraryError(
                        f"{self.path.name} is no library of this program, or of a later one. Nothing was changed in it;"
                        " move it away, or use a newer Wired Union."
                    )
                if make:
                    db.execute(_INDEX)  # libraries of before have none
                yield db
            finally:
                db.close()
        except (sqlite3.Error, OSError, msgspec.MsgspecError) as error:
            raise LibraryError(
                f"{self.path.name} cannot be used ({error}). Move it away and import the sheet again; no project"
                " depends on it."
            ) from error


def _batches(stocks: Iterable[Stock]) -> Iterator[list[Stock]]:
    batch: list[Stock] = []
    for stock in stocks:
        batch.append(stock)
        if len(batch) == BATCH:
            yield batch
            batch = []
    if batch:
        yield batch


_INDEX = "CREATE INDEX IF NOT EXISTS parts_at_hand ON parts (have = 0, price);"
_SCHEMA = f"""
CREATE TABLE IF NOT EXISTS parts (
  id TEXT PRIMARY KEY, name TEXT, kind TEXT, data TEXT, have INTEGER, donated INTEGER,
  {", ".join(f"{name} REAL" for name in FIGURES)});
CREATE INDEX IF NOT EXISTS parts_by_kind ON parts (kind, have, price);
{_INDEX}
CREATE VIRTUAL TABLE IF NOT EXISTS words USING fts5(text, tokenize = "unicode61 tokenchars '.'", prefix = '2 3');
PRAGMA user_version = {VERSION};
"""
_COLUMNS = ("id", "name", "kind", "data", "have", "donated", *FIGURES)
_INSERT = f"INSERT OR REPLACE INTO parts ({', '.join(_COLUMNS)}) VALUES ({', '.join('?' * len(_COLUMNS))})"


def _row(stock: Stock) -> tuple[Any, ...]:
    part = stock.part
    data = compact(part)
    return (part.id, part.name, part.kind, data, stock.have, int(stock.donated), *(r(part) for r in FIGURES.values()))


def _stock(row: tuple[str, int, int]) -> Stock:
    return Stock(part=_part(row[0]), have=row[1], donated=bool(row[2]))


def _part(text: str) -> Part:
    return msgspec.json.decode(text, type=Part)


def _words(part: Part) -> str:
    bus = part.link.bus if part.link is not None and part.link.bus else ""
    quantity = part.sense.quantity if part.sense is not None else ""
    return f"{part.name} {part.kind} {part.note} {bus} {quantity}".lower()


def _kinds_clause(kinds: Sequence[str]) -> tuple[list[str], list[Any]]:
    return ([f"kind IN ({', '.join('?' * len(kinds))})"], list(kinds)) if kinds else ([], [])
