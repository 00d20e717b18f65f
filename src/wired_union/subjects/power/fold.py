"""Which part of a power tree is drawn: far branches and crowds of small loads fold where there is no room."""

from collections.abc import Collection, Mapping

from msgspec import Struct

from wired_union.subjects.power.flow import Flow
from wired_union.subjects.power.tree import Node, PowerTree

MOST_SISTERS = 24
LEAST_COLUMNS = 3


class Branch(Struct, frozen=True):
    """A node that is drawn, the branches drawn under it, the loads folded into one row, and how many lie behind it."""

    node: Node
    children: tuple["Branch", ...]
    others: tuple[Node, ...] = ()
    behind: int = 0
    stands_in_for: str = ""
    """Name of the pack that it stands in for, of a supply."""
    beside: str = ""
    """Name of the pack that it stands beside, of a pack that feeds nothing by itself."""


def fold(
    tree: PowerTree, columns: int, flows: Mapping[str, Flow], *, chosen: str = "", marked: Collection[str] = ()
) -> tuple[Branch, ...]:
    """The branches that are drawn in so many columns.

    Where the tree is deeper than that, it starts a little above the chosen node and folds what lies further on; a node
    that feeds a crowd keeps the way to the chosen one, the marked ones and the most watts, the rest is one row.
    """
    columns = max(columns, LEAST_COLUMNS)
    way = [chosen, *tree.above(chosen)] if chosen in tree.nodes else []
    keep = {*way, *marked}
    deepest = depth(tree)
    start = min(max(len(way) + 1 - columns, 0), max(deepest - columns, 0))
    roots = tree.roots if start == 0 else (tree.nodes[way[-1 - start]],)
    names = {supply: tree.nodes[pack].item.name for pack, supply in tree.stands_in.items()}
    beside = {j.beside: tree.nodes[pack].item.name for pack, joints in tree.beside.items() for j in joints}
    return tuple(
        Branch(root, (), stands_in_for=names.get(root.item.id, ""), beside=beside.get(root.item.id, ""))
        if root.item.id in {*names, *beside} else _branch(root, columns, tree, flows, keep)
        for root in roots
    )  # fmt: skip


def _branch(node: Node, columns: int, tree: PowerTree, flows: Mapping[str, Flow], keep: Collection[str]) -> Branch:
    if columns == 1:
        return Branch(node, (), behind=len(tree.below(node.item.id)))
    children = sorted(node.children, key=lambda c: -len(c.children))  # those that feed others first: paths cross less
    others: tuple[Node, ...] = ()
    if len(children) > MOST_SISTERS:
        ranked = sorted(children, key=lambda c: (c.item.id not in keep, not c.children, -watts(flows[c.item.id])))
        shown = {c.item.id for c in ranked[: MOST_SISTERS - 1]}
        others = tuple(c for c in children if c.item.id not in shown)
        children = [c for c in children if c.item.id in shown]
    return Branch(node, tuple(_branch(c, columns - 1, tree, flows, keep) for c in children), others)


def depth(tree: PowerTree) -> int:
    """How many columns the whole tree takes."""
    deep: dict[str, int] = {}
    for item_id in tree.nodes:  # parents come first
        source = tree.source_of.get(item_id)
        deep[item_id] = deep.get(source, 0) + 1 if source is not None else 1
    return max(deep.values(), default=0)


def watts(flow: Flow) -> float:
    """Power into a node, 0 where it is not a number: a width that can be drawn."""
    return flow.power_w if flow.power_w == flow.power_w else 0.0
