"""Looking through pictures: how long one takes, how old what it says is, what a pixel is at the target."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require

WORK = {"a colour": 30.0, "edges and shapes": 300.0, "learned things": 10_000.0}
"""Operations for each pixel: common practice, from memory; measure your own."""


class Pictures(Struct, frozen=True):
    each_s: float
    per_s: float
    youngest_s: float
    oldest_s: float


class Pixel(Struct, frozen=True):
    pixel_m: float
    moved_m: float
    moved_pixels: float


@method(
    "picture-age",
    source="pixels times operations over operations a second; what happened right after a picture waits for the next",
    checked="a camera run picture by picture",
    limits="one picture at a time; a new one is taken as soon as the last was looked through, and not before its turn",
)
def picture_age(
    pixels: float, operations_per_pixel: float, operations_hz: float, rate_hz: float, exposure_s: float,
    transfer_s: float,
) -> Pictures:  # fmt: skip
    """How many pictures a second are looked through, and how old what is known is.

    Args:
        pixels: that are looked through of each picture
        operations_per_pixel: for each of them
        operations_hz: operations a second of what looks
        rate_hz: pictures a second that the camera takes at the most
        exposure_s: of each picture
        transfer_s: from the camera to what looks
    Returns:
        each_s: time to look through one
        per_s: pictures a second that are looked through
        youngest_s: from what happens to when it is known, right before a picture
        oldest_s: the same right after one
    Raises:
        ValueError: a figure that is not above zero, or a time below zero.
    """
    require(min(pixels, operations_per_pixel, operations_hz, rate_hz) > 0, "pixels, operations and rate are above 0")
    require(exposure_s >= 0 and transfer_s >= 0, "times are 0 or more")
    each = pixels * operations_per_pixel / operations_hz
    period = 1 / rate_hz
    turn = max(period, math.ceil((exposure_s + transfer_s + each) / period - 1e-9) * period)
    youngest = exposure_s + transfer_s + each
    return Pictures(each, 1 / turn, youngest, turn + youngest)


@method(
    "pixel-at-target",
    source="2·d·tan(w/2) over the pixels across",
    checked="values worked by hand",
    limits="straight ahead, no distortion",
)
def pixel_at_target(distance_m: float, wide_deg: float, pixels_wide: int, moves_m_s: float, per_s: float) -> Pixel:
    """What a pixel is at the target, and how far that moves between two pictures.

    Args:
        distance_m: to the target
        wide_deg: how wide the camera sees
        pixels_wide: pixels across
        moves_m_s: how fast the target moves across
        per_s: pictures a second
    Returns:
        pixel_m: width of a pixel there
        moved_m: between two pictures
        moved_pixels: the same in pixels
    Raises:
        ValueError: a figure that is not above zero, or a view of 180 degrees and more.
    """
    require(distance_m > 0 and 1e-6 <= wide_deg < 180 and pixels_wide > 0 and per_s > 0, "figures are above 0, the view"
            " below 180°")  # fmt: skip
    require(moves_m_s >= 0, "the speed is 0 or more")
    pixel = 2 * distance_m * math.tan(math.radians(wide_deg) / 2) / pixels_wide
    return Pixel(pixel, moves_m_s / per_s, moves_m_s / per_s / pixel)
