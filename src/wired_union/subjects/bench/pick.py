"""What is selected on the Bench screen."""

from msgspec import Struct


class BenchPick(Struct, frozen=True):
    """A step by the part that it wakes, a calibration, an analogue chain or a surface by its id, or an error budget
    with one of its contributions.
    """

    item: str = ""
    calibration: str = ""
    chain: str = ""
    surface: str = ""
    budget: str = ""
    doubt: int = 0
    """of the budget, by its number from 1; none while 0"""
