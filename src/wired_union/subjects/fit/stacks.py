"""Heights of stacks with their spacers, and whether a tube takes them."""

import math

from msgspec import Struct

from wired_union.kernel.subject import Node
from wired_union.project.fit_model import Stack
from wired_union.project.model import Concept, Item, Part, Project


class Slice(Struct, frozen=True):
    """One layer of a stack: where it begins and how thick it is."""

    name: str
    bottom_m: float
    thick_m: float
    across_m: float | None
    """its diagonal, lying flat; None where its size is not known"""


class StackResult(Struct, frozen=True):
    """How high a stack is, and the widest of its layers."""

    stack: Stack
    slices: tuple[Slice, ...]
    missing: tuple[str, ...]

    @property
    def height_m(self) -> float:
        """From the lowest face to the highest; the spacer above the last layer counts for nothing."""
        return max((s.bottom_m + s.thick_m for s in self.slices), default=0.0)

    @property
    def across_m(self) -> float:
        return max((s.across_m for s in self.slices if s.across_m is not None), default=0.0)


def _diagonal(part: Part) -> float | None:
    if part.length_m is None or part.width_m is None:
        return None
    return math.hypot(part.length_m, part.width_m)


def stack_of(stack: Stack, items: dict[str, Item]) -> StackResult:
    """Its layers one above the other."""
    slices, missing, top = [], [], 0.0
    for layer in stack.layers:
        item = items[layer.item]
        thick, across = item.part.height_m, _diagonal(item.part)
        if thick is None:
            missing.append(f"{item.name}: its height")
            continue
        if across is None and stack.tube_m is not None:
            missing.append(f"{item.name}: its length and width")
        for _ in range(layer.copies):
            slices.append(Slice(item.name, top, thick, across))
            top += thick + layer.spacer_m
    if not stack.layers:
        missing.append(f"{stack.name}: what lies in it")
    return StackResult(stack, tuple(slices), tuple(missing))


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    named = {x.item for s in concept.stacks for x in s.layers}
    sizes = tuple(
        (i.id, i.name, i.part.length_m, i.part.width_m, i.part.height_m) for i in concept.items if i.id in named
    )
    return concept.stacks, sizes


def stacks_of(concept: Concept) -> tuple[StackResult, ...]:
    """Every stack."""
    items = {i.id: i for i in concept.items}
    return tuple(stack_of(s, items) for s in concept.stacks)


STACKS = Node("stacks", _read, lambda project, _: stacks_of(project.concept))
