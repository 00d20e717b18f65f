"""What a team has decided, as frozen values. SI floats, the unit in the name; None means not known, never zero."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from wired_union.project.decision_model import (
    Criterion,
    Decision,
    Need,
    Question,
    Requires,
    Retirement,
    Score,
    Stock,
)  # fmt: skip
from wired_union.project.motion_model import AnyLoad, Mount, MovedLoad, Space, WheelLoad
from wired_union.project.part_model import (
    Amount,
    Canopy,
    Count,
    Driver,
    Flywheel,
    Link,
    Load,
    Motor,
    Name,
    Pack,
    Panel,
    Part,
    Positive,
    Rail,
    Regulator,
    Sense,
    Share,
    Spring,
    Tank,
    Thrust,
    Value,
    Wheel,
)

FORMAT = "wired-union-project"
VERSION = 1

Knowledge = Literal["guess", "estimate", "datasheet", "measured"]
Origin = Literal["to buy", "bought", "owned", "donated", "refunded"]
State = Literal["off", "sleep", "idle", "active", "peak"]
Direction = Literal["at most", "at least"]
KNOWLEDGE: tuple[Knowledge, ...] = ("guess", "estimate", "datasheet", "measured")
ORIGINS: tuple[Origin, ...] = ("to buy", "bought", "owned", "donated", "refunded")
STATES: tuple[State, ...] = ("off", "sleep", "idle", "active", "peak")


class Item(Value):
    """A part in its place: which subsystem, how many, how well it is known, where it comes from."""

    id: Name
    name: Name
    subsystem: Name
    part: Part
    count: Count = 1
    knowledge: Knowledge = "datasheet"
    origin: Origin = "to buy"
    requires: Requires = Field(Requires(), description="what must hold for whatever fills this place")


class Subsystem(Value):
    """A lane of parts with its own share of mass and power, where the team sets one."""

    id: Name
    name: Name
    mass_share_kg: Positive | None = None
    power_share_w: Positive | None = None


class Feed(Value):
    """Who powers whom, and through which wire."""

    source: Name
    load: Name
    wire_length_m: Amount | None = Field(None, description="length of the wire one way")
    wire_awg: int | None = Field(None, ge=-3, le=40, description="American gauge of the wire")


class Use(Value):
    """What one item does in a mode: its state for a share of the time, idle (or its rest) otherwise."""

    item: Name
    state: State
    duty: Share = 1.0
    rest: State = "idle"


class Mode(Value):
    """One way the whole is used; items that are not named are in `otherwise`."""

    id: Name
    name: Name
    uses: tuple[Use, ...] = ()
    otherwise: State = "idle"
    staggered: bool = Field(False, description="loads that start in this mode start one after another")


class Phase(Value):
    mode: Name
    duration_s: Positive


class Mission(Value):
    """Phases in a row, all of them `repeats` times."""

    phases: tuple[Phase, ...] = ()
    repeats: Annotated[int, Field(ge=1, le=100_000_000)] = 1

    @property
    def cycle_s(self) -> float:
        return sum(p.duration_s for p in self.phases)

    @property
    def duration_s(self) -> float:
        return self.cycle_s * self.repeats


class Spell(Value):
    """A stage with a least and a most time: an event, a debounce, an actuator's response."""

    kind: Literal["event", "debounce", "actuator"]
    name: Name
    least_s: Amount
    most_s: Amount


class Sampled(Value):
    """A stage that looks once a period and then answers."""

    kind: Literal["sampled"] = "sampled"
    name: Name
    period_s: Positive
    response_s: Amount


class Transfer(Value):
    """Bytes over a bus."""

    kind: Literal["transfer"] = "transfer"
    name: Name
    bus: Literal["uart", "i2c", "spi"]
    bytes: Annotated[int, Field(ge=0, le=10_000_000)]
    clock_hz: Positive = Field(description="clock of the bus; the baud rate of a UART")


Stage = Annotated[Spell | Sampled | Transfer, Field(discriminator="kind")]


class Chain(Value):
    """From something sensed to something done."""

    id: Name
    name: Name
    stages: tuple[Stage, ...] = ()


class Limit(Value):
    """A wish with a number and a way to prove it."""

    measure: Name
    name: Name
    value: Positive
    direction: Direction
    reserve: Annotated[float, Field(ge=0, lt=1)] = Field(0.1, description="share kept in hand; tight beyond it")
    group: str = "Endure"
    proof: str = ""


class Brief(Value):
    limits: tuple[Limit, ...] = ()
    energy_reserve: Annotated[float, Field(ge=0, lt=1)] = Field(0.15, description="share of a pack never planned on")
    mass_margin: Annotated[float, Field(ge=0, le=1)] = Field(0.0, description="system margin on top of allowances")
    space: Space = Field(Space(), description="the room that every part must fit")

    def limit(self, measure: str) -> Limit | None:
        """The limit on that measure, None where the team set none."""
        return next((x for x in self.limits if x.measure == measure), None)


class Concept(Value):
    """One way to meet the brief. Its id is its letter, in small: "a", "b"."""

    id: Name
    name: Name
    copied_from: str = Field("", description="id of the concept it was copied from")
    copied_on: str = Field("", description="when it was copied")
    retired: Retirement | None = None
    questions: tuple[Question, ...] = Field((), description="what is to be decided by test")
    needs: tuple[Need, ...] = Field((), description="places that no part fills yet")
    subsystems: tuple[Subsystem, ...] = ()
    items: tuple[Item, ...] = ()
    feeds: tuple[Feed, ...] = ()
    modes: tuple[Mode, ...] = ()
    mission: Mission = Mission()
    chains: tuple[Chain, ...] = ()
    loads: tuple[MovedLoad, ...] = Field((), description="what must move")
    mounts: tuple[Mount, ...] = Field((), description="what can swing")

    @property
    def letter(self) -> str:
        """How it is marked: "A"."""
        return self.id[:2].upper()

    @model_validator(mode="after")
    def _joined_up(self) -> Self:
        _check_ids(self)
        _check_references(self)
        _check_feeds(self.feeds)
        return self


class Entry(Value):
    """A line of the notebook: when, what was done, what it moved, and why."""

    when: str
    text: str
    why: str = ""


class Project(Value):
    format: Literal["wired-union-project"] = "wired-union-project"
    version: Literal[1] = 1
    name: Name
    subtitle: str = ""
    brief: Brief = Brief()
    concepts: tuple[Concept, ...] = Field(min_length=1)
    at_work: str = Field("", description="id of the concept at work; the first when empty")
    decision: Decision = Decision()
    shelf: tuple[Stock, ...] = Field((), description="parts the team has, or has put aside")
    notebook: tuple[Entry, ...] = ()

    @property
    def concept(self) -> Concept:
        """The concept at work."""
        return next((c for c in self.concepts if c.id == self.at_work), self.concepts[0])

    @property
    def living(self) -> tuple[Concept, ...]:
        """The concepts that are not retired."""
        return tuple(c for c in self.concepts if c.retired is None)

    @model_validator(mode="after")
    def _one_of_each(self) -> Self:
        ids = [c.id for c in self.concepts]
        if len(set(ids)) < len(ids):
            raise ValueError("two concepts share an id; give one of them another")
        if self.at_work and self.at_work not in ids:
            raise ValueError(f"the concept at work, “{self.at_work}”, does not exist")
        return self


def _check_ids(concept: Concept) -> None:
    for what in ("subsystems", "items", "modes", "chains", "needs", "questions", "loads", "mounts"):
        ids = [x.id for x in getattr(concept, what)]
        twice = next((x for x in ids if ids.count(x) > 1), None) if len(set(ids)) < len(ids) else None
        if twice:
            raise ValueError(f"two {what} share the id “{twice}”; give one of them another")


def _check_references(concept: Concept) -> None:
    lanes, items = {s.id for s in concept.subsystems}, {i.id for i in concept.items}
    modes = {m.id for m in concept.modes}
    wanted = [
        *((i.subsystem, lanes, f"item “{i.id}”", "subsystem") for i in concept.items),
        *((end, items, "a feed", "item") for f in concept.feeds for end in (f.source, f.load)),
        *((u.item, items, f"mode “{m.id}”", "item") for m in concept.modes for u in m.uses),
        *((p.mode, modes, "the mission", "mode") for p in concept.mission.phases),
        *((n.subsystem, lanes, f"need “{n.id}”", "subsystem") for n in concept.needs),
    ]
    for name, known, where, what in wanted:
        if name not in known:
            raise ValueError(f"{where} names the {what} “{name}”, which does not exist")


def _check_feeds(feeds: tuple[Feed, ...]) -> None:
    source_of: dict[str, str] = {}
    for feed in feeds:
        if feed.load in source_of:
            raise ValueError(f"“{feed.load}” is fed twice; keep one feed")
        source_of[feed.load] = feed.source
    settled: set[str] = set()
    for load in source_of:
        walked, at = [], load
        while at in source_of and at not in settled:
            if at in walked:
                raise ValueError(f"“{load}” feeds itself in a ring; open it")
            walked.append(at)
            at = source_of[at]
        settled.update(walked)


__all__ = [
    "FORMAT",
    "KNOWLEDGE",
    "ORIGINS",
    "STATES",
    "VERSION",
    "AnyLoad",
    "Brief",
    "Canopy",
    "Chain",
    "Concept",
    "Criterion",
    "Decision",
    "Direction",
    "Driver",
    "Entry",
    "Feed",
    "Flywheel",
    "Item",
    "Knowledge",
    "Limit",
    "Link",
    "Load",
    "Mission",
    "Mode",
    "Motor",
    "Mount",
    "MovedLoad",
    "Need",
    "Origin",
    "Pack",
    "Panel",
    "Part",
    "Phase",
    "Project",
    "Question",
    "Rail",
    "Regulator",
    "Requires",
    "Retirement",
    "Sampled",
    "Score",
    "Sense",
    "Space",
    "Spell",
    "Spring",
    "Stage",
    "State",
    "Stock",
    "Subsystem",
    "Tank",
    "Thrust",
    "Transfer",
    "Use",
    "Value",
    "Wheel", "WheelLoad",
]  # fmt: skip
