"""What there is to say of tasks and messages: late, lost, not known; and of limits on load and share."""

import math
from collections.abc import Callable, Iterator
from functools import partial

from wired_union.kernel.checks import Check
from wired_union.kernel.results import Finding, Measure, Remedy, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Project
from wired_union.subjects.timing.buses import BUSES, BusResult, MessageResult
from wired_union.subjects.timing.eyes import EYES, EyeResult, eye_words
from wired_union.subjects.timing.pull_ups import line_findings
from wired_union.subjects.timing.tasks import TASKS, ProcessorResult, TaskResult
from wired_union.units import show


def task_findings(assessment: Assessment) -> Iterator[Finding]:
    """Tasks that are late, hardly in time, or of which that is not known; and limits on the load."""
    for p in assessment.of(TASKS):
        measure = assessment.measure(f"load:{p.processor.id}")
        for gap in p.missing:
            yield Finding("task-gap", Verdict.UNKNOWN, p.processor.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether its tasks are in time.", (), measure.id,
                          of=p.processor.id, detail=gap)  # fmt: skip
        yield from (_late(assessment, p, t) for t in p.tasks if t.check is not None and t.verdict is not Verdict.HOLDS)
        offer = partial(_load_remedies, assessment.project, p)
        yield from _limit(measure, "load", "How much of the time it runs, at the most.", offer)


def _late(assessment: Assessment, p: ProcessorResult, t: TaskResult) -> Finding:
    check = t.check
    assert check is not None
    breaks, name = check.verdict is Verdict.BREAKS, t.task.name
    said = f"{_done(check)} after it is due, of {show(t.deadline_s, 's')}."
    finding = Finding(
        "task", check.verdict, f"{name} {'is late' if breaks else 'is just in time'}", said, _why(p, t), (),
        f"load:{p.processor.id}", partial(_task_remedies, assessment.project, p, t), of=t.task.id,
        use=check.use if math.isfinite(check.use) else None,
    )  # fmt: skip
    if t.bound and breaks:
        return Finding("task", Verdict.UNKNOWN, f"{name} may be late", said,
                       "Only if waits of others keep the processor; where they let it run, it is in time.", (),
                       f"load:{p.processor.id}", finding.offer, of=t.task.id)  # fmt: skip
    return finding if breaks or not t.missing else finding.while_unknown("; ".join(t.missing))


def _done(check: Check) -> str:
    return f"Done up to {show(check.needed, 's')}" if math.isfinite(check.needed) else "Done later and later"


def _why(p: ProcessorResult, t: TaskResult) -> str:
    """What it waits for: in a plain loop waits before all, else the load above it."""
    if p.processor.way == "plain loop":
        waiting = [x.task for x in p.tasks if x.task.waits_s > 0]
        if waiting:
            longest = max(waiting, key=lambda x: x.waits_s)
            return f"“{longest.name}” sits in a wait of {show(longest.waits_s, 's')}: everything else waits with it."
        return f"The loop comes round in {show(p.pass_s, 's')} at the most." if p.pass_s else ""
    if p.load is not None and p.load > 1:
        return f"{p.processor.name} would have to run {show(p.load, 'share')} of the time."
    above = [x.task.name for x in p.tasks if x.task.id != t.task.id and x.task.priority <= t.task.priority]
    return f"{', '.join(above[:3])} {'goes' if len(above) == 1 else 'go'} before it." if above else ""


def bus_findings(assessment: Assessment) -> Iterator[Finding]:
    """Messages that are late or lost, or of which that is not known; and limits on the share of the time."""
    for b in assessment.of(BUSES):
        measure = assessment.measure(f"bus:{b.bus.id}")
        for gap in b.missing:
            yield Finding("bus-gap", Verdict.UNKNOWN, b.bus.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether its messages arrive in time.", (), measure.id,
                          of=b.bus.id, detail=gap)  # fmt: skip
        for m in b.messages:
            if m.check is not None and m.check.verdict is not Verdict.HOLDS:
                yield _slow(assessment, b, m, m.check)
            if m.overrun is not None and m.overrun.verdict is not Verdict.HOLDS:
                yield _lost(assessment, b, m, m.overrun)
        if b.lines is not None:
            yield from line_findings(assessment.project, b.bus, b.lines)
        offer = partial(_share_remedies, assessment.project, b)
        yield from _limit(measure, "bus", "How much of the time it is in use, at the most.", offer)


def _slow(assessment: Assessment, b: BusResult, m: MessageResult, check: Check) -> Finding:
    breaks = check.verdict is Verdict.BREAKS
    there = f"There up to {show(check.needed, 's')}" if math.isfinite(check.needed) else "There later and later"
    share = f" {b.bus.name} is in use {show(b.share, 'share')} of the time." if b.share is not None else ""
    why = f"{show(m.time_s, 's')} on the wire, the rest is waiting.{share}"
    return Finding(
        "message", check.verdict, f"{m.message.name} {'comes late' if breaks else 'comes just in time'}",
        f"{there} after it is sent off, of {show(m.deadline_s, 's')}.", why, (), f"bus:{b.bus.id}",
        partial(_bus_remedies, assessment.project, b, m), of=m.message.id,
        use=check.use if math.isfinite(check.use) else None,
    )  # fmt: skip


def _lost(assessment: Assessment, b: BusResult, m: MessageResult, check: Check) -> Finding:
    breaks = check.verdict is Verdict.BREAKS
    comes = f"{check.needed:.0f} bytes" if math.isfinite(check.needed) else "More bytes than any buffer holds"
    return Finding(
        "overrun", check.verdict, f"{m.message.name} {'loses bytes' if breaks else 'nearly loses bytes'}",
        f"{comes} come before they are read; {check.given:.0f} are kept.",
        "What does not fit is lost, and the message is cut short.", (), f"bus:{b.bus.id}",
        partial(_bus_remedies, assessment.project, b, m), of=m.message.id,
        use=check.use if math.isfinite(check.use) else None,
    )  # fmt: skip


def eye_findings(assessment: Assessment) -> Iterator[Finding]:
    """Eyes that do not keep up with their cameras."""
    for r in assessment.of(EYES):
        if r.verdict is Verdict.HOLDS:
            continue
        yield Finding("eye", r.verdict, f"{r.eye.name} does not keep up with its camera", f"{eye_words(r)}.",
                      "What is between is not looked at, and what is known is older.",
                      (r.eye.item,) if r.eye.item else (), "", partial(_eye_remedies, assessment.project, r),
                      of=r.eye.id, use=1 / max(r.keeps_up, 1e-6))  # fmt: skip


def _eye_remedies(project: Project, r: EyeResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies import cheaper_pictures  # when they are looked at

    return tuple(remedy for saved, remedy in cheaper_pictures(project, r.eye.id) if saved > 0 and remedy.change)


def _limit(measure: Measure, check: str, why: str, offer: Callable[[], tuple[Remedy, ...]]) -> Iterator[Finding]:
    if measure.limit is None or measure.value is None or measure.verdict is Verdict.HOLDS:
        return
    yield Finding(check, measure.verdict, measure.label, f"{measure.shown} of {measure.limit_shown}.", why, (),
                  measure.id, offer, of=measure.of, of_limit=True)  # fmt: skip


def _task_remedies(project: Project, p: ProcessorResult, t: TaskResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies_shared import task_remedies  # when they are looked at

    return task_remedies(project, p, t)


def _bus_remedies(project: Project, b: BusResult, m: MessageResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies_shared import bus_remedies  # when they are looked at

    return bus_remedies(project, b, m)


def _load_remedies(project: Project, p: ProcessorResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies_shared import load_remedies  # when they are looked at

    return load_remedies(project, p)


def _share_remedies(project: Project, b: BusResult) -> tuple[Remedy, ...]:
    from wired_union.subjects.timing.remedies_shared import share_remedies  # when they are looked at

    return share_remedies(project, b)
