"""What a team has decided, as frozen values. SI floats, the unit in the name; None means not known, never zero."""

from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

FORMAT = "wired-union-project"
VERSION = 1

Amount = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1)]
Count = Annotated[int, Field(ge=1, le=10_000)]
Name = Annotated[str, Field(min_length=1, max_length=120)]

Knowledge = Literal["guess", "estimate", "datasheet", "measured"]
Origin = Literal["to buy", "bought", "owned", "donated", "refunded"]
State = Literal["off", "sleep", "idle", "active", "peak"]
Direction = Literal["at most", "at least"]
KNOWLEDGE: tuple[Knowledge, ...] = ("guess", "estimate", "datasheet", "measured")
ORIGINS: tuple[Origin, ...] = ("to buy", "bought", "owned", "donated", "refunded")
STATES: tuple[State, ...] = ("off", "sleep", "idle", "active", "peak")


class Value(BaseModel):
    """A frozen value that keeps keys it does not know, so that a newer program's notes survive an older one."""

    model_config = ConfigDict(frozen=True, extra="allow", defer_build=True)  # built when used: a faster start


class Load(Value):
    """What a part draws. Currents are at `rated_v`; `draw` says what stays the same when the voltage moves."""

    supply_min_v: Amount | None = Field(None, description="lowest supply it works from")
    supply_max_v: Amount | None = Field(None, description="highest supply it survives")
    rated_v: Positive | None = Field(None, description="supply at which its currents are given")
    draw: Literal["current", "power", "resistance"] = Field("current", description="what stays the same as volts move")
    sleep_a: Amount | None = Field(None, description="current asleep")
    idle_a: Amount | None = Field(None, description="current awake but not at work")
    active_a: Amount | None = Field(None, description="current at work")
    peak_a: Amount | None = Field(None, description="most current at work, or blocked")
    startup_a: Amount | None = Field(None, description="current while it starts; a brushed motor's stall current")


class Motor(Value):
    """A brushed motor with its gear, at the output shaft."""

    rated_voltage_v: Positive | None = Field(None, description="voltage at which its figures are given")
    no_load_speed_rad_s: Positive | None = Field(None, description="speed without load")
    stall_torque_n_m: Positive | None = Field(None, description="torque when blocked")
    stall_current_a: Positive | None = Field(None, description="current when blocked")
    no_load_current_a: Amount | None = Field(None, description="current without load")
    gear_ratio: Positive | None = Field(None, description="turns of the motor for one of the shaft")


class Pack(Value):
    """Cells in series and parallel."""

    chemistry: str = Field(description="lifepo4, li-ion, lipo, nimh, lead-acid, alkaline or lithium-primary")
    series: Count = Field(description="cells in series")
    parallel: Count = Field(1, description="strings in parallel")
    cell_capacity_ah: Positive | None = Field(None, description="capacity of one cell")
    cell_resistance_ohm: Amount | None = Field(None, description="internal resistance of one cell")
    max_current_a: Positive | None = Field(None, description="most current the pack may give for long")
    cutoff_cell_v: Positive | None = Field(None, description="cut-off voltage of one cell; its chemistry's when empty")


class Regulator(Value):
    """Makes one voltage from another: "linear" passes current, "switching" passes power."""

    topology: Literal["linear", "switching"] = Field(description="linear or switching")
    output_v: Positive = Field(description="voltage it is set to")
    input_min_v: Amount | None = Field(None, description="lowest input it works from")
    input_max_v: Positive | None = Field(None, description="highest input it survives")
    max_current_a: Positive | None = Field(None, description="most output current")
    dropout_v: Amount = Field(0.0, description="least input above output")
    quiescent_a: Amount = Field(0.0, description="current it uses itself")
    efficiency_curve: tuple[tuple[Amount, Annotated[float, Field(gt=0, le=1)]], ...] = Field(
        (), description="points of output current and efficiency, rising"
    )
    thermal_resistance_k_per_w: Amount | None = Field(None, description="junction to air, as usually mounted")


class Driver(Value):
    """Switches power to motors or other loads, channel by channel."""

    channels: Count = Field(description="outputs of one driver")
    channel_current_a: Positive | None = Field(None, description="most current of one channel")
    total_current_a: Positive | None = Field(None, description="most current of all channels together")
    input_min_v: Amount | None = Field(None, description="lowest supply it works from")
    input_max_v: Positive | None = Field(None, description="highest supply it survives")
    quiescent_a: Amount = Field(0.0, description="current it uses itself")
    on_resistance_ohm: Amount = Field(0.0, description="resistance of one switched-on channel")


class Rail(Value):
    """Passes power on: a bus bar, switch or fuse."""

    max_current_a: Positive | None = Field(None, description="most current through it; a fuse's rating")


class Link(Value):
    """How a part talks to the controller."""

    bus: str | None = Field(None, description="I2C, SPI, UART, PWM, analogue, digital, USB, CSI, CAN")
    logic_v: Positive | None = Field(None, description="voltage of its signals")
    logic_max_v: Positive | None = Field(None, description="highest signal it survives; its logic voltage when empty")
    pins: int | None = Field(None, ge=0, description="controller pins it uses")


class Part(Value):
    """One part, of the catalogue or the team's own. Facets say what it does in the power tree."""

    id: Name
    name: Name
    kind: Name
    mass_kg: Amount | None = Field(None, description="mass of one")
    price: Amount | None = Field(None, description="price of one")
    length_m: Amount | None = Field(None, description="longest side")
    width_m: Amount | None = Field(None, description="middle side")
    height_m: Amount | None = Field(None, description="shortest side")
    temperature_min_c: Finite | None = Field(None, description="coldest it works at")
    temperature_max_c: Finite | None = Field(None, description="hottest it works at")
    stored_energy_j: Amount | None = Field(None, description="energy it holds when loaded, such as a spring's")
    note: str = Field("", description="what else to know")
    load: Load | None = None
    motor: Motor | None = None
    pack: Pack | None = None
    regulator: Regulator | None = None
    driver: Driver | None = None
    rail: Rail | None = None
    link: Link | None = None


class Item(Value):
    """A part in its place: which subsystem, how many, how well it is known, where it comes from."""

    id: Name
    name: Name
    subsystem: Name
    part: Part
    count: Count = 1
    knowledge: Knowledge = "datasheet"
    origin: Origin = "to buy"


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

    def limit(self, measure: str) -> Limit | None:
        """The limit on that measure, None where the team set none."""
        return next((x for x in self.limits if x.measure == measure), None)


class Concept(Value):
    """One way to meet the brief."""

    id: Name
    name: Name
    subsystems: tuple[Subsystem, ...] = ()
    items: tuple[Item, ...] = ()
    feeds: tuple[Feed, ...] = ()
    modes: tuple[Mode, ...] = ()
    mission: Mission = Mission()
    chains: tuple[Chain, ...] = ()

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
    notebook: tuple[Entry, ...] = ()

    @property
    def concept(self) -> Concept:
        """The concept at work."""
        return self.concepts[0]


def _check_ids(concept: Concept) -> None:
    for what in ("subsystems", "items", "modes", "chains"):
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
