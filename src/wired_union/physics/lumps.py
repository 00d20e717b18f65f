"""Warmth of things that pass heat to each other: each a lump with one temperature, exact between the steps.

C·T′ = −K·T + P + g·T_out with P and T_out standing still within a step: T moves by the exponential of the matrix, which
a symmetric matrix gives by its own vectors, so that no step is too long. Heaters that keep something warm give in each
step what brings it there by the end, no more than they have: a thermostat on average, without its chatter.
Source: lumped capacitance, Incropera & DeWitt, chapter 5; exponential of a symmetric matrix by its eigenvectors.
"""

from collections.abc import Sequence
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array

LEAST_J_PER_K = 1e-3


class Lumps(Struct, frozen=True, eq=False):
    """Heat capacities (n,), conductances between each two (n, n, symmetric, diagonal not read), and to the outside."""

    capacity_j_per_k: Array
    between_w_per_k: Array
    outside_w_per_k: Array

    @property
    def stiffness(self) -> Array:
        """K: what leaves each lump for a kelvin of its own, less what comes from the others."""
        own = self.between_w_per_k - np.diag(np.diag(self.between_w_per_k))
        found: Array = np.diag(own.sum(axis=1) + self.outside_w_per_k) - own
        return found


class Heater(Struct, frozen=True):
    """Warms a lump by at most `power_w`, as long as the lump it feels is below `holds_c`."""

    warms: int
    feels: int
    power_w: float
    holds_c: float


class _Exact(Struct, frozen=True, eq=False):
    """The step of one length: T₁ = Φ·T₀ + Γ·u, and the mean within it Ψ·T₀ + Ω·u, u the heat that comes in."""

    phi: Array
    gamma: Array
    psi: Array
    omega: Array
    decay: Array
    """Of each of the shapes in which warmth dies away by itself, in a step."""
    to_shapes: Array
    from_shapes: Array


class Warmth(Struct, frozen=True, eq=False):
    """Temperatures at the end of each step (steps, n), and what each heater gave (steps, heaters)."""

    end_c: Array
    heater_w: Array
    _own: _Exact
    _comes: Array
    _start_c: Array

    @property
    def mean_c(self) -> Array:
        """The mean within each step, shape (steps, n)."""
        begins = np.vstack([self._start_c, self.end_c[:-1]])
        return np.asarray(begins @ self._own.psi.T + self._comes @ self._own.omega.T)


def _exact(lumps: Lumps, step_s: float) -> _Exact:
    root = np.sqrt(np.maximum(lumps.capacity_j_per_k, LEAST_J_PER_K))
    rates, vectors = np.linalg.eigh(lumps.stiffness / root[:, None] / root[None, :])
    x = np.maximum(rates, 0.0) * step_s
    decay = np.exp(-x)
    with np.errstate(divide="ignore", invalid="ignore"):
        first = np.where(x > 1e-5, -np.expm1(-x) / x, 1 - x / 2)  # ∫₀¹ e^(−xs) ds
        second = np.where(x > 1e-3, (1 - first) / x, 0.5 - x / 6 + x * x / 24)  # ∫₀¹ (1 − s)·e^(−xs) ds

    def made(values: Array) -> Array:
        found: Array = (vectors * values) @ vectors.T / root[:, None] * root[None, :]
        return found

    into = 1 / root**2
    return _Exact(made(decay), made(first) * step_s * into, made(first), made(second) * step_s * into, decay,
                  vectors.T * root, vectors / root[:, None])  # fmt: skip


def _without_heaters(own: _Exact, moves: Array, start_c: Array) -> Array:
    """All steps at once: each shape dies away by itself, T = f·T + m, which doubling adds up in log₂ of the steps.

    Source: Hillis & Steele 1986, Communications of the ACM 29 (prefix sums; cited from memory).
    """
    found, decay = moves @ own.to_shapes.T, own.decay
    found[0] += decay * (own.to_shapes @ start_c)
    reach = 1
    while reach < len(found):
        found[reach:] = found[reach:] + decay * found[:-reach]
        decay, reach = decay * decay, 2 * reach
    return np.asarray(found @ own.from_shapes.T)


def warmed(
    lumps: Lumps, heat_w: Array, outside_c: Array, step_s: float, start_c: Array, heaters: Sequence[Heater] = ()
) -> Warmth:
    """Temperatures through equal steps.

    Args:
        lumps: what there is
        heat_w: what each lump burns in each step, shape (steps, n)
        outside_c: air outside in each step, shape (steps,)
        step_s: length of a step
        start_c: temperatures at the beginning, shape (n,)
        heaters: what keeps something warm
    """
    own = _exact(lumps, step_s)
    comes = heat_w + lumps.outside_w_per_k[None, :] * outside_c[:, None]
    steps, n = comes.shape
    end, given = np.empty((steps, n)), np.zeros((steps, len(heaters)))
    moves: Array = comes @ own.gamma.T
    now: Array = start_c
    if not heaters:
        end = _without_heaters(own, moves, start_c)
    for k in range(steps) if heaters else ():
        now = np.asarray(own.phi @ now + moves[k])
        for h, heater in enumerate(heaters):
            by = own.gamma[heater.feels, heater.warms]
            short = (heater.holds_c - now[heater.feels]) / by if by > 0 else 0.0
            if short > 0:
                given[k, h] = min(short, heater.power_w)
                now = now + own.gamma[:, heater.warms] * given[k, h]
        end[k] = now
    for h, heater in enumerate(heaters):
        comes[:, heater.warms] += given[:, h]
    return Warmth(end, given, own, comes, start_c)


def settled(lumps: Lumps, heat_w: Array, outside_c: float) -> Array:
    """Where temperatures end when everything stays as it is. Lumps that reach no outside stay as warm as that."""
    stiff = lumps.stiffness + np.eye(len(heat_w)) * 1e-12
    found: Any = np.linalg.solve(stiff, heat_w)
    return np.asarray(found + outside_c)
