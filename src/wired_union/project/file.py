"""The project file: open JSON, one value a line, keys in a fixed order; saved whole or not at all."""

import json
import os
import tempfile
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from wired_union.project.errors import BrokenFile, FileError, NewerFormat
from wired_union.project.model import FORMAT, VERSION, Project

ENDING = ".union.json"


def to_text(project: Project) -> str:
    """The project as JSON text; the same project always gives the same text. Unknown values are left out."""
    return project.model_dump_json(indent=2, exclude_none=True) + "\n"


def backup_of(path: Path) -> Path:
    """Where the version before the last save is kept."""
    return path.with_name(path.name + ".before")


def save(project: Project, path: Path) -> None:
    """Write the project, whole or not at all; the version before it is kept beside it.

    Raises FileError that says what to do: a folder that cannot be written, a full disk.
    """
    text = to_text(project)
    try:
        if path.exists():
            write_whole(backup_of(path), path.read_text(encoding="utf-8"))
        write_whole(path, text)
    except OSError as error:
        raise FileError(
            f"{path.name} could not be saved: {(error.strerror or str(error)).lower()}. Your work is still open and"
            " in the recovery journal. Save it under another name or folder (Ctrl Shift S), or free some space."
        ) from error


def write_whole(path: Path, text: str) -> None:
    """Replace a file in one step, so that a crash leaves the old or the new one. Raises OSError."""
    handle, name = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
    try:
        with os.fdopen(handle, "w", encoding="utf-8") as file:
            file.write(text)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(name, 0o644)
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise


def load(path: Path) -> Project:
    """Read a project file.

    Raises FileError: it cannot be read. NewerFormat: a later program wrote it. BrokenFile: with line and column, and
    the last good version beside it where there is one.
    """
    try:
        text = path.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        raise BrokenFile(path, 1, error.start + 1, "it is not text", _last_good(path)) from error
    except OSError as error:
        raise FileError(f"{path.name} cannot be read: {(error.strerror or str(error)).lower()}.") from error
    return from_text(text, path)


def from_text(text: str, path: Path) -> Project:
    """The project in a text; `path` is for messages. Raises as `load`."""
    try:
        return Project.model_validate_json(text)
    except ValidationError as error:
        raise _explain(text, path, error) from None


def _explain(text: str, path: Path, error: ValidationError) -> FileError:
    try:
        data = json.loads(text)
    except json.JSONDecodeError as broken:
        return BrokenFile(path, broken.lineno, broken.colno, _lower(broken.msg), _last_good(path))
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        return BrokenFile(path, 1, 1, f'it is not a Wired Union project (no "format": "{FORMAT}")', _last_good(path))
    if isinstance(data.get("version"), int) and data["version"] > VERSION:
        return NewerFormat(path, data["version"], VERSION)
    first = error.errors()[0]
    line, column = _locate(text, data, first["loc"])
    where = ".".join(str(x) for x in first["loc"])
    reason = f"{where}: {_lower(first['msg'].removeprefix('Value error, '))}"
    return BrokenFile(path, line, column, reason.strip(": "), _last_good(path))


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]


def _last_good(path: Path) -> Path | None:
    before = backup_of(path)
    try:
        Project.model_validate_json(before.read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return None
    return before


def _locate(text: str, data: Any, where: Sequence[int | str]) -> tuple[int, int]:
    """Line and column of a value, found by reading the text down to it with the JSON scanner."""
    scan, at = json.JSONDecoder(), 0
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
