"""The air around the parts: which are not made for it, and which packs must not be charged in it."""

from collections.abc import Iterable, Iterator

from wired_union.kernel.results import Finding, Verdict
from wired_union.kernel.subject import Assessment, Refusal, Slot
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.model import Brief, Item, Part
from wired_union.subjects.power.gives_heat import HEAT
from wired_union.units import show

FREEZING_C = 0.0
USUAL_C = (0.0, 40.0)
"""Air that electrical parts bear where nothing else is said: common practice."""


def climate_refusal(part: Part, brief: Brief) -> str | None:
    """Why a part is not made for the air of the brief, by how much; None where it is, or does not say."""
    low, high = part.temperature_min_c, part.temperature_max_c
    if high is not None and brief.hottest_c > high:
        return f"works up to {show(high, '°C')}; the air reaches {show(brief.hottest_c, '°C')}"
    if low is not None and brief.coldest_c < low:
        return f"works from {show(low, '°C')}; the air falls to {show(brief.coldest_c, '°C')}"
    return None


def _unrated(item: Item, brief: Brief) -> str:
    """What an electrical part does not say of air beyond what all bear, in words; "" where that does not matter."""
    part = item.part
    hot, cold = brief.hottest_c > USUAL_C[1], brief.coldest_c < USUAL_C[0]
    if not (hot or cold) or not any((part.load, part.regulator, part.driver, part.pack, part.supply)):
        return ""
    if hot and part.temperature_max_c is None:
        return f"the hottest air it works in; here it reaches {show(brief.hottest_c, '°C')}"
    if cold and part.temperature_min_c is None:
        return f"the coldest air it works in; here it falls to {show(brief.coldest_c, '°C')}"
    return ""


def findings(assessment: Assessment) -> Iterator[Finding]:
    """Each part that the air is too hot or too cold for; each pack that must not be charged in it."""
    brief = assessment.project.brief
    heat = assessment.of(HEAT)
    described = {w.item for w in heat.concept.warm_parts}  # how warm and cold they get is worked out by Power
    safe = all(b.coldest_c >= FREEZING_C for b in heat.bounds) if described else True
    own_c = {} if safe else {e.item.id: e.coldest_c for e in heat.extremes if e.item.id in described}
    for item in assessment.project.concept.items:
        why = climate_refusal(item.part, brief) if item.id not in described else None
        if why is not None:
            yield Finding(
                "climate", Verdict.BREAKS, f"{item.name} is not made for this air", f"It {why}.",
                "Another part, or a place that is kept warmer or cooler.", (item.id,), hard=True, of=item.id,
            )  # fmt: skip
        elif item.id not in described and (lacks := _unrated(item, brief)):
            yield Finding(
                "climate", Verdict.UNKNOWN, f"{item.name}: the air around it", f"Not known yet: {lacks}.",
                "Until it is given nothing says whether it works there.", (item.id,), of=item.id,
            )  # fmt: skip
        cell = CHEMISTRIES.get(item.part.pack.chemistry) if item.part.pack is not None else None
        coldest = own_c.get(item.id, brief.coldest_c)
        if cell is not None and cell.lithium and cell.rechargeable and coldest < FREEZING_C:
            yield Finding(
                "cold-charge", Verdict.TIGHT, f"{item.name} in the cold",
                f"It falls to {show(coldest, '°C')}; its cells must not be charged below 0\u202f°C.",
                "Lithium plates out of a cold cell under charge (common practice): charge it in the warm.", (item.id,),
                of=item.id,
            )  # fmt: skip


def refuses(assessment: Assessment, _: Slot, part: Part) -> Iterable[Refusal]:
    """Why the air refuses a part that might be taken."""
    why = climate_refusal(part, assessment.project.brief)
    return () if why is None else (Refusal("climate", why),)
