"""How far controllers dip in hundreds of starts: each with its own currents, cells and losses, stepped one by one."""

from collections.abc import Iterator, Mapping
from functools import cached_property, partial

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Knowledge
from wired_union.subjects.motion.gives import Shaft
from wired_union.subjects.power.assess import PowerResult, assess_powers
from wired_union.subjects.power.first.measures import brown_out
from wired_union.subjects.power.first.run import First
from wired_union.subjects.power.spread.figures import usual_times, with_times
from wired_union.subjects.power.spread.missions import Missions, normal_draws
from wired_union.subjects.power.spread.unknowns import NOTHING, Unknown, What, unknowns_of

COUNT, CHUNK = 200, 10
"""Starts that are stepped, and how many at a time: a step of one takes as long as hundreds of missions."""


class StartDrawn(Struct, frozen=True, eq=False):
    """Starts so far: the least margin of any controller to its reset in each, in volts."""

    unknowns: tuple[Unknown, ...]
    normal: Array
    margin_v: Array
    wanted: int


class StartOdds(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked: nothing is drawn before."""

    first: First
    supply: PowerResult
    """What the starts rest on, with heaters and radios at work."""
    shafts: tuple[Shaft, ...]
    usual: Mapping[str, float]
    """Currents of loads whose task sets them."""
    knowledge: Mapping[str, Knowledge]
    read: Mapping[tuple[str, What], float] = NOTHING

    @cached_property
    def gaps(self) -> tuple[str, ...]:
        """What keeps it from being drawn, in words."""
        measure = brown_out(self.first)
        return measure.missing or (() if measure.value is not None else ("what starts",))

    @cached_property
    def unknowns(self) -> tuple[Unknown, ...]:
        return unknowns_of(self.supply, self.knowledge, self.read)

    def lots(self, count: int = COUNT) -> Iterator[StartDrawn]:
        """Starts in lots, each time with all so far; the last has `count`. Nothing where there are gaps."""
        if self.gaps:
            return
        normal, found = normal_draws(count, self.unknowns), np.empty(0)
        for start in range(0, count, CHUNK):
            some = Missions(self.supply, self.unknowns, normal[start : start + CHUNK])
            found = np.concatenate([found, self._margins_v(some)])
            yield StartDrawn(self.unknowns, normal[: len(found)], found, count)

    @cached_property
    def soon(self) -> StartDrawn | None:
        """All of them at once."""
        return next(reversed(list(self.lots())), None)

    def _margins_v(self, some: Missions) -> Array:
        """The least margin in each."""
        each = [partial(_times, some, n) for n in range(some.count)]
        concepts = [with_times(self.supply.concept, times) for times in each]
        usual = [usual_times(self.usual, times) for times in each]
        results = assess_powers(concepts, [self.supply.around] * some.count, usual)
        margins = (brown_out(First(r, self.shafts)).value for r in results)
        return np.array([-np.inf if m is None else m for m in margins])


def _times(some: Missions, n: int, item: str, what: What) -> float:
    return float(some.times(item, what)[n])
