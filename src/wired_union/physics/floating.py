"""Hulls on still water."""

import math

from msgspec import Struct

from wired_union.physics.method import method, require
from wired_union.physics.sources import RAWSON


class Afloat(Struct, frozen=True):
    draught_m: float
    freeboard_m: float
    metacentre_across_m: float
    metacentre_along_m: float


@method(
    "float-stability",
    source="T = m/(ρ·L·B·c); KB = T/2, BM = I/V; GM = KB + BM − KG",
    works=(RAWSON,),
    checked="a box leaned a little, its buoyancy integrated by numpy",
    limits="a box-shaped hull, or one as full at every height; small leans, still water, nothing sloshes",
)
def float_stability(
    mass_kg: float, length_m: float, width_m: float, height_m: float, centre_height_m: float, fullness: float = 1.0,
    water_kg_m3: float = 1000.0,
) -> Afloat:  # fmt: skip
    """How deep a hull lies in the water, and how far its metacentres are above its centre of mass.

    Args:
        mass_kg: mass of everything
        length_m: length of the hull
        width_m: its width
        height_m: its height
        centre_height_m: height of the centre of mass over its underside
        fullness: share of that box that it fills, 1 for a box
        water_kg_m3: density of the water
    Returns:
        draught_m: how deep it lies
        freeboard_m: what is left above the water; below 0 it sinks
        metacentre_across_m: of the metacentre above the centre of mass, leaning sideways; below 0 it turns over
        metacentre_along_m: the same leaning lengthwise
    Raises:
        ValueError: a figure that is not above zero, or a fullness above 1.
    """
    require(min(mass_kg, length_m, width_m, height_m, water_kg_m3) > 0, "mass, sides and density are above 0")
    require(0 < fullness <= 1, "fullness is above 0 and at most 1")
    draught = mass_kg / (water_kg_m3 * length_m * width_m * fullness)
    rise = draught / 2 - centre_height_m
    across, along = (side**2 / (12 * draught) for side in (width_m, length_m))
    return Afloat(draught, height_m - draught, rise + across, rise + along)


class Listing(Struct, frozen=True):
    lean_deg: float
    goes_down_m: float


@method(
    "list-angle",
    source="GZ = sin φ·(GM + ½·BM·tan² φ) for upright sides, against d·cos φ",
    works=(RAWSON,),
    checked="a box leaned until its buoyancy, integrated cell by cell, is under its centre",
    limits="upright sides; its deck stays out of the water and its bottom in; still water, nothing sloshes",
)
def list_angle(metacentre_m: float, draught_m: float, side_m: float, beside_m: float) -> Listing:
    """How far a hull leans since its centre of mass is beside its middle.

    Args:
        metacentre_m: metacentre above the centre of mass, upright
        draught_m: how deep it lies
        side_m: its width, or its length where it leans lengthwise
        beside_m: how far its centre of mass is beside its middle
    Returns:
        lean_deg: how far it leans
        goes_down_m: by how much its lower edge goes down
    Raises:
        ValueError: a draught or side that is not above zero, or a metacentre below the centre of mass.
    """
    require(draught_m > 0 and side_m > 0, "draught and side are above 0")
    require(metacentre_m > 0, "the metacentre is above the centre of mass")
    half, beside = side_m**2 / (24 * draught_m), abs(beside_m)
    low, high = 0.0, beside / metacentre_m
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if middle * (metacentre_m + half * middle**2) < beside else (low, middle)
    return Listing(math.degrees(math.atan(high)), side_m / 2 * high)
