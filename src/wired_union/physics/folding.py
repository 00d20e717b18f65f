"""What sampling makes of frequencies that are too high for it, and what a filter before it leaves of them."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import SHANNON


class Folded(Struct, frozen=True):
    seen_hz: float
    left: float


@method(
    "folded-frequency",
    source="f is seen at |f − n·fₛ|, n the nearest whole number; a first-order low-pass leaves 1/√(1 + (f/f_c)²)",
    works=(SHANNON,),
    checked="a sampled sine's spectrum by numpy.fft; scipy.signal.butter",
    limits="steady frequency; one resistor and one capacitor",
)
def folded_frequency(frequency_hz: float, sample_hz: float, corner_hz: float = math.inf) -> Folded:
    """At which frequency something is seen in samples, and how much of it.

    Args:
        frequency_hz: as it is
        sample_hz: samples a second
        corner_hz: of a low-pass filter before the converter; inf for none
    Returns:
        seen_hz: in the samples, at most half their rate
        left: share of its amplitude
    Raises:
        ValueError: a frequency below 0, or a rate or corner of 0 or less.
    """
    require(frequency_hz >= 0, "frequency is 0 or more")
    require(sample_hz > 0 and corner_hz > 0, "rate and corner are above 0")
    seen = abs(frequency_hz - round(frequency_hz / sample_hz) * sample_hz)
    return Folded(seen, 1 / math.hypot(1, frequency_hz / corner_hz))
