"""What there is to say of faults that were found."""

from collections.abc import Iterator

from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.subject import Assessment, Unready


def unready(assessment: Assessment) -> Iterator[Unready]:
    """Faults that are open, and those without a known cause among them."""
    defects = assessment.project.defects
    if defects:
        yield Unready(
            "faults that are closed", tuple(d.name for d in defects if not d.closed_on), len(defects), "faults"
        )


def findings(assessment: Assessment) -> Iterator[Finding]:
    """Every fault that is open: without a cure it may come back on the day."""
    for fault in assessment.project.defects:
        if fault.closed_on:
            continue
        since = f" since {fault.found_on}" if fault.found_on else ""
        cause = f"Cause: {fault.cause}." if fault.cause else "Its cause is not known."
        tried = f" {len(fault.attempts)} tried so far." if fault.attempts else ""
        cure = f" What would mend it: {fault.cure}." if fault.cure else ""
        items = tuple(a.id for a in fault.about if a.what == "part")
        yield Finding("open-fault", Verdict.TIGHT if fault.cause else Verdict.UNKNOWN, f"Open fault: {fault.name}",
                      f"Open{since}. {cause}{tried}{cure}", "What was seen once comes back: common practice.",
                      items, of=fault.id)  # fmt: skip
