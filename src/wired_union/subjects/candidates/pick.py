"""What is selected on the Candidates screen, each by its id; "" for nothing."""

from dataclasses import dataclass


@dataclass(frozen=True)
class CandidatesPick:
    """The selection of one window."""

    slot: str = ""
    candidate: str = ""
