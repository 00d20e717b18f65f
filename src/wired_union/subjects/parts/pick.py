"""What is selected on the Parts screen, each by its id; "" for nothing."""

from msgspec import Struct


class PartsPick(Struct, frozen=True):
    """The selection of one window."""

    lane: str = ""
