"""Every figure of a project, and what may be put in its place: for tests that try them all."""

import math
import random
from collections.abc import Iterable, Iterator
from typing import Any

from msgspec.inspect import (
    FloatType,
    IntType,
    LiteralType,
    Metadata,
    NoneType,
    StrType,
    UnionType,
    VarTupleType,
    type_info,
)
from msgspec.structs import fields

from wired_union.kernel.results import Finding
from wired_union.project.value import Value, _plain, named_values

Path = tuple[Any, ...]
ODD_TEXT = "x\x00\x07=1+1<b>\u2028\ufffe\t"
IDS = {"id", "item", "mode", "subsystem", "source", "load", "concept", "measure", "format", "at_work", "copied_from"}


def leaves(value: Value, path: Path = ()) -> Iterator[tuple[Path, Value, str]]:
    """Every field of a value and of what is in it: its path, the value that has it, its name."""
    for name, inner in named_values(value):
        yield (*path, name), value, name
        if isinstance(inner, Value):
            yield from leaves(inner, (*path, name))
        elif isinstance(inner, tuple):
            for n, one in enumerate(inner):
                if isinstance(one, Value):
                    yield from leaves(one, (*path, name, n))


def put(value: Any, path: Path, new: Any) -> Any:
    """The value with what is at a path replaced."""
    here, *rest = path
    if isinstance(value, tuple):
        return (*value[:here], put(value[here], tuple(rest), new) if rest else new, *value[here + 1 :])
    return value.but(**{here: put(getattr(value, here), tuple(rest), new) if rest else new})


def tries(kind: type[Value], name: str) -> list[Any]:
    """What a field may hold at its edges: nothing, least, most, a denormal, every word, an odd text, an empty list."""
    raw = type_info(next(f.type for f in fields(kind) if f.name == name))
    plain = _plain(raw)
    while isinstance(raw, Metadata):
        raw = raw.type
    found: list[Any] = []
    if isinstance(raw, UnionType) and any(isinstance(t, NoneType) for t in raw.types):
        found.append(None)
    if isinstance(plain, FloatType):
        above = None if plain.gt is None else math.nextafter(float(plain.gt), math.inf)
        low = float(plain.ge) if plain.ge is not None else -1e9 if above is None else above
        high = float(plain.le) if plain.le is not None else float(plain.lt or 1e9) * (1 - 1e-9)
        found += [low, high, 5e-324 if low <= 0 else low * 1.5]
    if isinstance(plain, IntType):
        found += [plain.ge, plain.le]
    if isinstance(plain, LiteralType):
        found += list(plain.values)
    if isinstance(plain, VarTupleType) and not plain.min_length:
        found.append(())
    if isinstance(plain, StrType) and name not in IDS:
        found += [ODD_TEXT, "=cmd|' /C calc'!A0", ""] if not plain.min_length else [ODD_TEXT]
    return [x for x in found if x is not None or None in found]


def told(findings: Iterable[Finding]) -> list[tuple[Any, ...]]:
    """What findings say, so that two sets of them can be compared; what they offer is worked out anew each time."""
    return [(f.subject, f.id, f.verdict, f.title, f.what, f.why, f.items, f.measure, f.hard) for f in findings]


def mangled(text: str, rng: random.Random) -> str:
    """A text with one thing wrong: a piece gone, doubled, swapped, or something that does not belong."""
    at, size = rng.randrange(len(text)), rng.randrange(1, 40)
    piece = text[at : at + size]
    odd = rng.choice(
        ['"', "{", "]", "1e999", "NaN", "-5", "null", "true", "\x00", "\\", "é", "9" * 50, '""', "[[[[", "0"]
    )
    return {
        0: text[:at] + text[at + size :],
        1: text[:at] + piece + text[at:],
        2: text[:at] + odd + text[at + size :],
        3: text[:at] + odd + text[at:],
        4: text[:at],
        5: text[:at] + piece[::-1] + text[at + size :],
    }[rng.randrange(6)]
