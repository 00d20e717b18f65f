"""Trials and their runs: what is tried, what counts, and every run as it was, never changed afterwards."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Count, Duration, Finite, Name, Ref, Share, Value

Counts = Literal["pass or fail", "a value", "a time", "a count", "what is seen", "packets"]
Proves = Literal["rate", "share inside", "mean"]
Confidence = Annotated[float, Meta(ge=0.5, le=0.9999)]


class Run(Value, frozen=True, kw_only=True):
    """One run as it was. It is struck out with a reason, and never taken away."""

    good: bool | None = None
    """whether it passed, where that is what counts"""
    value: Finite | None = None
    """what was measured"""
    was: str = ""
    """what was there to be seen"""
    seen: str = ""
    """what the machine took it for"""
    sent: Count | None = None
    """packets that were sent"""
    received: Annotated[int, Meta(ge=0, le=10_000)] | None = None
    """of them, how many arrived"""
    levels: tuple[bool, ...] = ()
    """of each setting of the trial that has two levels, whether it was the high one"""
    version: str = ""
    """of the machine"""
    condition: str = ""
    """under which it was made: sand, clay, rain"""
    setting: Finite | None = None
    """of the one thing that is varied"""
    on: str = ""
    """when, as 2026-11-28"""
    by: str = ""
    """who"""
    note: str = ""
    picture: str = ""
    """file name of a picture beside the project"""
    struck: str = ""
    """why it does not count; it counts while empty"""


class Factor(Value, frozen=True, kw_only=True):
    """A setting that is tried at two levels."""

    name: Name
    low: str = "low"
    """what the low level is: "20 mm" """
    high: str = "high"
    """what the high level is: "30 mm" """


class Trial(Value, frozen=True, kw_only=True):
    """Something that is tried again and again."""

    id: Name
    name: Name
    limit: str = ""
    """the limit of the brief that it proves, by its measure"""
    concept: Annotated[str, Ref("concepts", "clear")] = ""
    """the concept that it tries"""
    question: str = ""
    """the question of that concept that it decides"""
    tried: str = ""
    """what is done in a run"""
    conditions: str = ""
    """what must be the same in every run"""
    what_counts: str = ""
    """when a run is good, or what is measured"""
    counts: Counts = "pass or fail"
    proves: Proves = "rate"
    """rate of good runs, share of values inside the band, or their mean"""
    unit: str = ""
    """of its values"""
    band_low: Finite | None = None
    """least value that is wanted"""
    band_high: Finite | None = None
    """greatest value that is wanted"""
    wanted: Share | None = None
    """rate or share that is wanted, where no limit of the brief says it"""
    confidence: Confidence = 0.95
    """how sure to be before it counts as shown"""
    planned: Count | None = None
    """runs that were decided on before the first"""
    run_s: Duration | None = None
    """how long one run takes, all told"""
    setting: str = ""
    """the one thing that is varied, with its unit"""
    factors: tuple[Factor, ...] = ()
    """settings that are each tried at two levels, in every mix"""
    strangers: bool = False
    """whether each run is by somebody who has not done it before"""
    runs: tuple[Run, ...] = ()
