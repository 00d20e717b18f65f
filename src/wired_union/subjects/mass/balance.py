"""What stands: where the weight acts, what carries it, and at which slope it tips over which edge.

A copy without a place counts with the whole room of its subsystem, a mass with its whole allowance: every figure comes
with the range that follows. The system margin is taken to sit where the parts do.
"""

import math
from collections.abc import Iterator, Sequence
from itertools import product

import numpy as np
from msgspec import Struct

from wired_union.kernel.subject import Node
from wired_union.physics.balance import Edge, Point, edges_of, support_polygon, wheel_loads
from wired_union.physics.battery import Array
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.growth import ALLOWANCES
from wired_union.project.model import Concept, Item, Place, Project, Room
from wired_union.units import show

ONE_FLOOR_M = 0.002
"""How far the lower ends of wheels and feet may differ and still stand on one floor."""
MOST_NAMED = 3


class Contact(Struct, frozen=True):
    """Where something stands on the floor: a copy of a wheel, or a foot."""

    name: str
    x_m: float
    y_m: float
    bottom_m: float
    item: str = ""

    @property
    def point(self) -> Point:
        return self.x_m, self.y_m


class Lump(Struct, frozen=True):
    """One copy of a part: its mass from least to most, and the box that its middle is in."""

    item: Item
    copy: int
    least_kg: float
    most_kg: float
    low: tuple[float, float, float]
    high: tuple[float, float, float]

    @property
    def placed(self) -> bool:
        return self.low == self.high


def corners_of(lump: Lump) -> list[tuple[float, float, float]]:
    """The corners of a placed copy as a box: tilted, then turned."""
    part, place = lump.item.part, lump.item.places[lump.copy]
    tilt, turn = math.radians(place.tilt_deg), math.radians(place.turn_deg)
    found = []
    for a, b, c in product((-0.5, 0.5), repeat=3):
        along, y, up = a * (part.length_m or 0.0), b * (part.width_m or 0.0), c * (part.height_m or 0.0)
        x, z = along * math.cos(tilt) - up * math.sin(tilt), along * math.sin(tilt) + up * math.cos(tilt)
        found.append((place.x_m + x * math.cos(turn) - y * math.sin(turn),
                      place.y_m + x * math.sin(turn) + y * math.cos(turn), place.z_m + z))  # fmt: skip
    return found


class Tip(Struct, frozen=True):
    """An edge it may tip over: at what slope, and from least to most as far as places and masses are known."""

    edge: Edge
    way: str
    least_deg: float
    most_deg: float


class Balance(Struct, frozen=True):
    """What follows from where things are."""

    lumps: tuple[Lump, ...]
    contacts: tuple[Contact, ...]
    missing: tuple[str, ...]
    floor_m: float = 0.0
    centre_low: tuple[float, float, float] | None = None
    centre_high: tuple[float, float, float] | None = None
    tips: tuple[Tip, ...] = ()
    loads_n: tuple[float, ...] = ()
    """On each contact, with the centre in the middle of its range; () where it does not stand."""

    @property
    def centre(self) -> tuple[float, float, float] | None:
        """The middle of the range of its centre of mass."""
        if self.centre_low is None or self.centre_high is None:
            return None
        x, y, z = ((a + b) / 2 for a, b in zip(self.centre_low, self.centre_high, strict=True))
        return x, y, z

    @property
    def first(self) -> Tip | None:
        """The edge it tips over first."""
        return min(self.tips, key=lambda t: t.least_deg, default=None)


def assess_balance(concept: Concept) -> Balance:
    """Where the weight acts and over which edge it tips; what that lacks, in words."""
    lumps, lacks = _lumps(concept)
    contacts, unsure = _contacts(concept)
    if not concept.items:
        return Balance((), contacts, ("any part at all", *unsure))
    if lacks:
        return Balance(lumps, contacts, (*lacks, *unsure))
    low, high = _centre_range(lumps)
    if unsure:
        return Balance(lumps, contacts, unsure, centre_low=low, centre_high=high)
    floor = sum(c.bottom_m for c in contacts) / len(contacts)
    tips = tuple(_tip(edge, lumps, floor) for edge in edges_of(support_polygon([c.point for c in contacts])))
    made = Balance(lumps, contacts, (), floor, low, high, tips)
    return Balance(lumps, contacts, (), floor, low, high, tips, _loads(made))


def _lumps(concept: Concept) -> tuple[tuple[Lump, ...], tuple[str, ...]]:
    """Every copy with where it may be; what is not known of them, in words."""
    rooms = {s.id: s.room for s in concept.subsystems}
    found: list[Lump] = []
    unweighed, lost = [], []
    for item in concept.items:
        if item.part.mass_kg is None:
            unweighed.append(item.name)
            continue
        for copy in range(item.count):
            where = _where(item, copy, rooms[item.subsystem])
            if where is None:
                lost.append(item.name)
                break
            mass = item.part.mass_kg
            found.append(Lump(item, copy, mass, mass * (1 + ALLOWANCES[item.knowledge]), *where))
    lacks = [f"{name}: its mass" for name in unweighed]
    if lost:
        more = f" and {len(lost) - MOST_NAMED} more" if len(lost) > MOST_NAMED else ""
        lacks.append(f"where {', '.join(lost[:MOST_NAMED])}{more} {'is' if len(lost) == 1 else 'are'}")
    return tuple(found), tuple(lacks)


def _where(
    item: Item, copy: int, room: Room | None
) -> tuple[tuple[float, float, float], tuple[float, float, float]] | None:
    if copy < len(item.places):
        place = item.places[copy]
        return (place.x_m, place.y_m, place.z_m), (place.x_m, place.y_m, place.z_m)
    if room is None:
        return None
    sides = ((room.back_m, room.front_m), (room.right_m, room.left_m), (room.bottom_m, room.top_m))
    (x0, x1), (y0, y1), (z0, z1) = (sorted(s) for s in sides)
    return (x0, y0, z0), (x1, y1, z1)


def _contacts(concept: Concept) -> tuple[tuple[Contact, ...], tuple[str, ...]]:
    """What stands on the floor; what keeps it from being known, in words."""
    found = [Contact(f.name, f.x_m, f.y_m, f.z_m) for f in concept.feet]
    lost = []
    for item in concept.items:
        if item.part.wheel is None:
            continue
        if len(item.places) < item.count:
            lost.append(item.name)
            continue
        found += _of_wheels(item, item.places[: item.count], item.part.wheel.diameter_m / 2)
    lacks = [f"where each {name} stands" for name in lost]
    if len(support_polygon([c.point for c in found])) < 3:
        lacks.append("what it stands on: three wheels or feet that are not in a line")
    else:
        bottoms = sorted(c.bottom_m for c in found)
        if bottoms[-1] - bottoms[0] > ONE_FLOOR_M:
            apart = show(bottoms[-1] - bottoms[0], "m")
            lacks.append(f"one floor for its wheels and feet: their lower ends are {apart} apart")
    return tuple(found), tuple(lacks)


def _of_wheels(item: Item, places: Sequence[Place], radius_m: float) -> Iterator[Contact]:
    for n, place in enumerate(places, 1):
        name = f"{item.name} {n}" if len(places) > 1 else item.name
        yield Contact(name, place.x_m, place.y_m, place.z_m - radius_m, item.id)


def _centre_range(
    lumps: Sequence[Lump],
) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """Least and most of each coordinate of the centre of mass."""
    table = _table(lumps)
    ones = np.ones(len(lumps))
    low = tuple(_least_ratio(table, table.low[:, k], ones, ones) for k in range(3))
    high = tuple(-_least_ratio(table, -table.high[:, k], ones, ones) for k in range(3))
    return (low[0], low[1], low[2]), (high[0], high[1], high[2])


class _Table(Struct, frozen=True):
    least_kg: Array
    most_kg: Array
    low: Array
    high: Array


def _table(lumps: Sequence[Lump]) -> _Table:
    return _Table(np.array([x.least_kg for x in lumps]), np.array([x.most_kg for x in lumps]),
                  np.array([x.low for x in lumps]), np.array([x.high for x in lumps]))  # fmt: skip


def _least_ratio(table: _Table, top: Array, low: Array, high: Array) -> float:
    """Least Σ m·top / Σ m·bottom over masses from least to most and bottoms from low to high, each free of the others.

    Source: Dinkelbach 1967: at the least ratio r, the least of Σ m·(top − r·bottom) is 0; from any r it falls to it.
    The bottoms are such that their sum is above 0 for every choice.
    """
    bottom = high
    mass = table.least_kg
    ratio = float(mass @ top) / float(mass @ bottom)
    for _ in range(60):
        bottom = high if ratio >= 0 else low
        each = top - ratio * bottom
        mass = np.where(each > 0, table.least_kg, table.most_kg)
        new = float(mass @ top) / float(mass @ bottom)
        if not new < ratio - 1e-15 * max(abs(ratio), 1.0):
            break
        ratio = new
    return ratio


def _tip(edge: Edge, lumps: Sequence[Lump], floor_m: float) -> Tip:
    """The slope at which it tips over an edge, atan(d/h), from least to most."""
    table = _table(lumps)
    way = np.array(edge.inwards)
    nearest = np.where(way > 0, table.low[:, :2], table.high[:, :2]) - edge.one
    furthest = np.where(way > 0, table.high[:, :2], table.low[:, :2]) - edge.one
    low, high = table.low[:, 2] - floor_m, table.high[:, 2] - floor_m
    least = _slope(table, nearest @ way, low, high)
    most = -_slope(table, -(furthest @ way), low, high)
    return Tip(edge, _way(edge), math.degrees(math.atan(least)), math.degrees(math.atan(most)))


def _slope(table: _Table, top: Array, low: Array, high: Array) -> float:
    """Least distance over height; what hangs under the floor as a whole does not tip."""
    mass = np.where(low < 0, table.most_kg, table.least_kg)
    return _least_ratio(table, top, low, high) if float(mass @ low) > 0 else math.copysign(math.inf, float(mass @ top))


def _way(edge: Edge) -> str:
    """Where it falls over an edge, in a word."""
    x, y = -edge.inwards[0], -edge.inwards[1]
    if abs(x) >= abs(y):
        return "forward" if x > 0 else "backward"
    return "to the left" if y > 0 else "to the right"


def _loads(balance: Balance) -> tuple[float, ...]:
    centre = balance.centre
    assert centre is not None
    weight = G * sum((x.least_kg + x.most_kg) / 2 for x in balance.lumps)
    x_m, y_m = [c.x_m for c in balance.contacts], [c.y_m for c in balance.contacts]
    try:
        return tuple(wheel_loads(x_m, y_m, weight, centre[0], centre[1]).load_n)
    except ValueError:  # its centre lies beyond them: it falls
        return ()


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple((i.id, i.name, i.count, i.subsystem, i.knowledge, i.places, i.part.mass_kg, i.part.wheel,
                   i.part.length_m, i.part.width_m, i.part.height_m) for i in concept.items)  # fmt: skip
    return items, tuple((s.id, s.room) for s in concept.subsystems), concept.feet


BALANCE = Node("balance", _read, lambda project, _: assess_balance(project.concept))
