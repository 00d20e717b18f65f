"""What if it were warmer, older, heavier, longer, or one cell weak: the project as it would be then, nothing kept."""

from collections.abc import Callable

from msgspec import Struct

from wired_union.project.change import Change, with_brief, with_concept, with_concept_value
from wired_union.project.model import Item, Part, Project
from wired_union.units import show

PAYLOAD = "what-if-payload"


class WhatIf(Struct, frozen=True):
    """How far each is from what is; 0 is as it is."""

    warmer_k: float = 0.0
    aged: float = 0.0
    """Share of its capacity that every pack has lost."""
    payload_kg: float = 0.0
    longer: float = 0.0
    """Share by which every phase of the mission lasts longer."""
    weak_cell: float = 0.0
    """Share of its capacity that one cell of every pack lacks."""


def what_if(project: Project, asked: WhatIf) -> Change:
    """The project as it would be. Raises ProjectError for what cannot be."""
    after, said = project, []
    for amount, step, words in (
        (asked.warmer_k, _warmer, f"{show(abs(asked.warmer_k), 'K')} {'warmer' if asked.warmer_k > 0 else 'colder'}"),
        (asked.aged, _aged, f"packs that lost {show(asked.aged, 'share')}"),
        (asked.payload_kg, _heavier, f"{show(asked.payload_kg, 'kg')} more to carry"),
        (asked.longer, _longer, f"a mission {show(asked.longer, 'share')} longer"),
        (asked.weak_cell, _weak, f"one cell {show(asked.weak_cell, 'share')} weaker"),
    ):
        if amount:
            after = step(after, amount)
            said.append(words)
    return Change(project, after, f"what if: {', '.join(said) or 'as it is'}")


def _warmer(project: Project, by_k: float) -> Project:
    brief = project.brief
    return with_brief(
        project, coldest_c=max(brief.coldest_c + by_k, -273.15), hottest_c=max(brief.hottest_c + by_k, -273.15)
    )


def _with_packs(project: Project, made: Callable[[Item], Part]) -> Project:
    items = tuple(i.but(part=made(i)) if i.part.pack is not None else i for i in project.concept.items)
    return with_concept(project, items=items)


def _aged(project: Project, lost: float) -> Project:
    def made(item: Item) -> Part:
        pack = item.part.pack
        assert pack is not None
        return item.part.but(pack=pack.but(worn=1 - (1 - pack.worn) * (1 - lost)))

    return _with_packs(project, made)


def _weak(project: Project, lacks: float) -> Project:
    """The weakest of the cells in series ends the charge of all; beside others in parallel it lacks its share."""

    def made(item: Item) -> Part:
        pack = item.part.pack
        assert pack is not None
        capacity = pack.cell_capacity_ah
        left = 1 - lacks / (pack.parallel * item.count)
        return item.part.but(pack=pack.but(cell_capacity_ah=None if capacity is None else capacity * left))

    return _with_packs(project, made)


def _heavier(project: Project, kg: float) -> Project:
    concept = project.concept
    if not concept.subsystems:
        return project
    load = Part(id=PAYLOAD, name="Payload", kind="structure", mass_kg=kg, price=0.0)
    item = Item(id=PAYLOAD, name="Payload", subsystem=concept.subsystems[0].id, part=load, knowledge="measured")
    return with_concept_value(project, concept.but(items=(*(i for i in concept.items if i.id != PAYLOAD), item)))


def _longer(project: Project, share: float) -> Project:
    mission = project.concept.mission
    phases = tuple(p.but(duration_s=max(p.duration_s * (1 + share), 0.001)) for p in mission.phases)
    return with_concept(project, mission=mission.but(phases=phases))
