"""What lies in a circuit of the first half second: a source, wires, motors, capacitors, loads that stand.

Each thing is handed a step of `h` seconds and answers what it would take in the middle of it at a voltage V:
I(V) = fixed + slope·V + power/V. By the implicit midpoint rule all of them are straight in V but for what takes a
constant power, so one step is one small set of equations whatever is in the circuit (`transient_run`). What a thing
stores, uses and loses in a step follows from the same midpoint, so that energy is kept to the last digit: the energy
of a coil, a capacitor and a turning mass are squares, and of a square the midpoint rule makes no error.
Source: implicit midpoint rule, Hairer, Lubich & Wanner, Geometric Numerical Integration, IV.2.1 (from memory).
"""

import math

from msgspec import Struct, field

from wired_union.physics.starting import LEAST


class Source(Struct, frozen=True):
    """A voltage behind a resistance, and more of it that comes in with time: a pack, a supply, a regulator."""

    voltage_v: float
    ohm: float = 0.0
    slow_ohm: float = 0.0
    slow_s: float = 1.0
    held_ohm: float = 0.0
    """What comes in so slowly that it keeps what it had before, for all that is looked at."""


class MotorWinding(Struct, frozen=True):
    """Brushed motors of one kind that start together: all figures of one, at its output shaft.

    L·i′ = u − R·i − ke·ω and J·ω′ = kt·i − T·sign(ω); kt·i·ω of the ke·i·ω that leave the winding reach the shaft.
    Without an inertia it stays blocked, which no start is worse than.
    """

    ohm: float
    inductance_h: float = 0.0
    volts_s_per_rad: float = 0.0
    torque_n_m_per_a: float = 0.0
    inertia_kg_m2: float = math.inf
    torque_n_m: float = 0.0
    count: int = 1
    starts_s: float = 0.0
    soft_start_s: float = 0.0
    """How long its driver takes to open fully; at once when 0."""
    limit_a: float = math.inf
    """Current to which its driver chops."""
    speed_rad_s: float = 0.0
    """Speed at its start; against its drive where it is reversed."""


class Capacitor(Struct, frozen=True):
    """Capacitors in parallel behind a resistance."""

    farad: float
    ohm: float = 0.0
    volts: float = 0.0


class Standing(Struct, frozen=True):
    """What is taken from one instant to another: amperes, watts or siemens that stand."""

    current_a: float = 0.0
    power_w: float = 0.0
    siemens: float = 0.0
    from_s: float = -math.inf
    to_s: float = math.inf

    def at(self, time_s: float) -> bool:
        """Whether it is taken at that time."""
        return self.from_s <= time_s < self.to_s


class Warming(Struct, frozen=True):
    """What conducts well while it is cold, and settles as it warms: a hot wire, a lamp.

    Source: exponential settling, of the conductance, with one time constant: common practice.
    """

    cold_siemens: float
    warm_siemens: float
    settles_s: float
    from_s: float = 0.0

    def siemens_at(self, time_s: float) -> float:
        """What it conducts at a time; nothing before it is on."""
        if time_s < self.from_s:
            return 0.0
        left = math.exp(-(time_s - self.from_s) / self.settles_s)
        return self.warm_siemens + (self.cold_siemens - self.warm_siemens) * left


Takes = tuple[float, float]
"""Current at no voltage, and siemens, of what is straight in V."""
NOTHING: Takes = (0.0, 0.0)


class Energy(Struct):
    """Joules since the beginning: given by the source, stored, used at shafts and by loads, lost to heat."""

    given_j: float = 0.0
    stored_j: float = 0.0
    used_j: float = 0.0
    lost_j: float = 0.0

    @property
    def missing_j(self) -> float:
        """What was given and is nowhere: 0 but for rounding, and for how well each step was solved."""
        return self.given_j - self.stored_j - self.used_j - self.lost_j


class MotorAtWork(Struct):
    """A winding while it is stepped: current and speed of one motor."""

    of: MotorWinding
    current_a: float = 0.0
    speed_rad_s: float = 0.0
    held: bool = False
    _middle: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    """Current in the middle of the step at no voltage and for each volt; the same of the speed."""
    _duty: float = 1.0

    @property
    def straight(self) -> Takes:
        """What all of them take in the middle of the step, where the driver does not chop."""
        each = self.of.count * self._duty
        return each * self._middle[0], each * self._duty * self._middle[1]

    def takes(self, start_s: float, h: float) -> Takes:
        """What all of them take in the middle of a step."""
        m = self.of
        if start_s + h / 2 < m.starts_s:
            self._duty = 0.0
            return NOTHING
        self._duty = _opened(m, start_s + h / 2)
        self._middle = self._free(h) if not self._stuck() else self._blocked(h)
        return self.straight

    def _stuck(self) -> bool:
        """Whether its load holds it where it is; by what the winding carries at the begin."""
        m = self.of
        if math.isinf(m.inertia_kg_m2):
            return True
        return self.speed_rad_s == 0.0 and self.current_a * m.torque_n_m_per_a <= m.torque_n_m

    def _blocked(self, h: float) -> tuple[float, float, float, float]:
        m = self.of
        whole = m.inductance_h + h / 2 * m.ohm
        return m.inductance_h * self.current_a / whole, h / 2 / whole, 0.0, 0.0

    def _free(self, h: float) -> tuple[float, float, float, float]:
        m = self.of
        against = m.torque_n_m if self.speed_rad_s >= 0 else -m.torque_n_m
        a, b = h / 2, h / (2 * m.inertia_kg_m2)
        whole = m.inductance_h + a * (m.ohm + b * m.volts_s_per_rad * m.torque_n_m_per_a)
        coasts = self.speed_rad_s - b * against
        fixed, slope = (m.inductance_h * self.current_a - a * m.volts_s_per_rad * coasts) / whole, a / whole
        return fixed, slope, coasts + b * m.torque_n_m_per_a * fixed, b * m.torque_n_m_per_a * slope

    def chopped_w(self, volts: float, h: float) -> float | None:
        """Watts that all take while the driver chops: duty × motor current at the volts; None where it need not.

        The current then goes to the limit at the end of the step and stays there.
        """
        m = self.of
        if self._duty == 0.0 or math.isinf(m.limit_a):
            return None
        u = self._duty * volts
        if self._middle[0] + self._middle[1] * u <= (self.current_a + m.limit_a) / 2:
            return None
        middle = (self.current_a + m.limit_a) / 2
        turns = 0.0 if self._stuck() else self._turning(middle, h)
        coil = m.inductance_h * (m.limit_a - self.current_a) / h
        return m.count * middle * (m.ohm * middle + m.volts_s_per_rad * turns + coil)

    def _turning(self, current_a: float, h: float) -> float:
        """Speed in the middle of a step with a current."""
        m = self.of
        against = m.torque_n_m if self.speed_rad_s >= 0 else -m.torque_n_m
        return self.speed_rad_s + h / (2 * m.inertia_kg_m2) * (m.torque_n_m_per_a * current_a - against)

    def step(self, volts: float, h: float, energy: Energy) -> float:
        """Go through a step at the voltage that stood in its middle; the current that all took of the source."""
        m = self.of
        if self._duty == 0.0:
            return 0.0
        u, chopped = self._duty * volts, self.chopped_w(volts, h)
        if chopped is None:
            current, turns = self._middle[0] + self._middle[1] * u, self._middle[2] + self._middle[3] * u
            taken = m.count * self._duty * current
        else:
            current = (self.current_a + m.limit_a) / 2
            turns = 0.0 if self._stuck() else self._turning(current, h)
            taken = chopped / volts if volts > 0 else 0.0
        self._pass(current, turns, h, energy)
        return taken

    def _pass(self, current: float, turns: float, h: float, energy: Energy) -> None:
        """Move to the end of the step; what went in is stored, or turned the shaft, or warmed winding and gear."""
        m = self.of
        held = self._stuck()
        against = 0.0 if held else m.torque_n_m if self.speed_rad_s >= 0 else -m.torque_n_m
        coil = m.inductance_h * 2 * (current - self.current_a) * current * m.count
        mass = 0.0 if held else m.inertia_kg_m2 * 2 * (turns - self.speed_rad_s) * turns * m.count
        geared = (m.volts_s_per_rad - m.torque_n_m_per_a) * current * turns
        energy.stored_j += coil + mass
        energy.used_j += against * turns * m.count * h
        energy.lost_j += (m.ohm * current * current + geared) * m.count * h
        self.current_a = 2 * current - self.current_a if m.inductance_h > 0 else current
        self.speed_rad_s = 0.0 if held else 2 * turns - self.speed_rad_s


def _opened(m: MotorWinding, time_s: float) -> float:
    """Share of the time that its driver is open."""
    if m.soft_start_s <= 0:
        return 1.0
    return min((time_s - m.starts_s) / m.soft_start_s, 1.0)


class CapacitorAtWork(Struct):
    """A capacitor while it is stepped."""

    of: Capacitor
    volts: float
    _whole: float = 1.0

    def takes(self, h: float) -> Takes:
        """What it takes in the middle of a step."""
        self._whole = max(self.of.ohm + h / (2 * self.of.farad), LEAST)
        return -self.volts / self._whole, 1 / self._whole

    def step(self, volts: float, h: float, energy: Energy) -> float:
        """Go through a step; the current that it took."""
        current = (volts - self.volts) / self._whole
        middle = self.volts + current * h / (2 * self.of.farad)
        energy.stored_j += current * middle * h
        energy.lost_j += current * current * self.of.ohm * h
        self.volts += current * h / self.of.farad
        return current


class SourceAtWork(Struct):
    """A source while it is stepped: what the slow part of its resistance has taken by now."""

    of: Source
    slow_v: float = 0.0
    held_v: float = 0.0
    _open_v: float = 0.0
    _ohm: float = 0.0
    _share: float = 1.0

    def gives(self, h: float) -> tuple[float, float]:
        """Voltage and resistance that it shows in the middle of a step."""
        s = self.of
        self._share = 1 / (1 + h / (2 * s.slow_s))
        self._open_v = s.voltage_v - self.held_v - self.slow_v * self._share
        self._ohm = s.ohm + s.slow_ohm * h / (2 * s.slow_s) * self._share
        return self._open_v, self._ohm

    def step(self, current_a: float, h: float, energy: Energy) -> None:
        """Go through a step with the current that it gave."""
        s = self.of
        energy.given_j += s.voltage_v * current_a * h
        energy.lost_j += (current_a * s.ohm + self.held_v) * current_a * h
        if s.slow_ohm <= 0:
            return
        middle = (self.slow_v + s.slow_ohm * h / (2 * s.slow_s) * current_a) * self._share
        energy.lost_j += middle * middle / s.slow_ohm * h
        after = 2 * middle - self.slow_v
        energy.stored_j += s.slow_s / s.slow_ohm * (after * after - self.slow_v * self.slow_v) / 2
        self.slow_v = after


class Place(Struct, frozen=True):
    """A point of the circuit: behind which other, through what, and what hangs there. The first is at the source."""

    up: int = -1
    ohm: float = 0.0
    motors: tuple[MotorWinding, ...] = ()
    capacitors: tuple[Capacitor, ...] = ()
    loads: tuple[Standing, ...] = field(default=())
    warming: tuple[Warming, ...] = ()
    drop_v: float = 0.0
    """Voltage that lies between it and the one above, whatever flows: a diode's; only behind a resistance."""
