"""Concepts by their plans: "B is 9 days longer, but needs no ordered part"."""

from wired_union.kernel.concepts import as_at_work
from wired_union.project.model import Concept, Project
from wired_union.subjects.plan.orders import orders_of
from wired_union.subjects.plan.schedule import planned
from wired_union.subjects.plan.words import days_words


def against(project: Project, concept: Concept, today: str) -> str:
    """One other concept against the one at work, "" where that has no plan."""
    other = as_at_work(project, concept.id)
    a, b = planned(project, today), planned(other, today)
    name = f"{concept.letter} {concept.name}"
    if not a.rows or a.today is None:
        return ""
    if not b.rows:
        return f"{name} has no plan yet."
    if a.missing or b.missing:
        return f"{name}: not known yet, since {(a.missing or b.missing)[0]}."
    days = b.end - a.end
    longer = "as long" if abs(days) < 0.5 else f"{days_words(days)} {'longer' if days > 0 else 'shorter'}"
    mine, theirs = len(orders_of(a, project)), len(orders_of(b, other))
    joined = "but" if (days > 0.5) == (theirs < mine) and theirs != mine else "and"
    needs = "needs no ordered part" if not theirs else f"needs {theirs} orders, against {mine}"
    return f"{name} is {longer}, {joined} {needs}."


def all_against(project: Project, today: str) -> str:
    """Every other living concept, in one line."""
    others = (c for c in project.living if c.id != project.concept.id)
    return " ".join(filter(None, (against(project, c, today) for c in others)))
