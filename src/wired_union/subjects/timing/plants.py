"""What control loops control: from figures, from a motor of Motion, or over a quicker loop."""

import math
from collections.abc import Callable, Mapping

from msgspec import Struct

from wired_union.physics.loops import Transfer, added, pid, roots_of
from wired_union.physics.motor import MotorConstants
from wired_union.project.loop_model import Loop
from wired_union.project.model import Concept, WheelLoad
from wired_union.subjects.motion.gives_times import Drive, LoadResult, MotionResult
from wired_union.subjects.timing.results import ChainResult


class Around(Struct, frozen=True):
    """What loops look at besides themselves."""

    concept: Concept
    motion: MotionResult
    chains: Mapping[str, ChainResult]
    total_kg: float
    unweighed: tuple[str, ...]


class Plant(Struct, frozen=True):
    """A plant; of two motors how fast they drift apart by themselves."""

    transfer: Transfer
    drifts_rad_s: float = 0.0
    quick_rad_s: float | None = None
    """Up to where the loop below it follows, of a cascade."""


def one_lag(plant: Transfer) -> bool:
    """Whether it is a gain with one lag, and at the most an integrator: what published rules are for."""
    down = plant.denominator
    return len(plant.numerator) == 1 and (len(down) == 2 or (len(down) == 3 and down[-1] == 0))


def lagging(gain: float, time_s: float, *, integrates: bool) -> Transfer:
    return Transfer((gain,), (time_s, 1.0, 0.0) if integrates else (time_s, 1.0))


def plant_of(loop: Loop, around: Around, missing: list[str]) -> Plant | None:
    """What a loop controls; None, and what is missing, where that is not known."""
    return PLANTS[loop.plant](loop, around, missing)


def _typed(loop: Loop, _: Around, missing: list[str]) -> Plant | None:
    gain, time = loop.plant_gain, loop.time_constant_s
    if gain is None:
        missing.append(f"{loop.name}: the gain of what is controlled")
    if time is None:
        missing.append(f"{loop.name}: its time constant")
    if gain is None or time is None:
        return None
    return Plant(lagging(gain, time, integrates=loop.plant == "integrator with lag"))


def _moved(loop: Loop, around: Around, missing: list[str]) -> Plant | None:
    result = around.motion.of(loop.load)
    drive = result.drive if result is not None else None
    if result is None or drive is None or not isinstance(drive.motor, MotorConstants):
        missing.append(f"{loop.name}: a motor of Motion that it controls")
        return None
    time = _time_constant(loop, result, drive, around, missing)
    gain = _motor_gain(loop, result, drive.motor, missing)
    if time is None or gain is None:
        return None
    plant = lagging(gain, time, integrates=loop.plant != "motor speed")
    if loop.plant != "two motors in step":
        return Plant(plant)
    fastest = max(drive.motor.speed_at(drive.nominal_v, 0.0), 0.0) / result.load.ratio
    return Plant(plant, drifts_rad_s=loop.apart * fastest)


def _motor_gain(loop: Loop, result: LoadResult, motor: MotorConstants, missing: list[str]) -> float | None:
    """Speed at the load for a volt; of a heading, or two motors, when one has a volt more and one a volt less."""
    gain = 1 / (motor.volts_s_per_rad * result.load.ratio)
    if loop.plant == "two motors in step":
        return 2 * gain
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


def _over(loop: Loop, around: Around, missing: list[str]) -> Plant | None:
    """What an inner loop moves, summed up: its closed loop with its own delay (Padé, second order), and 1/s."""
    inner = next((x for x in around.concept.control_loops if x.id == loop.inside), None)
    if inner is None or inner.plant == "over an inner loop" or inner.controller != "PID" or inner.predicts_s:
        lacks = "the inner loop that it commands" if inner is None else f"{inner.name} as a plain PID loop of its own"
        missing.append(f"{loop.name}: {lacks}")
        return None
    inside = plant_of(inner, around, missing)
    late = delay_s(inner, around, missing)
    if inside is None or late is None:
        return None
    law = pid(inner.control_gain, inner.integral_s, inner.derivative_s)
    whole = inside.transfer.times(law).times(pade(late))
    closed = added(whole.numerator, whole.denominator)
    roots = roots_of(closed)
    if not all(math.isfinite(abs(r)) and r.real < 0 for r in roots):
        missing.append(f"{loop.name}: an inner loop that settles")
        return None
    gain = loop.plant_gain or 1.0
    top = tuple(gain * x for x in whole.numerator)
    return Plant(Transfer(top, (*closed, 0.0)), quick_rad_s=min(map(abs, roots)))


def pade(late_s: float) -> Transfer:
    """A delay as a fraction, its phase right to a degree up to about two over the delay."""
    if late_s <= 0:
        return Transfer((1.0,), (1.0,))
    square = late_s**2 / 12
    return Transfer((square, -late_s / 2, 1.0), (square, late_s / 2, 1.0))


def delay_s(loop: Loop, around: Around, missing: list[str]) -> float | None:
    """From what is measured to what is done, with half a period in which each output is held."""
    chain = around.chains.get(loop.chain)
    if loop.chain and (chain is None or chain.latency is None):
        missing.append(f"{loop.name}: how long {chain.chain.name if chain is not None else 'its chain'} takes")
        return None
    seen = chain.latency.most_s if chain is not None and chain.latency is not None else 0.0
    return seen + loop.dead_s + loop.sample_s / 2


PLANTS: dict[str, Callable[[Loop, Around, list[str]], Plant | None]] = {
    "first order": _typed, "integrator with lag": _typed, "motor speed": _moved, "motor position": _moved,
    "heading": _moved, "two motors in step": _moved, "over an inner loop": _over,
}  # fmt: skip
