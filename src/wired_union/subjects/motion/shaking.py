"""What to say of something that turns near a natural frequency: how hard it shakes, and which voltage keeps out."""

import math
from collections.abc import Iterator

from wired_union.kernel.results import Finding, Verdict
from wired_union.physics.motor import MotorConstants
from wired_union.physics.shock import imbalance_force
from wired_union.subjects.motion.assess import SEPARATION, MotionResult, Shake
from wired_union.subjects.motion.results import LoadResult
from wired_union.units import show

A_GRAM, TEN_MM = 0.001, 0.01


def shake_findings(result: MotionResult) -> Iterator[Finding]:
    """Everything that turns within the band that should be kept free."""
    for shake in result.shakes:
        if shake.apart >= SEPARATION:
            continue
        moved = result.of(shake.load)
        pulls = imbalance_force(A_GRAM, TEN_MM, 2 * math.pi * shake.source_hz).force_n
        why = "Keep excitation 20 % or more away (common practice): stiffen it, load it, or run at another speed."
        why += f" A gram that is 10 mm off its axis pulls with {show(pulls, 'N')} at that speed."
        if moved is not None and (volts := voltages_that_keep_out(moved, shake)) is not None:
            why += f" It keeps out below {show(volts[0], 'V')} and above {show(volts[1], 'V')}."
        yield Finding(
            "shake", Verdict.TIGHT, f"{shake.mount.name} shakes",
            f"{shake.source} turns at {show(shake.source_hz, 'Hz')}; it swings by itself at"
            f" {show(shake.natural_hz, 'Hz')}, {show(shake.apart, 'share')} away.", why, of=shake.mount.id,
            detail=shake.source,
        )  # fmt: skip


def voltages_that_keep_out(moved: LoadResult, shake: Shake) -> tuple[float, float] | None:
    """Voltages below and above which a motor under its load turns at the edges of the band that should be kept free.

    Of the linear model, ω = (V − I·R)/k: by so much as the frequency is to change, the speed without its drop changes.
    None for a stepper, whose driver sets its speed, and where nothing says which of its points turns so.
    """
    drive = moved.drive
    if drive is None or not isinstance(drive.motor, MotorConstants):
        return None
    motor, gear = drive.motor, (drive.item.part.motor.gear_ratio if drive.item.part.motor else None) or 1.0
    for point in moved.points:
        turns = point.speed_rad_s / (2 * math.pi)
        if any(math.isclose(turns * by, shake.source_hz, rel_tol=1e-6) for by in (gear, 1 / moved.load.ratio)):
            drop = motor.current_at(point.torque_n_m) * motor.resistance_ohm
            edges = (shake.natural_hz * (1 - SEPARATION), shake.natural_hz * (1 + SEPARATION))
            low, high = (drop + (drive.nominal_v - drop) * hertz / shake.source_hz for hertz in edges)
            return low, high
    return None
