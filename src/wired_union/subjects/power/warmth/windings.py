"""How long a motor may be blocked before its winding is too hot, and how long it must rest then."""

import math

from msgspec import Struct

from wired_union.physics.heat import STILL_AIR_W_PER_M2_K, winding_stall
from wired_union.project.model import Item
from wired_union.subjects.motion.gives import constants_of
from wired_union.subjects.power.warmth.setting import surface_m2

COPPER_SHARE, COPPER_J_PER_KG_K = 0.12, 385.0
"""Share of a gearmotor's mass that is copper: 0.1 to 0.2, common practice; the heat capacity of copper."""
WINDING_TO_CAN = 0.4
"""Resistance to heat from winding to can, as a share of that from can to air: common practice."""
WINDING_LIMIT_C = 130.0
"""Of varnish of class 130, IEC 60085 (cited from memory)."""


class Blocked(Struct, frozen=True):
    """From a can as warm as it gets on the mission: how long it may be blocked, and must rest after that."""

    may_last_s: float
    must_rest_s: float
    can_c: float


def blocked(item: Item, volts: float, can_c: float) -> Blocked | None:
    """One motor blocked at a voltage; None where a figure is not known, or its can is too hot by itself."""
    motor, area, mass = constants_of(item.part), surface_m2(item.part), item.part.mass_kg
    if motor is None or area is None or not mass or not math.isfinite(volts) or can_c >= WINDING_LIMIT_C:
        return None
    held = volts**2 / motor.resistance_ohm
    to_air = 1 / (STILL_AIR_W_PER_M2_K * area)
    found = winding_stall(held, WINDING_TO_CAN * to_air, COPPER_SHARE * mass * COPPER_J_PER_KG_K, 0.0,
                          WINDING_LIMIT_C - can_c)  # fmt: skip
    return Blocked(found.may_last_s, found.must_rest_s, can_c)
