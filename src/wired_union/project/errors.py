"""What can go wrong with a project: one root, texts that say what to do.

ProjectError        an edit that makes no sense
└─ FileError        a file that cannot be read or written
   ├─ BrokenFile    not JSON, or not a project: with line and column
   └─ NewerFormat   written by a later program
"""

from pathlib import Path

from wired_union.errors import PlainError


class ProjectError(PlainError):
    """Something asked of a project that cannot be done; the text says what to do instead."""


class FileError(ProjectError):
    """A file that cannot be read or written."""


class BrokenFile(FileError):
    """A file that is no project. Facts as fields: path, line, column, reason, and the last good version beside it."""

    def __init__(self, path: Path, line: int, column: int, reason: str, last_good: Path | None) -> None:
        self.path, self.line, self.column, self.reason, self.last_good = path, line, column, reason, last_good
        offer = f" The last good version is {last_good.name}, beside it." if last_good else ""
        super().__init__(
            f"{path.name}, line {line}, column {column}: {reason}. Nothing was overwritten.{offer}"
            " Mend the line in a text editor, or open a copy."
        )

    def __reduce__(self) -> tuple[type, tuple[Path, int, int, str, Path | None]]:
        return type(self), (self.path, self.line, self.column, self.reason, self.last_good)


class NewerFormat(FileError):
    """A file of a later format than this program reads."""

    def __init__(self, path: Path, found: object, known: int) -> None:
        self.path, self.found, self.known = path, found, known
        super().__init__(
            f"{path.name} is written in format {found}; this program reads up to format {known}."
            " Open it with a newer Wired Union. Nothing was changed."
        )

    def __reduce__(self) -> tuple[type, tuple[Path, object, int]]:
        return type(self), (self.path, self.found, self.known)


class Unreadable(ValueError):
    """A text that is no project: where, and why; `newer` carries (found, known) where a later program wrote it."""

    def __init__(self, line: int, column: int, reason: str, newer: tuple[object, int] | None = None) -> None:
        self.line, self.column, self.reason, self.newer = line, column, reason, newer
        super().__init__(reason)
