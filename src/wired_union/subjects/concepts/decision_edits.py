"""Edits of the weighted decision: criteria that no formula knows, their weights, and scores with who and why."""

from typing import Any

from wired_union import units
from wired_union.project.change import Change, by_id, checked_name, new_id, replaced
from wired_union.project.errors import ProjectError
from wired_union.project.model import Criterion, Project, Score
from wired_union.project.value import BadFigure, checked


def add_criterion(project: Project, name: str, *, must_have: bool = False) -> Change:
    name = checked_name(name, "criterion")
    criteria = project.decision.criteria
    made = Criterion(id=new_id(name, (c.id for c in criteria)), name=name, must_have=must_have)
    what = "must-have" if must_have else "criterion"
    return _with(project, (*criteria, made), f"add the {what} “{name}”")


def set_criterion(project: Project, criterion_id: str, **new: Any) -> Change:
    """Change a criterion's name, weight or must_have."""
    old = by_id(project.decision.criteria, criterion_id, "criterion")
    try:
        changed = checked(old, **new)
    except BadFigure as error:
        texts = {"weight": f"A weight {error.reason}.", "name": "Give the criterion a name."}
        raise ProjectError(texts.get(error.field, f"{error.field} {error.reason}.")) from error
    sentence = f"“{old.name}” weighs {units.show(changed.weight)}" if "weight" in new else f"change “{changed.name}”"
    return _with(project, replaced(project.decision.criteria, old, changed), sentence)


def remove_criterion(project: Project, criterion_id: str) -> Change:
    old = by_id(project.decision.criteria, criterion_id, "criterion")
    kept = tuple(c for c in project.decision.criteria if c is not old)
    return _with(project, kept, f"drop the criterion “{old.name}”")


def set_score(project: Project, criterion_id: str, concept_id: str, value: float | None, **said: str) -> Change:
    """Give a concept a score of 0 to 10, with `by` and `why`; None takes the score away."""
    criterion = by_id(project.decision.criteria, criterion_id, "criterion")
    concept = by_id(project.concepts, concept_id, "concept")
    others = tuple(s for s in criterion.scores if s.concept != concept_id)
    if value is None:
        scores, sentence = others, f"{concept.letter} has no score on “{criterion.name}” any more"
    else:
        if not 0 <= value <= 10:
            raise ProjectError("A score is from 0 to 10.")
        old = criterion.score(concept_id) or Score(concept=concept_id, value=value)
        score = old.but(value=value, **said)
        scores, sentence = (*others, score), f"{concept.letter} gets {units.show(value)} on “{criterion.name}”"
    changed = criterion.but(scores=scores)
    return _with(project, replaced(project.decision.criteria, criterion, changed), sentence)


def _with(project: Project, criteria: tuple[Criterion, ...], sentence: str) -> Change:
    decision = project.decision.but(criteria=criteria)
    return Change(project, project.but(decision=decision), sentence)
