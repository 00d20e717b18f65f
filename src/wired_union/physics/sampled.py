"""Controllers as they run: once a period, on what their sensor shows, predicting or not; their plant solved exactly."""

import math
from collections.abc import Sequence
from functools import lru_cache
from operator import mul

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from wired_union.physics.battery import Array
from wired_union.physics.loops import FILTERED, LoopDelay, Transfer
from wired_union.physics.method import require

MOST_LATE = 40
"""Periods of delay up to which a sampled loop is looked at exactly; beyond, its period is short against its delay."""
MOST_AHEAD = 120
"""The same of a loop that no smooth one stands for: one that predicts, or feeds back its speed."""
TERMS, FREQUENCIES, BISECTIONS, LARGEST, FINEST = 14, 240, 30, 1e6, 1e15


class Sampled(Struct, frozen=True):
    """A controller as it runs: its settings, how often, the delay after it, what it can give, what its sensor does."""

    gain: float
    integral_s: float | None
    derivative_s: float | None
    period_s: float
    delay_s: float
    most: float = math.inf
    least: float | None = None
    """The least that it can give; the most the other way where nothing is said."""
    filter_s: float | None = None
    """Of the D part; a tenth of its time where nothing is said."""
    speed_gain: float = 0.0
    """For how fast what is controlled moves, of a state feedback."""
    forward: float = 0.0
    """Share of what is wanted that is given besides."""
    ahead: int = 0
    """Periods that it predicts what it sees, by what it gave meanwhile."""
    model: Transfer | None = None
    """What it predicts by; the plant itself where nothing is said."""
    switches: float | None = None
    """Width of its dead band where it only switches on and off; None where it does not."""
    step: float = 1.0
    noise: float = 0.0
    quantum: float = 0.0
    """Step of what the sensor shows."""
    backlash: float = 0.0
    """Play before the sensor."""
    sees: float = math.inf
    """The most that the sensor shows, either way."""

    @property
    def lowest(self) -> float:
        return -self.most if self.least is None else self.least


class Space(Struct, frozen=True):
    """A plant as states: what they become, what an input adds, which is seen, which is its speed."""

    a: Array
    b: Array
    c: Array
    v: Array


class Run(Struct, frozen=True):
    """A loop over time: the plant's output, and what the controller gave; shapes (points,)."""

    times_s: Array
    y: Array
    given: Array


def space_of(plant: Transfer) -> Space:
    """A strictly proper plant; without zeros its states are its output and how that changes, so that they are seen."""
    lead = plant.denominator[0]
    down = np.array(plant.denominator[1:]) / lead
    size = len(down)
    a, b, v = np.zeros((size, size)), np.zeros(size), np.zeros(size)
    if len(plant.numerator) == 1:
        a[:-1, 1:] = np.eye(size - 1)
        a[-1] = -down[::-1]
        b[-1] = plant.numerator[0] / lead
        if size > 1:
            v[1] = 1.0
        return Space(a, b, np.eye(size)[0], v)
    a[0] = -down
    a[1:, :-1] = np.eye(size - 1)
    b[0] = 1.0
    return Space(a, b, np.concatenate([np.zeros(size - len(plant.numerator)), np.array(plant.numerator)]) / lead, v)


def held(a: Array, b: Array, long_s: float) -> tuple[Array, Array]:
    """What a plant's states become, and what an input of 1 adds, held for so long."""
    size = len(b)
    if long_s == 0:
        return np.eye(size), np.zeros(size)
    if size == 1:
        left = math.exp(float(a[0, 0]) * long_s)
        return np.array([[left]]), b * ((left - 1) / float(a[0, 0]) if a[0, 0] else long_s)
    block = np.zeros((size + 1, size + 1))
    block[:size, :size], block[:size, size] = a * long_s, b * long_s
    whole = exponential(block)
    return whole[:size, :size], whole[:size, size]


def exponential(matrix: Array) -> Array:
    """e to a small matrix, by scaling and squaring: as scipy's, without the 28 MB that it takes to load."""
    size = float(np.abs(matrix).sum(axis=0).max())
    halvings = max(math.ceil(math.log2(size)) + 1, 0) if size > 0 else 0
    small = matrix / 2**halvings
    whole = term = np.eye(len(matrix))
    for n in range(1, TERMS):
        term = term @ small / n
        whole = whole + term
    for _ in range(halvings):
        whole = whole @ whole
    found: Array = whole
    return found


def _ahead(plant: Transfer, c: Sampled) -> tuple[Array, list[Array]]:
    """What the states seen become over the periods predicted, and what each older output adds, newest first."""
    size = len(plant.denominator) - 1
    if not c.ahead:
        return np.eye(size), []
    model = c.model or plant
    require(len(plant.numerator) == 1 and len(model.denominator) == size + 1, "a model without zeros, of its order")
    space = space_of(model)
    moved, added = held(space.a, space.b, c.period_s)
    powers = [np.eye(size)]
    for _ in range(c.ahead):
        powers.append(powers[-1] @ moved)
    return powers[-1], [p @ added for p in powers[:-1]]


# over time


class _Controller:
    """Its memory between two runs. Plain numbers: for so few of them they are quicker than arrays."""

    def __init__(self, plant: Transfer, c: Sampled) -> None:
        self._c, space = c, space_of(plant)
        far, added = _ahead(plant, c)
        self._sees = space.c.tolist()
        self._y, self._v = (space.c @ far).tolist(), (space.v @ far).tolist()
        shown = far @ space.c / float(space.c @ space.c)
        self._shown_y, self._shown_v = float(space.c @ shown), float(space.v @ shown)
        self._older = [(float(space.c @ x), float(space.v @ x)) for x in added]
        self._outputs = [0.0] * max(c.ahead, 1)
        self._summed = self._before = self._slope = self._shown = 0.0
        self._on = False
        self._random = np.random.default_rng(0)
        self._rough = bool(c.backlash or c.noise or c.quantum or math.isfinite(c.sees))

    def output(self, x: list[float]) -> float:
        """What it gives for an instant's states."""
        c = self._c
        y, v = dot(self._y, x), dot(self._v, x)
        if self._rough:
            off = self._off(dot(self._sees, x))
            y, v = y + self._shown_y * off, v + self._shown_v * off
        if c.ahead:
            for (dy, dv), given in zip(self._older, self._outputs, strict=False):
                y, v = y + dy * given, v + dv * given
        u = self._switched(y) if c.switches is not None else self._law(y, v)
        self._outputs = [u, *self._outputs[:-1]]
        return u

    def _off(self, y: float) -> float:
        """By how much its sensor shows another value: play, noise, range and steps; its speed is not touched."""
        c = self._c
        self._shown = min(max(self._shown, y - c.backlash / 2), y + c.backlash / 2)
        shown = self._shown + (c.noise * float(self._random.standard_normal()) if c.noise else 0.0)
        shown = min(max(shown, -c.sees), c.sees)
        if c.quantum and abs(shown) < FINEST * c.quantum:  # finer steps than floats have are none
            shown = round(shown / c.quantum) * c.quantum
        return shown - y

    def _switched(self, y: float) -> float:
        c = self._c
        band = (c.switches or 0.0) / 2
        error = c.step - y
        self._on = error > -band if self._on else error > band
        return c.most if self._on else c.lowest

    def _law(self, y: float, v: float) -> float:
        c = self._c
        error = c.step - y
        if c.derivative_s:
            filtered = c.filter_s if c.filter_s is not None else c.derivative_s / FILTERED
            share = filtered / (filtered + c.period_s)
            self._slope = share * self._slope + (1 - share) * (y - self._before) / c.period_s
            self._before = y
        more = self._summed + (c.gain * c.period_s / c.integral_s * error if c.integral_s else 0.0)
        wanted = c.gain * (error + c.forward * c.step) + more - c.speed_gain * v
        wanted -= c.gain * (c.derivative_s or 0.0) * self._slope
        given = min(max(wanted, c.lowest), c.most)
        if given == wanted or (wanted - given) * error < 0:  # no wind-up
            self._summed = more
        return given


@lru_cache(maxsize=64)
def run_of(plant: Transfer, controller: Sampled, until_s: float, points: int = 400) -> Run:
    """What a loop makes of a step: the plant solved exactly between instants, the controller run once a period.

    Its output is held between, and comes late by its delay; an integral stops where the output is all there is.
    """
    space = space_of(plant)
    period = min(controller.period_s, until_s)
    fine = max(round(period / (until_s / points)), 1)
    dt = period / fine
    ad, bd = held(space.a, space.b, dt)
    count = round(until_s / dt)
    late = min(round(controller.delay_s / dt), count)
    rows, added, sees = ad.tolist(), bd.tolist(), space.c.tolist()
    given, seen = [0.0] * (count + late + fine + 1), [0.0] * count
    x, law, far = [0.0] * len(added), _Controller(plant, controller), LARGEST * max(controller.step, 1e-9)
    for k in range(count):
        y = dot(sees, x)
        seen[k] = y
        if k % fine == 0:
            given[k + late : k + late + fine] = [law.output(x)] * fine
        u = given[k]
        x = [dot(row, x) + b * u for row, b in zip(rows, added, strict=True)]
        if not -far < y < far:
            seen[k:] = [y] * (count - k)
            break
    times: Array = np.arange(count, dtype=float) * dt
    return Run(times, np.array(seen), np.array(given[late : late + count]))


def dot(row: list[float], x: list[float]) -> float:
    """Sum of products of two short lists."""
    return sum(map(mul, row, x))


def step_response(plant: Transfer, controller: Sampled, until_s: float, points: int = 400) -> tuple[Array, Array]:
    """Times, and the plant's output after a step of its controller; shapes (points,) each."""
    found = run_of(plant, controller, until_s, points)
    return found.times_s, found.y


# once round


class Closed(Struct, frozen=True):
    """One period of a linear closed loop: states next, what noise adds, the output, what noise adds to that."""

    moved: Array
    noisy: Array
    output: Array
    through: float


def closed_loop(plant: Transfer, controller: Sampled) -> Closed | None:
    """Its states: the plant's, older outputs, sum, value seen, slope; None where it only switches, or is very late.

    A part of a period of delay is split in two. Source: Åström and Wittenmark, Computer-Controlled Systems, chapter 3
    (from memory).
    """
    c, late = controller, math.floor(controller.delay_s / controller.period_s + 1e-9)
    if c.switches is not None or max(late, c.ahead) > (MOST_AHEAD if c.ahead or c.speed_gain else MOST_LATE):
        return None
    space = space_of(plant)
    part = min(max(c.delay_s - late * c.period_s, 0.0), c.period_s)
    before, first = held(space.a, space.b, part)  # the older output, for the part until the newer one is there
    after, newer = held(space.a, space.b, c.period_s - part)
    n, kept = len(space.b), max(late + 1, c.ahead)
    state = np.eye(n + kept + 4)  # the last is noise
    x, outputs, noise = state[:n], state[n : n + kept], state[-1]
    y, v = _predicted(plant, c, space, x, outputs, noise)
    rows = _law_rows(c, y, v, state[-4], state[-3], state[-2])
    u = rows[0]
    arrives, arrived = (u if late == 0 else outputs[late - 1]), outputs[late]
    moved = after @ before @ x + np.outer(after @ first, arrived) + np.outer(newer, arrives)
    whole = np.vstack([moved, u[None], outputs[:-1], *(r[None] for r in rows[1:])])
    return Closed(whole[:, :-1], whole[:, -1], u[:-1], float(u[-1]))


def _predicted(
    plant: Transfer, c: Sampled, space: Space, x: Array, outputs: Array, noise: Array
) -> tuple[Array, Array]:  # fmt: skip
    """What it takes the plant's output and its speed to be, of states, older outputs and noise."""
    far, added = _ahead(plant, c)
    shown = x + np.outer(space.c / float(space.c @ space.c), noise)
    y, v = space.c @ far @ shown, space.v @ far @ shown
    for older, given in zip(added, outputs, strict=False):
        y, v = y + float(space.c @ older) * given, v + float(space.v @ older) * given
    return y, v


def _law_rows(c: Sampled, y: Array, v: Array, summed: Array, seen: Array, slope: Array) -> list[Array]:
    """Output, and the controller's memory after it; what nothing feeds neither moves nor counts."""
    none = np.zeros_like(y)
    if c.derivative_s:
        filtered = c.filter_s if c.filter_s is not None else c.derivative_s / FILTERED
        share = filtered / (filtered + c.period_s)
        slope = share * slope + (1 - share) * (y - seen) / c.period_s
    if c.integral_s:
        summed = summed - c.gain * c.period_s / c.integral_s * y
    u = -c.gain * y - c.speed_gain * v
    u = u + (summed if c.integral_s else none) - (c.gain * (c.derivative_s or 0.0) * slope if c.derivative_s else none)
    return [u, summed if c.integral_s else none, y if c.derivative_s else none, slope if c.derivative_s else none]


@lru_cache(maxsize=256)
def sampled_swing(plant: Transfer, controller: Sampled) -> float | None:
    """What is left after a period of the slowest thing in a sampled loop, as a share; above 1 it grows.

    Exactly, by the poles of the closed loop. None as in `closed_loop`.
    """
    found = closed_loop(plant, controller)
    if found is None:
        return None
    poles = np.linalg.eigvals(found.moved)
    return float(np.abs(poles).max()) if np.isfinite(poles).all() else math.inf


def settles_sampled(plant: Transfer, controller: Sampled) -> bool | None:
    """Whether a loop settles as it runs. None as in `closed_loop`: `margins` says it as well, or it only switches."""
    swing = sampled_swing(plant, controller)
    return None if swing is None else swing < 1 - 1e-12


class Noise(Struct, frozen=True):
    """Effective values of what a sensor's noise makes of a controller's output, and of what is controlled."""

    output: float
    moved: float


@lru_cache(maxsize=64)
def noise_through(plant: Transfer, controller: Sampled) -> Noise | None:
    """What the noise and the steps of a sensor do; None where the loop does not settle.

    Steps count as noise of a step/√12 (Widrow 1956, from memory). The variance solves P = F·P·Fᵀ + g·gᵀ, by doubling.
    """
    found = closed_loop(plant, controller)
    shown = math.hypot(controller.noise, controller.quantum / math.sqrt(12))
    if found is None or not settles_sampled(plant, controller):
        return None
    spread, moved = np.outer(found.noisy, found.noisy), found.moved
    for _ in range(DOUBLINGS):
        spread, moved = spread + moved @ spread @ moved.T, moved @ moved
        if not np.abs(moved).max() > 1e-12:
            break
    c = space_of(plant).c
    out = float(found.output @ spread @ found.output) + found.through**2
    seen = float(c @ spread[: len(c), : len(c)] @ c)
    return Noise(shown * math.sqrt(max(out, 0.0)), shown * math.sqrt(max(seen, 0.0)))


DOUBLINGS = 60


@lru_cache(maxsize=256)
def sampled_margins(plant: Transfer, controller: Sampled) -> LoopDelay | None:
    """Margins of a loop as it runs, opened at its output; None where its gain never is 1 below half its sample rate.

    The loop must settle. The phase that the delay takes is told apart from what is left.
    """
    opened = _Opened(plant, controller)
    waves = np.geomspace(1e-5, 1.0, FREQUENCIES) * math.pi / controller.period_s
    size = np.log(np.abs(opened.at(waves)))
    at = np.flatnonzero(size[:-1] * size[1:] <= 0)
    if not len(at):
        return None
    crosses = _crossings(opened, waves[at], waves[at + 1], falls=size[at] > 0)
    left = (180.0 + np.degrees(np.angle(opened.at(crosses)))) % 360.0
    bears = controller.delay_s + np.radians(left) / crosses
    n = int(np.argmin(bears))
    lost = math.degrees(float(crosses[n]) * controller.delay_s)
    return LoopDelay(float(crosses[n]), float(left[n]) + lost, lost, float(left[n]), float(bears[n]))


def _crossings(opened: "_Opened", low: Array, high: Array, falls: NDArray[np.bool_]) -> Array:
    """Where the gain is 1, between frequencies on either side of it, all at once."""
    for _ in range(BISECTIONS):
        middle = np.sqrt(low * high)
        above = (np.abs(opened.at(middle)) > 1) == falls
        low, high = np.where(above, middle, low), np.where(above, high, middle)
    found: Array = np.sqrt(low * high)
    return found


def open_loop(plant: Transfer, controller: Sampled, waves: Array) -> Array:
    """Frequency response once round, opened at the controller's output; complex, of the shape of `waves` (rad/s)."""
    return _Opened(plant, controller).at(np.asarray(waves))


class _Opened:
    """A loop opened at its controller's output, ready to be asked at many frequencies."""

    def __init__(self, plant: Transfer, controller: Sampled) -> None:
        self._c, self._space = controller, space_of(plant)
        c, space = controller, self._space
        self._late = math.floor(c.delay_s / c.period_s + 1e-9)
        part = min(max(c.delay_s - self._late * c.period_s, 0.0), c.period_s)
        before, first = held(space.a, space.b, part)
        after, self._newer = held(space.a, space.b, c.period_s - part)
        self._far, self._added = _ahead(plant, c)
        self._once, self._older = after @ before, after @ first

    def at(self, waves: Array) -> Array:
        """Its response at frequencies."""
        c, space = self._c, self._space
        z = np.exp(1j * waves * c.period_s)
        driven = self._older * z[:, None] ** -(self._late + 1) + self._newer * z[:, None] ** -self._late
        states = np.linalg.solve(z[:, None, None] * np.eye(len(self._once)) - self._once, driven[..., None])[..., 0]
        row = _law_at(c, z)[:, None] * space.c + c.speed_gain * space.v
        found: Array = ((row @ self._far) * states).sum(axis=1)
        if not self._added:
            return found
        powers = z[:, None] ** -np.arange(1, len(self._added) + 1)
        return found / (1 + ((row @ np.array(self._added).T) * powers).sum(axis=1))


def _law_at(c: Sampled, z: Array) -> Array:
    """What the PID part makes of what it sees, at frequencies."""
    law: Array = np.ones(len(z), dtype=complex)
    if c.integral_s:
        law = law + c.period_s / c.integral_s / (1 - 1 / z)
    if c.derivative_s:
        filtered = c.filter_s if c.filter_s is not None else c.derivative_s / FILTERED
        share = filtered / (filtered + c.period_s)
        law = law + c.derivative_s * (1 - share) / c.period_s * (1 - 1 / z) / (1 - share / z)
    return c.gain * law


def worst_swing(values: Sequence[float] | Array) -> float:
    """From the lowest to the highest in the second half of a run: what never comes to rest."""
    last = np.asarray(values, dtype=float)[-max(len(values) // 2, 1) :]
    return float(last.max() - last.min())
