"""What is missing before it is handed over: what subjects say of themselves, what breaks, cautions nobody has read."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Assessment, Paper, Unready


class Readiness(Struct, frozen=True):
    """What is missing, and how far that is."""

    lacks: tuple[Unready, ...]

    @property
    def left(self) -> tuple[Unready, ...]:
        """Those of which something is missing."""
        return tuple(u for u in self.lacks if u.names)

    @property
    def verdict(self) -> Verdict | None:
        """Unknown while something is missing: what was not shown is not known. None where there is nothing to ask."""
        if not any(u.of for u in self.lacks):
            return None
        return Verdict.UNKNOWN if self.left else Verdict.HOLDS


def unready(assessment: Assessment) -> Iterator[Unready]:
    """Limits that break or are not known, what breaks besides, and cautions that nobody has read."""
    measures = assessment.measures
    names = {x.measure: x.name for x in assessment.project.brief.limits}
    open_ones = tuple(names[m.id] for m in measures if m.verdict in (Verdict.BREAKS, Verdict.UNKNOWN))
    yield Unready("limits that are met", open_ones, len(measures), "limits")
    besides = tuple(f.title for f in assessment.breaks_besides)
    if besides:
        yield Unready("what breaks besides the limits is mended", besides, len(besides), "limits")
    cautions = [c.title for c in assessment.cautions]
    read = {s.caution for s in assessment.project.signatures}
    yield Unready(
        "cautions that somebody has read", tuple(c for c in cautions if c not in read), len(cautions), "cautions"
    )


def readiness(assessment: Assessment, *, merging: bool = False) -> Readiness:
    """What every subject says is missing; `merging` is whether a merge waits for choices."""
    asked = (s for s in assessment.subjects if s.unready is not None)
    waits = [Unready("merges that are settled", ("a merge with another file",), 1, "merge")] if merging else []
    return Readiness((*waits, *(u for s in asked if s.unready is not None for u in s.unready(assessment))))


class Compartment(Struct, frozen=True):
    """What a subject puts into the case."""

    id: str
    title: str
    papers: tuple[Paper, ...]


def compartments(assessment: Assessment) -> tuple[Compartment, ...]:
    """A compartment for each subject that hands something over, filled or not."""
    return tuple(
        Compartment(s.id, s.title, tuple(s.load(s.papers)(assessment))) for s in assessment.subjects if s.papers
    )
