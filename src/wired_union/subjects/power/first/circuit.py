"""A tree of feeds as a circuit to be stepped: what starts in a mode as windings that turn, the rest as it stands."""

import math
from collections.abc import Iterator, Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.converter import efficiency_at
from wired_union.physics.motor import MotorConstants
from wired_union.physics.transient import Capacitor, MotorWinding, Place, Source, Standing, Warming
from wired_union.physics.transient_run import Regulation, Spot, Stage
from wired_union.project.model import Item, Mode, Use
from wired_union.subjects.motion.gives import Shaft, constants_of
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.bent import curves_of
from wired_union.subjects.power.currents import bursts, is_coil, starting_in
from wired_union.subjects.power.first.standing import standing_of
from wired_union.subjects.power.first.starters import coil_of, inertia_of, settles, settles_s, warming_of, warms
from wired_union.subjects.power.tree import Node

LEAST_OHM = 1e-6
"""Of a diode, so that a current follows from what lies across it."""
SLOW_S = 5.0
"""Time in which the slow part of a cell's resistance comes in: seconds, common practice."""


class Circuit(Struct, frozen=True, eq=False):
    """What hangs on one pack or supply in one mode, or as it is switched on."""

    root: str
    stages: tuple[Stage, ...]
    spots: dict[str, Spot]
    """Where each item takes what it takes."""
    windings: tuple[tuple[str, int], ...]
    """Item of each kind of winding and how many it stands for, in the order of the places."""
    besides: tuple[tuple[str, int], ...]
    """The same of what starts as no winding: wires that warm, radios that send."""
    gap_s: float
    """Time between starts, where they are one after another; 0 where they are together."""

    @property
    def starting(self) -> tuple[tuple[str, int], ...]:
        """Everything that starts, and how many of it."""
        return (*self.windings, *self.besides)

    @property
    def last_s(self) -> float:
        """When the last thing has started and its driver is open."""
        places = [p for s in self.stages for p in s.places]
        motors = [m.starts_s + m.soft_start_s for p in places for m in p.motors]
        return max([0.0, *motors, *(w.from_s for p in places for w in p.warming),
                    *(x.from_s for p in places for x in p.loads if math.isfinite(x.from_s))])  # fmt: skip


class _Growing(Struct):
    """A place while the circuit grows."""

    up: int = -1
    ohm: float = 0.0
    motors: list[MotorWinding] = []
    capacitors: list[Capacitor] = []
    loads: list[Standing] = []
    warming: list[Warming] = []
    drop_v: float = 0.0

    def done(self) -> Place:
        return Place(self.up, self.ohm, tuple(self.motors), tuple(self.capacitors), tuple(self.loads),
                     tuple(self.warming), self.drop_v)  # fmt: skip


class _Grower:
    """Walks a tree from its root; everything that hangs together without a regulator between is one stage."""

    def __init__(
        self, result: PowerResult, mode: int, shafts: Mapping[str, Shaft], *, filled: bool, only: str = ""
    ) -> None:
        self.result, self.mode, self.shafts, self.filled = result, mode, shafts, filled
        self.at: Mode = result.concept.modes[mode]
        self.uses: dict[str, Use] = {u.item: u for u in self.at.uses}
        starts = starting_in(result.concept)[mode] if filled else []
        self.starters = {i.id: i for i in starts if i.id in result.tree.nodes}
        self.feeds = {f.load: f for f in result.concept.feeds}
        self.places: list[list[_Growing]] = []
        self.heads: list[Source | Regulation] = []
        self.spots: dict[str, Spot] = {}
        self.named: dict[tuple[int, int], list[tuple[str, int]]] = {}
        self.alike: dict[tuple[int, int, float, tuple[Standing, ...]], tuple[int, int]] = {}
        """Place of the first load of its kind behind a wire of its own, and how many stand there by now."""
        self.besides: list[tuple[str, int]] = []
        self.gap_s = 0.0

    def grow(self, root: Node) -> Circuit:
        """The circuit below a pack or a supply."""
        source = self._source(root)
        self._stage(source)
        self.spots[root.item.id] = Spot(0, 0)
        self._begins = self._begun(source)
        todo = [(root, 0, 0)]
        while todo:
            node, stage, place = todo.pop()
            for child in node.children:
                todo.append((child, *self._hang(node, child, stage, place)))
        stages = tuple(
            Stage(tuple(g.done() for g in row), head if isinstance(head, Source) else None,
                  head if isinstance(head, Regulation) else None)
            for row, head in zip(self.places, self.heads, strict=True)
        )  # fmt: skip
        windings = [w for key in sorted(self.named) for w in self.named[key]]
        return Circuit(root.item.id, stages, self.spots, tuple(windings), tuple(self.besides), self.gap_s)

    def _source(self, root: Node) -> Source:
        instants = self.result.instants.supplies
        ohm, volts = instants.packs[root.item.id]
        own = self.result.instants.own.start + self.result.modes + self.mode
        at = float(ohm[own]) if isinstance(ohm, np.ndarray) else ohm
        slow, held = (share * float(at or 0.0) for share in _late_shares(root.item))
        return Source(float(volts[own]), float(at or 0.0) - slow - held, slow, SLOW_S, held)

    def _stage(self, head: Source | Regulation) -> int:
        self.heads.append(head)
        self.places.append([_Growing(motors=[], capacitors=[], loads=[], warming=[])])
        return len(self.heads) - 1

    def _hang(self, node: Node, child: Node, stage: int, place: int) -> tuple[int, int]:
        """Put an item behind its wire; the stage and place that it gives to what it feeds."""
        winding = self._winding(node.item, child)
        if winding is None and self._is_plain(child):
            return self._hang_alike(child, stage, place)
        if winding is None and (child.feed_ohm > 0 or child.drop_v > 0):
            ohm = child.feed_ohm if child.drop_v == 0 else max(child.feed_ohm, LEAST_OHM)
            self.places[stage].append(_Growing(place, ohm, [], [], [], [], child.drop_v))
            place = len(self.places[stage]) - 1
        here = self.places[stage][place]
        self.spots[child.item.id] = Spot(stage, place)
        feed = self.feeds.get(child.item.id)
        if feed is not None and feed.capacitor_f is not None:
            here.capacitors.append(Capacitor(feed.capacitor_f, 0.0, self._stands_at(stage) if self.filled else 0.0))
        if winding is not None:
            here.motors += winding
            self.named.setdefault((stage, place), []).extend((child.item.id, w.count) for w in winding)
        elif self.filled:
            warming = self._warming(child.item)
            here.warming += warming
            if child.item.id in self.starters and bursts(child.item):
                self.besides.append((child.item.id, child.item.count))
            here.loads += () if warming else self._standing(child.item)
        part = child.item.part
        if part.regulator is None:
            if part.driver is not None and self.filled:
                here.loads.append(Standing(current_a=(part.driver.quiescent_a or 0.0) * child.item.count))
            return stage, place
        return self._stage(_regulation(child.item, stage, place)), 0

    def _warming(self, item: Item) -> list[Warming]:
        """What starts as a cold wire, each copy from when it begins."""
        begins = self._begins.get(item.id)
        if begins is None or not warms(item):
            return []
        self.besides.append((item.id, item.count))
        return warming_of(item, self._at_work_a(item), begins)

    def _is_plain(self, child: Node) -> bool:
        """Whether it only takes what it takes, behind a wire of its own, and feeds nothing."""
        feed, part = self.feeds.get(child.item.id), child.item.part
        alone = feed is not None and feed.capacitor_f is None and part.regulator is None and part.driver is None
        alone = alone and child.item.id not in self.starters and child.drop_v == 0
        return alone and self.filled and child.feed_ohm > 0 and not child.children

    def _hang_alike(self, child: Node, stage: int, place: int) -> tuple[int, int]:
        """Loads that take the same behind the same wire have one place: n wires side by side, n times the current."""
        loads = tuple(self._standing(child.item))
        key = (stage, place, child.feed_ohm, loads)
        where, count = self.alike.get(key, (len(self.places[stage]), 0))
        if not count:
            self.places[stage].append(_Growing(place, child.feed_ohm, [], [], [], []))
        self.alike[key] = where, count + 1
        here, n = self.places[stage][where], count + 1
        here.ohm = child.feed_ohm / n
        here.loads = [
            replace(x, current_a=x.current_a * n, power_w=x.power_w * n, siemens=x.siemens * n) for x in loads
        ]
        self.spots[child.item.id] = Spot(stage, where)
        return stage, where

    def _stands_at(self, stage: int) -> float:
        """Voltage of a stage before anything starts."""
        head = self.heads[stage]
        return head.voltage_v if isinstance(head, Source) else head.output_v

    def _standing(self, item: Item) -> Iterator[Standing]:
        """What an item takes as at the worst instant of the mode, from when it starts."""
        if item.part.load is not None and item.id in self.result.currents.row:
            starting = item.id in self.starters
            yield from standing_of(item, self._amperes(item), self.uses.get(item.id), starting=starting)

    def _begun(self, source: Source) -> dict[str, list[float]]:
        """When each copy of what starts begins to; where they wait for each other, none before the last has settled."""
        known = [i for i in self.starters.values() if settles(i)]
        if not self.at.staggered:
            return {i.id: [self._after_s(i.id)] * i.count for i in known}
        if not known or any(not settles(i) and not bursts(i) for i in self.starters.values()):
            return {}  # how long one takes is not known: as `currents` has it, one at its start, the rest at work
        gap = max(settles_s(i, self.shafts.get(i.id), self._feed_ohm(i) + source.ohm) for i in known)
        if not math.isfinite(gap):
            return {}
        self.gap_s = gap
        found: dict[str, list[float]] = {}
        for n, item in enumerate(i for i in known for _ in range(i.count)):
            found.setdefault(item.id, []).append(n * gap)
        return found

    def _after_s(self, item_id: str) -> float:
        return self.uses[item_id].after_s if item_id in self.uses else 0.0

    def _feed_ohm(self, item: Item) -> float:
        """Of the wire and channel of one copy."""
        return self.result.tree.nodes[item.id].feed_ohm * item.count

    def _amperes(self, item: Item) -> float:
        """What all copies take at their rated voltage, as they start or at work."""
        currents = self.result.currents
        table = currents.starting if item.id in self.starters else currents.steady
        return float(table[currents.row[item.id], self.mode])

    def _at_work_a(self, item: Item) -> float:
        return float(self.result.currents.steady[self.result.currents.row[item.id], self.mode])

    def _winding(self, source: Item, child: Node) -> list[MotorWinding] | None:
        """An item that starts as windings, those that begin together as one; None where it is none."""
        item, begins = child.item, self._begins.get(child.item.id)
        if begins is None:
            return None
        driver = source.part.driver if source.part.regulator is None else None
        limit = (driver.current_limit_a if driver is not None else 0.0) or math.inf
        soft_s = driver.soft_start_s if driver is not None else 0.0
        if is_coil(item):
            each = self._at_work_a(item) / item.count
            coils = (coil_of(item, each, begins.count(at), at, self._feed_ohm(item), soft_s, limit)
                     for at in dict.fromkeys(begins))  # fmt: skip
            return [c for c in coils if c is not None]
        motor = constants_of(item.part)
        if motor is None or item.part.motor is None:
            return None
        shaft = self.shafts.get(item.id)
        torque = (shaft.torque_n_m if shaft is not None else 0.0) + motor.no_load_current_a * motor.torque_n_m_per_a
        blocked = item.id in self.uses and self.uses[item.id].state == "peak"
        return [
            MotorWinding(
                motor.resistance_ohm + self._feed_ohm(item), item.part.motor.inductance_h or 0.0,
                motor.volts_s_per_rad, motor.torque_n_m_per_a, math.inf if blocked else inertia_of(item, shaft), torque,
                begins.count(at), at, soft_s, limit, self._turning(item, motor, torque, blocked),
            ) for at in dict.fromkeys(begins)
        ]  # fmt: skip

    def _turning(self, item: Item, motor: MotorConstants, torque: float, blocked: bool) -> float:
        """Speed as it starts: none, or the other way where it is reversed."""
        if blocked or item.id not in self.uses or not self.uses[item.id].reverses:
            return 0.0
        head = self.heads[0]
        assert isinstance(head, Source)
        return (
            -max(head.voltage_v - torque / motor.torque_n_m_per_a * motor.resistance_ohm, 0.0) / motor.volts_s_per_rad
        )


def _late_shares(item: Item) -> tuple[float, float]:
    """Shares of a pack's resistance that come in within seconds and within minutes."""
    pack = item.part.pack
    if pack is None or item.part.regulator is not None or not (pack.cell_slow_ohm or pack.cell_minutes_ohm):
        return 0.0, 0.0
    whole = (pack.cell_resistance_ohm or 0.0) + pack.cell_slow_ohm + pack.cell_minutes_ohm
    return pack.cell_slow_ohm / whole, pack.cell_minutes_ohm / whole


def _regulation(item: Item, stage: int, place: int) -> Regulation:
    reg = item.part.regulator
    assert reg is not None
    curves = curves_of(reg) or (((0.0, 1.0),),)
    amperes = sorted({a for c in curves for a, _ in c})  # between points the least of two lies on or above the chord
    scaled = tuple((a * item.count, min(efficiency_at(c, a) for c in curves)) for a in amperes)
    return Regulation(
        stage, place, reg.output_v, reg.dropout_v or 0.0, reg.only_steps_down, reg.input_min_v or 0.0,
        (reg.quiescent_a or 0.0) * item.count, scaled if reg.passes_power else None,
        reg.max_current_a * item.count if reg.max_current_a is not None else math.inf, reg.limiting,
        reg.folds_to_a * item.count,
    )  # fmt: skip


def circuits_of(result: PowerResult, mode: int, shafts: Sequence[Shaft], *, filled: bool = True) -> Iterator[Circuit]:
    """A circuit for each pack and supply that gives in a mode; `filled` False for the moment of switching on."""
    by_item = {s.item: s for s in shafts}
    for root in result.tree.roots:
        known = result.figures.get(root.item.id) is not None
        stands_in = root.item.id in result.tree.stands_in.values()
        if known and root.children and not stands_in:
            yield _Grower(result, mode, by_item, filled=filled).grow(root)
