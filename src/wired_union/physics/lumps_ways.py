"""The same lumps in many ways at once: what they store, pass on and burn differs from one to the next.

Each is stepped exactly as one alone is (`lumps`): a symmetric matrix for each, all their own vectors found together.
What comes in is few signals over time, each into every lump by so much, so that no table of all steps is needed twice.
"""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.lumps import LEAST_J_PER_K, Heater, Lumps, Places, fading, grouped


class Ways(Struct, frozen=True, eq=False):
    """Figures of each way: `capacity_j_per_k` and `outside_w_per_k` over (ways, n), `link_w_per_k` over (ways, links)
    in the order of the lumps' links, `heater_w` over (ways, heaters).
    """

    capacity_j_per_k: Array
    link_w_per_k: Array
    outside_w_per_k: Array
    heater_w: Array


def warmed_ways(
    lumps: Lumps, ways: Ways, signals: Array, into: Array, step_s: float, start_c: Array,
    heaters: Sequence[Heater] = (),
) -> Array:  # fmt: skip
    """Temperatures at the end of each step, shape (ways, steps, n).

    Args:
        lumps: which lumps are linked; their figures are those of `ways`
        ways: the figures of each
        signals: what goes on over time, shape (steps, signals)
        into: heat in watts that comes into each lump for a signal of 1, shape (ways, signals, n)
        step_s: length of a step
        start_c: temperatures at the beginning, shape (n,)
        heaters: what keeps something warm; their power is that of `ways`
    """
    found = np.empty((len(into), len(signals), into.shape[2]))
    alone, groups = grouped(lumps, heaters)
    found[:, :, alone] = _alone(ways, alone, signals, into, step_s, start_c)
    for group in groups:
        at = group.places
        own = _exact(_stiffness(lumps, ways, at), ways.capacity_j_per_k[:, at], step_s)
        if group.heaters:
            here = [heaters[h] for h in group.heaters]
            found[:, :, at] = _with_heaters(own, at, signals, into[:, :, at], start_c[at], here,
                                            ways.heater_w[:, list(group.heaters)])  # fmt: skip
        else:
            found[:, :, at] = _freely(own, signals, into[:, :, at], start_c[at])
    return found


class _Exact(Struct, frozen=True, eq=False):
    """The step of each way: shapes in which warmth dies away, over (ways, n, n), and what of each is left after it."""

    decay: Array
    first: Array
    to_shapes: Array
    from_shapes: Array
    into: Array
    """Kelvins for a joule, shape (ways, n)."""
    step_s: float


def _stiffness(lumps: Lumps, ways: Ways, at: Places) -> Array:
    """What leaves each lump of a group for a kelvin of its own, less what comes from the others; (ways, n, n)."""
    place = {int(n): k for k, n in enumerate(at)}
    found = np.zeros((len(ways.outside_w_per_k), len(at), len(at)))
    found[:, range(len(at)), range(len(at))] = ways.outside_w_per_k[:, at]
    for k, (one, other, _) in enumerate(lumps.links):
        if one in place:
            a, b, passes = place[one], place[other], ways.link_w_per_k[:, k]
            found[:, a, a] += passes
            found[:, b, b] += passes
            found[:, a, b] -= passes
            found[:, b, a] -= passes
    return found


def _exact(stiffness: Array, capacity: Array, step_s: float) -> _Exact:
    root = np.sqrt(np.maximum(capacity, LEAST_J_PER_K))
    rates, vectors = np.linalg.eigh(stiffness / root[:, :, None] / root[:, None, :])
    decay, first, _ = fading(np.maximum(rates, 0.0) * step_s)
    across = vectors.transpose(0, 2, 1)
    return _Exact(decay, first, across * root[:, None, :], vectors / root[:, :, None], 1 / root**2, step_s)


def _alone(ways: Ways, alone: Places, signals: Array, into: Array, step_s: float, start_c: Array) -> Array:
    """Lumps that pass nothing to each other, shape (ways, steps, n)."""
    stored = np.maximum(ways.capacity_j_per_k[:, alone], LEAST_J_PER_K)
    decay, first, _ = fading(np.maximum(ways.outside_w_per_k[:, alone] / stored, 0.0) * step_s)
    moves = np.matmul(signals, into[:, :, alone] * (first * step_s / stored)[:, None, :])
    return _added_up(moves, decay, np.broadcast_to(start_c[alone], decay.shape))


def _freely(own: _Exact, signals: Array, into: Array, start_c: Array) -> Array:
    """A group without heaters, in its shapes and back."""
    comes = np.matmul(into * own.into[:, None, :], own.to_shapes.transpose(0, 2, 1)) * (own.first * own.step_s)[:, None]
    shapes = _added_up(np.matmul(signals, comes), own.decay, own.to_shapes @ start_c)
    return np.matmul(shapes, own.from_shapes.transpose(0, 2, 1))


def _added_up(moves: Array, decay: Array, start: Array) -> Array:
    """T₁ = f·T₀ + m through all steps, in place, shape (ways, steps, n)."""
    along = moves.transpose(1, 0, 2)
    along[0] += decay * start
    for k in range(1, len(along)):
        along[k] += decay * along[k - 1]
    return moves


def _with_heaters(
    own: _Exact, at: Places, signals: Array, into: Array, start_c: Array, heaters: Sequence[Heater], most_w: Array
) -> Array:  # fmt: skip
    """Step by step; each heater gives what brings the lump that it feels there by the end, no more than it has."""
    place = {int(n): k for k, n in enumerate(at)}
    phi = np.matmul(own.from_shapes * own.decay[:, None, :], own.to_shapes)
    gamma = np.matmul(own.from_shapes * (own.first * own.step_s)[:, None, :], own.to_shapes) * own.into[:, None, :]
    moves = np.matmul(signals, np.matmul(into, gamma.transpose(0, 2, 1)))
    now = np.broadcast_to(start_c, moves[:, 0].shape)
    for k in range(moves.shape[1]):
        now = np.matmul(phi, now[:, :, None])[:, :, 0] + moves[:, k]
        for h, heater in enumerate(heaters):
            feels, warms = place[heater.feels], place[heater.warms]
            by = gamma[:, feels, warms]
            short = np.where(by > 0, (heater.holds_c - now[:, feels]) / np.where(by > 0, by, 1.0), 0.0)
            now = now + gamma[:, :, warms] * np.clip(short, 0.0, most_w[:, h])[:, None]
        moves[:, k] = now
    return moves
