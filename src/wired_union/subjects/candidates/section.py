"""Needs and shelf in the report: what is still looked for, and what the team has."""

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.project.model import Need, Stock
from wired_union.project.slot_edits import requirement_words
from wired_union.project.value import named_values
from wired_union.units import show_named


def section(assessment: Assessment, kit: Kit) -> Section:
    """Nothing where nothing is looked for and the shelf is empty."""
    project = assessment.project
    blocks: list[Block] = []
    if project.concept.needs:
        rows = tuple((n.name, str(n.count), " or ".join(n.kinds) or "any class", _asked(n, project.brief.currency))
                     for n in project.concept.needs)  # fmt: skip
        blocks += [Block(text="Still looked for", tone="heading"),
                   Block(head=("place", "how many", "class", "asked of it"), rows=rows, figures=(1,))]  # fmt: skip
    if project.shelf:
        stock = tuple((s.part.name, str(s.have), _from(s)) for s in project.shelf)
        blocks += [Block(text="On the shelf", tone="heading"),
                   Block(head=("part", "how many", "from"), rows=stock, figures=(1,))]  # fmt: skip
    return Section("Looked for, and on the shelf", tuple(blocks), looked_up=True)


def _from(stock: Stock) -> str:
    return "donated" if stock.donated else "owned" if stock.have else "put aside for a choice"


def _asked(need: Need, money: str) -> str:
    asked = [
        f"{requirement_words(name)} {value if isinstance(value, str) else show_named(name, value, money)}"
        for name, value in named_values(need.requires) if value is not None
    ]  # fmt: skip
    return "; ".join(asked) or "nothing"
