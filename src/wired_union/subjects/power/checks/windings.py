"""Checks on motors that are blocked in a mode: how hot their windings get, again and again through the mission."""

import math
from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.project.model import Item
from wired_union.project.part_edits import set_use
from wired_union.subjects.power.currents import held_to_a
from wired_union.subjects.power.scene import PowerScene
from wired_union.subjects.power.warmth.windings import WINDING_LIMIT_C, blocked, hottest_c, times_blocked, winding_of
from wired_union.units import show

IN_HAND = 0.8
"""Share of the time that a winding lasts which is planned on."""


def check_windings(scene: PowerScene) -> Iterator[Finding]:
    """Nothing is said of motors that no mode blocks."""
    for item_id in scene.result.tree.source_of:
        node = scene.result.tree.nodes.get(item_id)
        if node is not None and node.item.part.motor is not None:
            yield from _blocked(scene, node.item)


def _blocked(scene: PowerScene, item: Item) -> Iterator[Finding]:
    spell = times_blocked(scene.result.concept, item.id)
    if spell is None:
        return
    on_s, rest_s, mode = spell
    extreme = next((e for e in scene.heat.extremes if e.item.id == item.id), None)
    limit_a, volts = held_to_a(scene.result.concept, [item])[0], scene.full_v.get(item.id, math.nan)
    own = winding_of(item, volts, limit_a) if extreme is not None else None
    if own is None or extreme is None:
        if not scene.hard_only:
            yield _not_known(item)
        return
    can_c = extreme.hottest_c
    hot_c, room_k = hottest_c(own, can_c, on_s, rest_s), WINDING_LIMIT_C - can_c
    use = (hot_c - can_c) / room_k if room_k > 0 else math.inf
    verdict = share_verdict(use)
    if verdict is Verdict.HOLDS or not scene.wants(verdict):
        return
    name = next(m.name for m in scene.result.concept.modes if m.id == mode)
    may = blocked(item, volts, can_c, limit_a)
    lasts_s, rests_s = (may.may_last_s, may.must_rest_s) if may is not None else (0.0, math.inf)
    breaks = verdict is Verdict.BREAKS
    yield Finding(
        "winding", verdict, f"{item.name} burns its winding" if breaks else f"{item.name} is blocked",
        f"Blocked for {show(on_s, 's')} at a time in {name}, its winding comes to {show(hot_c, '°C')}; it bears"
        f" {show(WINDING_LIMIT_C, '°C')}.",
        f"From {show(can_c, '°C')} it lasts {show(lasts_s, 's')}, and rests {show(rests_s, 's')}." if may else "",
        (item.id,), "hottest", partial(_shorter, scene, item, on_s, lasts_s), hard=breaks, of=item.id, use=use,
    )  # fmt: skip


def _not_known(item: Item) -> Finding:
    return Finding(
        "winding", Verdict.UNKNOWN, f"{item.name}: its winding",
        "Not known yet: how hot its winding gets while it is blocked.",
        "Its figures as a motor, its size and its mass say so, and what it is fed with.", (item.id,), of=item.id,
    )  # fmt: skip


def _shorter(scene: PowerScene, item: Item, on_s: float, lasts_s: float) -> tuple[Remedy, ...]:
    """Blocked for no longer than it lasts, in every mode that blocks it."""
    share = IN_HAND * lasts_s / on_s
    if not 0 < share < 1:
        return ()
    words = f"{item.name} blocked for {show(share * on_s, 's')} at a time, no longer"
    found = []
    for mode in scene.result.concept.modes:
        use = next((u for u in mode.uses if u.item == item.id), None)
        if use is not None and use.state == "peak":
            change = tried(set_use, scene.project, mode.id, item.id, "peak", use.duty * share)
            found.append((f"{words}, in {mode.name}", change))
    return possible(*found)
