"""What stands: where the weight acts, what carries it, and at which slope it tips over which edge.

A copy without a place counts with the whole room of its subsystem, a mass with its whole allowance: every figure comes
with the range that follows. The system margin is taken to sit where the parts do.
"""

import math
from collections.abc import Iterator, Sequence
from functools import cached_property
from itertools import product

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from wired_union.kernel.subject import Node
from wired_union.physics.balance import Edge, Point, edges_of, support_polygon, uneven_loads, wheel_loads
from wired_union.physics.battery import Array
from wired_union.physics.constants import STANDARD_GRAVITY_M_S2 as G
from wired_union.physics.growth import ALLOWANCES
from wired_union.physics.wheel import disturbed_deg
from wired_union.project.model import Concept, Item, Place, Pose, Project, Room, Shift
from wired_union.units import show

ONE_FLOOR_M = 0.002
"""How far the lower ends of wheels and feet may differ and still stand on one floor."""
MOST_NAMED, MOST_STEPS, MOST_UNEVEN = 3, 60, 16
MOST_AT_ONCE = 100_000
"""Copies times machines that are solved together, so that the tables stay small."""


Spot = tuple[float, float, float]


class Contact(Struct, frozen=True):
    """Where something stands on the floor: a copy of a wheel, or a foot."""

    name: str
    x_m: float
    y_m: float
    bottom_m: float
    item: str = ""
    radius_m: float = 0.0

    @property
    def point(self) -> Point:
        return self.x_m, self.y_m


class Lump(Struct, frozen=True):
    """One copy of a part that has a place: its mass from least to most, and where its middle is."""

    item: Item
    copy: int
    least_kg: float
    most_kg: float
    at: tuple[float, float, float]


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


class Table(Struct, frozen=True):
    """Masses and places of all copies; those in one room of one kind in a row; shapes (rows,) and (rows, 3)."""

    least_kg: Array
    most_kg: Array
    low: Array
    high: Array


class Tip(Struct, frozen=True):
    """An edge it may tip over: at what slope, and from least to most as far as places and masses are known."""

    edge: Edge
    way: str
    least_deg: float
    most_deg: float


class Posed(Struct, frozen=True):
    """How it stands in a pose, and at which slopes it tips while it is pushed as the pose says."""

    pose: Pose
    balance: "Balance"
    tips: tuple[Tip, ...]

    @property
    def first(self) -> Tip | None:
        """The edge it tips over first."""
        return min(self.tips, key=lambda t: t.least_deg, default=None)


AS_IT_STANDS = Pose(id="-", name="as it stands")


class Balance(Struct, frozen=True, dict=True):
    """What follows from where things are."""

    concept: Concept
    contacts: tuple[Contact, ...]
    missing: tuple[str, ...]
    table: Table | None = None
    """Masses and places of all copies; None where one of them is not known."""
    floor_m: float = 0.0
    tips: tuple[Tip, ...] = ()
    poses: tuple[Posed, ...] = ()
    """How it stands at times."""

    @cached_property
    def lumps(self) -> tuple[Lump, ...]:
        """Every copy that has a place, for drawings and remedies."""
        return tuple(_lumps(self.concept))

    @cached_property
    def centre_range(self) -> tuple[Spot, Spot] | None:
        """Least and most of each coordinate of its centre of mass."""
        return None if self.table is None else _centre_range(self.table)

    @property
    def centre(self) -> Spot | None:
        """The middle of the range of its centre of mass."""
        if self.centre_range is None:
            return None
        x, y, z = ((a + b) / 2 for a, b in zip(*self.centre_range, strict=True))
        return x, y, z

    @cached_property
    def loads_n(self) -> tuple[float, ...]:
        """On each contact, with the centre in the middle of its range; () where it does not stand."""
        centre = self.centre
        if centre is None or not self.tips:
            return ()
        assert self.table is not None
        weight = G * float(self.table.least_kg.sum() + self.table.most_kg.sum()) / 2
        x_m, y_m = [c.x_m for c in self.contacts], [c.y_m for c in self.contacts]
        try:
            return tuple(wheel_loads(x_m, y_m, weight, centre[0], centre[1]).load_n)
        except ValueError:  # its centre lies beyond them: it falls
            return ()

    def loads_on_slope(self, axis: int, fall: float) -> tuple[float, ...]:
        """On each contact, square to a slope that falls by so much a metre along an axis; () where it does not stand.

        The weight acts where the plumb line through the centre meets the floor.
        """
        centre = self.centre
        if not fall or not self.loads_n or centre is None:
            return self.loads_n
        meets = list(centre[:2])
        meets[axis] += (centre[2] - self.floor_m) * fall
        pressing = sum(self.loads_n) / math.hypot(1.0, fall)
        try:
            found = wheel_loads([c.x_m for c in self.contacts], [c.y_m for c in self.contacts], pressing, *meets)
        except ValueError:
            return ()
        return tuple(found.load_n)

    @cached_property
    def uneven_n(self) -> tuple[tuple[float, float], ...]:
        """Least and most on each contact on an uneven floor, the centre as above; () where it does not stand."""
        centre = self.centre
        if not self.loads_n or centre is None or len(self.contacts) > MOST_UNEVEN:
            return ()
        return uneven_loads([c.point for c in self.contacts], sum(self.loads_n), (centre[0], centre[1]))

    @property
    def first(self) -> Tip | None:
        """The edge it tips over first, as it stands."""
        return min(self.tips, key=lambda t: t.least_deg, default=None)

    @property
    def worst(self) -> Posed:
        """Of the poses that are known, that in which it tips first; as it stands counts as one."""
        every = (Posed(AS_IT_STANDS, self, self.tips), *self.poses)
        return min(every, key=lambda p: p.first.least_deg if p.first is not None else math.inf)

    @property
    def lacking(self) -> tuple[str, ...]:
        """What is missing of how it stands and of its poses."""
        return tuple(dict.fromkeys((*self.missing, *(m for p in self.poses for m in p.balance.missing))))


def assess_balance(concept: Concept) -> Balance:
    """Where the weight acts and over which edge it tips; what that lacks, in words."""
    return assess_balances([concept])[0]


def assess_balances(concepts: Sequence[Concept]) -> list[Balance]:
    """The same of several concepts, each with its poses."""
    every = [made for c in concepts for made in (c, *(posed(c, p) for p in c.poses))]
    found = iter(_standing_alone(every))
    return [_with_poses(next(found), [(p, next(found)) for p in c.poses]) for c in concepts]


def posed(concept: Concept, pose: Pose) -> Concept:
    """The concept as it is in a pose."""
    shifts = {s.item: s for s in pose.shifts}
    return concept.but(items=tuple(_shifted(i, shifts[i.id]) if i.id in shifts else i for i in concept.items), poses=())


def _shifted(item: Item, shift: Shift) -> Item:
    moved = [p.but(x_m=p.x_m + shift.dx_m, y_m=p.y_m + shift.dy_m, z_m=p.z_m + shift.dz_m) for p in item.places]
    part = item.part if shift.mass_kg is None else item.part.but(mass_kg=shift.mass_kg)
    return item.but(places=tuple(moved), part=part)


def _with_poses(balance: Balance, poses: Sequence[tuple[Pose, Balance]]) -> Balance:
    if not poses:
        return balance
    return replace(balance, poses=tuple(Posed(p, b, tuple(_disturbed(b, p, t) for t in b.tips)) for p, b in poses))


def _disturbed(balance: Balance, pose: Pose, tip: Tip) -> Tip:
    """A tip while it brakes or is pushed; a push does most to the lightest machine with its centre nearest the edge."""
    if pose.acceleration_m_s2 == pose.push_n == 0 or balance.table is None or balance.centre_range is None:
        return tip
    low, high = balance.centre_range
    corners = [tip.edge.distance_m((x, y)) for x in (low[0], high[0]) for y in (low[1], high[1])]
    near = math.hypot(max(min(corners), 0.0), low[2] - balance.floor_m)
    far = math.hypot(max(corners), high[2] - balance.floor_m)
    moment = pose.push_n * pose.push_height_m / G
    ends = (balance.table.least_kg, near), (balance.table.most_kg, far)
    light, heavy = ((moment / (float(kg.sum()) * r) if r > 0 else math.inf) if moment else 0.0 for kg, r in ends)
    return replace(tip, least_deg=disturbed_deg(tip.least_deg, pose.acceleration_m_s2, light),
                   most_deg=disturbed_deg(tip.most_deg, pose.acceleration_m_s2, heavy))  # fmt: skip


def _standing_alone(concepts: Sequence[Concept]) -> list[Balance]:
    """Each as it stands. What they share is looked at once; those of as many copies are solved together."""
    known = _Known()
    found = [_prepared(c, known) for c in concepts]
    groups: dict[int, list[int]] = {}
    for n, one in enumerate(found):
        if isinstance(one, _Standing):
            groups.setdefault(len(one.table.low), []).append(n)
    for copies, members in groups.items():
        size = max(MOST_AT_ONCE // max(copies, 1), 1)
        for start in range(0, len(members), size):
            chunk = members[start : start + size]
            solved = _tips_of([one for n in chunk if isinstance(one := found[n], _Standing)])
            for n, balance in zip(chunk, solved, strict=True):
                found[n] = balance
    return [one for one in found if isinstance(one, Balance)]


class _Ground(Struct, frozen=True):
    """What a machine stands on, and what keeps that from being known."""

    contacts: tuple[Contact, ...]
    missing: tuple[str, ...]
    floor_m: float
    edges: tuple[Edge, ...]


class _Standing(Struct, frozen=True):
    """A concept of which everything is known that its tip angles need."""

    concept: Concept
    ground: _Ground
    table: Table


Row = tuple[float, ...]
"""Of one copy, or of several in one room: least and most mass, and the least and most of each coordinate."""


class _Known(Struct, frozen=True):
    """What was found of items and grounds that several concepts share, by which values those are."""

    rows: dict[tuple[int, int], list[Row] | None] = field(default_factory=dict)
    grounds: dict[tuple[int, ...], _Ground] = field(default_factory=dict)

    def rows_of(self, item: Item, room: Room | None) -> list[Row] | None:
        """Rows of an item's copies; None where one of them may be anywhere."""
        key = (id(item), id(room))
        if key not in self.rows:
            self.rows[key] = _rows(item, room)
        return self.rows[key]

    def ground_of(self, concept: Concept) -> _Ground:
        key = (id(concept.feet), *(id(i) for i in concept.items if i.part.wheel is not None))
        if key not in self.grounds:
            self.grounds[key] = _ground(concept)
        return self.grounds[key]


def _prepared(concept: Concept, known: _Known) -> "Balance | _Standing":
    ground = known.ground_of(concept)
    if not concept.items:
        return Balance(concept, ground.contacts, ("any part at all", *ground.missing))
    rooms = {s.id: s.room for s in concept.subsystems}
    rows: list[Row] = []
    unweighed, lost = [], []
    for item in concept.items:
        if item.part.mass_kg is None:
            unweighed.append(f"{item.name}: its mass")
        elif (own := known.rows_of(item, rooms[item.subsystem])) is None:
            lost.append(item.name)
        else:
            rows += own
    lacks = (*unweighed, *_lost_words(lost), *ground.missing)
    if unweighed or lost:
        return Balance(concept, ground.contacts, lacks)
    figures = np.array(rows)
    table = Table(figures[:, 0], figures[:, 1], figures[:, 2:5], figures[:, 5:8])
    return Balance(concept, ground.contacts, lacks, table) if lacks else _Standing(concept, ground, table)


def _lost_words(names: Sequence[str]) -> Iterator[str]:
    if names:
        more = f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
        yield f"where {', '.join(names[:MOST_NAMED])}{more} {'is' if len(names) == 1 else 'are'}"


def _rows(item: Item, room: Room | None) -> list[Row] | None:
    """A row for each copy with a place, and one for all others: in one room they lie the same way at the worst."""
    mass = item.part.mass_kg or 0.0
    most = mass * (1 + ALLOWANCES[item.knowledge])
    places = item.places[: item.count]
    rows: list[Row] = [(mass, most, p.x_m, p.y_m, p.z_m, p.x_m, p.y_m, p.z_m) for p in places]
    if (left := item.count - len(places)) == 0:
        return rows
    if room is None:
        return None
    sides = ((room.back_m, room.front_m), (room.right_m, room.left_m), (room.bottom_m, room.top_m))
    (x0, x1), (y0, y1), (z0, z1) = (sorted(s) for s in sides)
    return [*rows, (left * mass, left * most, x0, y0, z0, x1, y1, z1)]


def _lumps(concept: Concept) -> Iterator[Lump]:
    for item in concept.items:
        if (mass := item.part.mass_kg) is None:
            continue
        most = mass * (1 + ALLOWANCES[item.knowledge])
        for copy, place in enumerate(item.places[: item.count]):
            yield Lump(item, copy, mass, most, (place.x_m, place.y_m, place.z_m))


def _ground(concept: Concept) -> _Ground:
    """What stands on the floor; what keeps it from being known, in words."""
    found = [Contact(f.name, f.x_m, f.y_m, f.z_m) for f in concept.feet]
    lacks = []
    for item in concept.items:
        if item.part.wheel is None:
            continue
        if len(item.places) < item.count:
            lacks.append(f"where each {item.name} stands")
        else:
            found += _of_wheels(item, item.places[: item.count], item.part.wheel.diameter_m / 2)
    polygon = support_polygon([c.point for c in found])
    if len(polygon) < 3:
        lacks.append("what it stands on: three wheels or feet that are not in a line")
        return _Ground(tuple(found), tuple(lacks), 0.0, ())
    bottoms = sorted(c.bottom_m for c in found)
    if bottoms[-1] - bottoms[0] > ONE_FLOOR_M:
        apart = show(bottoms[-1] - bottoms[0], "m")
        lacks.append(f"one floor for its wheels and feet: their lower ends are {apart} apart")
    return _Ground(tuple(found), tuple(lacks), sum(bottoms) / len(bottoms), tuple(edges_of(polygon)))


def _of_wheels(item: Item, places: Sequence[Place], radius_m: float) -> Iterator[Contact]:
    for n, place in enumerate(places, 1):
        name = f"{item.name} {n}" if len(places) > 1 else item.name
        yield Contact(name, place.x_m, place.y_m, place.z_m - radius_m, item.id, radius_m)


def _centre_range(table: Table) -> tuple[Spot, Spot]:
    """Least and most of each coordinate of the centre of mass."""
    ones = np.ones(len(table.low))
    tops = np.vstack([table.low.T, -table.high.T])
    x0, y0, z0, x1, y1, z1 = _least_ratios(tops, table.least_kg, table.most_kg, ones, ones).tolist()
    return (x0, y0, z0), (-x1, -y1, -z1)


def _least_ratios(tops: Array, least_kg: Array, most_kg: Array, low: Array, high: Array) -> Array:
    """For each row the least Σ m·top / Σ m·bottom, over masses from least to most and bottoms from low to high.

    Source: Dinkelbach 1967: at the least ratio r, the least of Σ m·(top − r·bottom) is 0; from any r it falls to it.
    The bottoms are such that their sum is above 0 for every choice. Shapes: (rows, copies), or what goes with that.
    """
    ratio = (tops * least_kg).sum(axis=1) / (high * least_kg).sum(axis=-1)
    for _ in range(MOST_STEPS):
        bottom = np.where(ratio[:, None] >= 0, high, low)
        mass = np.where(tops - ratio[:, None] * bottom > 0, least_kg, most_kg)
        new = (mass * tops).sum(axis=1) / (mass * bottom).sum(axis=1)
        if not (new < ratio - 1e-15 * np.maximum(np.abs(ratio), 1.0)).any():
            break
        ratio = np.minimum(ratio, new)
    return ratio


def _tips_of(standing: Sequence[_Standing]) -> Iterator[Balance]:
    """The slopes at which machines of as many copies tip over each of their edges, atan(d/h), from least to most."""
    rows = [_distances(s) for s in standing]
    each = [len(r) for r in rows]
    least, most = (np.repeat([getattr(s.table, k) for s in standing], each, axis=0) for k in ("least_kg", "most_kg"))
    low, high = (
        np.repeat([getattr(s.table, k)[:, 2] - s.ground.floor_m for s in standing], each, axis=0)
        for k in ("low", "high")
    )
    found = np.degrees(np.arctan(_slopes(np.vstack(rows), least, most, low, high))).tolist()
    at = 0
    for s, count in zip(standing, each, strict=True):
        own, edges = found[at : at + count], s.ground.edges
        tips = tuple(Tip(e, _way(e), own[n], -own[n + len(edges)]) for n, e in enumerate(edges))
        yield Balance(s.concept, s.ground.contacts, (), s.table, s.ground.floor_m, tips)
        at += count


def _distances(standing: _Standing) -> Array:
    """How far each copy is inside of each edge at the least, then how far outside; shape (2·edges, copies)."""
    edges, low, high = standing.ground.edges, standing.table.low[:, :2], standing.table.high[:, :2]
    ways = np.array([e.inwards for e in edges])[:, None, :]
    start = np.array([e.distance_m((0.0, 0.0)) for e in edges])[:, None]
    nearest = (ways * np.where(ways > 0, low, high)).sum(axis=2) + start
    furthest = (ways * np.where(ways > 0, high, low)).sum(axis=2) + start
    return np.vstack([nearest, -furthest])


def _slopes(tops: Array, least_kg: Array, most_kg: Array, low: Array, high: Array) -> Array:
    """Least distance over height; what hangs under the floor as a whole does not tip."""
    mass = np.where(low < 0, most_kg, least_kg)
    stands = (mass * low).sum(axis=1) > 0
    found = np.copysign(np.inf, (mass * tops).sum(axis=1))
    if stands.any():
        found[stands] = _least_ratios(*(x[stands] for x in (tops, least_kg, most_kg, low, high)))
    return found


def _way(edge: Edge) -> str:
    """Where it falls over an edge, in a word."""
    x, y = -edge.inwards[0], -edge.inwards[1]
    if abs(x) >= abs(y):
        return "forward" if x > 0 else "backward"
    return "to the left" if y > 0 else "to the right"


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    items = tuple((i.id, i.name, i.count, i.subsystem, i.knowledge, i.places, i.part.mass_kg, i.part.wheel,
                   i.part.length_m, i.part.width_m, i.part.height_m) for i in concept.items)  # fmt: skip
    return items, tuple((s.id, s.room) for s in concept.subsystems), concept.feet, concept.poses


BALANCE = Node(
    "balance", _read, lambda project, _: assess_balance(project.concept),
    work_all=lambda cases: assess_balances([project.concept for project, _ in cases]),
)  # fmt: skip
