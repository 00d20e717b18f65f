"""The bench: what was woken, what it waits for, every reading as it was, and sensors against what is trusted."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Count, Finite, Name, Positive, Ref, Value


class Reading(Value, frozen=True, kw_only=True):
    """One figure of a part as an instrument showed it."""

    item: Annotated[Name, Ref("items")]
    figure: Name
    """which figure: the one that it would replace, or volts, or an answer"""
    value: Finite
    on: str = ""
    """when, as 2026-11-28"""
    by: str = ""
    """who"""
    instrument: str = ""
    """with what"""
    note: str = ""


class Waking(Value, frozen=True, kw_only=True):
    """How far one part is woken."""

    item: Annotated[Name, Ref("items")]
    woken_on: str = ""
    """when it worked; not yet while empty"""
    by: str = ""
    """who woke it"""
    waits_for: str = ""
    """a person, a tool or a delivery that it waits for"""


class Pair(Value, frozen=True, kw_only=True):
    """One point of a calibration: what it was, and what the sensor said."""

    known: Finite
    """the quantity, by something that is trusted"""
    reading: Finite
    """what the sensor said"""
    session: str = ""
    """of which sitting: another day, the way back down"""
    struck: str = ""
    """why it does not count; it counts while empty"""


Form = Literal["best", "line", "parabola", "cubic", "power", "exponential", "saturating", "reciprocal", "table"]


class Calibration(Value, frozen=True, kw_only=True):
    """A sensor against something that is trusted."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the sensor"""
    unit: str = ""
    """of the quantity"""
    reading_unit: str = ""
    """of what the sensor says"""
    form: Form = "best"
    """of the curve; by the small-sample AIC when best"""
    far_off: Literal["counts", "left out"] = "counts"
    """whether points far off the others count or are left out, told either way"""
    wanted: Positive | None = None
    """most that the quantity may be off, in its unit"""
    confidence: Annotated[float, Meta(ge=0.5, le=0.9999)] = 0.95
    """how many of a hundred readings lie inside"""
    pairs: tuple[Pair, ...] = ()


class AnalogueChain(Value, frozen=True, kw_only=True):
    """From a quantity over volts to whole numbers: a sensor, what is before the converter, the converter."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the sensor"""
    unit: str = ""
    """of the quantity"""
    volts_per_unit: Finite | None = None
    """by how much the voltage changes for one of its unit"""
    offset_v: Finite = 0.0
    """voltage where the quantity is 0"""
    reference_v: Positive | None = None
    """voltage of the full scale of the converter"""
    bits: Annotated[int, Meta(ge=1, le=32)] | None = None
    """of the converter"""
    noise_v: Amount | None = None
    """standard deviation of the noise before the converter"""
    sample_hz: Positive | None = None
    """samples a second"""
    fastest_hz: Amount | None = None
    """the fastest change of the quantity that must be seen"""
    corner_hz: Positive | None = None
    """of a resistor and a capacitor before the converter; none while empty"""
    hum_hz: Positive | None = None
    """a disturbance that is known, such as 50 Hz of the mains, or a motor's PWM"""
    hum_v: Amount | None = None
    """amplitude of it before the filter"""
    averaged: Count = 1
    """samples that are averaged"""
    wanted: Positive | None = None
    """most that the quantity may be off, in its unit"""
    confidence: Annotated[float, Meta(ge=0.5, le=0.9999)] = 0.95
    """how many of a hundred readings lie inside"""


class SurfacePoint(Value, frozen=True, kw_only=True):
    """What was read at one mix of two inputs."""

    x: Finite
    y: Finite
    value: Finite
    struck: str = ""
    """why it does not count; it counts while empty"""


class Surface(Value, frozen=True, kw_only=True):
    """A quantity over two others: a map of force, pressure over distance and voltage."""

    id: Name
    name: Name
    unit: str = ""
    """of what is mapped"""
    x_name: str = "across"
    """the first input"""
    x_unit: str = ""
    y_name: str = "up"
    """the second input"""
    y_unit: str = ""
    form: Literal["best", "plane", "twisted", "bent"] = "best"
    """flat, flat with a product, or with squares as well; by the small-sample AIC when best"""
    wanted: Positive | None = None
    """most that it may be off, in its unit"""
    confidence: Annotated[float, Meta(ge=0.5, le=0.9999)] = 0.95
    """how many of a hundred readings lie inside"""
    points: tuple[SurfacePoint, ...] = ()
