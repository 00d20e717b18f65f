"""What there is to say of the ledger and of making more."""

from collections.abc import Iterator

from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.subjects.ledger.making import MAKING, is_asked
from wired_union.subjects.mass.gives import MONEY
from wired_union.units import show


def findings(assessment: Assessment) -> Iterator[Finding]:
    """Lines that lack something, lines without a part, dear prices, what never pays."""
    project, money = assessment.project, assessment.of(MONEY)
    for cost in money.costs:
        if cost.lacks:
            yield Finding("ledger-gap", Verdict.UNKNOWN, cost.line.name, f"Not known yet: {cost.lacks}.",
                          "What is not known is not nothing.", of=cost.line.id, measure="money")  # fmt: skip
    names = {i.part.name for c in project.concepts for i in c.items}
    for line in project.ledger:
        if line.part and line.part not in names:
            yield Finding("ledger-part", Verdict.TIGHT, f"{line.name}: for a part that is nowhere",
                          f"No concept has a part called “{line.part}”. What was paid stays paid.",
                          "Sell it, send it back, or say what it is for.", of=line.id, measure="money")  # fmt: skip
        if line.state == "paid" and not line.receipt:
            yield Finding(
                "receipt",
                Verdict.UNKNOWN,
                f"{line.name}: no receipt",
                "Paid, and no receipt number is noted.",
                "Whoever pays will ask for it: common practice.",
                of=line.id,
            )
    if is_asked(project):
        yield from _making(assessment)


def _making(assessment: Assessment) -> Iterator[Finding]:
    found, currency = assessment.of(MAKING), assessment.project.brief.currency
    if found.missing:
        lacks = "; ".join(found.missing[:3])
        yield Finding("making-gap", Verdict.UNKNOWN, "If more are made", f"Not known yet: {lacks}.",
                      "What is not known is not nothing.", measure="unit-cost")  # fmt: skip
    quantity, price = found.making.quantity, found.price
    known = not found.missing and quantity is not None and price is not None
    for rival in found.making.rivals:
        if not known or price is None:
            yield Finding("rival", Verdict.UNKNOWN, rival.name, "Not known yet: the price that is asked for ours.",
                          "What a buyer could have instead.", of=rival.name,
                          measure="unit-cost", bound=True)  # fmt: skip
        elif rival.price < price:
            yield Finding("rival", Verdict.TIGHT, f"{rival.name} is cheaper",
                          f"{show(rival.price, currency)} against {show(price, currency)}: say what ours does that it"
                          " does not.", "What a buyer could have instead.", of=rival.name,
                          measure="unit-cost")  # fmt: skip
    if known and quantity is not None and price is not None and price < (unit := found.unit_now or 0.0):
        yield Finding("price", Verdict.BREAKS, "Sold at a loss",
                      f"One of {quantity} costs {show(unit, currency)}, and {show(price, currency)} is asked.",
                      "Parts, tools, labour and what is paid once, shared by all.", measure="unit-cost",
                      use=unit / price if price else float("inf"))  # fmt: skip
