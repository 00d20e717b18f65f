"""What could stand in an item's place, each worked out by assessing the whole project with it."""

from collections.abc import Iterator
from dataclasses import dataclass

from wired_union.assess.assessment import Assessment
from wired_union.assess.results import Verdict
from wired_union.assess.ripple import Ripple, ripple
from wired_union.catalogue.parts import of_kind
from wired_union.project import edits
from wired_union.project.change import Change, find_item
from wired_union.project.model import Item, Part


@dataclass(frozen=True)
class Alternative:
    """One thing to try instead: its change, what it would move, and the hard requirements it breaks."""

    title: str
    change: Change
    ripple: Ripple
    breaks: tuple[str, ...]

    @property
    def help(self) -> float:
        """Order of the list: what helps broken limits first, what breaks a hard requirement last."""
        return self.ripple.help - 100.0 * len(self.breaks)


def changes_for(assessment: Assessment, item_id: str) -> list[tuple[str, Change]]:
    """Titles and changes of everything to try: the other parts of its class, and one more pack in parallel."""
    project, item = assessment.project, find_item(assessment.project, item_id)
    found = [(p.name, edits.swap_part(project, item_id, p)) for p in _class_of(assessment, item)]
    if item.part.pack is not None or item.part.driver is not None or item.part.regulator is not None:
        more = item.count + 1
        words = "in parallel" if item.part.pack is not None else "side by side"
        found.insert(0, (f"{more} × {item.part.name} {words}", edits.set_count(project, item_id, more)))
    return found


def _class_of(assessment: Assessment, item: Item) -> list[Part]:
    """Catalogue parts of the item's class and the team's own, without the one in place, nearest first."""
    own = [i.part for i in assessment.project.concept.items if i.part.kind == item.part.kind]
    found = {p.id: p for p in (*of_kind(item.part.kind), *own)}
    found.pop(item.part.id, None)
    return list(found.values())


def alternatives(assessment: Assessment, item_id: str) -> Iterator[Alternative]:
    """Every alternative, one at a time so that a window can stay awake; sort by `help`, largest first."""
    hard_before = {f.id for f in assessment.findings if f.hard and f.verdict is Verdict.BREAKS}
    for title, change in changes_for(assessment, item_id):
        yield _worked_out(assessment, title, change, hard_before)


def _worked_out(assessment: Assessment, title: str, change: Change, hard_before: set[str]) -> Alternative:
    result = ripple(assessment, change)
    broken = [f for f in result.after.findings if f.hard and f.verdict is Verdict.BREAKS and f.id not in hard_before]
    return Alternative(title, change, result, tuple(f"{f.title}: {f.what}" for f in broken))
