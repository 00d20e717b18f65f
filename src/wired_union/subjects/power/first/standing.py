"""What a load takes while others start: what stands, and bursts of which it is known when they come."""

import math
from collections.abc import Iterator

from wired_union.physics.transient import Standing
from wired_union.project.model import Item, Load, Use
from wired_union.subjects.power.currents import bursts
from wired_union.subjects.power.tree import state_current

BURSTS_S, MOST_BURSTS = 0.5, 50
"""For how long after the first bursts are set out one after another, and how many at the most."""


def standing_of(item: Item, amperes: float, use: Use | None, *, starting: bool) -> Iterator[Standing]:
    """What all copies take, at the worst instant from when they start.

    Bursts are set out where it is given when the first comes; else they may come at any time, and so always.
    """
    load = item.part.load
    assert load is not None
    after = use.after_s if use is not None else 0.0
    rest = state_current(load, use.rest) if use is not None and use.duty < 1 else None
    if use is None or rest is None or not after or not bursts(item) or load.peak_s is None:
        yield taking(load, amperes, after if after or starting else -math.inf)
        return
    yield taking(load, rest * item.count)
    period = load.peak_s / use.duty if use.duty > 0 else math.inf
    for n in range(min(int(BURSTS_S / period) + 1, MOST_BURSTS)):
        at = after + n * period
        yield taking(load, amperes - rest * item.count, at, at + load.peak_s)


def taking(load: Load, amperes: float, from_s: float = -math.inf, to_s: float = math.inf) -> Standing:
    """What stands for a while, by what of it stays the same when the voltage moves."""
    if load.draw == "power" and load.rated_v:
        return Standing(power_w=amperes * load.rated_v, from_s=from_s, to_s=to_s)
    if load.draw == "resistance" and load.rated_v:
        return Standing(siemens=amperes / load.rated_v, from_s=from_s, to_s=to_s)
    return Standing(current_a=amperes, from_s=from_s, to_s=to_s)
