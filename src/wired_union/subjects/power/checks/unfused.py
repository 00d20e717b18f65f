"""Wires that nothing protects: a short circuit behind a pack may draw far more than they carry."""

from collections.abc import Iterator
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.project.change import Change
from wired_union.project.model import Feed, Item
from wired_union.project.part_edits import set_wire
from wired_union.subjects.power.checks.rails import FUSES, at_start_a, fuses_each_way, is_fuse
from wired_union.subjects.power.checks.wires import THICKEST, bears_a
from wired_union.subjects.power.insert import IN_HAND, insert_behind
from wired_union.subjects.power.scene import PowerScene
from wired_union.subjects.power.tree import Node
from wired_union.units import show

THINNEST = 30


def check_unfused(scene: PowerScene) -> Iterator[Finding]:
    """Every pack of cells with wires behind it that no fuse protects, by the thinnest of them.

    A converter ends the search, as most limit what they give in a short circuit; so does a power bank's.
    """
    feeds = {f.load: f for f in scene.result.concept.feeds}
    for root in scene.result.tree.roots:
        part = root.item.part
        if part.pack is None or part.regulator is not None:
            continue
        short = _short_circuit_a(scene, root.item)
        carried = ((bears_a(w, scene.project.brief.hottest_c), n, w) for n, w in _bare(root, feeds))
        bare = [c for c in carried if short is None or c[0] < short]
        if not bare:
            continue
        bears, thinnest, awg = min(bare, key=lambda b: b[0])
        drawn = f"draws up to {show(short, 'A')}" if short is not None else "is not limited by any figure known"
        yield Finding(
            "no-fuse", Verdict.TIGHT, f"No fuse behind {root.item.name}",
            f"A short circuit {drawn}; the thinnest wire that no fuse protects, AWG {awg} to {thinnest.item.name},"
            f" carries {show(bears, 'A')} for long.",
            "Common practice: a fuse close to the pack, no larger than the thinnest wire behind it carries.",
            (root.item.id, thinnest.item.id), offer=partial(_fuses, scene, root.item, bears), of=root.item.id,
        )  # fmt: skip


def _short_circuit_a(scene: PowerScene, item: Item) -> float | None:
    """Voltage over internal resistance of all its copies, full; None where a figure of it is missing."""
    pack = next((p.figures for p in scene.result.packs if p.figures.item.id == item.id), None)
    if pack is None or not pack.values.resistance_ohm:
        return None
    return sum(
        m.open_circuit_at(1.0) / m.values.resistance_ohm for m in pack.members or (pack,) if m.values.resistance_ohm
    )


def _bare(root: Node, feeds: dict[str, Feed]) -> Iterator[tuple[Node, int]]:
    """Nodes whose wire has a gauge and no fuse before it, with that gauge."""
    todo = list(root.children)
    while todo:
        node = todo.pop()
        if is_fuse(node.item.part) or fuses_each_way(node.item.part):
            continue  # the wire to it is as short as can be: common practice
        awg = feeds[node.item.id].wire_awg
        if awg is not None:
            yield node, awg
        if node.item.part.regulator is None:
            todo.extend(node.children)


def _fuses(scene: PowerScene, pack: Item, thinnest_a: float) -> tuple[Remedy, ...]:
    """The smallest fuse that bears what flows now, before all that the pack feeds; none while that is a bound."""
    if scene.result.missing:
        return ()
    lasting, most = scene.lasting[pack.id][0], scene.most(pack.id, "current_a")[0]
    rated = sorted((p.rail.max_current_a or 0.0, p.id, p) for k in FUSES for p in of_kind(k) if p.rail is not None)
    bearing = (
        p for a, _, p in rated if a * IN_HAND >= lasting and (at_start_a(p) or 0.0) * IN_HAND >= most
    )  # fmt: skip
    part = next(bearing, None)
    if part is None:
        return ()
    words, change = f"add {part.name} close to {pack.name}", tried(insert_behind, scene.project, pack, part)
    rating = part.rail.max_current_a if part.rail is not None else None
    if change is None or rating is None or rating <= thinnest_a:
        return possible((words, change))
    return possible(_with_wires(scene, pack, change, rating, words), (words, change))


def _with_wires(
    scene: PowerScene, pack: Item, change: Change, rating_a: float, words: str
) -> tuple[str, Change | None]:  # fmt: skip
    """The fuse, and the thinnest wire that it protects, of the same length, in place of every thinner one."""
    air_c = scene.project.brief.hottest_c
    awg = next((g for g in range(THINNEST, THICKEST - 1, -1) if bears_a(g, air_c) >= rating_a), None)
    if awg is None:
        return words, None
    feeds = {f.load: f for f in scene.result.concept.feeds}
    after = change.after
    for node, gauge in _bare(scene.result.tree.nodes[pack.id], feeds):
        if gauge > awg:
            after = set_wire(after, node.item.id, feeds[node.item.id].wire_length_m, awg).after
    label = f"{words}, with wires of AWG {awg} where they are thinner"
    return label, Change(change.before, after, f"{change.sentence}, with wires of AWG {awg}")
