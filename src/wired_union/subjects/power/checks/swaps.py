"""Remedies that take another part of the same class in a part's place."""

from collections.abc import Callable

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Remedy, possible, tried
from wired_union.project.model import Item, Part
from wired_union.project.part_edits import swap_part
from wired_union.subjects.power.scene import PowerScene

SUGGESTED = 2


def swapped(scene: PowerScene, item: Item, fits: Callable[[Part], bool]) -> tuple[Remedy, ...]:
    """The lightest parts of the catalogue's same class that fit, in the item's place."""
    fitting = sorted(
        (p for p in of_kind(item.part.kind) if p.id != item.part.id and fits(p)), key=lambda p: (p.mass_kg or 0.0, p.id)
    )
    return possible(
        *((f"take {p.name} in its place", tried(swap_part, scene.project, item.id, p)) for p in fitting[:SUGGESTED])
    )
