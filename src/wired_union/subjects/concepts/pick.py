"""What is selected on the Concepts screen, criteria by their id; "" for none."""

from dataclasses import dataclass


@dataclass(frozen=True)
class QuestionMark:
    """An open question of a concept."""

    concept: str
    question: str


@dataclass(frozen=True)
class ConceptsPick:
    """The selection of one window."""

    question: QuestionMark | None = None
    criterion: str = ""
