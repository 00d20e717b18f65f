"""What must move: loads as frozen values, each with what is asked of it and the part that moves it."""

from typing import Annotated, Literal

from pydantic import Field

from wired_union.project.part_model import Amount, Count, Finite, Name, Positive, Share, Value

Ends = Literal["fixed-free", "supported", "fixed-supported", "fixed"]
Slope = Annotated[float, Field(gt=-90, lt=90)]


class Moved(Value):
    """What every load to move has."""

    id: Name
    name: Name
    actuator: str = Field("", description="the part that moves it")
    ratio: Positive = Field(1.0, description="further gear, turns of the part's shaft for one of the load")


class WheelLoad(Moved):
    """Wheels or tracks: slope, rolling, acceleration, a step, speed, grip."""

    kind: Literal["wheels"] = "wheels"
    wheel: str = Field("", description="the wheel; its diameter counts")
    wheels: Count = Field(4, description="wheels that carry the weight")
    driven_wheels: Count = Field(4, description="wheels that are driven, each by a motor")
    slope_deg: Slope = Field(10.0, description="steepest slope to climb")
    usual_slope_deg: Slope = Field(0.0, description="slope on most of the way; sets what Power counts")
    rolling_resistance: Amount = Field(0.1, description="rolling resistance, as a share of the weight")
    acceleration_m_s2: Amount = Field(0.0, description="acceleration on the steepest slope")
    step_m: Amount = Field(0.0, description="step to climb, one wheel at a time")
    speed_m_s: Positive | None = Field(None, description="speed wanted on the steepest slope")
    friction: Positive | None = Field(None, description="grip of the ground; the wheel's own when empty")


class ArmLoad(Moved):
    """An arm on a joint, over a range of angles."""

    kind: Literal["arm"] = "arm"
    payload_kg: Amount = Field(0.2, description="mass at the end")
    reach_m: Positive = Field(0.2, description="from the joint to that mass")
    link_mass_kg: Amount = Field(0.0, description="mass of the arm itself")
    from_deg: Finite = Field(-30.0, description="lowest angle, 0 is level")
    to_deg: Finite = Field(60.0, description="highest angle")
    speed_rad_s: Positive | None = Field(None, description="speed wanted")
    acceleration_rad_s2: Amount = Field(0.0, description="acceleration upwards")


class DrumLoad(Moved):
    """A lift or winch: a load on a drum."""

    kind: Literal["drum"] = "drum"
    payload_kg: Positive = Field(1.0, description="mass lifted")
    drum_diameter_m: Positive = Field(0.03, description="diameter the rope runs on")
    speed_m_s: Positive | None = Field(None, description="speed wanted")
    acceleration_m_s2: Amount = Field(0.0, description="acceleration upwards")


class ScrewLoad(Moved):
    """A screw that pushes, by a motor or an actuator with its own screw."""

    kind: Literal["screw"] = "screw"
    force_n: Positive = Field(50.0, description="most force along the screw")
    usual_force_n: Amount | None = Field(None, description="force on most of the way; sets what Power counts")
    stroke_m: Positive = Field(0.1, description="travel")
    time_s: Positive | None = Field(None, description="time wanted for one stroke")
    mean_diameter_m: Positive = Field(0.007, description="mean diameter of the thread")
    lead_m: Positive = Field(0.002, description="travel of one turn")
    friction: Amount = Field(0.15, description="friction in the thread")
    collar_friction: Amount = Field(0.0, description="friction at the collar")
    collar_diameter_m: Amount = Field(0.0, description="mean diameter of the collar")
    ends: Ends = Field("fixed-supported", description="how its ends are held")
    limit_switches: bool = Field(False, description="a switch at each end cuts the motor")
    hand_release: bool = Field(False, description="it can be moved by hand when the power is off")


class SpinLoad(Moved):
    """A launcher wheel, roller or kicker: energy comes out of a turning wheel shot by shot."""

    kind: Literal["spin"] = "spin"
    wheel_diameter_m: Positive = Field(0.08, description="diameter of the wheel")
    inertia_kg_m2: Positive = Field(1e-4, description="inertia of all that turns with it")
    shot_mass_kg: Positive = Field(0.05, description="mass of what is thrown")
    release_speed_m_s: Positive = Field(6.0, description="speed at release wanted")
    grip: Share = Field(0.5, description="speed of what is thrown over the rim's: a half between one wheel and a wall")
    every_s: Positive | None = Field(None, description="time from shot to shot")


class StoredLoad(Moved):
    """Energy stored in a spring, an elastic or a tank, and let go at once."""

    kind: Literal["stored"] = "stored"
    store: str = Field("", description="the spring, elastic or tank")
    mass_kg: Positive = Field(0.1, description="mass thrown, with a third of the spring's own")
    release_speed_m_s: Positive = Field(5.0, description="speed at release wanted")
    recharge_s: Positive | None = Field(None, description="time wanted to load it again")
    winding_diameter_m: Positive = Field(0.02, description="drum that the motor winds it with")
    travel_m: Positive | None = Field(None, description="how far it is loaded; the spring's own travel when empty")
    curve: tuple[tuple[Amount, Amount], ...] = Field((), description="measured travel and force, rising")
    bore_m: Positive = Field(0.02, description="bore of the cylinder behind a tank")
    stroke_m: Positive = Field(0.1, description="stroke of that cylinder")
    pump_flow_m3_s: Positive | None = Field(None, description="free air that the pump gives a tank")


class SlewLoad(Moved):
    """A body turned by a reaction wheel."""

    kind: Literal["slew"] = "slew"
    body_inertia_kg_m2: Positive = Field(0.01, description="inertia of the body about the axis")
    angle_deg: Positive = Field(90.0, description="angle to turn")
    time_s: Positive = Field(10.0, description="time for it, from rest to rest")


class CanopyLoad(Moved):
    """Down under a canopy; `actuator` is the parachute."""

    kind: Literal["canopy"] = "canopy"
    mass_kg: Positive | None = Field(None, description="mass that comes down; everything's when empty")
    speed_m_s: Positive = Field(5.0, description="speed at the ground, at most")
    opening_m: Finite = Field(300.0, description="height at which it is open, above the sea")
    ground_m: Finite = Field(0.0, description="height of the ground, above the sea")
    wind_m_s: Amount = Field(5.0, description="wind on the way down")
    drift_m: Positive | None = Field(None, description="drift, at most")


class FlapLoad(Moved):
    """A flap in a stream of air: drag against its weight."""

    kind: Literal["flap"] = "flap"
    mass_kg: Positive = Field(0.02, description="mass of the flap")
    area_m2: Positive = Field(0.005, description="area across the stream")
    air_speed_m_s: Positive = Field(8.0, description="speed of the air")
    drag_coefficient: Positive = Field(1.2, description="about 1.2 for a flat plate")


AnyLoad = WheelLoad | ArmLoad | DrumLoad | ScrewLoad | SpinLoad | StoredLoad | SlewLoad | CanopyLoad | FlapLoad
MovedLoad = Annotated[AnyLoad, Field(discriminator="kind")]


class Mount(Value):
    """Something that can swing: a mast, a bracket, a plate on its stand-offs."""

    id: Name
    name: Name
    frequency_hz: Positive | None = Field(None, description="natural frequency, measured or worked out elsewhere")
    stiffness_n_per_m: Positive | None = Field(None, description="stiffness, where the frequency is to be worked out")
    mass_kg: Positive | None = Field(None, description="mass that swings")


class Space(Value):
    """The room there is: every part must pass the gate and fit the box."""

    gate_width_m: Positive | None = Field(None, description="gate to pass: width")
    gate_height_m: Positive | None = Field(None, description="gate to pass: height")
    length_m: Positive | None = Field(None, description="longest any part may be")
    reach_m: Positive | None = Field(None, description="furthest any arm may reach")
