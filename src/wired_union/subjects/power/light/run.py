"""What charges each pack on a usual and on an overcast day, what the mission takes of it, and how its charge goes."""

import math
from functools import cached_property

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import MONTH_H, Array
from wired_union.physics.sun import CLEARNESS, STEPS_A_DAY, day_hours
from wired_union.project.model import Brief, Concept, Item
from wired_union.project.sun_model import SunPanel
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.light.counted import panel_w
from wired_union.subjects.power.packs import PackResult
from wired_union.subjects.power.warmth.air import airs
from wired_union.subjects.power.warmth.run import Heat

DAY_S, DAY_H, WEEK, FREEZING_C = 86_400.0, 24.0, 7, 0.0
TAPER = 1.2
"""A charge to full takes a fifth longer than its energy over its power, since it ends slowly: common practice."""
MOST_DAYS, LEAST_DAYS = 366, 14


class PackDay(Struct, frozen=True, eq=False):
    """One pack's day: watt-hours in by quarters of an hour on a usual and an overcast day, and out."""

    pack: PackResult
    usual_w: Array
    overcast_w: Array
    out_wh: float
    usable_wh: float
    blocked_h: float
    """Hours of light in which it was too cold to charge."""
    inlets_w: float
    """Power of all that is not the sun, while it is plugged in."""
    by_panel_wh: tuple[tuple[str, float, float], ...] = ()
    """What each panel brings on a usual and on an overcast day, by its item."""
    by_inlet_wh: tuple[tuple[str, float], ...] = ()
    """What each thing that is plugged in or cranked brings in a day, by its id."""
    by_itself_wh: float = 0.0
    """The part of what goes out that its cells lose by themselves."""

    @property
    def stored(self) -> float:
        """Share of what is put into its cells that they give again."""
        return self.pack.figures.chemistry.stored_share

    @property
    def in_wh(self) -> float:
        """On a usual day."""
        return _day_wh(self.usual_w)

    @property
    def dark_wh(self) -> float:
        """On an overcast day."""
        return _day_wh(self.overcast_w)

    @property
    def balance_wh(self) -> float:
        """What a usual day leaves, of what the cells give again."""
        return self.in_wh * self.stored - self.out_wh

    @property
    def week_left_wh(self) -> float:
        """What is left of a full pack after a week of overcast days; below 0 it was empty before."""
        return self.usable_wh - WEEK * max(self.out_wh - self.dark_wh * self.stored, 0.0)

    @property
    def lasts_days(self) -> float:
        """Usual days until it is empty; endless where it gains."""
        return self.usable_wh / -self.balance_wh if self.balance_wh < 0 else math.inf

    @property
    def neutral_factor(self) -> float:
        """Times the sun that would make a usual day even; endless where the sun gives nothing."""
        return self.out_wh / (self.in_wh * self.stored) if self.in_wh > 0 else math.inf

    @property
    def time_to_full_s(self) -> float:
        """From the reserve to full, at rest: on what is plugged in, else in the sun alone; endless where nothing is."""
        if self.inlets_w > 0:
            return self.usable_wh / (self.inlets_w * self.stored) * 3600 * TAPER
        return self.usable_wh / (self.in_wh * self.stored) * DAY_S * TAPER if self.in_wh > 0 else math.inf


class Light(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked."""

    concept: Concept
    brief: Brief
    power: PowerResult
    heat: Heat

    @cached_property
    def charged(self) -> tuple[str, ...]:
        """Packs that something is said to charge."""
        named = [p.charges for p in self.concept.sun_panels] + [x.charges for x in self.concept.inlets]
        return tuple(dict.fromkeys(n for n in named if n))

    @cached_property
    def gaps(self) -> tuple[str, ...]:
        """What is not known of it, in words."""
        items = {i.id: i for i in self.concept.items}
        found = self.power.gaps
        known = [p for p in self.power.packs if p.node.item.id in self.charged]
        found += [f"what {p.node.item.name} cannot deliver" for p in known if not math.isfinite(self._out_wh(p))]
        if not self.charged:
            found.append("what charges a pack")
        for panel in self.concept.sun_panels:
            name = items[panel.item].name
            if items[panel.item].part.panel is None:
                found.append(f"{name}: its power in full sun")
            if not panel.charges:
                found.append(f"{name}: what it charges")
        if self.concept.sun_panels and self.brief.site.latitude_deg is None:
            found.append("the latitude at which it stands")
        found += [f"{x.name}: the power that reaches the cells" for x in self.concept.inlets if x.power_w is None]
        return tuple(dict.fromkeys(found))

    @cached_property
    def days(self) -> tuple[PackDay, ...]:
        """Every pack that is charged and known."""
        return tuple(self._day(p) for p in self.power.packs if p.node.item.id in self.charged)

    def _day(self, pack: PackResult) -> PackDay:
        item = pack.node.item
        may = self._may_charge(item)
        usual, dark = (self._panels_w(item.id, w) for w in (self.brief.site.weather, "overcast"))
        sun, dim = (sum(rows.values(), np.zeros(STEPS_A_DAY)) for rows in (usual, dark))
        blocked = float(((sun > 0) & ~may).sum()) * DAY_H / STEPS_A_DAY
        inlets = {i: watts * may for i, watts in self._inlets_w(item.id).items()}
        plugged = sum(inlets.values(), np.zeros(STEPS_A_DAY))
        at_once = sum(x.power_w or 0.0 for x in self.concept.inlets if x.charges == item.id)
        energy = pack.figures.alone.values.energy_wh
        return PackDay(pack, sun * may + plugged, dim * may + plugged, self._out_wh(pack),
                       energy * (1 - self.power.energy_reserve), blocked, at_once,
                       tuple((i, _day_wh(usual[i] * may), _day_wh(dark[i] * may)) for i in usual),
                       tuple((i, _day_wh(watts)) for i, watts in inlets.items()), self._by_itself_wh(pack))  # fmt: skip

    def _panels_w(self, pack: str, weather: str) -> dict[str, Array]:
        """Power by quarters of an hour of each panel that charges a pack, by its item."""
        site, items = self.brief.site, {i.id: i for i in self.concept.items}
        found: dict[str, Array] = {}
        if site.latitude_deg is None:
            return found
        for panel in self.concept.sun_panels:
            facet = items[panel.item].part.panel
            if panel.charges == pack and facet is not None:
                peak = facet.peak_power_w * items[panel.item].count
                found[panel.item] = panel_w(panel, peak, site.latitude_deg, site.day_of_year, CLEARNESS[weather])
        return found

    def _inlets_w(self, pack: str) -> dict[str, Array]:
        """Power by quarters of an hour of what is plugged in, from noon on, by its id."""
        found = {}
        for inlet in self.concept.inlets:
            if inlet.charges == pack and inlet.power_w is not None:
                share = np.clip(inlet.hours_a_day * STEPS_A_DAY / DAY_H - np.arange(STEPS_A_DAY), 0.0, 1.0)
                found[inlet.id] = np.roll(share, STEPS_A_DAY // 2) * inlet.power_w
        return found

    def _may_charge(self, item: Item) -> "np.ndarray[tuple[int], np.dtype[np.bool_]]":
        """The quarters of an hour in which it is warm enough: lithium is never charged below 0 °C."""
        chemistry = next(p.figures.chemistry for p in self.power.packs if p.node.item.id == item.id)
        always = np.ones(STEPS_A_DAY, dtype=bool)
        if not chemistry.lithium or self.brief.coldest_c >= FREEZING_C:
            return always
        own = {w.item for w in self.concept.warm_parts}
        extreme = next((e for e in self.heat.extremes if e.item.id == item.id and item.id in own), None)
        if extreme is not None and extreme.coldest_c >= FREEZING_C:
            return always
        if self.brief.air.kind != "day":
            return ~always
        since = (day_hours() - self.brief.air.begins_h) % DAY_H * 3600.0
        return np.asarray(airs(self.brief, since)[0].outside_c >= FREEZING_C, dtype=np.bool_)

    def _out_wh(self, pack: PackResult) -> float:
        """What a day takes of the cells."""
        flows, n = self.power.flows, self.power.flows.index[pack.node.item.id]
        watts = (flows.power_w[n] + flows.loss_w[n])[: self.power.modes]
        return float(self.taken_wh(watts)) + self._by_itself_wh(pack)

    def taken_wh(self, watts: Array) -> Array:
        """Energy of a day of missions for watts over (…, modes); modes that never come take nothing."""
        comes = self._hours_a_day > 0
        return np.asarray(watts[..., comes] @ self._hours_a_day[comes])

    @cached_property
    def _hours_a_day(self) -> Array:
        """How long each mode lasts in a day of missions: as many as are said, or as fit one after another."""
        mission, found = self.concept.mission, np.zeros(self.power.modes)
        a_day = self.brief.site.missions_a_day or (DAY_S / mission.duration_s if mission.duration_s > 0 else 0.0)
        for phase in mission.phases:
            found[self.power.mode_index[phase.mode]] += phase.duration_s / 3600 * mission.repeats * a_day
        return found

    @staticmethod
    def _by_itself_wh(pack: PackResult) -> float:
        """What its cells lose in a day by themselves."""
        spec = pack.node.item.part.pack
        said = spec.self_discharge_a_month if spec is not None else None
        lost = pack.figures.chemistry.self_discharge_a_month if said is None else said
        return pack.figures.alone.values.energy_wh * lost / MONTH_H * DAY_H

    def charge_over(self, day: PackDay) -> tuple[Array, Array]:
        """Days and share of the usable charge: usual days, the worst week in the middle, from full."""
        count = min(max(math.ceil(self.concept.mission.duration_s / DAY_S), LEAST_DAYS), MOST_DAYS)
        worst = range(count // 2 - WEEK // 2, count // 2 - WEEK // 2 + WEEK)
        step_h, now, found = DAY_H / STEPS_A_DAY, day.usable_wh, [1.0]
        for d in range(count):
            comes = day.overcast_w if d in worst else day.usual_w
            for watts in comes.tolist():
                now = min(max(now + (watts * day.stored - day.out_wh / DAY_H) * step_h, 0.0), day.usable_wh)
                found.append(now / day.usable_wh if day.usable_wh > 0 else 0.0)
        return np.arange(len(found)) / STEPS_A_DAY, np.array(found)


def _day_wh(watts: Array) -> float:
    """Energy of a day by quarters of an hour."""
    return float(watts.sum()) * DAY_H / STEPS_A_DAY


def best_tilt_deg(panel: SunPanel, latitude_deg: float, day: int, clearness: float) -> float:
    """The tilt, to 5°, at which it brings most on a day."""
    tilts = [float(t) for t in range(0, 91, 5)]
    return max(tilts, key=lambda t: float(panel_w(panel.but(tilt_deg=t), 1.0, latitude_deg, day, clearness).sum()))
