"""The shapes of what follows from loads to move: checks with their use, rows to read, operating points."""

from typing import NamedTuple

from msgspec import Struct, field

from wired_union.kernel.results import Verdict, share_verdict, worst
from wired_union.physics.motor import MotorConstants
from wired_union.project.model import AnyLoad, Item
from wired_union.units import show

CONTINUOUS_SHARE = 0.3
"""Share of its stall current that a brushed motor carries all day, where its figures do not say: common practice."""


class Check(Struct, frozen=True):
    """One thing that must hold: what share of what there is it takes, and the figures behind it."""

    id: str
    name: str
    use: float
    needed: float
    given: float
    unit: str = ""
    extra: str = ""

    @property
    def said(self) -> str:
        """ "428 mN·m of 1.34 N·m" """
        if not self.unit:
            return f"{self.needed:.2f} of {self.given:.2f}{self.extra}"
        return f"{show(self.needed, self.unit)} of {show(self.given, self.unit)}{self.extra}"

    @property
    def verdict(self) -> Verdict:
        return share_verdict(self.use)


class Row(NamedTuple):
    """A figure to read; its tone is "" or a verdict."""

    name: str
    text: str
    tone: str = ""


class Point(NamedTuple):
    """Where a motor works, at its own shaft."""

    name: str
    torque_n_m: float
    speed_rad_s: float
    current_a: float


class Drive(Struct, frozen=True):
    """The motor of a load: its item, its constants, the voltage it gets on average and at the worst instant."""

    item: Item
    motor: MotorConstants
    nominal_v: float
    sag_v: float

    @property
    def stall_n_m(self) -> float:
        """Torque when blocked, at the voltage it sags to."""
        return max(self.motor.stall_torque_at(self.sag_v), 0.0)

    @property
    def stall_a(self) -> float:
        return self.nominal_v / self.motor.resistance_ohm

    @property
    def continuous_a(self) -> float:
        """Current it carries all day."""
        given = self.item.part.motor.continuous_current_a if self.item.part.motor else None
        return given or CONTINUOUS_SHARE * (self.item.part.motor.stall_current_a or 0.0)  # type: ignore[union-attr]

    def point(self, name: str, torque_n_m: float) -> Point:
        """Where it works under a torque, at the average voltage."""
        speed = self.motor.speed_at(self.nominal_v, torque_n_m)
        return Point(name, torque_n_m, speed, self.motor.current_at(torque_n_m))


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
    turns_hz: tuple[tuple[str, float], ...] = ()
    """What turns how often a second: it may shake what can swing."""

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


def check_of(name: str, need: float, have: float, unit: str, *, id: str = "", extra: str = "") -> Check:
    """A check of something needed against what there is."""
    use = need / have if have > 0 else float("inf")
    return Check(id or name, name, use, need, have, unit, extra)
