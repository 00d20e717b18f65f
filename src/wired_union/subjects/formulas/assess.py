"""Formulas worked out in the order in which they rest on each other; what is not known stays unknown."""

from msgspec import Struct

from wired_union.kernel.expression import FormulaError, Symbol, Worked, worked
from wired_union.kernel.results import Finding, Measure, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Formula
from wired_union.subjects.formulas.names import Names, word_of


class Answer(Struct, frozen=True):
    """What one formula gives: its value and unit, what is missing, its numbers; or what is wrong with it."""

    formula: Formula
    value: float | None = None
    unit: str = ""
    missing: tuple[str, ...] = ()
    numbers: str = ""
    wrong: str = ""


class Answers:
    """The formulas of an assessment, each worked out when it is first asked for."""

    def __init__(self, assessment: Assessment) -> None:
        self._formulas = {word_of(f.id): f for f in assessment.project.brief.formulas}
        self._money = assessment.project.brief.currency
        self._found: dict[str, Answer] = {}
        self._under_way: list[str] = []
        self.names = Names(assessment, self._symbol)

    def all(self) -> tuple[Answer, ...]:
        return tuple(self.of(word) for word in self._formulas)

    def of(self, word: str) -> Answer:
        """The answer of a formula by its word. Raises KeyError for one that there is not."""
        if word not in self._found:
            self._under_way.append(word)
            try:
                self._found[word] = self._work(self._formulas[word])
            finally:
                self._under_way.pop()
        return self._found[word]

    def _work(self, formula: Formula) -> Answer:
        try:
            found: Worked = worked(formula.text, self.names.find, formula.unit, self._money)
        except FormulaError as error:
            return Answer(formula, wrong=str(error), unit=formula.unit)
        return Answer(formula, found.value, found.unit, found.missing, found.numbers)

    def _symbol(self, word: str) -> Symbol | None:
        if word not in self._formulas:
            return None
        if word in self._under_way:
            raise FormulaError(f"{self._formulas[word].name} goes round in a circle: it rests on itself.")
        answer = self.of(word)
        if answer.wrong:
            return Symbol(None, answer.unit, (f"{answer.formula.name}, which cannot be worked out",))
        return Symbol(answer.value, answer.unit, answer.missing)


def measures(assessment: Assessment) -> list[Measure]:
    """A measure for every formula; unknown where it cannot be worked out, with the reason."""
    if not assessment.project.brief.formulas:
        return []
    return [
        Measure("formula", a.formula.name, a.value, a.unit, direction="at least", of=a.formula.id,
                missing=(a.wrong.rstrip("."),) if a.wrong else a.missing)
        for a in Answers(assessment).all()
    ]  # fmt: skip


def findings(assessment: Assessment) -> list[Finding]:
    """Formulas that cannot be read, or whose units do not go together."""
    if not assessment.project.brief.formulas:
        return []
    return [
        Finding("formula", Verdict.UNKNOWN, f"Formula {a.formula.name}", a.wrong,
                f"{a.formula.name} = {a.formula.text}", (), f"formula:{a.formula.id}", of=a.formula.id)
        for a in Answers(assessment).all() if a.wrong
    ]  # fmt: skip
