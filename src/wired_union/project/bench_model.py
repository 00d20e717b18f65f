"""The bench: what was woken, what it waits for, every reading as it was, and sensors against what is trusted."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Finite, Name, Positive, Ref, Value


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
