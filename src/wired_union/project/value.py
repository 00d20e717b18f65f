"""What every value of a project is: frozen, checked when an edit makes it, with keys that a newer program wrote kept.

Numbers are bounded by what is physical, so that no sum, product or quotient of a few of them leaves the range of a
float. None means not known, never zero.
"""

from collections.abc import Iterator
from functools import cache
from inspect import get_annotations
from typing import Annotated, Any, Literal, Self, TypeVar

import msgspec
from msgspec import Meta, Struct
from msgspec.inspect import (
    CustomType,
    FloatType,
    IntType,
    LiteralType,
    Metadata,
    StrType,
    Type,
    UnionType,
    VarTupleType,
    type_info,
)
from msgspec.structs import fields as struct_fields
from msgspec.structs import replace

from wired_union.project.errors import ProjectError

MOST, LEAST = 1e9, 1e-12

Amount = Annotated[float, Meta(ge=0, le=MOST)]
Positive = Annotated[float, Meta(ge=LEAST, le=MOST)]
Finite = Annotated[float, Meta(ge=-MOST, le=MOST)]
Share = Annotated[float, Meta(ge=0, le=1)]
Kept = Annotated[float, Meta(ge=0, lt=1)]
Efficiency = Annotated[float, Meta(ge=0.001, le=1)]
Celsius = Annotated[float, Meta(ge=-273.15, le=3000)]
Volts = Annotated[float, Meta(ge=1e-3, le=1e5)]
Duration = Annotated[float, Meta(ge=1e-9, le=1e10)]
Count = Annotated[int, Meta(ge=1, le=10_000)]
Name = Annotated[str, Meta(min_length=1, max_length=120)]

BEYOND = "?"
"""Key under which a value carries what a newer program wrote into it, between reading and writing."""

V = TypeVar("V", bound="Value")


ROOM_WORDS = {
    "items": "item", "modes": "mode", "subsystems": "subsystem", "loads": "load", "concepts": "concept",
    "processors": "processor", "tasks": "task", "buses": "bus", "messages": "message", "chains": "chain",
    "radio_links": "radio link", "packets": "packet", "eyes": "eye", "signals": "signal",
    "control_loops": "control loop", "ways": "way", "own_lines": "own line", "joins": "join", "cables": "cable",
    "interfaces": "interface", "states": "state", "cues": "cue", "hazards": "hazard", "gates": "gate",
    "calibrations": "calibration", "course_places": "place of the course", "trips": "trip", "throws": "throw",
    "enclosures": "box", "inlets": "charger", "plan_tasks": "task of the plan", "features": "feature",
    "people": "person", "machines": "machine",
}  # fmt: skip
"""What one of each room is called."""


class Ref(Struct, frozen=True):
    """Marks a field that names another value by its id: where to look, and what happens when that one goes.

    `gone`: "drop" takes away the value that names it, "clear" empties the field, "keep" refuses the removal.
    `copied`: whether a duplicate of the one named gets a duplicate of the value that names it.
    """

    room: Literal[
        "items",
        "modes",
        "subsystems",
        "loads",
        "concepts",
        "processors",
        "tasks",
        "buses",
        "messages",
        "chains",
        "radio_links",
        "packets",
        "eyes",
        "signals",
        "control_loops",
        "ways",
        "own_lines",
        "joins",
        "cables",
        "interfaces",
        "states",
        "cues",
        "hazards",
        "gates",
        "calibrations",
        "course_places",
        "trips",
        "throws",
        "enclosures",
        "inlets",
        "plan_tasks",
        "features",
        "people",
        "machines",
    ]
    gone: Literal["drop", "clear", "keep"] = "drop"
    copied: bool = False


class Value(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A frozen value. `but` gives it with fields replaced by what code made; `checked` by what people typed."""

    beyond: tuple[tuple[str, str], ...] = msgspec.field(default=(), name=BEYOND)
    """Keys that this program does not know, each with its JSON text."""

    def but(self, /, **new: Any) -> Self:
        """The value with fields replaced, unchecked."""
        return replace(self, **new)


class BadFigure(ProjectError):
    """A figure that cannot be: which field, and what would be right."""

    def __init__(self, field: str, reason: str) -> None:
        self.field, self.reason = field, reason
        super().__init__(f"{field}: {reason}")

    def __reduce__(self) -> tuple[type, tuple[str, str]]:
        return type(self), (self.field, self.reason)


def checked(value: V, /, **new: Any) -> V:
    """The value with fields replaced by what was typed. Raises BadFigure for one that is not in its range."""
    known = field_types(type(value))
    return value.but(**{name: _converted(known, name, given) for name, given in new.items()})


def made(kind: type[V], /, **figures: Any) -> V:
    """A new value from what was typed. Raises BadFigure for a figure that cannot be, or is missing."""
    known = field_types(kind)
    for name in required(kind):
        if name not in figures:
            raise BadFigure(name, "must be given")
    return kind(**{name: _converted(known, name, given) for name, given in figures.items()})


def loosely(kind: type[V], texts: dict[str, Any]) -> V:
    """A new value from texts of a sheet, numbers among them written as text. Raises BadFigure."""
    known = field_types(kind)
    for name in required(kind):
        if name not in texts:
            raise BadFigure(name, "must be given")
    found = {}
    for name, text in texts.items():
        if name not in known:
            raise BadFigure(name, "is not known here")
        try:
            found[name] = msgspec.convert(text, known[name], strict=False)
        except msgspec.ValidationError as error:
            raise BadFigure(name, reason(known[name], _number(text))) from error
    return kind(**found)


def _number(text: Any) -> Any:
    """What a text says as a number, the text itself where it says none."""
    try:
        return float(text)
    except (TypeError, ValueError):
        return text


def _converted(known: dict[str, Any], name: str, given: Any) -> Any:
    if name not in known:
        raise BadFigure(name, "is not known here")
    try:
        return msgspec.convert(given, known[name])
    except msgspec.ValidationError as error:
        raise BadFigure(name, reason(known[name], given)) from error


def field_names(kind: type[Value]) -> tuple[str, ...]:
    """Fields of a kind of value, in the order of the file."""
    return tuple(field_types(kind))


def named_values(value: Value) -> Iterator[tuple[str, Any]]:
    """Every field of a value with what it holds."""
    return ((name, getattr(value, name)) for name in field_types(type(value)))


@cache
def field_types(kind: type[Value]) -> dict[str, Any]:
    """Fields of a kind of value with their types, in the order of the file."""
    told: dict[str, Any] = {}
    for base in reversed(kind.__mro__):
        told |= get_annotations(base)
    if any(isinstance(hint, str) for hint in told.values()):  # a name in quotes: ask, which takes longer
        told = {f.name: f.type for f in struct_fields(kind)}
    return {name: told[name] for name in kind.__struct_fields__ if name != "beyond"}


def ref_of(hint: Any) -> Ref | None:
    """The reference that a field's type declares, None where it names nothing."""
    return next((m for m in getattr(hint, "__metadata__", ()) if isinstance(m, Ref)), None)


@cache
def references(kind: type[Value]) -> dict[str, Ref]:
    """Fields of a kind of value that name another value."""
    return {name: ref for name, hint in field_types(kind).items() if (ref := ref_of(hint)) is not None}


@cache
def choices(kind: type[Value], field: str) -> tuple[str, ...]:
    """The words that a field may hold, () where it is free."""
    found = _plain(type_info(field_types(kind)[field]))
    return tuple(str(v) for v in found.values) if isinstance(found, LiteralType) else ()


@cache
def holds_number(kind: type[Value], field: str) -> bool:
    """Whether a field holds a number, or may hold none."""
    return isinstance(_plain(type_info(field_types(kind)[field])), FloatType | IntType)


@cache
def holds_whole(kind: type[Value], field: str) -> bool:
    """Whether a field holds a whole number, or may hold none."""
    return isinstance(_plain(type_info(field_types(kind)[field])), IntType)


@cache
def required(kind: type[Value]) -> tuple[str, ...]:
    """Fields without a default."""
    return tuple(f.name for f in struct_fields(kind) if f.required)


def reason(hint: Any, given: Any) -> str:
    """Why a figure is not of a type, as the end of a sentence: "must be above 0"."""
    wanted = _plain(type_info(hint))
    if isinstance(wanted, FloatType | IntType):
        return _number_reason(wanted, given)
    if isinstance(wanted, LiteralType):
        return f"must be one of {', '.join(str(v) for v in wanted.values)}"
    if isinstance(wanted, StrType):
        if not isinstance(given, str):
            return "must be a text"
        return "must be given" if not given else f"must be under {(wanted.max_length or 0) + 1} characters"
    if isinstance(wanted, VarTupleType) and isinstance(given, list | tuple) and len(given) < (wanted.min_length or 0):
        return "must hold at least one"
    return _KINDS.get(type(wanted).__name__, "is not of the form that belongs here")


_KINDS = {
    "BoolType": "must be yes or no (true or false)", "VarTupleType": "must be a list", "TupleType": "must be a pair",
    "StructType": "must be a group of values in { }", "UnionType": "must be a group of values in { }",
}  # fmt: skip


def _number_reason(wanted: FloatType | IntType, given: Any) -> str:
    if isinstance(given, bool) or not isinstance(given, int | float):
        return "must be a whole number" if isinstance(wanted, IntType) else "must be a number"
    if given != given:
        return "is not a number"
    if wanted.ge is not None and given < wanted.ge:
        return "must be above 0" if 0 < wanted.ge <= 1e-3 and given <= 0 else f"must be {wanted.ge:g} or more"
    if wanted.gt is not None and given <= wanted.gt:
        return f"must be above {wanted.gt:g}"
    if wanted.lt is not None and given >= wanted.lt:
        return f"must be below {wanted.lt:g}"
    if wanted.le is not None and given > wanted.le:
        return f"must be at most {wanted.le:g}"
    return "must be a whole number" if isinstance(wanted, IntType) else "must be a number"


def _plain(wanted: Type) -> Type:
    """A type without its description, and without None beside it."""
    while isinstance(wanted, Metadata | UnionType | CustomType):
        if isinstance(wanted, Metadata):
            wanted = wanted.type
            continue
        inner = [t for t in getattr(wanted, "types", ()) if type(t).__name__ != "NoneType"]
        if len(inner) != 1:
            return wanted
        wanted = inner[0]
    return wanted
