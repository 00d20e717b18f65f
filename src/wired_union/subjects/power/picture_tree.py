"""The power tree as columns of nodes from the pack to the last load, joined by paths as wide as their watts."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from wired_union.catalogue.parts import discipline_of
from wired_union.kernel.results import Verdict, share_verdict
from wired_union.picture.palette import DISCIPLINE_INK
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ribbon, Shape, shifted
from wired_union.picture.wire import glyph, wire
from wired_union.subjects.power.flow import Flow
from wired_union.subjects.power.tree import Node, PowerTree
from wired_union.units import show

NODE_H, LEAF_H, GAP = 49.0, 26.0, 4.0
NARROW_W, NARROW_LEAF_H = 112.0, 39.0
THICKEST = 34.0


@dataclass(frozen=True, slots=True)
class Spot:
    node: Node
    column: int
    middle: float
    parent: str | None


def node_height(node: Node, narrow: bool = False) -> float:
    """Loads take one line, or two where it is narrow; what feeds others takes two and a wire."""
    if node.children or node.item.part.pack is not None:
        return NODE_H
    return NARROW_LEAF_H if narrow else LEAF_H


def spots(tree: PowerTree, scale: float, narrow: bool = False) -> tuple[Spot, ...]:
    """Where each node stands: its column is its depth, its middle that of what it feeds. Ends come first."""
    found: list[Spot] = []
    middles: dict[str, float] = {}
    lowest: dict[int, float] = {}
    bottom = 0.0
    for node, column, parent in _ends_first(tree):
        height = node_height(node, narrow) * scale
        below = [middles[child.item.id] for child in in_order(node)]
        if below:
            middle = max((below[0] + below[-1]) / 2, lowest.get(column, 0.0) + height / 2)
        else:
            middle = max(bottom, lowest.get(column, 0.0)) + height / 2
            bottom = middle + height / 2 + GAP * scale
        lowest[column] = middle + height / 2 + GAP * scale
        middles[node.item.id] = middle
        found.append(Spot(node, column, middle, parent))
    return tuple(found)


def _ends_first(tree: PowerTree) -> Iterator[tuple[Node, int, str | None]]:
    """Every node with its depth and what feeds it, whatever it feeds before itself."""
    todo: list[tuple[Node, int, str | None, bool]] = [(p, 0, None, False) for p in reversed(tree.packs)]
    while todo:
        node, column, parent, opened = todo.pop()
        if opened:
            yield node, column, parent
            continue
        todo.append((node, column, parent, True))
        todo.extend((child, column + 1, node.item.id, False) for child in reversed(in_order(node)))


def depth(tree: PowerTree) -> int:
    """How many columns the tree takes."""
    return max((column for _, column, _ in _ends_first(tree)), default=-1) + 1


def in_order(node: Node) -> list[Node]:
    """What a node feeds, those that feed others first, so that paths cross less."""
    return sorted(node.children, key=lambda c: -len(c.children))


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
        channels = part.driver.channels * node.item.count
        return f"{channels} channel{'s' if channels > 1 else ''}"
    if part.rail is not None:
        return f"rated {show(part.rail.max_current_a, 'A')}"
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
    narrow = width / max(depth(tree), 1) < kit.px(NARROW_W + 34)
    placed = spots(tree, kit.scale, narrow)
    if not placed:
        return Picture(width, kit.px(60), (kit.words(0, kit.px(24), "No pack feeds anything yet.", ink="mute"),))
    columns = max(s.column for s in placed) + 1
    gap = kit.px(32 if columns > 3 else 56)
    widths, lefts = _columns(placed, columns, gap, width, kit)
    by_id = {s.node.item.id: s for s in placed}
    most = max((f.power_w for f in flows.values() if f.power_w == f.power_w), default=0.0) or 1.0
    shapes: list[Shape] = []
    for spot in placed:
        if spot.parent is not None:
            ends = (lefts[spot.column - 1] + widths[spot.column - 1], lefts[spot.column])
            shapes.append(_path(spot, by_id[spot.parent], flows, kit, ends, most))
    regions = []
    for spot in placed:
        x, flow, high = lefts[spot.column], flows[spot.node.item.id], kit.px(node_height(spot.node, narrow))
        node_w = widths[spot.column]
        worst, chosen = (verdicts or {}).get(spot.node.item.id), spot.node.item.id == selected
        draw = _narrow if narrow else _node if high > kit.px(LEAF_H) else _leaf
        top = spot.middle - high / 2
        shapes += shifted(draw(spot.node, flow, kit, node_w, chosen, worst), x, top)
        regions.append(Region(spot.node.item.id, x, top, node_w, high, _said(spot.node, flow)))
    height = max(s.middle + kit.px(node_height(s.node, narrow)) / 2 for s in placed) + 2
    return Picture(width, height, tuple(shapes), tuple(regions))


def _columns(
    placed: tuple[Spot, ...], columns: int, gap: float, width: float, kit: Kit
) -> tuple[list[float], list[float]]:
    """Widths and left edges of the columns; those that hold loads get more, since loads have longer names."""
    weights = [1.2 if any(s.column == c and not s.node.children for s in placed) else 1.0 for c in range(columns)]
    room = min(width - gap * (columns - 1), kit.px(190) * columns)
    widths = [room * w / sum(weights) for w in weights]
    gap = (width - sum(widths)) / max(columns - 1, 1)
    lefts = [sum(widths[:c]) + gap * c for c in range(columns)]
    return widths, lefts


def _path(
    spot: Spot, above: Spot, flows: Mapping[str, Flow], kit: Kit, ends: tuple[float, float], most: float
) -> Ribbon:
    """The path into a node; siblings leave their parent one below the other, in order of height."""
    sisters = [c.item.id for c in in_order(above.node)]
    thick = {i: max(kit.px(THICKEST) * _watts(flows[i]) / most, 1.2) for i in sisters}
    before = sum(thick[i] for i in sisters[: sisters.index(spot.node.item.id)])
    y1 = above.middle - sum(thick.values()) / 2 + before + thick[spot.node.item.id] / 2
    return Ribbon(ends[0], y1, ends[1], spot.middle, thick[spot.node.item.id], "copper_soft")


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


def _leaf(node: Node, flow: Flow, kit: Kit, w: float, selected: bool, worst: Verdict | None) -> tuple[Shape, ...]:
    h = kit.px(LEAF_H)
    ink = DISCIPLINE_INK[discipline_of(node.item.part.kind)]
    left, right = kit.px(8), w - kit.px(7)
    count = f" ×{node.item.count}" if node.item.count > 1 else ""
    bad = worst in {Verdict.BREAKS, Verdict.TIGHT}
    current = show(flow.current_a, "A") if flow.current_a == flow.current_a else "no answer"
    room = right - left - kit.width(current, "small", "figures", True) - kit.width(count, "small") - kit.px(6)
    name = kit.cut(node.item.name, room - (kit.px(18) if bad else 0), "small", "figures", True) + count
    shapes: list[Shape] = [
        Box(0.5, 0.5, w - 1, h - 1, "soft" if selected else "card", ink, 4, 2.2 if selected else 1.2),
        kit.figures(left, h * 0.42, name, "small", bold=True),
        kit.figures(right, h * 0.42, current, "small", "mute", bold=True, anchor="end"),
    ]
    use = rating_use(node, flow)
    if use is not None and use == use:
        low, end = h * 0.82, left + (right - left) * min(use, 1.0)
        shapes.append(Line(left, low, right, low, "line", 1.2))
        shapes.append(Line(left, low, end, low, share_verdict(use).value, 2.4))
    if bad:
        mark = right - kit.width(current, "small", "figures", True) - kit.px(20)
        shapes += glyph(worst, kit.px(14), h * 0.42, mark)
    return tuple(shapes)


def _narrow(node: Node, flow: Flow, kit: Kit, w: float, selected: bool, worst: Verdict | None) -> tuple[Shape, ...]:
    """A node where there is little room: its name over its current, and its wire."""
    h = kit.px(node_height(node, narrow=True))
    ink = DISCIPLINE_INK[discipline_of(node.item.part.kind)]
    left, right = kit.px(6), w - kit.px(6)
    count = f" ×{node.item.count}" if node.item.count > 1 else ""
    name = kit.cut(node.item.name, right - left - kit.width(count, "small", "figures", True), "small", "figures", True)
    current = show(flow.current_a, "A") if flow.current_a == flow.current_a else "no answer"
    shapes: list[Shape] = [
        Box(0.5, 0.5, w - 1, h - 1, "soft" if selected else "card", ink, 4, 2.2 if selected else 1.2),
        kit.figures(left, kit.px(11), name + count, "small", bold=True),
        kit.figures(left, kit.px(26), current, "small", "mute", bold=True),
    ]
    use = rating_use(node, flow)
    if use is not None and use == use:
        shapes.append(Line(left, h - 5, right, h - 5, "line", 1.2))
        shapes.append(Line(left, h - 5, left + (right - left) * min(use, 1.0), h - 5, share_verdict(use).value, 2.4))
    if worst in {Verdict.BREAKS, Verdict.TIGHT}:
        shapes += glyph(worst, kit.px(14), kit.px(26), right - kit.px(14))
    return tuple(shapes)


def _said(node: Node, flow: Flow) -> str:
    use = rating_use(node, flow)
    rated = f", {show(use, fraction=True)} of its rating" if use is not None and use == use else ""
    return (
        f"{node.item.name}: {show(flow.input_v, 'V')} in, {show(flow.current_a, 'A')},"
        f" {show(flow.power_w, 'W')}, {show(flow.loss_w, 'W')} lost on the way{rated}"
    )
