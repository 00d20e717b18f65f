"""Parts that stand in a place whose own requirements they do not meet."""

from collections.abc import Iterator

from wired_union.choose.candidates import placed
from wired_union.choose.requirements import refused_by
from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.decision_model import Requires

NOTHING = Requires()


def findings(assessment: Assessment) -> Iterator[Finding]:
    """What each place asks and its part does not give, at the voltage that it gets; a figure not given is unknown."""
    money = assessment.project.brief.currency
    for item in assessment.project.concept.items:
        if item.requires == NOTHING:
            continue
        for refusal in refused_by(placed(assessment, item, item.part), item.requires, money):
            verdict = Verdict.BREAKS if refusal.known else Verdict.UNKNOWN
            meets = "does not give" if refusal.known else "may not give"
            yield Finding(
                "requirement", verdict, f"{item.name} {meets} what its place asks",
                f"{refusal.text[:1].upper()}{refusal.text[1:]}.",
                "The place asks for it; Candidates shows what would give it.", (item.id,),
                hard=verdict is Verdict.BREAKS, of=item.id, detail=refusal.requirement,
            )  # fmt: skip
