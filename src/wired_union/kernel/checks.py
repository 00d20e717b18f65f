"""Things that must hold, each a share of what there is, and figures to read beside them."""

import math

from msgspec import Struct

from wired_union.kernel.results import Verdict, share_verdict
from wired_union.units import show


class Check(Struct, frozen=True):
    """One thing that must hold: what share of what there is it takes, and the figures behind it."""

    id: str
    name: str
    use: float
    needed: float
    given: float
    unit: str = ""
    extra: str = ""
    of: str = ""
    """id of the item that it is about, where it is about one"""

    @property
    def said(self) -> str:
        """ "428 mN·m of 1.34 N·m" """
        if self.needed == math.inf:
            given = show(self.given, self.unit) if self.unit else f"{self.given:.2f}"
            return f"none is enough; there is {given}{self.extra}"
        if not self.unit:
            return f"{self.needed:.2f} of {self.given:.2f}{self.extra}"
        return f"{show(self.needed, self.unit)} of {show(self.given, self.unit)}{self.extra}"

    @property
    def verdict(self) -> Verdict:
        return share_verdict(self.use)


class Row(Struct, frozen=True):
    """A figure to read; its tone is "" or a verdict."""

    name: str
    text: str
    tone: str = ""


def check_of(name: str, need: float, have: float, unit: str, *, id: str = "", extra: str = "", of: str = "") -> Check:
    """A check of something needed against what there is."""
    use = need / have if have > 0 else float("inf")
    return Check(id or name, name, use, need, have, unit, extra, of)
