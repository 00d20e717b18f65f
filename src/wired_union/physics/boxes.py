"""Boxes in space: how deep two reach into each other, and what a ray meets. Metres, turned as parts are.

Two boxes are apart if one of fifteen directions tells them apart: Gottschalk, Lin and Manocha 1996 (from memory).
"""

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

Array = NDArray[Any]
PARALLEL = 1e-9
FEW = 256
"""So many boxes are told apart all at once; more in the order in which they begin."""


class Box(Struct, frozen=True):
    """A box: its middle, half of its length, width and height, and where these three point (rows)."""

    middle: tuple[float, float, float]
    half: tuple[float, float, float]
    axes: tuple[tuple[float, float, float], ...]

    def corners(self) -> Array:
        """Its eight corners, of shape (8, 3)."""
        signs = np.array([(a, b, c) for a in (-1, 1) for b in (-1, 1) for c in (-1, 1)], float)
        return np.array(self.middle) + signs * np.array(self.half) @ np.array(self.axes)


@lru_cache(maxsize=4096)
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
    return float(overlaps_m([one, other], [(0, 1)])[0])


def overlaps_m(boxes: Sequence[Box], pairs: Sequence[tuple[int, int]]) -> Array:
    """The same of many pairs, by their places among the boxes."""
    axes, half = np.array([b.axes for b in boxes]), np.array([b.half for b in boxes])
    middles = np.array([b.middle for b in boxes])
    first, second = np.array(pairs).T
    a, b = axes[first], axes[second]
    crossed = _crossed(a[:, :, None, :], b[:, None, :, :]).reshape(len(first), 9, 3)
    long = np.sqrt(np.einsum("nwx,nwx->nw", crossed, crossed))
    flat = long <= PARALLEL
    ways = np.concatenate((a, b, crossed / np.where(flat, 1.0, long)[..., None]), axis=1)
    reach = _reach(ways, a, half[first]) + _reach(ways, b, half[second])
    apart = np.abs(np.einsum("nwx,nx->nw", ways, middles[second] - middles[first]))
    deep = reach - apart
    deep[:, 6:] = np.where(flat, np.inf, deep[:, 6:])  # two edges that are parallel tell nothing
    found: Array = deep.min(axis=1)
    return found


def _crossed(a: Array, b: Array) -> Array:
    """a × b along the last axis, without the checks of numpy's own."""
    (ax, ay, az), (bx, by, bz) = ((v[..., 0], v[..., 1], v[..., 2]) for v in (a, b))
    return np.stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx], axis=-1)


def _reach(ways: Array, axes: Array, half: Array) -> Array:
    return np.einsum("nwk,nk->nw", np.abs(np.einsum("nwx,nkx->nwk", ways, axes)), half)


def overlapping(boxes: Sequence[Box], most: int = 1_000_000) -> list[tuple[int, int]]:
    """Pairs whose upright hulls meet: all that may overlap, or so many; first of each lower than second."""
    if not boxes:
        return []
    spans = np.einsum("bkx,bk->bx", np.abs(np.array([b.axes for b in boxes])), np.array([b.half for b in boxes]))
    middles = np.array([b.middle for b in boxes])
    if len(boxes) <= FEW:
        apart = np.abs(middles[:, None] - middles) < spans[:, None] + spans
        first, second = np.nonzero(np.triu(apart.all(axis=2), 1))
        return list(zip(first.tolist(), second.tolist(), strict=True))[:most]
    order = np.argsort(middles[:, 0] - spans[:, 0])
    low, high = (middles - spans)[order], (middles + spans)[order]
    found: list[tuple[int, int]] = []
    for n in range(len(order)):
        last = int(np.searchsorted(low[:, 0], high[n, 0], side="right"))
        near = np.arange(n + 1, last)
        meets = ((low[near] < high[n]) & (high[near] > low[n])).all(axis=1)
        ends = ((int(order[n]), int(order[k])) for k in near[meets][: most - len(found)])
        found += [(min(pair), max(pair)) for pair in ends]
        if len(found) >= most:
            break
    return sorted(found)


def met_at(boxes: Sequence[Box], start: tuple[float, float, float], ways: Array) -> Array:
    """How far along each ray (rows of shape (rays, 3), of length 1) each box begins, of shape (boxes, rays).

    Infinite where it misses, 0 where the start is inside. Slabs: Kay and Kajiya 1986 (from memory).
    """
    axes, half = np.array([b.axes for b in boxes]), np.array([b.half for b in boxes])[:, None, :]
    near = np.einsum("bx,bkx->bk", np.array(start) - np.array([b.middle for b in boxes]), axes)[:, None, :]
    along = np.einsum("rx,bkx->brk", np.asarray(ways), axes)
    with np.errstate(divide="ignore", invalid="ignore"):
        first = (-np.sign(along) * half - near) / along
        last = (np.sign(along) * half - near) / along
    level = np.abs(along) < 1e-15
    beside = level & (np.abs(near) > half)
    first, last = np.where(level, -np.inf, first), np.where(level, np.inf, last)
    enters, leaves = first.max(axis=2), last.min(axis=2)
    misses = beside.any(axis=2) | (enters > leaves) | (leaves < 0)
    return np.where(misses, np.inf, np.maximum(enters, 0.0))
