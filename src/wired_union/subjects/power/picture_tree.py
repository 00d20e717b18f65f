"""The power tree as columns of nodes from the pack to the last load, joined by paths as wide as their watts."""

from collections.abc import Callable, Iterator, Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from wired_union.catalogue.parts import discipline_of
from wired_union.kernel.results import Verdict, share_verdict
from wired_union.picture.palette import DISCIPLINE_INK
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Ribbon, Shape, shifted
from wired_union.picture.wire import glyph, wire
from wired_union.subjects.power.flow import Flow
from wired_union.subjects.power.fold import Branch, depth, fold, watts
from wired_union.subjects.power.tree import Node, PowerTree
from wired_union.units import show

NODE_H, LEAF_H, GAP = 49.0, 26.0, 4.0
NARROW_W, NARROW_LEAF_H = 112.0, 39.0
THICKEST = 34.0
LEAST_COLUMN = 94.0
"""Width below which a column of the tree cannot be read; then far branches fold."""


class Spot(Struct, frozen=True):
    """Where a branch stands: its column is its depth, its middle that of what it feeds."""

    branch: Branch
    column: int
    middle: float
    parent: str | None
    others: float | None = None
    """Middle of the row that stands for the loads folded under it."""

    @property
    def node(self) -> Node:
        return self.branch.node


class Crowd(Struct, frozen=True):
    """The loads folded into one row under a node."""

    under: str


def node_height(branch: Branch, narrow: bool = False) -> float:
    """Loads take one line, or two where it is narrow; what feeds others takes two and a wire."""
    if branch.node.children or (branch.node.item.part.pack or branch.node.item.part.supply) is not None:
        return NODE_H
    return NARROW_LEAF_H if narrow else LEAF_H


def spots(roots: Sequence[Branch], scale: float, narrow: bool = False) -> tuple[Spot, ...]:
    """Where each branch stands. Ends come first."""
    found: list[Spot] = []
    middles: dict[str, float] = {}
    lowest: dict[int, float] = {}
    bottom = 0.0
    for branch, column, parent in _ends_first(roots):
        height, others = node_height(branch, narrow) * scale, None
        below = [middles[child.node.item.id] for child in branch.children]
        if branch.others:
            others = max(bottom, lowest.get(column + 1, 0.0)) + LEAF_H * scale / 2
            bottom = lowest[column + 1] = others + (LEAF_H / 2 + GAP) * scale
            below.append(others)
        if below:
            middle = max((below[0] + below[-1]) / 2, lowest.get(column, 0.0) + height / 2)
        else:
            middle = max(bottom, lowest.get(column, 0.0)) + height / 2
            bottom = middle + height / 2 + GAP * scale
        lowest[column] = middle + height / 2 + GAP * scale
        middles[branch.node.item.id] = middle
        found.append(Spot(branch, column, middle, parent, others))
    return tuple(found)


def _ends_first(roots: Sequence[Branch]) -> Iterator[tuple[Branch, int, str | None]]:
    """Every branch with its depth and what feeds it, whatever it feeds before itself."""
    todo: list[tuple[Branch, int, str | None, bool]] = [(p, 0, None, False) for p in reversed(roots)]
    while todo:
        branch, column, parent, opened = todo.pop()
        if opened:
            yield branch, column, parent
            continue
        todo.append((branch, column, parent, True))
        todo.extend((child, column + 1, branch.node.item.id, False) for child in reversed(branch.children))


def share_of_most(node: Node, flow: Flow) -> tuple[float, str] | None:
    """How long a node's bar is and its colour: of its rating by verdict; a load's, of the most it takes, has none."""
    use, load = rating_use(node, flow), node.item.part.load
    if use is not None:
        return (min(use, 1.0), share_verdict(use).value) if use == use else None
    most = (load.startup_a or load.peak_a) if load is not None else None
    if not most or flow.current_a != flow.current_a:
        return None
    return min(flow.current_a / (most * node.item.count), 1.0), DISCIPLINE_INK[discipline_of(node.item.part.kind)]


def rating_use(node: Node, flow: Flow) -> float | None:
    """Share of a node's own rating in use: a pack's, regulator's, driver's or rail's."""
    part, count = node.item.part, node.item.count
    pairs = (
        (part.supply and part.supply.max_current_a, flow.current_a),
        (part.pack and part.pack.max_current_a, flow.current_a),
        (part.regulator and part.regulator.max_current_a, flow.output_a),
        (part.driver and (part.driver.total_current_a or part.driver.channel_current_a), flow.output_a),
        (part.rail and part.rail.max_current_a, flow.current_a),
    )
    return next((current / (rating * count) for rating, current in pairs if rating), None)


def detail(branch: Branch, flow: Flow) -> str:
    """A node's second line: what it makes of its input, or how many lie folded behind it."""
    node = branch.node
    part = node.item.part
    if branch.behind:
        return f"feeds {branch.behind} more"
    if branch.stands_in_for:
        return f"stands in for {branch.stands_in_for}"
    if branch.beside:
        return f"beside {branch.beside}"
    if part.pack is not None or part.supply is not None:
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
    ranges: Callable[[str], str] | None = None,
) -> Picture:
    """The tree in a mode, folded where there is no room. Regions are the nodes, by item id, with their figures as
    label, and what `ranges` says of each over all modes."""
    marked = [i for i, v in (verdicts or {}).items() if v in {Verdict.BREAKS, Verdict.TIGHT}]
    fit = int(width / kit.px(LEAST_COLUMN))
    roots = fold(tree, fit, flows, chosen=selected, marked=marked)
    placed = spots(roots, kit.scale, narrow=width / max(min(depth(tree), fit), 1) < kit.px(NARROW_W + 34))
    if not placed:
        return Picture(width, kit.px(60), (kit.words(0, kit.px(24), "No pack feeds anything yet.", ink="mute"),))
    columns = max(s.column + (s.others is not None) for s in placed) + 1
    narrow = width / columns < kit.px(NARROW_W + 34)
    gap = kit.px(32 if columns > 3 else 56)
    widths, lefts = _columns(placed, columns, gap, width, kit)
    by_id = {s.node.item.id: s for s in placed}
    most = max((f.power_w for f in flows.values() if f.power_w == f.power_w), default=0.0) or 1.0
    shapes: list[Shape] = []
    for spot in placed:
        if spot.branch.children or spot.others is not None:
            ends = (lefts[spot.column] + widths[spot.column], lefts[spot.column + 1])
            shapes += _paths(spot, by_id, flows, kit, ends, most)
    regions: list[Region] = []
    for spot in placed:
        worst = (verdicts or {}).get(spot.node.item.id)
        chosen = spot.node.item.id == selected
        _stand(shapes, regions, spot, flows, kit, (lefts, widths), narrow=narrow, chosen=chosen, worst=worst)
    if ranges is not None:
        regions = [replace(r, label=f"{r.label}; {ranges(r.id)}") if r.id in by_id else r for r in regions]
    foot = [s.others + kit.px(LEAF_H) / 2 for s in placed if s.others is not None]
    height = max([*foot, *(s.middle + kit.px(node_height(s.branch, narrow)) / 2 for s in placed)]) + 2
    return Picture(width, height, tuple(shapes), tuple(regions))


def _stand(
    shapes: list[Shape], regions: list[Region], spot: Spot, flows: Mapping[str, Flow], kit: Kit,
    columns: tuple[list[float], list[float]], *, narrow: bool, chosen: bool, worst: Verdict | None,
) -> None:  # fmt: skip
    """Draw a branch at its place, and the row of the loads folded under it."""
    lefts, widths = columns
    item_id, flow, high = spot.node.item.id, flows[spot.node.item.id], kit.px(node_height(spot.branch, narrow))
    x, node_w, top = lefts[spot.column], widths[spot.column], spot.middle - high / 2
    draw = _narrow if narrow else _node if high > kit.px(LEAF_H) else _leaf
    shapes += shifted(draw(spot.branch, flow, kit, node_w, chosen, worst), x, top)
    grip = "carry" if spot.node.item.part.pack is None and spot.node.item.part.supply is None else ""
    regions.append(Region(item_id, x, top, node_w, high, _said(spot.branch, flow), grip))
    if spot.others is None:
        return
    x, node_w, high, said = lefts[spot.column + 1], widths[spot.column + 1], kit.px(LEAF_H), _others(spot.branch, flows)
    top = spot.others - high / 2
    words = kit.cut(said, node_w - kit.px(14), "small", "figures")
    shapes.append(Box(x + 0.5, top + 0.5, node_w - 1, high - 1, "soft", "line", 4, 1.2))
    shapes.append(kit.figures(x + kit.px(8), spot.others, words, "small", "mute"))
    regions.append(Region(f"others under {item_id}", x, top, node_w, high, said, of=Crowd(item_id)))


def _others(branch: Branch, flows: Mapping[str, Flow]) -> str:
    """What the loads folded under a node are and draw together."""
    drawn = sum(flows[n.item.id].current_a for n in branch.others)
    return f"and {len(branch.others)} more, {show(drawn, 'A')}" if drawn == drawn else f"and {len(branch.others)} more"


def _columns(
    placed: tuple[Spot, ...], columns: int, gap: float, width: float, kit: Kit
) -> tuple[list[float], list[float]]:
    """Widths and left edges of the columns; those that hold loads get more, since loads have longer names."""
    weights = [1.2 if any(_leaf_in(s, c) for s in placed) else 1.0 for c in range(columns)]
    room = min(width - gap * (columns - 1), kit.px(190) * columns)
    widths = [room * w / sum(weights) for w in weights]
    gap = (width - sum(widths)) / max(columns - 1, 1)
    lefts = [sum(widths[:c]) + gap * c for c in range(columns)]
    return widths, lefts


def _leaf_in(spot: Spot, column: int) -> bool:
    return (spot.column == column and not spot.node.children) or (spot.others is not None and spot.column + 1 == column)


def _paths(
    spot: Spot, placed: Mapping[str, Spot], flows: Mapping[str, Flow], kit: Kit, ends: tuple[float, float], most: float
) -> Iterator[Ribbon]:
    """The paths out of a node, one below the other, in order of height."""
    drawn = [watts(flows[c.node.item.id]) for c in spot.branch.children]
    middles = [placed[c.node.item.id].middle for c in spot.branch.children]
    if spot.others is not None:
        drawn.append(sum(watts(flows[n.item.id]) for n in spot.branch.others))
        middles.append(spot.others)
    thick = [max(kit.px(THICKEST) * w / most, 1.2) for w in drawn]
    y = spot.middle - sum(thick) / 2
    for wide, middle in zip(thick, middles, strict=True):
        yield Ribbon(ends[0], y + wide / 2, ends[1], middle, wide, "copper_soft")
        y += wide


def _node(branch: Branch, flow: Flow, kit: Kit, w: float, selected: bool, worst: Verdict | None) -> tuple[Shape, ...]:
    node, h = branch.node, kit.px(NODE_H)
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
    shapes.append(kit.figures(left, h * 0.55, kit.cut(detail(branch, flow), room, "small", "figures"), "small", "mute"))
    use = rating_use(node, flow)
    if use is not None and use == use:
        shapes += shifted(wire(use, share_verdict(use), right - left, h * 0.83, thick=3.0), left, 0)
    if bad:
        shapes += glyph(worst, kit.px(16), h * 0.22, right - kit.px(16))
    return tuple(shapes)


def _leaf(branch: Branch, flow: Flow, kit: Kit, w: float, selected: bool, worst: Verdict | None) -> tuple[Shape, ...]:
    node, h = branch.node, kit.px(LEAF_H)
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
    if (bar := share_of_most(node, flow)) is not None:
        low = h * 0.82
        shapes.append(Line(left, low, right, low, "line", 1.2))
        shapes.append(Line(left, low, left + (right - left) * bar[0], low, bar[1], 2.4))
    if bad:
        mark = right - kit.width(current, "small", "figures", True) - kit.px(20)
        shapes += glyph(worst, kit.px(14), h * 0.42, mark)
    return tuple(shapes)


def _narrow(branch: Branch, flow: Flow, kit: Kit, w: float, selected: bool, worst: Verdict | None) -> tuple[Shape, ...]:
    """A node where there is little room: its name over its current, and its wire."""
    node, h = branch.node, kit.px(node_height(branch, narrow=True))
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
    if (bar := share_of_most(node, flow)) is not None:
        shapes.append(Line(left, h - 5, right, h - 5, "line", 1.2))
        shapes.append(Line(left, h - 5, left + (right - left) * bar[0], h - 5, bar[1], 2.4))
    if worst in {Verdict.BREAKS, Verdict.TIGHT}:
        shapes += glyph(worst, kit.px(14), kit.px(26), right - kit.px(14))
    return tuple(shapes)


def _said(branch: Branch, flow: Flow) -> str:
    node = branch.node
    behind = f"; feeds {branch.behind} more" if branch.behind else ""
    behind += f"; stands in for {branch.stands_in_for}" if branch.stands_in_for else ""
    behind += f"; beside {branch.beside}" if branch.beside else ""
    use = rating_use(node, flow)
    rated = f", {show(use, fraction=True)} of its rating" if use is not None and use == use else ""
    return (
        f"{node.item.name}: {show(flow.input_v, 'V')} in, {show(flow.current_a, 'A')},"
        f" {show(flow.power_w, 'W')}, {show(flow.loss_w, 'W')} lost on the way{rated}{behind}"
    )
