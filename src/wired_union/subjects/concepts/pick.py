"""What is selected on the Concepts screen, criteria by their id; "" for none."""

from msgspec import Struct


class QuestionMark(Struct, frozen=True):
    """An open question of a concept."""

    concept: str
    question: str


class ConceptsPick(Struct, frozen=True):
    """The selection of one window."""

    question: QuestionMark | None = None
    criterion: str = ""
