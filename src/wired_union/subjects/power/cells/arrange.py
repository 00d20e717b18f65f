"""The same cells in another arrangement: an edit, and what the load that is there makes of it."""

from collections.abc import Iterator

from msgspec import Struct

from wired_union.kernel.ripple import new_breaks
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change, by_id, figures_of
from wired_union.project.errors import ProjectError
from wired_union.project.model import Item, Project
from wired_union.project.part_edits import set_part_value
from wired_union.project.value import checked

MOST_SHOWN = 6


class Arrangement(Struct, frozen=True, eq=False):
    """So many in series, so many strings side by side, and what that would do."""

    series: int
    parallel: int
    change: Change
    why: str
    """What would break that does not now; "" for nothing."""


def arrange(project: Project, item_id: str, series: int, parallel: int) -> Change:
    """The same cells otherwise: mass and price stay. Raises ProjectError for no pack, or another number of cells."""
    item = by_id(project.concept.items, item_id, "item")
    pack = item.part.pack
    if pack is None:
        raise ProjectError(f"{item.name} is no pack.")
    if series * parallel != pack.series * pack.parallel:
        raise ProjectError(f"{item.name} has {pack.series * pack.parallel} cells; {series} × {parallel} are others.")
    most, pulse = (
        None if a is None else a / pack.parallel * parallel for a in (pack.max_current_a, pack.pulse_current_a)
    )
    with figures_of(item.name):
        new = checked(pack, series=series, parallel=parallel, max_current_a=most, pulse_current_a=pulse)
    items = tuple(i.but(part=i.part.but(pack=new)) if i.id == item_id else i for i in project.concept.items)
    after = project.but(concepts=tuple(c.but(items=items) if c is project.concept else c for c in project.concepts))
    return Change(project, after, f"{item.name}: {said(series, parallel)}")


def said(series: int, parallel: int) -> str:
    """ "4 in series, 2 of them side by side" """
    beside = f", {parallel} of them side by side" if parallel > 1 else ""
    return f"{series} in series{beside}" if series > 1 else f"{parallel} side by side"


def others(item: Item) -> Iterator[tuple[int, int]]:
    """Every other arrangement of a pack's cells, the most in series first."""
    pack = item.part.pack
    if pack is None:
        return
    whole = pack.series * pack.parallel
    for series in range(whole, 0, -1):
        if whole % series == 0 and series != pack.series:
            yield series, whole // series


def arrangements(assessment: Assessment, item: Item) -> list[Arrangement]:
    """Other arrangements, each worked out on the whole project."""
    project, pairs = assessment.project, list(others(item))[:MOST_SHOWN]
    changes = [arrange(project, item.id, s, p) for s, p in pairs]
    after = assessment.again_all([c.after for c in changes])
    return [
        Arrangement(s, p, change, "; ".join(new_breaks(assessment, found)[:2]))
        for (s, p), change, found in zip(pairs, changes, after, strict=True)
    ]


def measured(project: Project, item_id: str, capacity_ah: float, resistance_ohm: float) -> Change:
    """A pack's cells as a measured discharge has them. Raises ProjectError for figures that cannot be."""
    item = by_id(project.concept.items, item_id, "item")
    pack = item.part.pack
    if pack is None:
        raise ProjectError(f"{item.name} is no pack.")
    cell_ah = capacity_ah / pack.parallel / item.count
    cell_ohm = resistance_ohm * pack.parallel * item.count / pack.series
    after = set_part_value(project, item_id, "pack.cell_capacity_ah", cell_ah).after
    after = set_part_value(after, item_id, "pack.cell_resistance_ohm", cell_ohm).after
    concept = after.concept
    items = tuple(i.but(knowledge="measured") if i.id == item_id else i for i in concept.items)
    after = after.but(concepts=tuple(c.but(items=items) if c is concept else c for c in after.concepts))
    return Change(project, after, f"{item.name} as its discharge was measured")
