"""A figure that spreads, told apart: what is typical, what 95 of 100 keep, and the worst of all that were drawn."""

from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Measure, judged
from wired_union.physics.battery import Array
from wired_union.physics.sensitivity import first_order_shares
from wired_union.project.model import Brief, Limit
from wired_union.subjects.power.first.measures import brown_out
from wired_union.subjects.power.first.run import First
from wired_union.subjects.power.spread.day import DayDrawn
from wired_union.subjects.power.spread.draw import Drawn
from wired_union.subjects.power.spread.odds import Odds
from wired_union.subjects.power.spread.starts import StartDrawn
from wired_union.subjects.power.spread.unknowns import Unknown
from wired_union.subjects.power.spread.warm import WarmDrawn
from wired_union.subjects.power.warmth.measures import SPAN_K, coldest, hottest
from wired_union.subjects.power.warmth.run import JUNCTION_LIMIT_C, Heat
from wired_union.units import show

ENDLESS = {"s": "no end", "A": "too much"}
"""What a figure without end is called, by its unit."""
WORTH_SAYING, NEAREST = 0.01, 3


class Told(Struct, frozen=True):
    """One figure, three times: each a measure against the same limit."""

    typical: Measure
    sure: Measure
    """What 95 of 100 keep: they stay above it, or below it, as the measure's direction asks."""
    worst: Measure

    @property
    def each(self) -> tuple[Measure, Measure, Measure]:
        return self.typical, self.sure, self.worst

    @property
    def said(self) -> str:
        """In words."""
        typical, sure, worst = (figure(m) for m in self.each)
        stay = "above" if self.typical.direction == "at least" else "below"
        return f"{self.typical.label}: typical {typical}; 95 of 100 stay {stay} {sure}; the worst {worst}"


def quantile(values: Array, share: float, *, upper: bool = False) -> float:
    """The figure that so many do not reach: one of them, never half the way from one to endless."""
    return float(np.quantile(values, share, method="higher" if upper else "lower"))


def told(measure: Measure, values: Array, limit: Limit | None = None) -> Told:
    """A measure told apart; its own limit holds where the brief has none."""
    upper = (limit or measure).direction == "at most"
    shares = (0.5, 0.95, 1.0) if upper else (0.5, 0.05, 0.0)
    found = (_with(measure, quantile(values, s, upper=upper)) for s in shares)
    return Told(*(judged(m, limit) if limit is not None else m for m in found))


def _with(measure: Measure, value: float) -> Measure:
    return Measure(measure.kind, measure.label, value, measure.unit, limit=measure.limit, direction=measure.direction,
                   span=measure.span, missing=measure.missing)  # fmt: skip


def figure(measure: Measure) -> str:
    """A figure as short as a column asks."""
    value = measure.value
    assert value is not None
    if value in (float("inf"), float("-inf")):
        return ENDLESS.get(measure.unit, "no figure") if value > 0 else "no figure"
    return show(value, measure.unit)


def told_of_missions(some: Drawn, odds: Odds, brief: Brief) -> Iterator[Told]:
    """How long it lasts; and the worst instant, where something says."""
    missing = {m.kind: m.missing for m in odds.result.measures}
    lasts = Measure("runtime", "Lasts", None, "s", odds.wanted_s, "at least", missing=missing["runtime"])
    yield told(lasts, some.runtime_s, brief.limit("runtime"))
    if some.peak_a.any():
        peak = Measure("peak-current", "Peak current", None, "A", missing=missing["peak-current"])
        yield told(peak, some.peak_a, brief.limit("peak-current"))
        low = Measure("lowest-voltage", "Lowest voltage", None, "V", direction="at least",
                      missing=missing["lowest-voltage"])  # fmt: skip
        yield told(low, some.low_v, brief.limit("lowest-voltage"))


def told_of_starts(some: StartDrawn, first: First, brief: Brief) -> Iterator[Told]:
    """How far the first of all controllers stays above its reset."""
    yield told(replace(brown_out(first), limit=0.0), some.margin_v, brief.limit("brown-out"))


def told_of_warmth(some: WarmDrawn, heat: Heat, brief: Brief) -> Iterator[Told]:
    """How far the worst part is from too hot and from too cold, where any says."""
    for measure, margins in ((hottest(heat), some.hot_margin_k), (coldest(heat), some.cold_margin_k)):
        if not np.isposinf(margins).any():
            yield told(replace(measure, limit=0.0), margins, brief.limit(measure.kind))


def told_of_parts(some: WarmDrawn, selected: str = "") -> Iterator[Told]:
    """How warm the parts get that 95 of 100 times come nearest to too hot, and the one that is selected."""
    near = [quantile(m, 0.05) if not np.isnan(m).any() else np.inf for m in some.hot_margins_k.T]
    order = sorted(range(len(near)), key=lambda n: (some.items[n].id != selected, near[n]))
    for n in order[: NEAREST + (bool(order) and some.items[order[0]].id == selected)]:
        item, junction = some.items[n], some.junction_c[:, n]
        if np.isnan(junction).any():
            label, values, most = item.name, some.hottest_c[:, n], item.part.temperature_max_c
        else:
            label, values, most = f"{item.name}, inside", junction, JUNCTION_LIMIT_C
        yield told(Measure("hottest", label, None, "°C", most, span=SPAN_K), values)


def told_of_days(some: DayDrawn, brief: Brief) -> Iterator[Told]:
    """What a usual day leaves, what is left after an overcast week, and the time to full."""
    span = max(float(np.abs(some.balance_wh[np.isfinite(some.balance_wh)]).max(initial=0.0)), 1e-6)
    balance = Measure("energy-balance", "A day leaves", None, "Wh", 0.0, "at least", span=span)
    yield told(balance, some.balance_wh, brief.limit("energy-balance"))
    week = Measure("week", "Left after a dark week", None, "Wh", 0.0, "at least", span=span)
    yield told(week, some.week_left_wh)
    yield told(Measure("time-to-full", "Time to full", None, "s"), some.full_s, brief.limit("time-to-full"))


def shares_of(unknowns: Sequence[Unknown], normal: Array, values: Array) -> list[tuple[Unknown, float]]:
    """Share of the spread that each unknown makes by itself, the largest first, without those of next to none."""
    known = np.isfinite(values)
    if not known.any():
        return []
    shares = first_order_shares(normal[known], values[known])
    found = sorted(zip(unknowns, shares.tolist(), strict=True), key=lambda x: -x[1])
    return [(u, s) for u, s in found if s >= WORTH_SAYING]
