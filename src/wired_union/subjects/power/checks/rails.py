"""Checks on what passes power on: bus bars and switches at their worst instant, fuses while it lasts and at a start."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.physics.battery import Array
from wired_union.physics.fuse import START_S, Strained, fuse_bears, fuse_start
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
    """What lasts against its rating; what starts against what it bears for as long as the start takes."""
    item = node.item
    lasting, when, starts = _flowing(scene, node)
    start, mode, strained = _hardest(scene, node, rating_a, starts)
    uses = (lasting / rating_a, strained.share)
    use = max(uses, key=lambda u: float("inf") if u != u else u)
    verdict = share_verdict(use)
    if not scene.wants(verdict):
        return
    said = f"{show(lasting, 'A')} of {show(rating_a, 'A')} for long in {name_of(when)}."
    if use == uses[1] or use != use:
        falls = f", {show(strained.current_a, 'A')} or more" if strained.current_a < start else ""
        said = (
            f"{show(start, 'A')} at the worst instant in {name_of(mode)}{falls}; rated {show(rating_a, 'A')} it surely"
            f" bears {show(fuse_bears(rating_a, strained.time_s).current_a, 'A')} for the"
            f" {show(strained.time_s, 's')} of a start."
        )
    yield Finding(
        "rail", verdict, item.name, said, "A fuse protects the wire behind it, not the load.", (item.id,),
        offer=partial(_remedies, scene, item, lasting, start, mode), hard=verdict is Verdict.BREAKS, of=item.id,
        use=use,
    )  # fmt: skip


def _hardest(
    scene: PowerScene, node: Node, rating_a: float, starts: Array
) -> tuple[float, Mode | None, Strained]:  # fmt: skip
    """The start that comes nearest to opening it: its current, its mode, and how near; what cannot be delivered, NaN,
    is the nearest of all.
    """
    modes, settled = scene.result.concept.modes, scene.result.average(node.item.id, "current_a")
    found: tuple[float, Mode | None, Strained] = (0.0, None, Strained(0.0, 0.0, START_S))
    for m, (mode, most) in enumerate(zip(modes, starts.tolist(), strict=True)):
        if most != most:
            return most, mode, Strained(most, most, START_S)
        rest = min(float(np.nan_to_num(settled[m])) / node.item.count, most)
        lasts = scene.first.dies_away_s(m, node.item.id) if most > rating_a else 0.0
        strained = fuse_start(rating_a, most, max(rest, 0.0), lasts)
        if strained.share > found[2].share:
            found = most, mode, strained
    return found


def _flowing(scene: PowerScene, node: Node) -> tuple[float, Mode | None, Array]:
    """What flows for long, with its mode, and at the worst instant of each mode; several fuses divide the loads."""
    if node.item.count == 1:
        worst = scene.result.flows.row(node.item.id, "current_a")[len(scene.result.concept.modes) :]
        return (*scene.lasting[node.item.id], worst)
    average, worst = busiest(scene, node)
    modes, (lasting, when) = scene.result.concept.modes, scene.lasting[node.item.id]
    mean = float(np.nanmax(scene.result.average(node.item.id, "current_a"), initial=0.0))
    share = most_of(average, modes)[0] / mean if mean > 0 else 1.0
    return lasting * share, when, worst


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
