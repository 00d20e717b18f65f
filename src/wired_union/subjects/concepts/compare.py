"""What differs between concepts, what is still open in them, and what they share."""

from msgspec import Struct

from wired_union.kernel.concepts import as_at_work
from wired_union.kernel.differences import differences_by_room
from wired_union.project.model import Concept, Item, Project, Question


def compare_concepts(project: Project, one: Concept, other: Concept) -> list[tuple[str, str]]:
    """What `other` does otherwise than `one`, as (subsystem or room, words)."""
    return differences_by_room(as_at_work(project, one.id), as_at_work(project, other.id))


def open_questions(project: Project) -> list[tuple[Concept, Question]]:
    """What is still to be decided by test in the living concepts, riskiest first.

    The risk is the days a bad answer costs times its chance; what nobody has judged yet comes before all that is.
    """
    found = [(c, q) for c in project.living for q in c.questions if not q.answer]
    return sorted(found, key=lambda x: -(float("inf") if x[1].risk_days is None else x[1].risk_days))


def answered_questions(project: Project) -> list[tuple[Concept, Question]]:
    """What tests have decided, in every concept, the latest first."""
    found = [(c, q) for c in project.concepts for q in c.questions if q.answer]
    return sorted(found, key=lambda x: x[1].answered_on, reverse=True)


class Common(Struct, frozen=True):
    """Parts that every living concept uses, so that they can be ordered before the choice; prices not known apart."""

    parts: tuple[tuple[Item, int], ...]
    """The item in the concept at work and the least count any concept uses."""
    of: int
    cost: float
    unpriced: tuple[str, ...]


def common_parts(project: Project) -> Common:
    """What is safe to order now: the least number of each part over all living concepts that is still to buy."""
    counts = [_counts(c) for c in project.living]
    wanted = [i for i in project.concept.items if i.origin == "to buy"]
    shared = [(i, least) for i in wanted if (least := min(c.get(i.part.id, 0) for c in counts)) > 0]
    shared = [(i, min(n, i.count)) for i, n in shared]
    cost = sum((i.part.price or 0.0) * n for i, n in shared)
    return Common(tuple(shared), len(wanted), cost, tuple(i.name for i, _ in shared if i.part.price is None))


def _counts(concept: Concept) -> dict[str, int]:
    found: dict[str, int] = {}
    for item in concept.items:
        found[item.part.id] = found.get(item.part.id, 0) + item.count
    return found
