"""The recovery journal: unsaved work that survives the program being killed."""

import json
import os
import uuid
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from wired_union.project.errors import FileError
from wired_union.project.file import from_text, to_text, write_whole
from wired_union.project.model import Project


@dataclass(frozen=True)
class Unsaved:
    """Work found in a journal whose program is gone."""

    journal: Path
    project: Project
    file: Path | None
    edits: tuple[str, ...]
    when: str


@dataclass(frozen=True)
class Journal:
    """One window's journal, a file in `folder` named after the process that writes it."""

    path: Path

    @classmethod
    def start(cls, folder: Path) -> "Journal":
        return cls(folder / f"{os.getpid()}-{uuid.uuid4().hex[:8]}.journal.json")

    def write(self, project: Project, file: Path | None, edits: tuple[str, ...]) -> None:
        """Keep the project and the sentences of its unsaved edits. Raises OSError."""
        self.path.parent.mkdir(parents=True, exist_ok=True)
        head = {
            "process": os.getpid(),
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
    found = []
    for path in folder.glob("*.journal.json"):
        try:
            head_text, text = path.read_text(encoding="utf-8").split("\n", 1)
            head = json.loads(head_text)
            if _runs(int(head["process"])):
                continue
            file = Path(head["file"]) if head["file"] else None
            found.append(Unsaved(path, from_text(text, path), file, tuple(head["edits"]), head["when"]))
        except (OSError, ValueError, KeyError, TypeError, FileError):
            continue
    return tuple(sorted(found, key=lambda u: u.when, reverse=True))


def _runs(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True
