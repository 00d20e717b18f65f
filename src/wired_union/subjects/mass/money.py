"""What it all costs: the ledger as it stands, the parts that no line of it covers, and what may still come on top.

A line of the ledger stands for the parts of its name, as many as it is for: what is in the ledger is not counted twice.
What was paid for a part that is used no more stays paid.
"""

from collections.abc import Mapping

from msgspec import Struct

from wired_union.kernel.subject import Given, Node
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.change import with_concept
from wired_union.project.model import Concept, Item, Origin, Project
from wired_union.project.money_model import MONEY_STATES, MoneyState, Purchase, Rate
from wired_union.subjects.wiring.gives_laid import HARNESS, NO_CABLES, Harness

FREE_ORIGINS = {"owned", "donated", "refunded"}
GIFTS: frozenset[MoneyState] = frozenset({"donated", "owned"})
COMES: frozenset[MoneyState] = frozenset({"quoted"})
"""States of which nothing is settled yet."""


class Cost(Struct, frozen=True):
    """A line of the ledger in the project's currency: what it costs in the end, what it is worth, what it lacks."""

    line: Purchase
    net: float
    worth: float
    lacks: str = ""


class MoneyResult(Struct, frozen=True):
    """What the parts cost by where they come from, and the ledger; only what costs money counts against the limit."""

    by_origin: dict[Origin, float]
    """parts that no line of the ledger covers"""
    by_item: tuple[tuple[Item, float], ...]
    missing: tuple[str, ...]
    total: float
    costs: tuple[Cost, ...] = ()
    by_state: dict[MoneyState, float] = {}
    """what the ledger's lines cost in the end; of gifts, what they are worth"""
    spread: float = 0.0
    """what may come on top of what is still to buy, by how well it is known"""
    gifts: float = 0.0
    """what all that is owned or donated would have cost"""

    @property
    def quoted(self) -> float:
        """Of the ledger, what is not settled."""
        return sum(self.by_state.get(s, 0.0) for s in COMES)

    @property
    def settled(self) -> float:
        """Of the ledger, what is ordered, here, or paid."""
        return sum(self.by_state.get(s, 0.0) for s in ("ordered", "arrived", "paid"))

    @property
    def spent(self) -> float:
        """What is bought, or ordered at least."""
        return self.by_origin["bought"] + self.settled

    @property
    def to_come(self) -> float:
        """What is still to be bought."""
        return self.by_origin["to buy"] + self.quoted

    @property
    def highest(self) -> float:
        """The total with all that may come on top."""
        return self.total + self.spread


def cost_of(line: Purchase, currency: str, rates: Mapping[str, float]) -> Cost:
    """What a line costs in the project's currency; of a gift nothing, of what came back the rest."""
    rate = 1.0 if line.currency in {"", currency} else rates.get(line.currency)
    if line.amount is None and line.state not in GIFTS:
        return Cost(line, 0.0, 0.0, f"{line.name}: what it costs")
    if rate is None:
        lacks = "" if line.state in GIFTS else f"{line.name}: what 1 {line.currency} is in {currency}"
        return Cost(line, 0.0, 0.0, lacks)
    amount = (line.amount or 0.0) * rate
    if line.state in GIFTS:
        return Cost(line, 0.0, amount)
    back = line.returned if line.returned is not None else line.amount if line.state == "refunded" else 0.0
    return Cost(line, max(amount - (back or 0.0) * rate, 0.0), 0.0)


def covered(ledger: tuple[Purchase, ...]) -> dict[str, int]:
    """How many of each part the ledger has, by the part's name; what came back is not there."""
    found: dict[str, int] = {}
    for line in ledger:
        if line.part and not line.spare and line.state != "refunded":
            found[line.part] = found.get(line.part, 0) + line.count
    return found


def assess_money(
    concept: Concept, harness: Harness = NO_CABLES, ledger: tuple[Purchase, ...] = (), rates: tuple[Rate, ...] = (),
    currency: str = "£",
) -> MoneyResult:  # fmt: skip
    """The ledger, and prices times counts of what it does not cover, by origin.

    A price not known counts as missing unless the part costs nothing.
    """
    known = {r.currency: r.rate for r in rates}
    costs = tuple(cost_of(line, currency, known) for line in ledger)
    by_state = dict.fromkeys(MONEY_STATES, 0.0)
    for c in costs:
        by_state[c.line.state] += c.worth if c.line.state in GIFTS else c.net
    missing = [c.lacks for c in costs if c.lacks]
    missing += [] if concept.items or ledger else ["any part at all"]
    parts = _parts(concept, covered(ledger), missing)
    by_origin: dict[Origin, float] = {"to buy": 0.0, "bought": 0.0, "owned": 0.0, "donated": 0.0, "refunded": 0.0}
    for item, cost in parts:
        by_origin[item.origin] += cost
    bought = [(i, c) for i, c in parts if i.origin not in FREE_ORIGINS]
    spread = sum(c * ALLOWANCES[i.knowledge] for i, c in bought if i.origin == "to buy")
    by_origin["to buy"] += harness.price
    missing += harness.unpriced
    total = by_origin["to buy"] + by_origin["bought"] + sum(c.net for c in costs)
    gifts = sum(c.worth for c in costs) + by_origin["owned"] + by_origin["donated"]
    return MoneyResult(by_origin, tuple(sorted(bought, key=lambda x: -x[1])), tuple(missing), total, costs, by_state,
                       spread, gifts)  # fmt: skip


def _parts(concept: Concept, have: dict[str, int], missing: list[str]) -> list[tuple[Item, float]]:
    """Each part with what those of it cost that no line covers; what has no price is named in `missing`."""
    found = []
    for item in concept.items:
        here = min(have.get(item.part.name, 0), item.count)
        if here:
            have[item.part.name] -= here
        left = item.count - here
        if item.part.price is None:
            if left and item.origin not in FREE_ORIGINS:
                missing.append(f"{item.name}: its price")
        elif left:
            found.append((item, item.part.price * left))
    return found


def uncovered(project: Project) -> Project:
    """The project with prices of what no line of the ledger covers, and lines that cover nothing: money as a sum."""
    have = covered(project.ledger)
    if not have:
        return project
    items = []
    for item in project.concept.items:
        here = min(have.get(item.part.name, 0), item.count)
        if here:
            have[item.part.name] -= here
        if here == item.count:
            item = item.but(origin="owned")
        elif here and item.part.price is not None:
            share = (item.count - here) / item.count
            item = item.but(part=item.part.but(price=item.part.price * share))
        items.append(item)
    lines = tuple(line.but(part="") for line in project.ledger)
    return with_concept(project.but(ledger=lines), items=tuple(items))


def _read(project: Project) -> tuple[object, ...]:
    return project.concept.items, project.ledger, project.rates, project.brief.currency


def _work(project: Project, given: Given) -> MoneyResult:
    return assess_money(project.concept, given.of(HARNESS), project.ledger, project.rates, project.brief.currency)


MONEY = Node("money", _read, _work, (HARNESS,))
