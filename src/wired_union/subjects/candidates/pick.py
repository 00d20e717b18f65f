"""What is selected on the Candidates screen, each by its id; "" for nothing."""

from msgspec import Struct


class PointMark(Struct, frozen=True):
    """A point of the trade-off, from 0."""

    place: int


class TryMark(Struct, frozen=True):
    """A row of what fits, from 0."""

    place: int


class RefusedMark(Struct, frozen=True):
    """A row of what is refused, from 0."""

    place: int


class CandidatesPick(Struct, frozen=True):
    """The selection of one window."""

    slot: str = ""
    candidate: str = ""
