"""Everything that must bear, against what it bears."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.checks import Check
from wired_union.kernel.results import Finding, Measure, Remedy, Verdict
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.project.model import Project
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.strength.kinds import KINDS, Around, worked
from wired_union.subjects.strength.results import TestResult


def around(project: Project, given: Given | Assessment) -> Around:
    """What the things look at besides themselves."""
    mass, brief = given.of(MASS), project.brief
    unweighed = tuple(i.name for i in mass.gaps)
    return Around(project.concept.items, mass.total_kg, mass.known_kg, unweighed, brief.coldest_c, brief.hottest_c)


def _read(project: Project) -> tuple[object, ...]:
    concept, brief = project.concept, project.brief
    items = tuple((i.id, i.name, i.count, i.knowledge, i.part.mass_kg) for i in concept.items) if concept.borne else ()
    return concept.borne, items, brief.coldest_c, brief.hottest_c


def _work(project: Project, given: Given) -> tuple[TestResult, ...]:
    if not project.concept.borne:
        return ()
    about = around(project, given)
    return tuple(worked(t, about) for t in project.concept.borne)


STRENGTH = Node("strength", _read, _work, (MASS,))


def measures(assessment: Assessment) -> Iterator[Measure]:
    """The share that each uses of what it bears."""
    for r in assessment.of(STRENGTH):
        yield Measure("strength", f"{r.test.name}, strength", r.use, "share", missing=r.missing, of=r.test.id)


def findings(assessment: Assessment) -> Iterator[Finding]:
    """What breaks, is tight, or is not known."""
    for r in assessment.of(STRENGTH):
        yield from (_finding(assessment, r, c) for c in r.checks if c.verdict is not Verdict.HOLDS)
        for gap in r.missing:
            yield Finding("strength-gap", Verdict.UNKNOWN, r.test.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether it bears.", _items(r), f"strength:{r.test.id}",
                          of=r.test.id, detail=gap)  # fmt: skip


def _items(r: TestResult) -> tuple[str, ...]:
    item = getattr(r.test, "item", "")
    return (item,) if item else ()


def _finding(assessment: Assessment, r: TestResult, check: Check) -> Finding:
    fails = check.verdict is Verdict.BREAKS
    words = KINDS[r.test.kind].fails[check.id] if fails else f"is near its limit of {check.name}"
    found = Finding(
        "strength", check.verdict, f"{r.test.name} {words}", f"{check.said}.", r.caution, _items(r),
        f"strength:{r.test.id}", partial(_remedies, assessment, r, check), of=r.test.id, detail=check.id, use=check.use,
    )  # fmt: skip
    return found if fails or not r.missing else found.while_unknown("; ".join(r.missing))


def _remedies(assessment: Assessment, r: TestResult, check: Check) -> tuple[Remedy, ...]:
    from wired_union.subjects.strength.remedies import remedies  # when they are looked at

    return remedies(assessment.project, around(assessment.project, assessment), r, check)
