"""What each option draws at least by itself, over the modes, and what a kilogram more to move adds to it."""

from collections.abc import Sequence

import numpy as np

from wired_union.assess.motion import with_usual_currents
from wired_union.assess.power import Table, current_tables
from wired_union.choose.combination import Choice, Question
from wired_union.physics.battery import Array
from wired_union.project.change import replaced
from wired_union.project.model import Concept, Item, Mode
from wired_union.project.motion_model import WheelLoad

Tables = list[list[tuple[Array, Array]]]
"""By slot and option, its own current over modes: on average, and at least at the worst instant."""


def own_tables(question: Question, slot: int) -> list[tuple[Array, Array]]:
    """For each option of a slot its own current over modes: on average, and at least at the worst instant."""
    concept, choice = question.project.concept, question.choices[slot]
    least_kg = least_mass_kg(question)
    found = []
    for option in choice.options:
        items = concept.items if option.now else replaced(concept.items, choice.slot, option.item)
        variant = concept.but(items=items)
        rows = [currents(c, least_kg) for c in contexts(question, variant)]
        average = np.min([_of(mean, choice) for mean, _ in rows], axis=0)
        worst = np.min([_of(peak, choice) for _, peak in rows], axis=0)
        found.append((average, worst))
    return found


def amperes_per_kg(question: Question) -> list[tuple[Item, Array]]:
    """Each motor under wheels, with the least that a kilogram more adds to its average current, over modes.

    The current rises in proportion to the mass up to where the motor is blocked, so it is concave: the chord from the
    lightest to the heaviest combination lies under it.
    """
    concept, low = question.project.concept, least_mass_kg(question)
    high = question.base_kg + sum(max(o.mass_kg for o in c.options) for c in question.choices)
    if high - low < 1e-9:
        return []
    found = []
    for name in {x.actuator for x in concept.loads if isinstance(x, WheelLoad)}:
        standing = next((i for i in concept.items if i.id == name), None)
        if standing is None:
            continue
        options = next(([o.item for o in c.options] for c in question.choices if c.slot.id == name), [standing])
        if any(i.part.load is None or i.part.load.draw != "current" for i in options):
            continue
        slopes = [
            (_mean(heavy, name) - _mean(light, name)) / (high - low)
            for option in options
            for context in contexts(question, concept.but(items=_with(concept.items, name, option)))
            for light, heavy in [(with_usual_currents(context, low), with_usual_currents(context, high))]
        ]  # fmt: skip
        found.append((options[0], np.min(slopes, axis=0)))
    return found


def _with(items: tuple[Item, ...], name: str, option: Item) -> tuple[Item, ...]:
    return tuple(option if i.id == name else i for i in items)


def _mean(concept: Concept, item: str) -> Array:
    return np.array([row.get(item, 0.0) for row in current_tables(concept)[0]])


def least_mass_kg(question: Question) -> float:
    """The mass of the lightest combination; what has to be moved weighs at least that."""
    return question.base_kg + sum(min(o.mass_kg for o in c.options) for c in question.choices)


def contexts(question: Question, concept: Concept) -> list[Concept]:
    """The concept with every wheel that a load may run on, since the wheel sets what its motor draws."""
    found = [concept]
    wheels = {load.wheel for load in concept.loads if isinstance(load, WheelLoad)}
    for choice in question.choices:
        if choice.slot.id not in wheels:
            continue
        old = next(i for i in concept.items if i.id == choice.slot.id)
        found = [
            c.but(items=tuple(o.item if i.id == old.id else i for i in c.items)) for c in found for o in choice.options
        ]
    return found


def currents(concept: Concept, mass_kg: float) -> tuple[Table, Table]:
    """Average currents, and what the worst instant has at least, with what has to be moved."""
    average, steady, starting, _ = current_tables(with_usual_currents(concept, mass_kg))
    return average, _least_worst(concept.modes, steady, starting)


def _least_worst(modes: Sequence[Mode], steady: Table, starting: Table) -> Table:
    """Currents that the worst instant has at least: where starts are staggered only one rises, so none is counted."""
    return [s if mode.staggered else b for mode, s, b in zip(modes, steady, starting, strict=True)]


def _of(table: Table, choice: Choice) -> Array:
    return np.array([row.get(choice.slot.id, 0.0) for row in table])
