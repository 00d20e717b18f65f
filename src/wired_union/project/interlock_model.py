"""What the machine does when, and what must be true before something that can hurt happens."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Count, Duration, Finite, Name, Ref, Value

CueKind = Literal["event", "threshold"]
GateKind = Literal["mechanical", "in the power path", "sensed", "software"]
FailureKind = Literal[
    "stuck sensor", "welded contact", "shorted driver", "hung program", "torn wire", "lost radio", "lost power",
    "by hand", "other",
]  # fmt: skip
HazardKind = Literal[
    "lithium", "pressure", "spring", "height", "heat", "light", "spin", "fasteners", "falling mass", "pinching", "other"
]
Grade = Annotated[int, Meta(ge=1, le=4)]


class MachineState(Value, frozen=True, kw_only=True):
    """One state of the machine."""

    id: Name
    name: Name
    mode: Annotated[str, Ref("modes", "clear")] = ""
    """the mode of Power that it is in"""
    entry: str = ""
    """what is done on the way in"""
    is_stop: bool = False
    """whether everything stands still in it, and it may be reached from everywhere"""
    may_end: bool = False
    """whether the story may end in it"""
    x: Finite | None = None
    """where it is drawn, by itself when empty"""
    y: Finite | None = None


class Cue(Value, frozen=True, kw_only=True):
    """Something that happens or is true: an event, or a figure beyond its threshold."""

    id: Name
    name: Name
    kind: CueKind = "event"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that tells it"""
    quantity: str = ""
    """what is compared; cues of one quantity are compared with each other"""
    unit: str = ""
    side: Literal["above", "below"] = "above"
    threshold: Finite | None = None
    """true beyond it"""
    hysteresis: Amount = 0.0
    """false again only this far back"""
    dwell_s: Amount = 0.0
    """for how long before it counts"""
    urgent: bool = False
    """whether it asks for a stop and must be heard in every state"""


class CueIs(Value, frozen=True, kw_only=True):
    """One cue of a clause, or that it is not so."""

    cue: Annotated[Name, Ref("cues")]
    is_not: bool = False
    """whether it must not be so"""


class Clause(Value, frozen=True, kw_only=True):
    """Cues that must all be so."""

    parts: tuple[CueIs, ...] = ()


class Passage(Value, frozen=True, kw_only=True):
    """A way from one state to another, taken when one of its clauses is so, or after a time."""

    id: Name
    name: Name
    start: Annotated[Name, Ref("states")]
    end: Annotated[Name, Ref("states")]
    clauses: tuple[Clause, ...] = ()
    """one of them is enough"""
    after_s: Duration | None = None
    """a time in the state after which it is taken"""
    chain: Annotated[str, Ref("chains", "clear")] = ""
    """the chain of Timing that it takes from the event to the state"""
    most_s: Amount | None = None
    """how long it takes at the most, where no chain says"""
    rank: Count = 1
    """of two that could be taken at once the lower goes first"""


class ClosedIn(Value, frozen=True, kw_only=True):
    """A state, by its id."""

    state: Annotated[Name, Ref("states")]


class Hazard(Value, frozen=True, kw_only=True):
    """What can hurt: what it is, how bad, how likely, what guards, who checks."""

    id: Name
    name: Name
    kind: HazardKind = "other"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it comes from"""
    hurts: str = ""
    """what can happen to whom"""
    severity: Grade = 2
    """1 a scratch, 2 a wound, 3 lasting harm, 4 death"""
    likelihood: Grade = 2
    """1 hardly ever, 4 almost every day"""
    guarded_by: str = ""
    """what stands between it and people"""
    checked_by: str = ""
    """who looks before each run"""
    energy_j: Amount | None = None
    """what it releases"""
    wanted: Annotated[int, Meta(ge=1, le=3)] | None = None
    """failures that it must take at least; two where the harm lasts, one else, when empty"""
    meant_in: tuple[ClosedIn, ...] = ()
    """states in which it is meant to happen"""
    stays: Literal["not said", "yes", "no"] = "not said"
    """whether it stays loaded without power"""
    released_by: str = ""
    """how it is unloaded by hand"""


class Gate(Value, frozen=True, kw_only=True):
    """One thing that must be so before a hazard is released."""

    id: Name
    name: Name
    hazard: Annotated[Name, Ref("hazards")]
    kind: GateKind = "software"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is"""
    beside: Annotated[str, Ref("gates", "clear")] = ""
    """a gate that it stands beside: one of the two is enough"""
    closed_in: tuple[ClosedIn, ...] = ()
    """states in which it is closed as it should be"""
    dwell_s: Amount = 0.0
    """how long it must be so"""
    hands: Annotated[int, Meta(ge=0, le=4)] = 0
    """hands it takes"""
    has_key: bool = False
    """whether it takes a key that somebody keeps"""


class Closes(Value, frozen=True, kw_only=True):
    gate: Annotated[Name, Ref("gates")]


class Silences(Value, frozen=True, kw_only=True):
    cue: Annotated[Name, Ref("cues")]


class Failure(Value, frozen=True, kw_only=True):
    """One thing that goes wrong, and the gates that it closes."""

    id: Name
    name: Name
    kind: FailureKind = "other"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that fails"""
    closes: tuple[Closes, ...] = ()
    """gates that it closes"""
    silences: tuple[Silences, ...] = ()
    """cues that are told no more, besides those of its part"""
    told_by: Annotated[str, Ref("cues", "clear")] = ""
    """the cue by which the machine itself notices it: nothing heard for a time, a watchdog"""
    seen_by: str = ""
    """how it is noticed before anything moves; what is noticed still counts"""


class Tick(Value, frozen=True, kw_only=True):
    """That somebody looked at a hazard before a run."""

    hazard: Annotated[Name, Ref("hazards")]
    on: str = ""
    by: str = ""
