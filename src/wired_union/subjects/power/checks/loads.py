"""Checks on loads: supply, logic level, and what is not known."""

from collections.abc import Iterator

from wired_union.kernel.results import Finding, Verdict
from wired_union.project.model import Item
from wired_union.subjects.power.scene import PowerScene, input_range
from wired_union.units import show

BRAINS = ("microcontroller", "computer")
HIGH_LEVEL_SHARE = 0.7  # common practice: a CMOS input reads high from 0.7 of its own supply


def check_supplies(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        load = node.item.part.load
        if load is not None and node.item.id in scene.result.tree.source_of:
            yield from input_range(scene, node, load.supply_min_v, load.supply_max_v)


def check_levels(scene: PowerScene) -> Iterator[Finding]:
    """Signals of each part against the controllers of the concept: one that matches is enough."""
    items = scene.result.concept.items
    levels = {(i.part.link.logic_v, i.part.link.logic_max_v): i for i in items if i.part.kind in BRAINS and i.part.link}
    brains = tuple(levels.values())  # one of each level is enough
    for item in items:
        link = item.part.link
        if link is None or link.logic_v is None or item.part.kind in BRAINS or not brains:
            continue
        reasons = [_level_clash(item, brain) for brain in brains]
        if all(reasons):
            yield Finding(
                "level", Verdict.BREAKS, f"{item.name}: logic level", reasons[0] or "",
                "A level shifter between them, or a part of the controller's level, is the usual answer.",
                (item.id,), hard=True, of=item.id,
            )  # fmt: skip


def _level_clash(item: Item, brain: Item) -> str | None:
    mine, theirs = item.part.link, brain.part.link
    assert mine is not None
    assert theirs is not None
    if mine.logic_v is None or theirs.logic_v is None:
        return None
    survives = theirs.logic_max_v or theirs.logic_v
    if mine.logic_v > survives * 1.1:
        return f"It signals at {show(mine.logic_v, 'V')}; {brain.name} survives {show(survives, 'V')}."
    if theirs.logic_v < HIGH_LEVEL_SHARE * mine.logic_v:
        return (
            f"It reads high from {show(HIGH_LEVEL_SHARE * mine.logic_v, 'V')}; {brain.name} gives"
            f" {show(theirs.logic_v, 'V')}."
        )
    survives = mine.logic_max_v or mine.logic_v
    if theirs.logic_v > survives * 1.1:
        return f"It survives {show(survives, 'V')}; {brain.name} signals {show(theirs.logic_v, 'V')}."
    return None


def check_gaps(scene: PowerScene) -> Iterator[Finding]:
    for gap in scene.result.missing:
        yield Finding(
            "missing", Verdict.UNKNOWN, "Not known yet", f"{gap.said}.",
            "Until it is known, runtime and peak current are bounds, not answers.",
            (gap.item,) if gap.item else (), "runtime", of=gap.said,
        )  # fmt: skip
