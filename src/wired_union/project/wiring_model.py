"""How parts are joined: pins of controllers, signals of parts, cables, and what people hand each other."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Celsius, Count, Name, Positive, Ref, Share, Value, Volts

Ability = Literal["plain", "interrupt", "PWM", "analogue", "I2C", "SPI", "UART", "CAN", "USB", "camera port"]
"""What a pin can do. A USB or camera port is a socket, not a pin."""
ABILITIES: tuple[Ability, ...] = (
    "plain", "interrupt", "PWM", "analogue", "I2C", "SPI", "UART", "CAN", "USB", "camera port",
)  # fmt: skip
SHARED: tuple[Ability, ...] = ("I2C", "SPI", "CAN")
"""What several parts share: one instance serves them all."""
SOCKETS: tuple[Ability, ...] = ("USB", "camera port")
Word = Annotated[str, Meta(max_length=40)]
Does = tuple[Ability, Word, Word]
"""What it can do, of which instance (a timer, a bus, a converter, an interrupt line), and which part of that."""
Flow = Literal["to the part", "from the part", "both"]
AtStart = Literal["free", "must be high", "must be low"]
Pulls = Literal["not known", "nothing", "high", "low"]
Family = Literal["", "CMOS", "TTL", "open drain", "contact"]


class Pin(Value, frozen=True, kw_only=True):
    """One tooth of a controller."""

    name: Name
    does: tuple[Does, ...] = ()
    """what it can do, of which instance, and which part of that"""
    at_start: AtStart = "free"
    """level that it must have while the controller starts"""
    max_v: Positive | None = None
    """highest signal it survives; the board's when empty"""
    max_current_a: Positive | None = None
    """most current it gives or takes"""


class Board(Value, frozen=True, kw_only=True):
    """The pins of a controller, a computer or an expander."""

    pins: tuple[Pin, ...] = ()
    analogue_bits: Annotated[int, Meta(ge=1, le=32)] | None = None
    """bits of its converter"""
    total_current_a: Positive | None = None
    """most current of all its pins together"""
    family: Family = "CMOS"
    """which thresholds its pins keep, where none are given"""
    input_high_v: Positive | None = None
    """read as high from here"""
    input_low_v: Amount | None = None
    """read as low up to here"""
    output_high_v: Positive | None = None
    """a high is at least this"""
    output_low_v: Amount | None = None
    """a low is at most this"""


class Line(Value, frozen=True, kw_only=True):
    """One signal that a part needs."""

    name: Name
    does: Ability = "plain"
    role: Word = ""
    """which line of a bus it is: clock, data, out, in"""
    flows: Flow = "both"
    frequency_hz: Positive | None = None
    """of a PWM whose timer may run at nothing else"""
    current_a: Amount | None = None
    """that it takes from the pin"""
    pulls: Pulls = "not known"
    """what the part does to the line while the controller starts"""
    upper_ohm: Positive | None = None
    """upper resistor of a divider before the controller's pin"""
    lower_ohm: Positive | None = None
    """lower resistor of that"""
    common: bool = False
    """whether copies of the part may share its pin: a reset, the select of parts in a chain"""


class Port(Value, frozen=True, kw_only=True):
    """What a part's signals are like, beyond its link."""

    lines: tuple[Line, ...] = ()
    """the signals it needs; by its bus and its pins when empty"""
    addresses: tuple[Annotated[int, Meta(ge=0, le=1023)], ...] = ()
    """addresses it can answer to on I²C, the one it is sold with first; a strap or a command moves it"""
    family: Family = ""
    """which thresholds its signals keep, where none are given"""
    input_high_v: Positive | None = None
    """read as high from here"""
    input_low_v: Amount | None = None
    """read as low up to here"""
    output_high_v: Positive | None = None
    """a high is at least this"""
    output_low_v: Amount | None = None
    """a low is at most this"""
    pull_up_ohm: Positive | None = None
    """resistors on it that pull its I²C lines up"""
    capacitance_f: Amount = 10e-12
    """of one of its pins"""
    clock_hz: Positive | None = None
    """fastest clock of its bus"""


class OwnLine(Value, frozen=True, kw_only=True):
    """A signal of the team's own that no part carries: a lamp, a button, a divider at the pack."""

    id: Name
    name: Name
    does: Ability = "plain"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part at its far end"""
    board: Annotated[str, Ref("items", "clear")] = ""
    """the controller it must be on; any when empty"""
    flows: Flow = "from the part"
    frequency_hz: Positive | None = None
    """of a PWM whose timer may run at nothing else"""
    current_a: Amount | None = None
    """that it takes from the pin"""
    high_v: Volts | None = None
    """highest voltage on it, where it flows to the controller"""
    upper_ohm: Positive | None = None
    """upper resistor of a divider before the pin"""
    lower_ohm: Positive | None = None
    """lower resistor of that"""
    pulls: Pulls = "not known"
    """what is done to it while the controller starts"""


class Join(Value, frozen=True, kw_only=True):
    """Two controllers that talk to each other."""

    id: Name
    name: Name
    one: Annotated[str, Ref("items", "clear")] = ""
    """the controller that leads"""
    other: Annotated[str, Ref("items", "clear")] = ""
    """the controller that follows"""
    by: Literal["UART", "I2C", "SPI", "CAN", "USB"] = "UART"
    """how they talk"""
    bus: Annotated[str, Ref("buses", "clear")] = ""
    """the bus of Timing whose messages cross"""


class Thread(Value, frozen=True, kw_only=True):
    """One signal on one pin. Of a part's line, an own line, or one end of a join."""

    item: Annotated[str, Ref("items")] = ""
    """the part whose line it is"""
    own: Annotated[str, Ref("own_lines")] = ""
    """the own line that it is"""
    join: Annotated[str, Ref("joins")] = ""
    """the join that it belongs to"""
    copy: Count = 1
    """which copy of the part"""
    line: Word = ""
    """which of its lines"""
    board: Annotated[Name, Ref("items")]
    """the controller it ends at"""
    pin: Name
    """the pin it ends at"""
    kept: bool = False
    """whether it stays there when the pins are solved"""


class Reach(Value, frozen=True, kw_only=True):
    """What a cable reaches."""

    item: Annotated[Name, Ref("items")]


class Cable(Value, frozen=True, kw_only=True):
    """Wires that lie together, from one part to one or several others."""

    id: Name
    name: Name
    start: Annotated[str, Ref("items", "clear")] = ""
    """the part it starts from"""
    reaches: tuple[Reach, ...] = ()
    """what it goes to"""
    length_m: Amount | None = None
    """from end to end; by places and slack when empty, 0 where one is plugged into the other"""
    slack: Annotated[float, Meta(ge=0, le=10)] = 0.15
    """share that bends and slack add to the way along, across and up"""
    count: Count | None = None
    """how many alike; one for each copy of what it reaches when empty"""
    awg: Annotated[int, Meta(ge=-3, le=40)] | None = None
    """gauge of its wires"""
    wires: Annotated[int, Meta(ge=1, le=200)] | None = None
    """how many wires; as many as its signals and feeds need when empty"""
    bundle: Word = ""
    """what it is tied together with: a name"""
    connector: Word = ""
    """plugs at its ends: none, or what kind"""
    ways: Annotated[int, Meta(ge=0, le=200)] | None = None
    """contacts of a plug; 0 where it is soldered or screwed"""
    contact_a: Positive | None = None
    """what one contact bears"""
    latched: Literal["not said", "yes", "no"] = "not said"
    """whether a plug locks"""
    relieved: Literal["not said", "yes", "no"] = "not said"
    """whether its ends are held so that nothing pulls at a joint"""
    passes: Literal["nothing that moves", "a wheel", "a hinge", "a slide"] = "nothing that moves"
    """what moves beside it"""
    bend_m: Amount | None = None
    """tightest radius it is bent to where it moves"""
    thick_m: Positive | None = None
    """over its sheath; by its wires when empty"""
    screened: bool = False
    """whether a screen lies around it"""
    suppressed: bool = False
    """whether capacitors sit at the brushes of its motor"""
    mass_kg: Amount | None = None
    """weighed; by its copper and its insulation when empty"""
    price: Amount | None = None
    """of all that it is made from"""
    capacitance_f_per_m: Amount = 60e-12
    """between a signal wire and what lies beside it, a metre"""
    insulation_c: Celsius = 105.0
    """that its insulation bears"""
    sold: Literal["not said", "sold as it is", "made by us", "made for us"] = "not said"
    made_by: str = ""
    """who makes it"""
    made_from: str = ""
    """what it is made from"""
    tested_how: str = ""
    """how it is tested before it goes in"""


class Agreed(Value, frozen=True, kw_only=True):
    """What both sides agreed on, as it stood then."""

    gives: str = ""
    takes: str = ""
    unit: str = ""
    rate_hz: Amount | None = None
    carried: str = ""
    """what the packet, message or chain that it is looked like then"""
    on: str = ""
    """when they agreed"""


class Interface(Value, frozen=True, kw_only=True):
    """What one person's part hands to another's."""

    id: Name
    name: Name
    kind: Literal["signal", "message", "mechanical face"] = "signal"
    one: Annotated[str, Ref("items", "clear")] = ""
    """the part that gives"""
    other: Annotated[str, Ref("items", "clear")] = ""
    """the part that takes"""
    owner_one: str = ""
    """who answers for what gives"""
    owner_other: str = ""
    """who answers for what takes"""
    gives: str = ""
    """what is given, in words or figures"""
    takes: str = ""
    """what the other side counts on"""
    unit: str = ""
    rate_hz: Amount | None = None
    """how often"""
    packet: Annotated[str, Ref("packets", "clear")] = ""
    """the packet that it is"""
    message: Annotated[str, Ref("messages", "clear")] = ""
    """the message that it is"""
    chain: Annotated[str, Ref("chains", "clear")] = ""
    """the chain of Timing that it is part of"""
    agreed: Agreed | None = None
    """what both sides agreed on"""
    built_one: bool = False
    """whether the side that gives is built"""
    built_other: bool = False
    """whether the side that takes is built"""
    tried_on: str = ""
    """when it was tried together"""


class Control(Value, frozen=True, kw_only=True):
    """What the operator moves or presses, and what it does."""

    id: Name
    name: Name
    scheme: Word = ""
    """which way to steer it belongs to, where there are two"""
    input: Word = ""
    """which stick, key or button"""
    does: str = ""
    """what it does"""
    state: Annotated[str, Ref("states", "clear")] = ""
    """the state in which it does; any when empty"""


class Wiring(Value, frozen=True, kw_only=True):
    """What is wanted of all wires."""

    most_drop: Share = 0.03
    """share of a rail that a wire may lose: 3 %, common practice"""
    pull_up_ohm: Positive | None = None
    """resistors put on every I²C bus besides those on its parts"""
