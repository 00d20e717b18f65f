"""A hole and what goes into it, each as truly as its way of making gives it."""

from msgspec import Struct

from wired_union.physics.method import method, require


class Made(Struct, frozen=True):
    """How a size comes out: by how much larger a hole and a shaft do, and how far each may be off, plus or minus."""

    hole_larger_m: float
    shaft_larger_m: float
    off_m: float


MADE = {
    "printed": Made(-0.2e-3, 0.05e-3, 0.15e-3),
    "printed and drilled": Made(0.05e-3, 0.05e-3, 0.05e-3),
    "cut by laser": Made(0.1e-3, -0.1e-3, 0.1e-3),
    "drilled": Made(0.05e-3, 0.0, 0.05e-3),
    "milled or turned": Made(0.0, 0.0, 0.03e-3),
    "bought": Made(0.0, 0.0, 0.02e-3),
}
"""Common practice: of desktop printers with a 0.4 mm nozzle, of sheet some millimetres thick."""

BANDS_M = {
    "press": (-0.15e-3, 0.05e-3),
    "snug": (0.0, 0.2e-3),
    "sliding": (0.1e-3, 0.5e-3),
    "loose": (0.3e-3, 1.2e-3),
}
"""Clearance on the diameter, least and most, of parts of a few to some tens of millimetres: common practice."""


class MadeFit(Struct, frozen=True):
    least_m: float
    most_m: float


@method(
    "made-fit",
    source="hole less shaft, both as they come out; common practice",
    checked="ten thousand pairs drawn by numpy",
    limits="round, straight, clean; a first pair of your own printer tells more",
)
def made_fit(hole_m: float, shaft_m: float, hole_made: str, shaft_made: str) -> MadeFit:
    """Clearance between a hole and what goes into it, least and most; below 0 it must be pressed in.

    Args:
        hole_m: diameter of the hole, as drawn
        shaft_m: diameter of what goes in, as drawn
        hole_made: how the hole is made: printed, printed and drilled, cut by laser, drilled, milled or turned, bought
        shaft_made: how what goes in is made; likewise
    Returns:
        least_m: when the hole is as small and the shaft as large as they may come out
        most_m: the other way round
    Raises:
        ValueError: a diameter that is not above zero, or another way of making.
    """
    require(hole_m > 0 and shaft_m > 0, "diameters are above 0")
    require(hole_made in MADE and shaft_made in MADE, f"a size is {', '.join(MADE)}")
    hole, shaft = MADE[hole_made], MADE[shaft_made]
    middle = hole_m + hole.hole_larger_m - shaft_m - shaft.shaft_larger_m
    return MadeFit(middle - hole.off_m - shaft.off_m, middle + hole.off_m + shaft.off_m)
