"""Checks on the first half second: what resets, and what switching on asks of the pack and its fuse."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Verdict
from wired_union.subjects.power.first.remedies import remedies
from wired_union.subjects.power.first.run import Watched, watched_items
from wired_union.subjects.power.first.words import chain
from wired_union.subjects.power.scene import PowerScene, name_of, over
from wired_union.units import show


def check_resets(scene: PowerScene) -> Iterator[Finding]:
    """Controllers that lose their supply while something starts; nothing is stepped where the bounds clear it."""
    if not scene.hard_only:
        for item in watched_items(scene.result):
            load = item.part.load
            if load is not None and load.reset_v is None and load.supply_min_v is None:
                yield Finding(
                    "resets", Verdict.UNKNOWN, f"{item.name}: when it resets",
                    "Not known yet: the supply below which it resets.",
                    "Until it is given nothing says whether a start makes it forget.", (item.id,), of=item.id,
                )  # fmt: skip
    if scene.first.clears():
        return
    for watched in scene.first.resets:
        yield _resets(scene, watched)


def _resets(scene: PowerScene, watched: Watched) -> Finding:
    dip, least, item = watched.dip, watched.least_v, watched.item
    assert dip is not None
    assert least is not None
    mode = name_of(scene.result.concept.modes[dip.mode])
    when = f"while {mode} begins" if scene.first.starting[dip.mode] else f"in {mode}"
    start = next(s for s in scene.first.starts_in(dip.mode) if item.id in s.circuit.spots)
    why = " ".join(chain(start, watched, scene.result))
    return Finding(
        "resets", Verdict.BREAKS, f"{item.name} resets",
        f"It gets {show(dip.volts, 'V')} {when}; below {show(least, 'V')} it resets.", why, (item.id,),
        "brown-out", partial(remedies, scene.project, scene.first, item, dip, scene.first_of), hard=True, of=item.id,
        use=over(least, dip.volts),
    )  # fmt: skip


def check_inrush(scene: PowerScene) -> Iterator[Finding]:
    """Capacitors that fill when it is switched on: against what the pack may give for an instant, as a word of care."""
    if scene.hard_only:
        return
    for start in scene.first.switched_on:
        most = max(start.course.source_a, default=0.0)
        n = start.course.source_a.index(most) if most > 0 else 0
        half = next((t for t, a in zip(start.course.times_s[n:], start.course.source_a[n:], strict=True)
                     if a < most / 2), None)  # fmt: skip
        root = scene.result.tree.nodes[start.circuit.root].item
        rating = root.part.pack.max_current_a if root.part.pack is not None else None
        if most <= 0 or rating is None or most <= rating * root.count:
            continue
        lasts = f" for {show(half, 's')}" if half is not None else ""
        yield Finding(
            "inrush", Verdict.TIGHT, "Switching on",
            f"Capacitors fill with up to {show(most, 'A')} from {root.name}{lasts}, of {show(rating * root.count, 'A')}"
            " it may give for long.",
            "Contacts of a switch weld at such peaks, and protection may cut off: switch through a resistor first, or a"
            " switch that opens slowly (common practice).", (root.id,), of=root.id,
        )  # fmt: skip
