"""What is selected on the Candidates screen, each by its id; "" for nothing."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class PointMark:
    """A point of the trade-off, from 0."""

    place: int


@dataclass(frozen=True, slots=True)
class TryMark:
    """A row of what fits, from 0."""

    place: int


@dataclass(frozen=True, slots=True)
class RefusedMark:
    """A row of what is refused, from 0."""

    place: int


@dataclass(frozen=True)
class CandidatesPick:
    """The selection of one window."""

    slot: str = ""
    candidate: str = ""
