"""Current and voltage of a pack along the mission, for charts and readings."""

from bisect import bisect_right

import numpy as np
from msgspec import Struct

from wired_union.physics.discharge import charge_grid
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.packs import PackResult

_GRID = charge_grid()
SAMPLES_A_LEG = 6


class Trace(Struct, frozen=True):
    """Samples along the mission, and the legs (start, end, mode index) they belong to."""

    times_s: tuple[float, ...]
    current_a: tuple[float, ...]
    voltage_v: tuple[float, ...]
    charge: tuple[float, ...]
    legs: tuple[tuple[float, float, int], ...]

    def at(self, time_s: float) -> tuple[float, float, float] | None:
        """Current, voltage and charge at a time; None outside the trace."""
        if not self.times_s or not 0 <= time_s <= self.times_s[-1]:
            return None
        i = min(bisect_right(self.times_s, time_s), len(self.times_s) - 1)
        return self.current_a[i], self.voltage_v[i], self.charge[i]


def mission_trace(result: PowerResult, pack: PackResult) -> Trace:
    """The trace of one pack; empty without a mission."""
    run = pack.discharge
    if run is None or run.runtime_s == float("inf"):
        return Trace((), (), (), (), ())
    times: list[float] = []
    charges: list[float] = []
    modes: list[int] = []
    legs = []
    for k, mode in enumerate(run.modes):
        t0, t1, s0, s1 = run.times_s[k], run.times_s[k + 1], run.charges[k], run.charges[k + 1]
        legs.append((t0, t1, mode))
        for j in range(SAMPLES_A_LEG):
            share = j / (SAMPLES_A_LEG - 1)
            times.append(t0 + share * (t1 - t0))
            charges.append(s0 + share * (s1 - s0))
            modes.append(mode)
    current, voltage = _figures(result, pack, np.array(charges), np.array(modes, dtype=int), run.averaged)
    return Trace(tuple(times), tuple(current.tolist()), tuple(voltage.tolist()), tuple(charges), tuple(legs))


def _figures(
    result: PowerResult, pack: PackResult, charge: np.ndarray, mode: np.ndarray, averaged: bool
) -> tuple[np.ndarray, np.ndarray]:
    rising = _GRID[::-1]
    tables = [(row_i[::-1], row_v[::-1]) for row_i, row_v in zip(pack.current_a, pack.voltage_v, strict=True)]
    if averaged:
        phases = result.concept.mission.phases
        weights = np.zeros(len(tables))
        for phase in phases:
            weights[result.mode_index[phase.mode]] += phase.duration_s
        weights /= weights.sum()
        current = sum(w * np.interp(charge, rising, i) for w, (i, _) in zip(weights, tables, strict=True))
        voltage = sum(w * np.interp(charge, rising, v) for w, (_, v) in zip(weights, tables, strict=True))
        return np.asarray(current), np.asarray(voltage)
    current, voltage = np.empty(len(charge)), np.empty(len(charge))
    for m, (i, v) in enumerate(tables):
        mine = mode == m
        current[mine] = np.interp(charge[mine], rising, i)
        voltage[mine] = np.interp(charge[mine], rising, v)
    return current, voltage
