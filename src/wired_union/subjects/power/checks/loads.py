"""Checks on loads: supply, logic level, and what is not known."""

from collections.abc import Iterable, Iterator

from wired_union.kernel.logic import level_clash
from wired_union.kernel.results import Finding, Verdict
from wired_union.project.model import Item, Part
from wired_union.subjects.power.scene import PowerScene, input_range

BRAINS = ("microcontroller", "computer")


def check_supplies(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        load = node.item.part.load
        if load is not None and node.item.id in scene.result.tree.source_of:
            yield from input_range(scene, node, load.supply_min_v, load.supply_max_v)


def check_levels(scene: PowerScene) -> Iterator[Finding]:
    """Signals of each part against the controllers of the concept: one that matches is enough."""
    items = scene.result.concept.items
    brains = brains_of(items)
    for item in items:
        said = no_brain_matches(item.part, brains)
        if said is not None:
            yield Finding(
                "level", Verdict.BREAKS, f"{item.name}: logic level", f"It {said}.",
                "A level shifter between them, or a part of the controller's level, is the usual answer.",
                (item.id,), hard=True, of=item.id,
            )  # fmt: skip


def brains_of(items: Iterable[Item]) -> tuple[Item, ...]:
    """The controllers, one of each level."""
    found = {(i.part.link.logic_v, i.part.link.logic_max_v): i for i in items if i.part.kind in BRAINS and i.part.link}
    return tuple(found.values())


def no_brain_matches(part: Part, brains: tuple[Item, ...]) -> str | None:
    """What keeps a part from talking to each controller; None where one matches, or there is none."""
    if part.link is None or part.link.logic_v is None or part.kind in BRAINS or not brains:
        return None
    clashes = [level_clash(part.link, b.part.link) if b.part.link is not None else None for b in brains]
    first = clashes[0]
    return f"{first.mine}; {brains[0].name} {first.theirs}" if first is not None and all(clashes) else None


def check_gaps(scene: PowerScene) -> Iterator[Finding]:
    for gap in scene.result.missing:
        yield Finding(
            "missing", Verdict.UNKNOWN, "Not known yet", f"{gap.said}.",
            "Until it is known, runtime and peak current are bounds, not answers.",
            (gap.item,) if gap.item else (), "runtime", of=gap.said,
        )  # fmt: skip
