"""Temperatures over the mission, in the warmest and the coldest air of the brief or along its curve."""

import math
from collections.abc import Mapping
from functools import cached_property

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.battery import Array
from wired_union.physics.lumps import Heater, Warmth, settled, warmed
from wired_union.project.model import Brief, Concept, Item
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.instants import HALF
from wired_union.subjects.power.packs import PackFigures
from wired_union.subjects.power.warmth.air import Air, airs
from wired_union.subjects.power.warmth.losses import Losses, losses_of
from wired_union.subjects.power.warmth.setting import Setting, junction_k_per_w, setting_of

LEAST_STEPS, MOST_STEPS, STEP_S, LONGEST_S = 60, 1000, 30.0, 60 * 86_400.0
SEEN_W, JUNCTION_LIMIT_C = 1e-3, 125.0
"""Heat that warms nothing that could be measured."""


class Extreme(Struct, frozen=True):
    """The warmest and the coldest that a part gets, and when."""

    item: Item
    hottest_c: float
    hottest_at_s: float
    coldest_c: float
    coldest_at_s: float
    junction_c: float | None = None
    """Of a regulator that says how warm it gets: its rating is then of the air around it."""

    @property
    def hot_margin_k(self) -> float | None:
        """Kelvins to the hottest that it works at; None where it does not say."""
        most = self.item.part.temperature_max_c
        inside = math.inf if self.junction_c is None else JUNCTION_LIMIT_C - self.junction_c
        return None if most is None else min(most - self.hottest_c, inside)

    @property
    def cold_margin_k(self) -> float | None:
        """Kelvins to the coldest that it works at; None where it does not say."""
        least = self.item.part.temperature_min_c
        return None if least is None else self.coldest_c - least


class Case(Struct, frozen=True, eq=False):
    """What the parts are put through: an air, the lumps in it, how warm all begins, and how much burns."""

    air: Air
    setting: Setting
    starts_c: float
    least: bool
    """Whether no more burns than surely does: in the cold."""


class WarmRun(Struct, frozen=True, eq=False):
    """One air: temperatures at the end of each step."""

    air: Air
    times_s: Array
    warmth: Warmth


class Heat(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked."""

    concept: Concept
    brief: Brief
    power: PowerResult
    unknown: tuple[str, ...] = ()
    """What is not known of the heat, in words."""

    @cached_property
    def losses(self) -> Mapping[str, Losses]:
        return losses_of(self.power)

    @cached_property
    def setting(self) -> Setting:
        return setting_of(self.concept, {i: self._burns(x) for i, x in self.losses.items()}, self._volts)

    @cached_property
    def _volts(self) -> Mapping[str, float]:
        """What heaters with a thermostat get in any mode, near the end of the charge; not a number where that is not
        known.
        """
        heated = {w.item for w in self.concept.warm_parts if w.holds_c is not None}
        flows, modes = self.power.flows, self.power.modes
        return {i: float(flows.input_v[n, :modes].min(initial=np.inf)) - self._falls_v(i)
                for i, n in flows.index.items() if i in heated and modes}  # fmt: skip

    def _falls_v(self, item_id: str) -> float:
        """By how much what feeds an item falls from half its charge to its reserve; not behind a regulator."""
        tree = self.power.tree
        root = self.power.figures.get(tree.root_of(item_id) or "")
        held = any(tree.nodes[i].item.part.regulator is not None for i in tree.above(item_id))
        if held or not isinstance(root, PackFigures):
            return 0.0
        return root.open_circuit_at(HALF) - root.open_circuit_at(self.power.energy_reserve)

    @cached_property
    def _in_the_wind(self) -> Setting:
        """The same lumps with the wind around what stands outside."""
        wind = self.brief.air.wind_m_s
        if wind <= 0:
            return self.setting
        return setting_of(self.concept, {i: self._burns(x) for i, x in self.losses.items()}, self._volts, wind)

    @cached_property
    def cases(self) -> tuple[Case, ...]:
        """Every air with its setting: still where it is to be warm, in the wind where it is to be cold."""
        found = airs(self.brief, self.times_s - self.step_s / 2)
        if len(found) == 1 and self.brief.air.wind_m_s > 0:
            found = found[0], replace(found[0], name=f"{found[0].name}, windy")
        return tuple(Case(air, setting, self._starts_c(air), air.name == "coldest")
                     for air, setting in zip(found, (self.setting, self._in_the_wind), strict=False))  # fmt: skip

    @staticmethod
    def _burns(losses: Losses) -> bool:
        return not bool((losses.most_w < SEEN_W).all())

    @property
    def described(self) -> bool:
        """Whether the team has said anything of boxes and of how parts shed their heat."""
        return bool(self.concept.enclosures or self.concept.warm_parts)

    @cached_property
    def step_s(self) -> float:
        whole = min(self.concept.mission.duration_s, LONGEST_S) or 3600.0
        return whole / min(max(math.ceil(whole / STEP_S), LEAST_STEPS), MOST_STEPS)

    @cached_property
    def times_s(self) -> Array:
        """End of every step."""
        whole = min(self.concept.mission.duration_s, LONGEST_S) or 3600.0
        return np.asarray(np.arange(1, round(whole / self.step_s) + 1) * self.step_s, dtype=np.float64)

    @cached_property
    def runs(self) -> tuple[WarmRun, ...]:
        """Every air that the parts are put through: heat at its most in the warm, at its least in the cold."""
        found = []
        for case in self.cases:
            air, burns = case.air, self.burns(self.losses, least=case.least)
            heat = self.mode_shares @ burns + air.sun[:, None] * self.setting.sun_w
            start = np.full(heat.shape[1], case.starts_c)
            heaters = [h for _, h in self.setting.heaters]
            found.append(WarmRun(air, self.times_s, warmed(case.setting.lumps, heat, air.outside_c, self.step_s, start,
                                                           heaters)))  # fmt: skip
        return tuple(found)

    def _starts_c(self, air: Air) -> float:
        """How warm everything is as the mission begins."""
        said = self.brief.air.starts_c
        return float(air.outside_c[0]) if said is None else said

    def burns(self, losses: Mapping[str, Losses], *, least: bool) -> Array:
        """What each lump burns at each instant of `losses`, shape (instants, n); nothing of what is not known."""
        instants = max((len(x.most_w) for x in losses.values()), default=len(self.concept.modes))
        table = np.zeros((instants, len(self.setting.lumps.capacity_j_per_k)))
        controlled = {i for i, _ in self.setting.heaters}
        for item, n in self.setting.items.items():
            if item in losses and item not in controlled:
                own = losses[item].least_w if least else losses[item].most_w
                table[:, n] = np.where(np.isnan(own), 0.0, own)
        return table

    @cached_property
    def mode_shares(self) -> Array:
        """Share of each step that each mode takes, shape (steps, modes)."""
        modes, mission = self.concept.modes, self.concept.mission
        place = {m.id: n for n, m in enumerate(modes)}
        edges = np.concatenate([[0.0], self.times_s])
        cycle = mission.cycle_s
        if not mission.phases or cycle <= 0:
            return np.zeros((len(self.times_s), len(modes)))
        ends = np.cumsum([0.0, *(p.duration_s for p in mission.phases)])
        spent = np.zeros((len(edges), len(modes)))
        for k, phase in enumerate(mission.phases):
            at = edges % cycle
            within = np.clip(at - ends[k], 0.0, phase.duration_s) + np.floor(edges / cycle) * phase.duration_s
            spent[:, place[phase.mode]] += within
        return np.asarray(np.diff(spent, axis=0) / self.step_s)

    @cached_property
    def bounds(self) -> tuple[Extreme, ...]:
        """The same as `extremes`, further out and without a step: everything burns its most for ever in the warmest
        air, and nothing in the coldest.

        Heat only spreads: more of it, or of the air's warmth, makes nothing colder (the lumps' matrix is an M-matrix;
        Berman & Plemmons, Nonnegative Matrices in the Mathematical Sciences, from memory).
        """
        setting = self.setting
        most = max(float(case.air.outside_c.max()) for case in self.cases)
        least = min(float(case.air.outside_c.min()) for case in self.cases)
        starts = [case.starts_c for case in self.cases]
        heat = np.zeros(len(setting.lumps.capacity_j_per_k))
        for item, n in setting.items.items():
            if item in self.losses:
                heat[n] = max(float(np.nan_to_num(self.losses[item].most_w).max(initial=0.0)), 0.0)
        for _, heater in setting.heaters:
            heat[heater.warms] += heater.power_w
        begun = max(most, *starts)  # as if the air were as warm as it begins
        hot = settled(setting.lumps, heat + setting.sun_w, begun)
        cold = min(least, *starts)
        items = {i.id: i for i in self.concept.items}
        boxes = {w.item: setting.airs.get(w.enclosure) for w in self.concept.warm_parts}
        return tuple(
            self._bound(items[i], float(hot[n]), cold, hot[k] if (k := boxes.get(i)) is not None else most)
            for i, n in self.known.items()
        )

    @staticmethod
    def _bound(item: Item, hot_c: float, cold_c: float, air_c: float) -> Extreme:
        if junction_k_per_w(item.part):
            return Extreme(item, float(air_c), 0.0, cold_c, 0.0, hot_c)
        return Extreme(item, hot_c, 0.0, cold_c, 0.0)

    def clears(self, in_hand_k: float) -> bool:
        """Whether the bounds alone show that every part keeps so much to what it works at: no step is needed."""
        margins = (m for b in self.bounds for m in (b.hot_margin_k, b.cold_margin_k) if m is not None)
        return all(m >= in_hand_k for m in margins)

    @cached_property
    def extremes(self) -> tuple[Extreme, ...]:
        """Of every part that is a lump and of which all is known."""
        items = {i.id: i for i in self.concept.items}
        return tuple(self._extreme(items[i], n) for i, n in self.known.items())

    @cached_property
    def known(self) -> Mapping[str, int]:
        """Items that are lumps of which all is known, and their lumps."""
        return {i: n for i, n in self.setting.items.items() if i not in self._doubtful}

    @cached_property
    def _doubtful(self) -> frozenset[str]:
        """Parts whose temperature rests on a figure that is not known: their own, their box's, their plate's."""
        lacks, found = set(self.setting.lacks), set(self.setting.lacks)
        for how in self.concept.warm_parts:
            if how.enclosure in lacks or (how.plate and how.plate in lacks):
                found.add(how.item)
        heated = {w.plate for w in self.concept.warm_parts if w.item in lacks and w.holds_c is not None}
        shared = {w.item for w in self.concept.warm_parts if w.enclosure and self._box_lacks(w.enclosure, found)}
        return frozenset(found | heated | shared)

    def _box_lacks(self, box: str, lacks: set[str]) -> bool:
        """Whether something in a box burns of which nobody knows how it passes that on."""
        return any(w.enclosure == box and w.item in lacks for w in self.concept.warm_parts)

    @cached_property
    def _ends(self) -> tuple[tuple[Array, Array, Array, Array], ...]:
        """Of every run the hottest and the coldest of each lump, and the steps in which it is."""
        tables = (r.warmth.end_c for r in self.runs)
        return tuple((t.max(axis=0), t.argmax(axis=0), t.min(axis=0), t.argmin(axis=0)) for t in tables)

    def _extreme(self, item: Item, n: int) -> Extreme:
        hottest, top = max((float(high[n]), int(when[n])) for high, when, _, _ in self._ends)
        coldest, low = min((float(low[n]), int(when[n])) for _, _, low, when in self._ends)
        junction, when = None, float(self.times_s[low])
        if junction_k_per_w(item.part):
            junction, hottest = hottest, max(float(self.air_around(item.id, r).max()) for r in self.runs)
        first = min(case.starts_c for case in self.cases)
        if first < coldest:
            coldest, when = first, 0.0
        return Extreme(item, hottest, float(self.times_s[top]), coldest, when, junction)

    def air_lump(self, item_id: str) -> int | None:
        """The lump of the air in the box that an item stands in; None where it stands outside."""
        box = next((w.enclosure for w in self.concept.warm_parts if w.item == item_id), "")
        return self.setting.airs.get(box)

    def air_around(self, item_id: str, run: WarmRun) -> Array:
        """The air that an item stands in: of its box, else outside."""
        lump = self.air_lump(item_id)
        found: Array = run.air.outside_c if lump is None else run.warmth.end_c[:, lump]
        return found

    def heater_w(self, item_id: str) -> Array | None:
        """What a heater gives in each step of the coldest air; None for one that is none, or is not known."""
        for n, (item, _) in enumerate(self.setting.heaters):
            if item == item_id:
                return self.runs[-1].warmth.heater_w[:, n]
        return None

    def heater_by_mode(self, item_id: str) -> Array | None:
        """Its mean in each mode of the coldest air, shape (modes,); 0 in a mode that never comes."""
        given = self.heater_w(item_id)
        if given is None:
            return None
        share = self.mode_shares
        whole = share.sum(axis=0)
        return np.asarray(np.divide(given @ share, whole, out=np.zeros(share.shape[1]), where=whole > 0))

    def settled_c(self, item_id: str, watts: float, outside_c: float) -> float:
        """Where one part would end that burns so much alone."""
        heat = np.zeros(len(self.setting.lumps.capacity_j_per_k))
        heat[self.setting.items[item_id]] = watts
        return float(settled(self.setting.lumps, heat, outside_c)[self.setting.items[item_id]])


def heat_of(result: PowerResult, concept: Concept, brief: Brief) -> Heat:
    """Heat and cold of what power has worked out; nothing is worked out before it is asked.

    `concept` has the parts as they are now: power does not look at what they weigh and how large they are.
    """
    gaps = result.gaps
    if bool(np.isnan(result.flows.power_w[:, : result.modes]).any()) and not gaps:
        gaps.append("the heat of what cannot be delivered")
    return Heat(concept, brief, result, tuple(gaps))


__all__ = ["Extreme", "Heat", "Heater", "WarmRun", "heat_of"]
