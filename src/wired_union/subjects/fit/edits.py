"""Edits of what must fit and what must be seen. Each returns a Change, or raises ProjectError with what to do."""

from functools import partial

from wired_union.project.change import Change, by_id, figures_of, find_item, new_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.fit_model import Beams, Clearance, Layer, Sight, Stack
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Project
from wired_union.project.value import checked

add_sight = partial(add_listed, room="sights", of_kind=Sight, word="sight")
set_sight = partial(set_listed, room="sights", word="sight")
remove_sight = partial(remove_listed, room="sights", word="sight")
add_beams = partial(add_listed, room="beam_rows", of_kind=Beams, word="row of beams")
set_beams = partial(set_listed, room="beam_rows", word="row of beams")
remove_beams = partial(remove_listed, room="beam_rows", word="row of beams")
add_stack = partial(add_listed, room="stacks", of_kind=Stack, word="stack")
set_stack = partial(set_listed, room="stacks", word="stack")
remove_stack = partial(remove_listed, room="stacks", word="stack")
set_clearance = partial(set_listed, room="clearances", word="clearance")
remove_clearance = partial(remove_listed, room="clearances", word="clearance")


def add_clearance(project: Project, item_id: str, access: str = "a hand", side: str = "above") -> Change:
    """Keep room free before a side of a part."""
    item, listed = find_item(project, item_id), project.concept.clearances
    new = Clearance(id=new_id(f"{item.id} {access}", (c.id for c in listed)), item=item.id)
    after = with_concept(project, clearances=(*listed, new))
    after = set_clearance(after, value_id=new.id, access=access, side=side).after
    return Change(project, after, f"{access} must reach {item.name} from {side}")


def lay(project: Project, stack_id: str, item_id: str) -> Change:
    """One more layer on a stack: all copies of a part."""
    stack, item = by_id(project.concept.stacks, stack_id, "stack"), find_item(project, item_id)
    if any(x.item == item_id for x in stack.layers):
        raise ProjectError(f"{item.name} lies in it already; say how many copies.")
    layers = (*stack.layers, Layer(item=item.id, copies=item.count))
    return set_layers(project, stack, layers, f"{item.name} lies on top")


def set_layer(project: Project, stack_id: str, item_id: str, **figures: float) -> Change:
    """Copies of a layer, or the spacer above each; no copies take it out."""
    stack, item = by_id(project.concept.stacks, stack_id, "stack"), find_item(project, item_id)
    old = next((x for x in stack.layers if x.item == item_id), None)
    if old is None:
        raise ProjectError(f"{item.name} does not lie in {stack.name}.")
    if figures.get("copies") == 0:
        return set_layers(project, stack, tuple(x for x in stack.layers if x is not old), f"{item.name} taken out")
    with figures_of(item.name):
        new = checked(old, **figures)
    return set_layers(project, stack, tuple(new if x is old else x for x in stack.layers), f"{item.name} changed")


def set_layers(project: Project, stack: Stack, layers: tuple[Layer, ...], said: str) -> Change:
    """A stack with other layers."""
    stacks = replaced(project.concept.stacks, stack, stack.but(layers=layers))
    return Change(project, with_concept(project, stacks=stacks), f"{stack.name}: {said}")
