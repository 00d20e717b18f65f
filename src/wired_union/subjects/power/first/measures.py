"""The least margin of any controller while something starts, as a measure."""

from wired_union.kernel.results import Measure
from wired_union.subjects.power.first.run import First, least_v, watched_items
from wired_union.subjects.power.missing import NO_MISSION


def brown_out(first: First) -> Measure:
    """Volts left above where the first of all controllers resets; unknown while a figure under it is."""
    result = first.result
    items = watched_items(result)
    gaps = [m.said for m in result.missing if m != NO_MISSION]
    gaps += [f"{i.name}: the supply below which it resets" for i in items if least_v(i) is None]
    gaps += ["a controller that is fed"] if not items else []
    worst = first.worst if result.modes else None
    return Measure("brown-out", "Above reset", worst.margin_v if worst is not None else None, "V",
                   direction="at least", missing=tuple(dict.fromkeys(gaps)))  # fmt: skip
