"""What hangs under a vehicle as it goes over a step."""

from functools import lru_cache

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.physics.battery import Array
from wired_union.physics.crossing import heights_under
from wired_union.project.motion_model import WheelLoad
from wired_union.subjects.mass.gives import Under
from wired_union.subjects.motion.kind import Scene
from wired_union.subjects.motion.results import Check, check_of

HALVINGS = 24
Wheels = tuple[float, float, float]
"""Wheelbase, and the radius of the front and of the rear wheels: all that a step asks of what stands on them."""


class Belly(Struct, frozen=True):
    """What a step does to the belly."""

    check: Check | None = None
    lacks: tuple[str, ...] = ()
    stops_m: float = np.inf
    """The step that touches it, as far as that is known."""
    may_touch: str = ""
    """id of an item that a step may touch, since nobody says where in its room it is"""


def belly_of(load: WheelLoad, scene: Scene, radius_m: float) -> Belly:
    """Whether the belly clears the step that is asked for; nothing where none is, or no wheel climbs it anyhow."""
    axles = scene.stance.axles if scene.stance is not None else None
    if load.step_m <= 0 or load.step_m >= radius_m:
        return Belly()
    if axles is None or load.step_m >= min(axles.front.radius_m, axles.rear.radius_m):
        return _of_height(load, radius_m)
    known, lacks = axles.under, axles.under_lacks
    if load.clearance_m is not None:
        known, lacks = (Under("", 0.0, axles.wheelbase_m, load.clearance_m),), ()
    wheels = (axles.wheelbase_m, axles.front.radius_m, axles.rear.radius_m)
    found = _of_places(wheels, known, lacks, load.step_m)
    named = (_name(scene, found.may_touch) + ": where it is; a step may touch it",) if found.may_touch else ()
    check = found.check
    if check is not None:
        check = replace(check, extra=f" under {_name(scene, check.of)}")
    return replace(found, check=check, lacks=(*found.lacks, *named))


def _name(scene: Scene, item_id: str) -> str:
    item = scene.item(item_id)
    return item.name if item is not None else "its belly"


def _of_height(load: WheelLoad, radius_m: float) -> Belly:
    """By its height alone: one as high as the step clears it, as it leans then; axles close by clear a little more."""
    if load.clearance_m is None:
        return Belly(lacks=("the height of its belly over the floor",))
    closest = float(_needed(2 * radius_m, radius_m, radius_m, load.step_m, ((0.0, 2 * radius_m),))[0])
    if closest <= load.clearance_m < load.step_m:
        return Belly(lacks=("how far its axles are apart, for the belly at the step",))
    needed = closest if closest > load.clearance_m else load.step_m
    return Belly(check_of("belly", needed, load.clearance_m, "m", extra=" under its belly"))


@lru_cache(maxsize=256)
def _of_places(wheels: Wheels, known: tuple[Under, ...], lacks: tuple[str, ...], step_m: float) -> Belly:
    if not known:
        return Belly(lacks=lacks)
    has = np.array([max(u.height_m, 0.0) for u in known])
    needs = _at(wheels, known, step_m)
    sure = np.array([u.sure for u in known])
    use = np.where(needs > 0, needs / np.maximum(has, 1e-12), 0.0)
    may = next((u.item for u, share in zip(known, use, strict=True) if share > 1 and not u.sure), "")
    low, high = 0.0, min(wheels[1:]) * 0.999
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if (_at(wheels, known, middle) <= has)[sure].all() else (low, middle)
    if not sure.any():
        return Belly(None, lacks, may_touch=may)
    worst = int(np.where(sure, use, -1.0).argmax())
    made = check_of("belly", float(needs[worst]), float(has[worst]), "m", of=known[worst].item)
    return Belly(made if made.needed > 0 else None, lacks, low, may)


def _at(wheels: Wheels, known: tuple[Under, ...], step_m: float) -> Array:
    spans = tuple((u.from_m, u.to_m) for u in known)
    return _needed(*wheels, step_m, spans)


def _needed(
    wheelbase_m: float, front_m: float, rear_m: float, step_m: float, spans: tuple[tuple[float, float], ...]
) -> Array:  # fmt: skip
    ends = np.array(spans)
    return heights_under(wheelbase_m, front_m, rear_m, step_m, ends[:, 0], ends[:, 1])
