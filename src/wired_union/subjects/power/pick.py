"""What is selected on the Power screen, each by its id; "" for nothing."""

from typing import Literal

from msgspec import Struct

Span = Literal["mission", "first", "warmth", "spread", "sun"]


class PowerPick(Struct, frozen=True):
    """The selection of one window."""

    mode: str = ""
    node: str = ""
    span: Span = "mission"
    """What the lower chart shows: the mission, a mode's first half second, temperatures the odds, or charging."""
    phase: int | None = None
    """The stretch whose energy is told, by its phase; None for the whole cycle."""
    stretch: tuple[float, float] | None = None
    """The stretch of the mission, in seconds, of which it is told who draws what; None for none."""
    beside: str = ""
    """The concept that is compared with, by its id."""
    page: int = 0
    """Which page of a long mission's phases, from 0."""
