"""A part and its facets as frozen values. SI floats, the unit in the name; None means not known, never zero."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import (
    Amount,
    Celsius,
    Count,
    Efficiency,
    Finite,
    Kept,
    Name,
    Positive,
    Share,
    Value,
    Volts,
)
from wired_union.project.wiring_model import Board, Port


class Load(Value, frozen=True, kw_only=True):
    """What a part draws. Currents are at `rated_v`; `draw` says what stays the same when the voltage moves."""

    supply_min_v: Amount | None = None
    """lowest supply it works from"""
    supply_max_v: Amount | None = None
    """highest supply it survives"""
    rated_v: Volts | None = None
    """supply at which its currents are given"""
    draw: Literal["current", "power", "resistance"] = "current"
    """what stays the same as volts move"""
    sleep_a: Amount | None = None
    """current asleep"""
    idle_a: Amount | None = None
    """current awake but not at work"""
    active_a: Amount | None = None
    """current at work"""
    peak_a: Amount | None = None
    """most current at work, or blocked"""
    startup_a: Amount | None = None
    """current while it starts; a brushed motor's stall current"""
    reset_v: Volts | None = None
    """supply below which it resets or forgets; its lowest supply when empty"""
    inductance_h: Positive | None = None
    """inductance of its coil, which its current has to rise through; at once when empty"""
    clamp_v: Positive | None = None
    """voltage to which its coil is clamped as it is switched off; about 0.7 V with a plain diode"""
    warms_s: Positive | None = None
    """time constant with which it warms from its start-up current to that at work; a hot wire, a lamp"""
    peak_s: Positive | None = None
    """how long its peak lasts at a time; a radio's burst"""


class Motor(Value, frozen=True, kw_only=True):
    """A brushed motor with its gear, at the output shaft."""

    rated_voltage_v: Volts | None = None
    """voltage at which its figures are given"""
    no_load_speed_rad_s: Positive | None = None
    """speed without load"""
    stall_torque_n_m: Positive | None = None
    """torque when blocked"""
    stall_current_a: Positive | None = None
    """current when blocked"""
    no_load_current_a: Amount | None = None
    """current without load"""
    gear_ratio: Positive | None = None
    """turns of the motor for one of the shaft"""
    rotor_inertia_kg_m2: Positive | None = None
    """inertia of the rotor itself"""
    continuous_current_a: Positive | None = None
    """current it carries all day"""
    inductance_h: Positive | None = None
    """inductance of its winding; its current jumps when empty"""


class Stepper(Value, frozen=True, kw_only=True):
    """A two-phase stepper with its gear, at the output shaft. Its driver holds the current of its windings, which is
    not what it takes from the supply: that is in `load`.
    """

    coil_current_a: Positive | None = None
    """rated current of one winding"""
    coil_resistance_ohm: Positive | None = None
    """resistance of one winding"""
    coil_inductance_h: Positive | None = None
    """inductance of one winding"""
    holding_torque_n_m: Positive | None = None
    """torque with both windings held at rated current"""
    full_step_deg: Positive | None = None
    """one full step of the output shaft"""


class Pack(Value, frozen=True, kw_only=True):
    """Cells in series and parallel. A part that is a regulator too is a power bank: it gives what that one makes."""

    chemistry: str
    """lifepo4, li-ion, lipo, nimh, lead-acid, alkaline, lithium-manganese or lithium-primary"""
    series: Count
    """cells in series"""
    parallel: Count = 1
    """strings in parallel"""
    cell_capacity_ah: Positive | None = None
    """capacity of one cell"""
    cell_resistance_ohm: Amount | None = None
    """internal resistance of one cell, at once"""
    cell_slow_ohm: Amount = 0.0
    """further resistance of one cell that comes in within seconds"""
    cell_minutes_ohm: Amount = 0.0
    """further resistance of one cell that comes in within minutes"""
    empty_times: Annotated[float, Meta(ge=1, le=100)] = 1.0
    """times its resistance when it is empty; it rises over the last three tenths of the charge"""
    self_discharge_a_month: Share | None = None
    """share of its charge that it loses by itself in a month"""
    worn: Kept = 0.0
    """share of its capacity that it has lost for good with age; 0 while it is new"""
    max_current_a: Positive | None = None
    """most current the pack may give for long"""
    pulse_current_a: Positive | None = None
    """most current that it may give for a moment"""
    pulse_s: Positive | None = None
    """how long that moment may last"""
    cutoff_cell_v: Positive | None = None
    """cut-off voltage of one cell; its chemistry's when empty"""
    plug: Literal["unsaid", "keyed", "either way"] = "unsaid"
    """whether its plug or holder takes it one way only"""
    measured_at_c: Celsius | None = None
    """temperature that its capacity and resistance were measured at; that of a room when empty"""
    least_load_a: Amount | None = None
    """output current below which a power bank switches itself off; 0 where it stays on"""
    max_charge_a: Positive | None = None
    """most current that the pack may be charged with"""


class Supply(Value, frozen=True, kw_only=True):
    """Gives power without running down: a mains adapter, a USB port, a bench supply, a tether.

    A pack that is fed from one runs on it in the modes in which it is plugged in.
    """

    output_v: Volts
    """voltage it gives without load"""
    max_current_a: Positive | None = None
    """current at which it limits or switches off"""
    resistance_ohm: Amount | None = None
    """how far it sags, its leads included: volts for an ampere"""


class Regulator(Value, frozen=True, kw_only=True):
    """Makes one voltage from another: "linear" passes current, the others power.

    "switching" only steps down, as a linear one does: its input must stay above what it makes. "boost" steps up and
    "buck-boost" either way: what they need at the input is their own.
    """

    topology: Literal["linear", "switching", "boost", "buck-boost"]
    """linear, switching (steps down), boost (steps up) or buck-boost (either)"""
    output_v: Volts
    """voltage it is set to"""
    input_min_v: Amount | None = None
    """lowest input it works from"""
    input_max_v: Positive | None = None
    """highest input it survives"""
    max_current_a: Positive | None = None
    """most output current"""
    dropout_v: Amount | None = None
    """least input above output"""
    quiescent_a: Amount | None = None
    """current it uses itself"""
    efficiency_curve: tuple[tuple[Amount, Efficiency], ...] = ()
    """points of output current and efficiency, rising"""
    curve_input_v: Volts | None = None
    """input voltage at which the curve is measured; it serves for all where there is no second"""
    second_efficiency_curve: tuple[tuple[Amount, Efficiency], ...] = ()
    """the same at another input voltage"""
    second_curve_input_v: Volts | None = None
    """input voltage at which the second is measured"""
    thermal_resistance_k_per_w: Amount | None = None
    """junction to air, as usually mounted"""
    limiting: Literal["hiccup", "constant", "foldback"] = "hiccup"
    """what it does above its most output current: switch off, let its voltage fall until no more flows, or the less the
    lower it falls"""
    folds_to_a: Amount = 0.0
    """current that one which folds back still gives into a short circuit"""
    start_v: Amount | None = None
    """input from which it starts; its lowest input when empty"""

    @property
    def only_steps_down(self) -> bool:
        """Whether its input must stay above what it makes.

        A "switching" one whose highest input is below its output can only be one that steps up.
        """
        rises = self.input_max_v is not None and self.input_max_v <= self.output_v
        return self.topology == "linear" or (self.topology == "switching" and not rises)

    @property
    def least_input_v(self) -> float:
        """Lowest input from which it makes its voltage; without its dropout, the least that this can be."""
        lowest = self.input_min_v or 0.0
        return max(lowest, self.output_v + (self.dropout_v or 0.0)) if self.only_steps_down else lowest

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

    channels: Count
    """outputs of one driver"""
    channel_current_a: Positive | None = None
    """most current of one channel"""
    total_current_a: Positive | None = None
    """most current of all channels together"""
    input_min_v: Amount | None = None
    """lowest supply it works from"""
    input_max_v: Positive | None = None
    """highest supply it survives"""
    quiescent_a: Amount | None = None
    """current it uses itself"""
    on_resistance_ohm: Amount | None = None
    """resistance of one switched-on channel"""
    current_limit_a: Amount = 0.0
    """current that it holds a channel to; 0 where it does not limit"""
    soft_start_s: Amount = 0.0
    """time over which it opens a channel from nothing to full; 0 where it switches at once"""
    made_for: Literal["any load", "brushed motors", "steppers"] = "any load"
    """what it is made to drive"""


class Rail(Value, frozen=True, kw_only=True):
    """Passes power on: a bus bar, switch or fuse. A part of the class "fuse" is fused as a whole whatever it says."""

    max_current_a: Positive | None = None
    """most current through it; a fuse's rating"""
    resistance_ohm: Amount = 0.0
    """resistance from one side to the other: of contacts, of a transistor"""
    drop_v: Amount = 0.0
    """voltage that it keeps for itself whatever flows: a diode's"""
    fused: Literal["no", "whole", "each way"] = "no"
    """no, whole (it opens above its rating) or each way (a fuse chosen for every wire out of it)"""


class Link(Value, frozen=True, kw_only=True):
    """How a part talks to the controller."""

    bus: str | None = None
    """I2C, SPI, UART, PWM, analogue, digital, USB, CSI, CAN"""
    logic_v: Positive | None = None
    """voltage of its signals"""
    logic_max_v: Positive | None = None
    """highest signal it survives; its logic voltage when empty"""
    pins: Annotated[int, Meta(ge=0)] | None = None
    """controller pins it uses"""


class Shifter(Value, frozen=True, kw_only=True):
    """Passes signals between two voltages, either way or one."""

    channels: Count
    """signals of one"""
    low_v: Positive | None = None
    """voltage of one side"""
    high_v: Positive | None = None
    """voltage of the other side"""
    passes: Literal["either way", "to the low side", "to the high side"] = "either way"
    """which way signals pass; those that flow the other way go straight"""


class Sense(Value, frozen=True, kw_only=True):
    """What a sensor tells, and how well."""

    quantity: Name
    """what it measures: force, angle, pressure, distance, sound, light …"""
    unit: str = ""
    """unit of its range and error"""
    range_min: Finite | None = None
    """least it can tell, in its unit"""
    range_max: Finite | None = None
    """most it can tell, in its unit"""
    error: Amount | None = None
    """largest error over the range, in its unit"""
    rate_hz: Positive | None = None
    """readings in a second at most"""


class Thrust(Value, frozen=True, kw_only=True):
    """What pushes or pulls in a line: a screw actuator, a solenoid."""

    stroke_m: Positive | None = None
    """how far it travels"""
    max_force_n: Positive | None = None
    """most force; a solenoid's when closed"""
    open_force_n: Positive | None = None
    """force of a solenoid at its whole stroke, where it is weakest"""
    rise_time_s: Amount | None = None
    """time until the current of a solenoid stands"""
    no_load_speed_m_s: Positive | None = None
    """speed without load"""


class Wheel(Value, frozen=True, kw_only=True):
    """A wheel or a track's pulley."""

    diameter_m: Positive
    """diameter over the tread"""
    width_m: Positive | None = None
    """width of the tread"""
    friction: Amount | None = None
    """grip on a hard dry floor"""


class Spring(Value, frozen=True, kw_only=True):
    """A spring or an elastic: from the force it starts with to what its stiffness adds over its travel, by its law."""

    stiffness_n_per_m: Positive
    """force for each metre of travel"""
    travel_m: Positive
    """travel it is made for"""
    law: Literal["straight", "gas", "rubber"] = "straight"
    """how its force rises on the way: straight (steel, constant force), gas or rubber"""
    free_length_m: Positive | None = None
    """length of an elastic before it is stretched"""
    efficiency: Efficiency = 0.9
    """share of its energy it gives back"""
    preload_n: Amount = 0.0
    """force at the start of its travel: a gas or constant-force spring's, or an elastic's that is stretched already"""


class Tank(Value, frozen=True, kw_only=True):
    """A small tank of compressed air."""

    volume_m3: Positive
    """what it holds"""
    max_pressure_pa: Positive
    """highest gauge pressure it is made for"""


class Flywheel(Value, frozen=True, kw_only=True):
    """A reaction wheel: turns itself one way to turn the body the other."""

    inertia_kg_m2: Positive
    """inertia of the wheel"""
    max_speed_rad_s: Positive
    """highest speed"""
    max_torque_n_m: Positive
    """most torque"""


class Canopy(Value, frozen=True, kw_only=True):
    """A parachute."""

    diameter_m: Positive
    """diameter laid out flat"""
    drag_coefficient: Positive
    """drag coefficient by that diameter's area"""


class Panel(Value, frozen=True, kw_only=True):
    """A solar panel in full sun (1000 W/m², 25 °C)."""

    peak_power_w: Positive
    """most power in full sun"""
    peak_power_v: Positive
    """voltage at most power"""


class Part(Value, frozen=True, kw_only=True):
    """One part, of the catalogue or the team's own. Facets say what it does in the power tree."""

    id: Name
    name: Name
    kind: Name
    mass_kg: Amount | None = None
    """mass of one"""
    price: Amount | None = None
    """price of one"""
    length_m: Amount | None = None
    """longest side"""
    width_m: Amount | None = None
    """middle side"""
    height_m: Amount | None = None
    """shortest side"""
    temperature_min_c: Celsius | None = None
    """coldest it works at"""
    temperature_max_c: Celsius | None = None
    """hottest it works at"""
    stored_energy_j: Amount | None = None
    """energy it holds when loaded, such as a spring's"""
    delivery_days: Amount | None = None
    """days from the order to the bench"""
    note: str = ""
    """what else to know"""
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
    board: Board | None = None
    """the pins of a controller"""
    port: Port | None = None
    """the signals it needs, beyond its link"""
