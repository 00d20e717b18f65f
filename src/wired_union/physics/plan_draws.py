"""Durations drawn from three guesses, many at once and the same ones for the same task each time."""

import zlib
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.physics.levelling import Floats

DRAWS = 10_000
_GRID = np.linspace(0.0, 1.0, 1025)


@lru_cache(maxsize=512)
def shuffled(key: str, draws: int = DRAWS) -> NDArray[np.uint16]:
    """An order of so many draws that belongs to a key.

    The same key gives the same order, so that a plan is compared with another by what differs and not by luck.
    """
    return np.random.default_rng(zlib.crc32(key.encode())).permutation(draws).astype(np.uint16)


def drawn(least: float, likely: float, most: float, order: NDArray[np.uint16]) -> Floats:
    """Durations of a beta distribution between the ends, the one that PERT stands for: one of each equal part.

    Its shapes are 1 + 4(m − a)/(b − a) and 1 + 4(b − m)/(b − a), so that its mean is (a + 4m + b)/6.
    """
    if most <= least:
        return np.full(len(order), likely)
    rise = 4 * (likely - least) / (most - least)
    density = _GRID**rise * (1 - _GRID) ** (4 - rise)
    below = np.concatenate([[0.0], np.cumsum(density[1:] + density[:-1])])
    even = (np.arange(len(order)) + 0.5) / len(order)
    return np.asarray((least + (most - least) * np.interp(even, below / below[-1], _GRID))[order])


class Holder(Struct, frozen=True):
    """A task with its share of the spread of the end."""

    task: int
    share: float


def holders(effort: Floats, end: Floats) -> tuple[Holder, ...]:
    """Shares of the spread of the end, the largest first: squared correlation of each duration with it.

    Durations are independent, so the shares sum to 1 at most; what is missing is how they act together.
    """
    away = end - end.mean()
    spread = float(away @ away)
    if not spread > 1e-12 * len(end):
        return ()
    apart = effort - effort.mean(axis=1, keepdims=True)
    own = (apart**2).sum(axis=1)
    with np.errstate(invalid="ignore", divide="ignore"):
        shares = np.where(own > 1e-12, (apart @ away) ** 2 / np.where(own > 0, own, 1.0) / spread, 0.0)
    found = [Holder(int(n), float(shares[n])) for n in np.argsort(-shares, kind="stable") if shares[n] >= NOISE]
    return tuple(found)


NOISE = 0.005
"""Shares below it are as large as chance makes them with 10 000 draws."""
