"""What a kind of load to move is: how it is carried, drawn, said and dragged; and what all kinds share."""

import math
from collections.abc import Callable, Sequence
from typing import Any

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Kit, Shape
from wired_union.project.model import AnyLoad, Concept, Direction, Item, Part
from wired_union.project.value import references
from wired_union.subjects.mass.gives import Centre, Stance
from wired_union.subjects.motion.results import Check, Drive, LoadResult, Point, Row, Turning, check_of
from wired_union.units import show


class Torques(Struct, frozen=True):
    """Torque at the shaft of one motor: on most of the way, and where it is hardest."""

    usual_n_m: float
    most_n_m: float


NO_TORQUE = Torques(0.0, 0.0)


class Scene(Struct, frozen=True):
    """What a load's function looks at."""

    concept: Concept
    mass_kg: float
    drive: Drive | None
    actuator: Item | None
    duty: float
    """Largest share of the time that the part works in any mode."""
    lacks: tuple[str, ...]
    """What is missing of the motor, in words."""
    sag_v: float | None = None
    """Voltage that its part gets at the worst instant of the modes it moves in; None where nothing says."""
    full_v: float | None = None
    """Voltage that its part gets at most, from a pack that was just charged; None where nothing says."""
    stance: Stance | None = None
    """How a load on wheels stands, where places say it."""
    centre: Centre | None = None
    """Where the centre of mass of the whole may be, where places say it."""
    centre_lacks: tuple[str, ...] = ()
    others: Torques = NO_TORQUE
    """At the shaft of one motor, of other loads that it may move at the same time."""

    def item(self, item_id: str) -> Item | None:
        return next((i for i in self.concept.items if i.id == item_id), None)


class LoadKind(Struct, frozen=True):
    """One kind of load to move, with all that goes by kind."""

    model: type[AnyLoad]
    words: str
    """What it is called: "arm on a joint"."""
    carried: Callable[[Any, Scene], LoadResult]
    """What it needs from statics and the linear motor model, and what its part gives."""
    drawn: Callable[[LoadResult, Kit, float, float], list[Shape]]
    """Its mechanics in a width and height."""
    asked: Callable[[Any], str]
    """What is asked of it, in a few words."""
    dragged: Callable[[LoadResult], dict[str, float]]
    """Figures that can be dragged, each with the most that its slider reaches."""
    torques: Callable[[Any, Scene], Torques | None] | None = None
    """What it takes of the shaft of each of its motors; None where it takes none, or a figure is missing."""
    sets_current: bool = False
    """Whether its usual torque sets what its motor draws at work."""
    inertia: Callable[[Any, Scene], float | None] | None = None
    """What it adds to the inertia at the shaft of each of its motors; None where nothing says."""
    speed: Direction = "at least"
    """Which side of a limit its speed must stay on."""
    shown: str = "to scale"
    carries_all: bool = False
    """Whether it moves the whole machine, so that its own motors and pack weigh on it."""
    by_total_mass: Callable[[Any], bool] = lambda _: False
    """Whether what it takes follows from the mass of everything."""
    reach_m: Callable[[Any, Concept], float] | None = None
    """How far it reaches out, where it does."""
    shaped_by: Callable[[Any, Concept], frozenset[str]] = lambda load, _: other_parts(load)
    """Items besides what moves it whose parts set what it takes."""
    emptied: Callable[[Any], AnyLoad] | None = None
    """The same that asks for nothing, where more than its own parts set what it takes."""
    unused: Callable[[Any, Callable[[str], Part | None]], frozenset[str]] = lambda *_: frozenset()
    """Fields that say nothing with the parts that it has; handed how to find the part of an item."""


def other_parts(load: AnyLoad) -> frozenset[str]:
    """Items that a load names besides what moves it."""
    named = (getattr(load, f) for f, ref in references(type(load)).items() if ref.room == "items" and f != "actuator")
    return frozenset(n for n in named if n)


def motors_of(load: AnyLoad, scene: Scene) -> int:
    """How many motors move a load together."""
    return load.motors or (scene.actuator.count if scene.actuator is not None else 1)


def shared(load: AnyLoad, scene: Scene, usual_n_m: float, most_n_m: float) -> Torques:
    """What torques at the load, or its last gear, ask of the shaft of each motor."""
    parts = load.torque_ratio * motors_of(load, scene)
    return Torques(usual_n_m / parts, most_n_m / parts)


def reflected(load: AnyLoad, scene: Scene, inertia_kg_m2: float) -> float:
    """An inertia at the load, at the shaft of each of its motors: through the gear squared, and shared."""
    return inertia_kg_m2 / load.ratio**2 / motors_of(load, scene)


def with_others(own: Torques, scene: Scene) -> Torques:
    """With what the same motors move at the same time: torques add."""
    return Torques(own.usual_n_m + scene.others.usual_n_m, own.most_n_m + scene.others.most_n_m)


def sharing(load: AnyLoad, scene: Scene) -> tuple[Row, ...]:
    """Rows that say what was counted: how many motors share, and what else they move."""
    count, name = motors_of(load, scene), scene.actuator.name if scene.actuator is not None else ""
    rows = [Row("shared by", f"{count} × {name}")] if count > 1 else []
    if scene.others.most_n_m > 0:
        rows.append(Row("its motor moves at the same time", show(scene.others.most_n_m, "N·m")))
    if load.ratio != 1:
        passes = load.gear_efficiency
        lost = "its loss not said" if passes is None else f"passes on {show(passes, 'share')}"
        rows.append(Row("further gear", f"{load.ratio:g}:1, {lost}", "tight" if passes is None else ""))
    return tuple(rows)


def all_day(scene: Scene, usual_a: float) -> Check | None:
    """Warmth: the current over the time, root of the mean square, against what the motor carries all day."""
    if scene.drive is None or scene.drive.steps:
        return None  # a stepper's rated current is one that it carries all day
    heat = usual_a * math.sqrt(scene.duty)
    share = f", {show(scene.duty, 'share')} of the time" if scene.duty < 1 else ""
    return check_of("all day", heat, scene.drive.continuous_a, "A", extra=share)


def known(*found: Check | None) -> tuple[Check, ...]:
    return tuple(c for c in found if c is not None)


def tone(check: Check) -> str:
    return check.verdict.value if check.verdict in {Verdict.BREAKS, Verdict.TIGHT} else ""


def turns(scene: Scene, points: Sequence[Point], usual: Point, ratio: float, what: str) -> tuple[Turning, ...]:
    """What turns how often: the load, and the rotor where its gear is known.

    From the hardest of its points at the worst instant to the easiest with a pack just charged.
    """
    drive = scene.drive
    assert drive is not None
    torques = [p.torque_n_m for p in points]
    speeds = (usual.speed_rad_s, drive.motor.speed_at(drive.sag_v, max(torques)),
              drive.motor.speed_at(scene.full_v or drive.nominal_v, min(torques)))  # fmt: skip
    often, least, most = (max(s, 0.0) / (2 * math.pi) for s in speeds)
    gear = drive.item.part.motor.gear_ratio if drive.item.part.motor else None
    found = [Turning(what, often / ratio, min(least, often) / ratio, max(most, often) / ratio)]
    if gear and gear > 1:
        found.append(Turning("rotor", often * gear, min(least, often) * gear, max(most, often) * gear))
    return tuple(found)
