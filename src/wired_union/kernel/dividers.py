"""Dividers of two resistors from a bag, before a pin that survives less than what comes."""

from wired_union.kernel.results import tried
from wired_union.physics.bus import STEPS
from wired_union.project.change import Change
from wired_union.project.model import Item, Project
from wired_union.project.ports import can_be_divided, divide, own_lines_of
from wired_union.units import show

LOWER_OHM, HIGHEST_SHARE = 10e3, 0.9
"""Lower resistor, common practice; and the share of what a pin survives that is left to it."""


def upper_for(given_v: float, most_v: float) -> float | None:
    """The upper resistor of the E12 series (IEC 60063, from memory) that leaves no more than nine tenths of what is
    survived; None where nothing has to be divided, or none is large enough.
    """
    wanted = LOWER_OHM * (given_v / (HIGHEST_SHARE * most_v) - 1)
    if wanted <= 0:
        return None
    return next((s * 10.0**d for d in range(2, 7) for s in STEPS if s * 10.0**d >= wanted), None)


def part_divided(project: Project, item: Item, most_v: float) -> tuple[str, Change | None] | None:
    """Dividers on all that a part gives a level to, in words and as an edit; None where there is nothing to divide."""
    link = item.part.link
    if link is None or link.logic_v is None or not any(map(can_be_divided, own_lines_of(item))):
        return None
    upper = upper_for(link.logic_v, most_v)
    if upper is None:
        return None
    words = f"dividers of {show(upper, 'Ω')} and {show(LOWER_OHM, 'Ω')} before the pins that it gives a level to"
    return words, tried(divide, project, item, upper, LOWER_OHM)
