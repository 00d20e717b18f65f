"""What is selected on the Motion screen, each by its id; "" for nothing."""

from dataclasses import dataclass


@dataclass(frozen=True)
class MotionPick:
    """The selection of one window."""

    load: str = ""
    mount: str = ""
