"""Boxes in space: how deep two reach into each other, and what a ray meets. Metres, turned as parts are.

Two boxes are apart if one of fifteen directions tells them apart: Gottschalk, Lin and Manocha 1996 (from memory).
"""

import math
from typing import Any

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Array = NDArray[Any]
PARALLEL = 1e-9


class Box(Struct, frozen=True):
    """A box: its middle, half of its length, width and height, and where these three point (rows)."""

    middle: tuple[float, float, float]
    half: tuple[float, float, float]
    axes: tuple[tuple[float, float, float], ...]

    def corners(self) -> Array:
        """Its eight corners, of shape (8, 3)."""
        signs = np.array([(a, b, c) for a in (-1, 1) for b in (-1, 1) for c in (-1, 1)], float)
        return np.array(self.middle) + signs * np.array(self.half) @ np.array(self.axes)


def box_of(
    middle: tuple[float, float, float], sides_m: tuple[float, float, float], turn_deg: float = 0.0,
    tilt_deg: float = 0.0,
) -> Box:  # fmt: skip
    """A box that is tilted, its front end up, and then turned about the upright."""
    a, t = math.radians(turn_deg), math.radians(tilt_deg)
    along = (math.cos(a) * math.cos(t), math.sin(a) * math.cos(t), math.sin(t))
    up = (-math.cos(a) * math.sin(t), -math.sin(a) * math.sin(t), math.cos(t))
    return Box(middle, (sides_m[0] / 2, sides_m[1] / 2, sides_m[2] / 2), (along, (-math.sin(a), math.cos(a), 0.0), up))


def overlap_m(one: Box, other: Box) -> float:
    """How far one of two boxes must move to be clear of the other; 0 or less where they are apart."""
    a, b = np.array(one.axes), np.array(other.axes)
    crossed = np.cross(a[:, None, :], b[None, :, :]).reshape(-1, 3)
    long = np.linalg.norm(crossed, axis=1)
    ways = np.concatenate((a, b, crossed[long > PARALLEL] / long[long > PARALLEL, None]))
    reach = np.abs(ways @ a.T) @ np.array(one.half) + np.abs(ways @ b.T) @ np.array(other.half)
    apart = np.abs(ways @ (np.array(other.middle) - np.array(one.middle)))
    return float((reach - apart).min())


def overlapping(boxes: list[Box]) -> list[tuple[int, int]]:
    """Pairs whose upright hulls meet: all that may overlap, first of each lower than second."""
    if not boxes:
        return []
    spans = np.array([np.abs(np.array(b.axes)).T @ np.array(b.half) for b in boxes])
    middles = np.array([b.middle for b in boxes])
    order = np.argsort(middles[:, 0] - spans[:, 0])
    low, high = (middles - spans)[order], (middles + spans)[order]
    found = []
    for n in range(len(order)):
        last = int(np.searchsorted(low[:, 0], high[n, 0], side="right"))
        near = np.arange(n + 1, last)
        meets = ((low[near] < high[n]) & (high[near] > low[n])).all(axis=1)
        found += [tuple(sorted((int(order[n]), int(order[k])))) for k in near[meets]]
    return sorted(found)  # type: ignore[arg-type]


def met_at(box: Box, start: tuple[float, float, float], ways: Array) -> Array:
    """How far along each ray (rows of shape (rays, 3), of length 1) a box begins; infinite where it misses.

    0 where the start is inside. Slabs: Kay and Kajiya 1986 (from memory).
    """
    axes = np.array(box.axes)
    near = (np.array(start) - np.array(box.middle)) @ axes.T
    along = np.asarray(ways) @ axes.T
    with np.errstate(divide="ignore", invalid="ignore"):
        first = (-np.sign(along) * np.array(box.half) - near) / along
        last = (np.sign(along) * np.array(box.half) - near) / along
    level = np.abs(along) < 1e-15
    beside = level & (np.abs(near) > np.array(box.half))
    first, last = np.where(level, -np.inf, first), np.where(level, np.inf, last)
    enters, leaves = first.max(axis=1), last.min(axis=1)
    misses = beside.any(axis=1) | (enters > leaves) | (leaves < 0)
    return np.where(misses, np.inf, np.maximum(enters, 0.0))
