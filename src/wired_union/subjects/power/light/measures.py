"""Energy in against out on a usual day, and the time to full, as measures."""

import math

from wired_union.kernel.results import Measure
from wired_union.subjects.power.light.run import Light


def energy_balance(light: Light) -> Measure:
    """What a usual day leaves of the pack that it leaves least; unknown while a figure under it is."""
    days = light.days if not light.gaps else ()
    worst = min(days, key=lambda d: d.balance_wh, default=None)
    return Measure("energy-balance", "A day leaves", worst.balance_wh if worst is not None else None, "Wh",
                   direction="at least", missing=light.gaps,
                   span=max(worst.out_wh, 1e-6) if worst is not None else 1.0)  # fmt: skip


def time_to_full(light: Light) -> Measure:
    """From the reserve to full, of the pack that takes longest."""
    days = light.days if not light.gaps else ()
    longest = max((d.time_to_full_s for d in days), default=math.nan)
    return Measure("time-to-full", "Time to full", longest if longest == longest else None, "s", missing=light.gaps)
