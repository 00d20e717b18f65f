"""Stepper motors on a driver that holds the current of their windings: torque over speed, and what they take.

A two-phase motor fed with sinusoidal currents is a synchronous machine. At low steps the driver holds the rated current
and the torque is level; above the speed at which the winding's impedance and back-EMF use up the supply it falls.
Source: phasor model of a synchronous machine, Acarnley, Stepping Motors: A Guide to Theory and Practice, from memory.
"""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import ACARNLEY

LOW_SPEED_SHARE = 1 / math.sqrt(2)
"""Torque of one winding after the other against both held at their rated current, which a datasheet's is."""
FULL_STEPS_A_CYCLE = 4
HALVINGS = 60
MOST_CYCLES_PER_S = 2500.0
"""Electrical cycles a second, ten thousand full steps: beyond that iron losses and drivers end it (common practice)."""


class StepperConstants(Struct, frozen=True):
    """A two-phase stepper at its output shaft, gear included."""

    coil_current_a: float
    resistance_ohm: float
    inductance_h: float
    holding_torque_n_m: float
    cycles_a_turn: float
    """Electrical cycles in a turn of the output: full steps of a turn, through four."""

    @property
    def fastest_rad_s(self) -> float:
        """Speed of the output at the most steps a second."""
        return 2 * math.pi * MOST_CYCLES_PER_S / self.cycles_a_turn

    @property
    def low_speed_n_m(self) -> float:
        """Torque while the driver holds the rated current."""
        return LOW_SPEED_SHARE * self.holding_torque_n_m

    @property
    def torque_n_m_per_a(self) -> float:
        """Torque of one winding for an ampere, and its back-EMF in volts for a radian a second."""
        return self.low_speed_n_m / self.coil_current_a

    def torque_at(self, voltage_v: float, speed_rad_s: float) -> float:
        """Most torque at a speed: k·V/Z − k²·ω·R/Z² with Z = |R + jω_e·L|, never more than at low speed."""
        if speed_rad_s > self.fastest_rad_s:
            return 0.0
        k, reactance = self.torque_n_m_per_a, speed_rad_s * self.cycles_a_turn * self.inductance_h
        impedance = math.hypot(self.resistance_ohm, reactance)
        pulled = k * voltage_v / impedance - k * k * speed_rad_s * self.resistance_ohm / impedance**2
        return max(min(pulled, self.low_speed_n_m), 0.0)

    def stall_torque_at(self, voltage_v: float) -> float:
        """Torque at low speed."""
        return self.torque_at(voltage_v, 0.0)

    def speed_at(self, voltage_v: float, torque_n_m: float) -> float:
        """Highest speed at which it gives a torque; 0 where it gives less even at low speed."""
        if torque_n_m > self.stall_torque_at(voltage_v) * (1 + 1e-12):
            return 0.0
        slow, fast = 0.0, self.fastest_rad_s
        if self.torque_at(voltage_v, fast) >= torque_n_m:
            return fast
        for _ in range(HALVINGS):
            middle = (slow + fast) / 2
            slow, fast = (middle, fast) if self.torque_at(voltage_v, middle) >= torque_n_m else (slow, middle)
        return slow

    def current_at(self, torque_n_m: float) -> float:
        """Current of a winding; its driver holds it whatever the torque."""
        return self.coil_current_a

    def power_at(self, voltage_v: float, torque_n_m: float, speed_rad_s: float) -> float:
        """What its windings burn at their rated current, and what the shaft gives."""
        return 2 * self.coil_current_a**2 * self.resistance_ohm + torque_n_m * speed_rad_s

    def best_efficiency_at(self, voltage_v: float) -> float:
        """Largest efficiency over the speeds at which it pulls with its most torque."""
        free = self.speed_at(voltage_v, 0.0)
        speeds = (free * n / HALVINGS for n in range(1, HALVINGS))
        given = ((self.torque_at(voltage_v, w), w) for w in speeds)
        return max((t * w / self.power_at(voltage_v, t, w) for t, w in given), default=0.0)

    def curve(self, voltage_v: float, points: int) -> list[tuple[float, float]]:
        """Torque and speed along the most that it gives, from no torque to its most."""
        free = self.speed_at(voltage_v, 0.0)
        speeds = [free * (1 - n / points) for n in range(points + 1)]
        return [(self.torque_at(voltage_v, w) if n else 0.0, w) for n, w in enumerate(speeds)]


def stepper_constants(
    coil_current_a: float, coil_resistance_ohm: float, coil_inductance_h: float, holding_torque_n_m: float,
    full_step_deg: float,
) -> StepperConstants:  # fmt: skip
    """Constants from a datasheet's figures, holding torque and step at the output shaft.

    Raises ValueError: a figure that is not above zero.
    """
    figures = (coil_current_a, coil_resistance_ohm, coil_inductance_h, holding_torque_n_m, full_step_deg)
    require(min(figures) > 0, "coil current, resistance, inductance, holding torque and step are above 0")
    cycles = 360 / full_step_deg / FULL_STEPS_A_CYCLE
    return StepperConstants(coil_current_a, coil_resistance_ohm, coil_inductance_h, holding_torque_n_m, cycles)


class StepperPoint(Struct, frozen=True):
    torque_n_m: float
    supply_power_w: float
    supply_current_a: float


@method(
    "stepper-torque",
    source="phasor model of a synchronous machine",
    works=(ACARNLEY,),
    checked="both windings searched over the load angle by scipy",
    limits="driver that holds the current, up to 10 000 full steps a second; no resonance; half of the torque is"
    " usually kept in hand",
)
def stepper_torque(
    supply_voltage_v: float, coil_current_a: float, coil_resistance_ohm: float, coil_inductance_h: float,
    holding_torque_n_m: float, full_step_deg: float, speed_rad_s: float,
) -> StepperPoint:  # fmt: skip
    """Most torque of a stepper at a speed, and what it takes from the supply: not the current of its windings.

    Args:
        supply_voltage_v: voltage at its driver
        coil_current_a: rated current of one winding
        coil_resistance_ohm: resistance of one winding
        coil_inductance_h: inductance of one winding
        holding_torque_n_m: torque with both windings held, at the output shaft
        full_step_deg: one full step of the output shaft
        speed_rad_s: speed of the output shaft
    Returns:
        torque_n_m: most torque at that speed
        supply_power_w: what both windings burn at their rated current, and what the shaft gives
        supply_current_a: the same as a current from the supply, driver losses apart
    Raises:
        ValueError: a figure that is not above zero, or a negative speed.
    """
    require(supply_voltage_v > 0 and speed_rad_s >= 0, "the supply voltage is above 0, the speed 0 or more")
    motor = stepper_constants(
        coil_current_a, coil_resistance_ohm, coil_inductance_h, holding_torque_n_m, full_step_deg
    )  # fmt: skip
    torque = motor.torque_at(supply_voltage_v, speed_rad_s)
    power = motor.power_at(supply_voltage_v, torque, speed_rad_s)
    return StepperPoint(torque, power, power / supply_voltage_v)
