"""The power tree as columns of nodes from the pack to the last load, joined by paths as wide as their watts."""

from collections.abc import Mapping
from dataclasses import dataclass

from wired_union.assess.power_flow import Flow
from wired_union.assess.power_tree import Node, PowerTree
from wired_union.assess.results import Verdict, share_verdict
from wired_union.catalogue.parts import discipline_of
from wired_union.picture.palette import DISCIPLINE_INK
from wired_union.picture.shapes import Box, Kit, Picture, Region, Ribbon, Shape, shifted
from wired_union.picture.wire import glyph, wire
from wired_union.units import show

NODE_H, GAP = 52.0, 8.0
THICKEST = 34.0


@dataclass(frozen=True, slots=True)
class Spot:
    node: Node
    column: int
    y: float
    parent: str | None


def spots(tree: PowerTree, row: float) -> tuple[Spot, ...]:
    """Where each node stands: its column is its depth, its height the middle of what it feeds."""
    found: list[Spot] = []
    bottom = 0.0

    def settle(node: Node, column: int, parent: str | None) -> float:
        nonlocal bottom
        heavy_first = sorted(node.children, key=lambda c: -len(c.children))
        below = [settle(child, column + 1, node.item.id) for child in heavy_first]
        if below:
            y = (below[0] + below[-1]) / 2
        else:
            y, bottom = bottom, bottom + row
        found.append(Spot(node, column, y, parent))
        return y

    for pack in tree.packs:
        settle(pack, 0, None)
    return tuple(found)


def rating_use(node: Node, flow: Flow, peak_a: float | None = None) -> float | None:
    """Share of a node's own rating in use: a pack's, regulator's, driver's, rail's or load's peak current."""
    part, count = node.item.part, node.item.count
    pairs = (
        (part.pack and part.pack.max_current_a, flow.current_a),
        (part.regulator and part.regulator.max_current_a, flow.output_a),
        (part.driver and (part.driver.total_current_a or part.driver.channel_current_a), flow.output_a),
        (part.rail and part.rail.max_current_a, flow.current_a),
        (part.load and (part.load.startup_a or part.load.peak_a), flow.current_a),
    )
    return next((current / (rating * count) for rating, current in pairs if rating), None)


def detail(node: Node, flow: Flow) -> str:
    """A node's second line: what it makes of its input."""
    part = node.item.part
    if part.pack is not None:
        return show(flow.input_v, "V") if flow.input_v == flow.input_v else "cannot deliver"
    if part.regulator is not None:
        if part.regulator.topology == "linear":
            return f"burns {show(flow.loss_w, 'W')}"
        useful = 1 - flow.loss_w / flow.power_w if flow.power_w > 0 else 0.0
        return f"η {show(useful, fraction=True)}"
    if part.driver is not None:
        return f"{part.driver.channels * node.item.count} channels"
    if part.rail is not None:
        return f"{show(flow.input_v, 'V')}, rated {show(part.rail.max_current_a, 'A')}"
    load = part.load
    stall = load.startup_a or load.peak_a if load else None
    return f"peak {show(stall * node.item.count, 'A')}" if stall else show(flow.power_w, "W")


def power_tree_picture(
    tree: PowerTree,
    flows: Mapping[str, Flow],
    kit: Kit,
    width: float,
    *,
    selected: str = "",
    verdicts: Mapping[str, Verdict] | None = None,
) -> Picture:
    """The tree in a mode. Regions are the nodes, by item id, with their figures as label."""
    row = kit.px(NODE_H + GAP)
    placed = spots(tree, row)
    if not placed:
        return Picture(width, kit.px(60), (kit.words(0, kit.px(24), "No pack feeds anything yet.", ink="mute"),))
    columns = max(s.column for s in placed) + 1
    gap = kit.px(46 if columns > 3 else 56)
    node_w = min((width - gap * (columns - 1)) / columns, kit.px(190))
    gap = (width - node_w * columns) / max(columns - 1, 1)
    by_id = {s.node.item.id: s for s in placed}
    most = max((f.power_w for f in flows.values() if f.power_w == f.power_w), default=0.0) or 1.0
    shapes: list[Shape] = []
    for spot in placed:
        if spot.parent is not None:
            shapes.append(_path(spot, by_id[spot.parent], flows, kit, node_w, gap, most))
    regions = []
    for spot in placed:
        x, flow = spot.column * (node_w + gap), flows[spot.node.item.id]
        worst = (verdicts or {}).get(spot.node.item.id)
        shapes += shifted(_node(spot.node, flow, kit, node_w, spot.node.item.id == selected, worst), x, spot.y)
        regions.append(Region(spot.node.item.id, x, spot.y, node_w, kit.px(NODE_H), _said(spot.node, flow)))
    height = max(s.y for s in placed) + kit.px(NODE_H) + 2
    return Picture(width, height, tuple(shapes), tuple(regions))


def _path(
    spot: Spot, above: Spot, flows: Mapping[str, Flow], kit: Kit, node_w: float, gap: float, most: float
) -> Ribbon:
    """The path into a node; siblings leave their parent one below the other, in order of height."""
    sisters = [c.item.id for c in sorted(above.node.children, key=lambda c: -len(c.children))]
    thick = {i: max(kit.px(THICKEST) * _watts(flows[i]) / most, 1.2) for i in sisters}
    before = sum(thick[i] for i in sisters[: sisters.index(spot.node.item.id)])
    middle = above.y + kit.px(NODE_H) / 2
    y1 = middle - sum(thick.values()) / 2 + before + thick[spot.node.item.id] / 2
    x2 = spot.column * (node_w + gap)
    return Ribbon(x2 - gap, y1, x2, spot.y + kit.px(NODE_H) / 2, thick[spot.node.item.id], "copper_soft")


def _watts(flow: Flow) -> float:
    return flow.power_w if flow.power_w == flow.power_w else 0.0


def _node(node: Node, flow: Flow, kit: Kit, w: float, selected: bool, worst: Verdict | None) -> tuple[Shape, ...]:
    h = kit.px(NODE_H)
    ink = DISCIPLINE_INK[discipline_of(node.item.part.kind)]
    left, right = kit.px(9), w - kit.px(9)
    count = f" ×{node.item.count}" if node.item.count > 1 else ""
    bad = worst in {Verdict.BREAKS, Verdict.TIGHT}
    room = right - left - kit.width(count, "small", "words", True) - (kit.px(20) if bad else 0)
    current = show(flow.current_a, "A") if flow.current_a == flow.current_a else "no answer"
    shapes: list[Shape] = [
        Box(0.5, 0.5, w - 1, h - 1, "soft" if selected else "card", ink, 4, 2.2 if selected else 1.2),
        kit.words(left, h * 0.23, kit.cut(node.item.name, room, "small", bold=True) + count, "small", bold=True),
        kit.figures(right, h * 0.55, current, "small", bold=True, anchor="end"),
    ]
    room = right - left - kit.width(current, "small", "figures", True) - kit.px(6)
    shapes.append(kit.figures(left, h * 0.55, kit.cut(detail(node, flow), room, "small", "figures"), "small", "mute"))
    use = rating_use(node, flow)
    if use is not None and use == use:
        shapes += shifted(wire(use, share_verdict(use), right - left, h * 0.83, thick=3.0), left, 0)
    if bad:
        shapes += glyph(worst, kit.px(16), h * 0.22, right - kit.px(16))
    return tuple(shapes)


def _said(node: Node, flow: Flow) -> str:
    use = rating_use(node, flow)
    rated = f", {show(use, fraction=True)} of its rating" if use is not None and use == use else ""
    return (
        f"{node.item.name}: {show(flow.input_v, 'V')} in, {show(flow.current_a, 'A')},"
        f" {show(flow.power_w, 'W')}, {show(flow.loss_w, 'W')} lost on the way{rated}"
    )
