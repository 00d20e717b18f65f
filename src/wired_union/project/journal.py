"""The recovery journal: unsaved work that survives the program being killed."""

import os
from contextlib import suppress
from datetime import datetime
from pathlib import Path
from typing import Any

from msgspec import Struct

from wired_union.project.file import from_text, read_plain, to_text, write_whole
from wired_union.project.model import Project

ENDING = ".journal.json"


class Unsaved(Struct, frozen=True):
    """Work found in a journal whose program is gone."""

    journal: Path
    project: Project
    file: Path | None
    edits: tuple[str, ...]
    when: str

    @property
    def file_is_newer(self) -> bool:
        """Whether the file was written after the journal: another hand has saved since."""
        try:
            return self.file is not None and self.file.stat().st_mtime > self.journal.stat().st_mtime
        except OSError:
            return False


class Journal(Struct, frozen=True):
    """One window's journal, a file in `folder` named after the process that writes it."""

    path: Path

    @classmethod
    def start(cls, folder: Path) -> "Journal":
        return cls(folder / f"{os.getpid()}-{os.urandom(4).hex()}{ENDING}")

    def write(self, project: Project, file: Path | None, edits: tuple[str, ...]) -> None:
        """Keep the project and the sentences of its unsaved edits. Raises OSError."""
        import json  # keeps names of files that are not UTF-8; not needed to open a window

        self.path.parent.mkdir(parents=True, exist_ok=True)
        head = {
            "process": os.getpid(),
            "started": _started(os.getpid()),
            "boot": _boot(),
            "when": datetime.now().isoformat(timespec="seconds"),
            "file": str(file) if file else None,
            "edits": edits,
        }
        write_whole(self.path, json.dumps(head) + "\n" + to_text(project))

    def clear(self) -> None:
        """Forget the journal; one that was never written, or cannot be reached, is forgotten already."""
        with suppress(OSError):
            self.path.unlink(missing_ok=True)


def find_unsaved(folder: Path) -> tuple[Unsaved, ...]:
    """Journals left by programs that no longer run, newest first; unreadable ones are passed over, not deleted."""
    found = (_unsaved(path) for path in folder.glob(f"*{ENDING}"))
    return tuple(sorted((u for u in found if u is not None), key=lambda u: u.when, reverse=True))


def _unsaved(path: Path) -> Unsaved | None:
    import json

    try:
        head_text, text = read_plain(path).decode("utf-8").split("\n", 1)
        head = json.loads(head_text)
        if _runs(head, path):
            return None
        file = Path(head["file"]) if head["file"] else None
        return Unsaved(path, from_text(text, path), file, tuple(map(str, head["edits"])), str(head["when"]))
    except (OSError, ValueError, KeyError, TypeError, AttributeError, RecursionError):
        return None


def _runs(head: dict[str, Any], path: Path) -> bool:
    """Whether the program that wrote a journal still runs; another one may have its number by now."""
    process = int(head["process"])
    started = _started(process)
    if started is None:
        return False
    if "started" in head:
        return bool(started == head["started"] and head.get("boot") == _boot())
    try:  # a journal of an older program says no start: whoever started later has not written it
        return (Path("/proc") / str(process)).stat().st_ctime <= path.stat().st_mtime
    except OSError:
        return False


def _started(process: int) -> int | None:
    """When a process started, in ticks since the machine did; None where there is no such process."""
    try:
        return int(
            Path(f"/proc/{process}/stat").read_text(encoding="utf-8", errors="replace").rpartition(")")[2].split()[19]
        )
    except (OSError, ValueError, IndexError):
        return None


def _boot() -> str:
    try:
        return Path("/proc/sys/kernel/random/boot_id").read_text(encoding="utf-8").strip()
    except OSError:
        return ""
