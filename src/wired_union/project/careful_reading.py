"""Text to a project, slowly: what is older is migrated, what is unknown is kept, what is wrong is told where."""

import json
import re
from collections.abc import Sequence
from typing import Any

import msgspec
from msgspec import Struct

from wired_union.project.errors import Unreadable
from wired_union.project.migrations import MIGRATIONS
from wired_union.project.model import FORMAT, VERSION, Project
from wired_union.project.references import Fault, inner_kinds, whole
from wired_union.project.value import BEYOND, Value, field_names, reason, required

DEEPEST = 200
_HALF = r"\\u[dD][89a-fA-F]"


def read_carefully(text: str) -> Project:
    """The project in a text, migrated where it is older. Raises Unreadable."""
    data = _json(text)
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise Unreadable(1, 1, f'it is not a Wired Union project (no "format": "{FORMAT}")')
    version = data.get("version")
    if isinstance(version, int | float) and not isinstance(version, bool) and version > VERSION:
        raise Unreadable(1, 1, "a later program wrote it", (version, VERSION))
    if isinstance(version, int) and not isinstance(version, bool):
        for known in range(max(version, 0), VERSION):
            data = MIGRATIONS[known](data) if known in MIGRATIONS else data
    wrong = find_wrong(Project, data, ())
    if wrong is not None:
        raise Unreadable(*_locate(text, wrong.path), f"{'.'.join(map(str, wrong.path))}: {wrong.reason}".strip(": "))
    try:
        return whole(msgspec.convert(_kept(Project, data), Project))
    except Fault as fault:
        raise Unreadable(*_locate(text, fault.path), fault.reason) from None
    except msgspec.ValidationError as error:  # what `find_wrong` does not know of
        raise Unreadable(1, 1, _lower(str(error))) from None


def _json(text: str) -> Any:
    import json  # not needed for a file in which all is known

    if _depth(text) > DEEPEST:
        raise Unreadable(1, 1, f"its brackets are nested more than {DEEPEST} deep")
    try:
        data = json.loads(text, parse_constant=_no_constant, parse_int=_whole)
        if re.search(_HALF, text):
            json.dumps(data, ensure_ascii=False).encode("utf-8")
        return data
    except UnicodeEncodeError:
        half = re.search(_HALF, text)
        line = text.count("\n", 0, half.start()) + 1 if half else 1
        raise Unreadable(line, 1, "half of a character stands alone (\\ud800 to \\udfff)") from None
    except json.JSONDecodeError as error:
        raise Unreadable(error.lineno, error.colno, _lower(error.msg)) from None
    except ValueError as error:
        raise Unreadable(1, 1, str(error)) from None


def _no_constant(word: str) -> float:
    raise ValueError(f"{word} is not a number that can stand in a project")


def _whole(digits: str) -> int | float:
    if len(digits) > 18:
        raise ValueError(f"a number of {len(digits)} digits is larger than anything here may be")
    return int(digits)


def _depth(text: str) -> int:
    """How deep the brackets of a text are nested, those in texts counted too."""
    depth = most = 0
    for piece in text.replace("[", "{").split("{")[1:]:
        depth += 1 - piece.count("}") - piece.count("]")
        most = max(most, depth + piece.count("}") + piece.count("]"))
    return most


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]


class Wrong(Struct, frozen=True):
    """A value of a file that cannot be: where, and why."""

    path: tuple[int | str, ...]
    reason: str


def find_wrong(kind: type[Value], data: Any, path: tuple[int | str, ...]) -> Wrong | None:
    """The first value of some JSON data that is not as the model wants it; None where all is."""
    if not isinstance(data, dict):
        return Wrong(path, "must be a group of values in { }")
    for name in required(kind):
        if name not in data:
            return Wrong(path, f"{name} must be given")
    types = {f.name: f.type for f in msgspec.structs.fields(kind)}
    inner = inner_kinds(kind)
    for name in field_names(kind):
        if name not in data:
            continue
        found = (
            _wrong_inside(inner[name], types[name], data[name], (*path, name))
            if name in inner
            else _wrong_plain(types[name], data[name], (*path, name))
        )
        if found is not None:
            return found
    return None


def _wrong_plain(hint: Any, data: Any, path: tuple[int | str, ...]) -> Wrong | None:
    try:
        msgspec.convert(data, hint)
    except (msgspec.ValidationError, OverflowError):
        return Wrong(path, reason(hint, data))
    return None


def _wrong_inside(kinds: tuple[type[Value], ...], hint: Any, data: Any, path: tuple[int | str, ...]) -> Wrong | None:
    if isinstance(data, list):
        if "tuple" not in str(hint):
            return Wrong(path, reason(hint, data))
        if not data:
            return _wrong_plain(hint, data, path)
        for index, one in enumerate(data):
            found = _wrong_value(kinds, one, (*path, index))
            if found is not None:
                return found
        return None
    if data is None or not isinstance(data, dict) or "tuple" in str(hint):
        return _wrong_plain(hint, data, path)
    return _wrong_value(kinds, data, path)


def _wrong_value(kinds: tuple[type[Value], ...], data: Any, path: tuple[int | str, ...]) -> Wrong | None:
    if not isinstance(data, dict):
        return Wrong(path, "must be a group of values in { }")
    kind = _kind_of(kinds, data)
    if kind is None:
        known = ", ".join(str(k.__struct_config__.tag) for k in kinds)
        return Wrong(
            (*path, "kind") if "kind" in data else path, f"kind must be one of {known}; a later program may know more"
        )
    return find_wrong(kind, data, path)


def _kind_of(kinds: tuple[type[Value], ...], data: dict[str, Any]) -> type[Value] | None:
    if len(kinds) == 1:
        return kinds[0]
    return next((k for k in kinds if k.__struct_config__.tag == data.get("kind")), None)


def _kept(kind: type[Value], data: dict[str, Any]) -> dict[str, Any]:
    """Data with the keys that this program does not know put under one key, as JSON texts."""
    known, inner = set(field_names(kind)), inner_kinds(kind)
    tag = kind.__struct_config__.tag_field
    new: dict[str, Any] = {}
    beyond: list[tuple[str, str]] = []
    for key, value in data.items():
        if key == tag:
            new[key] = value
        elif key not in known:
            beyond.append((key, json.dumps(value, ensure_ascii=False)))
        elif key in inner and isinstance(value, list):
            new[key] = [_kept(_sure(inner[key], one), one) for one in value]
        elif key in inner and isinstance(value, dict):
            new[key] = _kept(_sure(inner[key], value), value)
        else:
            new[key] = value
    return {**new, BEYOND: beyond} if beyond else new


def _sure(kinds: tuple[type[Value], ...], data: dict[str, Any]) -> type[Value]:
    found = _kind_of(kinds, data)
    assert found is not None, "find_wrong has passed it"
    return found


def _locate(text: str, where: Sequence[int | str]) -> tuple[int, int]:
    """Line and column of a value, found by reading the text down to it with the JSON scanner."""
    scan, at = json.JSONDecoder(), _skip(text, 0)
    for step in where:
        inside = _entries(text, at, scan)
        if step not in inside:
            break
        at = inside[step]
    line = text.count("\n", 0, at) + 1
    return line, at - (text.rfind("\n", 0, at) + 1) + 1


def _entries(text: str, at: int, scan: json.JSONDecoder) -> dict[int | str, int]:
    """Where each member of the object or list that starts at `at` begins."""
    found: dict[int | str, int] = {}
    opener = text[at] if at < len(text) else ""
    if opener not in "{[":
        return found
    position, index = _skip(text, at + 1), 0
    while position < len(text) and text[position] not in "}]":
        key: int | str = index
        if opener == "{":
            key, position = scan.raw_decode(text, position)
            position = _skip(text, _skip(text, position) + 1)
        found[key] = position
        _, position = scan.raw_decode(text, position)
        position, index = _skip(text, position), index + 1
        if position < len(text) and text[position] == ",":
            position = _skip(text, position + 1)
    return found


def _skip(text: str, at: int) -> int:
    while at < len(text) and text[at] in " \t\r\n":
        at += 1
    return at
