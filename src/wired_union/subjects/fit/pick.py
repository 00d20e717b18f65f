"""What is selected on the Fit screen, by its id; "" for nothing."""

from msgspec import Struct


class FitPick(Struct, frozen=True):
    """The selection of one window: a sight, a stack, a row of beams or a clearance."""

    room: str = ""
    """the list of the concept that it is in"""
    id: str = ""
