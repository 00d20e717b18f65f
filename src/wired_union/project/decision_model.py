"""What a team weighs and leaves open: criteria with scores, questions that a test decides, what a slot requires."""

from typing import Annotated

from pydantic import Field

from wired_union.project.part_model import Amount, Finite, Name, Part, Positive, Share, Value

Points = Annotated[float, Field(ge=0, le=10)]


class Score(Value):
    """How well one concept meets one criterion, by whom and why."""

    concept: Name
    value: Points = Field(description="0 to 10; for a must-have 0 is no and 10 is yes")
    by: str = Field("", description="who gave it")
    why: str = Field("", description="what it rests on")


class Criterion(Value):
    """Something no formula knows. A must-have knocks a concept out and carries no weight."""

    id: Name
    name: Name
    weight: Amount = Field(1.0, description="how much it counts against the others")
    must_have: bool = False
    scores: tuple[Score, ...] = ()

    def score(self, concept: str) -> Score | None:
        """The score of a concept, None where nobody has given one."""
        return next((s for s in self.scores if s.concept == concept), None)


class Decision(Value):
    criteria: tuple[Criterion, ...] = ()


class Question(Value):
    """What a concept leaves to a test: the test, its date, and what would count as better."""

    id: Name
    question: Name
    test: str = Field("", description="the test that decides")
    date: str = Field("", description="when, as 2026-11-28")
    better: str = Field("", description="what would count as better")
    chance_of_no: Share | None = Field(None, description="how likely the answer is bad")
    days_lost: Amount | None = Field(None, description="days that a bad answer costs")
    answer: str = Field("", description="what the test showed; open while empty")

    @property
    def risk_days(self) -> float | None:
        """Days that a bad answer costs, times how likely it is; None while nobody has judged it."""
        if self.chance_of_no is None or self.days_lost is None:
            return None
        return self.chance_of_no * self.days_lost


class Retirement(Value):
    """Why and when a concept was given up; it can be brought back."""

    why: Name
    when: str = ""


class Requires(Value):
    """What must hold for whatever fills a slot, one part of it. None asks for nothing."""

    least_torque_n_m: Positive | None = Field(None, description="torque when blocked, at least")
    least_speed_rad_s: Positive | None = Field(None, description="speed without load, at least")
    least_force_n: Positive | None = Field(None, description="push or pull, at least")
    least_stroke_m: Positive | None = Field(None, description="travel, at least")
    least_diameter_m: Positive | None = Field(None, description="diameter of a wheel or canopy, at least")
    least_energy_wh: Positive | None = Field(None, description="energy of a pack, at least")
    least_output_a: Positive | None = Field(None, description="current it can give on one output, at least")
    supply_v: Positive | None = Field(None, description="supply it must work from")
    most_current_a: Positive | None = Field(None, description="current at work, at most")
    bus: str | None = Field(None, description="bus it must talk")
    logic_v: Positive | None = Field(None, description="signals it must live with")
    quantity: str | None = Field(None, description="what it must measure")
    range_low: Finite | None = Field(None, description="it must reach down to, in the sensor's own unit")
    range_high: Finite | None = Field(None, description="it must reach up to, in the sensor's own unit")
    most_error: Positive | None = Field(None, description="error, at most, in the sensor's own unit")
    most_length_m: Positive | None = Field(None, description="longest side, at most")
    most_width_m: Positive | None = Field(None, description="middle side, at most")
    most_height_m: Positive | None = Field(None, description="shortest side, at most")
    most_mass_kg: Positive | None = Field(None, description="mass, at most")
    most_price: Positive | None = Field(None, description="price, at most")
    coldest_c: Finite | None = Field(None, description="it must work down to")
    hottest_c: Finite | None = Field(None, description="it must work up to")
    most_delivery_days: Amount | None = Field(None, description="delivery, at most")

    @property
    def count(self) -> int:
        """How many things are asked."""
        return sum(value is not None for _, value in self)


class Need(Value):
    """A slot without an item yet: what is to be found, and for which lane."""

    id: Name
    name: Name
    subsystem: Name
    kinds: tuple[str, ...] = Field((), description="classes of part that could do it; none for any")
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    requires: Requires = Requires()


class Stock(Value):
    """A part on the team's own shelf: owned or donated, or found and put aside for a choice."""

    part: Part
    have: Annotated[int, Field(ge=0, le=10_000_000)] = Field(0, description="how many there are")
    donated: bool = Field(False, description="donated rather than owned")
