"""A part and its facets as frozen values. SI floats, the unit in the name; None means not known, never zero."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import (
    Amount,
    Celsius,
    Count,
    Efficiency,
    Finite,
    Name,
    Positive,
    Value,
    Volts,
    about,
)


class Load(Value, frozen=True, kw_only=True):
    """What a part draws. Currents are at `rated_v`; `draw` says what stays the same when the voltage moves."""

    supply_min_v: Annotated[Amount | None, about("lowest supply it works from")] = None
    supply_max_v: Annotated[Amount | None, about("highest supply it survives")] = None
    rated_v: Annotated[Volts | None, about("supply at which its currents are given")] = None
    draw: Annotated[Literal["current", "power", "resistance"], about("what stays the same as volts move")] = "current"
    sleep_a: Annotated[Amount | None, about("current asleep")] = None
    idle_a: Annotated[Amount | None, about("current awake but not at work")] = None
    active_a: Annotated[Amount | None, about("current at work")] = None
    peak_a: Annotated[Amount | None, about("most current at work, or blocked")] = None
    startup_a: Annotated[Amount | None, about("current while it starts; a brushed motor's stall current")] = None


class Motor(Value, frozen=True, kw_only=True):
    """A brushed motor with its gear, at the output shaft."""

    rated_voltage_v: Annotated[Volts | None, about("voltage at which its figures are given")] = None
    no_load_speed_rad_s: Annotated[Positive | None, about("speed without load")] = None
    stall_torque_n_m: Annotated[Positive | None, about("torque when blocked")] = None
    stall_current_a: Annotated[Positive | None, about("current when blocked")] = None
    no_load_current_a: Annotated[Amount | None, about("current without load")] = None
    gear_ratio: Annotated[Positive | None, about("turns of the motor for one of the shaft")] = None
    rotor_inertia_kg_m2: Annotated[Positive | None, about("inertia of the rotor itself")] = None
    continuous_current_a: Annotated[Positive | None, about("current it carries all day")] = None


class Stepper(Value, frozen=True, kw_only=True):
    """A two-phase stepper with its gear, at the output shaft. Its driver holds the current of its windings, which is
    not what it takes from the supply: that is in `load`.
    """

    coil_current_a: Annotated[Positive | None, about("rated current of one winding")] = None
    coil_resistance_ohm: Annotated[Positive | None, about("resistance of one winding")] = None
    coil_inductance_h: Annotated[Positive | None, about("inductance of one winding")] = None
    holding_torque_n_m: Annotated[Positive | None, about("torque with both windings held at rated current")] = None
    full_step_deg: Annotated[Positive | None, about("one full step of the output shaft")] = None


class Pack(Value, frozen=True, kw_only=True):
    """Cells in series and parallel. A part that is a regulator too is a power bank: it gives what that one makes."""

    chemistry: Annotated[
        str, about("lifepo4, li-ion, lipo, nimh, lead-acid, alkaline, lithium-manganese or lithium-primary")
    ]
    series: Annotated[Count, about("cells in series")]
    parallel: Annotated[Count, about("strings in parallel")] = 1
    cell_capacity_ah: Annotated[Positive | None, about("capacity of one cell")] = None
    cell_resistance_ohm: Annotated[Amount | None, about("internal resistance of one cell")] = None
    max_current_a: Annotated[Positive | None, about("most current the pack may give for long")] = None
    cutoff_cell_v: Annotated[Positive | None, about("cut-off voltage of one cell; its chemistry's when empty")] = None
    least_load_a: Annotated[
        Amount | None, about("output current below which a power bank switches itself off; 0 where it stays on")
    ] = None


class Supply(Value, frozen=True, kw_only=True):
    """Gives power without running down: a mains adapter, a USB port, a bench supply, a tether.

    A pack that is fed from one runs on it in the modes in which it is plugged in.
    """

    output_v: Annotated[Volts, about("voltage it gives without load")]
    max_current_a: Annotated[Positive | None, about("current at which it limits or switches off")] = None
    resistance_ohm: Annotated[Amount, about("how far it sags, its leads included: volts for an ampere")] = 0.0


class Regulator(Value, frozen=True, kw_only=True):
    """Makes one voltage from another: "linear" passes current, the others power.

    "switching" only steps down, as a linear one does: its input must stay above what it makes. "boost" steps up and
    "buck-boost" either way: what they need at the input is their own.
    """

    topology: Annotated[
        Literal["linear", "switching", "boost", "buck-boost"],
        about("linear, switching (steps down), boost (steps up) or buck-boost (either)"),
    ]
    output_v: Annotated[Volts, about("voltage it is set to")]
    input_min_v: Annotated[Amount | None, about("lowest input it works from")] = None
    input_max_v: Annotated[Positive | None, about("highest input it survives")] = None
    max_current_a: Annotated[Positive | None, about("most output current")] = None
    dropout_v: Annotated[Amount, about("least input above output")] = 0.0
    quiescent_a: Annotated[Amount, about("current it uses itself")] = 0.0
    efficiency_curve: Annotated[
        tuple[tuple[Amount, Efficiency], ...], about("points of output current and efficiency, rising")
    ] = ()
    thermal_resistance_k_per_w: Annotated[Amount | None, about("junction to air, as usually mounted")] = None

    @property
    def least_input_v(self) -> float:
        """Lowest input from which it makes its voltage.

        A "switching" one whose highest input is below its output can only be one that steps up.
        """
        lowest = self.input_min_v or 0.0
        rises = self.input_max_v is not None and self.input_max_v <= self.output_v
        if self.topology in {"boost", "buck-boost"} or (self.topology == "switching" and rises):
            return lowest
        return max(lowest, self.output_v + self.dropout_v)

    @property
    def most_input_v(self) -> float | None:
        """Highest input that it may get: what it survives, and for one that only steps up what it makes."""
        if self.topology != "boost":
            return self.input_max_v
        return self.output_v if self.input_max_v is None else min(self.input_max_v, self.output_v)

    @property
    def passes_power(self) -> bool:
        """Whether its input takes the power that it gives, rather than the current."""
        return self.topology != "linear"


class Driver(Value, frozen=True, kw_only=True):
    """Switches power to motors or other loads, channel by channel."""

    channels: Annotated[Count, about("outputs of one driver")]
    channel_current_a: Annotated[Positive | None, about("most current of one channel")] = None
    total_current_a: Annotated[Positive | None, about("most current of all channels together")] = None
    input_min_v: Annotated[Amount | None, about("lowest supply it works from")] = None
    input_max_v: Annotated[Positive | None, about("highest supply it survives")] = None
    quiescent_a: Annotated[Amount, about("current it uses itself")] = 0.0
    on_resistance_ohm: Annotated[Amount, about("resistance of one switched-on channel")] = 0.0
    current_limit_a: Annotated[Amount, about("current that it holds a channel to; 0 where it does not limit")] = 0.0


class Rail(Value, frozen=True, kw_only=True):
    """Passes power on: a bus bar, switch or fuse. A part of the class "fuse" is fused as a whole whatever it says."""

    max_current_a: Annotated[Positive | None, about("most current through it; a fuse's rating")] = None
    fused: Annotated[
        Literal["no", "whole", "each way"],
        about("no, whole (it opens above its rating) or each way (a fuse chosen for every wire out of it)"),
    ] = "no"


class Link(Value, frozen=True, kw_only=True):
    """How a part talks to the controller."""

    bus: Annotated[str | None, about("I2C, SPI, UART, PWM, analogue, digital, USB, CSI, CAN")] = None
    logic_v: Annotated[Positive | None, about("voltage of its signals")] = None
    logic_max_v: Annotated[Positive | None, about("highest signal it survives; its logic voltage when empty")] = None
    pins: Annotated[Annotated[int, Meta(ge=0)] | None, about("controller pins it uses")] = None


class Shifter(Value, frozen=True, kw_only=True):
    """Passes signals between two voltages, either way."""

    channels: Annotated[Count, about("signals of one")]
    low_v: Annotated[Positive | None, about("voltage of one side")] = None
    high_v: Annotated[Positive | None, about("voltage of the other side")] = None


class Sense(Value, frozen=True, kw_only=True):
    """What a sensor tells, and how well."""

    quantity: Annotated[Name, about("what it measures: force, angle, pressure, distance, sound, light …")]
    unit: Annotated[str, about("unit of its range and error")] = ""
    range_min: Annotated[Finite | None, about("least it can tell, in its unit")] = None
    range_max: Annotated[Finite | None, about("most it can tell, in its unit")] = None
    error: Annotated[Amount | None, about("largest error over the range, in its unit")] = None
    rate_hz: Annotated[Positive | None, about("readings in a second at most")] = None


class Thrust(Value, frozen=True, kw_only=True):
    """What pushes or pulls in a line: a screw actuator, a solenoid."""

    stroke_m: Annotated[Positive | None, about("how far it travels")] = None
    max_force_n: Annotated[Positive | None, about("most force; a solenoid's when closed")] = None
    open_force_n: Annotated[Positive | None, about("force of a solenoid at its whole stroke, where it is weakest")] = (
        None
    )
    rise_time_s: Annotated[Amount | None, about("time until the current of a solenoid stands")] = None
    no_load_speed_m_s: Annotated[Positive | None, about("speed without load")] = None


class Wheel(Value, frozen=True, kw_only=True):
    """A wheel or a track's pulley."""

    diameter_m: Annotated[Positive, about("diameter over the tread")]
    width_m: Annotated[Positive | None, about("width of the tread")] = None
    friction: Annotated[Amount | None, about("grip on a hard dry floor")] = None


class Spring(Value, frozen=True, kw_only=True):
    """A spring or an elastic, linear over its travel from the force it starts with."""

    stiffness_n_per_m: Annotated[Positive, about("force for each metre of travel")]
    travel_m: Annotated[Positive, about("travel it is made for")]
    efficiency: Annotated[Efficiency, about("share of its energy it gives back")] = 0.9
    preload_n: Annotated[Amount, about("force at the start of its travel: a gas or constant-force spring's")] = 0.0


class Tank(Value, frozen=True, kw_only=True):
    """A small tank of compressed air."""

    volume_m3: Annotated[Positive, about("what it holds")]
    max_pressure_pa: Annotated[Positive, about("highest gauge pressure it is made for")]


class Flywheel(Value, frozen=True, kw_only=True):
    """A reaction wheel: turns itself one way to turn the body the other."""

    inertia_kg_m2: Annotated[Positive, about("inertia of the wheel")]
    max_speed_rad_s: Annotated[Positive, about("highest speed")]
    max_torque_n_m: Annotated[Positive, about("most torque")]


class Canopy(Value, frozen=True, kw_only=True):
    """A parachute."""

    diameter_m: Annotated[Positive, about("diameter laid out flat")]
    drag_coefficient: Annotated[Positive, about("drag coefficient by that diameter's area")]


class Panel(Value, frozen=True, kw_only=True):
    """A solar panel in full sun (1000 W/m², 25 °C)."""

    peak_power_w: Annotated[Positive, about("most power in full sun")]
    peak_power_v: Annotated[Positive, about("voltage at most power")]


class Part(Value, frozen=True, kw_only=True):
    """One part, of the catalogue or the team's own. Facets say what it does in the power tree."""

    id: Name
    name: Name
    kind: Name
    mass_kg: Annotated[Amount | None, about("mass of one")] = None
    price: Annotated[Amount | None, about("price of one")] = None
    length_m: Annotated[Amount | None, about("longest side")] = None
    width_m: Annotated[Amount | None, about("middle side")] = None
    height_m: Annotated[Amount | None, about("shortest side")] = None
    temperature_min_c: Annotated[Celsius | None, about("coldest it works at")] = None
    temperature_max_c: Annotated[Celsius | None, about("hottest it works at")] = None
    stored_energy_j: Annotated[Amount | None, about("energy it holds when loaded, such as a spring's")] = None
    delivery_days: Annotated[Amount | None, about("days from the order to the bench")] = None
    note: Annotated[str, about("what else to know")] = ""
    load: Load | None = None
    motor: Motor | None = None
    stepper: Stepper | None = None
    pack: Pack | None = None
    supply: Supply | None = None
    regulator: Regulator | None = None
    driver: Driver | None = None
    rail: Rail | None = None
    link: Link | None = None
    shifter: Shifter | None = None
    sense: Sense | None = None
    thrust: Thrust | None = None
    wheel: Wheel | None = None
    spring: Spring | None = None
    tank: Tank | None = None
    flywheel: Flywheel | None = None
    canopy: Canopy | None = None
    panel: Panel | None = None
