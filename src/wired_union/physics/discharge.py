"""Running a pack down through a mission of modes, by quadrature instead of time steps.

In each mode the rate at which charge runs down depends only on the charge left, so the time from full to any charge is
one integral per mode, tabulated once on a grid of charge. A phase is then a look-up: add its duration to the time
that the present charge stands for, and read the charge back. The rate is taken as level within a cell of the grid.
Source: separation of variables for ds/dt = −f(s); trapezoidal rule on 1/f.
"""

from bisect import bisect_right
from collections.abc import Sequence
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array

CELLS = 80
MANY_CYCLES = 200
TRACE_CYCLES = 60


def charge_grid() -> Array:
    """Charge left, from full (1) to empty (0); holds every knot of the chemistries' curves."""
    return np.linspace(1.0, 0.0, CELLS + 1)


class Discharge(Struct, frozen=True):
    """How a mission ends: after `runtime_s` (inf for never) with `charge` left, in phase `phase`, by "reserve",
    "cut-off" or "cannot deliver"; `times_s` and `charges` are the corners of the way there, `modes` each leg's mode.
    """

    runtime_s: float
    charge: float
    ended_by: str
    mode: int
    times_s: tuple[float, ...]
    charges: tuple[float, ...]
    modes: tuple[int, ...]
    averaged: bool


def end_places(voltage_v: Array, cutoff_v: float, reserve: float) -> list[tuple[float, str]]:
    """Where on the grid (0 full to CELLS empty) each mode must stop, and why.

    Args:
        voltage_v: loaded voltage, shape (modes, CELLS + 1), NaN where the pack cannot deliver
        cutoff_v: voltage below which the pack is switched off
        reserve: charge never planned on, 0 to 1
    """
    floor = (1.0 - reserve) * CELLS
    holds: Any = (voltage_v >= cutoff_v).all(axis=1).tolist()
    return [(floor, "reserve") if fine else _end_place(voltage_v[i], cutoff_v, floor) for i, fine in enumerate(holds)]


def _end_place(volts: Array, cutoff_v: float, floor: float) -> tuple[float, str]:
    """Where a mode must stop whose voltage falls below the cut-off, or is not there, somewhere on the grid."""
    first = int((volts >= cutoff_v).argmin())
    low = float(volts[first])
    if low != low:  # NaN: the quadratic has no root here
        place, why = float(max(first - 1, 0)), "cannot deliver"
    elif first == 0:
        place, why = 0.0, "cut-off"
    else:
        above = float(volts[first - 1])
        place, why = first - 1 + (above - cutoff_v) / (above - low), "cut-off"
    return (place, why) if place < floor else (floor, "reserve")


def run_down(rate_per_h: Array, ends: Sequence[tuple[float, str]], phases: Sequence[tuple[int, float]]) -> Discharge:
    """Repeat the phases from full until a mode must stop.

    Args:
        rate_per_h: share of the charge used per hour, shape (modes, CELLS + 1)
        ends: from `end_places`
        phases: (mode, duration in s) of one cycle, at least one
    """
    rates = np.where(np.isfinite(rate_per_h), rate_per_h, 0.0)
    cycle_h = sum(d for _, d in phases) / 3600
    used_a_cycle = sum(d / 3600 * float(rates[m, 0]) for m, d in phases)
    floor = min(ends[m][0] for m, _ in phases) / CELLS
    if floor > 0 and used_a_cycle <= 0:
        return Discharge(float("inf"), 1.0, "nothing draws", phases[0][0], (0.0,), (1.0,), (), False)
    if used_a_cycle * MANY_CYCLES < floor:
        return _averaged(rates, ends, phases, cycle_h)
    return _stepped(rates, ends, phases)


FRESH_S = 86_400.0
"""A pack is charged the day before: what it loses by itself counts from the second day on."""


def stretched_s(runtime_s: float, used: float, lost_per_h: float) -> float:
    """A runtime with what the cells lose by themselves, or gain besides, from the second day on.

    At a mean rate r the rest lasts r/(r + s) times as long when s is lost besides; where as much is gained as is used
    it never ends. Source: rates of charge add.

    Args:
        runtime_s: without that
        used: share of the charge that is used in it
        lost_per_h: share of the charge that is lost in an hour; gained where it is below 0
    """
    if not FRESH_S < runtime_s < float("inf") or used <= 0 or lost_per_h == 0:
        return runtime_s
    rate = used / (runtime_s / 3600)
    if rate + lost_per_h <= 0:
        return float("inf")
    return FRESH_S + (runtime_s - FRESH_S) * rate / (rate + lost_per_h)


LEVEL = 1e6
"""Times as long that a charge is drawn to last which never ends: level."""


def stretched(run: Discharge, lost_per_h: float) -> Discharge:
    """The same with what the cells lose by themselves or gain besides; what lies beyond the first day moves."""
    other = stretched_s(run.runtime_s, 1 - run.charge, lost_per_h)
    if other == run.runtime_s:
        return run
    share = min((other - FRESH_S) / (run.runtime_s - FRESH_S), LEVEL)
    times = tuple(t if t <= FRESH_S else FRESH_S + (t - FRESH_S) * share for t in run.times_s)
    why = run.ended_by if other < float("inf") else "the sun gives as much"
    return Discharge(other, run.charge, why, run.mode, times, run.charges, run.modes, run.averaged)


def _hours(rates: Array) -> list[list[float]]:
    """Hours from full to each place of the grid in each mode, inf past where nothing draws."""
    with np.errstate(divide="ignore"):
        slow = 1.0 / rates
    hours = np.zeros(rates.shape)
    np.cumsum((slow[:, :-1] + slow[:, 1:]) / (2 * CELLS), axis=1, out=hours[:, 1:])
    table: Any = hours.tolist()  # a list of rows; numpy's types do not know how deep
    return list(table)


def _time_at(hours: list[float], place: float) -> float:
    cell = int(place)
    if cell >= CELLS:
        return hours[CELLS]
    return hours[cell] + (place - cell) * (hours[cell + 1] - hours[cell])


def _place_at(hours: list[float], time_h: float) -> float:
    cell = bisect_right(hours, time_h) - 1
    if cell >= CELLS:
        return float(CELLS)
    width = hours[cell + 1] - hours[cell]
    return cell + (time_h - hours[cell]) / width if width < float("inf") else float(cell)


def _stepped(rates: Array, ends: Sequence[tuple[float, str]], phases: Sequence[tuple[int, float]]) -> Discharge:
    tables = _hours(rates)
    place, now, times, places, modes = 0.0, 0.0, [0.0], [0.0], list[int]()
    while True:
        before = place
        for mode, duration in phases:
            (end, why) = ends[mode]
            lasts, reached = _leg(tables[mode], place, end, duration)
            done, now, place = reached >= end, now + lasts, reached
            times.append(now)
            places.append(place)
            modes.append(mode)
            if done:
                charges = tuple(1 - p / CELLS for p in places)
                return Discharge(now, charges[-1], why, mode, tuple(times), charges, tuple(modes), False)
        if place == before:
            return Discharge(float("inf"), 1 - place / CELLS, "nothing draws", phases[0][0], (0.0,), (1.0,), (), False)


def _leg(hours: list[float], place: float, end: float, duration: float) -> tuple[float, float]:
    """How long one phase lasts, and the place that it reaches: its end where that comes first."""
    if place >= end:  # past its end there is none left
        return 0.0, place
    if hours[int(place) + 1] == float("inf"):  # nothing draws here
        return duration, place
    start = _time_at(hours, place)
    left_s = (_time_at(hours, end) - start) * 3600
    if left_s <= duration:
        return left_s, end
    return duration, _place_at(hours, start + duration / 3600)


def _averaged(
    rates: Array, ends: Sequence[tuple[float, str]], phases: Sequence[tuple[int, float]], cycle_h: float
) -> Discharge:
    """Cycles so short against the pack that their mean rate serves: one integral instead of thousands of steps."""
    mean = sum(rates[m] * (d / 3600) for m, d in phases) / cycle_h
    (hours,) = _hours(np.atleast_2d(mean))
    (end, why), mode = min((ends[m], m) for m, _ in phases)
    places = [*range(int(end) + 1), end]
    times = tuple(_time_at(hours, p) * 3600 for p in places)
    charges = tuple(1 - p / CELLS for p in places)
    return Discharge(times[-1], charges[-1], why, mode, times, charges, (mode,) * (len(times) - 1), True)
