"""Measures and findings of what fits and what is seen."""

from collections.abc import Iterator

from wired_union.kernel.results import Finding, Measure
from wired_union.kernel.subject import Assessment
from wired_union.subjects.fit.findings_room import room_findings
from wired_union.subjects.fit.findings_sight import finds_lacks, sight_findings
from wired_union.subjects.fit.sights import SEEN
from wired_union.subjects.fit.stacks import STACKS


def measures(assessment: Assessment) -> Iterator[Measure]:
    """How small a thing each sensor finds where it must; how high each stack is."""
    for r in assessment.of(SEEN).sights:
        yield Measure("finds", f"{r.sight.name}, smallest thing", r.smallest_m, "m", missing=finds_lacks(r),
                      of=r.sight.id)  # fmt: skip
    for stack in assessment.of(STACKS):
        height = stack.height_m if stack.slices else None
        yield Measure("stack", f"{stack.stack.name}, height", height, "m", missing=stack.missing, of=stack.stack.id)


def findings(assessment: Assessment) -> Iterator[Finding]:
    """What touches, is in the way, is too large, or is not seen."""
    yield from room_findings(assessment)
    yield from sight_findings(assessment)
