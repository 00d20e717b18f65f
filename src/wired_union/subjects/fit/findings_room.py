"""Findings of what touches, what is in the way, and what does not go into its place."""

import math
from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, nothing_to_offer, possible, share_verdict, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.edits import set_fills
from wired_union.project.model import Project
from wired_union.subjects.fit.boxes import FITTING, Access, Fitting, Overlap
from wired_union.subjects.fit.edits import set_stack
from wired_union.subjects.fit.stacks import STACKS, StackResult
from wired_union.units import show

MOST_SAID = 3
"""Overlaps that are said one by one."""


def room_findings(assessment: Assessment) -> Iterator[Finding]:
    """Everything that touches, is in the way, or is too large for where it goes."""
    fitting = assessment.of(FITTING)
    if (touching := _touching(assessment.project, fitting)) is not None:
        yield touching
    for access in fitting.accesses:
        yield from _access(access)
    for stack in assessment.of(STACKS):
        yield from _stack(assessment, stack)


def _touching(project: Project, fitting: Fitting) -> Finding | None:
    """All pairs that may touch, the deepest named; not known where a part with a place has no size."""
    lacking = f"Not looked at: {'; '.join(f'{n}: its size' for n in fitting.unsized[:3])}." if fitting.unsized else ""
    if not fitting.overlaps:
        return Finding("overlap", Verdict.UNKNOWN, "Parts may touch", lacking or "", "") if lacking else None
    count, named = len(fitting.overlaps), fitting.overlaps[:MOST_SAID]
    pairs = "; ".join(f"{x.one.name} and {x.other.name} by {show(x.deep_m, 'm')}{_when(x)}" for x in named)
    rest = f"; {count - MOST_SAID} more are listed in Fit and sight" if count > MOST_SAID else ""
    ids = tuple(dict.fromkeys(i for x in named for i in (x.one.item.id, x.other.item.id)))
    verdict, at_least = (Verdict.UNKNOWN, "At least ") if lacking or fitting.is_cut else (Verdict.TIGHT, "")
    title = f"{at_least}{count} pair{'s' if count > 1 else ''} may touch"
    return Finding(
        "overlap", verdict, title,
        f"As boxes they reach into each other: {pairs}{rest}.",
        f"Look whether they really touch, or say that others may be inside one of them. {lacking}".strip(), ids,
        offer=partial(_opened, project, named), use=1.0 + count,
    )  # fmt: skip


def _when(x: Overlap) -> str:
    return f" in “{x.pose}”" if x.pose else ""


def _opened(project: Project, named: tuple[Overlap, ...]) -> tuple[Remedy, ...]:
    """The larger of each pair as one that others may be inside."""
    larger = dict.fromkeys(max((x.one, x.other), key=lambda p: math.prod(p.box.half)).item.id for x in named)
    names = {i.id: i.name for i in project.concept.items}
    ways = ((f"others may be inside {names[i]}", tried(set_fills, project, i, "open inside")) for i in larger)
    return possible(*ways)


def _access(a: Access) -> Iterator[Finding]:
    c, title = a.clearance, f"{a.clearance.access} at {a.item.name}"
    title = title[:1].upper() + title[1:]
    if a.blocked:
        name, deep = a.blocked[0]
        verdict = Verdict.BREAKS if deep > a.width_m / 2 else Verdict.UNKNOWN if a.missing else Verdict.TIGHT
        what = f"{name} reaches {show(deep, 'm')} into the {show(a.depth_m, 'm')} that must stay free {_side(c.side)}."
        yield Finding("access", verdict, title, what, "Parts count as boxes.", (a.item.id,), of=c.id)
    elif a.missing:
        yield Finding("access", Verdict.UNKNOWN, title, f"Not known yet: {'; '.join(a.missing[:3])}.",
                      "What has no place may be in the way.", (a.item.id,), of=c.id)  # fmt: skip


def _side(side: str) -> str:
    return side if side in {"above", "below"} else f"at its {side}" if side in {"front", "back"} else f"to its {side}"


def _stack(assessment: Assessment, r: StackResult) -> Iterator[Finding]:
    stack, limit = r.stack, assessment.measure(f"stack:{r.stack.id}")
    if limit.limit is not None:
        yield Finding("stack", limit.verdict, f"{stack.name} is high", f"{limit.shown} of {limit.limit_shown}.", "", (),
                      limit.id, of=stack.id, of_limit=True)  # fmt: skip
    for name, figure, most, field in (("too high", r.height_m, stack.high_m, "high_m"),
                                      ("too wide for its tube", r.across_m, stack.tube_m, "tube_m")):  # fmt: skip
        if most is None:
            continue
        verdict = share_verdict(figure / most)
        if verdict is not Verdict.BREAKS and r.missing:
            what = f"So far {show(figure, 'm')} of {show(most, 'm')}. Not known yet: {'; '.join(r.missing)}."
            yield Finding("stack", Verdict.UNKNOWN, f"{stack.name} may be {name}", what, "", (), limit.id, of=stack.id,
                          detail=field)  # fmt: skip
        elif verdict is not Verdict.HOLDS:
            words = name if verdict is Verdict.BREAKS else f"nearly {name}"
            offer = partial(_thinner, assessment.project, r) if field == "high_m" else nothing_to_offer
            what = f"{show(figure, 'm')} of {show(most, 'm')}."
            yield Finding("stack", verdict, f"{stack.name} is {words}", what, "", (), limit.id, offer, of=stack.id,
                          detail=field, use=figure / most)  # fmt: skip


def _thinner(project: Project, r: StackResult) -> tuple[Remedy, ...]:
    """Spacers so low that it fits, where they alone can do it."""
    stack = r.stack
    spacers = sum(x.spacer_m * x.copies for x in stack.layers) - (stack.layers[-1].spacer_m if stack.layers else 0.0)
    over = r.height_m - (stack.high_m or 0.0)
    if not 0 < over < spacers:
        return ()
    share = 1 - over / spacers * 1.001
    layers = tuple(x.but(spacer_m=x.spacer_m * share) for x in stack.layers)
    change = tried(partial(set_stack, value_id=stack.id, layers=layers), project)
    return possible((f"spacers lower by {show(1 - share, fraction=True)}", change))
