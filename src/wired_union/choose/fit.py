"""Whether a part fits where it would go, and the requirement that refuses it."""

from typing import NamedTuple

from wired_union.assess.assessment import Assessment
from wired_union.assess.power_scene import PowerScene
from wired_union.project.edits import feeds_others
from wired_union.project.model import Item, Part
from wired_union.units import show


class Source(NamedTuple):
    """Something in the concept that could feed a part, with the range of voltage it gives."""

    item: Item
    low_v: float
    high_v: float


def sources(assessment: Assessment) -> tuple[Source, ...]:
    """Everything fed by a pack that can feed more, packs first."""
    scene = PowerScene(assessment.project, assessment.power)
    found = []
    for node in assessment.power.tree.nodes.values():
        if feeds_others(node.item.part):
            low = node.supply_v or scene.lowest_v(node.item.id)[0]
            found.append(Source(node.item, low, node.supply_v or scene.full_v[node.item.id]))
    return tuple(found)


def needs(part: Part) -> tuple[float | None, float | None]:
    """Lowest and highest supply a part takes; None where it does not say."""
    if part.load is not None:
        return part.load.supply_min_v, part.load.supply_max_v
    if part.regulator is not None:
        least = part.regulator.output_v + part.regulator.dropout_v
        return max(least, part.regulator.input_min_v or 0.0), part.regulator.input_max_v
    if part.driver is not None:
        return part.driver.input_min_v, part.driver.input_max_v
    return None, None


def suits(source: Source, part: Part) -> bool:
    """Whether the source's whole range of voltage suits the part."""
    least, most = needs(part)
    return (least is None or source.low_v >= least) and (most is None or source.high_v <= most)


def best_source(part: Part, offered: tuple[Source, ...]) -> Source | None:
    """The source a new part would be fed from: motors from a driver, the rest from the last suiting rail."""
    if part.load is None and part.regulator is None and part.driver is None and part.rail is None:
        return None
    fitting = [s for s in offered if suits(s, part)]
    if part.motor is not None and part.kind not in {"servo"}:
        drivers = [s for s in fitting if s.item.part.driver is not None]
        return drivers[0] if drivers else None
    rails = [s for s in fitting if s.item.part.driver is None]
    if part.regulator is not None or part.driver is not None:
        return rails[0] if rails else None
    return rails[-1] if rails else None


def refusals(part: Part, assessment: Assessment, offered: tuple[Source, ...]) -> tuple[str, ...]:
    """Why a part does not fit this concept, each with the figure; empty where it fits.

    Looks at supply, logic level, and what is left of the mass and money limits. Not at geometry.
    """
    found = [*_supply_refusal(part, offered), *_level_refusal(part, assessment)]
    for measure_id, amount, unit in (("mass", part.mass_kg, "kg"), ("money", part.price, "£")):
        measure = assessment.measure(measure_id)
        if amount is None or measure.limit is None or measure.value is None:
            continue
        left = measure.limit - measure.value
        if amount > left:
            found.append(f"{show(amount, unit)} is more than the {show(max(left, 0.0), unit)} left of the {measure_id}")
    return tuple(found)


def _supply_refusal(part: Part, offered: tuple[Source, ...]) -> list[str]:
    if part.pack is not None or best_source(part, offered) is not None or not (part.load or part.regulator):
        return []
    if not offered:
        return []
    least, most = needs(part)
    wants = f"{show(least, 'V')} to {show(most, 'V')}"
    if part.motor is not None and part.kind not in {"servo"}:
        return [f"needs a driver that gives {wants}; there is none"]
    rails = ", ".join(sorted({show(s.high_v, "V") for s in offered if s.item.part.driver is None}))
    return [f"needs {wants}; the rails give {rails}"]


def _level_refusal(part: Part, assessment: Assessment) -> list[str]:
    if part.link is None or part.link.logic_v is None or part.kind in {"microcontroller", "computer"}:
        return []
    brains = [i.part.link for i in assessment.project.concept.items if i.part.kind in {"microcontroller", "computer"}]
    tops = [b.logic_max_v or b.logic_v or 0.0 for b in brains if b is not None]
    if tops and part.link.logic_v > max(tops) * 1.1:
        return [f"signals at {show(part.link.logic_v, 'V')}; the controller survives {show(max(tops), 'V')}"]
    return []
