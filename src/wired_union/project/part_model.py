"""A part and its facets as frozen values. SI floats, the unit in the name; None means not known, never zero."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Amount = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1)]
Count = Annotated[int, Field(ge=1, le=10_000)]
Name = Annotated[str, Field(min_length=1, max_length=120)]


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
    rotor_inertia_kg_m2: Positive | None = Field(None, description="inertia of the rotor itself")
    continuous_current_a: Positive | None = Field(None, description="current it carries all day")


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


class Sense(Value):
    """What a sensor tells, and how well."""

    quantity: Name = Field(description="what it measures: force, angle, pressure, distance, sound, light …")
    unit: str = Field("", description="unit of its range and error")
    range_min: Finite | None = Field(None, description="least it can tell, in its unit")
    range_max: Finite | None = Field(None, description="most it can tell, in its unit")
    error: Amount | None = Field(None, description="largest error over the range, in its unit")
    rate_hz: Positive | None = Field(None, description="readings in a second at most")


class Thrust(Value):
    """What pushes or pulls in a line: a screw actuator, a solenoid."""

    stroke_m: Positive | None = Field(None, description="how far it travels")
    max_force_n: Positive | None = Field(None, description="most force")
    no_load_speed_m_s: Positive | None = Field(None, description="speed without load")


class Wheel(Value):
    """A wheel or a track's pulley."""

    diameter_m: Positive = Field(description="diameter over the tread")
    width_m: Positive | None = Field(None, description="width of the tread")
    friction: Amount | None = Field(None, description="grip on a hard dry floor")


class Spring(Value):
    """A spring or an elastic, linear over its travel."""

    stiffness_n_per_m: Positive = Field(description="force for each metre of travel")
    travel_m: Positive = Field(description="travel it is made for")
    efficiency: Annotated[float, Field(gt=0, le=1)] = Field(0.9, description="share of its energy it gives back")


class Tank(Value):
    """A small tank of compressed air."""

    volume_m3: Positive = Field(description="what it holds")
    max_pressure_pa: Positive = Field(description="highest gauge pressure it is made for")


class Flywheel(Value):
    """A reaction wheel: turns itself one way to turn the body the other."""

    inertia_kg_m2: Positive = Field(description="inertia of the wheel")
    max_speed_rad_s: Positive = Field(description="highest speed")
    max_torque_n_m: Positive = Field(description="most torque")


class Canopy(Value):
    """A parachute."""

    diameter_m: Positive = Field(description="diameter laid out flat")
    drag_coefficient: Positive = Field(description="drag coefficient by that diameter's area")


class Panel(Value):
    """A solar panel in full sun (1000 W/m², 25 °C)."""

    peak_power_w: Positive = Field(description="most power in full sun")
    peak_power_v: Positive = Field(description="voltage at most power")


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
    delivery_days: Amount | None = Field(None, description="days from the order to the bench")
    note: str = Field("", description="what else to know")
    load: Load | None = None
    motor: Motor | None = None
    pack: Pack | None = None
    regulator: Regulator | None = None
    driver: Driver | None = None
    rail: Rail | None = None
    link: Link | None = None
    sense: Sense | None = None
    thrust: Thrust | None = None
    wheel: Wheel | None = None
    spring: Spring | None = None
    tank: Tank | None = None
    flywheel: Flywheel | None = None
    canopy: Canopy | None = None
    panel: Panel | None = None
