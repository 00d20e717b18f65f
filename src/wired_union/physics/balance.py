"""Where a machine's weight acts, what carries it, and over which edge it tips. Statics."""

import math
from collections.abc import Sequence
from itertools import combinations

import numpy as np
from msgspec import Struct

from wired_union.physics.method import method, require

Point = tuple[float, float]


class CentreOfMass(Struct, frozen=True):
    mass_kg: float
    centre_x_m: float
    centre_y_m: float
    centre_z_m: float


@method("centre-of-mass", source="statics, Σ m·x / Σ m", checked="values worked by hand")
def centre_of_mass(
    masses_kg: Sequence[float], x_m: Sequence[float], y_m: Sequence[float], z_m: Sequence[float]
) -> CentreOfMass:
    """Where the weight of several parts acts.

    Args:
        masses_kg: mass of each part
        x_m: how far forward each is
        y_m: how far left each is
        z_m: how high each is
    Returns:
        mass_kg: mass of all
        centre_x_m: how far forward the centre is
        centre_y_m: how far left it is
        centre_z_m: how high it is
    Raises:
        ValueError: lists of different length, a negative mass, or none above zero.
    """
    require(len(masses_kg) == len(x_m) == len(y_m) == len(z_m) > 0, "lists of the same length")
    require(all(m >= 0 for m in masses_kg) and sum(masses_kg) > 0, "masses are 0 or more, and one is above 0")
    whole = math.fsum(masses_kg)
    x, y, z = (math.fsum(m * p for m, p in zip(masses_kg, row, strict=True)) / whole for row in (x_m, y_m, z_m))
    return CentreOfMass(whole, x, y, z)


class BoxInertia(Struct, frozen=True):
    about_x_kg_m2: float
    about_y_kg_m2: float
    about_z_kg_m2: float


@method(
    "box-inertia",
    source="rigid-body tables, m·(a² + b²)/12",
    checked="an even cube, by hand",
    limits="an even box, about its own middle",
)
def box_inertia(mass_kg: float, length_m: float, width_m: float, height_m: float) -> BoxInertia:
    """Moments of inertia of an even box about the axes through its middle.

    Args:
        mass_kg: its mass
        length_m: its length, along x
        width_m: its width, along y
        height_m: its height, along z
    Returns:
        about_x_kg_m2: about the axis that points forward
        about_y_kg_m2: about the axis that points left
        about_z_kg_m2: about the upright axis
    Raises:
        ValueError: a negative figure.
    """
    require(min(mass_kg, length_m, width_m, height_m) >= 0, "mass and sides are 0 or more")
    xx, yy, zz = length_m**2, width_m**2, height_m**2
    return BoxInertia(mass_kg * (yy + zz) / 12, mass_kg * (xx + zz) / 12, mass_kg * (xx + yy) / 12)


class WheelLoads(Struct, frozen=True):
    load_n: list[float]
    lifted: list[int]


@method(
    "wheel-loads",
    source="least squares of the moments: equal springs on a flat floor",
    checked="a linear programme by scipy",
    limits="a stiff body; what would pull the floor up is off it; the centre lies over the contacts",
)
def wheel_loads(
    x_m: Sequence[float], y_m: Sequence[float], weight_n: float, centre_x_m: float, centre_y_m: float
) -> WheelLoads:
    """What each contact carries: exact for three; of more, equally springy ones share so that all is in balance.

    Args:
        x_m: how far forward each contact is
        y_m: how far left each is
        weight_n: weight of the whole
        centre_x_m: how far forward the centre of mass is
        centre_y_m: how far left it is
    Returns:
        load_n: load on each contact
        lifted: numbers of the contacts that carry nothing, the first is 1
    Raises:
        ValueError: lists of different length, fewer than three contacts or all on a line, or a centre beyond them.
    """
    require(len(x_m) == len(y_m) >= 3, "three contacts or more, with an x and a y each")
    require(weight_n > 0, "the weight is above 0")
    points = list(zip(x_m, y_m, strict=True))
    require(len(support_polygon(points)) >= 3, "the contacts do not lie on a line")
    down = list(range(len(points)))
    while True:
        loads = _balanced([points[n] for n in down], weight_n, (centre_x_m, centre_y_m))
        kept = [n for n, load in zip(down, loads, strict=True) if load >= -1e-12 * weight_n]
        if len(kept) == len(down):
            break
        require(len(support_polygon([points[n] for n in kept])) >= 3, "the centre of mass lies beyond the contacts")
        down = kept
    carried = dict(zip(down, loads, strict=True))
    found = [max(carried.get(n, 0.0), 0.0) for n in range(len(points))]
    return WheelLoads(found, [n + 1 for n in range(len(points)) if n not in carried])


def uneven_loads(points: Sequence[Point], weight_n: float, centre: Point) -> tuple[tuple[float, float], ...]:
    """Least and most on each contact whatever the floor: a stiff body on an uneven one stands on any three around it.

    All shares that balance form a polytope whose corners stand on three contacts at most: linear programming.
    Raises ValueError where the centre lies beyond the contacts.
    """
    least, most = [weight_n] * len(points), [0.0] * len(points)
    stood = False
    for trio in combinations(range(len(points)), 3):
        corners = np.array([[1.0, *points[n]] for n in trio]).T
        if abs(np.linalg.det(corners)) < 1e-12:
            continue
        shares = np.linalg.solve(corners, np.array([1.0, *centre])) * weight_n
        if shares.min() < -1e-9 * weight_n:
            continue
        stood = True
        carried = dict(zip(trio, shares.tolist(), strict=True))
        for n in range(len(points)):
            load = max(carried.get(n, 0.0), 0.0)
            least[n], most[n] = min(least[n], load), max(most[n], load)
    require(stood, "the centre of mass lies beyond the contacts")
    return tuple(zip(least, most, strict=True))


def _balanced(points: Sequence[Point], weight_n: float, centre: Point) -> list[float]:
    """The shares of least squares that carry a weight at a centre: force and both moments balance."""
    middle = np.mean(points, axis=0)
    arms = np.array(points) - middle
    rows = np.vstack([np.ones(len(points)), arms.T])
    wanted = weight_n * np.array([1.0, *(np.array(centre) - middle)])
    return [float(x) for x in np.linalg.lstsq(rows, wanted, rcond=None)[0]]


def support_polygon(points: Sequence[Point]) -> list[Point]:
    """Corners of the smallest convex polygon around points, anticlockwise; fewer than three where all lie on a line.

    Source: Andrew's monotone chain, 1979.
    """
    ordered = sorted(set(points))
    if len(ordered) < 3:
        return ordered
    size = max(ordered[-1][0] - ordered[0][0], max(y for _, y in ordered) - min(y for _, y in ordered))
    lower, upper = _half_hull(ordered, size), _half_hull(ordered[::-1], size)
    return [*lower[:-1], *upper[:-1]]


def _half_hull(points: Sequence[Point], size: float) -> list[Point]:
    found: list[Point] = []
    for point in points:
        while len(found) >= 2 and _turn(found[-2], found[-1], point) <= 1e-12 * size * size:
            found.pop()
        found.append(point)
    return found


def _turn(a: Point, b: Point, c: Point) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


class Edge(Struct, frozen=True):
    """A side of the support polygon: its ends, and the way inwards as a vector of length 1."""

    one: Point
    other: Point
    inwards: Point

    def distance_m(self, point: Point) -> float:
        """How far inside of it a point lies; negative outside."""
        return (point[0] - self.one[0]) * self.inwards[0] + (point[1] - self.one[1]) * self.inwards[1]


def edges_of(polygon: Sequence[Point]) -> list[Edge]:
    """The sides of an anticlockwise polygon."""
    found = []
    for one, other in zip(polygon, [*polygon[1:], polygon[0]], strict=True):
        length = math.dist(one, other)
        found.append(Edge(one, other, (-(other[1] - one[1]) / length, (other[0] - one[0]) / length)))
    return found
