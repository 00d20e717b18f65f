"""The ledger, whom to thank, spare parts and upgrades in words."""

from wired_union.project.model import Project
from wired_union.project.money_model import Purchase
from wired_union.units import show, show_pence


def exact(amount: float | None, currency: str) -> str:
    """An amount with its pennies; "not said" for none."""
    return show_pence(amount, currency) if amount is not None else "not said"


def amount_words(line: Purchase, currency: str) -> str:
    """What a line costs, and what of it came back."""
    back = f", {exact(line.returned, line.currency or currency)} back" if line.returned else ""
    return f"{exact(line.amount, line.currency or currency)}{back}"


def donors(project: Project) -> tuple[str, ...]:
    """Whom to thank: those who gave something, by the name that they want, each once."""
    named = (p.giver.strip() for p in project.ledger if p.state == "donated")
    return tuple(sorted({n for n in named if n}, key=str.lower))


def upgrade_rows(project: Project) -> tuple[tuple[str, str, str, str, str], ...]:
    """What we would do next, what brings most points for its money first."""
    currency = project.brief.currency
    ranked = sorted(project.upgrades, key=lambda u: -(u.points or 0.0) / ((u.cost or 0.0) + 1.0))
    return tuple((u.name, show(u.cost, currency), show(u.days, "days"), u.gain, show(u.points)) for u in ranked)


def broken_words(project: Project) -> list[tuple[str, float | None]]:
    """Parts without a spare, and the days that a broken one costs: the longest first, those not known before."""
    spare = {p.part for p in project.ledger if p.spare and p.state in {"arrived", "paid", "donated", "owned"}}
    shelf = {s.part.name for s in project.shelf if s.have > 0}
    found: dict[str, float | None] = {}
    for item in project.concept.items:
        if item.part.name not in spare | shelf:
            found[item.part.name] = item.part.delivery_days
    return sorted(found.items(), key=lambda x: -(x[1] if x[1] is not None else 1e9))
