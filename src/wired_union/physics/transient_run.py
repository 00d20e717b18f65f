"""The first half second of a circuit, stepped by the implicit midpoint rule with steps that grow after each event.

A circuit is a row of stages: the first hangs from a source, each further one from a regulator of a stage before it.
Within a stage places hang from each other through wires; voltages in the middle of a step are found from the ends up
and back, by Newton's method where something takes a constant power.
"""

import math
from collections.abc import Iterator, Sequence

from msgspec import Struct

from wired_union.physics.battery import loaded_voltage_at
from wired_union.physics.converter import Curve, efficiency_at
from wired_union.physics.transient import CapacitorAtWork, Energy, MotorAtWork, Place, Source, SourceAtWork

GROWTH, FIRST_S, LONGEST_S, SHORTEST_S = 1.2, 2e-5, 2.5e-3, 1e-7
"""How much longer each step is than the one before, and the bounds of a step."""
LONG_AGO_S, LONG_S = -2e9, 1e9
"""A step that is over before anything starts, so long that everything stands in it."""
MOST_LONG = 300
"""Steps of the longest kind between two events; each is a share of the time that has gone by."""
SETTLED, ROUNDS, TRIES = 1e-6, 60, 12
"""Newton squares the error: after a step this small none is left that could be seen."""


class Regulation(Struct, frozen=True):
    """A regulator that hangs at a place of a stage and makes the voltage of another."""

    stage: int
    place: int
    output_v: float
    dropout_v: float = 0.0
    """How far its input must lie above; only for one that steps down."""
    steps_down: bool = True
    least_v: float = 0.0
    """Input below which it is off, and stays off."""
    quiescent_a: float = 0.0
    curve: Curve | None = None
    """Its efficiency; None for a linear one, which passes current."""
    most_a: float = math.inf
    """Output current at which it limits."""
    limits: str = "hiccup"
    """What it does then: "hiccup" (off), "constant" (its voltage falls until no more flows), or "foldback" (the same,
    and the less the lower it falls)."""
    folds_to_a: float = 0.0
    """Current that is left at no voltage of one that folds back."""

    def most_at(self, made_v: float) -> float:
        """Most current while its voltage has fallen so far: straight between a short circuit and its own voltage."""
        if self.limits != "foldback":
            return self.most_a
        return self.folds_to_a + (self.most_a - self.folds_to_a) * made_v / self.output_v


class Stage(Struct, frozen=True):
    """Places, the first at the source, or at a regulator's output."""

    places: tuple[Place, ...]
    source: Source | None = None
    regulation: Regulation | None = None


class Spot(Struct, frozen=True):
    """A place of a stage."""

    stage: int
    place: int = 0


class Course(Struct, frozen=True, eq=False):
    """How it went: lists over the steps, each at the middle of its step."""

    times_s: list[float]
    source_a: list[float]
    volts: dict[Spot, list[float]]
    motors_a: list[list[float]]
    """Current of one of each kind of motor, in the order of the places."""
    energy: Energy
    worst_missing_j: float
    """The most that was missing of the energy after any step."""
    off_s: dict[int, float]
    """When each regulator's stage went off, by stage."""
    collapsed_s: float | None
    """When the source could no longer deliver."""


def course_of(stages: Sequence[Stage], spots: Sequence[Spot], until_s: float) -> Course:
    """Step a circuit from rest and write down the voltage at some spots."""
    return _Run(stages).course(spots, until_s)


class _Running:
    """A stage while it is stepped."""

    def __init__(self, stage: Stage) -> None:
        self.of = stage
        self.source = SourceAtWork(stage.source) if stage.source is not None else None
        self.motors = [[MotorAtWork(m, speed_rad_s=m.speed_rad_s) for m in p.motors] for p in stage.places]
        self.capacitors = [[CapacitorAtWork(c, c.volts) for c in p.capacitors] for p in stage.places]
        start = stage.source.voltage_v if stage.source is not None else stage.regulation.output_v  # type: ignore[union-attr]
        self.volts = [start] * len(stage.places)
        self.off = False
        self.gives_a = 0.0
        self.fixed, self.slope, self.power = ([0.0] * len(stage.places) for _ in range(3))
        self._known: tuple[object, ...] | None = None
        self.taken: list[tuple[int, float, float]] = []
        """What regulators of further stages take: place, amperes, watts."""
        self._motors = [(n, m) for n, each in enumerate(self.motors) for m in each]
        self._capacitors = [(n, c) for n, each in enumerate(self.capacitors) for c in each]
        self._warming = [(n, w) for n, p in enumerate(stage.places) for w in p.warming]
        self._warm_siemens = [0.0] * len(self._warming)
        self._chops = [(n, m) for n, m in self._motors if m.of.limit_a < math.inf]

    def stand(self, time_s: float) -> None:
        """Sum up what stands from here to the next event."""
        self._known = None
        self._stands = [
            (sum(x.current_a for x in p.loads if x.at(time_s)), sum(x.siemens for x in p.loads if x.at(time_s)),
             sum(x.power_w for x in p.loads if x.at(time_s))) for p in self.of.places
        ]  # fmt: skip

    def begin(self, start_s: float, h: float) -> None:
        """Ask everything what it takes in the middle of the step."""
        for n, (current, siemens, power) in enumerate(self._stands):
            self.fixed[n], self.slope[n], self.power[n] = current, siemens, power
        for n, motor in self._motors:
            at_none, each_volt = motor.takes(start_s, h)
            self.fixed[n] += at_none
            self.slope[n] += each_volt
        for n, capacitor in self._capacitors:
            at_none, each_volt = capacitor.takes(h)
            self.fixed[n] += at_none
            self.slope[n] += each_volt
        for k, (n, warming) in enumerate(self._warming):
            self._warm_siemens[k] = warming.siemens_at(start_s + h / 2)
            self.slope[n] += self._warm_siemens[k]

    def _asked(self, h: float, *, chops: bool = True) -> tuple[list[float], list[float], list[float]]:
        """Amperes, siemens and watts at each place, with what regulators take, and drivers that chop at the volts."""
        fixed, slope, power = self.fixed.copy(), self.slope, self.power.copy()
        for n, motor in self._chops if chops else ():
            watts = motor.chopped_w(self.volts[n], h)
            if watts is not None:
                slope = slope.copy() if slope is self.slope else slope
                at_none, each_volt = motor.straight
                fixed[n], slope[n], power[n] = fixed[n] - at_none, slope[n] - each_volt, power[n] + watts
        for n, amperes, watts in self.taken:
            fixed[n] += amperes
            power[n] += watts
        return fixed, slope, power

    def solve(self, open_v: float, ohm: float, h: float) -> bool:
        """Voltages in the middle of the step and the current that flows in; False where it cannot be delivered."""
        if open_v <= 0:
            self.volts, self.gives_a, self._known = [0.0] * len(self.volts), 0.0, None
            return True
        known = (open_v, *self.taken)
        if known == self._known and not (self._motors or self._capacitors or self._warming):
            return True  # nothing in it moves by itself
        self._known = known
        for _ in range(ROUNDS if self._chops else 1):
            fixed, slope, power = asked = self._asked(h)
            before, found = self.volts, solved(self.of.places, open_v, ohm, asked, self.volts)
            if found is None and self._chops:  # more than there is: they are open all the time, and get less
                fixed, slope, power = asked = self._asked(h, chops=False)
                found, before = solved(self.of.places, open_v, ohm, asked, self.volts), []
            if found is None:
                return False
            self.volts = found
            moved = max((abs(a - b) for a, b in zip(found, before, strict=True)), default=0.0) if before else 0.0
            if not self._chops or moved <= SETTLED * open_v:
                break
        self.gives_a = sum(f + g * v + (p / v if p else 0.0) for f, g, p, v in
                           zip(fixed, slope, power, self.volts, strict=True))  # fmt: skip
        return True

    def step(self, h: float, energy: Energy) -> None:
        """Go through the step; what stands is used."""
        for n, (current, siemens, power) in enumerate(self._stands):
            v = self.volts[n]
            if v > 0:
                energy.used_j += (current * v + siemens * v * v + power) * h
        for n, motor in self._motors:
            motor.step(self.volts[n], h, energy)
        for n, capacitor in self._capacitors:
            capacitor.step(self.volts[n], h, energy)
        for (n, _), siemens in zip(self._warming, self._warm_siemens, strict=True):
            energy.used_j += siemens * self.volts[n] ** 2 * h
        self._warm_wires(h, energy)
        if self.source is not None:
            self.source.step(self.gives_a, h, energy)

    def _warm_wires(self, h: float, energy: Energy) -> None:
        for n, place in enumerate(self.of.places):
            if place.ohm > 0:
                across = self.volts[place.up] - self.volts[n]
                energy.lost_j += across * (across - place.drop_v) / place.ohm * h


Straight = tuple[Sequence[float], Sequence[float], Sequence[float]]
"""Amperes, siemens and watts at each place."""


def solved(
    places: Sequence[Place], open_v: float, ohm: float, takes: Straight, guess: Sequence[float]
) -> list[float] | None:
    """Voltage at each place when it takes amperes + siemens·V + watts/V; None where that cannot be delivered."""
    fixed, slope, power = takes
    if len(places) == 1:
        volt = loaded_voltage_at(open_v, ohm, fixed[0], power[0], slope[0])
        return [volt] if volt > 0 else None
    volts = [v if v > 0 else open_v for v in guess]
    bends = any(power)
    for _ in range(ROUNDS):
        sums = [f + 2 * p / v if p else f for f, p, v in zip(fixed, power, volts, strict=True)]
        siemens = [g - p / (v * v) if p else g for g, p, v in zip(slope, power, volts, strict=True)]
        through = [1.0] * len(places)
        for n in range(len(places) - 1, 0, -1):
            up, through[n] = places[n].up, 1 + places[n].ohm * siemens[n]
            if through[n] <= 0:
                return None
            sums[up] += (sums[n] - siemens[n] * places[n].drop_v) / through[n]
            siemens[up] += siemens[n] / through[n]
        whole = 1 + ohm * siemens[0]
        if whole <= 0:
            return None
        new = [(open_v - ohm * sums[0]) / whole]
        for n in range(1, len(places)):
            new.append((new[places[n].up] - places[n].drop_v - places[n].ohm * sums[n]) / through[n])
        if min(new) <= 0:
            return None
        if not bends or max(abs(a - b) for a, b in zip(new, volts, strict=True)) <= SETTLED * open_v:
            return new
        volts = new
    return None


class _Run:
    def __init__(self, stages: Sequence[Stage]) -> None:
        self.stages = [_Running(s) for s in stages]
        self.off_s: dict[int, float] = {}
        self.energy = Energy()

    def course(self, spots: Sequence[Spot], until_s: float) -> Course:
        """Step through, from event to event."""
        times: list[float] = []
        source_a: list[float] = []
        volts: dict[Spot, list[float]] = {s: [] for s in spots}
        motors = [m for s in self.stages for each in s.motors for m in each]
        motors_a: list[list[float]] = [[] for _ in motors]
        collapsed, missing = None, 0.0
        self._stood_before()
        for start, h in self._steps(until_s):
            if not self._step(start, h):
                collapsed = start
                break
            times.append(start + h / 2)
            source_a.append(self.stages[0].gives_a)
            for spot, row in volts.items():
                row.append(self.stages[spot.stage].volts[spot.place])
            for motor, row in zip(motors, motors_a, strict=True):
                row.append(motor.current_a)
            missing = max(missing, abs(self.energy.missing_j))
        return Course(times, source_a, volts, motors_a, self.energy, missing, self.off_s, collapsed)

    def _stood_before(self) -> None:
        """What stood before the first event has flowed through the late parts of the source's resistance by then."""
        source = self.stages[0].source
        if source is None or (source.of.slow_ohm <= 0 and source.of.held_ohm <= 0):
            return
        for _ in range(TRIES):
            for stage in self.stages:
                stage.stand(LONG_AGO_S)
                stage.begin(LONG_AGO_S, LONG_S)
            if not self._settle(LONG_S):
                return
            before, source.held_v = source.held_v, source.of.held_ohm * self.stages[0].gives_a
            if abs(source.held_v - before) <= SETTLED * source.of.voltage_v:
                break
        source.slow_v = source.of.slow_ohm * self.stages[0].gives_a

    def _steps(self, until_s: float) -> Iterator[tuple[float, float]]:
        """Begin and length of every step: short after each event, then longer and longer."""
        first = self._first_s()
        events = sorted({0.0, *(t for t in self._events() if 0 < t < until_s)})
        for begin, end in zip(events, [*events[1:], until_s], strict=True):
            for stage in self.stages:
                stage.stand(begin)
            now, h, longest = begin, first, max(LONGEST_S, (end - begin) / MOST_LONG)
            while now < end:
                h = end - now if now + h * 1.5 >= end else h
                yield now, h
                now, h = (end if now + h >= end else now + h), min(h * GROWTH, longest)

    def _events(self) -> Iterator[float]:
        for stage in self.stages:
            for place in stage.of.places:
                for motor in place.motors:
                    yield motor.starts_s
                    yield motor.starts_s + motor.soft_start_s
                for load in place.loads:
                    yield from (load.from_s, load.to_s)
                yield from (w.from_s for w in place.warming)

    def _first_s(self) -> float:
        """The first step after an event: a tenth of the fastest time constant there is."""
        source = self.stages[0].of.source
        ohm = source.ohm if source is not None else 0.0
        places = [p for s in self.stages for p in s.of.places]
        fastest = [m.inductance_h / m.ohm for p in places for m in p.motors if m.inductance_h > 0 and m.ohm > 0]
        fastest += [w.settles_s for p in places for w in p.warming]
        fastest += [c.farad * (c.ohm + ohm) for p in places for c in p.capacitors]
        return min(max(min(fastest, default=FIRST_S * 10) / 10, SHORTEST_S), FIRST_S)

    def _step(self, start: float, h: float) -> bool:
        for stage in self.stages:
            stage.begin(start, h)
        if not self._settle(h):
            return False
        for n, stage in enumerate(self.stages):
            stage.step(h, self.energy)
            if stage.of.regulation is not None:
                self._through(n, h)
        for n, stage in enumerate(self.stages):
            reg = stage.of.regulation
            if reg is not None and not stage.off and self._input_v(reg) < reg.least_v:
                self._switch_off(n, start + h)
        return True

    def _input_v(self, reg: Regulation) -> float:
        return self.stages[reg.stage].volts[reg.place]

    def _switch_off(self, n: int, time_s: float) -> None:
        self.stages[n].off = True
        self.off_s.setdefault(n, time_s)

    def _through(self, n: int, h: float) -> None:
        """What a regulator lost on the way."""
        reg, stage = self.stages[n].of.regulation, self.stages[n]
        assert reg is not None
        amperes, watts = self._demand(n, reg)
        into = amperes * self._input_v(reg) + watts
        self.energy.lost_j += (into - stage.gives_a * stage.volts[0]) * h

    def _demand(self, n: int, reg: Regulation) -> tuple[float, float]:
        """What a regulator takes at its input: amperes and watts."""
        stage = self.stages[n]
        if stage.off:
            return 0.0, 0.0
        if reg.curve is None:
            return stage.gives_a + reg.quiescent_a, 0.0
        return reg.quiescent_a, stage.volts[0] * stage.gives_a / efficiency_at(reg.curve, stage.gives_a)

    def _made_v(self, stage: _Running, reg: Regulation) -> float:
        if stage.off:
            return 0.0
        most = self._input_v(reg) - reg.dropout_v if reg.steps_down else reg.output_v
        return max(min(reg.output_v, most), 0.0)

    def _settle(self, h: float) -> bool:
        """Solve all stages, the ends first, until no input moves what a regulator makes."""
        for _ in range(TRIES):
            made = [self._made_v(s, s.of.regulation) if s.of.regulation is not None else 0.0 for s in self.stages]
            for stage in self.stages:
                stage.taken = []
            for n in range(len(self.stages) - 1, 0, -1):
                if not self._regulated(n, made[n], h):
                    return False
            root = self.stages[0]
            assert root.source is not None
            if not root.solve(*root.source.gives(h), h):
                return False
            again = [self._made_v(s, s.of.regulation) if s.of.regulation is not None else 0.0 for s in self.stages]
            if all(abs(a - b) <= 1e-9 * max(a, 1.0) for a, b in zip(made, again, strict=True)):
                return True
        return True

    def _regulated(self, n: int, made_v: float, h: float) -> bool:
        """Solve the stage of a regulator, held to its limit, and ask its input for what it takes."""
        stage, reg = self.stages[n], self.stages[n].of.regulation
        assert reg is not None
        if not stage.solve(made_v, 0.0, h) or (stage.gives_a > reg.most_a and not self._held(stage, reg, made_v, h)):
            stage.off = True
            self.off_s.setdefault(n, math.nan)
            stage.solve(0.0, 0.0, h)
        self.stages[reg.stage].taken.append((reg.place, *self._demand(n, reg)))
        return True

    def _held(self, stage: _Running, reg: Regulation, made_v: float, h: float) -> bool:
        """Whether a regulator that lets its voltage fall finds one at which no more flows than it then gives."""
        if reg.limits == "hiccup":
            return False
        low, high = 0.0, made_v
        for _ in range(ROUNDS):
            middle = (low + high) / 2
            flows = stage.solve(middle, 0.0, h) and stage.gives_a > reg.most_at(middle)
            low, high = (low, middle) if flows else (middle, high)
        return low > SETTLED and stage.solve(low, 0.0, h)
