"""What was put on a scale, and how what is not weighed yet is allowed for: frozen values."""

from typing import Annotated, Literal

from wired_union.project.value import Count, Name, Positive, Ref, Value

MarginSchool = Literal["by knowledge", "fixed share", "root of squares"]


class Weighing(Value, frozen=True, kw_only=True):
    """One time that copies of a part lay on a scale."""

    id: Name
    item: Annotated[Name, Ref("items")]
    mass_kg: Positive
    """what the scale showed"""
    copies: Count = 1
    """how many of them lay on it"""
    on: str = ""
    """when, as 2026-11-28"""
    scale: str = ""
    """which scale"""
    step_kg: Positive | None = None
    """the least that this scale tells apart"""
