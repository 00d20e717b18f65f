"""The weighted decision for what no formula knows: totals, who is knocked out, and how sure the order is.

A total is the weighted mean of the scores, 0 to 10. Must-haves and limits that break knock a concept out; they are
never scored. Source: additive value model, as in Keeney & Raiffa, Decisions with Multiple Objectives (1976), from
memory; overturning weights are where two straight lines cross.
"""

from collections.abc import Mapping

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Concept, Criterion, Project


class Standing(Struct, frozen=True):
    """One concept in the decision: its total (None while a score is missing), and what knocks it out."""

    concept: Concept
    total: float | None
    missing: tuple[str, ...]
    knocked_out: tuple[str, ...]


class Overturn(Struct, frozen=True):
    """A single weight that changes who is first: the criterion, its share now, the share from which, and who then."""

    criterion: Criterion
    share_now: float
    share_then: float
    first_then: Concept


class Weighing(Struct, frozen=True):
    """Concepts in order, and the weights that would have to change to overturn it, the nearest first."""

    standings: tuple[Standing, ...]
    overturns: tuple[Overturn, ...]
    shares: dict[str, float]

    @property
    def first(self) -> Standing | None:
        """Who is first of those that are still in, None while no two totals are known."""
        return next((s for s in self.standings if s.total is not None and not s.knocked_out), None)


def weigh_up(project: Project, assessments: Mapping[str, Assessment]) -> Weighing:
    """Weigh the living concepts. `assessments` by concept id tells which limits break."""
    criteria = [c for c in project.decision.criteria if not c.must_have and c.weight > 0]
    total = sum(c.weight for c in criteria)
    shares = {c.id: c.weight / total for c in criteria}
    standings = [_standing(project, c, criteria, shares, assessments.get(c.id)) for c in project.living]
    standings.sort(key=lambda s: (bool(s.knocked_out), s.total is None, -(s.total or 0.0), s.concept.id))
    fair = [s.concept for s in standings if s.total is not None and not s.knocked_out]
    if len(fair) < 2:  # as they stand nobody is left to compare; then the order is that of the scores alone
        known = sorted((s for s in standings if s.total is not None), key=lambda s: (-(s.total or 0.0), s.concept.id))
        fair = [s.concept for s in known]
    return Weighing(tuple(standings), _overturns(criteria, shares, fair), shares)


def _standing(
    project: Project, concept: Concept, criteria: list[Criterion], shares: Mapping[str, float],
    assessed: Assessment | None,
) -> Standing:  # fmt: skip
    scores = [(c, c.score(concept.id)) for c in criteria]
    missing = tuple(c.name for c, score in scores if score is None)
    total = None
    if criteria and not missing:
        total = sum(shares[c.id] * score.value for c, score in scores if score is not None)
    out = [
        f"{c.name}: no"
        for c in project.decision.criteria
        if c.must_have and (score := c.score(concept.id)) is not None and score.value < 5
    ]
    if assessed is not None:
        out += [f"{m.label} breaks: {m.shown}" for m in assessed.measures if m.verdict is Verdict.BREAKS]
        out += [f"{f.title}" for f in assessed.findings if f.hard and f.verdict is Verdict.BREAKS]
    return Standing(concept, total, missing, tuple(out))


def total_at(criteria: list[Criterion], shares: Mapping[str, float], concept: str, varied: str, share: float) -> float:
    """Total of a concept when one criterion has `share` of the weight and the others keep their proportions."""
    rest = 1.0 - shares[varied]
    found = 0.0
    for c in criteria:
        score = c.score(concept)
        assert score is not None
        mine = share if c.id == varied else (shares[c.id] / rest * (1.0 - share) if rest > 0 else 0.0)
        found += mine * score.value
    return found


def _overturns(criteria: list[Criterion], shares: Mapping[str, float], concepts: list[Concept]) -> tuple[Overturn, ...]:
    """For each criterion the nearest share, below or above, at which another concept comes first."""
    if len(concepts) < 2:
        return ()
    first = concepts[0]
    found = []
    for c in criteria:
        if shares[c.id] >= 1.0:
            continue  # with a single criterion there is nothing to weigh it against
        crossings = [
            Overturn(c, shares[c.id], share, other)
            for other in concepts[1:]
            if (share := _crossing(criteria, shares, first, other, c.id)) is not None
        ]
        for side in (True, False):
            there = [x for x in crossings if (x.share_then >= x.share_now) == side]
            if there:
                found.append(min(there, key=lambda x: abs(x.share_then - x.share_now)))
    return tuple(sorted(found, key=lambda x: abs(x.share_then - x.share_now)))


def _crossing(
    criteria: list[Criterion], shares: Mapping[str, float], first: Concept, other: Concept, varied: str
) -> float | None:
    """The share from 0 to 1 at which the two totals are equal; None where the order holds at any share."""
    at_0, at_1 = (
        total_at(criteria, shares, first.id, varied, w) - total_at(criteria, shares, other.id, varied, w)
        for w in (0, 1)
    )
    if at_0 == at_1 or at_0 * at_1 > 0:
        return None
    share = at_0 / (at_0 - at_1)
    return share if 0.0 <= share <= 1.0 else None
