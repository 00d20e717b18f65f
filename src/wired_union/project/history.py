"""The way back kept with a file: the sentences of its edits, and the value after each, by the SHA-256 of its text."""

from collections.abc import Sequence
from pathlib import Path

import msgspec
from msgspec import Struct

from wired_union.project.errors import FileError
from wired_union.project.file import read_plain, to_text, write_whole
from wired_union.project.kept import VERSION, Kept, digest_of
from wired_union.project.model import Project

NAME = "history.json"
MOST_STEPS = 200
MOST_BYTES = 1_000_000


class KeptStep(Struct, frozen=True):
    """A point of the history: what was done to get there, and by what its value is kept."""

    sentence: str
    digest: str


class _History(Struct, frozen=True):
    steps: tuple[KeptStep, ...] = ()


def write_history(folder: Path, steps: Sequence[tuple[str, Project]], known: dict[int, str]) -> None:
    """Keep the latest steps in a folder, the present last; what the way back no longer needs goes.

    `known` remembers digests by the identity of values, so that a value is written once. Raises FileError.
    """
    kept, before = Kept((folder,)), read_steps(folder)
    found = []
    for sentence, project in steps[-MOST_STEPS:]:
        digest = known.get(id(project))
        if digest is None:
            digest = known[id(project)] = kept.put_project(project)
        found.append(KeptStep(sentence, digest))
    try:
        folder.mkdir(parents=True, exist_ok=True)
        write_whole(folder / NAME, msgspec.json.format(msgspec.json.encode(_History(tuple(found))), indent=1))
    except OSError as error:
        raise FileError(f"The way back could not be kept in {folder}: {error.strerror or error}.") from error
    needed = {s.digest for s in found} | {v.digest for v in steps[-1][1].versions}
    for step in before:
        if step.digest not in needed:
            (folder / f"{step.digest}.{VERSION}").unlink(missing_ok=True)


def read_steps(folder: Path) -> tuple[KeptStep, ...]:
    """Steps that are kept in a folder; none where none are, or they cannot be read."""
    try:
        return msgspec.json.decode(read_plain(folder / NAME, MOST_BYTES), type=_History).steps
    except (OSError, msgspec.MsgspecError, ValueError, RecursionError):
        return ()


def way_back(folder: Path, project: Project) -> tuple[KeptStep, ...]:
    """Steps before a project that was just opened; none where the last that is kept is another: somebody else wrote."""
    steps = read_steps(folder)
    if not steps or steps[-1].digest != digest_of(to_text(project).encode("utf-8")):
        return ()
    return steps


def drop_history(folder: Path, project: Project) -> None:
    """Keep no way back any more; versions stay. What cannot be taken away stays, which loses nothing."""
    needed = {v.digest for v in project.versions}
    for step in read_steps(folder):
        if step.digest not in needed and len(step.digest) == 64:
            (folder / f"{step.digest}.{VERSION}").unlink(missing_ok=True)
    (folder / NAME).unlink(missing_ok=True)
