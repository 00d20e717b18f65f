"""Edits of whole concepts: switch, copy, rename, retire with a reason, bring back, and what a test is to decide."""

from typing import Any

from msgspec.structs import replace

from wired_union import units
from wired_union.project.change import Change, by_id, checked_name, new_id, next_letter, replaced, with_concept
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept, Project, Question, Retirement
from wired_union.project.value import BadFigure, checked


def switch_concept(project: Project, concept_id: str) -> Change:
    """Put another concept at work; the strip and every view follow."""
    concept = _concept(project, concept_id)
    after = project.but(at_work=concept.id)
    return Change(project, after, f"work on {said(concept)}")


def new_concept(project: Project, name: str) -> Change:
    """A concept from nothing but the lanes and modes of the one at work, at work from now on."""
    name, old = checked_name(name, "concept"), project.concept
    modes = tuple(m.but(uses=()) for m in old.modes)
    made = Concept(
        id=next_letter(project), name=name, subsystems=old.subsystems, modes=modes, mission=old.mission
    )  # fmt: skip
    after = project.but(concepts=(*project.concepts, made), at_work=made.id)
    return Change(project, after, f"start concept {said(made)} from nothing")


def said(concept: Concept) -> str:
    """A concept as sentences name it: "A four wheels"."""
    return f"{concept.letter} {concept.name}"


def copy_concept(project: Project, concept_id: str, name: str, when: str = "") -> Change:
    """A copy under another letter, at work from now on. The original stays as it is."""
    return _with_copy(project, _concept(project, concept_id), concept_id, name, when, "copy")


def try_as_concept(change: Change, name: str, when: str = "") -> Change:
    """A pending edit as a concept of its own: the concept at work stays, its copy carries the edit.

    Raises ProjectError for an edit of the brief, which all concepts share.
    """
    project = change.before
    if change.after.brief is not project.brief:
        raise ProjectError("All concepts share the brief. Make this edit for all of them, or leave it.")
    made = _with_copy(project, change.after.concept, project.concept.id, name, when, "try")
    return replace(made, sentence=f"{made.sentence}: {change.sentence}")


def _with_copy(project: Project, content: Concept, of: str, name: str, when: str, verb: str) -> Change:
    name = checked_name(name, "concept")
    new = {"id": next_letter(project), "name": name, "copied_from": of, "copied_on": when, "retired": None}
    copy = content.but(**new)
    after = project.but(concepts=(*project.concepts, copy), at_work=copy.id)
    original = _concept(project, of)
    return Change(project, after, f"{verb} {original.letter} as concept {said(copy)}")


def rename_concept(project: Project, concept_id: str, name: str) -> Change:
    concept, name = _concept(project, concept_id), checked_name(name, "concept")
    return _with(project, concept, f"call concept {concept.letter} {name}", name=name)


def retire_concept(project: Project, concept_id: str, why: str, when: str = "") -> Change:
    """Give a concept up. It stays in the file with the reason, and can be brought back.

    Raises ProjectError without a reason, and for the last concept that lives.
    """
    concept, why = _concept(project, concept_id), why.strip()
    if not why:
        raise ProjectError("Say why it is retired: whoever reads this next year will ask.")
    others = [c for c in project.living if c.id != concept.id]
    if not others:
        raise ProjectError("This is the last concept alive. Copy it or bring another back first.")
    change = _with(project, concept, f"retire {said(concept)}: {why}", retired=Retirement(why=why[:120], when=when))
    if project.concept.id != concept.id:
        return change
    return replace(change, after=change.after.but(at_work=others[0].id))


def revive_concept(project: Project, concept_id: str) -> Change:
    concept = _concept(project, concept_id)
    return _with(project, concept, f"bring {said(concept)} back", retired=None)


def add_question(project: Project, question: str) -> Change:
    """Leave something of the concept at work to a test."""
    question = checked_name(question, "question")
    made = Question(id=new_id(question, (q.id for q in project.concept.questions)), question=question)
    after = with_concept(project, questions=(*project.concept.questions, made))
    return Change(project, after, f"to be decided by test: {question}")


def set_question(project: Project, concept_id: str, question_id: str, **new: Any) -> Change:
    """Change fields of a question: test, date, better, chance_of_no, days_lost, answer."""
    concept = _concept(project, concept_id)
    old = by_id(concept.questions, question_id, "question")
    new |= {day: checked_day(new[day]) for day in ("date", "answered_on") if day in new}
    try:
        changed = checked(old, **new)
    except BadFigure as error:
        raise ProjectError(_question_reason(error)) from error
    verb = "answer" if new.get("answer") else "change"
    return _with(project, concept, f"{verb} “{old.question}”", questions=replaced(concept.questions, old, changed))


def answer_question(project: Project, concept_id: str, question_id: str, answer: str, today: str) -> Change:
    """Write down what the test showed, today unless another day stands there; "" opens the question again."""
    old = by_id(_concept(project, concept_id).questions, question_id, "question")
    on = (old.answered_on or today) if answer.strip() else ""
    return set_question(project, concept_id, question_id, answer=answer.strip(), answered_on=on)


def _question_reason(error: BadFigure) -> str:
    texts = {
        "chance_of_no": "The chance is from 0 to 100 %.",
        "days_lost": "Days are 0 or more.",
        "question": "Say what is to be decided.",
    }
    return texts.get(error.field, f"{units.plain_words(error.field)} {error.reason}.")


def remove_question(project: Project, concept_id: str, question_id: str) -> Change:
    concept = _concept(project, concept_id)
    old = by_id(concept.questions, question_id, "question")
    kept = tuple(q for q in concept.questions if q is not old)
    return _with(project, concept, f"drop the question “{old.question}”", questions=kept)


def _concept(project: Project, concept_id: str) -> Concept:
    return by_id(project.concepts, concept_id, "concept")


def _with(project: Project, concept: Concept, sentence: str, **new: Any) -> Change:
    concepts = replaced(project.concepts, concept, concept.but(**new))
    return Change(project, project.but(concepts=concepts), sentence)
