"""The flight of something thrown, with the drag of the air: one, or many at once."""

import math
from typing import Any

from msgspec import Struct

from wired_union.physics.constants import STANDARD_GRAVITY_M_S2
from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import HOERNER

AIR_KG_M3 = 1.225
"""Of the standard atmosphere at sea level (ISO 2533)."""
STEPS, MOST_STEPS = 48, 1200


class Flight(Struct, frozen=True):
    range_m: float
    apex_m: float
    time_s: float
    landing_speed_m_s: float


class Flights(Struct, frozen=True):
    """Many flights: arrays of one length; `at_wall_m` is NaN for those that do not reach the wall."""

    range_m: Any
    apex_m: Any
    time_s: Any
    speed_m_s: Any
    at_wall_m: Any
    paths: Any
    """Across and up at every step, (steps + 1, 2, flights)."""


@method(
    "flight-with-drag",
    source="m·dv/dt = −½·ρ·c·A·|v|·v − m·g, fourth-order Runge and Kutta; it lands at height 0",
    works=(HOERNER,),
    checked="scipy.integrate.solve_ivp; without drag projectile-range",
    limits="one drag coefficient, still air, no lift, no spin",
)
def flight_with_drag(
    speed_m_s: float, angle_deg: float, height_m: float, mass_kg: float, diameter_m: float, drag_coefficient: float
) -> Flight:  # fmt: skip
    """Where a throw lands in air.

    Args:
        speed_m_s: as it leaves
        angle_deg: above level
        height_m: that it leaves from
        mass_kg: of what is thrown
        diameter_m: of its front
        drag_coefficient: about 0.5 for a ball, 1.1 for a disc across
    Returns:
        range_m: how far it lands
        apex_m: how high it comes
        time_s: how long it flies
        landing_speed_m_s: as it lands
    Raises:
        ValueError: a negative speed, height or drag, an angle outside −90 to 90, no mass, or no front.
    """
    require(speed_m_s >= 0 and height_m >= 0, "speed and height are 0 or more")
    require(-90 <= angle_deg <= 90, "angle is −90 to 90")
    require(mass_kg > 0 and diameter_m > 0, "mass and diameter are above 0")
    require(drag_coefficient >= 0, "drag is 0 or more")
    drag = drag_per_m(mass_kg, diameter_m, drag_coefficient)
    f = flights([speed_m_s], [math.radians(angle_deg)], height_m, drag)
    return Flight(float(f.range_m[0]), float(f.apex_m[0]), float(f.time_s[0]), float(f.speed_m_s[0]))


def drag_per_m(mass_kg: float, diameter_m: float, drag_coefficient: float) -> float:
    """½·ρ·c·A/m: by how much drag slows, divided by the square of the speed."""
    return 0.5 * AIR_KG_M3 * drag_coefficient * math.pi * diameter_m**2 / 4 / mass_kg


def flights(speeds_m_s: Any, angles_rad: Any, height_m: float, drag: float, wall_m: float | None = None) -> Flights:
    """Flights of arrays of speeds and angles until each is at height 0; `drag` as `drag_per_m` gives it.

    Steps are a share of the time without drag, and short against the time in which drag slows. Raises Impossible where
    that takes too many: what the air all but stops is not thrown.
    """
    import numpy as np

    with np.errstate(all="ignore"):  # what is not finite never lands, and is refused below
        states, dt = _integrated(np.asarray(speeds_m_s, float), np.asarray(angles_rad, float), height_m, drag)
    return _landed(states, dt, wall_m)


def _integrated(speeds_m_s: Any, angles_rad: Any, height_m: float, drag: float) -> tuple[Any, Any]:
    """States at every step, (steps + 1, 4, flights): across, up, and both speeds; and the steps' own times."""
    import numpy as np

    g = STANDARD_GRAVITY_M_S2
    v, a = np.broadcast_arrays(speeds_m_s, angles_rad)
    across, up = v * np.cos(a), v * np.sin(a)
    longest = (up + np.sqrt(up * up + 2 * g * height_m)) / g
    fastest = np.sqrt(v * v + 2 * g * height_m)
    dt = np.minimum(np.maximum(longest, 1e-9) / STEPS, 0.2 / np.maximum(drag * fastest, 1e-9))

    def pull(s: Any) -> Any:
        speed = np.hypot(s[2], s[3])
        return np.array([s[2], s[3], -drag * speed * s[2], -drag * speed * s[3] - g])

    state = np.array([np.zeros_like(v), np.full_like(v, height_m), across, up])
    states, landed = [state], np.zeros(v.shape, bool)
    while not landed.all():
        if len(states) > MOST_STEPS or not np.isfinite(state).all():
            raise Impossible("the air all but stops it: more mass, a smaller front or less drag")
        k1 = pull(state)
        k2 = pull(state + dt / 2 * k1)
        k3 = pull(state + dt / 2 * k2)
        k4 = pull(state + dt * k3)
        state = state + dt / 6 * (k1 + 2 * k2 + 2 * k3 + k4)
        states.append(state)
        landed |= (state[1] <= 0) & (state[3] < 0)
    return np.array(states), dt


def _landed(states: Any, dt: Any, wall_m: float | None) -> Flights:
    """Where each crosses height 0 on its way down, between two steps by its own height and speed there."""
    import numpy as np

    high = states[:, 1]
    falls = (high[1:] <= 0) & (states[1:, 3] < 0)
    last = falls.argmax(axis=0)
    n = np.arange(states.shape[2])
    before, after = states[last, :, n], states[last + 1, :, n]
    share = _root(before[:, 1], after[:, 1], before[:, 3] * dt, after[:, 3] * dt)
    range_m = _hermite(share, before[:, 0], after[:, 0], before[:, 2] * dt, after[:, 2] * dt)
    speed = np.hypot(*(before[:, k] + share * (after[:, k] - before[:, k]) for k in (2, 3)))
    return Flights(range_m, _apex(states, dt), (last + share) * dt, speed, _over(states, range_m, wall_m),
                   states[:, :2])  # fmt: skip


def _apex(states: Any, dt: Any) -> Any:
    """The highest point: where a step's own parabola turns, else the highest step."""
    import numpy as np

    best = states[:, 1].max(axis=0)
    up, down = states[:-1, 3], states[1:, 3]
    turns = (up > 0) & (down <= 0)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where(turns, up / (up - down), 0.0)
    tops = _hermite(share, states[:-1, 1], states[1:, 1], up * dt, down * dt)
    return np.maximum(best, np.where(turns, tops, -np.inf).max(axis=0))


def _over(states: Any, range_m: Any, wall_m: float | None) -> Any:
    """Heights over the wall; NaN where it is not reached."""
    import numpy as np

    if wall_m is None:
        return np.full(states.shape[2], np.nan)
    found = np.full(states.shape[2], np.nan)
    for k in range(states.shape[2]):
        if range_m[k] >= wall_m:
            found[k] = np.interp(wall_m, states[:, 0, k], states[:, 1, k])
    return found


def _hermite(t: Any, y0: Any, y1: Any, m0: Any, m1: Any) -> Any:
    """The cubic through two points with their slopes."""
    t2, t3 = t * t, t * t * t
    return (2 * t3 - 3 * t2 + 1) * y0 + (t3 - 2 * t2 + t) * m0 + (3 * t2 - 2 * t3) * y1 + (t3 - t2) * m1


def _root(y0: Any, y1: Any, m0: Any, m1: Any) -> Any:
    """Where that cubic is 0, by halving."""
    import numpy as np

    low, high = np.zeros_like(y0), np.ones_like(y0)
    for _ in range(50):
        middle = (low + high) / 2
        above = _hermite(middle, y0, y1, m0, m1) > 0
        low, high = np.where(above, middle, low), np.where(above, high, middle)
    return (low + high) / 2
