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
    about,
    named_values,
)

Points = Annotated[float, Meta(ge=0, le=10)]


class Score(Value, frozen=True, kw_only=True):
    """How well one concept meets one criterion, by whom and why."""

    concept: Annotated[Name, Ref("concepts")]
    value: Annotated[Points, about("0 to 10; for a must-have 0 is no and 10 is yes")]
    by: Annotated[str, about("who gave it")] = ""
    why: Annotated[str, about("what it rests on")] = ""


class Criterion(Value, frozen=True, kw_only=True):
    """Something no formula knows. A must-have knocks a concept out and carries no weight."""

    id: Name
    name: Name
    weight: Annotated[Amount, about("how much it counts against the others")] = 1.0
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
    test: Annotated[str, about("the test that decides")] = ""
    date: Annotated[str, about("when, as 2026-11-28")] = ""
    better: Annotated[str, about("what would count as better")] = ""
    chance_of_no: Annotated[Share | None, about("how likely the answer is bad")] = None
    days_lost: Annotated[Amount | None, about("days that a bad answer costs")] = None
    answer: Annotated[str, about("what the test showed; open while empty")] = ""
    answered_on: Annotated[str, about("when it was answered")] = ""
    figures: Annotated[str, about("what was measured, with its units")] = ""

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

    least_torque_n_m: Annotated[Positive | None, about("torque when blocked, at least")] = None
    least_speed_rad_s: Annotated[Positive | None, about("speed without load, at least")] = None
    least_force_n: Annotated[Positive | None, about("push or pull, at least")] = None
    least_stroke_m: Annotated[Positive | None, about("travel, at least")] = None
    least_diameter_m: Annotated[Positive | None, about("diameter of a wheel or canopy, at least")] = None
    least_energy_wh: Annotated[Positive | None, about("energy of a pack, at least")] = None
    least_output_a: Annotated[Positive | None, about("current it can give on one output, at least")] = None
    supply_v: Annotated[Positive | None, about("supply it must work from")] = None
    most_current_a: Annotated[Positive | None, about("current at work, at most")] = None
    bus: Annotated[str | None, about("bus it must talk")] = None
    logic_v: Annotated[Positive | None, about("signals it must live with")] = None
    quantity: Annotated[str | None, about("what it must measure")] = None
    range_low: Annotated[Finite | None, about("it must reach down to, in the sensor's own unit")] = None
    range_high: Annotated[Finite | None, about("it must reach up to, in the sensor's own unit")] = None
    most_error: Annotated[Positive | None, about("error, at most, in the sensor's own unit")] = None
    most_length_m: Annotated[Positive | None, about("longest side, at most")] = None
    most_width_m: Annotated[Positive | None, about("middle side, at most")] = None
    most_height_m: Annotated[Positive | None, about("shortest side, at most")] = None
    most_mass_kg: Annotated[Positive | None, about("mass, at most")] = None
    most_price: Annotated[Positive | None, about("price, at most")] = None
    coldest_c: Annotated[Celsius | None, about("it must work down to")] = None
    hottest_c: Annotated[Celsius | None, about("it must work up to")] = None
    most_delivery_days: Annotated[Amount | None, about("delivery, at most")] = None

    @property
    def count(self) -> int:
        """How many things are asked."""
        return sum(value is not None for _, value in named_values(self))


class Need(Value, frozen=True, kw_only=True):
    """A slot without an item yet: what is to be found, and for which lane."""

    id: Name
    name: Name
    subsystem: Annotated[Name, Ref("subsystems", "keep")]
    kinds: Annotated[tuple[str, ...], about("classes of part that could do it; none for any")] = ()
    count: Annotated[int, Meta(ge=1, le=10_000)] = 1
    requires: Requires = Requires()


class Stock(Value, frozen=True, kw_only=True):
    """A part on the team's own shelf: owned or donated, or found and put aside for a choice."""

    part: Part
    have: Annotated[Annotated[int, Meta(ge=0, le=10_000_000)], about("how many there are")] = 0
    donated: Annotated[bool, about("donated rather than owned")] = False
