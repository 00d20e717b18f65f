"""Pins of all controllers and expanders, and buses that devices share."""

from msgspec import Struct

from wired_union.project.model import Concept, Item
from wired_union.project.wiring_model import SOCKETS, Ability, Pin
from wired_union.subjects.wiring.wishes import is_controller, is_expander

Device = tuple[str, str, int]
"""What the lines of one copy of a part have in common."""


class Tooth(Struct, frozen=True):
    """One pin of one controller."""

    item: Item
    pin: Pin
    number: int
    family: int

    @property
    def is_socket(self) -> bool:
        """Whether it is a socket that a plug goes into, and no pin."""
        return bool(self.pin.does) and all(d[0] in SOCKETS for d in self.pin.does)

    @property
    def starts(self) -> bool:
        """Whether its level while the controller starts matters."""
        return self.pin.at_start != "free"


class Slot(Struct, frozen=True):
    """Devices that share a bus: what kind, at which family, the wishes for each role."""

    ability: Ability
    family: int
    devices: tuple[Device, ...]
    apart: bool = False
    """whether it is only because an address is taken on another"""


def pins_of(concept: Concept) -> int:
    """How many pins all controllers and expanders have."""
    return sum(len(i.part.board.pins) for i in concept.items if i.part.board is not None)


def teeth_of(concept: Concept) -> tuple[Tooth, ...]:
    """All pins; those of an expander belong to the family of the controller that it is on."""
    controllers = [i for i in concept.items if is_controller(i) and i.part.board is not None]
    family = {i.id: n for n, i in enumerate(controllers)}
    found: list[Tooth] = []
    for item in concept.items:
        if item.part.board is None or not (item.id in family or is_expander(item)):
            continue
        of = family.get(item.id, family.get(item.board, 0))
        copies = item.count if is_expander(item) else 1
        for copy in range(min(copies, 16)):
            for pin in item.part.board.pins:
                named = pin if copy == 0 else pin.but(name=f"{pin.name}-{copy + 1}")
                found.append(Tooth(item, named, len(found), of))
    return tuple(found)
