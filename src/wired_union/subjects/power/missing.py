"""What is not known of a concept's power, in words."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from msgspec import Struct

from wired_union.physics.battery import MONTH_H
from wired_union.physics.cell_state import FREEZING_C
from wired_union.physics.discharge import stretched_s
from wired_union.project.model import Concept, Item
from wired_union.subjects.motion.gives import moved_by_mass
from wired_union.subjects.power.bent import at_two
from wired_union.subjects.power.currents import RUNNING, Currents, startup_a, turns
from wired_union.subjects.power.joined import lacking
from wired_union.subjects.power.packs import PackFigures, PackResult
from wired_union.subjects.power.supplies import SupplyFigures
from wired_union.subjects.power.tree import PowerTree, state_in
from wired_union.units import show


class Gap(Struct, frozen=True):
    """What is not known, in words, the item that lacks it, "" for none, and what would fill it."""

    said: str
    item: str = ""
    lacks: Literal["a figure", "a peak", "a feed", "modes", "a mission", "a pack", "warmth"] = "a figure"


NO_MISSION = Gap("the mission: which modes, and how long each lasts", lacks="a mission")


class Around(Struct, frozen=True):
    """What of the rest of the project bears on its power."""

    energy_reserve: float
    coldest_c: float
    hottest_c: float
    unweighed: tuple[str, ...] = ()
    """Names of parts whose mass is not known, which something may have to move."""
    silent: tuple[str, ...] = ()
    """Names of radios that are at work as long as they are on the air, where that is not known."""
    packs_c: tuple[tuple[str, float], ...] = ()
    """The coldest that packs get whose warmth is worked out, by item."""
    charged_w: tuple[tuple[str, float], ...] = ()
    """What the sun surely brings to packs, on the mean of a day, by item."""
    unheated: tuple[str, ...] = ()
    """What is not known of heaters that a thermostat switches, in words."""

    def pack_c(self, item_id: str) -> float:
        """How cold a pack gets: as worked out in its box, else the coldest air."""
        return next((c for i, c in self.packs_c if i == item_id), self.coldest_c)


def missing_of(
    concept: Concept, tree: PowerTree, currents: Currents, packs: Mapping[str, PackFigures | SupplyFigures | None],
    around: Around,
) -> tuple[Gap, ...]:  # fmt: skip
    found = [*_missing_in_the_cold(concept, around), *(Gap(said) for said in around.unheated)]
    found += [*_missing_currents(concept, currents), *_missing_parts(concept, tree, packs)]
    work = _at_work(concept)
    found += [
        gap for item in concept.items if item.id in tree.nodes and item.id in work for gap in _missing_peaks(item)
    ]
    found += [Gap(f"{name}: how long it is on the air") for name in around.silent]
    if around.unweighed and not moved_by_mass(concept).isdisjoint(tree.nodes):
        found += [Gap(f"{name}: its mass, which has to be moved") for name in around.unweighed]
    return tuple(dict.fromkeys(found))


def _missing_in_the_cold(concept: Concept, around: Around) -> Iterator[Gap]:
    """Below freezing a cell gives less, through more resistance: by how much, only its maker or a trial can say.

    A pack in a box, or with a heater, is as cold as it gets there.
    """
    if around.coldest_c >= FREEZING_C:
        return
    for item in concept.items:
        pack, coldest_c = item.part.pack, around.pack_c(item.id)
        if pack is None or coldest_c >= FREEZING_C:
            continue
        if pack.measured_at_c is None or pack.measured_at_c > coldest_c:
            yield Gap(f"{item.name}: its capacity and resistance at {show(coldest_c, '°C')}", item.id, "warmth")


IN_HAND = 2.0
"""How many times what such cells typically lose by themselves a runtime bears before that is asked for."""


def missing_by_itself(packs: Sequence[PackResult], wanted_s: float) -> Iterator[Gap]:
    """What cells lose by themselves, where it decides whether they last as long as is wanted."""
    for pack in packs:
        run, members = pack.discharge, pack.figures.members or (pack.figures,)
        silent = [m for m in members if m.item.part.pack is not None
                  and m.item.part.pack.self_discharge_a_month is None]  # fmt: skip
        if run is None or not silent:
            continue
        more = max(IN_HAND * m.chemistry.self_discharge_a_month / MONTH_H for m in silent)
        least_s = stretched_s(pack.bare_s, 1 - run.charge, pack.figures.net_lost_per_h + more)
        if least_s < wanted_s <= run.runtime_s:
            yield from (Gap(f"{m.item.name}: the share of its charge that it loses by itself in a month", m.item.id)
                        for m in silent)  # fmt: skip


def _at_work(concept: Concept) -> set[str]:
    """Ids of the items that some mode puts to work."""
    found: set[str] = set()
    for mode in concept.modes:
        if mode.otherwise in RUNNING:
            found.update(i.id for i in concept.items if state_in(mode, i.id) in RUNNING)
        else:
            found.update(u.item for u in mode.uses if u.state in RUNNING)
    return found


def _missing_peaks(item: Item) -> Iterator[Gap]:
    """What the worst instant needs of a load that works in some mode: its peak, or how it starts."""
    load = item.part.load
    if load is None:
        return
    startup = startup_a(item)
    if startup is None and turns(item.part):
        yield Gap(f"{item.name}: its current while it starts", item.id, "a peak")
    elif startup is None and load.peak_a is None:
        yield Gap(f"{item.name}: its peak current", item.id, "a peak")
    elif startup is not None and load.rated_v is None and load.draw == "current":
        yield Gap(f"{item.name}: the voltage its currents are given at", item.id, "a peak")


def _missing_currents(concept: Concept, currents: Currents) -> list[Gap]:
    if not currents.unknown:
        return []
    names = {i.id: i.name for i in concept.items}
    states = {m.id: {u.item: u.state for u in m.uses} for m in concept.modes}
    rest = {m.id: m.otherwise for m in concept.modes}
    return [Gap(f"{names[i]}: its current when {states[m].get(i, rest[m])}", i) for i, m in currents.unknown]


def _missing_parts(
    concept: Concept, tree: PowerTree, packs: Mapping[str, PackFigures | SupplyFigures | None]
) -> list[Gap]:
    gaps = [Gap(f"{i.name}: what feeds it", i.id, "a feed") for i in tree.unfed]
    if not concept.modes:
        gaps.append(Gap("how it is used: its modes", lacks="modes"))
    if not concept.mission.phases:
        gaps.append(NO_MISSION)
    for item in concept.items:
        regulator, load = item.part.regulator, item.part.load
        if item.part.pack is not None and packs[item.id] is None:
            gaps.append(Gap(f"{item.name}: chemistry, cell capacity and resistance", item.id))
        if regulator is not None and regulator.passes_power and not regulator.efficiency_curve:
            gaps.append(Gap(f"{item.name}: its efficiency curve", item.id))
        if regulator is not None and regulator.second_efficiency_curve and at_two(regulator) is None:
            gaps.append(Gap(f"{item.name}: two curves, and the two input voltages that they belong to", item.id))
        if item.part.supply is not None and item.part.supply.resistance_ohm is None:
            gaps.append(Gap(f"{item.name}: how far it sags, volts for an ampere", item.id))
        gaps += _missing_of_converter(item)
        if load is not None and load.draw != "current" and load.rated_v is None:
            gaps.append(Gap(f"{item.name}: the voltage its currents are given at", item.id))
    gaps += _half_known_wires(concept)
    gaps += [Gap(said, item) for item, said in lacking(concept)]
    if not packs:
        gaps.append(Gap("a pack or a supply", lacks="a pack"))
    return gaps


def _missing_of_converter(item: Item) -> Iterator[Gap]:
    """What a regulator or driver loses and needs."""
    regulator, driver = item.part.regulator, item.part.driver
    takes = regulator or driver
    if takes is not None and takes.quiescent_a is None:
        yield Gap(f"{item.name}: the current that it uses itself", item.id)
    if driver is not None and driver.on_resistance_ohm is None:
        yield Gap(f"{item.name}: its resistance when it is on", item.id)
    if regulator is None or item.part.pack is not None or not regulator.only_steps_down:
        return
    above = (
        regulator.input_min_v is not None and regulator.input_min_v > regulator.output_v
    )  # of that output: all in it
    if regulator.dropout_v is None and not (above and regulator.passes_power):
        yield Gap(f"{item.name}: how far its input must lie above its output", item.id)


def _half_known_wires(concept: Concept) -> Iterator[Gap]:
    """Wires of which one figure is given: a wire of which nothing is said is short and thick enough not to count."""
    names = {i.id: i.name for i in concept.items}
    for feed in concept.feeds:
        if feed.wire_length_m != 0 and (feed.wire_length_m is None) != (feed.wire_awg is None):
            lacks = "the length of its wire" if feed.wire_length_m is None else "the gauge of its wire"
            yield Gap(f"{names[feed.load]}: {lacks}", feed.load)
