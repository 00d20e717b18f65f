"""Checks on what passes power on: bus bars and switches at their worst instant, fuses while it lasts and at a start."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.physics.fuse import fuse_bears
from wired_union.project.model import Item, Mode, Part
from wired_union.subjects.power.checks.divided import busiest, most_of
from wired_union.subjects.power.checks.swaps import swapped
from wired_union.subjects.power.edits import stagger
from wired_union.subjects.power.insert import IN_HAND
from wired_union.subjects.power.scene import PowerScene, name_of
from wired_union.subjects.power.tree import Node
from wired_union.units import show

FUSES = ("fuse",)
"""Classes of part that are nothing but fuses."""
START_S = 0.2
"""How long a motor draws its starting current: common practice for small geared motors."""


def is_fuse(part: Part) -> bool:
    """Whether it opens when its rating is passed; a bus bar or switch of the same rating protects nothing."""
    return part.rail is not None and (part.kind in FUSES or part.rail.fused == "whole")


def fuses_each_way(part: Part) -> bool:
    """Whether every wire out of it has a fuse of its own."""
    return part.rail is not None and part.rail.fused == "each way"


def at_start_a(part: Part) -> float | None:
    """Most current that a rail bears at the worst instant, which a fuse bears for the time of a start."""
    rating = part.rail.max_current_a if part.rail is not None else None
    if rating is None or not is_fuse(part):
        return rating
    return fuse_bears(rating, START_S).current_a


def check_rails(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        rail, item = node.item.part.rail, node.item
        if rail is None or rail.max_current_a is None:
            continue
        if is_fuse(item.part):
            yield from _fuse(scene, node, rail.max_current_a)
            continue
        current, mode = scene.most(item.id, "current_a")
        most = rail.max_current_a * item.count
        verdict = share_verdict(current / most)
        if scene.wants(verdict):
            yield Finding(
                "rail", verdict, item.name,
                f"{show(current, 'A')} of {show(most, 'A')} at the worst instant in {name_of(mode)}.",
                "", (item.id,), offer=partial(_remedies, scene, item, current, current, mode),
                hard=verdict is Verdict.BREAKS, of=item.id, use=current / most,
            )  # fmt: skip


def _fuse(scene: PowerScene, node: Node, rating_a: float) -> Iterator[Finding]:
    """What lasts against its rating; what starts against what it bears for the time of a start."""
    item = node.item
    lasting, when, start, mode = _flowing(scene, node)
    bears = fuse_bears(rating_a, START_S).current_a
    uses = (lasting / rating_a, start / bears)
    use = max(uses, key=lambda u: float("inf") if u != u else u)
    verdict = share_verdict(use)
    if not scene.wants(verdict):
        return
    said = f"{show(lasting, 'A')} of {show(rating_a, 'A')} for long in {name_of(when)}."
    if use == uses[1] or use != use:
        said = (
            f"{show(start, 'A')} at the worst instant in {name_of(mode)}; rated {show(rating_a, 'A')} it surely bears"
            f" {show(bears, 'A')} for the {show(START_S, 's')} of a start."
        )
    yield Finding(
        "rail", verdict, item.name, said, "A fuse protects the wire behind it, not the load.", (item.id,),
        offer=partial(_remedies, scene, item, lasting, start, mode), hard=verdict is Verdict.BREAKS, of=item.id,
        use=use,
    )  # fmt: skip


def _flowing(scene: PowerScene, node: Node) -> tuple[float, Mode | None, float, Mode | None]:
    """What flows for long and at the worst instant, with the modes; several fuses divide the loads between them."""
    if node.item.count == 1:
        return (*scene.lasting[node.item.id], *scene.most(node.item.id, "current_a"))
    average, worst = busiest(scene, node)
    modes, (lasting, when) = scene.result.concept.modes, scene.lasting[node.item.id]
    mean = float(np.nanmax(scene.result.average(node.item.id, "current_a"), initial=0.0))
    share = most_of(average, modes)[0] / mean if mean > 0 else 1.0
    return (lasting * share, when, *most_of(worst, modes))


def _remedies(
    scene: PowerScene, item: Item, lasting_a: float, start_a: float, mode: Mode | None
) -> tuple[Remedy, ...]:  # fmt: skip
    """Starting one after another, and the next larger one; what that does to the wires behind it the ripple says."""

    def bears(part: Part) -> bool:
        rating = part.rail.max_current_a if part.rail is not None else None
        most = at_start_a(part)
        return rating is not None and most is not None and IN_HAND * rating >= lasting_a and IN_HAND * most >= start_a

    larger = swapped(scene, item, bears)
    if mode is None or mode.staggered:
        return larger
    return (*possible((f"start motors one after another in {mode.name}", tried(stagger, scene.project, mode.id, True))),
            *larger)  # fmt: skip
