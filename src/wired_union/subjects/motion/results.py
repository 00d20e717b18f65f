"""The shapes of what follows from loads to move: checks with their use, rows to read, operating points."""

import math

from msgspec import Struct, field

from wired_union.kernel.checks import Check, Row, check_of
from wired_union.kernel.results import Verdict, worst
from wired_union.physics.motor import MotorConstants
from wired_union.physics.stepper import StepperConstants
from wired_union.physics.wire import COPPER_TEMPERATURE_COEFFICIENT_PER_K
from wired_union.project.model import AnyLoad, Item, Part

__all__ = ["Check", "Drive", "LoadResult", "Point", "Row", "Turning", "check_of", "continuous_current_a", "steady"]

CONTINUOUS_SHARE = 0.3
"""Share of its stall current that a small brushed motor carries all day at most: common practice."""
UNSIZED_SHARE = 0.1
"""The same where nothing says how large its can is; one of 40 mm and more carries about that much."""
WINDING_RISE_K = 80.0
"""Warmth of a winding over the air that its varnish bears for years: IEC 60085, class 130 in air of 50 °C."""
AIR_COOLING_W_PER_M2_K = 12.0
"""Still air and radiation over a warm can: 10 to 15, common practice."""
WINDING_TO_CAN = 0.4
"""Resistance to heat from winding to can, as a share of that from can to air: common practice."""


def continuous_current_a(part: Part) -> float | None:
    """Current that a motor carries all day: a stepper's rated one; None without a motor's stall current and voltage.

    Given, or from the heat of its winding: R·I² through the surface of its can, a cylinder as thick and long as the
    part; never more than a small motor's share of its stall current. A can of unknown size counts as a large one.
    """
    if part.stepper is not None:
        return part.stepper.coil_current_a
    m = part.motor
    if m is None or not m.stall_current_a or not m.rated_voltage_v:
        return None
    if m.continuous_current_a is not None:
        return m.continuous_current_a
    if not part.width_m or not part.length_m:
        return UNSIZED_SHARE * m.stall_current_a
    surface = math.pi * part.width_m * (part.length_m + part.width_m / 2)
    heat_w = WINDING_RISE_K * AIR_COOLING_W_PER_M2_K * surface / (1 + WINDING_TO_CAN)
    warm_ohm = m.rated_voltage_v / m.stall_current_a * (1 + COPPER_TEMPERATURE_COEFFICIENT_PER_K * WINDING_RISE_K)
    return min(math.sqrt(heat_w / warm_ohm), CONTINUOUS_SHARE * m.stall_current_a)


class Point(Struct, frozen=True):
    """Where a motor works, at its own shaft."""

    name: str
    torque_n_m: float
    speed_rad_s: float
    current_a: float


class Drive(Struct, frozen=True):
    """The motor of a load: its item, its constants, the voltage it gets on average and at the worst instant."""

    item: Item
    motor: MotorConstants | StepperConstants
    nominal_v: float
    sag_v: float
    held_to_a: float = math.inf
    """Current to which its driver holds it."""

    @property
    def stall_n_m(self) -> float:
        """Torque when blocked, at the voltage it sags to, or at the current to which its driver holds it."""
        blocked = max(self.motor.stall_torque_at(self.sag_v), 0.0)
        if isinstance(self.motor, StepperConstants):
            return blocked * min(self.held_to_a / self.motor.coil_current_a, 1.0)
        return min(blocked, max(self.held_to_a - self.motor.no_load_current_a, 0.0) * self.motor.torque_n_m_per_a)

    @property
    def steps(self) -> bool:
        """Whether it is a stepper, whose driver holds its current."""
        return isinstance(self.motor, StepperConstants)

    @property
    def stall_a(self) -> float:
        """Most current: a blocked motor's, or what a driver holds in a winding."""
        if isinstance(self.motor, StepperConstants):
            return self.motor.coil_current_a
        return self.nominal_v / self.motor.resistance_ohm

    @property
    def continuous_a(self) -> float:
        """Current it carries all day."""
        return continuous_current_a(self.item.part) or 0.0

    def point(self, name: str, torque_n_m: float) -> Point:
        """Where it works under a torque, at the average voltage."""
        speed = self.motor.speed_at(self.nominal_v, torque_n_m)
        return Point(name, torque_n_m, speed, self.motor.current_at(torque_n_m))


class Turning(Struct, frozen=True):
    """What turns, and how often a second: usually, and from least to most once it is up to speed."""

    what: str
    hertz: float
    least_hz: float
    most_hz: float


def steady(what: str, hertz: float) -> Turning:
    """What always turns alike."""
    return Turning(what, hertz, hertz, hertz)


class LoadResult(Struct, frozen=True):
    """What follows for one load to move."""

    load: AnyLoad
    checks: tuple[Check, ...] = ()
    rows: tuple[Row, ...] = ()
    points: tuple[Point, ...] = ()
    drive: Drive | None = None
    missing: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    speed_m_s: float | None = None
    """How fast the load moves when it is hardest."""
    facts: dict[str, float] = field(default_factory=dict)
    """Figures that the drawing needs."""
    takes_s: tuple[float, float] | None = None
    """How long one movement takes, at least and at most; None where it has no end of its own, or nothing says."""
    impossible: bool = False
    """Whether its figures make no sense together, so that there is nothing to draw."""
    turning: tuple[Turning, ...] = ()
    """What turns, and so may shake what can swing."""

    @property
    def worst(self) -> Check | None:
        return max(self.checks, key=lambda c: c.use, default=None)

    @property
    def use(self) -> float | None:
        """Share used of what there is, in the check that is nearest to breaking.

        None while something is missing, unless what is known breaks already.
        """
        if self.worst is None or (self.missing and self.worst.verdict is not Verdict.BREAKS):
            return None
        return self.worst.use

    @property
    def verdict(self) -> Verdict:
        found = worst([c.verdict for c in self.checks]) or Verdict.UNKNOWN
        return Verdict.UNKNOWN if self.missing and found is not Verdict.BREAKS else found
