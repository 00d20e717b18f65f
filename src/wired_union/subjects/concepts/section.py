"""Concepts in the report: each with what its limits do and why it was given up, the decision, what tests decide."""

from wired_union.kernel.concepts import as_at_work
from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.project.concept_edits import said
from wired_union.project.model import Concept, Project
from wired_union.subjects.concepts.compare import answered_questions, compare_concepts, open_questions
from wired_union.subjects.concepts.picture_questions import risk_words
from wired_union.subjects.concepts.weighing import Weighing, weigh_up
from wired_union.subjects.mass.gives import outline
from wired_union.units import show

WIDE = 760.0
MOST_LIMITS = 6
"""Limits in a table; the rest is in the brief of each concept's own report."""


def section(assessment: Assessment, kit: Kit) -> Section:
    """Nothing where there is one concept, no decision and no question."""
    project = assessment.project
    blocks: list[Block] = []
    if len(project.concepts) > 1:
        known = {c.id: assessment.again(as_at_work(project, c.id)) for c in project.concepts}
        blocks += [*_concepts(project, known), *_drawn(project, known, kit),
                   *_decision(project, weigh_up(project, known))]  # fmt: skip
    return Section("Concepts and what tests decide", (*blocks, *_questions(project)))


def _concepts(project: Project, known: dict[str, Assessment]) -> list[Block]:
    limits = project.brief.limits[:MOST_LIMITS]
    rows = []
    for concept in project.concepts:
        measures = [known[concept.id].measure(x.measure) for x in limits]
        rows.append((said(concept), _state(project, concept), *(_mark(m.shown, m.verdict) for m in measures)))
    table = Block(head=("concept", "state", *(x.name for x in limits)), rows=tuple(rows),
                  figures=tuple(range(2, 2 + len(limits))))  # fmt: skip
    return [table, *_differences(project)]


def gist(assessment: Assessment, _: Kit) -> list[Block]:
    """The concepts beside each other and who is first, for a judge."""
    project = assessment.project
    if len(project.concepts) < 2:
        return []
    known = {c.id: assessment.again(as_at_work(project, c.id)) for c in project.concepts}
    return [_concepts(project, known)[0], *_sure(weigh_up(project, known))]


def passed_on(assessment: Assessment, _: Kit) -> list[Block]:
    """What tests decided, and what is still open, for whoever comes next."""
    return _questions(assessment.project)


def _drawn(project: Project, known: dict[str, Assessment], kit: Kit) -> list[Block]:
    """Each concept as it stands, as far as its parts have places."""
    pictures = ((c, outline(known[c.id], kit, WIDE)) for c in project.concepts)
    return [drawn(p, f"{said(c)}{', given up' if c.retired else ''}, to scale") for c, p in pictures if p is not None]


def _sure(weighing: Weighing) -> list[Block]:
    """Who is first by the scores, whether it is out all the same, and what would have to weigh otherwise."""
    known = [s for s in weighing.standings if s.total is not None]
    fair = [s for s in known if not s.knocked_out]
    ranked = fair if len(fair) > 1 else sorted(known, key=lambda s: -(s.total or 0.0))
    if not ranked:
        return []
    first = ranked[0]
    text = f"First by what no formula knows: {said(first.concept)}, {show(first.total)} of 10."
    if first.knocked_out:
        text += f" It is out as it stands: {first.knocked_out[0]}."
    if not weighing.overturns:
        return [Block(text=f"{text} No single weight would change that.")]
    near = weighing.overturns[0]
    now, then = show(near.share_now, fraction=True), show(near.share_then, fraction=True)
    word = "more" if near.share_then > near.share_now else "less"
    turn = (
        f"It turns to {said(near.first_then)} if “{near.criterion.name}” weighs {word} than {then}, instead of {now}."
    )
    return [Block(text=f"{text} {turn}")]


def _mark(shown: str, verdict: Verdict) -> str:
    if verdict is Verdict.UNKNOWN:
        return verdict.value
    return shown if verdict is Verdict.HOLDS else f"{shown}, {verdict.value}"


def _state(project: Project, concept: Concept) -> str:
    if concept.retired is not None:
        on = f" on {concept.retired.when}" if concept.retired.when else ""
        return f"given up{on}: {concept.retired.why}"
    return "at work" if concept.id == project.concept.id else "alive"


def _differences(project: Project) -> list[Block]:
    """What every other concept does otherwise than the one at work."""
    found = []
    for concept in project.concepts:
        if concept.id != project.concept.id:
            words = few_words([w for _, w in compare_concepts(project, project.concept, concept)])
            found.append(
                Block(text=f"{said(concept)} does otherwise than {said(project.concept)}: {words}.", tone="note")
            )
    return found


def _decision(project: Project, weighing: Weighing) -> list[Block]:
    criteria = project.decision.criteria
    if not criteria:
        return []
    rows = []
    for criterion in criteria:
        weight = "must-have" if criterion.must_have else show(weighing.shares.get(criterion.id), fraction=True)
        rows.append((criterion.name, weight, *(_score(project, c, criterion.id) for c in project.living)))
    totals = {s.concept.id: s for s in weighing.standings}
    rows.append(("Together", "", *(_total(totals[c.id].total, totals[c.id].knocked_out) for c in project.living)))
    head = ("criterion", "weight", *(c.letter for c in project.living))
    return [Block(text="The decision", tone="heading"),
            Block(head=head, rows=tuple(rows), figures=tuple(range(1, len(head)))), *_sure(weighing)]  # fmt: skip


def _score(project: Project, concept: Concept, criterion_id: str) -> str:
    criterion = next(c for c in project.decision.criteria if c.id == criterion_id)
    score = criterion.score(concept.id)
    if score is None:
        return "no score"
    return "yes" if criterion.must_have and score.value >= 5 else "no" if criterion.must_have else show(score.value)


def _total(total: float | None, out: tuple[str, ...]) -> str:
    shown = "a score is missing" if total is None else show(total)
    return f"{shown}; out: {out[0]}" if out else shown


def _questions(project: Project) -> list[Block]:
    """Open questions with their tests, and answered ones with what was found."""
    blocks: list[Block] = []
    if rows := tuple((c.letter, q.question, q.test or "no test yet", q.date or "no date yet", risk_words(q))
                     for c, q in open_questions(project)):  # fmt: skip
        head = ("", "to be decided by test", "the test", "on", "risk")
        blocks += [Block(text="Still open", tone="heading"), Block(head=head, rows=rows)]
    if rows := tuple((c.letter, q.question, q.answer, q.answered_on or "no day", q.figures or "none written down")
                     for c, q in answered_questions(project)):  # fmt: skip
        head = ("", "decided by test", "what it showed", "on", "figures")
        blocks += [Block(text="Answered", tone="heading"), Block(head=head, rows=rows)]
    return blocks


MOST_CHARACTERS = 320


def few_words(words: list[str]) -> str:
    """The first of many differences, and how many more there are."""
    told: list[str] = []
    left = MOST_CHARACTERS
    for text in words:
        left -= len(text)
        if told and left < 0:
            break
        told.append(text)
    more = f"; and {len(words) - len(told)} more" if len(words) > len(told) else ""
    return "; ".join(told) + more or "nothing"
