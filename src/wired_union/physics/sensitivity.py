"""Draws that cover their range evenly, and which of several unknowns makes most of a spread."""

import numpy as np

from wired_union.physics.battery import Array
from wired_union.physics.method import require

SLICES = 32
"""Slices of an unknown's draws within which the rest is averaged: a few hundred draws in each of ten thousand."""


def even_draws(count: int, unknowns: int, seed: int) -> Array:
    """Shares between 0 and 1 of each unknown, shape (count, unknowns), one draw in each of `count` equal slices.

    Source: McKay, Beckman & Conover 1979, Technometrics 21 (Latin hypercube; cited from memory).
    """
    require(count >= 1 and unknowns >= 0, "at least one draw")
    dice = np.random.default_rng(seed)
    rows = np.tile(np.arange(count), (unknowns, 1))
    return np.asarray((dice.permuted(rows, axis=1).T + dice.random((count, unknowns))) / count)


def bell(shares: Array) -> Array:
    """Standard normal values of shares between 0 and 1."""
    from scipy.special import ndtri

    return np.asarray(ndtri(np.clip(shares, 1e-12, 1 - 1e-12)), dtype=np.float64)


def first_order_shares(draws: Array, values: Array, slices: int = SLICES) -> Array:
    """Share of the variance of a value that each unknown makes by itself; what they make together is in none.

    S = Var(E[y | x]) / Var(y), the mean within slices of x, less what chance leaves in such means. Source: Sobol 1993,
    Mathematical Modelling and Computational Experiment 1 (cited from memory); estimated from the draws themselves,
    Plischke, Borgonovo & Smith 2013, European Journal of Operational Research 226 (cited from memory).

    Args:
        draws: shape (count, unknowns)
        values: shape (count,), finite
        slices: of each unknown
    Returns:
        shape (unknowns,), each from 0 to 1; zeros where nothing spreads.
    """
    count, unknowns = draws.shape
    whole = float(values.var())
    if whole <= 0 or count < 2 * slices:
        return np.zeros(unknowns)
    order = np.argsort(draws, axis=0, kind="stable")
    edges = np.linspace(0, count, slices + 1).astype(int)
    sizes = np.diff(edges)
    found = np.empty(unknowns)
    for k in range(unknowns):
        sorted_values = values[order[:, k]]
        means = np.add.reduceat(sorted_values, edges[:-1]) / sizes
        between = float(np.average((means - values.mean()) ** 2, weights=sizes))
        within = float(np.add.reduceat((sorted_values - np.repeat(means, sizes)) ** 2, edges[:-1]).sum()) / (
            count - slices
        )
        found[k] = (between - within * (slices - 1) / count) / whole
    return np.clip(found, 0.0, 1.0)
