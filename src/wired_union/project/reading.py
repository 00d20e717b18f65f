"""Text to a project: fast where everything is known; `careful_reading` where something is not."""

from functools import cache

import msgspec

from wired_union.project.model import Project
from wired_union.project.references import Fault, whole


@cache
def _decoder() -> msgspec.json.Decoder[Project]:
    return msgspec.json.Decoder(Project)


def project_of(text: str) -> Project:
    """The project in a text, migrated where it is older. Raises Unreadable."""
    try:
        return whole(_decoder().decode(text))
    except (msgspec.MsgspecError, Fault, RecursionError, ValueError):
        from wired_union.project.careful_reading import read_carefully  # not needed to open a good file

        return read_carefully(text)


def last_good_text(data: bytes) -> bool:
    """Whether some bytes hold a project that can be opened."""
    try:
        project_of(data.decode("utf-8"))
    except ValueError:
        return False
    return True
