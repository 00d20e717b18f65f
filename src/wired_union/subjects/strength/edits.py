"""Edits of what must bear, fit together or be dropped. Each returns a Change, or raises ProjectError."""

from functools import partial
from typing import Any

from wired_union.physics.materials import GRADES
from wired_union.project.change import Change, by_id, find_item, new_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.strength_model import TEST_KINDS, Deviation, PlateTest, TolerancesTest
from wired_union.project.structure_model import Carries
from wired_union.project.value import BadFigure, made

set_test = partial(set_listed, room="borne", word="test")
remove_test = partial(remove_listed, room="borne", word="test")


def add_test(project: Project, kind: str, name: str, **figures: Any) -> Change:
    """Look at something that must bear: plate, bolts, tether, tolerances, growth, drop or lift."""
    if kind not in TEST_KINDS:
        raise ProjectError(f"There is no kind “{kind}”. There are: {', '.join(TEST_KINDS)}.")
    return add_listed(project, "borne", TEST_KINDS[kind], "thing to look at", name, **figures)


def lay_on(project: Project, test_id: str, item_id: str, *, on: bool) -> Change:
    """Lay a part on a plate, or take it off."""
    test, item = by_id(project.concept.borne, test_id, "plate"), find_item(project, item_id)
    if not isinstance(test, PlateTest):
        raise ProjectError(f"{test.name} is no plate; nothing lies on it.")
    if on and item_id == test.item:
        raise ProjectError(f"{item.name} is the plate itself; its own weight counts already.")
    kept = tuple(c for c in test.carries if c.item != item_id)
    new = test.but(carries=(*kept, Carries(item=item_id)) if on else kept)
    tests = replaced(project.concept.borne, test, new)
    words = f"{item.name} {'lies on it' if on else 'is off it'}"
    return Change(project, with_concept(project, borne=tests), f"{test.name}: {words}")


def remade(project: Project, test_id: str, material: str) -> Change:
    """A plate of another material: the part that it is weighs as much more or less, an estimate from then on."""
    test = by_id(project.concept.borne, test_id, "plate")
    if not isinstance(test, PlateTest):
        raise ProjectError(f"{test.name} is no plate.")
    after = set_test(project, value_id=test_id, material=material).after
    item = next((i for i in after.concept.items if i.id == test.item), None)
    if item is not None and item.part.mass_kg is not None:
        mass = item.part.mass_kg * GRADES[material].density_kg_m3 / GRADES[test.material].density_kg_m3
        new = item.but(part=item.part.but(mass_kg=mass), knowledge="estimate")
        after = with_concept(after, items=replaced(after.concept.items, item, new))
    return Change(project, after, f"{test.name} in {material}")


def set_deviation(project: Project, test_id: str, name: str, off_m: float | None) -> Change:
    """One size in a row: how far it may be off; None takes it out. A new name is a new size."""
    test = by_id(project.concept.borne, test_id, "row of sizes")
    if not isinstance(test, TolerancesTest):
        raise ProjectError(f"{test.name} is no row of sizes.")
    name = name.strip()
    if not name:
        raise ProjectError("Give the size a name, such as “lid”.")
    old = next((d for d in test.sizes if d.name == name), None)
    kept = tuple(d for d in test.sizes if d is not old)
    if off_m is not None:
        try:
            size_id = old.id if old else new_id(name, (d.id for d in test.sizes))
            size = made(Deviation, id=size_id, name=name, off_m=off_m)
        except BadFigure as error:
            raise ProjectError(f"{name}: {error.reason}.") from error
        kept = tuple(size if d is old else d for d in test.sizes) if old else (*kept, size)
    tests = replaced(project.concept.borne, test, test.but(sizes=kept))
    return Change(project, with_concept(project, borne=tests), f"{test.name}: {name} {'changed' if old else 'added'}")
