"""What is selected on the Concepts screen, each by its id; "" for nothing."""

from dataclasses import dataclass


@dataclass(frozen=True)
class ConceptsPick:
    """The selection of one window."""

    question: str = ""
    criterion: str = ""
