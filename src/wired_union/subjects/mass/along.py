"""How it stands along the mission: phase by phase, the pose of that mode in which it tips first."""

import math

from msgspec import Struct

from wired_union.project.model import Concept
from wired_union.subjects.mass.balance import AS_IT_STANDS, Balance, Posed


class PhaseStand(Struct, frozen=True):
    """A phase of the mission with how it stands in it."""

    number: int
    mode: str
    """its name"""
    duration_s: float
    pose: str
    """id of the pose in which it tips first; "" for as it stands"""
    pose_name: str
    tips_deg: float | None
    """slope at which it tips, at least; None where that is not known"""


def stands_along(concept: Concept, every: Balance) -> tuple[PhaseStand, ...]:
    """A stand for each phase: of the poses that its mode takes, and as it stands where none names it."""
    names = {m.id: m.name for m in concept.modes}
    found = []
    for number, phase in enumerate(concept.mission.phases):
        own = [p for p in every.poses if any(m.mode == phase.mode for m in p.pose.modes)]
        free = [p for p in every.poses if not p.pose.modes]
        taken = [*own, *free] if own else [Posed(AS_IT_STANDS, every, every.tips), *free]
        known = all(p.first is not None and not p.balance.missing for p in taken)
        first = min(taken, key=_tips)
        pose = "" if first.pose is AS_IT_STANDS else first.pose.id
        found.append(PhaseStand(number, names[phase.mode], phase.duration_s, pose, first.pose.name,
                                _tips(first) if known else None))  # fmt: skip
    return tuple(found)


def _tips(posed: Posed) -> float:
    return posed.first.least_deg if posed.first is not None else math.inf
