"""Money in the report: the ledger, whom to thank, what it is like if more are made, what we would do next."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.ledger.making import MAKING, is_asked
from wired_union.subjects.ledger.picture import money_picture, unit_picture
from wired_union.subjects.ledger.shown import amount_words, broken_words, donors, upgrade_rows
from wired_union.subjects.mass.gives import MONEY
from wired_union.units import show

WIDE = 1000.0


def passed_on(assessment: Assessment, _: Kit) -> list[Block]:
    """What we would do next with its cost and gain, what a broken part costs in days, whom to thank."""
    project = assessment.project
    blocks: list[Block] = []
    if rows := upgrade_rows(project):
        head = ("what", "costs", "takes", "what it brings", "points")
        blocks += [Block(text="What we would do next", tone="heading"), Block(head=head, rows=rows, figures=(1, 2, 4))]
    if broken := broken_words(project)[:MOST_SPARES]:
        days = tuple((name, show(d, "days") if d is not None else "not known") for name, d in broken)
        blocks += [Block(text="If one breaks: parts without a spare", tone="heading"),
                   Block(head=("part", "until another is here"), rows=days, figures=(1,))]  # fmt: skip
    if thanks := donors(project):
        blocks.append(Block(text=f"Thanks to {', '.join(thanks)}."))
    return blocks


def gist(assessment: Assessment, _: Kit) -> list[Block]:
    """Whom to thank."""
    thanks = donors(assessment.project)
    return [Block(text=f"Thanks to {', '.join(thanks)}.")] if thanks else []


MOST_SPARES = 12


def section(assessment: Assessment, kit: Kit) -> Section:
    """Nothing while there is no ledger, and nobody asked about more."""
    return Section("Ledger and making more", tuple(_blocks(assessment, kit)))


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    project, money = assessment.project, assessment.of(MONEY)
    currency = project.brief.currency
    if project.ledger:
        limit = project.brief.limit("money")
        picture = money_picture(money, limit.value if limit is not None else None, project, kit, WIDE)
        yield drawn(picture, "Where the money goes")
        yield Block(head=("what", "state", "amount", "on", "by", "receipt", "budget line"), rows=tuple(
            (c.line.name, c.line.state, amount_words(c.line, currency), c.line.on, c.line.by, c.line.receipt,
             c.line.budget_line) for c in money.costs), figures=(2,))  # fmt: skip
        yield Block(text=f"Without gifts it would cost {show(money.total + money.gifts, currency)}.", tone="note")
    thanks = donors(project)
    if thanks:
        yield Block(text="Thanks", tone="heading")
        yield Block(text=", ".join(thanks) + ".")
    if is_asked(project):
        found = assessment.of(MAKING)
        yield Block(text="If more are made", tone="heading")
        yield drawn(unit_picture(found, project, kit, WIDE), "What one costs by how many are made")
    rows = upgrade_rows(project)
    if rows:
        yield Block(text="What we would do next", tone="heading")
        yield Block(head=("upgrade", "cost", "days", "gain", "points"), rows=rows, figures=(1, 2, 4))
