"""Where things are in the machine's own frame: x forward, y left, z up, in metres."""

from typing import Annotated

from msgspec import Meta

from wired_union.project.value import Amount, Name, Ref, Value

Reach = Annotated[float, Meta(ge=-1000, le=1000)]
Turn = Annotated[float, Meta(ge=-360, le=360)]


class Place(Value, frozen=True, kw_only=True):
    """Where the middle of one copy of a part is, and how it is turned."""

    x_m: Reach
    """how far forward"""
    y_m: Reach
    """how far left"""
    z_m: Reach
    """how high"""
    turn_deg: Turn = 0.0
    """turned about the upright axis, anticlockwise seen from above"""
    tilt_deg: Turn = 0.0
    """tilted before that, its front end up: at 90° its length stands upright"""


class Room(Value, frozen=True, kw_only=True):
    """The box in which the parts of a subsystem are, wherever in it that will be."""

    back_m: Reach
    front_m: Reach
    right_m: Reach
    left_m: Reach
    bottom_m: Reach
    top_m: Reach


class Foot(Value, frozen=True, kw_only=True):
    """A point that stands on the floor besides the wheels: a leg, a skid's end, a corner of a box."""

    id: Name
    name: Name
    x_m: Reach
    """how far forward"""
    y_m: Reach
    """how far left"""
    z_m: Reach = 0.0
    """how high its lower end is"""


class Shift(Value, frozen=True, kw_only=True):
    """What one part does in a pose: all its copies move, or weigh something else."""

    item: Annotated[Name, Ref("items", copied=True)]
    dx_m: Reach = 0.0
    """how much further forward"""
    dy_m: Reach = 0.0
    """how much further left"""
    dz_m: Reach = 0.0
    """how much higher"""
    mass_kg: Amount | None = None
    """what each copy weighs then: full, spent, 0 where it is gone; as always when empty"""


class PoseMode(Value, frozen=True, kw_only=True):
    """A mode in which it takes a pose."""

    mode: Annotated[Name, Ref("modes")]


class Pose(Value, frozen=True, kw_only=True):
    """How it stands at times: an arm out, a corer down, a hopper full; braking, or pushed."""

    id: Name
    name: Name
    modes: tuple[PoseMode, ...] = ()
    """in which it takes the pose"""
    shifts: tuple[Shift, ...] = ()
    """what moves or weighs something else"""
    acceleration_m_s2: Amount = 0.0
    """braking, starting or turning, whichever way is worst"""
    push_n: Amount = 0.0
    """a push or a recoil, whichever way is worst"""
    push_height_m: Amount = 0.0
    """how high over the floor it is pushed"""
