"""The chance that the packs last as long as they should, and what that rests on."""

from collections.abc import Iterator, Mapping
from functools import cached_property

from msgspec import Struct

from wired_union.kernel.results import Measure
from wired_union.project.model import Knowledge
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.spread.draw import Drawn, drawn
from wired_union.subjects.power.spread.unknowns import NOTHING, What

COUNT, SOON = 10_000, 1000
"""Missions that are drawn when somebody looks, and for the limit on the strip."""
SPAN = 1.0


class Odds(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked: nothing is drawn before."""

    result: PowerResult
    knowledge: Mapping[str, Knowledge]
    """How well each item is known."""
    wanted_s: float
    """How long it should last: the limit on the runtime, else the mission."""
    read: Mapping[tuple[str, What], float] = NOTHING
    """What instruments have shown of it, and how far the readings go apart."""

    @cached_property
    def gaps(self) -> tuple[str, ...]:
        """What keeps it from being drawn, in words."""
        found = self.result.gaps + [m.said for m in self.result.by_itself]
        run = [p for p in self.result.packs if p.discharge is not None]
        if not found and not run:
            found.append("a pack of cells that runs down")
        if not found and self.wanted_s <= 0:
            found.append("how long it should last")
        return tuple(found)

    def lots(self, count: int = COUNT) -> Iterator[Drawn]:
        """Missions in lots, for a worker."""
        return drawn(self.result, self.knowledge, count, read=self.read)

    @cached_property
    def soon(self) -> Drawn | None:
        """A thousand missions: enough for a chance to within a few of a hundred."""
        return next(reversed(list(drawn(self.result, self.knowledge, SOON, read=self.read))), None)

    def chance_of(self, some: Drawn) -> float:
        """Share of the missions that last."""
        return float((some.runtime_s >= self.wanted_s).mean())


def chance_to_last(odds: Odds) -> Measure:
    """The share of missions that last; unknown while a figure under them is."""
    some = odds.soon if not odds.gaps else None
    return Measure("chance-to-last", "Lasts", odds.chance_of(some) if some is not None else None, "share",
                   direction="at least", missing=odds.gaps, span=SPAN)  # fmt: skip
