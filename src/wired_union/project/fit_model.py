"""What must fit and what must be seen: clearances, stacks, sights and rows of beams as frozen values."""

from typing import Annotated, Literal

from msgspec import Meta

from wired_union.project.value import Amount, Count, Finite, Name, Positive, Ref, Value

Angle = Annotated[float, Meta(gt=0, lt=180)]
Heading = Annotated[float, Meta(ge=-360, le=360)]
Side = Literal["front", "back", "left", "right", "above", "below"]
Fills = Literal["its box", "open inside", "spread about"]
Access = Literal["a hand", "a plug", "a screwdriver", "a cable's bend"]


class Clearance(Value, frozen=True, kw_only=True):
    """Room that must stay free before one side of a part."""

    id: Name
    item: Annotated[Name, Ref("items")]
    side: Side = "above"
    """side of the part, as it lies at its place"""
    access: Access = "a hand"
    """what must get there"""
    depth_m: Positive | None = None
    """how far out the room must be free; as usual for what must get there when empty"""


class Layer(Value, frozen=True, kw_only=True):
    """One layer of a stack, all copies of it above each other."""

    item: Annotated[Name, Ref("items")]
    copies: Count = 1
    """copies above each other"""
    spacer_m: Amount = 0.0
    """spacer above each of them"""


class Stack(Value, frozen=True, kw_only=True):
    """Boards, packs or plates above each other, in the open or in a tube."""

    id: Name
    name: Name
    layers: tuple[Layer, ...] = ()
    """from below"""
    high_m: Positive | None = None
    """height that there is"""
    tube_m: Positive | None = None
    """inner diameter of the tube that it goes into"""


class Sight(Value, frozen=True, kw_only=True):
    """What a sensor looks at: from its place, in a direction, as far as it sees."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the sensor; its first copy's place counts, turned and tilted as it is"""
    yaw_deg: Heading = 0.0
    """how far to the left of the part's own front it looks"""
    pitch_deg: Heading = 0.0
    """how far up it looks, below 0 down"""
    wide_deg: Angle = 60.0
    """whole angle of its view from side to side"""
    high_deg: Angle = 40.0
    """whole angle from top to bottom"""
    least_m: Amount | None = None
    """nearest that it sees anything"""
    most_m: Positive | None = None
    """furthest that it sees anything"""
    pixels_wide: Count | None = None
    """pixels from side to side; none for a sensor that sees one spot"""
    pixels_needed: Positive = 3.0
    """pixels across a thing that finding it takes: 2 to 5, common practice"""
    from_m: Amount = 0.3
    """where it must begin to find things"""
    to_m: Positive = 1.2
    """where it may stop to"""
    sweep_deg: Annotated[float, Meta(ge=0, le=360)] = 0.0
    """angle that a servo sweeps it over, from the middle of one view to the middle of the other"""
    sweep_s: Positive | None = None
    """time of one sweep"""
    readings_per_s: Positive | None = None
    """readings, or pictures, a second"""


class Beams(Value, frozen=True, kw_only=True):
    """A row of light beams, each from a sender to its receiver."""

    id: Name
    name: Name
    beams: Count = 4
    """how many"""
    pitch_m: Positive = 0.02
    """from beam to beam"""
    beam_m: Positive = 0.003
    """thickness of a beam"""
    lowest_m: Finite = 0.01
    """height of the lowest one over what things lie on"""
    across_m: Positive = 0.2
    """from sender to receiver"""
    receiver_m: Positive = 0.005
    """width of what receives a beam"""
    smallest_m: Positive | None = None
    """smallest thing that must not slip through"""
    aimed_deg: Positive | None = None
    """how well the senders are aimed"""
    upright_m: Positive | None = None
    """height of a thing that stands"""
    flat_m: Positive | None = None
    """height of the same thing when it lies"""
