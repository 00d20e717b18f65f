"""Pin tables of controllers and the signals of parts, as tables: one pin a row, one part a row.

A cell of what a pin does names abilities with their instance and part of it: "plain; interrupt 5; PWM 3 2; I2C 1
clock". A cell of a part's signals names each with what it needs: "clock = I2C clock; ready = interrupt from".
"""

import io
from collections.abc import Iterable
from functools import cache
from typing import Any

from wired_union.errors import PlainError
from wired_union.project.value import BadFigure, made
from wired_union.project.wiring_model import ABILITIES, Ability, Board, Does, Line, Pin, Port
from wired_union.shipped import PINS

HEAD = ("pin", "does", "at start", "most volts", "most amperes")
FLOWS = {"to": "to the part", "from": "from the part", "both": "both"}
PULLS = {"pulls-nothing": "nothing", "pulls-high": "high", "pulls-low": "low"}
_SPELLED: dict[str, Ability] = {a.lower(): a for a in ABILITIES} | {
    "i²c": "I2C", "gpio": "plain", "digital": "plain", "adc": "analogue", "analog": "analogue",
}  # fmt: skip


class PinTableError(PlainError):
    """A table that cannot be read; the text says which row, and what would be right."""


def read_pins(text: str) -> tuple[Pin, ...]:
    """Pins from CSV with a heading. Raises PinTableError for a row that makes no sense."""
    import csv  # not needed to open a window

    rows = list(csv.reader(io.StringIO(text.lstrip("\ufeff"))))
    head = [cell.strip().lower() for cell in rows[0]] if rows else []
    if "pin" not in head or "does" not in head:
        raise PinTableError(
            f"A pin table has a heading with the columns {', '.join(HEAD)}; pin and does must be there."
        )
    pins: dict[str, Pin] = {}
    for number, row in enumerate(rows[1:], 2):
        cells = {k: v.strip() for k, v in zip(head, row, strict=False)}
        if not any(cells.values()):
            continue
        pin = _pin(cells, number)
        if pin.name in pins:
            raise PinTableError(f"Row {number}: there are two pins {pin.name}. Give each its own name.")
        pins[pin.name] = pin
    if not pins:
        raise PinTableError("The table has a heading and no pins.")
    return tuple(pins.values())


def _pin(cells: dict[str, str], number: int) -> Pin:
    figures: dict[str, Any] = {"name": cells.get("pin", ""), "does": does_of(cells.get("does", ""), number)}
    figures["at_start"] = cells.get("at start") or "free"
    for column, field in (("most volts", "max_v"), ("most amperes", "max_current_a")):
        if text := cells.get(column):
            figures[field] = _number(text, column, number)
    try:
        return made(Pin, **figures)
    except BadFigure as error:
        raise PinTableError(f"Row {number}: {error.field.replace('_', ' ')} {error.reason}.") from error


def _number(text: str, column: str, number: int) -> float:
    try:
        return float(text)
    except ValueError as error:
        raise PinTableError(f"Row {number}: {column} “{text}” is not a number.") from error


def does_of(text: str, number: int = 0) -> tuple[Does, ...]:
    """What a cell says a pin can do. Raises PinTableError for an ability that is not known."""
    found: list[Does] = []
    for piece in filter(None, (p.strip() for p in text.split(";"))):
        ability, rest = _ability(piece)
        if ability is None:
            row = f"Row {number}: " if number else ""
            raise PinTableError(f"{row}“{piece}” is not known. A pin can be: {', '.join(ABILITIES)}.")
        instance, _, role = rest.partition(" ")
        found.append((ability, instance[:40], role.strip()[:40]))
    return tuple(found)


def _ability(piece: str) -> tuple[Ability | None, str]:
    """The ability that a piece begins with, and what follows."""
    lower = piece.lower()
    for word in sorted(_SPELLED, key=len, reverse=True):
        if lower == word or lower.startswith(f"{word} "):
            return _SPELLED[word], piece[len(word) :].strip()
    return None, piece


def does_words(does: Iterable[Does]) -> str:
    """The cell that says what a pin can do."""
    return "; ".join(" ".join(filter(None, one)) for one in does)


def write_pins(pins: Iterable[Pin]) -> str:
    """The table of some pins as CSV."""
    import csv

    out = io.StringIO()
    sheet = csv.writer(out, lineterminator="\n")
    sheet.writerow(HEAD)
    for pin in pins:
        figures = ("" if v is None else f"{v:g}" for v in (pin.max_v, pin.max_current_a))
        sheet.writerow((pin.name, does_words(pin.does), pin.at_start, *figures))
    return out.getvalue()


def lines_of(text: str) -> tuple[Line, ...]:
    """Signals from a cell. Raises PinTableError."""
    found: list[Line] = []
    for piece in filter(None, (p.strip() for p in text.split(";"))):
        name, _, rest = (w.strip() for w in piece.partition("="))
        ability, words = _ability(rest or name)
        if ability is None:
            raise PinTableError(
                f"“{piece}” is not known. A signal is: name = {' | '.join(ABILITIES)}, then to or from."
            )
        figures: dict[str, Any] = {"name": name, "does": ability}
        for word in words.split():
            if word in FLOWS:
                figures["flows"] = FLOWS[word]
            elif word in PULLS:
                figures["pulls"] = PULLS[word]
            elif word.endswith("Hz"):
                figures["frequency_hz"] = float(word[:-2])
            else:
                figures["role"] = word
        found.append(Line(**figures))
    return tuple(found)


@cache
def boards() -> dict[str, Board]:
    """Pin tables of the catalogue, by the id of the part."""
    found = {}
    for file in sorted(PINS.glob("*.csv")):
        if file.name != PORTS:
            found[file.stem] = Board(pins=read_pins(file.read_text(encoding="utf-8")), **_beside(file.stem))
    return found


PORTS = "ports.csv"


@cache
def _rows() -> dict[str, dict[str, str]]:
    import csv

    rows = csv.DictReader((PINS / PORTS).read_text(encoding="utf-8").splitlines())
    return {row["id"]: row for row in rows}


def _beside(part_id: str) -> dict[str, Any]:
    row = _rows().get(part_id, {})
    figures: dict[str, Any] = {}
    if row.get("bits"):
        figures["analogue_bits"] = int(row["bits"])
    if row.get("all_pins_a"):
        figures["total_current_a"] = float(row["all_pins_a"])
    return figures


@cache
def ports() -> dict[str, Port]:
    """What the catalogue says of signals beyond a link, by the id of the part."""
    return {i: _port(row) for i, row in _rows().items() if any(row[c] for c in ("lines", "addresses", "family"))}


def _port(row: dict[str, str]) -> Port:
    figures: dict[str, Any] = {"lines": lines_of(row["lines"])}
    figures["addresses"] = tuple(int(a, 16) for a in row["addresses"].split())
    figures["family"] = row["family"]
    for column in ("pull_up_ohm", "clock_hz", "input_high_v", "input_low_v"):
        if row[column]:
            figures[column] = float(row[column])
    return made(Port, **figures)
