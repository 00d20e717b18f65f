"""What is selected on the Motion screen, each by its id; "" for nothing."""

from msgspec import Struct


class MotionPick(Struct, frozen=True):
    """The selection of one window."""

    load: str = ""
    mount: str = ""
