"""Where it is warm and cold: the air over the mission, boxes with air of their own, and how parts shed their heat."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Celsius, Finite, Name, Positive, Ref, Share, Value

Hour = Annotated[float, Meta(ge=0, lt=24)]


class AirAt(Value, frozen=True, kw_only=True):
    """Air at a time of a typed profile."""

    at_s: Amount
    """how long after the mission begins"""
    air_c: Celsius
    """the air then"""


class AirCurve(Value, frozen=True, kw_only=True):
    """How the air outside goes between the coldest and the warmest of the brief while the mission lasts."""

    kind: Literal["steady", "day", "ramp", "typed"] = "steady"
    """steady (all of it at the coldest, and all at the warmest), by day and night, a chamber's ramp, or typed"""
    begins_h: Hour = 8.0
    """hour of the day at which the mission begins"""
    starts_c: Celsius | None = None
    """how warm everything is as the mission begins; as the air then when empty"""
    wind_m_s: Amount = 0.0
    """wind outside, which cools more; it is counted on in the cold and not in the warm"""
    rate_k_per_min: Positive = 1.5
    """how fast the chamber goes from the coldest to the warmest, and back"""
    hold_s: Amount = 0.0
    """how long it holds each of the two"""
    points: tuple[AirAt, ...] = ()
    """the profile that was typed; straight between"""


class Enclosure(Value, frozen=True, kw_only=True):
    """A box with air of its own."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is; its sides and mass count"""
    length_m: Positive | None = None
    """outside, where no part is named"""
    width_m: Positive | None = None
    """outside, where no part is named"""
    height_m: Positive | None = None
    """outside, where no part is named"""
    wall_m: Positive = 0.003
    """thickness of its walls"""
    wall_w_per_m_k: Positive = 0.2
    """what its walls conduct: 0.2 for plastics, 160 for aluminium"""
    insulation_m: Amount = 0.0
    """thickness of the layers of foam"""
    insulation_w_per_m_k: Positive = 0.035
    """what the foam conducts"""
    foil: Literal["no", "outside"] = "no"
    """a bright foil outside, which neither takes up the sun nor sheds by radiation"""
    vent_m3_s: Amount = 0.0
    """air that a fan or slots exchange with the outside"""
    sun_w_per_m2: Amount = 0.0
    """strongest sun on its lid; 1000 in clear weather at noon"""
    absorbs: Share = 0.7
    """share of the sun that the lid takes up: 0.2 for white, 0.9 for black"""


class WarmPart(Value, frozen=True, kw_only=True):
    """How a part sheds its heat, and what it keeps warm."""

    item: Annotated[Name, Ref("items")]
    enclosure: Annotated[str, Ref("enclosures", "clear")] = ""
    """the box that it is in; the air outside when empty"""
    mount: Literal["free", "flat", "standoffs"] = "free"
    """air all around it, flat on a plate, or on standoffs above it"""
    plate: Annotated[str, Ref("items", "clear")] = ""
    """what it is fixed to, or what a heater warms"""
    sink_k_per_w: Positive | None = None
    """a heat sink on it: kelvins for a watt"""
    air_speed_m_s: Amount = 0.0
    """air that a fan blows along it"""
    holds_c: Finite | None = None
    """a heater keeps what it is fixed to at least this warm, by a thermostat"""
