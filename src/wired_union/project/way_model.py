"""Ways that are driven by counting: what holds the heading, what is off, what corrects it."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Finite, Name, Positive, Ref, Value

Heading = Literal["wheel counters", "gyro", "compass"]
Correction = Literal["nothing", "a line", "a wall", "a beacon"]


class Way(Value, frozen=True, kw_only=True):
    """A straight way that a machine thinks it drives."""

    id: Name
    name: Name
    load: Annotated[str, Ref("loads", "clear")] = ""
    """the wheels that drive it"""
    distance_m: Positive = 10.0
    """how far"""
    speed_m_s: Positive | None = None
    """at which it drives; Motion's when empty"""
    heading_by: Heading = "wheel counters"
    """what holds its heading"""
    track_m: Positive | None = None
    """from the left wheels to the right ones"""
    wheel_unlike: Annotated[float, Meta(gt=-1, lt=1)] | None = None
    """share by which one wheel is larger than the other: 0.2 % of good ones, 1 % of soft tyres"""
    scale_error: Annotated[float, Meta(gt=-1, lt=1)] = 0.01
    """share by which both turn out larger than they are taken to be"""
    drift_rad_s: Finite | None = None
    """of the gyro at rest, once its bias is taken off: a cheap one 0.02 °/s"""
    compass_deg: Amount | None = None
    """by which a compass is off, beside motors and iron: 5 to 15"""
    backlash_deg: Amount = 0.0
    """play of the heading when it sets out: of the gears, of how it was put down"""
    slip_m: Amount = 0.0
    """spread of what slips along, after a metre"""
    turn_rad: Amount = 0.0
    """spread of its heading by slips, after a metre"""
    corrected_by: Correction = "nothing"
    """what gives it back where it is"""
    every_m: Positive | None = None
    """from one correction to the next"""
    leaves_m: Amount = 0.0
    """by how much it is off after a correction"""
    most_off_m: Positive | None = None
    """how far off it may be, across or along"""
