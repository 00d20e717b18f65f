"""What a kind of load to move is: how it is carried, drawn, said and dragged; and what all kinds share."""

import math
from collections.abc import Callable
from typing import Any

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.picture.shapes import Kit, Shape
from wired_union.project.model import AnyLoad, Concept, Direction, Item
from wired_union.subjects.motion.results import Check, Drive, LoadResult, Point, check_of
from wired_union.units import show


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
    usual_torque_n_m: Callable[[Any, Scene], float | None] | None = None
    """Torque at its motor's shaft on most of the way, where that sets what the motor draws."""
    speed: Direction = "at least"
    """Which side of a limit its speed must stay on."""
    shown: str = "to scale"
    carries_all: bool = False
    """Whether it moves the whole machine, so that its own motors and pack weigh on it."""
    reach_m: Callable[[Any], float] | None = None
    """How far it reaches out, where it does."""


def all_day(scene: Scene, usual_a: float) -> Check | None:
    """Warmth: the current over the time, root of the mean square, against what the motor carries all day."""
    if scene.drive is None:
        return None
    heat = usual_a * math.sqrt(scene.duty)
    return check_of(
        "all day", heat, scene.drive.continuous_a, "A", extra=f" at {show(scene.duty, 'share')} of the time"
    )


def known(*found: Check | None) -> tuple[Check, ...]:
    return tuple(c for c in found if c is not None)


def tone(check: Check) -> str:
    return check.verdict.value if check.verdict in {Verdict.BREAKS, Verdict.TIGHT} else ""


def turns(drive: Drive, point: Point, ratio: float, what: str) -> tuple[tuple[str, float], ...]:
    """What turns how often: the load, and the rotor where its gear is known."""
    found = [(what, max(point.speed_rad_s, 0.0) / ratio / (2 * math.pi))]
    gear = drive.item.part.motor.gear_ratio if drive.item.part.motor else None
    if gear and gear > 1:
        found.append(("rotor", max(point.speed_rad_s, 0.0) * gear / (2 * math.pi)))
    return tuple(found)
