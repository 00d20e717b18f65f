"""Findings of the bench: what differs from what was expected, and what was woken before what it needs."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.bench_model import Calibration
from wired_union.project.change import Change
from wired_union.subjects.bench.assess import BENCH, Found, Woken, shown_found
from wired_union.subjects.bench.calibrations import CALIBRATIONS, ODD_SIGMA, Calibrated
from wired_union.subjects.bench.edits import strike_pair, take_as_measured
from wired_union.subjects.bench.order import ANSWERS
from wired_union.units import show


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    concept = assessment.project.concept
    names = {i.id: i.name for i in concept.items}
    for woken in assessment.of(BENCH) if concept.readings or concept.wakings else ():
        for found in woken.differs:
            yield _differs(assessment, woken, found)
        if woken.woken_on and woken.lacks:
            lacks = ", ".join(names[n] for n in woken.lacks)
            yield Finding("woken-early", Verdict.TIGHT, f"{woken.step.item.name}: woken before what it needs",
                          f"{lacks} {'is' if len(woken.lacks) == 1 else 'are'} not said to work yet.",
                          "When two things are new at once, nothing tells which of them is wrong.",
                          (woken.step.item.id,), of=woken.step.item.id)  # fmt: skip
    for c in assessment.of(CALIBRATIONS):
        yield from _calibrated(assessment, c)


def _calibrated(assessment: Assessment, c: Calibrated) -> Iterator[Finding]:
    """What lacks, where it stops being good enough, and points that lie far off."""
    cal = c.calibration
    items, measure = (cal.item,) if cal.item else (), f"error:{cal.id}"
    if c.missing and cal.pairs:
        yield Finding("calibration-gap", Verdict.UNKNOWN, cal.name, f"Not known yet: {c.missing[0]}.",
                      "Until it is known nothing says how far a reading can be trusted.", items, measure,
                      of=cal.id)  # fmt: skip
    if c.verdict is Verdict.BREAKS and c.worst is not None:
        unit = cal.unit
        stretch = f"Good from {show(c.good[0], unit)} to {show(c.good[1], unit)}" if c.good else "Nowhere good enough"
        yield Finding("calibration", Verdict.TIGHT, f"{cal.name}: not good enough everywhere",
                      f"{stretch}; off by up to {show(c.worst, unit)} where {show(cal.wanted, unit)} is wanted.",
                      "More points where it is steep narrow the curve; the sensor's own noise stays.", items, measure,
                      of=cal.id, use=c.worst / cal.wanted if cal.wanted else None)  # fmt: skip
    for number in c.odd:
        change = tried(strike_pair, assessment.project, cal.id, number, "far off the others")
        yield Finding("odd-point", Verdict.TIGHT, f"{cal.name}: point {number} lies far off",
                      f"More than {ODD_SIGMA:g} times as far from a curve through the others as those lie.",
                      f"A slip of the hand, or something that the curve does not know. {_counts(cal)}", items, measure,
                      partial(_strike, change), of=cal.id, detail=str(number))  # fmt: skip


def _counts(cal: Calibration) -> str:
    return "It is left out of the curve." if cal.far_off == "left out" else "It counts all the same."


def _strike(change: Change | None) -> tuple[Remedy, ...]:
    return (*possible(("strike it out", change)), Remedy("measure it again"))


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
