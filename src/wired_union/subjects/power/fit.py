"""Whether a part fits the power tree where it would go, and what refuses it there."""

from collections.abc import Iterable

from wired_union.kernel.subject import Assessment, Refusal, Slot
from wired_union.project.model import Item, Part
from wired_union.subjects.power.assess import Source
from wired_union.subjects.power.checks.levels import brains_of, no_brain_matches
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.suiting import best_source, needs, suits, wants_driver
from wired_union.units import show


def source_of(assessment: Assessment, slot: Slot) -> Source | None:
    """What feeds a slot today."""
    power = assessment.of(POWER)
    above = power.tree.source_of.get(slot.id)
    return power.source(above) if above is not None else None


def feeds(assessment: Assessment, part: Part) -> str | None:
    """Id of what a new part would be fed from."""
    best = best_source(part, assessment.of(POWER).offered)
    return best.item.id if best is not None else None


def at_place(assessment: Assessment, slot: Slot, part: Part) -> Part:
    """A motor's figures at the voltage it gets: speed, torque and current follow the voltage (linear motor model)."""
    motor = part.motor
    if motor is None or not motor.rated_voltage_v or (source := source_of(assessment, slot)) is None:
        return part
    volts = (source.low_v + source.rested_v) / 2
    if not volts > 0:
        return part
    fields = ("no_load_speed_rad_s", "stall_torque_n_m", "stall_current_a")
    scaled = {f: v * volts / motor.rated_voltage_v for f in fields if (v := getattr(motor, f)) is not None}
    return part.but(motor=motor.but(**scaled))


def refuses(assessment: Assessment, slot: Slot, part: Part) -> Iterable[Refusal]:
    """What the concept itself asks: the supply of the rail that feeds the slot, the voltage a regulator must make."""
    if isinstance(slot, Item):
        source = source_of(assessment, slot)
        found = [_rail_refusal(part, source)] if source is not None else []
        found.append(_output_refusal(part, slot))
        return tuple(r for r in found if r is not None)
    offered = assessment.of(POWER).offered
    if part.load is None or not offered or best_source(part, offered) is not None:
        return ()
    low, high = needs(part)
    rails = ", ".join(sorted({show(s.high_v, "V") for s in offered}))
    return (Refusal("rail", f"needs {show(low, 'V')} to {show(high, 'V')}; the rails give {rails}"),)


def refuses_new(assessment: Assessment, part: Part) -> Iterable[str]:
    """Why a new part does not fit: its supply, its logic level."""
    return [*_supply_refusal(part, assessment.of(POWER).offered), *_level_refusal(part, assessment)]


def _rail_refusal(part: Part, source: Source) -> Refusal | None:
    low, high = needs(part)
    if suits(source, part):
        return None
    if high is not None and source.high_v > high:
        by = source.high_v - high
        text = (
            f"takes up to {show(high, 'V')}; {source.item.name} gives {show(source.high_v, 'V')}: {show(by, 'V')} over"
        )
        return Refusal("rail", text, by / source.high_v, high)
    assert low is not None
    by = low - source.low_v
    text = f"needs {show(low, 'V')}; {source.item.name} falls to {show(source.low_v, 'V')}: {show(by, 'V')} short"
    return Refusal("rail", text, by / source.low_v if source.low_v else None, low)


def _output_refusal(part: Part, slot: Item) -> Refusal | None:
    mine, wanted = _made_v(part), _made_v(slot.part)
    if mine is None or wanted is None or abs(mine - wanted) <= 0.03 * wanted:
        return None
    text = f"makes {show(mine, 'V')}; its rail is {show(wanted, 'V')}"
    return Refusal("output", text, abs(mine / wanted - 1), mine)


def _made_v(part: Part) -> float | None:
    """Voltage that a part holds whatever feeds it; None for one that makes none."""
    makes = part.regulator or part.supply
    return makes.output_v if makes is not None else None


def _supply_refusal(part: Part, offered: tuple[Source, ...]) -> list[str]:
    if (
        (part.pack or part.supply) is not None
        or best_source(part, offered) is not None
        or not (part.load or part.regulator)
    ):
        return []
    if not offered:
        return []
    least, most = needs(part)
    wants = f"{show(least, 'V')} to {show(most, 'V')}"
    if wants_driver(part):
        return [f"needs a driver that gives {wants}; there is none"]
    rails = ", ".join(sorted({show(s.high_v, "V") for s in offered if s.item.part.driver is None}))
    return [f"needs {wants}; the rails give {rails}"]


def _level_refusal(part: Part, assessment: Assessment) -> list[str]:
    said = no_brain_matches(part, brains_of(assessment.project.concept.items))
    return [said] if said is not None else []
