"""What starts otherwise than it works, one thing at a time: motors, coils, wires that warm; and how long each takes."""

import math

from wired_union.physics.transient import MotorWinding, Warming
from wired_union.project.model import Item
from wired_union.subjects.motion.gives import Shaft, constants_of
from wired_union.subjects.power.currents import bursts, is_coil

RUN_UP = 3.0
"""Time constants after which 95 % of a start is over."""


def inertia_of(item: Item, shaft: Shaft | None) -> float:
    """Of rotor and load at the shaft; endless, so that it stays blocked, where one of them is not known."""
    motor = item.part.motor
    if shaft is None or motor is None or motor.rotor_inertia_kg_m2 is None:
        return math.inf
    return shaft.inertia_kg_m2 + motor.rotor_inertia_kg_m2 * (motor.gear_ratio or 1.0) ** 2


def settles_s(item: Item, shaft: Shaft | None, ohm: float) -> float:
    """How long until 95 % of a start is over, through so many ohms besides its own; endless where not known."""
    motor, load = constants_of(item.part), item.part.load
    if motor is not None and item.part.motor is not None:
        whole, coil = motor.resistance_ohm + ohm, item.part.motor.inductance_h or 0.0
        turned = inertia_of(item, shaft) * whole / (motor.volts_s_per_rad * motor.torque_n_m_per_a)
        return RUN_UP * (turned + coil / whole)
    if load is None:
        return math.inf
    if is_coil(item) and load.active_a:
        return RUN_UP * (load.inductance_h or 0.0) * load.active_a / (load.rated_v or 1.0)
    if warms(item) and load.warms_s is not None:
        return RUN_UP * load.warms_s
    return load.peak_s if bursts(item) and load.peak_s is not None else math.inf


def warms(item: Item) -> bool:
    """Whether it starts as a cold wire that warms."""
    load = item.part.load
    return load is not None and load.warms_s is not None and load.startup_a is not None and bool(load.rated_v)


def settles(item: Item) -> bool:
    """Whether it is known how its start goes."""
    return constants_of(item.part) is not None or is_coil(item) or warms(item)


def coil_of(
    item: Item, each_a: float, count: int, starts_s: float, feed_ohm: float, soft_start_s: float, limit_a: float
) -> MotorWinding | None:  # fmt: skip
    """A coil that turns nothing: its current rises through its inductance to what its resistance lets through."""
    load = item.part.load
    if load is None or not is_coil(item) or not each_a > 0:
        return None
    ohm = (load.rated_v or 0.0) / max(each_a, load.startup_a or 0.0)
    return MotorWinding(ohm + feed_ohm, load.inductance_h or 0.0, count=count, starts_s=starts_s,
                        soft_start_s=soft_start_s, limit_a=limit_a)  # fmt: skip


def warming_of(item: Item, warm_a: float, begins: list[float]) -> list[Warming]:
    """Copies that start cold, each from when it begins; nothing where it is not known how they settle."""
    load = item.part.load
    if load is None or not warms(item) or not begins:
        return []
    volts, cold_a, each_a = load.rated_v or 1.0, load.startup_a or 0.0, warm_a / len(begins)
    return [Warming(cold_a * begins.count(at) / volts, each_a * begins.count(at) / volts, load.warms_s or 1.0, at)
            for at in dict.fromkeys(begins)]  # fmt: skip
