"""Findings of the bench: what differs from what was expected, and what was woken before what it needs."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, tried
from wired_union.kernel.subject import Assessment
from wired_union.subjects.bench.assess import BENCH, Found, Woken, shown_found
from wired_union.subjects.bench.edits import take_as_measured
from wired_union.subjects.bench.order import ANSWERS
from wired_union.units import show


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    names = {i.id: i.name for i in assessment.project.concept.items}
    for woken in assessment.of(BENCH):
        for found in woken.differs:
            yield _differs(assessment, woken, found)
        if woken.woken_on and woken.lacks:
            lacks = ", ".join(names[n] for n in woken.lacks)
            yield Finding("woken-early", Verdict.TIGHT, f"{woken.step.item.name}: woken before what it needs",
                          f"{lacks} {'is' if len(woken.lacks) == 1 else 'are'} not said to work yet.",
                          "When two things are new at once, nothing tells which of them is wrong.",
                          (woken.step.item.id,), of=woken.step.item.id)  # fmt: skip


def _differs(assessment: Assessment, woken: Woken, found: Found) -> Finding:
    item, expect, off = woken.step.item, found.expect, found.off or 0.0
    if expect.figure == ANSWERS:
        title, what = f"{item.name}: no answer", "It was asked, and did not answer."
    else:
        more = "more" if off > 0 else "less"
        title = f"{item.name}: {more} than expected"
        what = (f"{shown_found(found)} measured {expect.name}, {show(expect.value, expect.unit)} in the plan;"
                f" {show(expect.share, 'share')} may be.")  # fmt: skip
    return Finding("bench-differs", Verdict.TIGHT, title, what, woken.step.wrong, (item.id,),
                   offer=partial(_take, assessment, woken, found), of=item.id, detail=expect.figure)  # fmt: skip


def _take(assessment: Assessment, woken: Woken, found: Found) -> tuple[Remedy, ...]:
    """The reading in the place of the figure; and what only hands can do."""
    ways: list[Remedy] = []
    if found.expect.replaces:
        change = tried(take_as_measured, assessment.project, woken.step.item.id, found.expect.figure)
        if change is not None:
            ways.append(Remedy(f"take {shown_found(found)} as measured", change, is_fact=True))
    if woken.step.item.count > 1:
        ways.append(Remedy(f"measure the other {woken.step.item.count - 1}"))
    return (*ways, Remedy("look for what is usually wrong"))
