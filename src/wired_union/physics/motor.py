"""Brushed motors by the linear model, and the ratio that matches a load."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import HUGHES


class MotorPoint(Struct, frozen=True):
    speed_rad_s: float
    current_a: float
    mechanical_power_w: float
    electrical_power_w: float
    efficiency: float
    best_efficiency: float


class MotorConstants(Struct, frozen=True):
    """What the linear model needs: winding, and torque and voltage constants at the output shaft."""

    resistance_ohm: float
    torque_n_m_per_a: float
    volts_s_per_rad: float
    no_load_current_a: float

    def current_at(self, torque_n_m: float) -> float:
        """Current for a torque; it does not depend on the voltage."""
        return self.no_load_current_a + torque_n_m / self.torque_n_m_per_a

    def speed_at(self, voltage_v: float, torque_n_m: float) -> float:
        """Speed under a torque; negative where the load pushes the motor back."""
        return (voltage_v - self.current_at(torque_n_m) * self.resistance_ohm) / self.volts_s_per_rad

    def power_at(self, voltage_v: float, torque_n_m: float, speed_rad_s: float) -> float:
        """What it takes from its supply."""
        return voltage_v * self.current_at(torque_n_m)

    def curve(self, voltage_v: float, points: int) -> list[tuple[float, float]]:
        """Torque and speed along its line, from no torque to its most."""
        return [(0.0, self.speed_at(voltage_v, 0.0)), (self.stall_torque_at(voltage_v), 0.0)]

    def best_efficiency_at(self, voltage_v: float) -> float:
        """Largest efficiency over all loads: kt/ke·(1 − √(I₀/Iₛ))²; a gear's loss makes kt smaller than ke."""
        stall = voltage_v / self.resistance_ohm
        if stall <= self.no_load_current_a:
            return 0.0
        return self.torque_n_m_per_a / self.volts_s_per_rad * (1 - math.sqrt(self.no_load_current_a / stall)) ** 2

    def stall_torque_at(self, voltage_v: float) -> float:
        """Torque when blocked."""
        return self.torque_n_m_per_a * (voltage_v / self.resistance_ohm - self.no_load_current_a)


def motor_constants(
    rated_voltage_v: float, no_load_speed_rad_s: float, stall_torque_n_m: float, stall_current_a: float,
    no_load_current_a: float,
) -> MotorConstants:  # fmt: skip
    """Constants of the linear model from the five figures of a datasheet, gear included.

    Raises ValueError: a figure that is not above zero, or a no-load current that is not below the stall current.
    """
    figures = (rated_voltage_v, no_load_speed_rad_s, stall_torque_n_m, stall_current_a)
    require(min(figures) > 0, "rated voltage, no-load speed, stall torque and stall current are above 0")
    require(0 <= no_load_current_a < stall_current_a, "the no-load current is from 0 to below the stall current")
    resistance = rated_voltage_v / stall_current_a
    torque_constant = stall_torque_n_m / (stall_current_a - no_load_current_a)
    voltage_constant = (rated_voltage_v - no_load_current_a * resistance) / no_load_speed_rad_s
    made = MotorConstants(resistance, torque_constant, voltage_constant, no_load_current_a)
    best = made.best_efficiency_at(rated_voltage_v)
    require(best <= 1, f"its figures say that it gives {best:.0%} of the power it takes; one of them is wrong")
    return made


@method(
    "dc-motor",
    source="linear motor model",
    works=(HUGHES,),
    checked="the motor's differential equation by scipy's solve_ivp",
    limits="brushed motor, magnets not saturated; gear losses are in the figures",
)
def dc_motor(
    supply_voltage_v: float, rated_voltage_v: float, no_load_speed_rad_s: float, stall_torque_n_m: float,
    stall_current_a: float, no_load_current_a: float, load_torque_n_m: float,
) -> MotorPoint:  # fmt: skip
    """Speed, current and efficiency of a brushed motor under a torque at any voltage.

    Args:
        supply_voltage_v: voltage it gets
        rated_voltage_v: voltage at which its figures are given
        no_load_speed_rad_s: speed without load at the rated voltage
        stall_torque_n_m: torque when blocked at the rated voltage
        stall_current_a: current when blocked at the rated voltage
        no_load_current_a: current without load
        load_torque_n_m: torque it works against
    Returns:
        speed_rad_s: speed
        current_a: current
        mechanical_power_w: power at the shaft
        electrical_power_w: power from the supply
        efficiency: share of the power that reaches the shaft
        best_efficiency: the most it reaches over all loads at this voltage, kt/ke·(1 − √(I₀/Iₛ))²
    Raises:
        ValueError: impossible figures, or a torque that stalls it.
    """
    require(supply_voltage_v > 0, "the supply voltage is above 0")
    require(load_torque_n_m >= 0, "the load torque is 0 or more")
    motor = motor_constants(
        rated_voltage_v, no_load_speed_rad_s, stall_torque_n_m, stall_current_a, no_load_current_a
    )  # fmt: skip
    most = motor.stall_torque_at(supply_voltage_v)
    require(load_torque_n_m <= most, f"it stalls: the most is {most:.4g} N·m at {supply_voltage_v:.4g} V")
    current, speed = motor.current_at(load_torque_n_m), motor.speed_at(supply_voltage_v, load_torque_n_m)
    given, taken = load_torque_n_m * speed, supply_voltage_v * current
    best = motor.best_efficiency_at(supply_voltage_v)
    return MotorPoint(speed, current, given, taken, given / taken if taken else 0.0, best)


class GearRatio(Struct, frozen=True):
    ratio: float


@method(
    "best-gear-ratio",
    source="inertia matching, √(J_L/J_M)",
    checked="a search over all ratios by scipy",
    limits="most acceleration of an inertia, no friction",
)
def best_gear_ratio(load_inertia_kg_m2: float, motor_inertia_kg_m2: float) -> GearRatio:
    """Ratio at which a motor accelerates an inertia fastest: its own, reflected, equals the load's.

    Args:
        load_inertia_kg_m2: inertia of the load about its axis
        motor_inertia_kg_m2: inertia of the rotor
    Returns:
        ratio: turns of the motor for one of the load
    Raises:
        ValueError: an inertia that is not above zero.
    """
    require(load_inertia_kg_m2 > 0 and motor_inertia_kg_m2 > 0, "inertias are above 0")
    return GearRatio(math.sqrt(load_inertia_kg_m2 / motor_inertia_kg_m2))


class SpinUp(Struct, frozen=True):
    time_s: float
    energy_j: float


@method(
    "spin-up-time",
    source="first-order response of the linear motor model, τ = J·ω₀/T_s",
    checked="the motor's differential equation by scipy's solve_ivp",
    limits="inertia only, constant voltage",
)
def spin_up_time(
    inertia_kg_m2: float, speed_rad_s: float, no_load_speed_rad_s: float, stall_torque_n_m: float,
    start_speed_rad_s: float = 0.0,
) -> SpinUp:  # fmt: skip
    """Time a motor takes to bring a wheel to speed.

    Args:
        inertia_kg_m2: inertia of wheel and reflected rotor, at the wheel
        speed_rad_s: speed to reach
        no_load_speed_rad_s: speed of the wheel without load
        stall_torque_n_m: torque at the wheel when blocked
        start_speed_rad_s: speed it starts from
    Returns:
        time_s: time until it is reached
        energy_j: energy in the wheel then
    Raises:
        ValueError: a speed that the motor never reaches, or figures that are not above zero.
    """
    require(inertia_kg_m2 > 0 and no_load_speed_rad_s > 0 and stall_torque_n_m > 0, "figures are above 0")
    require(
        0 <= start_speed_rad_s <= speed_rad_s < no_load_speed_rad_s,
        f"the speed is from the start's to below the no-load speed, {no_load_speed_rad_s:.4g} rad/s",
    )
    tau = inertia_kg_m2 * no_load_speed_rad_s / stall_torque_n_m
    left = (no_load_speed_rad_s - speed_rad_s) / (no_load_speed_rad_s - start_speed_rad_s)
    return SpinUp(-tau * math.log(left), inertia_kg_m2 * speed_rad_s**2 / 2)
