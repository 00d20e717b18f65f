"""Checks on wires: what each carries for long, and whether the fuse before it blows before it burns."""

from collections.abc import Iterator
from functools import cache, partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.checks import check_of
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.physics.wire import warm_ampacity, wire_ampacity
from wired_union.project.model import Feed, Item, Part
from wired_union.project.part_edits import set_wire, swap_part
from wired_union.subjects.power.checks.rails import fuses_each_way, is_fuse
from wired_union.subjects.power.scene import PowerScene
from wired_union.units import show

THICKEST = 0


def check_wires(scene: PowerScene) -> Iterator[Finding]:
    """Every wire whose gauge is given."""
    nodes = scene.result.tree.nodes
    for feed in scene.result.concept.feeds:
        node = nodes.get(feed.load)
        if node is None or feed.wire_awg is None:
            continue
        bears = bears_a(feed.wire_awg, scene.project.brief.hottest_c)
        yield from _current(scene, node.item, feed, bears)
        yield from _fused(scene, node.item, feed, bears)


@cache
def bears_a(awg: int, hottest_c: float) -> float:
    """Most lasting current of a single wire in free air as warm as it gets; tables start at 25 °C."""
    return warm_ampacity(wire_ampacity(awg).ampacity_a, max(hottest_c, 25.0)).ampacity_a


def _current(scene: PowerScene, item: Item, feed: Feed, bears: float) -> Iterator[Finding]:
    """What flows for long in the hungriest mode; a start is too short to warm a wire."""
    flowing, mode = scene.lasting[item.id]
    if mode is None or flowing != flowing:
        return
    current = flowing / item.count
    use = check_of("wire", current, bears, "A").use
    verdict = share_verdict(use)
    if scene.wants(verdict):
        yield Finding(
            "wire", verdict, f"Wire to {item.name}",
            f"{show(current, 'A')} in {mode.name}; AWG {feed.wire_awg} carries"
            f" {show(bears, 'A')} for long, by itself in free air of {_air(scene)}.",
            "In a bundle or a closed box it carries less.", (item.id,),
            offer=partial(_thicker, scene, item, feed, current), hard=verdict is Verdict.BREAKS, of=item.id,
            use=use,
        )  # fmt: skip


def _fused(scene: PowerScene, item: Item, feed: Feed, bears: float) -> Iterator[Finding]:
    """Whether the fuse next above opens before the wire is too hot; one of its own is chosen for its wire."""
    nodes = scene.result.tree.nodes
    above = (nodes[i].item for i in scene.result.tree.above(item.id) if i in nodes)
    fuse = next((i for i in above if is_fuse(i.part) or fuses_each_way(i.part)), None)
    if fuse is not None and fuses_each_way(fuse.part):
        return
    rating = _rating_a(fuse.part) if fuse is not None else None
    if fuse is None or rating is None or rating <= bears:
        return
    yield Finding(
        "fuse", Verdict.BREAKS, f"Wire to {item.name}",
        f"{fuse.name} opens above {show(rating, 'A')}; AWG {feed.wire_awg} carries {show(bears, 'A')} for long"
        f" in air of {_air(scene)}.",
        "A fuse protects the wire behind it: in a short circuit this wire burns first.", (item.id, fuse.id),
        offer=partial(_thicker_or_smaller, scene, item, feed, fuse, bears), hard=True, of=item.id,
        use=check_of("fuse", rating, bears, "A").use,
    )  # fmt: skip


def _air(scene: PowerScene) -> str:
    return show(max(scene.project.brief.hottest_c, 25.0), "°C")


def _rating_a(part: Part) -> float | None:
    return part.rail.max_current_a if part.rail is not None else None


def _thicker_or_smaller(
    scene: PowerScene, item: Item, feed: Feed, fuse: Item, carries_a: float
) -> tuple[Remedy, ...]:  # fmt: skip
    """A wire that the fuse protects, or the largest fuses of the catalogue that protect this one."""
    rating = _rating_a(fuse.part)
    rated = [(_rating_a(p) or 0.0, p.id, p) for p in of_kind(fuse.part.kind) if is_fuse(p)]
    smaller = sorted((r for r in rated if 0 < r[0] <= carries_a), key=lambda r: r[:2], reverse=True)
    swaps = ((f"take {p.name} in its place", tried(swap_part, scene.project, fuse.id, p)) for _, _, p in smaller[:1])
    return (*_thicker(scene, item, feed, rating or carries_a), *possible(*swaps))


def _thicker(scene: PowerScene, item: Item, feed: Feed, current_a: float) -> tuple[Remedy, ...]:
    """The thinnest wire of the same length that carries it with a fifth in hand."""
    assert feed.wire_awg is not None
    for awg in range(feed.wire_awg - 1, THICKEST - 1, -1):
        if bears_a(awg, scene.project.brief.hottest_c) * 0.8 >= current_a:
            return possible(
                (f"a wire of AWG {awg}", tried(set_wire, scene.project, item.id, feed.wire_length_m or 0.0, awg))
            )
    return ()
