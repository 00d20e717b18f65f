"""What is to be decided by test, as rows: the question, its test and date, what would count as better, its risk."""

from collections.abc import Sequence

from wired_union.picture.shapes import Box, Kit, Picture, Region, Shape
from wired_union.project.model import Concept, Question
from wired_union.subjects.concepts.pick import QuestionMark
from wired_union.units import show


def question_rows(
    rows: Sequence[tuple[Concept, Question]], kit: Kit, width: float, *, chosen: QuestionMark | None = None
) -> Picture:
    """One row a question, in the order given."""
    if not rows:
        words = kit.words(0, 10, "Nothing is left to a test.", "small", "mute")
        return Picture(width, 22, (words,))
    shapes: list[Shape] = []
    regions: list[Region] = []
    h = kit.px(50)
    for i, (concept, question) in enumerate(rows):
        top, mark = h * i, QuestionMark(concept.id, question.id)
        if mark == chosen:
            shapes.append(Box(-4, top + 1, width + 8, h - 2, "soft", radius=4))
        date = question.answered_on or question.date or "no date yet"
        second, third = (_test(question), risk_words(question)) if not question.answer else _found(question)
        room = width - kit.width(date, "small", "figures", True) - kit.px(10)
        shapes += [
            kit.words(0, top + h * 0.2, kit.cut(f"{concept.letter}  {question.question}", room, "small", bold=True),
                      "small", bold=True),
            kit.figures(width, top + h * 0.2, date, "small", "ink" if question.date else "tight_text", bold=True,
                        anchor="end"),
            kit.words(0, top + h * 0.52, kit.cut(second, width - kit.px(4), "small"), "small", "mute"),
            kit.figures(0, top + h * 0.82, kit.cut(third, width - kit.px(4), "small", "figures"), "small",
                        "tight_text" if question.risk_days is None and not question.answer else "ink"),
        ]  # fmt: skip
        said = f"{concept.letter}: {question.question} {second}, {date}, {third}"
        regions.append(Region(f"{concept.id}/{question.id}", 0, top, width, h, said, of=mark))
    return Picture(width, h * len(rows), tuple(shapes), tuple(regions))


def _found(question: Question) -> tuple[str, str]:
    """What a test showed: its answer, and its figures."""
    return f"answered: {question.answer}", question.figures or "no figures written down"


def _test(question: Question) -> str:
    better = f"better = {question.better}" if question.better else "say what would count as better"
    return f"{question.test or 'no test yet'}; {better}"


def risk_words(question: Question) -> str:
    """ "2.4 days at risk: 40 % of 6 days", or that nobody has judged it."""
    if question.risk_days is None:
        return "risk not judged yet"
    chance = show(question.chance_of_no, fraction=True)
    return f"{show(question.risk_days)} days at risk: {chance} of {show(question.days_lost)} days"
