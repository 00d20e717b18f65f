"""Average of a current that comes and goes."""

from collections.abc import Sequence

from msgspec import Struct

from wired_union.physics.method import method, require


class DutyAverage(Struct, frozen=True):
    average_current_a: float
    charge_ah: float


@method(
    "duty-average", source="definition of the mean", checked="values worked by hand", limits="one cycle that repeats"
)
def duty_average(currents_a: Sequence[float], durations_s: Sequence[float]) -> DutyAverage:
    """Average current and charge of one cycle of steps.

    Args:
        currents_a: current of each step
        durations_s: how long each step lasts
    Returns:
        average_current_a: mean current over the cycle
        charge_ah: charge drawn in one cycle
    Raises:
        ValueError: lists of different length, a negative duration, or no time at all.
    """
    require(len(currents_a) == len(durations_s), "as many currents as durations")
    require(all(d >= 0 for d in durations_s) and sum(durations_s) > 0, "durations are 0 or more, together above 0")
    charge = sum(i * t for i, t in zip(currents_a, durations_s, strict=True))
    return DutyAverage(charge / sum(durations_s), charge / 3600)
