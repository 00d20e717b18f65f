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
from msgspec.structs import replace
from numpy.typing import NDArray

from wired_union.physics.battery import Array

LEAST_J_PER_K, LEAST_W_PER_K = 1e-3, 1e-12
WIDE = 64
"""More lumps than that are stepped one step after another: each step is then long enough to be worth its call."""


Places = NDArray[np.intp]
Link = tuple[int, int, float]
"""Two lumps, and what passes between them in W/K."""


class Lumps(Struct, frozen=True, eq=False):
    """Heat capacities (n,), links between two lumps, each pair once, and conductances to the outside (n,)."""

    capacity_j_per_k: Array
    links: tuple[Link, ...]
    outside_w_per_k: Array

    @property
    def stiffness(self) -> Array:
        """K: what leaves each lump for a kelvin of its own, less what comes from the others; shape (n, n)."""
        found: Array = np.diag(np.asarray(self.outside_w_per_k, dtype=np.float64))
        for one, other, w_per_k in self.links:
            found[[one, other], [one, other]] += w_per_k
            found[[one, other], [other, one]] -= w_per_k
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


class _Alone(Struct, frozen=True, eq=False):
    """The same of lumps that pass nothing to each other, number by number, shapes (n,)."""

    phi: Array
    gamma: Array
    psi: Array
    omega: Array


class _Group(Struct, frozen=True, eq=False):
    """Lumps that reach each other, by their places among all, and the heaters among them."""

    places: Places
    lumps: Lumps
    heaters: tuple[int, ...]


class Warmth(Struct, frozen=True, eq=False):
    """Temperatures at the end of each step (steps, n), and what each heater gave (steps, heaters)."""

    end_c: Array
    heater_w: Array
    _steps: tuple[tuple[Places, _Exact | _Alone], ...]
    """How each group steps, with its places."""
    _comes: Array
    _start_c: Array

    @property
    def mean_c(self) -> Array:
        """The mean within each step, shape (steps, n)."""
        begins, found = np.vstack([self._start_c, self.end_c[:-1]]), np.empty(self.end_c.shape)
        for places, own in self._steps:
            before, comes = begins[:, places], self._comes[:, places]
            if isinstance(own, _Alone):
                found[:, places] = before * own.psi + comes * own.omega
            else:
                found[:, places] = before @ own.psi.T + comes @ own.omega.T
        return found


def _together(whole: int, pairs: Sequence[tuple[int, int]]) -> list[list[int]]:
    """Numbers below `whole` that pairs join, by union of the sets of both."""
    leads = list(range(whole))

    def lead(n: int) -> int:
        while leads[n] != n:
            leads[n] = leads[leads[n]]
            n = leads[n]
        return n

    for one, other in pairs:
        leads[lead(one)] = lead(other)
    found: dict[int, list[int]] = {}
    for n in dict.fromkeys(x for pair in pairs for x in pair):
        found.setdefault(lead(n), []).append(n)
    return list(found.values())


def grouped(lumps: Lumps, heaters: Sequence[Heater]) -> tuple[Places, list[_Group]]:
    """Places of the lumps that stand alone, and the groups of those that are linked or heated."""
    whole = len(lumps.capacity_j_per_k)
    members = _together(whole, [*((a, b) for a, b, _ in lumps.links), *((h.warms, h.feels) for h in heaters)])
    local = {n: (k, place) for k, each in enumerate(members) for place, n in enumerate(each)}
    links: list[list[Link]] = [[] for _ in members]
    for a, b, w_per_k in lumps.links:
        links[local[a][0]].append((local[a][1], local[b][1], w_per_k))
    groups = []
    for k, each in enumerate(members):
        own = Lumps(lumps.capacity_j_per_k[each], tuple(links[k]), lumps.outside_w_per_k[each])
        inside = tuple(h for h, heater in enumerate(heaters) if local[heater.warms][0] == k)
        groups.append(_Group(np.array(each, dtype=np.intp), own, inside))
    return np.array([n for n in range(whole) if n not in local], dtype=np.intp), groups


def fading(x: Array) -> tuple[Array, Array, Array]:
    """e^(−x), ∫₀¹ e^(−xs) ds and ∫₀¹ (1 − s)·e^(−xs) ds."""
    with np.errstate(divide="ignore", invalid="ignore"):
        first = np.where(x > 1e-5, -np.expm1(-x) / x, 1 - x / 2)
        second = np.where(x > 1e-3, (1 - first) / x, 0.5 - x / 6 + x * x / 24)
    return np.exp(-x), first, second


def _alone(capacity: Array, outside: Array, step_s: float) -> _Alone:
    stored = np.maximum(capacity, LEAST_J_PER_K)
    decay, first, second = fading(np.maximum(outside / stored, 0.0) * step_s)
    return _Alone(decay, first * step_s / stored, first, second * step_s / stored)


def _exact(lumps: Lumps, step_s: float) -> _Exact:
    root = np.sqrt(np.maximum(lumps.capacity_j_per_k, LEAST_J_PER_K))
    rates, vectors = np.linalg.eigh(lumps.stiffness / root[:, None] / root[None, :])
    decay, first, second = fading(np.maximum(rates, 0.0) * step_s)

    def made(values: Array) -> Array:
        found: Array = (vectors * values) @ vectors.T / root[:, None] * root[None, :]
        return found

    into = 1 / root**2
    return _Exact(made(decay), made(first) * step_s * into, made(first), made(second) * step_s * into, decay,
                  vectors.T * root, vectors / root[:, None])  # fmt: skip


def _added_up(moves: Array, decay: Array, start: Array) -> Array:
    """T₁ = f·T₀ + m through all steps, in place, shape (steps, n): many lumps step by step, few of them by doubling.

    Source: Hillis & Steele 1986, Communications of the ACM 29 (prefix sums; cited from memory).
    """
    moves[0] += decay * start
    if moves.shape[1] > WIDE:
        for k in range(1, len(moves)):
            moves[k] += decay * moves[k - 1]
        return moves
    reach = 1
    while reach < len(moves):
        moves[reach:] = moves[reach:] + decay * moves[:-reach]
        decay, reach = decay * decay, 2 * reach
    return moves


def _with_heaters(
    own: _Exact, moves: Array, start_c: Array, heaters: Sequence[Heater], given: Array
) -> Array:  # fmt: skip
    """Step by step; what each heater gives is written to `given`."""
    end, now = np.empty(moves.shape), start_c
    for k in range(len(moves)):
        now = np.asarray(own.phi @ now + moves[k])
        for h, heater in enumerate(heaters):
            by = own.gamma[heater.feels, heater.warms]
            short = (heater.holds_c - now[heater.feels]) / by if by > 0 else 0.0
            if short > 0:
                given[k, h] = min(short, heater.power_w)
                now = now + own.gamma[:, heater.warms] * given[k, h]
        end[k] = now
    return end


def warmed(
    lumps: Lumps, heat_w: Array, outside_c: Array, step_s: float, start_c: Array, heaters: Sequence[Heater] = ()
) -> Warmth:
    """Temperatures through equal steps; lumps that do not reach each other are worked out apart.

    Args:
        lumps: what there is
        heat_w: what each lump burns in each step, shape (steps, n)
        outside_c: air outside in each step, shape (steps,)
        step_s: length of a step
        start_c: temperatures at the beginning, shape (n,)
        heaters: what keeps something warm
    """
    comes = heat_w + lumps.outside_w_per_k[None, :] * outside_c[:, None]
    end, given = np.empty(comes.shape), np.zeros((len(comes), len(heaters)))
    alone, groups = grouped(lumps, heaters)
    single = _alone(lumps.capacity_j_per_k[alone], lumps.outside_w_per_k[alone], step_s)
    end[:, alone] = _added_up(comes[:, alone] * single.gamma, single.phi, start_c[alone])
    steps: list[tuple[Places, _Exact | _Alone]] = [(alone, single)]
    for group in groups:
        own, at = _exact(group.lumps, step_s), group.places
        steps.append((at, own))
        moves = comes[:, at] @ own.gamma.T
        if not group.heaters:
            shapes = _added_up(moves @ own.to_shapes.T, own.decay, own.to_shapes @ start_c[at])
            end[:, at] = shapes @ own.from_shapes.T
            continue
        place = {int(n): k for k, n in enumerate(at)}
        here = [replace(heaters[h], warms=place[heaters[h].warms], feels=place[heaters[h].feels])
                for h in group.heaters]  # fmt: skip
        gives = np.zeros((len(comes), len(here)))
        end[:, at] = _with_heaters(own, moves, start_c[at], here, gives)
        given[:, list(group.heaters)] = gives
    for h, heater in enumerate(heaters):
        comes[:, heater.warms] += given[:, h]
    return Warmth(end, given, tuple(steps), comes, start_c)


def settled(lumps: Lumps, heat_w: Array, outside_c: float) -> Array:
    """Where temperatures end when everything stays as it is. Lumps that reach no outside stay as warm as that."""
    alone, groups = grouped(lumps, ())
    found = np.full(len(heat_w), float(outside_c))
    found[alone] += heat_w[alone] / (lumps.outside_w_per_k[alone] + LEAST_W_PER_K)
    for group in groups:
        stiff: Any = group.lumps.stiffness + np.eye(len(group.places)) * LEAST_W_PER_K
        found[group.places] += np.linalg.solve(stiff, heat_w[group.places])
    return found
