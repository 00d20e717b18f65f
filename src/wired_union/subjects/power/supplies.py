"""Supplies that do not run down: a mains adapter, a USB port, a bench supply, a tether.

A supply is a voltage behind a resistance; above its current it limits or switches off. It feeds loads of its own, or
stands in for one pack: in the modes in which it is plugged in it carries all that hangs on the pack (an ideal switch;
the pack is not charged meanwhile).
"""

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Item
from wired_union.subjects.power.tree import Node

CONTACT_OHM = 1e-6
"""Least resistance of what changes over, so that a current follows from its voltage."""


class SupplyFigures(Struct, frozen=True, eq=False):
    """A supply ready to be asked. Copies side by side do not share: they count as one."""

    item: Item
    output_v: float
    resistance_ohm: float

    @property
    def highest_v(self) -> float:
        """Voltage without load: what hangs on it must survive that."""
        return self.output_v

    @property
    def rested_v(self) -> float:
        return self.output_v

    def along(self, charges: Array, plugged_in: Array) -> tuple[Array, float | Array]:
        """Voltage without load and resistance at several instants; it has no charge to lose."""
        return np.full(charges.shape, self.output_v), self.resistance_ohm


class SupplyResult(Struct, frozen=True, eq=False):
    """A supply at the worst instant of every mode; not a number where it cannot deliver."""

    node: Node
    figures: SupplyFigures
    peak_current_a: tuple[float, ...]
    peak_voltage_v: tuple[float, ...]

    @property
    def delivers(self) -> bool:
        """Whether it gives what every mode asks for at its worst instant."""
        return all(a == a for a in self.peak_current_a)


def supply_figures(item: Item) -> SupplyFigures:
    """Figures of a supply. Raises AssertionError for an item that is none."""
    supply = item.part.supply
    assert supply is not None
    return SupplyFigures(item, supply.output_v, supply.resistance_ohm or 0.0)
