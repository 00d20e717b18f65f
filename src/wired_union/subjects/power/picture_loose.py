"""What hangs on nothing yet, under the power tree: dashed, to be dragged onto what shall feed it."""

from collections.abc import Mapping, Sequence

from wired_union.picture.shapes import Box, Kit, Picture, Region, Shape, shifted
from wired_union.project.model import Concept, Item
from wired_union.subjects.power.tree import PowerTree

WIDE, HIGH, GAP = 178.0, 26.0, 6.0


def loose(concept: Concept, tree: PowerTree) -> tuple[Item, ...]:
    """Items that take power and hang on nothing; what hangs on them hangs with them."""
    return tuple(
        i for i in concept.items
        if i.id not in tree.nodes and i.id not in tree.source_of
        and (i.part.load or i.part.regulator or i.part.driver or i.part.rail) is not None
    )  # fmt: skip


def with_loose(
    picture: Picture, items: Sequence[Item], below: Mapping[str, int], kit: Kit, *, selected: str = ""
) -> Picture:
    """The tree with what hangs on nothing in rows under it; `below` says how much hangs on each of them."""
    if not items:
        return picture
    top = picture.height + kit.px(14)
    shapes: list[Shape] = [
        *picture.shapes,
        kit.words(0, top, "Hangs on nothing: drag it onto what shall feed it", "small", "tight_text", bold=True),
    ]
    regions = list(picture.regions)
    across = max(int((picture.width + kit.px(GAP)) // kit.px(WIDE + GAP)), 1)
    for n, item in enumerate(items):
        row, column = divmod(n, across)
        x, y = column * kit.px(WIDE + GAP), top + kit.px(12) + row * kit.px(HIGH + GAP)
        more = below.get(item.id, 0)
        said = f"{item.name}, and {more} behind it" if more else item.name
        shapes += shifted(_row(item, said, kit, chosen=item.id == selected), x, y)
        regions.append(
            Region(f"loose:{item.id}", x, y, kit.px(WIDE), kit.px(HIGH), f"{said}: hangs on nothing", "carry", item.id)
        )
    height = top + kit.px(12) + (-(-len(items) // across)) * kit.px(HIGH + GAP)
    return Picture(picture.width, height, tuple(shapes), tuple(regions))


def _row(item: Item, said: str, kit: Kit, *, chosen: bool) -> tuple[Shape, ...]:
    width, height = kit.px(WIDE), kit.px(HIGH)
    fill = "soft" if chosen else "card"
    return (
        Box(0.75, 0.75, width - 1.5, height - 1.5, fill, "tight", 4, 2.0 if chosen else 1.2, dash=(5.0, 3.0)),
        kit.figures(kit.px(8), height / 2, kit.cut(said, width - kit.px(16), "small", "figures"), "small", bold=True),
    )
