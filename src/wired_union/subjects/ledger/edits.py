"""Edits of the ledger, of what it is like if more are made, and of what we would do next."""

from typing import Any

from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    find_item,
    new_id,
    replaced,
    with_concept,
)
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import changed_one, name_of, one_more
from wired_union.project.model import Project
from wired_union.project.money_model import (
    KitPart,
    Made,
    MakeWay,
    Making,
    PriceBreak,
    Purchase,
    Rate,
    Rival,
    UnitPart,
    Upgrade,
)
from wired_union.project.value import Value, checked, choices, made
from wired_union.units import CURRENCIES, UnitError, parse, plain_words, show, show_named

PROCESSES = choices(MakeWay, "process")


def add_purchase(project: Project, name: str, **figures: Any) -> Change:
    """One more line of the ledger. Raises ProjectError for what cannot be."""
    return _add(project, "ledger", Purchase, "line", name, figures)


def set_purchase(project: Project, line_id: str, **figures: Any) -> Change:
    """Other figures of a line. More can not come back than was paid."""
    change = _set(project, "ledger", line_id, "line", figures)
    check_returned(by_id(change.after.ledger, line_id, "line"))
    return change


def check_returned(line: Purchase) -> None:
    """Raise ProjectError where more came back than it cost."""
    if line.returned is not None and line.amount is not None and line.returned > line.amount + 1e-9:
        raise ProjectError(f"{line.name}: more came back than it cost. Give what came back, at most what was paid.")


def remove_purchase(project: Project, line_id: str) -> Change:
    return _remove(project, "ledger", line_id, "line")


def set_rate(project: Project, currency: str, rate: float | None, on: str = "") -> Change:
    """What one of another currency is in the project's; None takes the rate away."""
    currency = checked_name(currency, "currency")
    if currency == project.brief.currency:
        raise ProjectError(f"{currency} is what the project counts in; it needs no rate.")
    kept = tuple(r for r in project.rates if r.currency != currency)
    if rate is None:
        return Change(project, project.but(rates=kept), f"{currency}: no rate")
    with figures_of(currency):
        new = made(Rate, currency=currency, rate=rate, on=checked_day(on))
    said = f"1 {currency} is {show(rate)} {project.brief.currency}"
    return Change(project, project.but(rates=(*kept, new)), said)


def buy_item(project: Project, item_id: str, today: str) -> Change:
    """A line for a part as it stands: ordered today at its price. Raises ProjectError where it has no price."""
    item = find_item(project, item_id)
    if item.part.price is None:
        raise ProjectError(f"Say the price of {item.name} first.")
    return add_purchase(project, item.name, part=item.part.name, amount=item.part.price * item.count, count=item.count,
                        state="ordered", on=today)  # fmt: skip


def add_upgrade(project: Project, name: str, **figures: Any) -> Change:
    return _add(project, "upgrades", Upgrade, "upgrade", name, figures)


def set_upgrade(project: Project, upgrade_id: str, **figures: Any) -> Change:
    return _set(project, "upgrades", upgrade_id, "upgrade", figures)


def remove_upgrade(project: Project, upgrade_id: str) -> Change:
    return _remove(project, "upgrades", upgrade_id, "upgrade")


def _add(project: Project, room: str, kind: type[Value], word: str, name: str, figures: dict[str, Any]) -> Change:
    listed = getattr(project, room)
    if "on" in figures:
        figures["on"] = checked_day(figures["on"])
    value = one_more(kind, word, name, (x.id for x in listed), figures)
    if isinstance(value, Purchase):
        check_returned(value)
    return Change(project, project.but(**{room: (*listed, value)}), f"{name_of(project, value)}: one more {word}")


def _set(project: Project, room: str, value_id: str, word: str, figures: dict[str, Any]) -> Change:
    listed = getattr(project, room)
    if "on" in figures:
        figures["on"] = checked_day(figures["on"])
    old, new = changed_one(listed, value_id, word, figures)
    said = ", ".join(f"{plain_words(f)} {_said(project, f, getattr(new, f))}" for f in figures)
    return Change(project, project.but(**{room: replaced(listed, old, new)}), f"{new.name}: {said}")


def _remove(project: Project, room: str, value_id: str, word: str) -> Change:
    listed = getattr(project, room)
    old = by_id(listed, value_id, word)
    return Change(
        project, project.but(**{room: tuple(x for x in listed if x is not old)}), f"{old.name}: out of the list"
    )


MONEY_FIELDS = frozenset({"amount", "returned", "cost", "wage", "fixed", "price", "kit_price"})


def _said(project: Project, field: str, value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if field in MONEY_FIELDS:
        return show(value, project.brief.currency) if value is not None else "not said"
    return show_named(field, value) if isinstance(value, int | float) else str(value or "none")


# if more are made


def set_making(project: Project, **figures: Any) -> Change:
    """Other figures of making more. Raises ProjectError for what cannot be."""
    with figures_of("If more are made"):
        making = checked(project.concept.making, **figures)
    if making.margin is not None and making.margin >= 1:
        raise ProjectError("The margin is a share of the price, below 100 %.")
    said = ", ".join(f"{plain_words(f)} {_said(project, f, getattr(making, f))}" for f in figures)
    return _making(project, making, f"if more are made: {said}")


def _making(project: Project, making: Making, said: str) -> Change:
    return Change(project, with_concept(project, making=making), said)


def set_breaks(project: Project, item_id: str, text: str) -> Change:
    """ "10: 20; 100: 17.50": what one costs from so many on; "" for one price. Raises ProjectError."""
    item, making = find_item(project, item_id), project.concept.making
    kept = tuple(p for p in making.parts if p.item != item_id)
    breaks = []
    for part in filter(None, (x.strip() for x in text.split(";"))):
        least, _, price = part.partition(":")
        with figures_of(item.name):
            breaks.append(made(PriceBreak, least=_whole(least), price=_money(project, price)))
    parts = (*kept, UnitPart(item=item_id, breaks=tuple(breaks))) if breaks else kept
    return _making(project, making.but(parts=parts), f"{item.name}: {text.strip() or 'one price for any number'}")


def breaks_text(unit: UnitPart | None) -> str:
    """The same back."""
    return "; ".join(f"{b.least}: {b.price:g}" for b in unit.breaks) if unit is not None else ""


def _whole(text: str) -> int:
    try:
        value = parse(text)
    except UnitError as error:
        raise ProjectError(f"{error}") from error
    if value != int(value):
        raise ProjectError(f"“{text.strip()}” is no whole number.")
    return int(value)


def _money(project: Project, text: str) -> float:
    unit = project.brief.currency if project.brief.currency in CURRENCIES else ""
    try:
        return parse(text, unit)
    except UnitError as error:
        raise ProjectError(f"{error}") from error


def add_made(project: Project, name: str, item: str = "", each: int = 1) -> Change:
    """A part of our own that can be made in several ways."""
    name, making = checked_name(name, "part"), project.concept.making
    with figures_of(name):
        new = made(Made, id=new_id(name, (m.id for m in making.made)), name=name, item=item, each=each)
    if item:
        find_item(project, item)
    return _making(project, making.but(made=(*making.made, new)), f"{name}: can be made in several ways")


def remove_made(project: Project, made_id: str) -> Change:
    making = project.concept.making
    old = by_id(making.made, made_id, "part")
    return _making(project, making.but(made=tuple(m for m in making.made if m is not old)), f"{old.name}: bought")


def add_way(project: Project, made_id: str, text: str) -> Change:
    """ "print; 0; 4.20; 5000": how, the tool once, each piece, pieces a tool lasts. Raises ProjectError."""
    making = project.concept.making
    old = by_id(making.made, made_id, "part")
    cells = [c.strip() for c in text.split(";")]
    if len(cells) < 3 or cells[0] not in PROCESSES:
        raise ProjectError(f"Write it like “print; 0; 4.20”: how, the tool once, each piece. How is one of "
                           f"{', '.join(PROCESSES)}.")  # fmt: skip
    figures = {"process": cells[0], "tool": _money(project, cells[1]), "each": _money(project, cells[2])}
    if len(cells) > 3 and cells[3]:
        figures["tool_lasts"] = _whole(cells[3])
    with figures_of(old.name):
        way = made(MakeWay, **figures)
    new = old.but(ways=(*(w for w in old.ways if w.process != way.process), way))
    return _making(project, making.but(made=replaced(making.made, old, new)), f"{old.name}: {way.process}")


def remove_way(project: Project, made_id: str, process: str) -> Change:
    making = project.concept.making
    old = by_id(making.made, made_id, "part")
    new = old.but(ways=tuple(w for w in old.ways if w.process != process))
    return _making(project, making.but(made=replaced(making.made, old, new)), f"{old.name}: not by {process}")


def set_rivals(project: Project, text: str) -> Change:
    """ "a boat: 900; by hand: 300": what a buyer could have instead."""
    rivals = tuple(made(Rival, name=checked_name(n, "alternative"), price=p) for n, p in _named(project, text))
    return _making(
        project, project.concept.making.but(rivals=rivals), f"a buyer could have: {text.strip() or 'nothing'}"
    )


def set_kit(project: Project, text: str) -> Change:
    """ "spare bit: 12; case: 30": what the add-on package holds."""
    kit = tuple(made(KitPart, name=checked_name(n, "part of the package"), price=p) for n, p in _named(project, text))
    return _making(project, project.concept.making.but(kit=kit), f"the package: {text.strip() or 'nothing'}")


def _named(project: Project, text: str) -> list[tuple[str, float]]:
    """Names with amounts, of "a: 3; b: 4". Raises ProjectError."""
    found = []
    for part in filter(None, (x.strip() for x in text.split(";"))):
        name, mark, price = part.rpartition(":")
        if not mark:
            raise ProjectError(f"“{part}”: write a name, a colon and an amount, like “a case: 30”.")
        found.append((name, _money(project, price)))
    return found


def named_text(listed: Any) -> str:
    """The same back."""
    return "; ".join(f"{x.name}: {x.price:g}" if x.price is not None else x.name for x in listed)


def stands_for(project: Project, made_id: str, item_id: str) -> Change:
    """The part whose price it stands for; as many go into one machine as there are of that."""
    making, item = project.concept.making, find_item(project, item_id)
    old = by_id(making.made, made_id, "part")
    new = old.but(item=item_id, each=item.count)
    return _making(project, making.but(made=replaced(making.made, old, new)), f"{old.name}: stands for {item.name}")


def read_rate(text: str) -> float:
    """A rate as it was typed. Raises ProjectError for what is no number."""
    try:
        return parse(text)
    except UnitError as error:
        raise ProjectError(f"{error} A rate is written like “EUR 0.86”.") from error
