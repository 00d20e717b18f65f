"""Something thrown: how it leaves, what the air does to it, where it must land, over what."""

from typing import Annotated

from msgspec import Meta

from wired_union.project.value import Amount, Finite, Name, Positive, Value

Elevation = Annotated[float, Meta(ge=-90, le=90)]
Speed = Annotated[float, Meta(ge=0, le=1000)]


class Throw(Value, frozen=True, kw_only=True):
    """A throw, a drop from a moving arm, a launch."""

    id: Name
    name: Name
    speed_m_s: Speed | None = None
    """as it leaves"""
    speed_spread_m_s: Speed | None = None
    """standard deviation of that from throw to throw"""
    angle_deg: Elevation | None = None
    """above level, as it leaves"""
    angle_spread_deg: Annotated[float, Meta(ge=0, le=90)] | None = None
    """standard deviation of that"""
    height_m: Annotated[float, Meta(ge=0, le=1000)] = 0.0
    """that it leaves from, above where it lands"""
    drag_coefficient: Annotated[float, Meta(ge=0, le=3)] = 0.0
    """of the air: about 0.5 for a ball, 1.1 for a disc across, 0 for none"""
    mass_kg: Positive | None = None
    """of what is thrown, where the air counts"""
    diameter_m: Positive | None = None
    """of its front, where the air counts"""
    band_low_m: Finite | None = None
    """nearest that it may land"""
    band_high_m: Finite | None = None
    """farthest that it may land"""
    wall_m: Positive | None = None
    """how far off a wall stands that it must clear"""
    wall_height_m: Amount = 0.0
    """of that wall, above where it lands"""
    trial: str = ""
    """the trial whose runs say how far each charge throws: its setting is the charge, its value the distance"""
