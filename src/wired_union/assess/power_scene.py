"""What the checks on power look at: every node at its worst instant and on average, and sources that would suit."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from wired_union.assess.power import PowerResult
from wired_union.assess.power_flow import Flow, mode_flows
from wired_union.assess.power_tree import Node
from wired_union.assess.results import Finding, Remedy, Verdict, tried
from wired_union.project import edits
from wired_union.project.model import Item, Project
from wired_union.units import show


@dataclass(frozen=True)
class PowerScene:
    """A power result with what the checks look at: every node at the worst instant of every mode."""

    project: Project
    result: PowerResult

    @cached_property
    def worst(self) -> tuple[dict[str, Flow], ...]:
        charge = self.result.brief.energy_reserve
        return tuple(mode_flows(self.result, m, charge, peak=True) for m in range(len(self.result.concept.modes)))

    @cached_property
    def full_v(self) -> dict[str, float]:
        """Highest voltage at each node's input: full packs without load."""
        found: dict[str, float] = {}

        def walk(node: Node, volts: float) -> None:
            found[node.item.id] = volts
            for child in node.children:
                walk(child, node.supply_v or volts)

        for pack in self.result.packs:
            walk(pack.node, pack.figures.open_circuit_at(1.0))
        return found

    @cached_property
    def average(self) -> tuple[dict[str, Flow], ...]:
        """Every node on average in every mode, at half charge."""
        return tuple(mode_flows(self.result, m) for m in range(len(self.result.concept.modes)))

    def most(self, item_id: str, field: str) -> tuple[float, str]:
        """Highest figure of a node over all modes, and the mode's name; NaN wins, since nothing can deliver it."""
        modes = self.result.concept.modes
        found = [(getattr(f[item_id], field), modes[m].name) for m, f in enumerate(self.worst) if item_id in f]
        return max(found, key=lambda x: float("inf") if x[0] != x[0] else x[0], default=(0.0, ""))

    def lowest_v(self, item_id: str) -> tuple[float, str]:
        modes = self.result.concept.modes
        found = [(f[item_id].input_v, modes[m].name) for m, f in enumerate(self.worst) if item_id in f]
        return min(found, key=lambda x: float("-inf") if x[0] != x[0] else x[0], default=(float("inf"), ""))


def input_range(scene: PowerScene, node: Node, least_v: float | None, most_v: float | None) -> Iterator[Finding]:
    item = node.item
    lowest, mode = scene.lowest_v(item.id)
    highest = scene.full_v.get(item.id, 0.0)
    if most_v is not None and highest > most_v:
        yield Finding(
            f"input-high:{item.id}", Verdict.BREAKS, f"{item.name} gets too much",
            f"{show(highest, 'V')} from full packs; it takes at most {show(most_v, 'V')}.", "", (item.id,),
            remedies=other_sources(scene, item, least_v, most_v), hard=True,
        )  # fmt: skip
    if least_v is not None and lowest < least_v:  # what a pack cannot deliver is the pack's finding
        yield Finding(
            f"input-low:{item.id}", Verdict.BREAKS, f"{item.name} gets too little",
            f"{show(lowest, 'V')} at the worst instant in {mode}; it works from {show(least_v, 'V')}.",
            "A sagging pack or a rail set too low.", (item.id,),
            remedies=other_sources(scene, item, least_v, most_v), hard=True,
        )  # fmt: skip


def other_sources(
    scene: PowerScene, item: Item, least_v: float | None, most_v: float | None, besides: str = ""
) -> tuple[Remedy, ...]:
    """Sources already there whose whole range of voltage suits."""
    found = []
    for other in scene.result.tree.nodes.values():
        if other.item.id in {item.id, besides, scene.result.tree.source_of.get(item.id)}:
            continue
        if not edits.feeds_others(other.item.part) or other.item.part.driver is not None:
            continue
        high = other.supply_v or scene.full_v[other.item.id]
        low = other.supply_v or scene.lowest_v(other.item.id)[0]
        if (least_v is None or low >= least_v) and (most_v is None or high <= most_v):
            change = tried(edits.feed_from, scene.project, item.id, other.item.id)
            if change is not None:
                found.append(Remedy(f"feed {item.name} from {other.item.name}", change))
    return tuple(found[:3])
