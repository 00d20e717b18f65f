"""The first half second of every mode in which something starts, and how far each item dips in it."""

import math
from collections.abc import Iterator
from functools import cached_property

from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.transient import Energy
from wired_union.physics.transient_run import Course, Spot, course_of
from wired_union.project.model import Item
from wired_union.subjects.motion.gives import Shaft
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.currents import starting_in
from wired_union.subjects.power.first.circuit import Circuit, circuits_of
from wired_union.subjects.power.first.held import HeldUp, giver_of, held_up, limits_of, most_a, standing
from wired_union.subjects.power.first.starters import RUN_UP, settles_s
from wired_union.subjects.power.supplies import SupplyFigures
from wired_union.subjects.power.tree import BRAINS

WINDOW_S, MOST_S, ROUND_OFF = 0.5, 1e4, 1e-9
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
        """Modes in which something starts that takes more than at work, or a regulator comes to its limit or gets too
        little.
        """
        return tuple(m for m, items in enumerate(self.starting) if items or self._stands[m].gives_up)

    @cached_property
    def starting(self) -> list[list[Item]]:
        """What starts in each mode otherwise than it works."""
        return starting_in(self.result.concept)

    @cached_property
    def starts(self) -> tuple[Start, ...]:
        """Every mode in which something starts, for every pack and supply."""
        return tuple(s for m in self.modes for s in self.starts_in(m))

    def starts_in(self, mode: int) -> tuple[Start, ...]:
        """One mode in which something starts, for every pack and supply; stepped once."""
        if mode not in self._known:
            self._known[mode] = tuple(self.started(mode))
        return self._known[mode]

    @cached_property
    def _known(self) -> dict[int, tuple[Start, ...]]:
        """Modes that have been stepped."""
        return {}

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
        course = course_of(circuit.stages, tuple(dict.fromkeys(circuit.spots.values())), until)
        most = most_a(giver_of(self.result, circuit.root, mode)) if mode >= 0 else math.inf
        each = zip(course.times_s, course.source_a, strict=True)
        beyond = next((t for t, amperes in each if amperes > most * (1 + ROUND_OFF)), None)
        if beyond is None or (course.collapsed_s is not None and course.collapsed_s < beyond):
            return Start(mode, circuit, course)
        return Start(mode, circuit, replace(course, collapsed_s=beyond))

    @cached_property
    def lowest(self) -> dict[str, Dip]:
        """Every item's lowest voltage over all modes: stepped where something starts, as it stands elsewhere."""
        found: dict[str, Dip] = {}
        for mode in self._in_order:
            for item, dip in self._dips_in(mode, self.bounds_in(mode)).items():
                if item not in found or dip.volts < found[item].volts:
                    found[item] = dip
        return found

    @property
    def bounds(self) -> dict[str, float]:
        """What no item's voltage falls below: everything at its worst at once, as if it stood; no step is needed.

        Behind a regulator that may be starved or asked for more than it gives, and for the rest of the way, it is 0.
        """
        most = limits_of(self.result)
        given = {i: self.result.instants.highest(i, "output_a")[0] for i in most}
        return held_up(self.result, {i: v for i, (v, _) in self.result.lowest_of_all().items()}, given, most).volts

    @property
    def _in_order(self) -> list[int]:
        """Modes in which something starts first: of two that come as low it is one of these that is told."""
        return sorted(range(self.result.modes), key=lambda m: m not in self.modes)

    def lowest_under(self, item_id: str, least_v: float) -> Dip | None:
        """The lowest that an item gets in the modes whose bounds leave open that it falls below a voltage; the rest is
        not stepped. None where there are none of such.
        """
        found: Dip | None = None
        for mode in self._in_order:
            bounds = self.bounds_in(mode)
            dip = self._dips_in(mode, bounds).get(item_id) if bounds[item_id] < least_v else None
            if dip is not None and (found is None or dip.volts < found.volts):
                found = dip
        return found

    def bounds_in(self, mode: int) -> dict[str, float]:
        """The same in one mode; exact where nothing starts in it."""
        return self._stands[mode].volts

    @cached_property
    def _stands(self) -> list[HeldUp]:
        """Every mode with everything at its worst at once."""
        return standing(self.result)

    @cached_property
    def watched(self) -> tuple[Watched, ...]:
        """Every controller, and what says at which voltage it resets."""
        return tuple(Watched(i, least_v(i), self.lowest.get(i.id)) for i in watched_items(self.result))

    @cached_property
    def worst(self) -> Watched | None:
        """The one with the least margin; None where none is known.

        Modes in which nothing can fall as low as what was found already are not stepped.
        """
        known = self._known_resets
        bounds = [self.bounds_in(m) for m in range(self.result.modes)] if known else []
        floors = [min(bound[i.id] - least for i, least in known) for bound in bounds]
        worst: Watched | None = None
        for mode in sorted(range(len(floors)), key=lambda m: (floors[m], m in self.modes)):
            if worst is not None and (worst.margin_v or 0.0) <= floors[mode]:
                break
            dips = self._dips_in(mode, bounds[mode])
            own = [Watched(i, least, dips[i.id]) for i, least in known if i.id in dips]
            worst = min([*([worst] if worst is not None else []), *own], key=lambda w: w.margin_v or 0.0, default=None)
        return worst

    @cached_property
    def _known_resets(self) -> list[tuple[Item, float]]:
        """What must not reset and is fed, with the voltage below which it does."""
        fed = (i for i in watched_items(self.result) if i.id in self.result.tree.nodes)
        return [(i, least) for i in fed if (least := least_v(i)) is not None]

    @property
    def resets(self) -> tuple[Watched, ...]:
        """What falls below its reset in a mode, and the lowest that it gets.

        Only modes whose bounds leave that open are stepped, and none for what has nothing left already.
        """
        found: dict[str, Dip] = {}
        for mode in range(self.result.modes):
            bounds = self.bounds_in(mode)
            gone = {i for i, dip in found.items() if dip.volts <= 0}
            open_ = [i.id for i, least in self._known_resets
                     if bounds[i.id] < least and i.id not in gone and self._tells(mode, i)]  # fmt: skip
            dips = self._stepped_dips(mode) if open_ else {}
            for item in (i for i in open_ if i in dips):
                if item not in found or dips[item].volts < found[item].volts:
                    found[item] = dips[item]
        each = (Watched(i, least, found[i.id]) for i, least in self._known_resets if i.id in found)
        return tuple(w for w in each if (w.margin_v or 0.0) < 0)

    def _tells(self, mode: int, item: Item) -> bool:
        """Whether it is for the first half second to say so: what stands below its lowest supply is told as that."""
        return mode in self.modes or (item.part.load is not None and item.part.load.reset_v is not None)

    def _dips_in(self, mode: int, bounds: dict[str, float]) -> dict[str, Dip]:
        """Every item's lowest voltage in one mode."""
        if mode not in self.modes:
            return {i: Dip(v, 0.0, mode) for i, v in bounds.items()}
        return self._stepped_dips(mode)

    def _stepped_dips(self, mode: int) -> dict[str, Dip]:
        """The same as it is stepped, whether something starts or not."""
        return {i: dip for s in self.starts_in(mode) for i, dip in s.dips.items()}

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
