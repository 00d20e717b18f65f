"""Findings of the course: what lacks, what is lost when time runs out, and which single change brings more."""

from collections.abc import Iterator
from functools import partial

from msgspec import Struct

from wired_union.kernel.results import Finding, Remedy, Verdict, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.subjects.trials.course import COURSE, SURE, Walked, walk
from wired_union.subjects.trials.course_edits import take_plan
from wired_union.units import show

OFTEN, OFFERED = 0.1, 3
"""A last task that is lost more often is said; so many single changes are offered."""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    found = assessment.of(COURSE)
    if found.missing:
        yield Finding("course-gap", Verdict.UNKNOWN, "The course", f"Not known yet: {'; '.join(found.missing[:3])}.",
                      "What is not known is not nothing.", (), "course", of="course")  # fmt: skip
    w = found.walked
    if w is None or not w.done or w.last_lost <= OFTEN:
        return
    late = sum(d.from_s > w.ground.allowed_s for d in w.done)
    begun = f" {late} of its tasks begin{'s' if late == 1 else ''} after the time is up." if late else ""
    last = w.done[-1]
    yield Finding(
        "course-lost", Verdict.TIGHT, f"The course: {last.leg.task.name} is lost in {show(w.last_lost, 'share')}",
        f"{show(w.usual_s, 's')} as usual, {show(w.time_s(SURE), 's')} one time in ten, of"
        f" {show(w.ground.allowed_s, 's')}.{begun}",
        "What is worth most, surest and quickest comes first; what comes last is lost first.", (), "course",
        partial(_changes, assessment, w), of="course", use=w.last_lost / OFTEN,
    )  # fmt: skip


class Single(Struct, frozen=True):
    """One change of a plan: in words, the plan after it, and what it brings."""

    words: str
    after: Walked
    gain: float


def single_changes(w: Walked) -> list[Single]:
    """Every trip elsewhere in the order, every task left out, the one that brings most first."""
    names = [d.trip for d in w.done]
    order = [p for p in w.plan if p[1]]
    made: list[Single] = []
    for n, one in enumerate(order):
        for to in range(len(order)):
            if to != n and to != n + 1:  # the swap with the next is that of the next with it
                rest = [p for p in order if p is not one]
                words, after = _moved(w, one[0], rest, to), walk(w.ground, (*rest[:to], one, *rest[to:]))
                less = w.driven_s - after.driven_s
                drives = f": {show(less, 's')} less driving" if less >= 0.5 else ""
                made.append(Single(words + drives, after, after.points - w.points))
    for d, trip in zip(w.done, names, strict=True):
        plan = tuple((t, tuple(k for k in ks if t != trip or w.ground.trips[t][k] is not d.leg)) for t, ks in order)
        after = walk(w.ground, plan)
        made.append(Single(f"leave out {d.leg.task.name}", after, after.points - w.points))
    return sorted(made, key=lambda s: -s.gain)


def _moved(w: Walked, trip: int, rest: list[tuple[int, tuple[int, ...]]], to: int) -> str:
    name = w.ground.names[trip]
    return f"{name} before {w.ground.names[rest[to][0]]}" if to < len(rest) else f"{name} last"


def _changes(assessment: Assessment, w: Walked) -> tuple[Remedy, ...]:
    """Single changes that bring points, and the least that must be left out for the last task to be sure."""
    all_of = single_changes(w)
    found = [s for s in all_of if s.gain > 1e-9][:OFFERED]
    sure = next((s for s in all_of if s.after.last_lost <= OFTEN), None)
    if sure is not None and sure not in found:
        found.append(sure)
    ways = [(s, _taken(assessment, s)) for s in found]
    return tuple(Remedy(f"{s.words}, {_signed(s.gain)}", change) for s, change in ways if change is not None)


def _signed(gain: float) -> str:
    return f"{'+' if gain >= 0 else '−'}{show(abs(gain), 'points')} on average"


def _taken(assessment: Assessment, s: Single) -> Change | None:
    return tried(take_plan, assessment.project, s.after.plan, s.words)
