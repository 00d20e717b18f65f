"""Brief: each limit with its number, its proof, and what is kept in hand."""

from wired_union.kernel.results import Verdict, worst
from wired_union.kernel.subject import Assessment, Subject


def _verdict(assessment: Assessment) -> Verdict | None:
    return worst([m.verdict for m in assessment.measures if m.id in assessment.limited_measures])


SUBJECT = Subject(
    id="brief", title="Brief", group="DEFINE",
    about=(
        "Each limit is a wire from zero to a post. Its use is value ÷ limit for “at most”, limit ÷ value for “at"
        " least”. It breaks above 1, is tight within the share kept in hand, and is unknown while a figure is missing:"
        " what is missing is listed and never counts as zero.",
    ),
    view="view:BriefView", methods=("success-interval", "trials-for-proof"), verdict=_verdict,
)  # fmt: skip
