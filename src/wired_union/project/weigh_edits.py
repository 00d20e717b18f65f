"""Edits of what was weighed."""

from wired_union import units
from wired_union.project.change import Change, figures_of, find_item, new_id, replaced, with_concept
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.part_edits import with_value
from wired_union.project.value import made
from wired_union.project.weighing_model import Weighing


def weigh(
    project: Project, item_id: str, mass_kg: float, copies: int = 1, on: str = "", scale: str = "",
    step_kg: float | None = None,
) -> Change:  # fmt: skip
    """Put a mass from the scale in an estimate's place; the item counts as measured from then on, and a list keeps it.

    Args:
        mass_kg: what the scale showed, all copies on it together
        copies: how many lay on it
        on: the day
        scale: which scale
        step_kg: the least that it tells apart
    """
    item = find_item(project, item_id)
    if mass_kg <= 0:
        raise ProjectError("A weighed part weighs more than zero.")
    if copies > item.count:
        raise ProjectError(f"There are {item.count} × {item.name}; {copies} cannot lie on the scale.")
    with figures_of(item.name):
        entry_id = new_id(f"{item.id} weighed", (w.id for w in project.concept.weighings))
        entry = made(Weighing, id=entry_id, item=item.id, mass_kg=mass_kg, copies=copies, on=checked_day(on),
                     scale=scale.strip(), step_kg=step_kg)  # fmt: skip
        part = with_value(item.part, "mass_kg", mass_kg / copies)
    items = replaced(project.concept.items, item, item.but(part=part, knowledge="measured"))
    after = with_concept(project, items=items, weighings=(*project.concept.weighings, entry))
    together = f", {copies} together {units.show(mass_kg, 'kg')}" if copies > 1 else ""
    return Change(project, after, f"{item.name} weighs {units.show(mass_kg / copies, 'kg')}{together}, measured")


def drop_weighing(project: Project, weighing_id: str) -> Change:
    """Take an entry off the list; the mass stays as it is."""
    found = next((w for w in project.concept.weighings if w.id == weighing_id), None)
    if found is None:
        raise ProjectError("That weighing is not on the list any more.")
    left = tuple(w for w in project.concept.weighings if w is not found)
    name = find_item(project, found.item).name
    return Change(
        project, with_concept(project, weighings=left), f"{name}: weighing of {found.on or 'no day'} taken off"
    )
