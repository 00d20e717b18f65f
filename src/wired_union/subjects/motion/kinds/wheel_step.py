"""A whole vehicle of two axles at a step, where places say how it stands."""

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.crossing import AtStep, Held, front_at_edge, held_by, rear_at_edge
from wired_union.subjects.mass.gives import Axles

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


def steps_of(axles: Axles, asked_m: float) -> Steps:
    """What the asked step takes, and a row of others up to the radius of the smaller wheels.

    The worst counts: of both axles one after the other, of where the centre of mass may be, and of the axles that may
    be driven. Source: `two-axle-step`, with the lean that the vehicle has when the rear axle is at the edge.
    """
    radius = min(axles.front.radius_m, axles.rear.radius_m)
    steps = np.unique([0.0, asked_m, *np.linspace(0.0, radius * 0.995, GRID)])
    cases = [case for driven in axles.driven for case in _cases(axles, steps[1:], driven)]
    each = [_worst(case, held_by(case.at)) for case in cases]
    friction, torque = np.array([f for f, _ in each]), np.array([t for _, t in each])
    rear = np.array([case.rear for case in cases])[friction.argmax(axis=0)]
    nothing = [0.0]
    return Steps(steps, np.concatenate([nothing, friction.max(axis=0)]), np.concatenate([nothing, torque.max(axis=0)]),
                 np.concatenate([[False], rear]))  # fmt: skip


class _Case(Struct, frozen=True):
    """One axle at the edge: the wheels that may drive there and on the floor, with their radius."""

    at: AtStep
    rear: bool
    edge: tuple[float, int]
    floor: tuple[float, int]


def _cases(axles: Axles, steps: Array, driven: str) -> list[_Case]:
    """Both axles, each with the centre of mass at the ends of its range; shapes (2 places, steps)."""
    front, rear = axles.front, axles.rear
    x, z = np.array(axles.centre_x_m)[:, None], np.array(axles.centre_z_m[::-1])[:, None]  # far back goes with high up
    ahead = front_at_edge(axles.wheelbase_m, front.radius_m, x, steps, driven)
    behind = rear_at_edge(axles.wheelbase_m, front.radius_m, rear.radius_m, x, z, steps, driven)
    wheels = (front.radius_m, front.driven), (rear.radius_m, rear.driven)
    return [_Case(ahead, False, *wheels), _Case(behind, True, *wheels[::-1])]


def _worst(case: _Case, held: Held) -> tuple[Array, Array]:
    """Friction and torque by weight, the worse of the places of its centre; inf where it does not get over."""
    (r1, n1), (r2, n2) = case.edge, case.floor
    torque = np.maximum(held.drive[0] * r1 / max(n1, 1), held.drive[1] * r2 / max(n2, 1))
    friction, torque = (np.where(np.isnan(v), np.inf, v).max(axis=0) for v in (held.friction, torque))
    return friction, torque
