"""What a price and a quantity come to: two ways to make it, a margin, and hands that learn."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import WRIGHT


class BreakEven(Struct, frozen=True):
    quantity: int | None


@method(
    "break-even",
    source="smallest whole n with fixed_b + n·unit_b ≤ fixed_a + n·unit_a",
    checked="counted out one by one",
    limits="one price for each piece, however many",
)
def break_even(fixed_a: float, unit_a: float, fixed_b: float, unit_b: float) -> BreakEven:
    """From how many pieces on one way to make them costs no more than another.

    Args:
        fixed_a: once for the first way, such as for tools
        unit_a: for each piece
        fixed_b: once for the second way
        unit_b: for each piece
    Returns:
        quantity: from how many on the second costs no more; none where it never does
    Raises:
        ValueError: a negative cost.
    """
    require(min(fixed_a, unit_a, fixed_b, unit_b) >= 0, "costs are 0 or more")
    if fixed_b <= fixed_a:
        return BreakEven(0)
    if unit_b >= unit_a:
        return BreakEven(None)
    near = math.ceil((fixed_b - fixed_a) / (unit_a - unit_b))
    less = near - 1  # a quotient may lie a hair beside a whole number
    return BreakEven(less if fixed_b + less * unit_b <= fixed_a + less * unit_a else near)


class PriceWithMargin(Struct, frozen=True):
    price_on_cost: float
    price_on_price: float


@method(
    "price-with-margin",
    source="on cost c·(1 + m), on price c/(1 − m)",
    checked="worked by hand",
    limits="no tax, no discount",
)
def price_with_margin(cost: float, margin: float) -> PriceWithMargin:
    """A price that leaves a margin, as a share of the cost or of the price.

    Args:
        cost: of one
        margin: share that is to be left
    Returns:
        price_on_cost: where the share is of the cost
        price_on_price: where the share is of the price
    Raises:
        ValueError: a negative cost, or a margin outside 0 to 1.
    """
    require(cost >= 0, "cost is 0 or more")
    require(0 <= margin < 1, "margin is from 0 to below 1")
    return PriceWithMargin(cost * (1 + margin), cost / (1 - margin))


class LearningFactor(Struct, frozen=True):
    last: float
    mean: float


@method(
    "learning-factor",
    source="hours of the n-th one are those of the first times n to the power of log2(rate)",
    works=(WRIGHT,),
    checked="worked by hand: rate for the 2nd, its square for the 4th; the sum counted out one by one",
    limits="the same hands, without a long pause; a rate of 0.8 to 0.95 is usual (common practice)",
)
def learning_factor(quantity: int, rate: float) -> LearningFactor:
    """How much quicker hands get: hours fall by the same share each time the number doubles.

    Args:
        quantity: how many are made
        rate: hours of the 2nd as a share of the 1st, from 0.5 to 1
    Returns:
        last: hours of the last one as a share of the first's
        mean: hours of each on average as a share of the first's
    Raises:
        ValueError: no piece, or a rate outside 0.5 to 1.
    """
    require(quantity >= 1, "quantity is 1 or more")
    require(0.5 <= rate <= 1, "rate is from 0.5 to 1")
    power = math.log2(rate)
    near = min(quantity, SUMMED)
    total = math.fsum(n**power for n in range(1, near + 1))
    if quantity > near:  # the rest as an integral between half steps, Euler and Maclaurin's first term
        low, high = near + 0.5, quantity + 0.5
        total += math.log(high / low) if power == -1 else (high ** (power + 1) - low ** (power + 1)) / (power + 1)
    return LearningFactor(quantity**power, total / quantity)


SUMMED = 1000
"""Pieces whose hours are summed one by one."""
