"""Every concept of a project assessed under its one brief."""

from collections.abc import Mapping

from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project


def as_at_work(project: Project, concept_id: str) -> Project:
    """The project with that concept at work; the same object where it is already."""
    if project.concept.id == concept_id:
        return project
    return project.but(at_work=concept_id)


def assess_all(assessment: Assessment, known: Mapping[str, Assessment]) -> dict[str, Assessment]:
    """Every concept's assessment by its id; what is the same as in `known` is used again."""
    project = assessment.project
    found = {}
    for concept in project.concepts:
        if concept.id == project.concept.id:
            found[concept.id] = assessment
        else:
            found[concept.id] = known.get(concept.id, assessment).again(as_at_work(project, concept.id))
    return found
