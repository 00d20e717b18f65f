"""Control loops: the plant from Motion or from figures, the delay of a chain, margins with it and without."""

import math
from collections.abc import Mapping
from itertools import product

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Given, Node
from wired_union.physics.loops import LoopDelay, Transfer, is_stable, margins, pid
from wired_union.physics.motor import MotorConstants
from wired_union.physics.sampled import Sampled, settles_sampled
from wired_union.project.model import Concept, Project, WheelLoad
from wired_union.project.timing_model import Loop
from wired_union.subjects.mass.gives import TOTAL_KG, UNWEIGHED
from wired_union.subjects.motion.gives_times import MOTION, Drive, LoadResult, MotionResult
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.results import ChainResult

ENOUGH_DEG = 45.0
"""Phase margin from which a loop neither rings nor minds a model that is a little wrong: common practice, 30 to 60."""


OFF = 0.3
"""How far a model is off that nobody measured: common practice, 30 %."""


class LoopResult(Struct, frozen=True):
    """A loop with its margins; None where something that they rest on is not known."""

    loop: Loop
    plant: Transfer | None
    delay_s: float | None
    """From what is measured to what is done, with half a period in which each output is held."""
    margins: LoopDelay | None = None
    """At the crossover that bears the least delay; None where its gain never is 1, and any delay does."""
    settles: bool = True
    """Whether it settles without any delay."""
    sampled_settles: bool = True
    """Whether it settles as it is: its controller run once a period, and each output held"""
    missing: tuple[str, ...] = ()

    @property
    def known(self) -> bool:
        return self.plant is not None and self.delay_s is not None and not self.missing

    @property
    def left_deg(self) -> float | None:
        """Phase margin that the delay leaves; below 0 it swings up."""
        if not self.known:
            return None
        if not self.settles:
            return -180.0
        left = 180.0 if self.margins is None else self.margins.margin_left_deg
        return left if self.sampled_settles else min(left, 0.0)

    @property
    def bears_s(self) -> float | None:
        """Delay that it could still bear; below 0 there is too much."""
        if not self.known or self.delay_s is None:
            return None
        if not self.settles:
            return -self.delay_s
        bears = math.inf if self.margins is None else self.margins.delay_margin_s - self.delay_s
        return bears if self.sampled_settles else min(bears, 0.0)

    @property
    def aim_deg(self) -> float | None:
        """How far it has turned past what it saw before it acts."""
        if self.loop.turns_rad_s is None or self.delay_s is None or self.missing:
            return None
        return math.degrees(self.loop.turns_rad_s * self.delay_s)

    def span_deg(self, off: float = OFF) -> tuple[float, float] | None:
        """Margin left where the plant's gain and time constant are that share off either way: least and most."""
        if not self.known or self.plant is None:
            return None
        found = []
        for gain, time in product((1 - off, 1.0, 1 + off), repeat=2):
            found.append(_left_deg(self.loop, _off_by(self.plant, gain, time), self.delay_s or 0.0))
        return min(found), max(found)

    @property
    def verdict(self) -> Verdict:
        left = self.left_deg
        if left is None:
            return Verdict.UNKNOWN
        return Verdict.BREAKS if left <= 0 else Verdict.TIGHT if left < ENOUGH_DEG else Verdict.HOLDS

    def sampled(self, delay_s: float | None = None) -> Sampled:
        """Its controller as it runs; the held half period is in the run itself."""
        wanted = (self.delay_s or 0.0) - self.loop.sample_s / 2 if delay_s is None else delay_s
        c = self.loop
        return Sampled(c.control_gain, c.integral_s, c.derivative_s, c.sample_s, max(wanted, 0.0), c.most or math.inf)


def _off_by(plant: Transfer, gain: float, time: float) -> Transfer:
    """A plant of one lag with another gain and time constant."""
    return Transfer((plant.numerator[0] * gain,), (plant.denominator[0] * time, *plant.denominator[1:]))


def _left_deg(loop: Loop, plant: Transfer, delay_s: float) -> float:
    whole = plant.times(pid(loop.control_gain, loop.integral_s, loop.derivative_s))
    if not is_stable(whole):
        return -180.0
    found = margins(whole, delay_s)
    return 180.0 if found is None else found.margin_left_deg


class Around(Struct, frozen=True):
    """What loops look at besides themselves."""

    concept: Concept
    motion: MotionResult
    chains: Mapping[str, ChainResult]
    total_kg: float
    unweighed: tuple[str, ...]


def assess_loop(loop: Loop, around: Around) -> LoopResult:
    """Its plant, its delay, its margins."""
    missing: list[str] = []
    plant = _plant(loop, around, missing)
    delay = _delay_s(loop, around, missing)
    if plant is None or delay is None:
        return LoopResult(loop, plant, delay, missing=tuple(missing))
    whole = plant.times(pid(loop.control_gain, loop.integral_s, loop.derivative_s))
    found = LoopResult(loop, plant, delay, margins(whole, delay), is_stable(whole), True, tuple(missing))
    sampled = settles_sampled(plant, replace(found.sampled(), most=math.inf))
    return replace(found, sampled_settles=sampled is not False)


def _delay_s(loop: Loop, around: Around, missing: list[str]) -> float | None:
    chain = around.chains.get(loop.chain)
    if loop.chain and (chain is None or chain.latency is None):
        missing.append(f"{loop.name}: how long {chain.chain.name if chain is not None else 'its chain'} takes")
        return None
    seen = chain.latency.most_s if chain is not None and chain.latency is not None else 0.0
    return seen + loop.dead_s + loop.sample_s / 2


def _plant(loop: Loop, around: Around, missing: list[str]) -> Transfer | None:
    if loop.plant in {"first order", "integrator with lag"}:
        gain, time = loop.plant_gain, loop.time_constant_s
        if gain is None:
            missing.append(f"{loop.name}: the gain of what is controlled")
        if time is None:
            missing.append(f"{loop.name}: its time constant")
        if gain is None or time is None:
            return None
        return _lagging(gain, time, integrates=loop.plant == "integrator with lag")
    result = around.motion.of(loop.load)
    drive = result.drive if result is not None else None
    if result is None or drive is None or not isinstance(drive.motor, MotorConstants):
        missing.append(f"{loop.name}: a motor of Motion that it controls")
        return None
    time = _time_constant(loop, result, drive, around, missing)
    gain = _motor_gain(loop, result, drive.motor, around, missing)
    return None if time is None or gain is None else _lagging(gain, time, integrates=loop.plant != "motor speed")


def _lagging(gain: float, time_s: float, *, integrates: bool) -> Transfer:
    return Transfer((gain,), (time_s, 1.0, 0.0) if integrates else (time_s, 1.0))


def _motor_gain(
    loop: Loop, result: LoadResult, motor: MotorConstants, around: Around, missing: list[str]
) -> float | None:  # fmt: skip
    """Speed at the load for a volt; of a heading how fast it turns when its sides differ by a volt each way."""
    gain = 1 / (motor.volts_s_per_rad * result.load.ratio)
    if loop.plant != "heading":
        return gain
    radius = result.facts.get("radius_m")
    if radius is None or loop.track_m is None:
        missing.append(f"{loop.name}: {'its track' if radius is not None else 'wheels that it drives on'}")
        return None
    return gain * 2 * radius / loop.track_m


def _time_constant(
    loop: Loop, result: LoadResult, drive: Drive, around: Around, missing: list[str]
) -> float | None:  # fmt: skip
    """As given, else R·J/(kt·ke) at the motor's output shaft; of wheels with the mass of everything."""
    if loop.time_constant_s is not None:
        return loop.time_constant_s
    motor, load = drive.motor, result.load
    assert isinstance(motor, MotorConstants)
    inertia = loop.inertia_kg_m2
    if inertia is None and isinstance(load, WheelLoad) and loop.plant != "heading" and "radius_m" in result.facts:
        if around.unweighed:
            missing += [f"{name}: its mass" for name in around.unweighed]
        motors = load.motors or drive.item.count
        inertia = around.total_kg * (result.facts["radius_m"] / load.ratio) ** 2 / motors
    if inertia is None:
        missing.append(f"{loop.name}: the inertia that its motor turns, or its time constant")
        return None
    return motor.resistance_ohm * inertia / (motor.torque_n_m_per_a * motor.volts_s_per_rad)


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    return concept.control_loops, concept.loads if concept.control_loops else ()


def _work(project: Project, given: Given) -> tuple[LoopResult, ...]:
    if not project.concept.control_loops:
        return ()
    chains = {c.chain.id: c for c in given.of(TIMING).chains}
    around = Around(project.concept, given.of(MOTION), chains, given.of(TOTAL_KG), given.of(UNWEIGHED))
    return tuple(assess_loop(loop, around) for loop in project.concept.control_loops)


LOOPS = Node("loops", _read, _work, (TIMING, MOTION, TOTAL_KG, UNWEIGHED))
