"""The catalogue: generic parts as CSV files, one a class, and the flat form parts take in a table."""

from collections.abc import Iterable, Iterator
from functools import cache
from pathlib import Path
from typing import Any

import msgspec

from wired_union.errors import PlainError
from wired_union.project.model import (
    Canopy,
    Driver,
    Flywheel,
    Link,
    Load,
    Motor,
    Pack,
    Panel,
    Part,
    Rail,
    Regulator,
    Sense,
    Shifter,
    Spring,
    Stepper,
    Supply,
    Tank,
    Thrust,
    Wheel,
)  # fmt: skip
from wired_union.project.value import BadFigure, Value, field_names, loosely, named_values
from wired_union.shipped import PARTS

FACETS: dict[str, type[Value]] = {
    "load": Load, "motor": Motor, "stepper": Stepper, "pack": Pack, "supply": Supply, "regulator": Regulator,
    "driver": Driver, "rail": Rail, "link": Link, "shifter": Shifter, "sense": Sense, "thrust": Thrust,
    "wheel": Wheel, "spring": Spring,
    "tank": Tank, "flywheel": Flywheel, "canopy": Canopy, "panel": Panel,
}  # fmt: skip

NESTED = frozenset({"board", "port"})
"""Fields of a part that hold lists of their own: no columns of a sheet."""
CURVES = frozenset({"efficiency_curve", "second_efficiency_curve"})
"""Fields that hold points of output current and efficiency."""
DISCIPLINE_OF = {
    # what colour a class wears; thinking and sensing are told apart from power and structure
    "pack": "power", "linear regulator": "power", "switching regulator": "power", "rail": "power",
    "gearmotor": "power", "servo": "power", "stepper": "power", "linear actuator": "power", "motor driver": "power",
    "microcontroller": "thinking", "computer": "thinking", "radio": "thinking", "level shifter": "thinking",
    "camera": "sensing", "inertial sensor": "sensing", "position receiver": "sensing", "range sensor": "sensing",
    "limit switch": "sensing", "current sensor": "sensing", "environment sensor": "sensing",
    "load cell": "sensing", "encoder": "sensing", "pressure sensor": "sensing", "temperature sensor": "sensing",
    "microphone": "sensing", "line array": "sensing", "beam pair": "sensing",
    "motor": "power", "solenoid": "power", "valve": "power", "pump": "power", "reaction wheel": "power",
    "heater": "power", "fan": "power", "solar panel": "power", "charger": "power", "fuse": "power", "switch": "power",
    "display": "thinking",
    "wheel": "structure", "structure": "structure", "fastening": "structure", "tank": "structure",
    "spring": "structure", "parachute": "structure", "connector": "structure",
    "relay": "power", "contactor": "power", "battery protection": "power", "low voltage switch": "power",
    "ideal diode": "power", "diode": "power", "coin cell": "power", "brake": "power", "clutch": "power",
    "hot wire": "power",
    "thermoelectric cooler": "power", "laser pointer": "power", "servo board": "thinking",
    "line expander": "thinking", "analogue converter": "thinking", "storage": "thinking", "clock": "thinking",
    "buzzer": "thinking", "push button": "thinking", "remote control receiver": "thinking",
    "heading sensor": "sensing", "colour sensor": "sensing", "gas sensor": "sensing", "sound sensor": "sensing",
    "flow sensor": "sensing", "power bank": "power", "mains adapter": "power", "usb supply": "power",
    "bench supply": "power", "tether": "power",
}  # fmt: skip


class CatalogueError(PlainError):
    """A row that is no part; the text names file, part and field."""


def discipline_of(kind: str) -> str:
    """The discipline whose colour a class of parts wears; an own class is structure."""
    return DISCIPLINE_OF.get(kind, "structure")


@cache
def catalogue() -> tuple[Part, ...]:
    """Every generic part, in the order of the files. Read once; parts are values and cannot change."""
    return tuple(part for kind in _files() for part in of_kind(kind))


@cache
def of_kind(kind: str) -> tuple[Part, ...]:
    """Parts of a class, in the order of its file; none where the class is not of the catalogue."""
    file = _files().get(kind)
    if file is None:
        return ()
    return tuple(read_rows(file.read_text(encoding="utf-8").splitlines(), file.name))


@cache
def _files() -> dict[str, Path]:
    """The file of every class, which it is named for: "motor-driver.csv" holds motor drivers and nothing else."""
    return {file.stem.replace("-", " "): file for file in sorted(PARTS.glob("*.csv"))}


def part(part_id: str) -> Part:
    """The catalogue part with that id. Raises CatalogueError when there is none."""
    found = next((p for p in catalogue() if p.id == part_id), None)
    if found is None:
        raise CatalogueError(f"The catalogue has no part “{part_id}”.")
    return found


def read_rows(lines: Iterable[str], name: str) -> Iterator[Part]:
    """Parts from CSV lines; lines that start with # explain the fields. Raises CatalogueError with part and field."""
    for row in _columns(lines):
        yield from_row(row, name)


def _columns(lines: Iterable[str]) -> Iterator[dict[str, str]]:
    import csv  # not needed to open a window

    rows = csv.reader(line for line in lines if line.strip() and not line.startswith("#"))
    head = next(rows, [])
    yield from (dict(zip(head, row, strict=False)) for row in rows)


def from_row(row: dict[str, str], name: str) -> Part:
    """A part from flat columns such as "load.active_a"; empty cells are not known. Raises CatalogueError."""
    data: dict[str, Any] = {}
    for column, text in row.items():
        if text is None or not text.strip():
            continue
        facet, _, field = column.rpartition(".")
        target = data.setdefault(facet, {}) if facet else data
        target[field] = _curve(text) if field in CURVES else text.strip()
    if _all_known(data):
        try:
            return _with_pins(msgspec.convert(data, Part, strict=False))
        except msgspec.ValidationError:
            pass  # what follows says which field, and why
    try:
        facets = {f: loosely(FACETS[f], inside) for f, inside in data.items() if f in FACETS}
    except BadFigure as error:
        at = next(f for f in data if f in FACETS and error.field in data[f])
        raise _refused(name, data, f"{at}.{error.field}", error.reason, data[at].get(error.field)) from error
    try:
        return _with_pins(loosely(Part, {**data, **facets}))
    except BadFigure as error:
        raise _refused(name, data, error.field, error.reason, data.get(error.field)) from error


def _with_pins(part: Part) -> Part:
    """A part of the catalogue with its pins and its signals, which a sheet does not hold."""
    from wired_union.catalogue.pin_tables import boards, ports

    board, port = boards().get(part.id), ports().get(part.id)
    return part.but(board=board, port=port) if board is not None or port is not None else part


@cache
def _fields_of(facet: str) -> frozenset[str]:
    return frozenset(field_names(FACETS[facet]))


def _all_known(data: dict[str, Any]) -> bool:
    """Whether every column is a field of a part or of one of its facets."""
    fields = field_names(Part)
    return all(
        field in fields and (field not in FACETS or (isinstance(inside, dict) and _fields_of(field) >= inside.keys()))
        for field, inside in data.items()
    )


def _refused(name: str, data: dict[str, Any], field: str, reason: str, given: object) -> CatalogueError:
    return CatalogueError(f"{name}, part {data.get('id', '?')}, {field}: {reason} (got {given!r})")


def _curve(text: str) -> list[tuple[str, ...]]:
    return [tuple(point.split(":")) for point in text.split()]


def to_row(part: Part) -> dict[str, str]:
    """Flat columns of a part; what is not known is left out."""
    row: dict[str, str] = {}
    for field, value in named_values(part):
        if field in NESTED:
            continue
        if isinstance(value, Value):
            row.update({f"{field}.{k}": _cell(v) for k, v in named_values(value) if v is not None})
        elif value is not None:
            row[field] = _cell(value)
    return row


def _cell(value: Any) -> str:
    if isinstance(value, tuple):
        return " ".join(":".join(f"{x:g}" for x in point) for point in value)
    return f"{value:.6g}" if isinstance(value, float) else str(value)


def columns() -> list[tuple[str, str]]:
    """Every flat column with its meaning, in the order of the schema."""
    from wired_union.project.meanings import meanings  # reads the source of the models

    plain = [(n, meanings(Part)[n] or n) for n in field_names(Part) if n not in FACETS and n not in NESTED]
    inner = [(f"{facet}.{n}", about or n) for facet, model in FACETS.items() for n, about in meanings(model).items()]
    return plain + inner
