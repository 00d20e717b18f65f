"""What is selected on the Mass screen besides a part."""

from msgspec import Struct


class MassPick(Struct, frozen=True):
    """The selection of one window."""

    beam: str = ""
