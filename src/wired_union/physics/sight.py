"""What a sensor sees: spots and pixels on what it looks at, the band of ground in its view, beams side by side."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require


class FieldOfView(Struct, frozen=True):
    width_m: float
    height_m: float
    pixel_m: float | None


@method(
    "field-of-view",
    source="pinhole, 2·d·tan(angle/2)",
    checked="values worked by hand",
    limits="a flat target square to the view; no lens distortion",
)
def field_of_view(distance_m: float, wide_deg: float, high_deg: float, pixels_wide: float = 0.0) -> FieldOfView:
    """How much of a target a sensor sees at a distance.

    Args:
        distance_m: from the sensor to the target
        wide_deg: whole angle from side to side
        high_deg: whole angle from top to bottom
        pixels_wide: pixels from side to side, 0 for a sensor that sees one spot
    Returns:
        width_m: width of the picture, or spot, on the target
        height_m: its height
        pixel_m: size of one pixel there; none for one spot
    Raises:
        ValueError: a distance below zero, or an angle that is not between 0° and 180°.
    """
    require(distance_m >= 0 and pixels_wide >= 0, "distance and pixels are 0 or more")
    require(0 < wide_deg < 180 and 0 < high_deg < 180, "angles are above 0° and below 180°")
    wide, high = (2 * distance_m * math.tan(math.radians(a) / 2) for a in (wide_deg, high_deg))
    return FieldOfView(wide, high, wide / pixels_wide if pixels_wide else None)


class GroundBand(Struct, frozen=True):
    near_m: float | None
    far_m: float | None


@method(
    "ground-band",
    source="plane geometry, h / tan(angle below level)",
    checked="values worked by hand",
    limits="flat, level ground",
)
def ground_band(height_m: float, pitch_deg: float, high_deg: float) -> GroundBand:
    """The band of flat ground that a sensor sees in front of it.

    Args:
        height_m: of the sensor over the ground
        pitch_deg: how far it looks up, below 0 down
        high_deg: whole angle from top to bottom
    Returns:
        near_m: where the band begins, in front of the sensor; below 0 is behind it; none where it sees no ground
        far_m: where it ends; none where it reaches the horizon
    Raises:
        ValueError: a height that is not above zero, or an angle that is not between 0° and 180°.
    """
    require(height_m > 0, "the sensor is above the ground")
    require(0 < high_deg < 180, "the angle is above 0° and below 180°")
    low, top = pitch_deg - high_deg / 2, pitch_deg + high_deg / 2
    if low >= 0:
        return GroundBand(None, None)
    return GroundBand(_ground_at(height_m, low), _ground_at(height_m, top) if top < 0 else None)


def _ground_at(height_m: float, up_deg: float) -> float:
    """Where a line that looks down meets the ground; beyond straight down it is behind."""
    return -height_m / math.tan(math.radians(max(up_deg, -179.999)))


class BeamGrid(Struct, frozen=True):
    surely_seen_m: float
    tolerance_deg: float


@method(
    "beam-grid",
    source="plane geometry: pitch + beam for what surely breaks one whole; (receiver − beam)/2 over the way",
    checked="a thing slid through the beams, step by step",
    limits="parallel beams; a beam counts as broken when all of it is covered",
)
def beam_grid(pitch_m: float, beam_m: float, across_m: float, receiver_m: float) -> BeamGrid:
    """Smallest thing that a row of beams surely notices, and how well each must be aimed.

    Args:
        pitch_m: from beam to beam
        beam_m: thickness of a beam
        across_m: from sender to receiver
        receiver_m: width of what receives a beam
    Returns:
        surely_seen_m: width from which a thing breaks a beam wherever it is
        tolerance_deg: how far a sender may point beside its receiver
    Raises:
        ValueError: a length that is not above zero, or a receiver narrower than its beam.
    """
    require(min(pitch_m, beam_m, across_m) > 0, "pitch, beam and way are above 0")
    require(receiver_m >= beam_m, "the receiver is as wide as its beam, or wider")
    return BeamGrid(pitch_m + beam_m, math.degrees(math.atan((receiver_m - beam_m) / 2 / across_m)))
