"""What a team has decided, as frozen values. SI floats, the unit in the name; None means not known, never zero."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.air_model import RadioLink
from wired_union.project.bench_model import AnalogueChain, Calibration, Reading, Surface, Waking
from wired_union.project.budget_model import ErrorBudget
from wired_union.project.course_model import Course, CoursePlace, Trip
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
from wired_union.project.fit_model import Beams, Clearance, Fills, Sight, Stack
from wired_union.project.formula_model import Formula, Knob
from wired_union.project.interlock_model import Cue, Failure, Gate, Hazard, MachineState, Passage, Tick
from wired_union.project.joined_model import JoinedPack
from wired_union.project.loop_model import Loop
from wired_union.project.money_model import Making, Purchase, Rate, Upgrade
from wired_union.project.motion_model import AnyLoad, Mount, Space, WheelLoad
from wired_union.project.notebook_model import Defect, Entry, Signature, Version
from wired_union.project.part_model import (
    Canopy,
    Driver,
    Flywheel,
    Link,
    Load,
    Motor,
    Pack,
    Panel,
    Part,
    Rail,
    Regulator,
    Sense,
    Shifter,
    Spring,
    Stepper,
    Supply,
    Tank,
    Thrust,
    Wheel,
)
from wired_union.project.place_model import Foot, Place, Pose, PoseMode, Room, Shift
from wired_union.project.plan_model import Feature, Milestone, Plan, PlanTask
from wired_union.project.signal_model import Signal
from wired_union.project.strength_model import AnyTest
from wired_union.project.structure_model import Beam, Carries
from wired_union.project.sun_model import Inlet, Site, SunPanel
from wired_union.project.throw_model import Throw
from wired_union.project.timing_model import (
    STAGE_KINDS,
    Actuator,
    Again,
    AirStage,
    Bus,
    Chain,
    Debounce,
    Event,
    Eye,
    Message,
    MessageStage,
    Movement,
    Packet,
    PacketField,
    PictureStage,
    Processor,
    Sampled,
    SignalStage,
    Spell,
    Stage,
    Task,
    TaskStage,
    Transfer,
)
from wired_union.project.trial_model import Trial
from wired_union.project.value import (
    Amount,
    Celsius,
    Count,
    Duration,
    Finite,
    Kept,
    Name,
    Positive,
    Ref,
    Share,
    Value,
)
from wired_union.project.warmth_model import AirCurve, Enclosure, WarmPart
from wired_union.project.way_model import Way
from wired_union.project.weighing_model import MarginSchool, Weighing
from wired_union.project.wiring_model import Cable, Control, Interface, Join, OwnLine, Thread, Wiring

FORMAT: Literal["wired-union-project"] = "wired-union-project"
VERSION: Literal[1] = 1

Knowledge = Literal["guess", "estimate", "datasheet", "measured"]
Origin = Literal["to buy", "bought", "owned", "donated", "refunded"]
State = Literal["off", "sleep", "idle", "active", "peak"]
Direction = Literal["at most", "at least"]
KNOWLEDGE: tuple[Knowledge, ...] = ("guess", "estimate", "datasheet", "measured")
ORIGINS: tuple[Origin, ...] = ("to buy", "bought", "owned", "donated", "refunded")
STATES: tuple[State, ...] = ("off", "sleep", "idle", "active", "peak")


class Item(Value, frozen=True, kw_only=True):
    """A part in its place: which subsystem, how many, how well it is known, where it comes from."""

    id: Name
    name: Name
    subsystem: Annotated[Name, Ref("subsystems", "keep")]
    part: Part
    count: Count = 1
    knowledge: Knowledge = "datasheet"
    origin: Origin = "to buy"
    requires: Requires = Requires()
    """what must hold for whatever fills this place"""
    shifted_by: Annotated[str, Ref("items", "clear")] = ""
    """the level shifter that its signals go through"""
    board: Annotated[str, Ref("items", "clear")] = ""
    """the controller that its signals go to; any when empty"""
    address: Annotated[int, Meta(ge=0, le=1023)] | None = None
    """address that it is set to on I²C; the one it is sold with when empty"""
    places: tuple[Place, ...] = ()
    """where its copies are, one by one; those beyond are somewhere in the room of its subsystem"""
    fills: Fills = "its box"
    """how it fills its room: solid, others inside it (a box, a frame, a tube), or spread about (cables, screws)"""


class Subsystem(Value, frozen=True, kw_only=True):
    """A lane of parts with its own share of mass and power, where the team sets one."""

    id: Name
    name: Name
    mass_share_kg: Positive | None = None
    power_share_w: Positive | None = None
    room: Room | None = None
    """where its parts are that have no place yet"""


class Feed(Value, frozen=True, kw_only=True):
    """Who powers whom, and through which wire."""

    source: Annotated[Name, Ref("items")]
    load: Annotated[Name, Ref("items", copied=True)]
    wire_length_m: Amount | None = None
    """length of the wire one way"""
    wire_awg: Annotated[int, Meta(ge=-3, le=40)] | None = None
    """American gauge of the wire"""
    capacitor_f: Positive | None = None
    """capacitor at its end, beside what it feeds"""


class Use(Value, frozen=True, kw_only=True):
    """What one item does in a mode: its state for a share of the time, idle (or its rest) otherwise."""

    item: Annotated[Name, Ref("items", copied=True)]
    state: State
    duty: Share = 1.0
    rest: State = "idle"
    after_s: Annotated[float, Meta(ge=0, le=60)] = 0.0
    """how long after the mode begins it starts"""
    reverses: bool = False
    """whether it is reversed while it runs"""


class Mode(Value, frozen=True, kw_only=True):
    """One way the whole is used; items that are not named are in `otherwise`."""

    id: Name
    name: Name
    uses: tuple[Use, ...] = ()
    otherwise: State = "idle"
    staggered: bool = False
    """loads that start in this mode start one after another"""
    plugged_in: bool = False
    """supplies that stand in for a pack are plugged in"""


class Phase(Value, frozen=True, kw_only=True):
    mode: Annotated[Name, Ref("modes")]
    duration_s: Duration
    load: Annotated[str, Ref("loads", "clear")] = ""
    """the load whose movement it lasts as long as"""


class Mission(Value, frozen=True, kw_only=True):
    """Phases in a row, all of them `repeats` times."""

    phases: tuple[Phase, ...] = ()
    repeats: Annotated[int, Meta(ge=1, le=100_000_000)] = 1

    @property
    def cycle_s(self) -> float:
        return sum(p.duration_s for p in self.phases)

    @property
    def duration_s(self) -> float:
        return self.cycle_s * self.repeats


class Limit(Value, frozen=True, kw_only=True):
    """A wish with a number and a way to prove it."""

    measure: Name
    name: Name
    value: Amount
    direction: Direction
    reserve: Kept = 0.1
    """share kept in hand; tight beyond it"""
    group: str = "Endure"
    proof: str = ""
    unit: str = ""
    """unit of a limit that nothing computes"""
    own: bool = False
    """whether the team measures it itself"""
    measured: Finite | None = None
    """what the team measured, where nothing computes it"""
    measured_on: str = ""
    """when it was measured"""
    measured_by: str = ""
    """who measured it"""


class Brief(Value, frozen=True, kw_only=True):
    limits: tuple[Limit, ...] = ()
    formulas: tuple[Formula, ...] = ()
    """what the team works out itself"""
    energy_reserve: Kept = 0.15
    """share of a pack never planned on"""
    mass_margin: Annotated[float, Meta(ge=0, le=1)] = 0.0
    """system margin on top of allowances"""
    margin_school: MarginSchool = "by knowledge"
    """how masses that may grow are allowed for: each by what is known of it, all by one share, or root of squares"""
    fixed_allowance: Share = 0.2
    """share that is allowed for everything, where all are allowed one"""
    margin_why: str = ""
    """why masses are allowed for in this way"""
    small_things: Share | None = None
    """cables, screws, glue and paint as a share of the parts, until they are weighed; 0.05 to 0.1 is common practice"""
    space: Space = Space()
    """the room that every part must fit"""
    hottest_c: Celsius = 25.0
    """warmest air around the parts"""
    coldest_c: Celsius = 10.0
    """coldest air around the parts"""
    air: AirCurve = AirCurve()
    """how the air goes between the two while the mission lasts"""
    site: Site = Site()
    """where and when it stands in the sun"""
    currency: str = "£"
    """sign or code of what money is counted in"""

    def limit(self, measure: str) -> Limit | None:
        """The limit on that measure, None where the team set none."""
        return next((x for x in self.limits if x.measure == measure), None)


class Concept(Value, frozen=True, kw_only=True):
    """One way to meet the brief. Its id is its letter, in small: "a", "b"."""

    id: Name
    name: Name
    knobs: tuple[Knob, ...] = ()
    """numbers of our own that formulas use"""
    copied_from: Annotated[str, Ref("concepts", "clear")] = ""
    """id of the concept it was copied from"""
    copied_on: str = ""
    """when it was copied"""
    retired: Retirement | None = None
    questions: tuple[Question, ...] = ()
    """what is to be decided by test"""
    needs: tuple[Need, ...] = ()
    """places that no part fills yet"""
    subsystems: tuple[Subsystem, ...] = ()
    items: tuple[Item, ...] = ()
    feeds: tuple[Feed, ...] = ()
    modes: tuple[Mode, ...] = ()
    mission: Mission = Mission()
    chains: tuple[Chain, ...] = ()
    processors: tuple[Processor, ...] = ()
    """what runs tasks"""
    tasks: tuple[Task, ...] = ()
    """what they run"""
    buses: tuple[Bus, ...] = ()
    """wires that parts share"""
    messages: tuple[Message, ...] = ()
    """what goes over them"""
    control_loops: tuple[Loop, ...] = ()
    """what is measured and corrected"""
    radio_links: tuple[RadioLink, ...] = ()
    """what is sent through the air"""
    packets: tuple[Packet, ...] = ()
    """what messages carry"""
    eyes: tuple[Eye, ...] = ()
    """cameras, and what looks through their pictures"""
    signals: tuple[Signal, ...] = ()
    """wires that carry a time, a level or edges"""
    ways: tuple[Way, ...] = ()
    """what is driven by counting"""
    own_lines: tuple[OwnLine, ...] = ()
    """signals that no part carries"""
    joins: tuple[Join, ...] = ()
    """controllers that talk to each other"""
    threads: tuple[Thread, ...] = ()
    """which signal is on which pin"""
    cables: tuple[Cable, ...] = ()
    """wires that lie together"""
    interfaces: tuple[Interface, ...] = ()
    """what people's parts hand each other"""
    controls: tuple[Control, ...] = ()
    """what the operator moves or presses"""
    wiring: Wiring = Wiring()
    """what is wanted of all wires"""
    states: tuple[MachineState, ...] = ()
    """states of the machine, the first at the start"""
    cues: tuple[Cue, ...] = ()
    """what happens or is true"""
    passages: tuple[Passage, ...] = ()
    """ways from state to state"""
    hazards: tuple[Hazard, ...] = ()
    """what can hurt"""
    gates: tuple[Gate, ...] = ()
    """what must be so before it can"""
    failures: tuple[Failure, ...] = ()
    """what may go wrong"""
    ticks: tuple[Tick, ...] = ()
    """who looked before a run, and when"""
    readings: tuple[Reading, ...] = ()
    """what instruments showed on the bench"""
    wakings: tuple[Waking, ...] = ()
    """what was woken on the bench, and what waits"""
    calibrations: tuple[Calibration, ...] = ()
    """sensors against what is trusted"""
    error_budgets: tuple[ErrorBudget, ...] = ()
    """figures with everything that makes them wrong"""
    analogue_chains: tuple[AnalogueChain, ...] = ()
    """sensors by their volts and a converter"""
    surfaces: tuple[Surface, ...] = ()
    """quantities over two others"""
    course: Course = Course()
    """time and driving that all trips have in common"""
    course_places: tuple[CoursePlace, ...] = ()
    """where its tasks are"""
    trips: tuple[Trip, ...] = ()
    """in the order in which they are driven"""
    throws: tuple[Throw, ...] = ()
    """what flies"""
    loads: tuple[AnyLoad, ...] = ()
    """what must move"""
    mounts: tuple[Mount, ...] = ()
    """what can swing"""
    feet: tuple[Foot, ...] = ()
    """what stands on the floor besides wheels"""
    poses: tuple[Pose, ...] = ()
    """how it stands at times"""
    beams: tuple[Beam, ...] = ()
    """what bends"""
    clearances: tuple[Clearance, ...] = ()
    """what must stay free before parts"""
    stacks: tuple[Stack, ...] = ()
    """what lies above each other"""
    sights: tuple[Sight, ...] = ()
    """what sensors look at"""
    beam_rows: tuple[Beams, ...] = ()
    """rows of light beams"""
    borne: tuple[AnyTest, ...] = ()
    """what must bear, fit together or be dropped"""
    weighings: tuple[Weighing, ...] = ()
    """what was put on a scale"""
    plan_tasks: tuple[PlanTask, ...] = ()
    """what is to be done, in the order in which each does theirs"""
    enclosures: tuple[Enclosure, ...] = ()
    """boxes with air of their own"""
    warm_parts: tuple[WarmPart, ...] = ()
    """how parts shed their heat"""
    joined_packs: tuple[JoinedPack, ...] = ()
    """packs that stand side by side on one supply"""
    sun_panels: tuple[SunPanel, ...] = ()
    """how solar panels stand, and what they charge"""
    inlets: tuple[Inlet, ...] = ()
    """what charges besides the sun"""
    features: tuple[Feature, ...] = ()
    """what could be left out"""
    milestones: tuple[Milestone, ...] = ()
    """what must be shown by when"""
    making: Making = Making()
    """what it is like if more are made"""

    @property
    def letter(self) -> str:
        """How it is marked: "A"."""
        return self.id[:2].upper()


class Project(Value, frozen=True, kw_only=True):
    format: Literal["wired-union-project"] = FORMAT
    version: Literal[1] = VERSION
    name: Name
    subtitle: str = ""
    brief: Brief = Brief()
    concepts: Annotated[tuple[Concept, ...], Meta(min_length=1)]
    at_work: Annotated[str, Ref("concepts", "clear")] = ""
    """id of the concept at work; the first when empty"""
    decision: Decision = Decision()
    shelf: tuple[Stock, ...] = ()
    """parts the team has, or has put aside"""
    notebook: tuple[Entry, ...] = ()
    trials: tuple[Trial, ...] = ()
    """what is tried again and again, with every run"""
    plan: Plan = Plan()
    """who there is, when nobody works, and the date"""
    ledger: tuple[Purchase, ...] = ()
    """what money went where"""
    rates: tuple[Rate, ...] = ()
    """other currencies"""
    upgrades: tuple[Upgrade, ...] = ()
    """what we would do next"""
    defects: tuple[Defect, ...] = ()
    """faults that were found"""
    versions: tuple[Version, ...] = ()
    """knots: the project as it was, in the order in which they were tied"""
    signatures: tuple[Signature, ...] = ()
    """who has read which caution"""
    standards: tuple[Name, ...] = ()
    """standards and rules that the team works to"""
    sections_left_out: tuple[str, ...] = ()
    """subjects whose sections the report leaves out, by their ids"""
    days_left_out: tuple[str, ...] = ()
    """days of the notebook that the report leaves out"""
    keeps_history: bool = False
    """whether what can be undone is kept with the file"""

    @property
    def concept(self) -> Concept:
        """The concept at work."""
        return next((c for c in self.concepts if c.id == self.at_work), self.concepts[0])

    @property
    def living(self) -> tuple[Concept, ...]:
        """The concepts that are not retired."""
        return tuple(c for c in self.concepts if c.retired is None)


__all__ = [
    "FORMAT",
    "KNOWLEDGE",
    "ORIGINS",
    "STAGE_KINDS",
    "STATES",
    "VERSION",
    "Actuator",
    "Again",
    "AirStage",
    "AnyLoad",
    "Beam",
    "Brief",
    "Bus",
    "Canopy",
    "Carries",
    "Chain",
    "Concept",
    "Criterion",
    "Debounce",
    "Decision",
    "Direction",
    "Driver",
    "Entry",
    "Event",
    "Eye",
    "Feed",
    "Flywheel",
    "Foot",
    "Formula",
    "Item",
    "Knob",
    "Knowledge",
    "Limit",
    "Link",
    "Load",
    "Loop",
    "Message",
    "MessageStage",
    "Mission",
    "Mode",
    "Motor",
    "Mount",
    "Movement",
    "Need",
    "Origin",
    "Pack",
    "Packet",
    "PacketField",
    "Panel",
    "Part",
    "Phase",
    "PictureStage",
    "Place",
    "Pose",
    "PoseMode",
    "Processor",
    "Project",
    "Question",
    "RadioLink",
    "Rail",
    "Regulator",
    "Requires",
    "Retirement",
    "Room",
    "Sampled",
    "Score",
    "Sense",
    "Shift",
    "Shifter",
    "Signal",
    "SignalStage",
    "Space",
    "Spell",
    "Spring",
    "Stage",
    "State",
    "Stepper",
    "Stock",
    "Subsystem",
    "Supply",
    "Tank",
    "Task",
    "TaskStage",
    "Thrust",
    "Transfer",
    "Use",
    "Value",
    "Wheel",
    "WheelLoad",
]
