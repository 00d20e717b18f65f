"""Formulas in the report: each with its expression, its numbers and what it gives."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.subjects.formulas.assess import Answers
from wired_union.units import show


def section(assessment: Assessment, kit: Kit) -> Section:
    """Knobs of the concept, and formulas with their numbers."""
    knobs = tuple((k.name, show(k.value, k.unit)) for k in assessment.project.concept.knobs)
    answers = Answers(assessment).all()
    rows = tuple(
        (a.formula.name, a.formula.text, a.wrong or a.numbers, assessment.measure(f"formula:{a.formula.id}").shown)
        for a in answers
    )
    blocks = []
    if knobs:
        blocks.append(Block(head=("knob", "number"), rows=knobs, figures=(1,)))
    if rows:
        blocks.append(Block(head=("formula", "expression", "with its numbers", "gives"), rows=rows, figures=(3,)))
    return Section("Formulas", tuple(blocks))
