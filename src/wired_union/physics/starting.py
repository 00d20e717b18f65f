"""The first moments: a motor that starts, a capacitor that fills. Exact solutions of linear circuits, no time steps."""

import cmath
import math

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.physics.method import method, require
from wired_union.physics.sources import HUGHES, WOODSON

Array = NDArray[np.float64]


class Decay(Struct, frozen=True):
    """x(t) = rest + Re(a·e^(p·t) + b·e^(q·t)): what two linear first-order equations together do."""

    rest: float
    a: complex
    p: complex
    b: complex
    q: complex

    def at(self, time_s: Array) -> Array:
        """Values at some times."""
        found: Array = (self.rest + self.a * np.exp(self.p * time_s) + self.b * np.exp(self.q * time_s)).real
        return found


def decay_of(sum_of_roots: float, product: float, rest: float, start: float, slope: float) -> Decay:
    """The solution of x″ − s·x′ + d·x = d·rest from a start and its slope; s is the sum of the roots, d their product.

    Two roots that are one are moved apart by a millionth, which moves the answer by less than a millionth.
    """
    spread = cmath.sqrt(sum_of_roots**2 / 4 - product)
    least = abs(sum_of_roots) * 1e-6
    spread = complex(least) if abs(spread) < least else spread
    q = sum_of_roots / 2 - spread
    p = product / q  # the slower root by the product: as a difference it would be lost beside a much faster one
    away = start - rest
    a = (slope - q * away) / (p - q)
    return Decay(rest, a, p, away - a, q)


LEAST, MOST = 1e-12, 1e9
"""Figures of circuits and machines lie between."""


def _within(*figures: float) -> None:
    """Raise ValueError for figures of no circuit or machine, with which times could not be told apart."""
    require(all(x <= 0 or LEAST <= x <= MOST for x in figures), "figures between 1e-12 and 1e9")


class MotorStart(Struct, frozen=True):
    electrical_time_constant_s: float
    mechanical_time_constant_s: float
    peak_current_a: float
    peak_at_s: float
    settled_current_a: float
    settled_speed_rad_s: float
    time_to_speed_s: float
    charge_ah: float


class Starting(Struct, frozen=True):
    """Current and speed from the moment of switching on: held until the load is overcome, then as two decays."""

    lag_s: float
    stall_current_a: float
    electrical_time_constant_s: float
    current: Decay
    speed: Decay

    def current_at(self, time_s: Array) -> Array:
        """Amperes at some times."""
        held = -self.stall_current_a * np.expm1(-time_s / self.electrical_time_constant_s)
        found: Array = np.where(time_s < self.lag_s, held, self.current.at(np.maximum(time_s - self.lag_s, 0.0)))
        return found

    def speed_at(self, time_s: Array) -> Array:
        """Radians a second at some times."""
        found: Array = np.where(time_s < self.lag_s, 0.0, self.speed.at(np.maximum(time_s - self.lag_s, 0.0)))
        return found


def starting(
    voltage_v: float, resistance_ohm: float, inductance_h: float, torque_constant_n_m_per_a: float,
    inertia_kg_m2: float, load_torque_n_m: float = 0.0, friction_n_m_s: float = 0.0,
) -> Starting:  # fmt: skip
    """A brushed motor from rest: L·i′ = V − R·i − k·ω, J·ω′ = k·i − b·ω − T once the torque is above T.

    Raises ValueError for figures that are not above 0, and for a load that it does not move.
    """
    k, r, b = torque_constant_n_m_per_a, resistance_ohm, friction_n_m_s
    require(min(r, inductance_h, k, inertia_kg_m2) > 0, "resistance, inductance, constant and inertia are above 0")
    _within(voltage_v, r, inductance_h, k, inertia_kg_m2)
    require(max(load_torque_n_m, b) <= MOST, "a load and a friction of at most 1e9")
    require(b >= 0 and k * voltage_v / r > load_torque_n_m >= 0, "a stall torque above the load, no figure below 0")
    moving_a, tau = load_torque_n_m / k, inductance_h / resistance_ohm
    lag = -tau * math.log1p(-moving_a * r / voltage_v)
    total, stiff = -(1 / tau + b / inertia_kg_m2), r * b + k * k
    product = stiff / (inductance_h * inertia_kg_m2)
    current = (b * voltage_v + k * load_torque_n_m) / stiff
    speed = (k * voltage_v - r * load_torque_n_m) / stiff
    return Starting(
        lag, voltage_v / r, tau, decay_of(total, product, current, moving_a, (voltage_v - r * moving_a) / inductance_h),
        decay_of(total, product, speed, 0.0, 0.0),
    )  # fmt: skip


@method(
    "motor-start",
    source="L·i′ = V − R·i − k·ω and J·ω′ = k·i − b·ω − T, solved exactly",
    works=(HUGHES,),
    checked="scipy's solve_ivp; V/R·e^(−t/τ) where the winding's inductance is next to nothing",
    limits="voltage that stands; iron not saturated; a load that holds still until it is overcome, then stays",
)
def motor_start(
    voltage_v: float, resistance_ohm: float, inductance_h: float, torque_constant_n_m_per_a: float,
    inertia_kg_m2: float, load_torque_n_m: float = 0.0, friction_n_m_s: float = 0.0,
) -> MotorStart:  # fmt: skip
    """How a brushed motor starts: its peak of current, when, and how long it takes to come up to speed.

    Args:
        voltage_v: what stands at its terminals
        resistance_ohm: of winding, leads and driver
        inductance_h: of the winding
        torque_constant_n_m_per_a: torque per ampere, at the shaft that the inertia is on
        inertia_kg_m2: of rotor, gear and load, at that shaft
        load_torque_n_m: what it works against all the while
        friction_n_m_s: torque per speed
    Returns:
        electrical_time_constant_s: L/R
        mechanical_time_constant_s: J·R/(k² + R·b)
        peak_current_a: the most that it takes
        peak_at_s: when
        settled_current_a: once it runs
        settled_speed_rad_s: once it runs
        time_to_speed_s: until it has 95 % of that speed
        charge_ah: what it took beyond the settled current until then
    Raises:
        ValueError: figures that are not above 0, or a load that it does not move.
    """
    found = starting(voltage_v, resistance_ohm, inductance_h, torque_constant_n_m_per_a, inertia_kg_m2,
                     load_torque_n_m, friction_n_m_s)  # fmt: skip
    current, speed, electrical = found.current, found.speed, inductance_h / resistance_ohm
    mechanical = inertia_kg_m2 * resistance_ohm / (torque_constant_n_m_per_a**2 + resistance_ohm * friction_n_m_s)
    times = np.geomspace(min(electrical, mechanical) * 1e-3, 20 * (electrical + mechanical), 20_000)
    times = np.unique(np.concatenate([times, found.lag_s + times]))
    amperes, turning = found.current_at(times), found.speed_at(times)
    top = int(np.argmax(amperes))
    up = times[np.argmax(turning >= 0.95 * speed.rest)]
    until = times <= up
    charge = float(np.trapezoid(amperes[until] - current.rest, times[until])) / 3600
    peak, peak_at = float(amperes[top]), float(times[top])
    return MotorStart(electrical, mechanical, peak, peak_at, current.rest, speed.rest, float(up), charge)


class Inrush(Struct, frozen=True):
    peak_current_a: float
    peak_at_s: float
    overshoot_v: float
    settled_in_s: float
    energy_j: float


@method(
    "capacitor-inrush",
    source="a series circuit of R, L and C at a step of voltage, solved exactly; energy C·V²/2",
    works=(WOODSON,),
    checked="scipy's solve_ivp; V/R where inductance is next to nothing, V·√(C/L) where resistance is",
    limits="a source that stands and a capacitor that keeps its value; no current limit",
)
def capacitor_inrush(voltage_v: float, capacitance_f: float, resistance_ohm: float, inductance_h: float) -> Inrush:
    """What an empty capacitor takes when it is switched on.

    Args:
        voltage_v: of the source
        capacitance_f: of the capacitor
        resistance_ohm: of source, wire, switch and capacitor together
        inductance_h: of the wires; about 1 µH a metre there and back, common practice
    Returns:
        peak_current_a: the most that flows
        peak_at_s: when
        overshoot_v: how far its voltage goes beyond the source's
        settled_in_s: until it is within 5 % of it
        energy_j: what it holds then
    Raises:
        ValueError: figures that are not above 0.
    """
    require(min(voltage_v, capacitance_f, resistance_ohm, inductance_h) > 0, "all four figures are above 0")
    _within(voltage_v, capacitance_f, resistance_ohm, inductance_h)
    total, product = -resistance_ohm / inductance_h, 1 / (inductance_h * capacitance_f)
    volts = decay_of(total, product, voltage_v, 0.0, 0.0)
    amperes = decay_of(total, product, 0.0, 0.0, voltage_v / inductance_h)
    slowest = 1 / min(abs(volts.p.real), abs(volts.q.real))
    fastest = 1 / max(abs(volts.p), abs(volts.q))
    times = np.geomspace(fastest * 1e-3, 10 * slowest, 40_000)
    flowing, there = amperes.at(times), volts.at(times)
    top = int(np.argmax(flowing))
    outside = np.flatnonzero(np.abs(there - voltage_v) > 0.05 * voltage_v)
    settled = times[min(outside[-1] + 1, len(times) - 1)] if len(outside) else 0.0
    return Inrush(float(flowing[top]), float(times[top]), max(float(there.max()) - voltage_v, 0.0), float(settled),
                  0.5 * capacitance_f * voltage_v**2)  # fmt: skip
