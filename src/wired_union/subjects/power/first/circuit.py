"""A tree of feeds as a circuit to be stepped: what starts in a mode as windings that turn, the rest as it stands."""

import math
from collections.abc import Iterator, Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.converter import efficiency_at
from wired_union.physics.motor import MotorConstants
from wired_union.physics.transient import Capacitor, MotorWinding, Place, Source, Standing
from wired_union.physics.transient_run import Regulation, Spot, Stage
from wired_union.project.model import Item, Mode, Use
from wired_union.subjects.motion.gives import Shaft, constants_of
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.bent import curves_of
from wired_union.subjects.power.currents import starting_in
from wired_union.subjects.power.tree import Node

SLOW_S = 5.0
"""Time in which the slow part of a cell's resistance comes in: seconds, common practice."""
RUN_UP = 3.0
"""Time constants after which a motor has 95 % of its speed."""


class Circuit(Struct, frozen=True, eq=False):
    """What hangs on one pack or supply in one mode, or as it is switched on."""

    root: str
    stages: tuple[Stage, ...]
    spots: dict[str, Spot]
    """Where each item takes what it takes."""
    windings: tuple[tuple[str, int], ...]
    """Item of each kind of winding and how many it stands for, in the order of the places."""
    gap_s: float
    """Time between starts, where they are one after another; 0 where they are together."""

    @property
    def last_s(self) -> float:
        """When the last thing has started and its driver is open."""
        places = [p for s in self.stages for p in s.places]
        motors = [m.starts_s + m.soft_start_s for p in places for m in p.motors]
        return max([0.0, *motors, *(x.from_s for p in places for x in p.loads if math.isfinite(x.from_s))])


class _Growing(Struct):
    """A place while the circuit grows."""

    up: int = -1
    ohm: float = 0.0
    motors: list[MotorWinding] = []
    capacitors: list[Capacitor] = []
    loads: list[Standing] = []

    def done(self) -> Place:
        return Place(self.up, self.ohm, tuple(self.motors), tuple(self.capacitors), tuple(self.loads))


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
        return Circuit(root.item.id, stages, self.spots, tuple(windings), self.gap_s)

    def _source(self, root: Node) -> Source:
        instants = self.result.instants.supplies
        ohm, volts = instants.packs[root.item.id]
        own = self.result.instants.own.start + self.result.modes + self.mode
        at = float(ohm[own]) if isinstance(ohm, np.ndarray) else ohm
        slow = _slow_share(root.item) * float(at or 0.0)
        return Source(float(volts[own]), float(at or 0.0) - slow, slow, SLOW_S)

    def _stage(self, head: Source | Regulation) -> int:
        self.heads.append(head)
        self.places.append([_Growing(motors=[], capacitors=[], loads=[])])
        return len(self.heads) - 1

    def _hang(self, node: Node, child: Node, stage: int, place: int) -> tuple[int, int]:
        """Put an item behind its wire; the stage and place that it gives to what it feeds."""
        winding = self._winding(node.item, child)
        if winding is None and self._is_plain(child):
            return self._hang_alike(child, stage, place)
        if winding is None and child.feed_ohm > 0:
            self.places[stage].append(_Growing(place, child.feed_ohm, [], [], []))
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
            here.loads += self._standing(child.item)
        part = child.item.part
        if part.regulator is None:
            if part.driver is not None and self.filled:
                here.loads.append(Standing(current_a=(part.driver.quiescent_a or 0.0) * child.item.count))
            return stage, place
        return self._stage(_regulation(child.item, stage, place)), 0

    def _is_plain(self, child: Node) -> bool:
        """Whether it only takes what it takes, behind a wire of its own, and feeds nothing."""
        feed, part = self.feeds.get(child.item.id), child.item.part
        alone = feed is not None and feed.capacitor_f is None and part.regulator is None and part.driver is None
        return alone and self.filled and child.feed_ohm > 0 and not child.children

    def _hang_alike(self, child: Node, stage: int, place: int) -> tuple[int, int]:
        """Loads that take the same behind the same wire have one place: n wires side by side, n times the current."""
        loads = tuple(self._standing(child.item))
        key = (stage, place, child.feed_ohm, loads)
        where, count = self.alike.get(key, (len(self.places[stage]), 0))
        if not count:
            self.places[stage].append(_Growing(place, child.feed_ohm, [], [], []))
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
        row = self.result.currents.row.get(item.id)
        load = item.part.load
        if row is None or load is None:
            return
        starting = item.id in self.starters
        table = self.result.currents.starting if starting else self.result.currents.steady
        amperes, rated = float(table[row, self.mode]), load.rated_v
        begins = self.uses[item.id].after_s if item.id in self.uses else 0.0
        begins = begins or -math.inf
        if load.draw == "power" and rated:
            yield Standing(power_w=amperes * rated, from_s=begins)
        elif load.draw == "resistance" and rated:
            yield Standing(siemens=amperes / rated, from_s=begins)
        else:
            yield Standing(current_a=amperes, from_s=begins)

    def _begun(self, source: Source) -> dict[str, list[float]]:
        """When each copy of what starts as a winding does so; where they wait for each other, none before it runs."""
        turning = [i for i in self.starters.values() if constants_of(i.part) is not None]
        if not self.at.staggered:
            return {i.id: [self.uses[i.id].after_s if i.id in self.uses else 0.0] * i.count for i in turning}
        if len(turning) < len(self.starters) or not turning:
            return {}  # how long one takes is not known: as `currents` has it, one at its start, the rest at work
        gap = max(self._runs_up_s(i, source) for i in turning)
        if not math.isfinite(gap):
            return {}
        self.gap_s = gap
        found: dict[str, list[float]] = {}
        for n, item in enumerate(i for i in turning for _ in range(i.count)):
            found.setdefault(item.id, []).append(n * gap)
        return found

    def _runs_up_s(self, item: Item, source: Source) -> float:
        """How long one copy takes to 95 % of its speed."""
        motor = constants_of(item.part)
        assert motor is not None
        ohm = motor.resistance_ohm + self.result.tree.nodes[item.id].feed_ohm * item.count + source.ohm
        inertia = self._inertia(item)
        coil = item.part.motor.inductance_h or 0.0 if item.part.motor is not None else 0.0
        return RUN_UP * (inertia * ohm / (motor.volts_s_per_rad * motor.torque_n_m_per_a) + coil / ohm)

    def _inertia(self, item: Item) -> float:
        """Of rotor and load at the shaft; endless, so that it stays blocked, where one of them is not known."""
        shaft, motor = self.shafts.get(item.id), item.part.motor
        if shaft is None or motor is None or motor.rotor_inertia_kg_m2 is None:
            return math.inf
        return shaft.inertia_kg_m2 + motor.rotor_inertia_kg_m2 * (motor.gear_ratio or 1.0) ** 2

    def _winding(self, source: Item, child: Node) -> list[MotorWinding] | None:
        """An item that starts as windings, those that begin together as one; None where it is none."""
        item, begins = child.item, self._begins.get(child.item.id)
        motor = constants_of(item.part)
        if begins is None or motor is None or item.part.motor is None:
            return None
        driver = source.part.driver if source.part.regulator is None else None
        limit = (driver.current_limit_a if driver is not None else 0.0) or math.inf
        shaft = self.shafts.get(item.id)
        torque = (shaft.torque_n_m if shaft is not None else 0.0) + motor.no_load_current_a * motor.torque_n_m_per_a
        blocked = item.id in self.uses and self.uses[item.id].state == "peak"
        return [
            MotorWinding(
                motor.resistance_ohm + child.feed_ohm * item.count, item.part.motor.inductance_h or 0.0,
                motor.volts_s_per_rad, motor.torque_n_m_per_a, math.inf if blocked else self._inertia(item), torque,
                begins.count(at), at, driver.soft_start_s if driver is not None else 0.0, limit,
                self._turning(item, motor, torque, blocked),
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


def _slow_share(item: Item) -> float:
    """Share of a pack's resistance that comes in within seconds."""
    pack = item.part.pack
    if pack is None or item.part.regulator is not None or not pack.cell_slow_ohm:
        return 0.0
    return pack.cell_slow_ohm / ((pack.cell_resistance_ohm or 0.0) + pack.cell_slow_ohm)


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
    )  # fmt: skip


def circuits_of(result: PowerResult, mode: int, shafts: Sequence[Shaft], *, filled: bool = True) -> Iterator[Circuit]:
    """A circuit for each pack and supply that gives in a mode; `filled` False for the moment of switching on."""
    by_item = {s.item: s for s in shafts}
    for root in result.tree.roots:
        known = result.figures.get(root.item.id) is not None
        stands_in = root.item.id in result.tree.stands_in.values()
        if known and root.children and not stands_in:
            yield _Grower(result, mode, by_item, filled=filled).grow(root)
