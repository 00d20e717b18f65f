"""Error budgets: what a figure is off by when everything that disturbs it is taken together."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Count, Finite, Name, Positive, Ref, Value

DoubtOf = Literal["resolution", "calibration", "repeat", "temperature", "geometry", "timing", "alignment", "other"]
SpreadAs = Literal["standard deviation", "95 of 100", "anywhere within", "mostly the middle", "mostly the ends"]


class Doubt(Value, frozen=True, kw_only=True):
    """One thing that makes a figure wrong."""

    name: Name
    of: DoubtOf = "other"
    """what kind of thing it is"""
    spread: Amount | None = None
    """how far it goes either way, in its own unit"""
    spread_as: SpreadAs = "anywhere within"
    """what the spread says: a standard deviation, what 95 of 100 stay within, or hard ends"""
    unit: str = ""
    """of its spread; that of the result where it is empty"""
    sensitivity: Finite | None = 1.0
    """by how much the result changes for one of its unit"""
    averaged: Count = 1
    """readings that are averaged; helps against what differs from reading to reading alone"""
    readings: Count | None = None
    """readings that the spread was worked out from, where it was"""
    together: str = ""
    """a word in common with others that move with it, such as the temperature of all three"""
    calibration: Annotated[str, Ref("calibrations", "clear")] = ""
    """the calibration that its spread comes from"""


class ErrorBudget(Value, frozen=True, kw_only=True):
    """A figure with everything that makes it wrong."""

    id: Name
    name: Name
    unit: str = ""
    """of the result"""
    wanted: Positive | None = None
    """most that the result may be off, in its unit"""
    confidence: Annotated[float, Meta(ge=0.5, le=0.9999)] = 0.95
    """how many of a hundred results lie inside"""
    doubts: tuple[Doubt, ...] = ()
