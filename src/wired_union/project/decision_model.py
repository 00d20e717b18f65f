"""What a team weighs and leaves open: criteria with scores, questions that a test decides, what a slot requires."""

from typing import Annotated

from msgspec import Meta

from wired_union.project.part_model import Part
from wired_union.project.value import (
    Amount,
    Celsius,
    Finite,
    Name,
    Positive,
    Ref,
    Share,
    Value,
    named_values,
)

Points = Annotated[float, Meta(ge=0, le=10)]


class Score(Value, frozen=True, kw_only=True):
    """How well one concept meets one criterion, by whom and why."""

    concept: Annotated[Name, Ref("concepts")]
    value: Points
    """0 to 10; for a must-have 0 is no and 10 is yes"""
    by: str = ""
    """who gave it"""
    why: str = ""
    """what it rests on"""


class Criterion(Value, frozen=True, kw_only=True):
    """Something no formula knows. A must-have knocks a concept out and carries no weight."""

    id: Name
    name: Name
    weight: Amount = 1.0
    """how much it counts against the others"""
    must_have: bool = False
    scores: tuple[Score, ...] = ()

    def score(self, concept: str) -> Score | None:
        """The score of a concept, None where nobody has given one."""
        return next((s for s in self.scores if s.concept == concept), None)


class Decision(Value, frozen=True, kw_only=True):
    criteria: tuple[Criterion, ...] = ()


class Question(Value, frozen=True, kw_only=True):
    """What a concept leaves to a test: the test, its date, and what would count as better."""

    id: Name
    question: Name
    test: str = ""
    """the test that decides"""
    date: str = ""
    """when, as 2026-11-28"""
    better: str = ""
    """what would count as better"""
    chance_of_no: Share | None = None
    """how likely the answer is bad"""
    days_lost: Amount | None = None
    """days that a bad answer costs"""
    answer: str = ""
    """what the test showed; open while empty"""
    answered_on: str = ""
    """when it was answered"""
    figures: str = ""
    """what was measured, with its units"""

    @property
    def risk_days(self) -> float | None:
        """Days that a bad answer costs, times how likely it is; None while nobody has judged it."""
        if self.chance_of_no is None or self.days_lost is None:
            return None
        return self.chance_of_no * self.days_lost


class Retirement(Value, frozen=True, kw_only=True):
    """Why and when a concept was given up; it can be brought back."""

    why: Name
    when: str = ""


class Requires(Value, frozen=True, kw_only=True):
    """What must hold for whatever fills a slot, one part of it. None asks for nothing."""

    least_torque_n_m: Positive | None = None
    """torque when blocked, at least"""
    least_speed_rad_s: Positive | None = None
    """speed without load, at least"""
    least_force_n: Positive | None = None
    """push or pull, at least"""
    least_stroke_m: Positive | None = None
    """travel, at least"""
    least_diameter_m: Positive | None = None
    """diameter of a wheel or canopy, at least"""
    least_energy_wh: Positive | None = None
    """energy of a pack, at least"""
    least_output_a: Positive | None = None
    """current it can give on one output, at least"""
    supply_v: Positive | None = None
    """supply it must work from"""
    most_current_a: Positive | None = None
    """current at work, at most"""
    bus: str | None = None
    """bus it must talk"""
    logic_v: Positive | None = None
    """signals it must live with"""
    quantity: str | None = None
    """what it must measure"""
    range_low: Finite | None = None
    """it must reach down to, in the sensor's own unit"""
    range_high: Finite | None = None
    """it must reach up to, in the sensor's own unit"""
    most_error: Positive | None = None
    """error, at most, in the sensor's own unit"""
    most_length_m: Positive | None = None
    """longest side, at most"""
    most_width_m: Positive | None = None
    """middle side, at most"""
    most_height_m: Positive | None = None
    """shortest side, at most"""
    most_mass_kg: Positive | None = None
    """mass, at most"""
    most_price: Positive | None = None
    """price, at most"""
    coldest_c: Celsius | None = None
    """it must work down to"""
    hottest_c: Celsius | None = None
    """it must work up to"""
    most_delivery_days: Amount | None = None
    """delivery, at most"""

    @property
    def count(self) -> int:
        """How many things are asked."""
        return sum(value is not None for _, value in named_values(self))


class Need(Value, frozen=True, kw_only=True):
    """A slot without an item yet: what is to be found, and for which lane."""

    id: Name
    name: Name
    subsystem: Annotated[Name, Ref("subsystems", "keep")]
    kinds: tuple[str, ...] = ()
    """classes of part that could do it; none for any"""
    count: Annotated[int, Meta(ge=1, le=10_000)] = 1
    requires: Requires = Requires()


class Stock(Value, frozen=True, kw_only=True):
    """A part on the team's own shelf: owned or donated, or found and put aside for a choice."""

    part: Part
    have: Annotated[int, Meta(ge=0, le=10_000_000)] = 0
    """how many there are"""
    donated: bool = False
    """donated rather than owned"""
