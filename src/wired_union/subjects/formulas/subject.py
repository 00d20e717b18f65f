"""Formulas: what the team works out itself, over knobs, measures and figures of parts."""

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, MeasureKind, Subject
from wired_union.subjects.formulas.assess import Answers, findings, measures
from wired_union.subjects.formulas.pick import FormulaPick


def _verdict(assessment: Assessment) -> Verdict | None:
    return worst([*assessment.own_verdicts("formulas"), *(f.verdict for f in findings(assessment))])


def _select(_: Assessment, measure: Measure) -> FormulaPick:
    return FormulaPick(formula=measure.of)


def _now(assessment: Assessment) -> tuple[str, ...]:
    """Every formula with its numbers."""
    lines = []
    for a in Answers(assessment).all():
        if a.wrong:
            lines.append(f"{a.formula.name} = {a.formula.text}: {a.wrong}")
        else:
            shown = assessment.measure(f"formula:{a.formula.id}").shown
            lines.append(f"{a.formula.name} = {a.formula.text} = {a.numbers} = {shown}")
    return tuple(lines)


SUBJECT = Subject(
    id="formulas", title="Formulas", group="BUDGET",
    about=(
        "A formula is the team's own expression over knobs, measures of the program and figures of parts. Units are"
        " checked: lengths add to lengths only. What is not known makes the result unknown, never zero. floor, ceil and"
        " round take a number within a billionth of a whole one for whole. Nothing of a formula is run as a program.",
    ),
    about_now=_now, view="view:FormulasView",
    measures=measures, findings=findings, verdict=_verdict,
    explains=(
        MeasureKind("formula", "", "Prove", direction="at least", each=True, select=_select,
                    about="what a formula of the team gives"),
    ),
    section="section:section",
)  # fmt: skip
