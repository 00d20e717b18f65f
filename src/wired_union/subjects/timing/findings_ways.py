"""What there is to say of ways driven by counting."""

import math
from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.subjects.timing.edits_shared import set_way
from wired_union.subjects.timing.ways import WAYS, WayResult, others_of, way_words
from wired_union.units import show


def way_findings(assessment: Assessment) -> Iterator[Finding]:
    """Ways that end beside what they look for, and what is not known of them."""
    for r in assessment.of(WAYS):
        for gap in r.missing:
            yield Finding("way-gap", Verdict.UNKNOWN, r.way.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says where it ends up.", (), "", of=r.way.id,
                          detail=gap)  # fmt: skip
        if r.off is not None and r.way.most_off_m is None:
            yield Finding("way-gap", Verdict.UNKNOWN, r.way.name, f"Not known yet: how far off it may be. {_up(r)}.",
                          "", (), "", of=r.way.id, detail="most_off_m")  # fmt: skip
        for check in r.checks:
            if check.verdict in {Verdict.BREAKS, Verdict.TIGHT}:
                near = "" if check.verdict is Verdict.BREAKS else "nearly "
                yield Finding("way", check.verdict, f"{r.way.name} ends {near}too far {_side(check.name)}",
                              f"{check.said}.", f"{_up(r)}.", (), "", partial(_remedies, assessment.project, r),
                              of=r.way.id, detail=check.name,
                              use=check.use if math.isfinite(check.use) else None)  # fmt: skip


def _side(check: str) -> str:
    return "beside its way" if check == "across" else "ahead of or behind where it thinks it is"


def _up(r: WayResult) -> str:
    words = way_words(r)
    return f"{words[:1].upper()}{words[1:]}"


def _remedies(project: Project, r: WayResult) -> tuple[Remedy, ...]:
    return possible(*_ways(project, r))


def _ways(project: Project, r: WayResult) -> Iterator[tuple[str, Change | None]]:
    """Another heading, another correction, corrected more often; its wheels measured."""
    way = r.way
    for words, other, _ in others_of(r):
        figures = {"heading_by": other.heading_by, "corrected_by": other.corrected_by}
        yield words, tried(set_way, project, value_id=way.id, **figures)
    if way.every_m is not None and way.corrected_by != "nothing":
        half = min(way.every_m, way.distance_m) / 2
        yield f"corrected every {show(half, 'm')}", tried(set_way, project, value_id=way.id, every_m=half)
    if abs(way.scale_error) > MEASURED:
        yield (
            "measure how far it really goes in 10 turns",
            tried(set_way, project, value_id=way.id, scale_error=MEASURED),
        )
    if way.heading_by == "wheel counters" and abs(way.wheel_unlike or 0.0) > MEASURED:
        words = "measure both wheels on a square of both senses"
        yield words, tried(set_way, project, value_id=way.id, wheel_unlike=MEASURED)


MEASURED = 0.002
"""What is left of an error that was measured: common practice, a fifth of a per cent."""
