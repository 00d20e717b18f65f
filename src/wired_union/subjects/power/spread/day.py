"""What a day leaves of a pack in thousands of cases: each with its own currents, sun, chargers and cells."""

from collections.abc import Iterator, Mapping
from functools import cached_property

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Knowledge
from wired_union.subjects.power.light.run import DAY_H, TAPER, WEEK, Light, PackDay
from wired_union.subjects.power.spread.missions import Missions, normal_draws
from wired_union.subjects.power.spread.unknowns import NOTHING, Unknown, What, of_item, rough, unknowns_of

COUNT = 10_000


class DayDrawn(Struct, frozen=True, eq=False):
    """Cases: watt-hours that a usual day leaves, and what a full pack has left after a week of overcast days.

    Over (cases, packs); less than nothing without end where what flows cannot be delivered.
    """

    unknowns: tuple[Unknown, ...]
    normal: Array
    packs: tuple[str, ...]
    """Ids of the packs that are charged."""
    balances_wh: Array
    weeks_left_wh: Array
    times_to_full_s: Array
    """From the reserve to full, at rest; endless where nothing comes."""
    wanted: int

    @property
    def balance_wh(self) -> Array:
        """Of the pack that it leaves least in each case."""
        return np.asarray(self.balances_wh.min(axis=1))

    @property
    def week_left_wh(self) -> Array:
        """Of the pack that has least left in each case."""
        return np.asarray(self.weeks_left_wh.min(axis=1))

    @property
    def full_s(self) -> Array:
        """Of the pack that takes longest in each case."""
        return np.asarray(self.times_to_full_s.max(axis=1))


class DayOdds(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked: nothing is drawn before."""

    light: Light
    knowledge: Mapping[str, Knowledge]
    read: Mapping[tuple[str, What], float] = NOTHING

    @property
    def gaps(self) -> tuple[str, ...]:
        """What keeps it from being drawn, in words."""
        return self.light.gaps

    @cached_property
    def unknowns(self) -> tuple[Unknown, ...]:
        """What the supply rests on, and what brings the charge and keeps it."""
        concept, found = self.light.concept, list(unknowns_of(self.light.power, self.knowledge, self.read))
        items = {i.id: i for i in concept.items}
        for day in self.light.days:
            pack = day.pack.node.item
            found += [rough(pack.id, pack.name, "charge"), of_item(pack, "idle", self.knowledge)]
        found += [of_item(items[p.item], "panel", self.knowledge) for p in concept.sun_panels]
        if concept.sun_panels:
            found.append(rough("", "The sky", "sky"))
        return (*found, *(rough(x.id, x.name, "inlet") for x in concept.inlets))

    def lots(self, count: int = COUNT) -> Iterator[DayDrawn]:
        """All of them. Nothing where there are gaps."""
        if self.gaps:
            return
        some = Missions(self.light.power, self.unknowns, normal_draws(count, self.unknowns))
        left = [_left_of(self.light, day, some) for day in self.light.days]
        balances, weeks, full = (np.column_stack(rows) for rows in zip(*left, strict=True))
        packs = tuple(day.pack.node.item.id for day in self.light.days)
        yield DayDrawn(self.unknowns, some.normal, packs, balances, weeks, full, count)

    @cached_property
    def soon(self) -> DayDrawn | None:
        """All of them."""
        return next(self.lots(), None)


def _left_of(light: Light, day: PackDay, some: Missions) -> tuple[Array, Array, Array]:
    """What a usual day leaves of one pack, what is left of it after a week of overcast ones, and its time to full."""
    pack, n = day.pack.node.item.id, some.flows.index[day.pack.node.item.id]
    watts = (some.flows.power_w[n] + some.flows.loss_w[n]).reshape(some.count, -1)
    holds = some.times(pack, "capacity")
    out = light.taken_wh(watts) + day.by_itself_wh * some.times(pack, "idle") * holds
    sun = some.times("", "sky")
    plugged = _added(some, [(wh, some.times(i, "inlet")) for i, wh in day.by_inlet_wh])
    usual = _added(some, [(wh, some.times(i, "panel") * sun) for i, wh, _ in day.by_panel_wh]) + plugged
    dark = _added(some, [(wh, some.times(i, "panel") * sun) for i, _, wh in day.by_panel_wh]) + plugged
    lost = (1 - day.stored) * some.times(pack, "charge")  # for what is kept, so that no more is lost than comes
    stored = day.stored / (day.stored + lost)
    balance = usual * stored - out
    week = day.usable_wh * holds - WEEK * np.maximum(out - dark * stored, 0.0)
    at_once = _added(some, [(x.power_w or 0.0, some.times(x.id, "inlet")) for x in light.concept.inlets
                            if x.charges == pack])  # fmt: skip
    comes_w = at_once if day.inlets_w > 0 else usual / DAY_H
    with np.errstate(divide="ignore"):
        full = day.usable_wh * holds / (comes_w * stored) * 3600 * TAPER
    cannot = np.isnan(out)
    return np.where(cannot, -np.inf, balance), np.where(cannot, -np.inf, week), np.nan_to_num(full, nan=np.inf)


def _added(some: Missions, rows: list[tuple[float, Array]]) -> Array:
    return sum((wh * times for wh, times in rows), np.zeros(some.count))
