"""What must move: loads as frozen values, each with what is asked of it and the part that moves it."""

from typing import Annotated, ClassVar, Literal, get_args

from msgspec import Meta

from wired_union.project.value import Amount, Count, Finite, Name, Positive, Ref, Share, Value, about

Ends = Literal["fixed-free", "supported", "fixed-supported", "fixed"]
Slope = Annotated[float, Meta(ge=-89, le=89)]


class Moved(Value, frozen=True, kw_only=True):
    """What every load to move has."""

    id: Name
    name: Name
    kind: ClassVar[str] = ""
    actuator: Annotated[str, Ref("items", "clear"), about("the part that moves it")] = ""
    ratio: Annotated[Positive, about("further gear, turns of the part's shaft for one of the load")] = 1.0
    mode: Annotated[
        str, Ref("modes", "clear"), about("the mode it moves in; every one that its part works in when empty")
    ] = ""
    motors: Annotated[Count | None, about("copies of the part that move it together; all of them when empty")] = None


class WheelLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="wheels"):
    """Wheels or tracks: slope, rolling, acceleration, a step, speed, grip."""

    kind: ClassVar[str] = "wheels"
    wheel: Annotated[str, Ref("items", "clear"), about("the wheel; its diameter counts")] = ""
    wheels: Annotated[Count, about("wheels that carry the weight")] = 4
    driven_wheels: Annotated[Count, about("wheels that are driven; its motors share them evenly")] = 4
    slope_deg: Annotated[Slope, about("steepest slope to climb")] = 10.0
    usual_slope_deg: Annotated[Slope, about("slope on most of the way; sets what Power counts")] = 0.0
    rolling_resistance: Annotated[Amount, about("rolling resistance, as a share of the weight")] = 0.1
    acceleration_m_s2: Annotated[Amount, about("acceleration on the steepest slope")] = 0.0
    step_m: Annotated[Amount, about("step to climb, one wheel at a time")] = 0.0
    speed_m_s: Annotated[Positive | None, about("speed wanted on the steepest slope")] = None
    friction: Annotated[Positive | None, about("grip of the ground; the wheel's own when empty")] = None


class ArmLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="arm"):
    """An arm on a joint, over a range of angles."""

    kind: ClassVar[str] = "arm"
    payload_kg: Annotated[Amount, about("mass at the end")] = 0.2
    reach_m: Annotated[Positive, about("from the joint to that mass")] = 0.2
    link_mass_kg: Annotated[Amount, about("mass of the arm itself")] = 0.0
    from_deg: Annotated[Finite, about("lowest angle, 0 is level")] = -30.0
    to_deg: Annotated[Finite, about("highest angle")] = 60.0
    speed_rad_s: Annotated[Positive | None, about("speed wanted")] = None
    acceleration_rad_s2: Annotated[Amount, about("acceleration, either way")] = 0.0
    axis: Annotated[Literal["level", "upright"], about("how its joint's axis stands; a turning base's is upright")] = (
        "level"
    )


class DrumLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="drum"):
    """A lift or winch: a load on a drum."""

    kind: ClassVar[str] = "drum"
    payload_kg: Annotated[Positive, about("mass lifted")] = 1.0
    drum_diameter_m: Annotated[Positive, about("diameter the rope runs on")] = 0.03
    speed_m_s: Annotated[Positive | None, about("speed wanted")] = None
    acceleration_m_s2: Annotated[Amount, about("acceleration upwards")] = 0.0


class ScrewLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="screw"):
    """A screw that pushes, by a motor or an actuator with its own screw."""

    kind: ClassVar[str] = "screw"
    force_n: Annotated[Positive, about("most force along the screw")] = 50.0
    usual_force_n: Annotated[Amount | None, about("force on most of the way; sets what Power counts")] = None
    stroke_m: Annotated[Positive, about("travel")] = 0.1
    time_s: Annotated[Positive | None, about("time wanted for one stroke")] = None
    mean_diameter_m: Annotated[Positive, about("mean diameter of the thread")] = 0.007
    lead_m: Annotated[Positive, about("travel of one turn")] = 0.002
    starts: Annotated[Count, about("threads side by side; the pitch is the lead over this")] = 1
    friction: Annotated[Amount, about("friction in the thread")] = 0.15
    collar_friction: Annotated[Amount, about("friction at the collar")] = 0.0
    collar_diameter_m: Annotated[Amount, about("mean diameter of the collar")] = 0.0
    ends: Annotated[Ends, about("how its ends are held")] = "fixed-supported"
    limit_switches: Annotated[bool, about("a switch at each end cuts the motor")] = False
    hand_release: Annotated[bool, about("it can be moved by hand when the power is off")] = False


class SpinLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="spin"):
    """A launcher wheel, roller or kicker: energy comes out of a turning wheel shot by shot."""

    kind: ClassVar[str] = "spin"
    wheel_diameter_m: Annotated[Positive, about("diameter of the wheel")] = 0.08
    inertia_kg_m2: Annotated[Positive, about("inertia of all that turns with it")] = 1e-4
    shot_mass_kg: Annotated[Positive, about("mass of what is thrown")] = 0.05
    release_speed_m_s: Annotated[Positive, about("speed at release wanted, though the wheel slows")] = 6.0
    grip: Annotated[Share, about("speed of what is thrown over the rim's: a half between one wheel and a wall")] = 0.5
    every_s: Annotated[Positive | None, about("time from shot to shot")] = None


class StoredLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="stored"):
    """Energy stored in a spring, an elastic or a tank, and let go at once."""

    kind: ClassVar[str] = "stored"
    store: Annotated[str, Ref("items", "clear"), about("the spring, elastic or tank")] = ""
    mass_kg: Annotated[Positive, about("mass thrown, with a third of the spring's own")] = 0.1
    release_speed_m_s: Annotated[Positive, about("speed at release wanted")] = 5.0
    recharge_s: Annotated[Positive | None, about("time wanted to load it again")] = None
    winding_diameter_m: Annotated[Positive, about("drum that the motor winds it with")] = 0.02
    travel_m: Annotated[Positive | None, about("how far it is loaded; the spring's own travel when empty")] = None
    curve: Annotated[tuple[tuple[Amount, Amount], ...], about("measured travel and force, rising")] = ()
    pressure_pa: Annotated[Positive | None, about("gauge pressure that a tank is set to; its rating when empty")] = None
    bore_m: Annotated[Positive, about("bore of the cylinder behind a tank")] = 0.02
    stroke_m: Annotated[Positive, about("stroke of that cylinder")] = 0.1
    pump_flow_m3_s: Annotated[Positive | None, about("free air that the pump gives a tank")] = None


class SlewLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="slew"):
    """A body turned by a reaction wheel."""

    kind: ClassVar[str] = "slew"
    body_inertia_kg_m2: Annotated[Positive, about("inertia of the body about the axis")] = 0.01
    angle_deg: Annotated[Positive, about("angle to turn")] = 90.0
    time_s: Annotated[Positive, about("time for it, from rest to rest")] = 10.0


class CanopyLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="canopy"):
    """Down under a canopy; `actuator` is the parachute."""

    kind: ClassVar[str] = "canopy"
    mass_kg: Annotated[Positive | None, about("mass that comes down; everything's when empty")] = None
    speed_m_s: Annotated[Positive, about("speed at the ground, at most")] = 5.0
    opening_m: Annotated[Finite, about("height at which it is open, above the sea")] = 300.0
    ground_m: Annotated[Finite, about("height of the ground, above the sea")] = 0.0
    wind_m_s: Annotated[Amount, about("wind on the way down")] = 5.0
    drift_m: Annotated[Positive | None, about("drift, at most")] = None


class FlapLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="flap"):
    """A flap in a stream of air: drag against its weight."""

    kind: ClassVar[str] = "flap"
    mass_kg: Annotated[Positive, about("mass of the flap")] = 0.02
    area_m2: Annotated[Positive, about("area across the stream")] = 0.005
    air_speed_m_s: Annotated[Positive, about("speed of the air")] = 8.0
    drag_coefficient: Annotated[Positive, about("about 1.2 for a flat plate")] = 1.2


AnyLoad = WheelLoad | ArmLoad | DrumLoad | ScrewLoad | SpinLoad | StoredLoad | SlewLoad | CanopyLoad | FlapLoad
LOAD_KINDS: dict[str, type[AnyLoad]] = {k.kind: k for k in get_args(AnyLoad)}


class Mount(Value, frozen=True, kw_only=True):
    """Something that can swing: a mast, a bracket, a plate on its stand-offs."""

    id: Name
    name: Name
    frequency_hz: Annotated[Positive | None, about("natural frequency, measured or worked out elsewhere")] = None
    stiffness_n_per_m: Annotated[Positive | None, about("stiffness, where the frequency is to be worked out")] = None
    mass_kg: Annotated[Positive | None, about("mass that swings")] = None


class Space(Value, frozen=True, kw_only=True):
    """The room there is: every part must pass the gate and fit the box."""

    gate_width_m: Annotated[Positive | None, about("gate to pass: width")] = None
    gate_height_m: Annotated[Positive | None, about("gate to pass: height")] = None
    length_m: Annotated[Positive | None, about("longest any part may be")] = None
    reach_m: Annotated[Positive | None, about("furthest any arm may reach")] = None
