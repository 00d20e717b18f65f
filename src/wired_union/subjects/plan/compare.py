"""Concepts by their plans: "B is 9 days longer, but needs no ordered part"."""

from wired_union.kernel.subject import Assessment
from wired_union.subjects.plan.orders import orders
from wired_union.subjects.plan.schedule import PLAN
from wired_union.subjects.plan.words import days_words


def against(ours: Assessment, other: Assessment) -> str:
    """One other concept against the one at work, "" where either has no plan."""
    a, b = ours.of(PLAN), other.of(PLAN)
    concept = other.project.concept
    name = f"{concept.letter} {concept.name}"
    if not a.rows or a.today is None:
        return ""
    if not b.rows:
        return f"{name} has no plan yet."
    if a.missing or b.missing:
        return f"{name}: not known yet, since {(a.missing or b.missing)[0]}."
    days = b.end - a.end
    longer = "as long" if abs(days) < 0.5 else f"{days_words(days)} {'longer' if days > 0 else 'shorter'}"
    mine, theirs = len(orders(ours)), len(orders(other))
    joined = "but" if (days > 0.5) == (theirs < mine) and theirs != mine else "and"
    needs = "needs no ordered part" if not theirs else f"needs {theirs} orders, against {mine}"
    return f"{name} is {longer}, {joined} {needs}."


def all_against(ours: Assessment, others: list[Assessment]) -> str:
    """Every other living concept, in one line."""
    return " ".join(filter(None, (against(ours, o) for o in others)))
