"""The first half second of every mode in which something starts, and how far each item dips in it."""

import math
from collections.abc import Iterator
from functools import cached_property

from msgspec import Struct

from wired_union.physics.transient import Energy
from wired_union.physics.transient_run import Course, Spot, course_of
from wired_union.project.model import Item
from wired_union.subjects.motion.gives import Shaft
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.currents import starting_in
from wired_union.subjects.power.first.circuit import Circuit, circuits_of
from wired_union.subjects.power.first.starters import RUN_UP, settles_s
from wired_union.subjects.power.supplies import SupplyFigures
from wired_union.subjects.power.tree import BRAINS

WINDOW_S, MOST_S = 0.5, 1e4
"""How long is looked at: half a second after the last of them starts, never longer than this."""


class Dip(Struct, frozen=True):
    """The lowest voltage that an item gets, when after the begin, and in which mode; `mode` −1 as it is switched on."""

    volts: float
    time_s: float
    mode: int


class Watched(Struct, frozen=True):
    """A part that must not reset, the voltage below which it does, and its lowest; None while one is not known."""

    item: Item
    least_v: float | None
    dip: Dip | None

    @property
    def margin_v(self) -> float | None:
        """What is left above the voltage at which it resets."""
        return self.dip.volts - self.least_v if self.dip is not None and self.least_v is not None else None


class Start(Struct, frozen=True, eq=False, dict=True):
    """One pack's circuit in one mode, stepped."""

    mode: int
    circuit: Circuit
    course: Course

    @cached_property
    def dips(self) -> dict[str, Dip]:
        """Every item's lowest voltage; 0 from when the pack cannot deliver."""
        found: dict[Spot, Dip] = {}
        for spot, row in self.course.volts.items():
            n = min(range(len(row)), key=row.__getitem__) if row else 0
            found[spot] = Dip(row[n], self.course.times_s[n], self.mode) if row else Dip(0.0, 0.0, self.mode)
            if self.course.collapsed_s is not None:
                found[spot] = Dip(0.0, self.course.collapsed_s, self.mode)
        return {i: found[spot] for i, spot in self.circuit.spots.items()}


class First(Struct, frozen=True, eq=False, dict=True):
    """What follows once it is asked: nothing is stepped before."""

    result: PowerResult
    shafts: tuple[Shaft, ...]

    @cached_property
    def modes(self) -> tuple[int, ...]:
        """Modes in which something starts that takes more than at work."""
        return tuple(m for m, items in enumerate(self.starting) if items)

    @cached_property
    def starting(self) -> list[list[Item]]:
        """What starts in each mode otherwise than it works."""
        return starting_in(self.result.concept)

    @cached_property
    def starts(self) -> tuple[Start, ...]:
        """Every mode in which something starts, for every pack and supply."""
        return tuple(s for m in self.modes for s in self.started(m))

    def started(self, mode: int, window_s: float = WINDOW_S) -> Iterator[Start]:
        """One mode, for every pack and supply."""
        for circuit in circuits_of(self.result, mode, self.shafts):
            yield self._stepped(mode, circuit, window_s)

    @cached_property
    def switched_on(self) -> tuple[Start, ...]:
        """The moment of switching on, everything still at rest: where capacitors fill."""
        if not self.result.modes or all(f.capacitor_f is None for f in self.result.concept.feeds):
            return ()
        circuits = circuits_of(self.result, 0, self.shafts, filled=False)
        return tuple(self._stepped(-1, c, WINDOW_S) for c in circuits)

    def _stepped(self, mode: int, circuit: Circuit, window_s: float) -> Start:
        until = min(window_s + circuit.last_s, MOST_S)
        source = circuit.stages[0].source
        if source is None or not source.voltage_v > 0:
            gone = Course([], [], {s: [] for s in circuit.spots.values()}, [], Energy(), 0.0, {}, 0.0)
            return Start(mode, circuit, gone)
        return Start(mode, circuit, course_of(circuit.stages, tuple(dict.fromkeys(circuit.spots.values())), until))

    @cached_property
    def lowest(self) -> dict[str, Dip]:
        """Every item's lowest voltage over all modes: stepped where something starts, as it stands elsewhere."""
        found: dict[str, Dip] = {}
        for start in self.starts:
            for item, dip in start.dips.items():
                if item not in found or dip.volts < found[item].volts:
                    found[item] = dip
        for m in (m for m in range(self.result.modes) if m not in self.modes):
            stand = {i: float(self.result.input_v(i)[self.result.modes + m]) for i in self.result.tree.nodes}
            for item, volts in _held_up(self.result, stand).items():
                if item not in found or volts < found[item].volts:
                    found[item] = Dip(volts, 0.0, m)
        return found

    @property
    def bounds(self) -> dict[str, float]:
        """What no item's voltage falls below: everything at its worst at once, as if it stood; no step is needed.

        Behind a regulator that may be starved, and for the rest of the way, it is 0.
        """
        return _held_up(self.result, {i: v for i, (v, _) in self.result.lowest_of_all().items()})

    @cached_property
    def watched(self) -> tuple[Watched, ...]:
        """Every controller, and what says at which voltage it resets."""
        return tuple(Watched(i, least_v(i), self.lowest.get(i.id)) for i in watched_items(self.result))

    @cached_property
    def worst(self) -> Watched | None:
        """The one with the least margin; None where none is known."""
        known = [w for w in self.watched if w.margin_v is not None]
        return min(known, key=lambda w: w.margin_v or 0.0, default=None)

    def dies_away_s(self, mode: int, item_id: str) -> float:
        """Longest time constant of what starts in a mode behind an item; 0 where nothing does, or none is known."""
        return max((s for s in self._starts_s(mode, item_id) if math.isfinite(s)), default=0.0) / RUN_UP

    def lasts_s(self, mode: int, item_id: str) -> float:
        """How long what starts in a mode behind an item takes at the most; endless where that is not known, or where
        what works besides comes to its peak for as long as it likes.
        """
        below = {item_id, *self.result.tree.below(item_id)}
        starting = {i.id for i in self.starting[mode]}
        if any(i.id in below and i.id not in starting and _peaks(i) for i in self.result.concept.items):
            return math.inf
        return max(self._starts_s(mode, item_id), default=math.inf)

    def _starts_s(self, mode: int, item_id: str) -> Iterator[float]:
        """How long each thing that starts in a mode behind an item takes."""
        shafts, tree = {s.item: s for s in self.shafts}, self.result.tree
        below = {item_id, *tree.below(item_id)}
        for item in self.starting[mode]:
            if item.id in below:
                ohm = tree.nodes[item.id].feed_ohm + self._source_ohm(item.id)
                yield settles_s(item, shafts.get(item.id), ohm * item.count)

    def _source_ohm(self, item_id: str) -> float:
        """Of the pack or supply that feeds an item, which all its copies share; 0 where that is not known."""
        figures = self.result.figures.get(self.result.tree.root_of(item_id) or "")
        if isinstance(figures, SupplyFigures):
            return figures.resistance_ohm
        return figures.values.resistance_ohm if figures is not None else 0.0

    def clears(self) -> bool:
        """Whether the bounds alone show that nothing resets, so that no step is needed."""
        bounds = self.bounds
        known = [(least_v(i), bounds.get(i.id)) for i in watched_items(self.result)]
        return all(least is None or v is None or v >= least for least, v in known)


def _held_up(result: PowerResult, volts: dict[str, float]) -> dict[str, float]:
    """Voltages as they are when a regulator that gets too little gives nothing; not a number is nothing too."""
    found: dict[str, float] = {}
    starved: set[str] = set()
    for item, node in result.tree.nodes.items():  # parents first
        own, above, reg = volts[item], result.tree.source_of.get(item), node.item.part.regulator
        found[item] = 0.0 if above in starved or own != own else own
        if above is not None and (above in starved or (reg is not None and found[item] < reg.least_input_v)):
            starved.add(item)
    return found


def _peaks(item: Item) -> bool:
    """Whether it takes more at its peak than at work, for nobody knows how long."""
    load = item.part.load
    return load is not None and load.peak_a is not None and load.peak_a > (load.active_a or 0.0)


def watched_items(result: PowerResult) -> list[Item]:
    """Controllers, and what has a voltage at which it resets, that something feeds."""
    return [
        i for i in result.concept.items
        if i.part.load is not None and (i.part.kind in BRAINS or i.part.load.reset_v is not None)
        and i.id in result.tree.source_of
    ]  # fmt: skip


def least_v(item: Item) -> float | None:
    """Voltage below which an item resets: given, else its lowest supply."""
    load = item.part.load
    if load is None:
        return None
    return load.reset_v if load.reset_v is not None else load.supply_min_v


def margin_of(first: First) -> float | None:
    """The least margin of any controller; None without one that is known."""
    worst = first.worst
    return worst.margin_v if worst is not None else None


def lasts_below_s(start: Start, item_id: str, least: float) -> float:
    """How long an item is under a voltage, from its first moment there."""
    row, times = start.course.volts[start.circuit.spots[item_id]], start.course.times_s
    under = [t for t, v in zip(times, row, strict=True) if v < least]
    return under[-1] - under[0] if under else math.nan
