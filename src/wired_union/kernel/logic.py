"""Whether the signals of two parts go together: neither is hurt by the other, and each reads the other's high."""

from msgspec import Struct

from wired_union.project.model import Link, Shifter
from wired_union.units import show

HIGH_LEVEL_SHARE = 0.7
"""A CMOS input reads high from 0.7 of its own supply: common practice."""
IN_HAND = 1.1
"""An input survives a tenth more than its supply: common practice."""


class Clash(Struct, frozen=True):
    """Why two levels do not go together: what the one does and what the other does, in words; by what share."""

    mine: str
    theirs: str
    short: float
    given_v: float
    """The figure of the one that would have to be another."""


def level_through(shifter: Shifter, mine: Link, theirs: Link) -> str | None:
    """Why a level shifter does not bring two parts together, in words; None where it does or nothing says.

    Each of its sides works at its own voltage: a part must go together with one, the other with the other.
    """
    if shifter.low_v is None or shifter.high_v is None:
        return None
    sides = [Link(logic_v=v) for v in (shifter.low_v, shifter.high_v)]
    for near, far in (sides, sides[::-1]):
        if level_clash(mine, near) is None and level_clash(theirs, far) is None:
            return None
    between = f"{show(shifter.low_v, 'V')} and {show(shifter.high_v, 'V')}"
    return f"signals at {show(mine.logic_v, 'V')} and {show(theirs.logic_v, 'V')}; the shifter goes between {between}"


def level_clash(mine: Link, theirs: Link) -> Clash | None:
    """What keeps a part from talking to another; None where nothing does, or a level is not given."""
    if mine.logic_v is None or theirs.logic_v is None:
        return None
    high, other = mine.logic_v, theirs.logic_v
    survives = theirs.logic_max_v or other
    if high > survives * IN_HAND:
        return Clash(f"signals at {show(high, 'V')}", f"survives {show(survives, 'V')}", high / survives - 1, high)
    reads = HIGH_LEVEL_SHARE * high
    if other < reads:
        return Clash(f"reads high from {show(reads, 'V')}", f"gives {show(other, 'V')}", reads / other - 1, reads)
    survives = mine.logic_max_v or high
    if other > survives * IN_HAND:
        return Clash(f"survives {show(survives, 'V')}", f"signals {show(other, 'V')}", 1 - survives / other, survives)
    return None
