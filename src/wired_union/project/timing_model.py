"""What takes time: chains of stages, processors with their tasks, buses with their messages."""

from typing import Annotated, ClassVar, Literal, get_args

from msgspec import Meta

from wired_union.project.value import Amount, Finite, Name, Positive, Ref, Value

Way = Literal["pre-emptive", "each run finished first", "plain loop"]
BusKind = Literal["i2c", "spi", "uart", "can", "one-wire"]
Known = Literal["guess", "estimate", "measured"]
Rank = Annotated[int, Meta(ge=1, le=1000)]


class Spell(Value, frozen=True, kw_only=True):
    """A stage with a least and a most time."""

    kind: ClassVar[str] = ""
    name: Name
    least_s: Amount
    most_s: Amount


class Event(Spell, frozen=True, kw_only=True, tag_field="kind", tag="event"):
    """Something happens: from its cause until it can be sensed."""

    kind: ClassVar[str] = "event"


class Debounce(Spell, frozen=True, kw_only=True, tag_field="kind", tag="debounce"):
    """A wait until a signal is taken as settled."""

    kind: ClassVar[str] = "debounce"


class Actuator(Spell, frozen=True, kw_only=True, tag_field="kind", tag="actuator"):
    """Something responds: from the command until it is done."""

    kind: ClassVar[str] = "actuator"


class Sampled(Value, frozen=True, kw_only=True, tag_field="kind", tag="sampled"):
    """A stage that looks once a period and then answers."""

    kind: ClassVar[str] = "sampled"
    name: Name
    period_s: Positive
    response_s: Amount


class Transfer(Value, frozen=True, kw_only=True, tag_field="kind", tag="transfer"):
    """Bytes over a bus."""

    kind: ClassVar[str] = "transfer"
    name: Name
    bus: Literal["uart", "i2c", "spi"]
    bytes: Annotated[int, Meta(ge=0, le=10_000_000)]
    clock_hz: Positive
    """clock of the bus; the baud rate of a UART"""


class Movement(Value, frozen=True, kw_only=True, tag_field="kind", tag="movement"):
    """As long as one movement of a load takes: the stroke of a screw, the swing of an arm."""

    kind: ClassVar[str] = "movement"
    name: Name
    load: Annotated[str, Ref("loads", "clear")] = ""
    """what moves"""


class Again(Value, frozen=True, kw_only=True, tag_field="kind", tag="again"):
    """The stages right before it, again and again."""

    kind: ClassVar[str] = "again"
    name: Name
    stages: Annotated[int, Meta(ge=1, le=100)] = 1
    """how many stages before it are done again"""
    times: Annotated[int, Meta(ge=1, le=1000)] = 1
    """how many times more"""


class TaskStage(Value, frozen=True, kw_only=True, tag_field="kind", tag="task"):
    """A task of a processor: what it reads waits for its turn, and for all that runs before it."""

    kind: ClassVar[str] = "task"
    name: Name
    task: Annotated[str, Ref("tasks", "clear")] = ""
    """which one"""
    starts: Literal["by its period", "at once"] = "by its period"
    """whether it looks once a period, or is started by what comes before"""


class MessageStage(Value, frozen=True, kw_only=True, tag_field="kind", tag="message"):
    """A message on a bus: it waits for what is sent, and for what goes before it."""

    kind: ClassVar[str] = "message"
    name: Name
    message: Annotated[str, Ref("messages", "clear")] = ""
    """which one"""
    starts: Literal["by its period", "at once"] = "at once"
    """whether it goes once a period, or is sent by what comes before"""


class AirStage(Value, frozen=True, kw_only=True, tag_field="kind", tag="air"):
    """A packet over a radio link, all its hops."""

    kind: ClassVar[str] = "air"
    name: Name
    link: Annotated[str, Ref("radio_links", "clear")] = ""
    """which one"""
    starts: Literal["by its period", "at once"] = "by its period"
    """whether it goes once a period, or is sent by what comes before"""


class PictureStage(Value, frozen=True, kw_only=True, tag_field="kind", tag="picture"):
    """A picture that is taken and looked through: from what happens until it is known."""

    kind: ClassVar[str] = "picture"
    name: Name
    eye: Annotated[str, Ref("eyes", "clear")] = ""
    """which camera with what looks through its pictures"""


class SignalStage(Value, frozen=True, kw_only=True, tag_field="kind", tag="signal"):
    """A sample of a converter, a frame to a servo: from when its value is there until it is out, or known."""

    kind: ClassVar[str] = "signal"
    name: Name
    signal: Annotated[str, Ref("signals", "clear")] = ""
    """which wire"""


Stage = (
    Event
    | Debounce
    | Actuator
    | Sampled
    | Transfer
    | Movement
    | Again
    | TaskStage
    | MessageStage
    | AirStage
    | PictureStage
    | SignalStage
)
STAGE_KINDS: dict[str, type[Stage]] = {k.kind: k for k in get_args(Stage)}


class Chain(Value, frozen=True, kw_only=True):
    """From something sensed to something done."""

    id: Name
    name: Name
    stages: tuple[Stage, ...] = ()
    moves_m_s: Amount | None = None
    """how fast what it is about moves meanwhile: the machine, or what it aims at"""


class Processor(Value, frozen=True, kw_only=True):
    """What runs tasks: a controller, or a computer."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is"""
    way: Way = "plain loop"
    """a more urgent task runs at once; each run is finished first; or one loop calls all in turn"""
    cores: Annotated[int, Meta(ge=1, le=16)] = 1


class Task(Value, frozen=True, kw_only=True):
    """Something that a processor does again and again."""

    id: Name
    name: Name
    processor: Annotated[Name, Ref("processors")]
    period_s: Positive = 0.02
    """from one start to the next; of an interrupt the least time between two"""
    least_s: Amount = 0.0
    """shortest run"""
    most_s: Amount | None = None
    """longest run, without waits"""
    known: Known = "guess"
    """how that is known"""
    deadline_s: Positive | None = None
    """time that it has from its start; its period when empty"""
    priority: Rank = 10
    """1 is the most urgent; alike, each may have to wait for the other"""
    interrupt: bool = False
    """whether it breaks in on everything that is none"""
    jitter_s: Amount = 0.0
    """how late it may be started"""
    holds_s: Amount = 0.0
    """longest stretch in which it lets no other run: a lock, interrupts off"""
    waits_s: Amount = 0.0
    """how long it sits in a wait in each run"""
    core: Annotated[int, Meta(ge=1, le=16)] = 1


class PacketField(Value, frozen=True, kw_only=True):
    """A number in a packet."""

    id: Name
    name: Name
    least: Finite = 0.0
    """smallest value"""
    most: Finite = 100.0
    """largest value; beyond both it is held at the end"""
    resolution: Positive = 1.0
    """step"""
    unit: str = ""
    """of all three"""


class Packet(Value, frozen=True, kw_only=True):
    """What a message carries, bit by bit."""

    id: Name
    name: Name
    fields: tuple[PacketField, ...] = ()
    checksum: Literal["none", "CRC-8", "CRC-16"] = "CRC-8"
    framing: Literal["none", "length first", "stuffed"] = "length first"
    """how the receiver finds its beginning and end; stuffed has no 0 byte but its last"""


class Bus(Value, frozen=True, kw_only=True):
    """A wire that parts share."""

    id: Name
    name: Name
    kind: BusKind = "i2c"
    clock_hz: Positive = 400e3
    """its clock; the bits a second of a UART or CAN"""
    buffer_bytes: Annotated[int, Meta(ge=0, le=1_000_000)] | None = None
    """bytes that the receiver keeps until they are read"""
    extended: bool = False
    """whether identities have 29 bits"""
    errors_per_min: Amount = 0.0
    """frames a minute that are spoilt and sent again"""
    supply_voltage_v: Positive | None = None
    """that the lines of an I²C bus are pulled up to"""
    capacitance_f: Positive | None = None
    """of one of its lines: about 50 pF a metre of wire and 10 pF a pin"""
    pull_up_ohm: Positive | None = None
    """what each line is pulled up by, all resistors of it together"""


class Message(Value, frozen=True, kw_only=True):
    """Bytes that go over a bus again and again."""

    id: Name
    name: Name
    bus: Annotated[Name, Ref("buses")]
    bytes: Annotated[int, Meta(ge=0, le=10_000_000)] = 8
    """of data, in each transfer"""
    packet: Annotated[str, Ref("packets", "clear")] = ""
    """the packet that it carries, whose bytes then count"""
    transfers: Annotated[int, Meta(ge=1, le=10_000)] = 1
    """one after the other, each with its own address"""
    every_s: Positive = 0.1
    """least time between two"""
    jitter_s: Amount = 0.0
    """how late it may be handed to the bus"""
    deadline_s: Positive | None = None
    """time that it has; until the next when empty"""
    priority: Rank = 10
    """1 goes first, where the bus knows a priority"""
    identity: Annotated[int, Meta(ge=0, le=0x1FFFFFFF)] | None = None
    """on CAN, where the lowest goes first; by priority when empty"""
    read_by: Annotated[str, Ref("tasks", "clear")] = ""
    """the task that takes it out of the buffer"""


class Eye(Value, frozen=True, kw_only=True):
    """A camera, and what looks through its pictures."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the camera"""
    pixels_wide: Annotated[int, Meta(ge=1, le=100_000)] = 640
    pixels_high: Annotated[int, Meta(ge=1, le=100_000)] = 480
    rate_hz: Positive = 30.0
    """pictures a second that it takes at the most"""
    region: Annotated[float, Meta(gt=0, le=1)] = 1.0
    """share of the picture that is looked through"""
    looks_for: Literal["a colour", "edges and shapes", "learned things"] = "a colour"
    """how it finds what it looks for"""
    operations_hz: Positive = 1e9
    """operations a second of what looks: about 2e7 for a small controller, 1e9 for one core of a small computer"""
    frame_s: Positive | None = None
    """time for one picture, where it was measured"""
    exposure_s: Amount = 0.01
    transfer_s: Amount = 0.01
    """from the camera to what looks"""
    wide_deg: Annotated[float, Meta(ge=0.01, lt=180)] = 60.0
    """how wide it sees"""
    distance_m: Positive | None = None
    """to what it looks for"""
    moves_m_s: Amount | None = None
    """how fast that moves past it, or it past that"""
