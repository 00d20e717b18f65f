"""How long a motor may be blocked before its winding is too hot, and how long it must rest then."""

import math

from msgspec import Struct

from wired_union.physics.heat import STILL_AIR_W_PER_M2_K, winding_peak_k, winding_stall
from wired_union.project.model import Concept, Item
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


class Winding(Struct, frozen=True):
    """One motor's winding while it is blocked: what it burns, to what it sheds that, and how fast."""

    heat_w: float
    resistance_k_per_w: float
    capacity_j_per_k: float


def winding_of(item: Item, volts: float, limit_a: float = math.inf) -> Winding | None:
    """A winding at a voltage, held to a current by its driver; None where a figure is not known."""
    motor, area, mass = constants_of(item.part), surface_m2(item.part), item.part.mass_kg
    if motor is None or area is None or not mass or not math.isfinite(volts):
        return None
    amperes = min(volts / motor.resistance_ohm, limit_a)
    to_air = 1 / (STILL_AIR_W_PER_M2_K * area)
    return Winding(amperes**2 * motor.resistance_ohm, WINDING_TO_CAN * to_air, COPPER_SHARE * mass * COPPER_J_PER_KG_K)


def blocked(item: Item, volts: float, can_c: float, limit_a: float = math.inf) -> Blocked | None:
    """One motor blocked at a voltage; None where a figure is not known, or its can is too hot by itself."""
    own = winding_of(item, volts, limit_a)
    if own is None or can_c >= WINDING_LIMIT_C:
        return None
    found = winding_stall(own.heat_w, own.resistance_k_per_w, own.capacity_j_per_k, 0.0, WINDING_LIMIT_C - can_c)
    return Blocked(found.may_last_s, found.must_rest_s, can_c)


def hottest_c(own: Winding, can_c: float, on_s: float, rest_s: float) -> float:
    """How hot a winding gets that is blocked again and again."""
    tau = own.resistance_k_per_w * own.capacity_j_per_k
    return can_c + winding_peak_k(own.heat_w, own.resistance_k_per_w, tau, on_s, rest_s)


def times_blocked(concept: Concept, item_id: str) -> tuple[float, float, str] | None:
    """The longest that an item is blocked at a time, the shortest rest after it, and the mode; None where it never is.

    A mode blocks what is at its peak in it, for its share of the time and in one go. Phases that follow each other are
    one; after the last of a mission that goes round the first comes again.
    """
    uses = {m.id: next((u for u in m.uses if u.item == item_id), None) for m in concept.modes}
    spells: list[list[float]] = []
    now, where = 0.0, ""
    for phase in concept.mission.phases:
        use = uses.get(phase.mode)
        on = phase.duration_s * use.duty if use is not None and use.state == "peak" else 0.0
        if on > 0 and spells and spells[-1][1] == now:
            spells[-1][1] = now + on
        elif on > 0:
            spells.append([now, now + on])
        where = phase.mode if on > 0 and on >= max(b - a for a, b in spells) else where
        now += phase.duration_s
    if not spells:
        return None
    again = spells[0][0] + now if concept.mission.repeats > 1 else math.inf
    ends = [*(b[0] for b in spells[1:]), again]
    longest = max(b - a for a, b in spells)
    return longest, min(max(e - s[1], 0.0) for s, e in zip(spells, ends, strict=True)), where
