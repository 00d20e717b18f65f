"""Documents that are written beside a project: reports, sheets. Whole or not at all."""

from pathlib import Path

from wired_union.errors import PlainError
from wired_union.project.file import refuse_special, write_whole


class DocumentError(PlainError):
    """A document that cannot be written; the text says what to do."""


def write_bytes(path: Path, data: bytes) -> None:
    """Write a document whole or not at all, so that a full disk leaves the old one. Raises DocumentError."""
    try:
        if path.exists():
            refuse_special(path)
        write_whole(path, data)
    except (OSError, ValueError) as error:
        why = (error.strerror or str(error)) if isinstance(error, OSError) else str(error)
        raise DocumentError(f"{path} cannot be written: {why.lower()}. Choose another folder.") from error
