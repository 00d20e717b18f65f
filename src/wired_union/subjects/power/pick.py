"""What is selected on the Power screen, each by its id; "" for nothing."""

from typing import Literal

from msgspec import Struct


class PowerPick(Struct, frozen=True):
    """The selection of one window."""

    mode: str = ""
    node: str = ""
    span: Literal["mission", "first", "warmth"] = "mission"
    """What the lower chart shows: the mission, the first half second of a mode, or temperatures over the mission."""
    page: int = 0
    """Which page of a long mission's phases, from 0."""
