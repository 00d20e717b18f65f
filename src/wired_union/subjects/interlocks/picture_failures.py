"""What each failure alone can do, a row each: to what can hurt, and to the states."""

from collections.abc import Iterator, Sequence

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Box, Kit, Picture, Region, Shape, hint_picture
from wired_union.picture.wire import glyph
from wired_union.subjects.interlocks.failing import LOST_POWER, Failing
from wired_union.subjects.interlocks.gates import GatesResult
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.units import show


class FailureRow(Struct, frozen=True):
    """What one failure alone does: to a hazard, or to the states; `key` tells rows of one failure apart."""

    id: str
    key: str
    name: str
    said: str
    verdict: Verdict


def gate_rows(found: Sequence[GatesResult]) -> Iterator[FailureRow]:
    """Failures before each hazard."""
    for r in found:
        for fails in r.failures:
            sizes = [len(c.failures) for c in r.cuts if fails in c.failures]
            if not fails.closes and not sizes:
                continue
            alone = 1 in sizes
            verdict = Verdict.BREAKS if alone and r.wanted > 1 else Verdict.TIGHT if alone else Verdict.HOLDS
            seen = f"; seen by {fails.seen_by}" if fails.seen_by else ""
            yield FailureRow(fails.id, f"{r.hazard.id} {fails.id}", fails.name, f"{failure_words(r, sizes)}{seen}",
                             verdict)  # fmt: skip


def state_rows(found: Sequence[Failing]) -> Iterator[FailureRow]:
    """Failures after which cues are told no more."""
    for f in found:
        verdict = Verdict.BREAKS if f.stuck else Verdict.TIGHT if f.unnoticed or f.goes_on else Verdict.HOLDS
        yield FailureRow(f.failure.id, f"states {f.failure.id}", f.failure.name, failing_words(f), verdict)


def failing_words(f: Failing) -> str:
    """ "nothing stops it in 3 states", "noticed: stands still within 2.2 s" """
    if f.stuck:
        return f"nothing stops it in {len(f.stuck)} state{'s' if len(f.stuck) > 1 else ''}"
    if f.unnoticed:
        return f"not noticed in {len(f.unnoticed)} state{'s' if len(f.unnoticed) > 1 else ''}"
    if f.goes_on:
        return "goes on by itself when power comes back"
    if f.time_s is not None:
        return f"noticed: stands still within {show(f.time_s, 's')}"
    return "begins in its first state" if f.failure.kind == LOST_POWER else "leaves a way to a stop from every state"


def failures_picture(rows: Sequence[FailureRow], kit: Kit, width: float, picked: InterlockPick) -> Picture:
    """What each failure alone can do, a row each. Regions stand for an `InterlockPick` of a failure."""
    if not rows:
        return hint_picture("No failure yet to search: add a hazard with gates.", kit, width)
    row = kit.px(34)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for n, one in enumerate(rows):
        y, verdict = n * row, one.verdict
        if picked == InterlockPick("failures", one.id):
            shapes.append(Box(0, y, width, row, "soft", radius=3))
        shapes += glyph(verdict, kit.px(16), y + kit.px(11), kit.px(2))
        tone = "breaks_text" if verdict is Verdict.BREAKS else "ink"
        name = kit.cut(one.name, width - kit.px(90), "small")
        shapes.append(kit.words(kit.px(26), y + kit.px(10), name, "small", tone))
        line = kit.cut(one.said, width - kit.px(30), "tiny")
        shapes.append(kit.words(kit.px(26), y + kit.px(24), line, "tiny", "mute"))
        shapes.append(kit.figures(width - kit.px(4), y + kit.px(10), verdict.value, "tiny",
                                  f"{verdict.value}_text", anchor="end"))  # fmt: skip
        regions.append(Region(f"failure {one.key}", 0, y, width, row, f"{one.name}: {one.said}",
                              of=InterlockPick("failures", one.id)))  # fmt: skip
    return Picture(width, row * len(rows), tuple(shapes), tuple(regions))


def failure_words(r: GatesResult, sizes: Sequence[int]) -> str:
    """ "releases Core ejector by itself", "needs one more" """
    if not sizes:
        return "not enough, even with two more"
    least = min(sizes)
    if least == 1:
        return f"releases {r.hazard.name} by itself"
    return f"releases {r.hazard.name} with {'one more' if least == 2 else 'two more'}"
