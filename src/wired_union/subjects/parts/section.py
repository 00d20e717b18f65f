"""The parts list of the report."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.card import gist
from wired_union.picture.shapes import Kit
from wired_union.project.model import Item
from wired_union.units import show

_FROM = {
    "guess": "a guess", "estimate": "an estimate", "datasheet": "datasheet or typical of class",
    "measured": "measured",
}  # fmt: skip
HEAD = ("part", "count", "figures", "mass", "price", "figures from; origin")


def section(assessment: Assessment, _: Kit) -> Section:
    """A table for each lane with parts in it."""
    concept = assessment.project.concept
    blocks: list[Block] = []
    for lane in concept.subsystems:
        rows = tuple(_row(i, assessment.project.brief.currency) for i in concept.items if i.subsystem == lane.id)
        if rows:
            blocks += [Block(text=lane.name, tone="heading"), Block(head=HEAD, rows=rows, figures=(1, 2, 3, 4))]
    return Section("Parts", tuple(blocks), looked_up=True)


def _row(item: Item, money: str) -> tuple[str, ...]:
    part = item.part
    mass = show(part.mass_kg * item.count, "kg") if part.mass_kg is not None else "not known"
    price = show(part.price * item.count, money) if part.price is not None else "not known"
    return item.name, str(item.count), gist(part), mass, price, f"{_FROM[item.knowledge]}; {item.origin}"
