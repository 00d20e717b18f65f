"""What is selected on the Strength screen, by its id; "" for nothing."""

from msgspec import Struct


class StrengthPick(Struct, frozen=True):
    """The selection of one window."""

    test: str = ""
