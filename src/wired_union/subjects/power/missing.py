"""What is not known of a concept's power, in words."""

from collections.abc import Mapping
from typing import Literal

from msgspec import Struct

from wired_union.project.model import Concept
from wired_union.subjects.power.currents import Currents
from wired_union.subjects.power.packs import PackFigures
from wired_union.subjects.power.tree import PowerTree


class Gap(Struct, frozen=True):
    """What is not known, in words, the item that lacks it, "" for none, and what would fill it."""

    said: str
    item: str = ""
    lacks: Literal["a figure", "a feed", "modes", "a mission", "a pack"] = "a figure"


NO_MISSION = Gap("the mission: which modes, and how long each lasts", lacks="a mission")


def missing_of(
    concept: Concept, tree: PowerTree, currents: Currents, packs: Mapping[str, PackFigures | None]
) -> tuple[Gap, ...]:
    return tuple(dict.fromkeys([*_missing_currents(concept, currents), *_missing_parts(concept, tree, packs)]))


def _missing_currents(concept: Concept, currents: Currents) -> list[Gap]:
    if not currents.unknown:
        return []
    names = {i.id: i.name for i in concept.items}
    states = {m.id: {u.item: u.state for u in m.uses} for m in concept.modes}
    rest = {m.id: m.otherwise for m in concept.modes}
    return [Gap(f"{names[i]}: its current when {states[m].get(i, rest[m])}", i) for i, m in currents.unknown]


def _missing_parts(concept: Concept, tree: PowerTree, packs: Mapping[str, PackFigures | None]) -> list[Gap]:
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
        if load is not None and load.draw != "current" and load.rated_v is None:
            gaps.append(Gap(f"{item.name}: the voltage its currents are given at", item.id))
    if not packs:
        gaps.append(Gap("a pack", lacks="a pack"))
    return gaps
