"""What each option draws at least by itself, over the modes, and what a kilogram more to move adds to it."""

import numpy as np

from wired_union.choose.combination import Question
from wired_union.physics.battery import Array
from wired_union.project.change import replaced
from wired_union.project.model import Concept, Item
from wired_union.project.motion_model import WheelLoad
from wired_union.subjects.motion.gives import least_asking, usual_currents
from wired_union.subjects.power.currents import currents_of
from wired_union.subjects.power.packs import pack_figures

Tables = list[list[tuple[Array, Array]]]
"""By slot and option, its own current over modes: on average, and at least at the worst instant."""


def own_tables(question: Question, slot: int) -> list[tuple[Array, Array]]:
    """For each option of a slot its own current over modes: on average, and at least at the worst instant."""
    concept, choice = question.project.concept, question.choices[slot]
    least_kg = question.least_kg
    found = []
    for option in choice.options:
        items = concept.items if option.now else replaced(concept.items, choice.slot, option.item)
        variant = concept.but(items=items)
        rows = [currents(c, least_kg) for c in contexts(question, variant)]
        nothing = np.zeros(len(concept.modes))
        average = np.min([mean.get(choice.slot.id, nothing) for mean, _ in rows], axis=0)
        worst = np.min([peak.get(choice.slot.id, nothing) for _, peak in rows], axis=0)
        found.append((average, worst))
    return found


def amperes_per_kg(question: Question) -> list[tuple[Item, Array]]:
    """Each motor under wheels, with the least that a kilogram more adds to its average current, over modes.

    The current rises in proportion to the mass up to where the motor is blocked, so it is concave: the chord from the
    lightest to the heaviest combination lies under it.
    """
    concept, low = question.project.concept, question.least_kg
    high = question.base_kg + sum(max(o.mass_kg for o in c.options) for c in question.choices)
    if high - low < 1e-9:
        return []
    found = []
    movers = [x.actuator for x in concept.loads]
    for name in {x.actuator for x in concept.loads if isinstance(x, WheelLoad)}:
        if movers.count(name) > 1:
            continue  # the hardest of several loads counts: that is not concave
        standing = next((i for i in concept.items if i.id == name), None)
        if standing is None:
            continue
        options = next(([o.item for o in c.options] for c in question.choices if c.slot.id == name), [standing])
        if any(i.part.load is None or i.part.load.draw != "current" for i in options):
            continue
        slopes = [
            (currents(context, high)[0][name] - currents(context, low)[0][name]) / (high - low)
            for option in options
            for context in contexts(question, concept.but(items=_with(concept.items, name, option)))
        ]
        found.append((options[0], np.min(slopes, axis=0)))
    return found


def _with(items: tuple[Item, ...], name: str, option: Item) -> tuple[Item, ...]:
    return tuple(option if i.id == name else i for i in items)


def contexts(question: Question, concept: Concept) -> list[Concept]:
    """The concept with every wheel that a load may run on, since the wheel sets what its motor draws.

    A motor starts with more on a higher voltage, so each source that may be chosen stands at its lowest.
    """
    concept = least_asking(concept, frozenset(c.slot.id for c in question.choices))
    found = [concept.but(items=tuple(_lowest(question, i) for i in concept.items))]
    wheels = {load.wheel for load in concept.loads if isinstance(load, WheelLoad)}
    for choice in question.choices:
        if choice.slot.id not in wheels:
            continue
        old = next(i for i in concept.items if i.id == choice.slot.id)
        found = [
            c.but(items=tuple(o.item if i.id == old.id else i for i in c.items)) for c in found for o in choice.options
        ]
    return found


def _lowest(question: Question, item: Item) -> Item:
    """The option of an item's slot that gives the lowest voltage, or holds its loads back most; or the item itself."""
    choice = next((c for c in question.choices if c.slot.id == item.id), None)
    if choice is None:
        return item
    if item.part.driver is not None and item.part.regulator is None:
        limits = [d.current_limit_a for o in choice.options if (d := o.item.part.driver) is not None]
        tightest = min((x for x in limits if x > 0), default=0.0)
        return item.but(part=item.part.but(driver=item.part.driver.but(current_limit_a=tightest)))
    if _volts(item) is None:
        return item
    return min((o.item for o in choice.options), key=lambda i: _volts(i) or 0.0)


def _volts(item: Item) -> float | None:
    """Voltage that an item gives at rest; None where it makes none."""
    if item.part.regulator is not None:
        return item.part.regulator.output_v
    if item.part.supply is not None:
        return item.part.supply.output_v
    figures = pack_figures(item) if item.part.pack is not None else None
    return figures.open_circuit_at(1.0) if figures is not None else None


Table = dict[str, Array]
"""By item id its current over modes."""


def currents(concept: Concept, mass_kg: float) -> tuple[Table, Table]:
    """Average currents, and what the worst instant has at least, with what has to be moved.

    Where starts are staggered only one load rises, so none is counted.
    """
    found = currents_of(concept, dict(usual_currents(concept, mass_kg)))
    staggered = np.array([m.staggered for m in concept.modes], dtype=bool)
    least = np.where(staggered, found.steady, found.starting)
    return {i: found.average[n] for i, n in found.row.items()}, {i: least[n] for i, n in found.row.items()}
