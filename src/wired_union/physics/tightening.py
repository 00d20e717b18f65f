"""How far a screw is tightened: the pull at which it comes near to yielding, and the torque that makes it."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import VDI_2230

PITCHES_M = {"M2": 0.4e-3, "M2.5": 0.45e-3, "M3": 0.5e-3, "M4": 0.7e-3, "M5": 0.8e-3, "M6": 1.0e-3, "M8": 1.25e-3,
             "M10": 1.5e-3, "M12": 1.75e-3}  # fmt: skip
"""Pitches of coarse threads: ISO 261 (from memory)."""
SIZES_M = {"M2": 2e-3, "M2.5": 2.5e-3, "M3": 3e-3, "M4": 4e-3, "M5": 5e-3, "M6": 6e-3, "M8": 8e-3, "M10": 10e-3,
           "M12": 12e-3}  # fmt: skip
HEAD = 1.3
"""Middle diameter of what rubs under a head, by the size of the thread: 1.5 outside, 1.1 inside."""


class Tightened(Struct, frozen=True):
    preload_n: float
    torque_n_m: float


@method(
    "tightening-torque",
    source="pull at which tension and twist together reach a share of yield, and the torque of thread and head for it",
    works=(f"{VDI_2230}, equations R13 and A1",),
    checked="the table of its annex A for class 8.8 and friction 0.12, M3 to M8 (from memory), within 4 %",
    limits="steel threads; into aluminium half of it, into plastic by feel; greased or locked threads rub otherwise",
)
def tightening_torque(
    diameter_m: float, pitch_m: float, yield_pa: float, friction: float = 0.12, use: float = 0.9
) -> Tightened:
    """Torque at which a screw is used up to a share of where it yields.

    Args:
        diameter_m: size of the thread
        pitch_m: from turn to turn
        yield_pa: stress at which the screw yields
        friction: coefficient of thread and head; 0.12 for plain steel a little oily
        use: share of yielding that tension and twist together reach
    Returns:
        preload_n: pull in the screw
        torque_n_m: torque that makes it
    Raises:
        ValueError: a pitch as large as the thread, a share or a friction below 0.
    """
    require(diameter_m > 0 and 0 < pitch_m < diameter_m / 2, "a thread whose pitch is under half its diameter")
    require(yield_pa > 0 and friction >= 0 and use > 0, "a yield above 0, friction and use not below 0")
    flank_m, core_m = diameter_m - 0.6495 * pitch_m, diameter_m - 1.2269 * pitch_m
    middle_m = (flank_m + core_m) / 2
    area = math.pi / 4 * middle_m**2
    twist = 1.5 * flank_m / middle_m * (pitch_m / (math.pi * flank_m) + 1.155 * friction)
    preload = area * use * yield_pa / math.sqrt(1 + 3 * twist**2)
    torque = preload * (0.159 * pitch_m + 0.577 * flank_m * friction + HEAD * diameter_m / 2 * friction)
    return Tightened(preload, torque)
