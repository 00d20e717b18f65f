"""Power in depth: a start with ten events, 10 000 steps of warmth, 10 000 missions; solve_ivp and loops beside."""

import time

import numpy as np
from keeping import least_s
from scipy.integrate import solve_ivp

from wired_union.catalogue.demo import demo
from wired_union.physics.lumps import Lumps, warmed
from wired_union.physics.transient import MotorWinding, Place, Source, Standing
from wired_union.physics.transient_run import Spot, Stage, course_of
from wired_union.project import edits
from wired_union.subjects import assess
from wired_union.subjects.power.node import FIRST, HEAT, ODDS, START_ODDS, WARM_ODDS
from wired_union.subjects.power.spread.warm import COUNT as WARM_COUNT

EVENTS, STEPS, LUMPS, MISSIONS, TRIED = 10, 10_000, 20, 10_000, 40
OHM, COIL_H, K, INERTIA, LOAD, PACK_OHM, VOLTS = 4.0, 2e-3, 1.2, 0.01, 0.1, 0.1, 12.0


def _begins() -> list[float]:
    return [n * 0.05 for n in range(EVENTS)]


def _exact(accuracy: float) -> tuple[np.ndarray, np.ndarray]:
    """Ten motors one after another on one pack, by the integrator: times and current of the pack."""
    begins = _begins()

    def volts(i: np.ndarray) -> float:
        return VOLTS - PACK_OHM * float(i.sum())

    def slope(t: float, y: np.ndarray) -> np.ndarray:
        i, w = y[:EVENTS], y[EVENTS:]
        on = np.array([t >= b for b in begins])
        coil = np.where(on, (volts(i) - OHM * i - K * w) / COIL_H, 0.0)
        turn = np.where((w <= 0) & (K * i < LOAD), 0.0, (K * i - LOAD) / INERTIA)
        return np.concatenate([coil, np.where(on, turn, 0.0)])

    times, currents, state = [], [], np.zeros(2 * EVENTS)
    for begin, end in zip(begins, [*begins[1:], 0.5], strict=True):  # from event to event, as it must be told
        part = solve_ivp(slope, (begin, end), state, method="LSODA", rtol=accuracy, atol=accuracy)
        times.append(part.t)
        currents.append(part.y[:EVENTS].sum(axis=0))
        state = part.y[:, -1]
    return np.concatenate(times), np.concatenate(currents)


def start_s() -> tuple[float, float, float, float]:
    """Ours with ten events, the integrator at the same error, and both errors as a share of the peak."""
    motors = tuple(MotorWinding(OHM, COIL_H, K, K, INERTIA, LOAD, 1, b) for b in _begins())
    stages = [Stage((Place(motors=motors, loads=(Standing(current_a=0.0),)),), Source(VOLTS, PACK_OHM))]
    fine_t, fine_a = _exact(1e-10)
    ours = course_of(stages, [Spot(0)], 0.5)

    def off(times: np.ndarray, amperes: np.ndarray) -> float:
        inside = np.ones(len(times), dtype=bool)
        for begin in _begins():
            inside &= np.abs(times - begin) > 1e-4
        return float(np.abs(amperes - np.interp(times, fine_t, fine_a))[inside].max() / fine_a.max())

    accuracy = 1e-2
    while off(*_exact(accuracy)) > off(np.array(ours.times_s), np.array(ours.source_a)) and accuracy > 1e-9:
        accuracy /= 2
    return (least_s(lambda: course_of(stages, [Spot(0)], 0.5)), least_s(lambda: _exact(accuracy)),
            off(np.array(ours.times_s), np.array(ours.source_a)), off(*_exact(accuracy)))  # fmt: skip


def warm_s() -> tuple[float, float]:
    """Twenty lumps through 10 000 steps, all at once, and step by step."""
    dice = np.random.default_rng(1)
    links = tuple((a, b, float(dice.uniform(0, 1))) for a in range(LUMPS) for b in range(a))
    lumps = Lumps(dice.uniform(10, 500, LUMPS), links, dice.uniform(0, 1, LUMPS))
    heat, outside = dice.uniform(0, 2, (STEPS, LUMPS)), np.full(STEPS, 20.0)

    def loop() -> None:
        now, k = np.full(LUMPS, 20.0), lumps.stiffness
        solver = np.linalg.inv(np.diag(lumps.capacity_j_per_k / 20.0) + k)
        for n in range(STEPS):
            now = solver @ (lumps.capacity_j_per_k / 20.0 * now + heat[n] + lumps.outside_w_per_k * outside[n])

    return least_s(lambda: warmed(lumps, heat, outside, 20.0, np.full(LUMPS, 20.0))), least_s(loop)


def missions_s() -> tuple[float, float]:
    """10 000 missions of the demo at once, and as long as a project assessed for each would take."""
    project = demo("mudlark")
    odds = assess(project).of(ODDS)
    at_once = least_s(lambda: list(odds.lots(MISSIONS)), 3)

    def one_by_one() -> None:
        for n in range(TRIED):
            assess(edits.set_part_value(project, "battery", "pack.cell_capacity_ah", 6.0 + n / 100).after)

    return at_once, least_s(one_by_one, 2) / TRIED * MISSIONS


def temperatures_s() -> tuple[float, float]:
    """Temperatures of 1 000 missions of the demo, each with its own matrix, and as long as one by one would take."""
    project = demo("mudlark")
    odds = assess(project).of(WARM_ODDS)
    at_once = least_s(lambda: list(odds.lots()), 2)

    def one_by_one() -> None:
        for n in range(TRIED):
            changed = edits.set_part_value(project, "battery", "pack.cell_resistance_ohm", 0.006 + n / 1e5).after
            assert assess(changed).of(HEAT).extremes

    return at_once, least_s(one_by_one, 2) / TRIED * WARM_COUNT


def starts_s() -> float:
    """200 starts of the demo with what is not known well."""
    odds = assess(demo("mudlark")).of(START_ODDS)
    return least_s(lambda: list(odds.lots()), 2)


def demo_start_s() -> float:
    """The demo's starts, all modes."""
    project = demo("mudlark")

    def work() -> None:
        first = assess(project).of(FIRST)
        started = time.perf_counter()
        assert first.starts
        took.append(time.perf_counter() - started)

    took: list[float] = []
    for _ in range(5):
        work()
    return min(took)
