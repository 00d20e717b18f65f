"""The page for the wall: what to check before arming, and the interlocks in the report."""

from collections.abc import Iterator
from html import escape

from wired_union.kernel.cautions import RULES
from wired_union.kernel.subject import Assessment
from wired_union.subjects.interlocks.assess import GATES

FIRST_RUNS = (
    "First runs tethered, behind a guard, with the least energy that moves it.",
    "One person at the stop, and nothing else to do.",
    "Nobody in line with what is stored, nobody below what hangs.",
)
"""Common practice."""
NO_HAND = "Nothing unloads it by hand."


def wall_lines(assessment: Assessment) -> Iterator[tuple[str, str, str]]:
    """What to look at before a run: the hazard, what guards it, who looks."""
    for h in assessment.project.concept.hazards:
        yield h.name, h.guarded_by or "nothing is said to guard it", h.checked_by or "whoever runs it"


def wall_page(assessment: Assessment) -> str:
    """One page as HTML of its own, to print."""
    concept, name = assessment.project.concept, escape(assessment.project.name)
    rows = "".join(
        f"<tr><td class=b></td><td><b>{escape(h)}</b><br>{escape(guard)}</td><td>{escape(who)}</td></tr>"
        for h, guard, who in wall_lines(assessment)
    )
    loaded = "".join(
        f"<li><b>{escape(h.name)}</b>: stays loaded without power. {escape(h.released_by or NO_HAND)}"
        for h in concept.hazards
        if h.stays == "yes"
    )
    least = "".join(
        f"<li>{escape(r.hazard.name)}: {_least(r.least)} release{'s' if r.least == 1 else ''} it;"
        f" {r.wanted} wanted at least."
        for r in assessment.of(GATES)
        if r.groups
    )
    first = "".join(f"<li>{escape(x)}" for x in FIRST_RUNS)
    style = (
        "body{font:17px/1.4 sans-serif;margin:2em;max-width:46em}td{border-bottom:1px solid #888;padding:.5em .6em;"
        "vertical-align:top}.b{width:1.4em;border:1.5px solid #222}h1{margin:0}"
    )
    return (f"<!doctype html><meta charset=utf-8><title>{name}: before arming</title><style>{style}</style>"
            f"<h1>{name}: before arming</h1><table>{rows or '<tr><td>Nothing is on the list yet.</td></tr>'}</table>"
            f"{f'<h2>Without power</h2><ul>{loaded}</ul>' if loaded else ''}"
            f"{f'<h2>What must fail</h2><ul>{least}</ul>' if least else ''}<h2>First runs</h2><ul>{first}</ul>"
            f"<p>Searched: the states, gates and failures that were given, no more. {escape(RULES)}</p>")  # fmt: skip


def _least(least: int | None) -> str:
    if least is None:
        return "more than three failures"
    return {0: "nothing at all", 1: "one failure"}.get(least, f"{least} failures")
