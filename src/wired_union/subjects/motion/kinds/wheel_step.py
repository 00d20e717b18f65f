"""A whole vehicle of two axles at a step, where places say how it stands."""

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.crossing import AtStep, Touch, front_at_edge, held_by, rear_at_edge
from wired_union.subjects.mass.gives import Axle, Axles

GRID = 24


class Steps(Struct, frozen=True):
    """What steps take of a vehicle that stands somehow: arrays, one figure for each step; inf where none gets over."""

    step_m: Array
    friction: Array
    torque_m: Array
    """Torque at one driven wheel, by the weight of the vehicle."""
    rear_harder: Array
    """Whether the rear axle is the one that takes the most friction."""

    def at(self, step_m: float) -> int:
        """The place of a step that was asked for."""
        return int(np.searchsorted(self.step_m, step_m))

    def highest(self, friction: float | None, torque_m: float) -> float:
        """The largest step that a friction and a torque take it over; straight between those worked out."""
        found = [self._reached(self.torque_m, torque_m)]
        if friction is not None:
            found.append(self._reached(self.friction, friction))
        return min(found)

    def _reached(self, needed: Array, given: float) -> float:
        beyond = np.flatnonzero(needed > given)
        if not len(beyond):
            return float(self.step_m[-1])
        first = int(beyond[0])
        if first == 0 or not np.isfinite(needed[first]):
            return float(self.step_m[first - 1]) if first else 0.0
        low, high = needed[first - 1], needed[first]
        part = (given - low) / (high - low)
        return float(self.step_m[first - 1] + part * (self.step_m[first] - self.step_m[first - 1]))


@lru_cache(maxsize=256)
def steps_of(axles: Axles, asked_m: float) -> Steps:
    """What the asked step takes, and a row of others up to the radius of the smaller wheels.

    The worst counts: of both axles one after the other, of where the centre of mass may be, and of the axles that may
    be driven. Source: `two-axle-step`, with the lean that the vehicle has when the rear axle is at the edge.
    """
    radius = min(axles.front.radius_m, axles.rear.radius_m)
    steps = np.unique([0.0, asked_m, *np.linspace(0.0, radius * 0.995, GRID)])
    cases = [case for driven in axles.driven for case in _cases(axles, steps[1:], driven)]
    held = held_by(_beside(cases, (2, len(steps) - 1)))
    wheels = np.array([[_arm(w) for w in (front, rear)] for front, rear in _order(axles, len(axles.driven))])
    torque = np.maximum(*(d * wheels[:, n, None, None] for n, d in enumerate(held.drive)))
    friction, torque = (np.where(np.isnan(v), np.inf, v).max(axis=1) for v in (held.friction, torque))
    rear = friction.argmax(axis=0) % 2 == 1
    nothing = [0.0]
    return Steps(steps, np.concatenate([nothing, friction.max(axis=0)]), np.concatenate([nothing, torque.max(axis=0)]),
                 np.concatenate([[False], rear]))  # fmt: skip


def _cases(axles: Axles, steps: Array, driven: str) -> tuple[AtStep, AtStep]:
    """The front axle at the edge, then the rear one, with the centre of mass at the ends of its range: (2, steps)."""
    x, z = np.array(axles.centre_x_m)[:, None], np.array(axles.centre_z_m[::-1])[:, None]  # far back goes with high up
    front, rear = axles.front.radius_m, axles.rear.radius_m
    return (front_at_edge(axles.wheelbase_m, front, x, steps, driven),
            rear_at_edge(axles.wheelbase_m, front, rear, x, z, steps, driven))  # fmt: skip


def _order(axles: Axles, ways: int) -> list[tuple[Axle, Axle]]:
    """The axle at the edge and the one on the floor, of each case."""
    return [(axles.front, axles.rear), (axles.rear, axles.front)] * ways


def _arm(axle: Axle) -> float:
    """What turns a drive of the whole axle into the torque of one of its wheels."""
    return axle.radius_m / max(axle.driven, 1)


def _beside(cases: Sequence[AtStep], shape: tuple[int, ...]) -> AtStep:
    """Several cases as one, so that they are worked out together: they stand along the first axis."""

    def touches(each: Sequence[Touch]) -> Touch:
        return Touch(*(stacked([getattr(t, name) for t in each]) for name in Touch.__struct_fields__))

    def stacked(values: Sequence[Any]) -> Array:
        found = np.empty((len(values), *shape))
        for n, value in enumerate(values):
            found[n] = value
        return found

    return AtStep(
        touches([c.edge for c in cases]), touches([c.floor for c in cases]), stacked([c.weight_x_m for c in cases])
    )
