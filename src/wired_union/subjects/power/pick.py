"""What is selected on the Power screen, each by its id; "" for nothing."""

from msgspec import Struct


class PowerPick(Struct, frozen=True):
    """The selection of one window."""

    mode: str = ""
    node: str = ""
    page: int = 0
    """Which page of a long mission's phases, from 0."""
