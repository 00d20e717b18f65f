"""How a machine stands on its wheels, for what drives it: the axles, what each carries, and where the weight is."""

from collections.abc import Container, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.subject import Node
from wired_union.physics.balance import wheel_loads
from wired_union.project.model import Concept, Project, WheelLoad
from wired_union.subjects.mass.balance import BALANCE, Balance, Contact, Spot
from wired_union.subjects.mass.envelope import envelope_of

ONE_AXLE = 0.1
"""Wheels stand on one axle when they are no further apart than this share of the way to the other axle."""
DIGITS = 9
LEAST_RADIUS_M = 1e-6
"""A smaller wheel rolls over nothing that could be worked out."""


NOT_TWO_AXLES = "a step with other than two axles of wheels"


class Axle(Struct, frozen=True):
    """Wheels beside each other: where, how large, how many, and how many of them may be driven."""

    x_m: float
    radius_m: float
    wheels: int
    driven: int


class Under(Struct, frozen=True):
    """What a step might touch: from where to where, forward of the rear axle, and how high over the floor."""

    item: str
    """id of the part; "" for a belly of which the height is given"""
    from_m: float
    to_m: float
    height_m: float
    sure: bool = True
    """Whether it is there; else it may be anywhere in that room"""


class Axles(Struct, frozen=True):
    """Two axles, with the range that the centre of mass may be in."""

    rear: Axle
    front: Axle
    driven: tuple[str, ...]
    """Which may be driven: "front", "rear" or "both"; more than one where nobody says."""
    centre_x_m: tuple[float, float]
    """Least and most, from the rear axle forward."""
    centre_z_m: tuple[float, float]
    """Least and most, above the floor."""
    track_m: float
    """From the left wheels to the right ones."""
    under: tuple[Under, ...] = ()
    """What hangs lower than its wheels are high."""
    under_lacks: tuple[str, ...] = ()
    """What keeps all of that from being known, in words."""

    @property
    def wheelbase_m(self) -> float:
        return self.front.x_m - self.rear.x_m


class Stance(Struct, frozen=True):
    """What places say of a load on wheels."""

    load: str
    pressed: float | None = None
    """Least share of the weight on the driven wheels on the flat, wherever the centre of mass may be."""
    axles: Axles | None = None
    """Where it stands on two axles of wheels and nothing else."""
    lacks: tuple[str, ...] = ()
    """What keeps the axles from being known, in words, once anything has a place."""
    posed: tuple["InPose", ...] = ()
    """The same in every pose that moves or weighs something else."""


class InPose(Struct, frozen=True):
    """How a load stands in a pose, and the modes that take it; all of them where none is named."""

    modes: tuple[str, ...]
    stance: Stance


Carried = tuple[Stance, ...]


def stances(concept: Concept, balance: Balance) -> Carried:
    """How each load on wheels stands; none while nothing has a place."""
    if not concept.feet and not any(i.places for i in concept.items) and not any(s.room for s in concept.subsystems):
        return ()
    loads = [x for x in concept.loads if isinstance(x, WheelLoad) and x.wheel]
    return tuple(_in_all_poses(x, balance) for x in loads)


def stance_in(stance: Stance, modes: Container[str]) -> Stance:
    """How it stands at the worst of some modes: as built, or in a pose that one of them takes."""
    for pose in stance.posed:
        if not pose.modes or any(m in modes for m in pose.modes):
            stance = _worse_of(stance, pose.stance)
    return stance


def _worse_of(one: Stance, other: Stance) -> Stance:
    """The least share pressed, and the weight anywhere that either has it; what one does not know neither does."""
    known = one.pressed is not None and other.pressed is not None
    pressed = min(one.pressed, other.pressed) if known else None  # type: ignore[type-var]
    lacks = tuple(dict.fromkeys((*one.lacks, *other.lacks)))
    if one.axles is None or other.axles is None:
        return Stance(one.load, pressed, None, lacks, one.posed)
    spans = (_both(getattr(one.axles, f), getattr(other.axles, f)) for f in ("centre_x_m", "centre_z_m"))
    centre_x_m, centre_z_m = spans
    under = {f: tuple(dict.fromkeys((*getattr(one.axles, f), *getattr(other.axles, f)))) for f in UNDER}
    axles = replace(one.axles, centre_x_m=centre_x_m, centre_z_m=centre_z_m, **under)
    return Stance(one.load, pressed, axles, lacks, one.posed)


UNDER = ("under", "under_lacks")


def _both(one: tuple[float, float], other: tuple[float, float]) -> tuple[float, float]:
    return min(one[0], other[0]), max(one[1], other[1])


def _in_all_poses(load: WheelLoad, balance: Balance) -> Stance:
    moved = [p for p in balance.poses if p.pose.shifts]
    posed = tuple(
        InPose(tuple(m.mode for m in p.pose.modes), _stance(load, p.balance, {s.item for s in p.pose.shifts}))
        for p in moved
    )
    return replace(_stance(load, balance), posed=posed)


def _stance(load: WheelLoad, balance: Balance, shifted: Container[str] | None = None) -> Stance:
    """In a pose, what hangs under it is of what that shifts alone: the rest hangs as built."""
    axles = axles_of(load, balance, shifted)
    lacks = () if axles is not None else balance.missing or (NOT_TWO_AXLES,)
    return Stance(load.id, _pressed(load, balance), axles, lacks)


def _pressed(load: WheelLoad, balance: Balance) -> float | None:
    """Of more wheels than are driven, and where nobody says which, the least loaded ones count."""
    contacts, driven = balance.contacts, min(load.driven_wheels, load.wheels)
    falls = min((t.least_deg for t in balance.tips), default=0.0) < 0
    if len(contacts) > 2 and driven >= len(contacts) and all(c.item == load.wheel for c in contacts):
        return None if falls else 1.0  # wherever the weight is
    if not balance.tips:
        return None
    among = _of_axle(load, contacts)
    mine = [n for n, c in enumerate(contacts) if c.item == load.wheel and (among is None or n in among)]
    share = _least_share(balance, mine, driven)
    return None if share is None else round(share, DIGITS)


def _of_axle(load: WheelLoad, contacts: Sequence[Contact]) -> tuple[int, ...] | None:
    """Numbers of the wheels on the axle that is said to be driven; None where any may be."""
    groups = two_axles(contacts)
    if load.driven_axle == "any" or groups is None:
        return None
    return groups[load.driven_axle == "front"]


def two_axles(contacts: Sequence[Contact]) -> tuple[tuple[int, ...], tuple[int, ...]] | None:
    """Numbers of the contacts of the rear and of the front axle; None where they do not stand on two axles."""
    if not contacts:
        return None
    middle = (min(c.x_m for c in contacts) + max(c.x_m for c in contacts)) / 2
    rear = tuple(n for n, c in enumerate(contacts) if c.x_m < middle)
    front = tuple(n for n, c in enumerate(contacts) if c.x_m >= middle)
    spread = [np.ptp([contacts[n].x_m for n in group]) for group in (rear, front) if group]
    apart = max(c.x_m for c in contacts) - min(c.x_m for c in contacts)
    return (rear, front) if rear and apart > 0 and max(spread) <= ONE_AXLE * apart else None


def axles_of(load: WheelLoad, balance: Balance, shifted: Container[str] | None = None) -> Axles | None:
    """The two axles that a load on wheels drives on; None where there are others, feet, or too little is known."""
    contacts, groups = balance.contacts, two_axles(balance.contacts)
    if balance.missing or groups is None or balance.centre_range is None or not all(c.item for c in contacts):
        return None
    if min(c.radius_m for c in contacts) < LEAST_RADIUS_M or not any(c.item == load.wheel for c in contacts):
        return None
    mine = [[n for n in group if contacts[n].item == load.wheel] for group in groups]
    driven = min(load.driven_wheels, load.wheels)
    parts = [_axle(contacts, group, min(driven, len(own))) for group, own in zip(groups, mine, strict=True)]
    low, high = balance.centre_range
    x0 = parts[0].x_m
    sides = [contacts[n].y_m for group in groups for n in group]
    return Axles(
        parts[0], parts[1], _may_be_driven(load, driven, [len(own) for own in mine]),
        (round(low[0] - x0, DIGITS), round(high[0] - x0, DIGITS)),
        (round(low[2] - balance.floor_m, DIGITS), round(high[2] - balance.floor_m, DIGITS)),
        round(max(sides) - min(sides), DIGITS), *(_under(balance, x0, shifted) if load.step_m else ((), ())),
    )  # fmt: skip


def _under(
    balance: Balance, rear_x_m: float, shifted: Container[str] | None
) -> tuple[tuple[Under, ...], tuple[str, ...]]:
    """What hangs lower than the wheels are high, besides those, and what is not known of that."""
    concept, highest = balance.concept, 2 * max(c.radius_m for c in balance.contacts)
    others = concept.but(items=tuple(
        i for i in concept.items if i.part.wheel is None and (shifted is None or i.id in shifted)
    ))  # fmt: skip
    found = envelope_of(others)
    every = [(b, True) for b in found.boxes] + [(b, False) for b in found.rooms]
    low = [(b, sure) for b, sure in every if b.low[2] - balance.floor_m < highest]
    return tuple(dict.fromkeys(
        Under(b.item, round(b.low[0] - rear_x_m, DIGITS), round(b.high[0] - rear_x_m, DIGITS),
              round(b.low[2] - balance.floor_m, DIGITS), sure)
        for b, sure in low
    )), found.lacks  # fmt: skip


def _axle(contacts: Sequence[Contact], group: Sequence[int], driven: int) -> Axle:
    own = [contacts[n] for n in group]
    x = sum(c.x_m for c in own) / len(own)
    return Axle(round(x, DIGITS), round(min(c.radius_m for c in own), DIGITS), len(own), driven)


def _may_be_driven(load: WheelLoad, driven: int, mine: Sequence[int]) -> tuple[str, ...]:
    rear, front = mine
    if driven >= rear + front:
        return ("both",) if rear and front else ("front",) if front else ("rear",)
    if load.driven_axle != "any" and (front if load.driven_axle == "front" else rear):
        return (load.driven_axle,)
    return tuple(name for name, count in (("rear", rear), ("front", front)) if count)


class Centre(Struct, frozen=True):
    """Where the centre of mass may be, least and most of each coordinate, and what the whole may weigh."""

    low: Spot
    high: Spot
    least_kg: float
    most_kg: float


class Whereabouts(Struct, frozen=True):
    """The centre of mass as built and in every pose, with the modes that take it; what is not known of any."""

    built: Centre | None
    posed: tuple[tuple[tuple[str, ...], Centre | None], ...]
    missing: tuple[str, ...]

    def within(self, modes: Container[str]) -> Centre | None:
        """All of where it may be in some modes; None where that is not known."""
        found = self.built
        for taken, other in self.posed:
            if taken and not any(m in modes for m in taken):
                continue
            if found is None or other is None:
                return None
            low = tuple(map(min, found.low, other.low))
            high = tuple(map(max, found.high, other.high))
            found = Centre(low, high, min(found.least_kg, other.least_kg), max(found.most_kg, other.most_kg))  # type: ignore[arg-type]
        return found


def _centre(balance: Balance) -> Centre | None:
    if balance.centre_range is None or balance.table is None:
        return None
    low, high = balance.centre_range
    return Centre(low, high, float(balance.table.least_kg.sum()), float(balance.table.most_kg.sum()))


def whereabouts(balance: Balance) -> Whereabouts:
    """Where the centre of mass is, as far as places and masses say."""
    posed = tuple((tuple(m.mode for m in p.pose.modes), _centre(p.balance)) for p in balance.poses if p.pose.shifts)
    lacks = () if balance.table is not None else balance.lacking or ("where its parts are",)
    return Whereabouts(_centre(balance), posed, lacks)


CENTRE = Node("centre of mass", lambda _: (), lambda _, given: (whereabouts(given.of(BALANCE)),), (BALANCE,))
"""Where the centre of mass is, in a tuple so that an equal one is the same: what floats rights itself by it."""

CARRIED = Node("carried by wheels", lambda project: (project.concept.loads,),
               lambda project, given: _work(project, given.of(BALANCE)), (BALANCE,))  # fmt: skip
"""How it stands on its wheels, where places say it: grip and steps are counted by that."""


def _work(project: Project, balance: Balance) -> Carried:
    return stances(project.concept, balance)


def _least_share(balance: Balance, mine: Sequence[int], driven: int) -> float | None:
    """Least share of the weight on so many of some contacts, wherever the centre may be; None where it falls."""
    if balance.centre_range is None:
        return None
    (x0, y0, _), (x1, y1, _) = balance.centre_range
    x_m, y_m = [c.x_m for c in balance.contacts], [c.y_m for c in balance.contacts]
    shares = []
    for x, y in {(x, y) for x in (x0, x1) for y in (y0, y1)}:
        try:
            loads = np.sort(np.array(wheel_loads(x_m, y_m, 1.0, x, y).load_n)[list(mine)])
        except ValueError:  # with its centre there it falls
            return None
        shares.append(float(loads[:driven].sum()))
    return min(shares)
