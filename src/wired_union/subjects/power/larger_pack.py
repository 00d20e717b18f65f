"""The pack of the same cells that would just hold the runtime: sought on the whole project, not scaled from today's."""

from collections.abc import Callable

from wired_union.kernel.results import Remedy, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.change import Change
from wired_union.project.model import Item, Project
from wired_union.project.part_edits import swap_part
from wired_union.units import show

MOST = 16.0
"""Times today's capacity that are tried at the most; beyond it another pack is needed, not a larger one."""
STEPS, CLOSE = 8, 0.01


def larger(project: Project, item: Item, factor: float) -> Change:
    """The pack with so many times the cells side by side: capacity, current, mass and price rise, resistance falls."""
    part, cells = item.part, item.part.pack
    assert cells is not None
    capacity = (cells.cell_capacity_ah or 0.0) * factor
    whole = capacity * cells.parallel * item.count
    pack = cells.but(
        cell_capacity_ah=capacity, cell_resistance_ohm=(cells.cell_resistance_ohm or 0.0) / factor,
        max_current_a=None if cells.max_current_a is None else cells.max_current_a * factor,
        pulse_current_a=None if cells.pulse_current_a is None else cells.pulse_current_a * factor,
    )  # fmt: skip
    grown = part.but(
        id=f"{part.id}-larger"[:120], name=f"{part.name}, {show(whole, 'Ah')}"[:120], pack=pack,
        mass_kg=None if part.mass_kg is None else part.mass_kg * factor,
        price=None if part.price is None else part.price * factor,
    )  # fmt: skip
    return Change(
        project, swap_part(project, item.id, grown).after, f"{item.name}: {show(whole, 'Ah')} of the same cells"
    )


def solved(project: Project, item: Item, again: Callable[[Project], Assessment]) -> tuple[Remedy, ...]:
    """The least pack of the same cells with which the runtime holds; nothing where none does.

    The runtime is nearly in proportion to the capacity, so that each step by what is still short comes much closer.
    """
    cells, factor = item.part.pack, 1.0
    if cells is None or not cells.cell_capacity_ah:
        return ()
    measure = again(project).measure("runtime")
    for _ in range(STEPS):
        if measure.limit is None or not measure.value:
            return ()
        short = measure.limit / (1 - measure.reserve) / measure.value
        if measure.verdict is Verdict.HOLDS and short > 1 - CLOSE:
            capacity = cells.cell_capacity_ah * cells.parallel * item.count * factor
            return (Remedy(f"a pack of {show(capacity, 'Ah')} of the same cells", larger(project, item, factor)),)
        factor *= short * (1 + CLOSE / 2)
        if not 1 < factor < MOST:
            return ()
        measure = again(larger(project, item, factor).after).measure("runtime")
    return ()
