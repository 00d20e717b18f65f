"""What is selected on the Parts screen, each by its id; "" for nothing."""

from dataclasses import dataclass


@dataclass(frozen=True)
class PartsPick:
    """The selection of one window."""

    lane: str = ""
