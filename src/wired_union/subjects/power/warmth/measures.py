"""How far the worst part is from the hottest and the coldest that it works at, as measures."""

from collections.abc import Iterator

from wired_union.kernel.results import Measure
from wired_union.project.model import Item
from wired_union.subjects.power.warmth.run import Extreme, Heat
from wired_union.units import show

SPAN_K = 20.0
"""Kelvins that count as the whole of a limit: a margin is a difference, of which no share is taken."""


def electrical(item: Item) -> bool:
    """Whether a part has current in it, so that heat and cold matter to it."""
    part = item.part
    return any(x is not None for x in (part.load, part.pack, part.supply, part.regulator, part.driver))


def hottest(heat: Heat) -> Measure:
    """The least margin of any part to the hottest that it works at."""
    known = [m for e in extremes(heat) if (m := e.hot_margin_k) is not None]
    return _margin("hottest", "Below too hot", heat, known, "the hottest it works at", "temperature_max_c")


def coldest(heat: Heat) -> Measure:
    """The least margin of any part to the coldest that it works at."""
    known = [m for e in extremes(heat) if (m := e.cold_margin_k) is not None]
    return _margin("coldest", "Above too cold", heat, known, "the coldest it works at", "temperature_min_c")


def _margin(kind: str, label: str, heat: Heat, known: list[float], what: str, rating: str) -> Measure:
    gaps = [*heat.unknown, *heat.setting.lacks.values()]
    gaps += [f"{i.name}: {what}" for i in heat.concept.items if electrical(i) and getattr(i.part, rating) is None]
    if not known:
        gaps.append("a part with current in it")
    return Measure(kind, label, min(known, default=None), "K", direction="at least", span=SPAN_K,
                   missing=tuple(dict.fromkeys(gaps)))  # fmt: skip


def extremes(heat: Heat) -> Iterator[Extreme]:
    """Every part with current in it: as a lump, or as warm and cold as the air outside where it neither burns nor is
    described."""
    lumps = {e.item.id: e for e in heat.extremes}
    low, high = (
        min(float(r.air.outside_c.min()) for r in heat.runs),
        max(float(r.air.outside_c.max()) for r in heat.runs),
    )
    for item in heat.concept.items:
        if item.id in lumps:
            yield lumps[item.id]
        elif electrical(item) and item.id not in heat.setting.items:
            yield Extreme(item, high, 0.0, low, 0.0)


def worst_words(extreme: Extreme) -> str:
    """How warm and cold a part gets: "24 to 43 °C"."""
    return f"{show(extreme.coldest_c, '°C')} to {show(extreme.hottest_c, '°C')}"
