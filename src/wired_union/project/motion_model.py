"""What must move: loads as frozen values, each with what is asked of it and the part that moves it."""

from typing import Annotated, ClassVar, Literal, get_args

from msgspec import Meta

from wired_union.project.value import Amount, Count, Efficiency, Finite, Name, Positive, Ref, Share, Value

Ends = Literal["fixed-free", "supported", "fixed-supported", "fixed"]
DrivenAxle = Literal["any", "front", "rear"]
Slope = Annotated[float, Meta(ge=-89, le=89)]
Slewed = Annotated[float, Meta(ge=-720, le=720)]


class Moved(Value, frozen=True, kw_only=True):
    """What every load to move has."""

    id: Name
    name: Name
    kind: ClassVar[str] = ""
    actuator: Annotated[str, Ref("items", "clear")] = ""
    """the part that moves it"""
    ratio: Positive = 1.0
    """further gear or belt, turns of the part's shaft for one of the load"""
    gear_efficiency: Efficiency | None = None
    """share of the power that this further gear or belt passes on: about 0.95 for spur gears or a toothed belt"""
    mode: Annotated[str, Ref("modes", "clear")] = ""
    """the mode it moves in; every one that its part works in when empty"""
    motors: Count | None = None
    """copies of the part that move it together; all of them when empty"""

    @property
    def torque_ratio(self) -> float:
        """Torque at the load for one at the part's shaft, less what the further gear loses."""
        return self.ratio * (self.gear_efficiency or 1.0)


class WheelLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="wheels"):
    """Wheels or tracks: slope, rolling, acceleration, a step, speed, grip."""

    kind: ClassVar[str] = "wheels"
    wheel: Annotated[str, Ref("items", "clear")] = ""
    """the wheel; its diameter counts"""
    wheels: Count = 4
    """wheels that carry the weight"""
    driven_wheels: Count = 4
    """wheels that are driven; its motors share them evenly"""
    driven_axle: DrivenAxle = "any"
    """axle of the driven ones, where not all are; with any, the one that does worse counts"""
    slope_deg: Slope = 10.0
    """steepest slope to climb"""
    usual_slope_deg: Slope = 0.0
    """slope on most of the way; sets what Power counts"""
    rolling_resistance: Amount = 0.1
    """rolling resistance, as a share of the weight"""
    acceleration_m_s2: Amount = 0.0
    """acceleration on the steepest slope"""
    step_m: Amount = 0.0
    """step to climb, one wheel at a time"""
    clearance_m: Amount | None = None
    """height of its belly over the floor; as places and sizes of all parts say when empty"""
    speed_m_s: Positive | None = None
    """speed wanted on the steepest slope"""
    friction: Positive | None = None
    """grip of the ground that it runs on; a wheel's own is that on a hard dry floor"""
    turns_on_spot: bool = False
    """whether it turns on the spot, its wheels dragged sideways"""
    rolls_on: Literal["grippy wheels", "roller wheels", "casters at one end"] = "grippy wheels"
    """what is dragged sideways as it turns: wheels that grip, wheels of rollers, or nothing but casters that swivel"""
    sideways_friction: Amount | None = None
    """friction of a wheel that is dragged sideways, where it was measured"""


class ArmLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="arm"):
    """An arm on a joint, over a range of angles."""

    kind: ClassVar[str] = "arm"
    payload_kg: Amount = 0.2
    """mass at the end"""
    reach_m: Positive = 0.2
    """from the joint to that mass"""
    link_mass_kg: Amount = 0.0
    """mass of the arm itself"""
    from_deg: Finite = -30.0
    """lowest angle, 0 is level"""
    to_deg: Finite = 60.0
    """highest angle"""
    speed_rad_s: Positive | None = None
    """speed wanted"""
    acceleration_rad_s2: Amount = 0.0
    """acceleration, either way"""
    axis: Literal["level", "upright"] = "level"
    """how its joint's axis stands; a turning base's is upright"""


class JointLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="joint"):
    """One joint of an arm of several, with the link that it moves; other joints may sit on its end."""

    kind: ClassVar[str] = "joint"
    turns: Literal["pitch", "yaw", "roll", "slide"] = "pitch"
    """how it moves its link: up and down, about the upright, about the link, or along it"""
    on: Annotated[str, Ref("loads", "clear")] = ""
    """the joint that it sits on the end of; the body when empty"""
    from_deg: Slewed = -30.0
    """lowest angle to the link it sits on; 0 is straight on, and level on the body"""
    to_deg: Slewed = 60.0
    """highest angle"""
    travel_m: Amount = 0.1
    """how far it slides out"""
    link_m: Amount = 0.2
    """length of the link"""
    link: Annotated[str, Ref("items", "clear")] = ""
    """the part that the link is; one copy's mass counts, spread evenly"""
    link_mass_kg: Amount | None = None
    """mass of the link, where it is no part; 0 for none"""
    payload_kg: Amount = 0.0
    """mass at the end of the link, besides the joints that sit there and their motors"""
    counter: Annotated[str, Ref("items", "clear")] = ""
    """the part that balances it behind the joint"""
    counter_m: Amount = 0.05
    """how far behind the joint that part is"""
    spring_n_m: Amount = 0.0
    """torque by which a spring lifts it, alike at every angle"""
    spring_n: Amount = 0.0
    """force by which a spring lifts a slide"""
    pinion_m: Positive = 0.02
    """diameter of the pinion or drum that slides it"""
    speed_rad_s: Positive | None = None
    """speed wanted"""
    acceleration_rad_s2: Amount = 0.0
    """acceleration, either way"""
    speed_m_s: Positive | None = None
    """speed wanted of a slide"""
    acceleration_m_s2: Amount = 0.0
    """acceleration of a slide, either way"""


class SwingLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="swing"):
    """A pendulum or a leg that is swung to and fro, as fast as it likes or faster."""

    kind: ClassVar[str] = "swing"
    mass_kg: Positive = 0.2
    """mass that swings"""
    centre_m: Positive = 0.1
    """from the joint to its centre of mass"""
    inertia_kg_m2: Positive | None = None
    """about the joint; as an even rod of twice that length when empty"""
    amplitude_deg: Annotated[float, Meta(gt=0, lt=180)] = 30.0
    """how far it swings to either side of hanging down"""
    period_s: Positive | None = None
    """time to and fro that is wanted; its own when empty"""


class GripLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="grip"):
    """A gripper that holds by friction."""

    kind: ClassVar[str] = "grip"
    held_kg: Positive = 0.1
    """mass of what it holds"""
    friction: Positive = 0.5
    """friction between finger and what it holds"""
    acceleration_m_s2: Amount = 2.0
    """how fast it is lifted or swung besides"""
    factor: Annotated[float, Meta(ge=1, le=100)] = 2.0
    """how many times the least force it grips with"""
    fingers: Count = 2
    """fingers that press"""
    opening_m: Positive = 0.05
    """how far each finger goes"""
    advance_m: Positive = 0.1
    """how far each finger goes for one turn: of a screw its lead, of a lever or pinion π times its diameter"""
    efficiency: Efficiency = 0.7
    """share of the work that reaches the fingers: about 0.3 for a plain screw, 0.8 for levers"""
    most_force_n: Positive | None = None
    """force of a finger that would crush what it holds"""
    time_s: Positive | None = None
    """time wanted to close"""


class IntakeLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="intake"):
    """A roller or belt that draws pieces in, squeezed against a wall or ramp."""

    kind: ClassVar[str] = "intake"
    roller_m: Positive = 0.04
    """diameter of the roller"""
    squeeze_n: Positive = 5.0
    """force that presses roller and piece together"""
    friction: Positive = 0.8
    """friction of the roller on a piece"""
    ramp_friction: Amount = 0.3
    """friction of a piece on the wall or ramp behind it"""
    ramp_deg: Slope = 20.0
    """how steep the ramp is"""
    piece_kg: Positive = 0.05
    """mass of a piece"""
    pieces_at_once: Count = 1
    """pieces under the roller at the same time"""
    pieces_per_s: Positive | None = None
    """pieces a second that are wanted"""
    piece_m: Positive = 0.06
    """length of a piece along its way"""
    rolls: bool = False
    """whether a piece rolls along the wall, and so goes half as fast as the roller's rim"""
    least_m_s: Positive | None = None
    """speed below which it does not lift them"""
    most_m_s: Positive | None = None
    """speed above which it throws them"""


class DrumLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="drum"):
    """A lift or winch: a load on a drum."""

    kind: ClassVar[str] = "drum"
    payload_kg: Positive = 1.0
    """mass lifted"""
    drum_diameter_m: Positive = 0.03
    """diameter the rope runs on"""
    speed_m_s: Positive | None = None
    """speed wanted"""
    acceleration_m_s2: Amount = 0.0
    """acceleration upwards"""


class ScrewLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="screw"):
    """A screw that pushes, by a motor or an actuator with its own screw."""

    kind: ClassVar[str] = "screw"
    force_n: Positive = 50.0
    """most force along the screw"""
    usual_force_n: Amount | None = None
    """force on most of the way; sets what Power counts"""
    stroke_m: Positive = 0.1
    """travel"""
    time_s: Positive | None = None
    """time wanted for one stroke"""
    mean_diameter_m: Positive = 0.007
    """mean diameter of the thread"""
    lead_m: Positive = 0.002
    """travel of one turn"""
    starts: Count = 1
    """threads side by side; the pitch is the lead over this"""
    friction: Amount = 0.15
    """friction in the thread"""
    collar_friction: Amount = 0.0
    """friction at the collar"""
    collar_diameter_m: Amount = 0.0
    """mean diameter of the collar"""
    ends: Ends = "fixed-supported"
    """how its ends are held"""
    limit_switches: bool = False
    """a switch at each end cuts the motor"""
    hand_release: bool = False
    """it can be moved by hand when the power is off"""


class SpinLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="spin"):
    """A launcher wheel, roller or kicker: energy comes out of a turning wheel shot by shot."""

    kind: ClassVar[str] = "spin"
    wheel_diameter_m: Positive = 0.08
    """diameter of the wheel"""
    inertia_kg_m2: Positive = 1e-4
    """inertia of all that turns with it"""
    shot_mass_kg: Positive = 0.05
    """mass of what is thrown"""
    release_speed_m_s: Positive = 6.0
    """speed at release wanted, though the wheel slows"""
    grip: Share = 0.5
    """speed of what is thrown over the rim's: a half between one wheel and a wall"""
    every_s: Positive | None = None
    """time from shot to shot"""


class StoredLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="stored"):
    """Energy stored in a spring, an elastic or a tank, and let go at once."""

    kind: ClassVar[str] = "stored"
    store: Annotated[str, Ref("items", "clear")] = ""
    """the spring, elastic or tank"""
    mass_kg: Positive = 0.1
    """mass thrown, with a third of the spring's own"""
    release_speed_m_s: Positive = 5.0
    """speed at release wanted"""
    recharge_s: Positive | None = None
    """time wanted to load it again"""
    winding_diameter_m: Positive = 0.02
    """drum that the motor winds it with"""
    travel_m: Positive | None = None
    """how far it is loaded; the spring's own travel when empty"""
    curve: tuple[tuple[Amount, Amount], ...] = ()
    """measured travel and force, rising"""
    pressure_pa: Positive | None = None
    """gauge pressure that a tank is set to; its rating when empty"""
    bore_m: Positive = 0.02
    """bore of the cylinder behind a tank"""
    stroke_m: Positive = 0.1
    """stroke of that cylinder"""
    valve_share: Efficiency | None = None
    """share of the air's energy that valve and pipe let through; 0.4 to 0.7 is usual, a trial shot tells"""
    pump_flow_m3_s: Positive | None = None
    """free air that the pump gives a tank"""


class SlewLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="slew"):
    """A body turned by a reaction wheel."""

    kind: ClassVar[str] = "slew"
    body_inertia_kg_m2: Positive = 0.01
    """inertia of the body about the axis"""
    angle_deg: Positive = 90.0
    """angle to turn"""
    time_s: Positive = 10.0
    """time for it, from rest to rest"""


class CanopyLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="canopy"):
    """Down under a canopy; `actuator` is the parachute."""

    kind: ClassVar[str] = "canopy"
    mass_kg: Positive | None = None
    """mass that comes down; everything's when empty"""
    speed_m_s: Positive = 5.0
    """speed at the ground, at most"""
    opening_m: Finite = 300.0
    """height at which it is open, above the sea"""
    ground_m: Finite = 0.0
    """height of the ground, above the sea"""
    wind_m_s: Amount = 5.0
    """wind on the way down"""
    drift_m: Positive | None = None
    """drift, at most"""
    opening_speed_m_s: Positive | None = None
    """speed at which it opens"""
    opening_factor: Annotated[float, Meta(ge=1, le=3)] = 1.8
    """how much more it pulls while it opens than when it is open: 1.8 flat round, 1.4 cross, 1.1 reefed"""
    most_shock_n: Positive | None = None
    """pull at which lines or mounts give way"""


class FlapLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="flap"):
    """A flap in a stream of air: drag against its weight."""

    kind: ClassVar[str] = "flap"
    mass_kg: Positive = 0.02
    """mass of the flap, where it is no part"""
    flap: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is; one copy's mass counts"""
    area_m2: Positive = 0.005
    """area across the stream"""
    air_speed_m_s: Positive = 8.0
    """speed of the air"""
    drag_coefficient: Positive = 1.2
    """about 1.2 for a flat plate"""


class FloatLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="float"):
    """The machine on the water: how deep it lies, and whether it rights itself."""

    kind: ClassVar[str] = "float"
    length_m: Positive = 0.5
    """length of the hull, forward"""
    width_m: Positive = 0.3
    """width of the hull"""
    height_m: Positive = 0.15
    """height of the hull"""
    fullness: Annotated[float, Meta(ge=0.1, le=1)] = 1.0
    """share of that box that the hull fills"""
    bottom_m: Finite = 0.0
    """where its underside is, in the machine's frame"""
    middle_x_m: Finite = 0.0
    """where its middle is, forward in the machine's frame"""
    middle_y_m: Finite = 0.0
    """where its middle is, to the left in the machine's frame"""
    water_kg_m3: Annotated[float, Meta(ge=500, le=2000)] = 1000.0
    """density of the water; 1025 for the sea"""
    freeboard_m: Amount = 0.02
    """hull that must stay above the water"""
    righting_m: Positive = 0.01
    """how far its metacentre must be above its centre of mass"""
    most_lean_deg: Annotated[float, Meta(gt=0, lt=90)] | None = None
    """how far it may lean, since its centre of mass is beside its middle"""


class SteadyLoad(Moved, frozen=True, kw_only=True, tag_field="kind", tag="steady"):
    """A body in air or water that turns the right way up, or into the stream, by itself."""

    kind: ClassVar[str] = "steady"
    acts: Literal["buoyancy", "drag as it falls", "stream from ahead"] = "buoyancy"
    """what turns it: water that lifts it, air that it falls through, a stream against its front"""
    pressure_x_m: Finite = 0.0
    """where that acts, forward"""
    pressure_y_m: Finite = 0.0
    """where that acts, to the left"""
    pressure_z_m: Finite = 0.0
    """where that acts, up"""
    righting_m: Positive = 0.01
    """how far that must be above, or behind, its centre of mass"""
    most_lean_deg: Annotated[float, Meta(gt=0, lt=90)] | None = None
    """how far it may hang askew, since its centre of mass is beside it"""


AnyLoad = (
    WheelLoad
    | ArmLoad
    | JointLoad
    | SwingLoad
    | GripLoad
    | IntakeLoad
    | DrumLoad
    | ScrewLoad
    | SpinLoad
    | StoredLoad
    | SlewLoad
    | CanopyLoad
    | FlapLoad
    | FloatLoad
    | SteadyLoad
)
LOAD_KINDS: dict[str, type[AnyLoad]] = {k.kind: k for k in get_args(AnyLoad)}


class Mount(Value, frozen=True, kw_only=True):
    """Something that can swing: a mast, a bracket, a plate on its stand-offs."""

    id: Name
    name: Name
    frequency_hz: Positive | None = None
    """natural frequency, measured or worked out elsewhere"""
    stiffness_n_per_m: Positive | None = None
    """stiffness, where the frequency is to be worked out"""
    mass_kg: Positive | None = None
    """mass that swings"""


class Space(Value, frozen=True, kw_only=True):
    """The room there is: every part must pass the gate and fit the box."""

    gate_width_m: Positive | None = None
    """gate to pass: width"""
    gate_height_m: Positive | None = None
    """gate to pass: height"""
    length_m: Positive | None = None
    """longest any part may be"""
    reach_m: Positive | None = None
    """furthest any arm may reach"""
