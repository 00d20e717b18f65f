"""Converters whose efficiency follows their input voltage too.

At a given output, what a converter takes is what it gives, what its resistances burn, and what its switching and its
drive lose, which grows about in proportion to the input voltage (Erickson & Maksimović, Fundamentals of Power
Electronics, on switching loss; cited from memory). So between the two input voltages at which it was measured its input
power runs straight, P(V) = a + b·V, and its current a/V + b is of the kind that a tree is solved with. Outside them
the power is held at the nearer one.
"""

from functools import lru_cache
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.converter import Curve, envelope
from wired_union.project.model import Regulator


def curves_of(regulator: Regulator) -> tuple[Curve, ...]:
    """The efficiency curves that are given; none where nothing is known."""
    return tuple(c for c in (regulator.efficiency_curve, regulator.second_efficiency_curve) if c)


def at_two(regulator: Regulator) -> tuple[tuple[float, Curve], tuple[float, Curve]] | None:
    """Two input voltages, rising, with the curve at each; None where efficiency is not known to follow them."""
    one, other = regulator.curve_input_v, regulator.second_curve_input_v
    if len(curves_of(regulator)) < 2 or one is None or other is None or one == other:
        return None
    pair = ((one, regulator.efficiency_curve), (other, regulator.second_efficiency_curve))
    return pair if one < other else pair[::-1]


@lru_cache(maxsize=4096)
def best_curve(regulator: Regulator) -> Curve:
    """The most that it does at any input voltage: of two curves the upper one everywhere. () where none is known."""
    curves = curves_of(regulator)
    return envelope(*curves) if len(curves) == 2 else curves[0] if curves else ()


class Bent(Struct, frozen=True, eq=False):
    """What one converter takes at two input voltages. Shapes (instants,)."""

    point: int
    low_v: Array
    high_v: Array
    low_w: Array
    high_w: Array

    @property
    def slope_a(self) -> Array:
        """Watts for a volt between the two."""
        return (self.high_w - self.low_w) / (self.high_v - self.low_v)

    def rows(self, extra: int) -> "Bent":
        """The same with axes behind the instants."""
        shape = (slice(None), *(None,) * extra)
        return Bent(self.point, *(t[shape] for t in (self.low_v, self.high_v, self.low_w, self.high_w)))

    def watts_at(self, volts: Any) -> Any:
        """Input power at an input voltage."""
        along = np.clip((volts - self.low_v) / (self.high_v - self.low_v), 0.0, 1.0)
        return self.low_w + (self.high_w - self.low_w) * along

    def side_of(self, volts: Any, before: Any) -> Any:
        """Where a voltage lies: −1 below both, 0 between, 1 above. What cannot deliver is tried one step further down:
        a power held level may be had where one that still rises may not.
        """
        side = np.where(volts <= self.low_v, -1, np.where(volts >= self.high_v, 1, 0))
        return np.where(np.isnan(volts), np.maximum(before - 1, -1), side)

    def draws_on(self, side: Any) -> tuple[Any, Any]:
        """Amperes and watts, I(V) = amperes + watts/V, where the voltage is known to lie on a side."""
        watts = np.where(side < 0, self.low_w, self.high_w)
        return np.where(side == 0, self.slope_a, 0.0), np.where(
            side == 0, self.low_w - self.slope_a * self.low_v, watts
        )
