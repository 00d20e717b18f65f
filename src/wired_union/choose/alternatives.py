"""What could stand in a slot, each worked out by assessing the whole project with it."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import chain, islice

from msgspec import Struct

from wired_union.choose.candidates import Candidate, Candidates, candidates, change_for
from wired_union.kernel.results import Verdict, tried
from wired_union.kernel.ripple import Ripple, ripples
from wired_union.kernel.subject import Assessment
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project import edits
from wired_union.project.change import Change
from wired_union.project.model import Item, Stock

TOGETHER = 16
"""Alternatives worked out at once: more save little, and a window waits for them."""


class Alternative(Struct, frozen=True):
    """One thing to try: its change, what it would move, and what it breaks besides limits."""

    title: str
    change: Change
    ripple: Ripple
    breaks: tuple[str, ...]
    candidate: Candidate | None = None
    """None for one more of the same."""

    @property
    def rank(self) -> tuple[int, bool, float]:
        """Sort key: what breaks nothing first, of that the team's own shelf, then what helps most."""
        return len(self.breaks), not self.on_shelf, -self.ripple.help

    @property
    def on_shelf(self) -> bool:
        return self.candidate is not None and self.candidate.free > 0


def changes_for(assessment: Assessment, slot_id: str) -> list[tuple[str, Change]]:
    """Titles and changes of everything to try: the other parts of its class, and one more pack in parallel."""
    found = candidates(assessment, slot_id)
    more = _one_more(assessment, found)
    return [*more, *((c.part.name, change_for(assessment, found.slot, c)) for c in (*found.fitting, *found.refused))]


def _one_more(assessment: Assessment, found: Candidates) -> list[tuple[str, Change]]:
    item = found.slot
    if not isinstance(item, Item) or not (item.part.pack or item.part.driver or item.part.regulator):
        return []
    cell = CHEMISTRIES.get(item.part.pack.chemistry) if item.part.pack is not None else None
    if cell is not None and (not cell.rechargeable or item.part.regulator is not None):
        return []  # they do not share
    words = "in parallel" if item.part.pack is not None else "side by side"
    more = item.count + 1
    change = tried(edits.set_count, assessment.project, item.id, more)
    return [(f"{more} × {item.part.name} {words}", change)] if change is not None else []


def alternatives(assessment: Assessment, slot_id: str, more: Iterable[Stock] = ()) -> Iterator[Alternative]:
    """Every alternative, a few at a time so that a window can stay awake; sort by `rank`."""
    found = candidates(assessment, slot_id, more)
    known = {f.id for f in assessment.breaks_besides}
    todo = chain(
        ((title, change, None) for title, change in _one_more(assessment, found)),
        ((c.part.name, change_for(assessment, found.slot, c), c) for c in (*found.fitting, *found.refused)),
    )
    while some := list(islice(todo, TOGETHER)):
        results = ripples(assessment, [change for _, change, _ in some])
        for (title, change, candidate), result in zip(some, results, strict=True):
            yield _worked_out(title, change, result, known, candidate)


def _worked_out(
    title: str, change: Change, result: Ripple, known: set[str], candidate: Candidate | None
) -> Alternative:
    broken = [f for f in result.after.breaks_besides if f.id not in known]
    refused = tuple(r.text for r in candidate.refusals) if candidate is not None else ()
    said = tuple(f"{f.title}: {f.what}" for f in broken)
    return Alternative(title, change, result, (*refused, *said), candidate)


def never_mended(tries: Sequence[Alternative]) -> tuple[str, ...]:
    """Limits that break now and with every alternative that was tried: no choice at this place mends them."""
    if not tries:
        return ()
    broken = [{m.id: m.after.label for m in t.ripple.moves if m.after.verdict is Verdict.BREAKS} for t in tries]
    now = [m.id for m in tries[0].ripple.moves if m.before.verdict is Verdict.BREAKS]
    return tuple(broken[0][i] for i in now if all(i in b for b in broken))
