"""What is selected on the Bench screen."""

from msgspec import Struct


class BenchPick(Struct, frozen=True):
    """A step by the part that it wakes, or a calibration by its id."""

    item: str = ""
    calibration: str = ""
