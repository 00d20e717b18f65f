"""Edits of what bends. Each returns a Change, or raises ProjectError with what to do."""

from typing import Any

from wired_union import units
from wired_union.physics.materials import GRADES
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    find_item,
    new_id,
    replaced,
    with_concept,
)
from wired_union.project.errors import ProjectError
from wired_union.project.model import Beam, Carries, Project
from wired_union.project.value import checked


def add_beam(project: Project, name: str) -> Change:
    """Name something that bends; its figures are typical until they are said."""
    name = checked_name(name, "beam")
    beam = Beam(id=new_id(name, (b.id for b in project.concept.beams)), name=name)
    return Change(project, with_concept(project, beams=(*project.concept.beams, beam)), f"{name} can bend")


def remove_beam(project: Project, beam_id: str) -> Change:
    """Look at a beam no longer."""
    beam = by_id(project.concept.beams, beam_id, "beam")
    beams = tuple(b for b in project.concept.beams if b is not beam)
    return Change(project, with_concept(project, beams=beams), f"{beam.name} is no longer looked at")


def set_beam(project: Project, beam_id: str, **figures: Any) -> Change:
    """Set figures of a beam."""
    beam = by_id(project.concept.beams, beam_id, "beam")
    with figures_of(beam.name):
        new = checked(beam, **figures)
    said = ", ".join(f"{units.plain_words(n)} {_shown(n, v)}" for n, v in figures.items())
    return _with(project, beam, new, said)


def hang(project: Project, beam_id: str, item_id: str, *, on: bool) -> Change:
    """Hang a part on a beam, or take it off."""
    beam, item = by_id(project.concept.beams, beam_id, "beam"), find_item(project, item_id)
    if on and item_id == beam.item:
        raise ProjectError(f"{item.name} is the beam itself; its own weight counts already.")
    kept = tuple(c for c in beam.carries if c.item != item_id)
    carries = (*kept, Carries(item=item_id)) if on else kept
    return _with(project, beam, beam.but(carries=carries), f"{item.name} {'hangs on it' if on else 'is off it'}")


def remade(project: Project, beam_id: str, material: str) -> Change:
    """Make it of another material: the part that it is weighs as much more or less, and is an estimate from then on."""
    beam = by_id(project.concept.beams, beam_id, "beam")
    after = set_beam(project, beam_id, material=material).after
    item = next((i for i in after.concept.items if i.id == beam.item), None)
    if item is not None and item.part.mass_kg is not None:
        mass = item.part.mass_kg * GRADES[material].density_kg_m3 / GRADES[beam.material].density_kg_m3
        new = item.but(part=item.part.but(mass_kg=mass), knowledge="estimate")
        after = with_concept(after, items=replaced(after.concept.items, item, new))
    return Change(project, after, f"{beam.name} in {material}")


def _shown(name: str, value: Any) -> str:
    return value or "none" if isinstance(value, str) else "none" if value is None else units.show_named(name, value)


def _with(project: Project, old: Beam, new: Beam, said: str) -> Change:
    beams = replaced(project.concept.beams, old, new)
    return Change(project, with_concept(project, beams=beams), f"{old.name}: {said}")
