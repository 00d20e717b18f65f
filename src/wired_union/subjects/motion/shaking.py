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
TWO_PI = 2 * math.pi


def shake_findings(result: MotionResult) -> Iterator[Finding]:
    """Everything that turns within the band that should be kept free, at any speed that it turns with."""
    for shake in result.shakes:
        if shake.apart >= SEPARATION:
            continue
        moved = result.of(shake.load)
        pulls = imbalance_force(A_GRAM, TEN_MM, TWO_PI * shake.turning.most_hz).force_n
        why = "Keep excitation 20 % or more away (common practice): stiffen it, load it, or run at another speed."
        if shake.times == 1:
            why += f" A gram that is 10 mm off its axis pulls with {show(pulls, 'N')} at its fastest."
        else:
            why += " A shaft that is bent or out of line shakes twice in a turn."
        if moved is not None and (volts := voltages_that_keep_out(moved, shake)) is not None:
            why += f" It keeps out below {show(volts[0], 'V')} and above {show(volts[1], 'V')} at its motor."
        yield Finding(
            "shake", Verdict.TIGHT, f"{shake.mount.name} shakes", f"{_turns_words(shake)}; it swings by itself at"
            f" {show(shake.natural_hz, 'Hz')}, {_apart_words(shake)}.", why, of=shake.mount.id,
            detail=shake.source if shake.times == 1 else f"{shake.source} · {shake.times}",
        )  # fmt: skip


def _turns_words(shake: Shake) -> str:
    often = "turns" if shake.times == 1 else "shakes twice in a turn,"
    return f"{shake.source} {often} at {band_words(shake)}"


def band_words(shake: Shake) -> str:
    """ "2.1 Hz to 3.4 Hz", or one figure where it always turns alike."""
    least, most = show(shake.least_hz, "Hz"), show(shake.most_hz, "Hz")
    return most if least == most else f"{least} to {most}"


def _apart_words(shake: Shake) -> str:
    return f"{show(shake.apart, 'share')} away" if shake.apart > 0 else "which lies within"


def voltages_that_keep_out(moved: LoadResult, shake: Shake) -> tuple[float, float] | None:
    """Voltages at a motor: below the first it never reaches the band to keep free; above the other it is past it.

    Of the linear model, V = ω·k + I·R: the first with its easiest torque, the second with its hardest. None for a
    stepper, whose driver sets its speed, and where nothing says by which gear the motor turns it.
    """
    drive = moved.drive
    if drive is None or not isinstance(drive.motor, MotorConstants) or shake.turning.hertz <= 0:
        return None
    motor, torques = drive.motor, [p.torque_n_m for p in moved.points]
    speeds = [p.speed_rad_s for p in moved.points if p.speed_rad_s > 0]
    gear = drive.item.part.motor.gear_ratio if drive.item.part.motor is not None else None
    gears = [by for by in (1 / moved.load.ratio, gear) if by]
    by = next(
        (g for g in gears for s in speeds if math.isclose(s * g, shake.turning.hertz * TWO_PI, rel_tol=1e-6)), None
    )
    if by is None:
        return None
    low, high = (
        shake.natural_hz * (1 + off) * TWO_PI / shake.times / by * motor.volts_s_per_rad
        + motor.current_at(torque) * motor.resistance_ohm
        for off, torque in ((-SEPARATION, min(torques)), (SEPARATION, max(torques)))
    )
    return low, high
