"""Control loops: what is controlled, by what, on what its sensor shows."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Finite, Name, Positive, Ref, Value

Plant = Literal[
    "first order", "integrator with lag", "motor speed", "motor position", "heading", "two motors in step",
    "over an inner loop",
]  # fmt: skip
Control = Literal["PID", "state feedback", "on and off"]


class Loop(Value, frozen=True, kw_only=True):
    """Something that is measured, compared and corrected again and again."""

    id: Name
    name: Name
    plant: Plant = "first order"
    """what is controlled; a motor's follows from Motion"""
    load: Annotated[str, Ref("loads", "clear")] = ""
    """the load whose motor it is"""
    inside: Annotated[str, Ref("control_loops", "clear")] = ""
    """the quicker loop that it commands: it holds what that one moves, summed up"""
    plant_gain: Positive | None = None
    """what comes out for one of what goes in; of an integrator in a second"""
    time_constant_s: Positive | None = None
    """how slowly it follows; of a motor from its winding, its load and its inertia when empty"""
    inertia_kg_m2: Positive | None = None
    """of all that a motor's output shaft turns; of wheels from the mass of everything when empty"""
    track_m: Positive | None = None
    """from the left wheels to the right ones, of a heading"""
    apart: Annotated[float, Meta(ge=0, le=1)] = 0.1
    """share by which two motors differ at the same voltage: common practice, a tenth"""
    controller: Control = "PID"
    """how it corrects"""
    control_gain: Positive = 1.0
    """what it gives for an error of one"""
    integral_s: Positive | None = None
    """integral time of its I part; none when empty"""
    derivative_s: Positive | None = None
    """derivative time of its D part; none when empty"""
    filter_s: Positive | None = None
    """of its D part; a tenth of that time when empty"""
    speed_gain: Amount = 0.0
    """of a state feedback, what it gives against how fast it moves"""
    band: Amount = 0.0
    """within which an on-off controller does not switch"""
    predicts_s: Amount = 0.0
    """how far ahead it predicts what it sees, by what it gave meanwhile"""
    model_off: Annotated[float, Meta(gt=-1, le=10)] = 0.0
    """share by which the gain that it predicts with is off"""
    sample_s: Positive = 0.02
    """how often the controller runs"""
    chain: Annotated[str, Ref("chains", "clear")] = ""
    """the signal chain from what is measured to what is done: its worst time is the delay"""
    dead_s: Amount = 0.0
    """delay besides"""
    most: Positive | None = None
    """the most that the controller can give"""
    least: Finite | None = None
    """the least that it can give; as much the other way when empty"""
    step: Positive = 1.0
    """the step that is looked at, in what is measured"""
    noise: Amount = 0.0
    """of what is measured, effective"""
    quantum: Amount = 0.0
    """step in which it is measured"""
    backlash: Amount = 0.0
    """play before what is measured"""
    sees: Positive | None = None
    """the most that is measured, either way"""
    swings: Positive | None = None
    """how far it may go on swinging, from end to end"""
    turns_rad_s: Positive | None = None
    """how fast it turns while it aims"""
