"""The project file: open JSON, one value a line, keys in a fixed order; saved whole or not at all."""

import os
import stat
import time
from contextlib import suppress
from pathlib import Path

from msgspec import Struct

from wired_union.project.errors import BrokenFile, FileError, NewerFormat, Unreadable
from wired_union.project.model import Project
from wired_union.project.reading import last_good_text, project_of
from wired_union.project.writing import text_of

ENDING = ".union.json"
MOST_BYTES = 64 * 1024 * 1024
"""A project of ten thousand parts takes about 20 MB; what is far larger is something else."""


def to_text(project: Project) -> str:
    """The project as JSON text; the same project always gives the same text. Unknown values are left out."""
    return text_of(project)


def backup_of(path: Path) -> Path:
    """Where the version before the last save is kept."""
    return path.with_name(path.name + ".before")


def save(project: Project, path: Path) -> None:
    """Write the project, whole or not at all; the version before it is kept beside it, byte for byte.

    Raises FileError that says what to do: a folder that cannot be written, a full disk, a place that is no file.
    """
    text = to_text(project)
    try:
        if path.exists():
            refuse_special(path)
            write_whole(backup_of(path), path.read_bytes())
        write_whole(path, text)
    except OSError as error:
        raise FileError(
            f"{path.name} could not be saved: {_why(error)}. Your work is still open and"
            " in the recovery journal. Save it under another name or folder (Ctrl Shift S), or free some space."
        ) from error


def write_whole(path: Path, content: str | bytes) -> None:
    """Replace a file in one step, so that a crash leaves the old or the new one. Raises OSError.

    A link stays a link: the file that it leads to is replaced. Permissions stay as they were.
    """
    import tempfile  # with what it loads, not needed to open a window

    path = Path(os.path.realpath(path))
    data = content.encode("utf-8") if isinstance(content, str) else content
    handle, name = tempfile.mkstemp(prefix=f".{path.name[:SHORT]}.", suffix=TEMPORARY, dir=path.parent)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(name, _mode_of(path))
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
    _sync_folder(path.parent)


TEMPORARY = ".part"
SHORT = 40
"""Characters of a file's name in that of its temporary one: names have 255 bytes, and a character up to four."""


def clear_stray(path: Path, *, older_than_s: float = 3600.0) -> int:
    """Clear temporary files that a killed program left while it wrote to a path; gives how many there were."""
    path = Path(os.path.realpath(path))
    gone = 0
    with suppress(OSError):
        beginning = f".{path.name[:SHORT]}."
        for stray in path.parent.iterdir():
            ours = stray.name.startswith(beginning) and stray.name.endswith(TEMPORARY)
            if ours and stray.is_file() and time.time() - stray.stat().st_mtime > older_than_s:
                stray.unlink(missing_ok=True)
                gone += 1
    return gone


def _mode_of(path: Path) -> int:
    try:
        return stat.S_IMODE(path.stat().st_mode)
    except OSError:
        return 0o644


def _sync_folder(folder: Path) -> None:
    """Make a replacement last through a power cut; a file system that cannot is left as it is."""
    try:
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
    except OSError:
        return
    try:
        os.fsync(handle)
    except OSError:
        return
    finally:
        os.close(handle)


def refuse_special(path: Path) -> None:
    """Raise OSError for what is no plain file: a folder, a pipe, a device. Never waits for one."""
    mode = path.stat().st_mode
    if stat.S_ISDIR(mode):
        raise IsADirectoryError(21, "it is a folder")
    if not stat.S_ISREG(mode):
        raise OSError(22, "it is a pipe or a device, not a file")


class Stamp(Struct, frozen=True):
    """What a file was when it was last read or written here: time, size, and a sum of its bytes."""

    mtime_ns: int
    size: int
    digest: str


def stamp_of(path: Path) -> Stamp | None:
    """The stamp of a file, None where there is none that can be read."""
    import hashlib  # with what it loads, not needed to open a window

    try:
        data, known = read_plain(path), path.stat()
    except OSError:
        return None
    return Stamp(known.st_mtime_ns, known.st_size, hashlib.sha256(data).hexdigest())


def changed_since(path: Path, stamp: Stamp | None) -> bool:
    """Whether another program has written to a file since; touching it changes nothing."""
    if stamp is None:
        return False
    try:
        now = path.stat()
    except OSError:
        return False  # it is gone: saving makes it anew
    if (now.st_mtime_ns, now.st_size) == (stamp.mtime_ns, stamp.size):
        return False
    found = stamp_of(path)
    return found is None or found.digest != stamp.digest


def read_plain(path: Path, most_bytes: int = MOST_BYTES) -> bytes:
    """The bytes of a plain file of a sensible size. Raises OSError that says why not."""
    refuse_special(path)
    size = path.stat().st_size
    if size > most_bytes:
        raise OSError(27, f"it has {size / 1e6:.0f} MB; at most {most_bytes / 1e6:.0f} MB are read")
    with path.open("rb") as file:
        data = file.read(most_bytes + 1)
    if len(data) > most_bytes:
        raise OSError(27, f"it has more than {most_bytes / 1e6:.0f} MB")
    return data


def load(path: Path) -> Project:
    """Read a project file.

    Raises FileError: it cannot be read. NewerFormat: a later program wrote it. BrokenFile: with line and column, and
    the last good version beside it where there is one.
    """
    try:
        data = read_plain(path)
    except OSError as error:
        raise FileError(f"{path.name} cannot be read: {_why(error)}.") from error
    except ValueError as error:  # a path with a zero byte in it
        raise FileError(f"{path.name!r} is no name of a file.") from error
    try:
        text = data.decode("utf-8")
    except UnicodeDecodeError as error:
        before = data[: error.start]
        line, column = before.count(b"\n") + 1, error.start - before.rfind(b"\n")
        raise BrokenFile(path, line, column, "it is not text in UTF-8", _last_good(path)) from error
    return from_text(text, path)


def from_text(text: str, path: Path) -> Project:
    """The project in a text; `path` is for messages. Raises as `load`."""
    try:
        return project_of(text)
    except Unreadable as error:
        if error.newer is not None:
            raise NewerFormat(path, *error.newer) from None
        raise BrokenFile(path, error.line, error.column, error.reason, _last_good(path)) from None


def _why(error: OSError) -> str:
    text = error.strerror or str(error)
    return text[:1].lower() + text[1:]


def _last_good(path: Path) -> Path | None:
    before = backup_of(path)
    try:
        good = last_good_text(read_plain(before))
    except (OSError, ValueError):
        return None
    return before if good else None
