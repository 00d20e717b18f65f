"""Round ticks for an axis."""

import math


def ticks(low: float, high: float, wanted: int = 6, steps: tuple[float, ...] = (1, 2, 2.5, 5, 10)) -> list[float]:
    """Round numbers from `low` to `high`, about as many as wanted."""
    span = high - low
    if not span > 0 or not math.isfinite(span):
        return [low]
    rough = span / max(wanted, 1)
    power = 10.0 ** math.floor(math.log10(rough))
    step = next(s * power for s in steps if s * power >= rough * (1 - 1e-9))
    first = math.ceil(low / step - 1e-9)
    return [round(n * step, 12) for n in range(first, math.floor(high / step + 1e-9) + 1)]


def with_room(low: float, high: float, share: float) -> tuple[float, float]:
    """Both ends with so much room beyond them, and never the same, whatever the figures are."""
    span = max(high - low, 1e-6 * max(abs(low), abs(high)), 1e-12)
    return low - share * span, high + share * span


def time_ticks(seconds: float, wanted: int = 6) -> list[float]:
    """Round times from 0 to `seconds`: in hours, minutes or seconds, whichever reads best."""
    if seconds >= 3 * 86400:
        return [t * 86400 for t in ticks(0, seconds / 86400, wanted)]
    for unit, steps in ((3600.0, (1, 2, 3, 6, 12, 24)), (60.0, (1, 2, 5, 10, 15, 30, 60))):
        if seconds >= 3 * unit:
            step = next((s for s in steps if s * wanted >= seconds / unit), steps[-1])
            return [n * step * unit for n in range(int(seconds / unit / step + 1e-9) + 1)]
    return ticks(0, seconds, wanted)
