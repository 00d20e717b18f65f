"""What is selected on the Power screen, each by its id; "" for nothing."""

from dataclasses import dataclass


@dataclass(frozen=True)
class PowerPick:
    """The selection of one window."""

    mode: str = ""
    node: str = ""
    page: int = 0
    """Which page of a long mission's phases, from 0."""
