"""What charges packs: the place and its weather, panels in the sun, and what is plugged in or cranked."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Efficiency, Name, Positive, Ref, Share, Value

Latitude = Annotated[float, Meta(ge=-90, le=90)]
Tilt = Annotated[float, Meta(ge=0, le=90)]
Turn = Annotated[float, Meta(ge=0, le=360)]
DayOfYear = Annotated[int, Meta(ge=1, le=366)]
Hours = Annotated[float, Meta(ge=0, le=24)]


class Site(Value, frozen=True, kw_only=True):
    """Where and when it stands in the sun."""

    latitude_deg: Latitude | None = None
    """latitude, north above 0"""
    day_of_year: DayOfYear = 355
    """day that counts: 80 in March, 172 in June, 266 in September, 355 in December, the darkest of the north"""
    weather: Literal["clear", "mixed", "overcast"] = "mixed"
    """sky of a usual day"""
    missions_a_day: Positive | None = None
    """how many missions it goes through in a day; as many as fit one after another when empty"""


class SunPanel(Value, frozen=True, kw_only=True):
    """How a solar panel stands, and what it charges."""

    item: Annotated[Name, Ref("items")]
    charges: Annotated[str, Ref("items", "clear")] = ""
    """the pack that it charges"""
    tilt_deg: Tilt = 30.0
    """0 flat, 90 upright"""
    azimuth_deg: Turn = 180.0
    """where it faces, from north by east: 180 is south"""
    shade: Share = 0.0
    """share of its light that trees and walls take"""
    kept: Efficiency = 0.8
    """share that dirt, warmth and wires leave"""
    charger_efficiency: Efficiency = 0.85
    """share that its charger passes on"""


class Inlet(Value, frozen=True, kw_only=True):
    """What charges besides the sun: a charger on the wall, a USB port, a hand crank, a dynamo."""

    id: Name
    name: Name
    kind: Literal["charger", "USB", "hand crank", "dynamo"] = "charger"
    """what it is"""
    charges: Annotated[str, Ref("items", "clear")] = ""
    """the pack that it charges"""
    power_w: Positive | None = None
    """power that reaches the cells"""
    hours_a_day: Hours = 0.0
    """how long it does so on a usual day"""
    made_for: str = ""
    """chemistry that a charger is made for; not said when empty"""
