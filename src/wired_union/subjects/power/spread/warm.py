"""How warm and cold parts get in thousands of missions: each with its own currents, losses and ways to shed heat."""

from collections.abc import Iterator, Mapping
from functools import cached_property

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.lumps import grouped
from wired_union.physics.lumps_ways import Ways, warmed_ways
from wired_union.project.model import Item, Knowledge
from wired_union.subjects.power.spread.missions import Missions, normal_draws
from wired_union.subjects.power.spread.unknowns import NOTHING, Unknown, What, rough, unknowns_of
from wired_union.subjects.power.warmth.losses import losses_along
from wired_union.subjects.power.warmth.measures import extremes
from wired_union.subjects.power.warmth.run import JUNCTION_LIMIT_C, Case, Heat
from wired_union.subjects.power.warmth.setting import junction_k_per_w

COUNT, CHUNK, MOST_TOGETHER, ROOM = 1000, 100, 128, 3000
"""Missions; at most: missions in a lot, lumps that pass heat to each other, lumps × missions in a lot."""


class WarmDrawn(Struct, frozen=True, eq=False, dict=True):
    """Missions so far. Temperatures over (missions, items); endless where what flows cannot be delivered."""

    unknowns: tuple[Unknown, ...]
    normal: Array
    items: tuple[Item, ...]
    """Parts that are lumps of which all is known."""
    hottest_c: Array
    coldest_c: Array
    junction_c: Array
    """Of regulators that say how warm they get; not a number of all else."""
    steady_k: tuple[float, float]
    """Least margins to too hot and too cold of the parts that are as warm as the air; endless without one."""
    wanted: int

    @cached_property
    def hot_margins_k(self) -> Array:
        """Kelvins of each part to the hottest that it works at; not a number where it does not say."""
        most = np.array([_or_nan(i.part.temperature_max_c) for i in self.items])
        inside = JUNCTION_LIMIT_C - np.where(np.isnan(self.junction_c), -np.inf, self.junction_c)
        return np.where(np.isnan(most), np.nan, np.minimum(most - self.hottest_c, inside))

    @cached_property
    def cold_margins_k(self) -> Array:
        """Kelvins of each part to the coldest that it works at; not a number where it does not say."""
        return self.coldest_c - np.array([_or_nan(i.part.temperature_min_c) for i in self.items])

    @property
    def hot_margin_k(self) -> Array:
        """The least of any part in each mission; endless where none says."""
        return np.fmin.reduce(self.hot_margins_k, axis=1, initial=self.steady_k[0])

    @property
    def cold_margin_k(self) -> Array:
        """The least of any part in each mission; endless where none says."""
        return np.fmin.reduce(self.cold_margins_k, axis=1, initial=self.steady_k[1])


class WarmOdds(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked: nothing is drawn before."""

    heat: Heat
    knowledge: Mapping[str, Knowledge]
    read: Mapping[tuple[str, What], float] = NOTHING

    @cached_property
    def gaps(self) -> tuple[str, ...]:
        """What keeps it from being drawn, in words."""
        if self.heat.unknown:
            return self.heat.unknown
        if not self.heat.concept.modes or not self.heat.known:
            return ("a part that gets warm and of which all is known",)
        _, groups = grouped(self.heat.setting.lumps, [h for _, h in self.heat.setting.heaters])
        if max((len(g.places) for g in groups), default=0) > MOST_TOGETHER:
            return (f"more than {MOST_TOGETHER} parts pass heat to each other: too many to be drawn",)
        return ()

    @cached_property
    def unknowns(self) -> tuple[Unknown, ...]:
        """What the supply rests on, and how each part and each box sheds and stores heat."""
        names = {i.id: i.name for i in self.heat.concept.items}
        setting, found = self.heat.setting, list(unknowns_of(self.heat.power, self.knowledge, self.read))
        for item in setting.items:
            found += [rough(item, names[item], "cooling"), rough(item, names[item], "warmth")]
        for box in self.heat.concept.enclosures:
            found += [rough(box.id, box.name, "walls"), rough(box.id, box.name, "shell")]
            if setting.sun_w[setting.walls[box.id]] > 0:
                found.append(rough(box.id, box.name, "lid"))
        return tuple(found)

    def lots(self, count: int = COUNT) -> Iterator[WarmDrawn]:
        """Missions in lots, each time with all so far; the last has `count`. Nothing where there are gaps."""
        if self.gaps:
            return
        normal = normal_draws(count, self.unknowns)
        each = max(min(CHUNK, ROOM // len(self.heat.setting.lumps.capacity_j_per_k)), 1)
        items = {i.id: i for i in self.heat.concept.items}
        known, steady = tuple(items[i] for i in self.heat.known), self._steady_k()
        lots: list[tuple[Array, Array, Array]] = []
        for start in range(0, count, each):
            some = Missions(self.heat.power, self.unknowns, normal[start : start + each])
            lots.append(self._lot(some, known))
            hot, cold, inside = (np.concatenate(rows) for rows in zip(*lots, strict=True))
            yield WarmDrawn(self.unknowns, normal[: len(hot)], known, hot, cold, inside, steady, count)

    @cached_property
    def soon(self) -> WarmDrawn | None:
        """All of them at once."""
        return next(reversed(list(self.lots())), None)

    def _steady_k(self) -> tuple[float, float]:
        still = [e for e in extremes(self.heat) if e.item.id not in self.heat.setting.items]
        hot = (m for e in still if (m := e.hot_margin_k) is not None)
        cold = (m for e in still if (m := e.cold_margin_k) is not None)
        return min(hot, default=np.inf), min(cold, default=np.inf)

    def _lot(self, some: Missions, known: tuple[Item, ...]) -> tuple[Array, Array, Array]:
        """Hottest, coldest and junctions of some missions, shapes (missions, items)."""
        heat, result = self.heat, self.heat.power
        losses = losses_along(result, some.flows, some.currents(result.currents.average),
                              some.currents(result.currents.rms))  # fmt: skip
        places = list(heat.known.values())
        ends = [self._ends(case, some, heat.burns(losses, least=case.least)) for case in heat.cases]
        hot, cold, airs = (np.array(rows) for rows in zip(*ends, strict=True))
        hottest, around = hot.max(axis=0)[:, places], airs.max(axis=0)
        coldest = np.minimum(cold.min(axis=0)[:, places], min(case.starts_c for case in heat.cases))
        inside = np.array([bool(junction_k_per_w(i.part)) for i in known], dtype=bool)
        junction = np.where(inside, hottest, np.nan)
        hottest = np.where(inside, around, hottest)
        comes = heat.mode_shares.any(axis=0)
        watts = some.flows.power_w.reshape(len(some.flows.index), some.count, -1)
        lost = np.isnan(watts[:, :, comes]).any(axis=(0, 2))
        hottest[lost], coldest[lost] = np.inf, -np.inf
        return hottest, coldest, junction

    def _ends(self, case: Case, some: Missions, burns: Array) -> tuple[Array, Array, Array]:
        """Hottest and coldest of every lump, and the warmest air around every known part; (missions, …)."""
        heat, lumps = self.heat, case.setting.lumps
        sheds, stores = self._by_lump(some, "cooling", "walls"), self._by_lump(some, "warmth", "shell")
        owner = [min(a, b) for a, b, _ in lumps.links]
        heaters = case.setting.heaters
        ways = Ways(
            lumps.capacity_j_per_k * stores,
            np.array([w for _, _, w in lumps.links]) * sheds[:, owner],
            lumps.outside_w_per_k * sheds,
            np.array([h.power_w * some.times(i, "current") for i, h in heaters]).T.reshape(some.count, -1),
        )
        signals = np.column_stack([heat.mode_shares, case.air.sun, case.air.outside_c])
        into = np.concatenate([
            burns.reshape(some.count, -1, burns.shape[1]),
            (case.setting.sun_w * self._by_lump(some, None, "lid"))[:, None], ways.outside_w_per_k[:, None],
        ], axis=1)  # fmt: skip
        start = np.full(burns.shape[1], case.starts_c)
        end = warmed_ways(lumps, ways, signals, into, heat.step_s, start, [h for _, h in heaters])
        hot, outside = end.max(axis=1), np.full(some.count, float(case.air.outside_c.max()))
        around = [hot[:, k] if (k := heat.air_lump(i)) is not None else outside for i in heat.known]
        return hot, end.min(axis=1), np.array(around).T.reshape(some.count, -1)

    def _by_lump(self, some: Missions, of_part: What | None, of_box: What) -> Array:
        """Times its own that a figure of each lump is, of parts and of boxes; shape (missions, n)."""
        setting = self.heat.setting
        found = np.ones((some.count, len(setting.lumps.capacity_j_per_k)))
        if of_part is not None:
            for item, n in setting.items.items():
                found[:, n] = some.times(item, of_part)
        for box in setting.airs:
            found[:, [setting.airs[box], setting.walls[box]]] = some.times(box, of_box)[:, None]
        return found


def _or_nan(value: float | None) -> float:
    return np.nan if value is None else value
