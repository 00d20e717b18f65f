"""Money: what was spent on what, what it is like if more are made, what we would do next."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Count, Name, Positive, Ref, Share, Value

MoneyState = Literal["quoted", "ordered", "arrived", "paid", "refunded", "donated", "owned"]
MONEY_STATES: tuple[MoneyState, ...] = ("quoted", "ordered", "arrived", "paid", "refunded", "donated", "owned")


class Purchase(Value, frozen=True, kw_only=True):
    """A line of the ledger: what it is, how far it has got, and what it costs all together."""

    id: Name
    name: Name
    state: MoneyState = "quoted"
    amount: Amount | None = None
    """of all of it, in its currency; of what is donated or owned, what it would have cost"""
    currency: str = ""
    """sign or code; the project's while empty"""
    count: Count = 1
    """how many it is for"""
    returned: Amount | None = None
    """how much of it came back; all of what is refunded while empty"""
    on: str = ""
    """when, as 2026-11-28"""
    by: str = ""
    """who of the team"""
    giver: str = ""
    """where it comes from: a shop by its kind, a donor by the name that they want in the thanks"""
    receipt: str = ""
    """number of the receipt"""
    budget_line: str = ""
    """of whoever pays"""
    part: str = ""
    """name of the part that it is for, as the project calls it"""
    spare: bool = False
    """whether it lies ready for one that breaks"""


class Rate(Value, frozen=True, kw_only=True):
    """What one of another currency is in the project's."""

    currency: Name
    rate: Positive
    on: str = ""
    """on which day, as 2026-11-28"""


class PriceBreak(Value, frozen=True, kw_only=True):
    """From how many on one costs how much."""

    least: Count
    price: Amount


class UnitPart(Value, frozen=True, kw_only=True):
    """What one costs where more are bought at a time."""

    item: Annotated[Name, Ref("items")]
    breaks: tuple[PriceBreak, ...] = ()


Process = Literal["cut", "mill", "print", "mould, short tool", "mould, long tool", "stamp, short tool",
                  "stamp, long tool", "by hand"]  # fmt: skip


class MakeWay(Value, frozen=True, kw_only=True):
    """One way to make a part: what the tool costs once, and what each piece costs."""

    process: Process
    tool: Amount = 0.0
    """once, before the first piece"""
    each: Amount | None = None
    """for each piece"""
    tool_lasts: Annotated[int, Meta(ge=1, le=1_000_000_000)] | None = None
    """pieces after which another tool is due; without end while empty"""


class Made(Value, frozen=True, kw_only=True):
    """A part of our own that can be made in several ways."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is, whose price it then stands for"""
    each: Count = 1
    """how many go into one machine"""
    ways: tuple[MakeWay, ...] = ()


class Rival(Value, frozen=True, kw_only=True):
    """What a buyer could have instead."""

    name: Name
    price: Amount


class KitPart(Value, frozen=True, kw_only=True):
    """Something of the add-on package."""

    name: Name
    price: Amount | None = None
    """what one costs"""
    count: Count = 1


class Upgrade(Value, frozen=True, kw_only=True):
    """What we would do next, what it costs and what it brings."""

    id: Name
    name: Name
    cost: Amount | None = None
    days: Amount | None = None
    """of the team"""
    gain: str = ""
    """what gets better, with its figure"""
    points: Amount | None = None
    """what it is worth, in points"""


class Making(Value, frozen=True, kw_only=True):
    """What it is like if more are made."""

    quantity: Annotated[int, Meta(ge=1, le=10_000_000)] | None = None
    """how many"""
    labour_h: Amount | None = None
    """hours that the first one takes"""
    wage: Amount | None = None
    """of an hour"""
    learning: Annotated[float, Meta(ge=0.5, le=1)] = 1.0
    """hours of the 2nd as a share of the 1st, of the 4th of the 2nd, and so on"""
    fixed: Amount = 0.0
    """once, besides tools: drawings, tests, papers"""
    margin: Share | None = None
    """share of the price that is to be left"""
    price: Amount | None = None
    """asked for one; by the margin while empty"""
    parts: tuple[UnitPart, ...] = ()
    made: tuple[Made, ...] = ()
    rivals: tuple[Rival, ...] = ()
    kit: tuple[KitPart, ...] = ()
    """the add-on package: what it holds besides the machine"""
    kit_price: Amount | None = None
    """asked for the package"""
