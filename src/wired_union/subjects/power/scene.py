"""What the checks on power look at: every node at its worst instant and on average, and sources that would suit."""

from collections.abc import Callable, Iterator
from functools import cached_property, partial

import numpy as np
from msgspec import Struct

from wired_union.kernel.results import Finding, Remedy, Verdict, tried
from wired_union.kernel.subject import Assessment
from wired_union.physics.battery import Array
from wired_union.project.model import Item, Mode, Project
from wired_union.project.part_edits import feed_from, feeds_others
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.first.run import First
from wired_union.subjects.power.insert import between
from wired_union.subjects.power.instants import Figure
from wired_union.subjects.power.light.run import Light
from wired_union.subjects.power.missing import Gap
from wired_union.subjects.power.suiting import wants_driver
from wired_union.subjects.power.tree import Node
from wired_union.subjects.power.warmth.run import Heat
from wired_union.units import show


class PowerScene(Struct, frozen=True, dict=True):
    """A power result with what the checks look at: every node at the worst instant of every mode."""

    project: Project
    result: PowerResult
    first: First
    heat: Heat
    light: Light
    hard_only: bool = False
    """Whether only what breaks a rating is wanted, so that nothing else is put in words."""
    again: Callable[[Project], Assessment] | None = None
    """The whole project assessed again, for remedies that are sought."""
    first_again: Callable[[Project], First] | None = None
    """The first half second of another project."""
    heat_again: Callable[[Project], Heat] | None = None
    """Heat and cold of another project."""

    def wants(self, verdict: Verdict) -> bool:
        """Whether a verdict on a rating is to be said."""
        return verdict is Verdict.BREAKS or not (self.hard_only or verdict is Verdict.HOLDS)

    def first_of(self, project: Project) -> First:
        """The first half second of another project, for remedies that are sized by it."""
        assert self.first_again is not None
        return self.first_again(project)

    def heat_of(self, project: Project) -> Heat:
        """Heat and cold of another project, for remedies that are sized by it."""
        assert self.heat_again is not None
        return self.heat_again(project)

    @cached_property
    def _gaps(self) -> dict[str | None, Gap]:
        """The first thing not known of what hangs on each pack or supply; under None, of what may hang on any."""
        found: dict[str | None, Gap] = {}
        for gap in self.result.missing:
            if gap.lacks != "a mission":
                found.setdefault(self.result.tree.root_of(gap.item) if gap.item else None, gap)
        return found

    def gap_under(self, item_id: str) -> Gap | None:
        """What is not known that may change what an item carries: not what hangs on another pack or supply."""
        if not self._gaps:
            return None
        return self._gaps.get(None) or self._gaps.get(self.result.tree.root_of(item_id))

    @property
    def full_v(self) -> dict[str, float]:
        return self.result.full_v

    @cached_property
    def _lowest_v(self) -> dict[str, tuple[float, Mode | None]]:
        return self.result.lowest_of_all()

    @cached_property
    def lasting(self) -> dict[str, tuple[float, Mode | None]]:
        """What warms the wire to every node in its hungriest mode; NaN where a mode has no answer.

        The average, raised by how far its loads come and go: the root mean squares of loads that do not keep step add
        to no more than their sum.
        """
        modes, flows = self.result.concept.modes, self.result.flows
        if not modes:
            return dict.fromkeys(flows.index, (0.0, None))
        raised = self._raised_by_pauses()
        table = flows.current_a[:, : len(modes)] * raised
        places, highest = table.argmax(axis=1).tolist(), table.max(axis=1).tolist()  # NaN is the highest of all
        return {i: (highest[n], modes[places[n]]) for i, n in flows.index.items()}

    def _raised_by_pauses(self) -> Array | float:
        """Root mean square of what hangs below each node against its average; shape (nodes, modes)."""
        tables, index = self.result.currents, self.result.flows.index
        if not (tables.rms > tables.average).any():
            return 1.0
        mean, rms = (np.zeros((len(index), len(self.result.concept.modes))) for _ in range(2))
        for item, row in tables.row.items():
            if (n := index.get(item)) is not None:
                mean[n], rms[n] = tables.average[row], tables.rms[row]
        for item in reversed(index):  # ends first
            if (above := self.result.tree.source_of.get(item)) is not None:
                mean[index[above]] += mean[index[item]]
                rms[index[above]] += rms[index[item]]
        return np.where(mean > 0, rms / np.where(mean > 0, mean, 1.0), 1.0)

    def most(self, item_id: str, figure: Figure) -> tuple[float, Mode | None]:
        return self.result.most(item_id, figure)

    def lowest_v(self, item_id: str) -> tuple[float, Mode | None]:
        """What an item never falls below: everything at its worst at once, as if it stood."""
        return self._lowest_v[item_id]

    def dips_to(self, item_id: str, least_v: float | None) -> tuple[float, Mode | None]:
        """The same; where that is under what it needs, what it comes to when the first half second is stepped."""
        volts, mode = self._lowest_v[item_id]
        if least_v is None or not volts < least_v:
            return volts, mode
        dip = self.first.lowest_under(item_id, least_v)
        return (dip.volts, self.result.concept.modes[dip.mode]) if dip is not None else (volts, mode)


def name_of(mode: Mode | None) -> str:
    """What a mode is called, "" where there are none."""
    return mode.name if mode is not None else ""


def over(wanted: float, given: float) -> float:
    """What is wanted as a share of what is given, infinite where nothing is."""
    return wanted / given if given > 0 else float("inf")


def input_range(scene: PowerScene, node: Node, least_v: float | None, most_v: float | None) -> Iterator[Finding]:
    """Too much from packs at the end of their charge, or too little at the worst instant."""
    item = node.item
    lowest, mode = scene.dips_to(item.id, least_v)
    highest = scene.full_v.get(item.id, 0.0)
    if most_v is not None and highest > most_v:
        yield Finding(
            "input-high", Verdict.BREAKS, f"{item.name} gets too much",
            f"{show(highest, 'V')} at the end of the charge; it takes at most {show(most_v, 'V')}.", "", (item.id,),
            offer=partial(_suiting, scene, item, least_v, most_v), hard=True, of=item.id, use=over(highest, most_v),
        )  # fmt: skip
    if least_v is not None and lowest < least_v:  # what a pack cannot deliver is the pack's finding
        yield Finding(
            "input-low", Verdict.BREAKS, f"{item.name} gets too little",
            f"{show(lowest, 'V')} at the worst instant in {name_of(mode)}; it works from {show(least_v, 'V')}.",
            "A sagging pack or a rail set too low.", (item.id,),
            offer=partial(_suiting, scene, item, least_v, most_v), hard=True, of=item.id, use=over(least_v, lowest),
        )  # fmt: skip


def _suiting(scene: PowerScene, item: Item, least_v: float | None, most_v: float | None) -> tuple[Remedy, ...]:
    """Another source, or a regulator in between that makes what it takes."""
    return (*other_sources(scene, item, least_v, most_v), *between(scene.project, scene.result, item))


def other_sources(
    scene: PowerScene, item: Item, least_v: float | None, most_v: float | None, besides: str = ""
) -> tuple[Remedy, ...]:
    """Sources already there whose whole range of voltage suits; what wants a driver only goes to another driver."""
    found, driven = [], wants_driver(item.part)
    for other in scene.result.tree.nodes.values():
        if other.item.id in {item.id, besides, scene.result.tree.source_of.get(item.id)}:
            continue
        if not feeds_others(other.item.part) or other.item.id not in scene.full_v:
            continue
        if (other.item.part.driver is not None) != driven:
            continue
        high = other.supply_v or scene.full_v[other.item.id]
        low = other.supply_v or scene.lowest_v(other.item.id)[0]
        if (least_v is None or low >= least_v) and (most_v is None or high <= most_v):
            change = tried(feed_from, scene.project, item.id, other.item.id)
            if change is not None:
                found.append(Remedy(f"feed {item.name} from {other.item.name}", change))
        if len(found) == 3:
            break
    return tuple(found)
