"""A plant from a measured step: read from a table, fitted, and taken as figures of a loop."""

from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.step import StepFit, step_fit
from wired_union.project.errors import ProjectError
from wired_union.project.loop_model import Loop
from wired_union.units import show

INTEGRATES = {"integrator with lag", "motor position", "heading", "two motors in step"}
MOST_POINTS = 4000
"""Points that are fitted; of more, as many evenly spread."""


class MeasuredStep(Struct, frozen=True):
    """What was measured: times since the step, values, and how much the input stepped; shapes (points,)."""

    times_s: Array
    values: Array
    step: float


def read_step(text: str) -> MeasuredStep:
    """A table of time in s, value and, if it is there, input. Raises ProjectError for what is none."""
    rows = []
    for line in text.splitlines():
        cells = [c.strip() for c in line.replace(";", ",").replace("\t", ",").split(",")]
        try:
            rows.append([float(c) for c in cells if c])
        except ValueError:
            if rows:
                raise ProjectError(f"“{line[:60]}” is no row of numbers. Give time, value and input.") from None
    rows = [r for r in rows if r]
    wide = len(rows[0]) if rows else 0
    if wide not in {2, 3} or any(len(r) != wide for r in rows):
        raise ProjectError("A measured step is a table of time in s, value and, if you have it, input.")
    table = np.array(rows, dtype=float)
    if not np.isfinite(table).all():
        raise ProjectError("The table has values that are no numbers.")
    if len(table) > MOST_POINTS:
        table = table[np.linspace(0, len(table) - 1, MOST_POINTS).astype(int)]
    return _since_the_step(table) if wide == 3 else MeasuredStep(table[:, 0] - table[0, 0], table[:, 1], 1.0)


def _since_the_step(table: Array) -> MeasuredStep:
    given = table[:, 2]
    step = float(given[-1] - given[0])
    if step == 0:
        raise ProjectError("Its input never steps. Give the input before and after.")
    at = int(np.argmax(np.abs(given - given[0]) > abs(step) / 2))
    return MeasuredStep(table[:, 0] - table[at, 0], table[:, 1], step)


def fitted(loop: Loop, measured: MeasuredStep) -> tuple[dict[str, Any], StepFit]:
    """Figures of a loop with the plant that was measured, and the fit. Raises ProjectError where none fits."""
    integrates = loop.plant in INTEGRATES
    try:
        found = step_fit(measured.times_s.tolist(), measured.values.tolist(), measured.step, integrates)
    except ValueError as error:
        raise ProjectError(f"No plant fits this step: {error}.") from error
    if found.gain <= 0:
        raise ProjectError("It moves the other way than its input: turn the sign of one of them.")
    plant = "integrator with lag" if integrates else "first order"
    lag, late = float(f"{found.time_constant_s:.4g}"), float(f"{found.delay_s:.4g}")
    return {"plant": plant, "plant_gain": float(f"{found.gain:.4g}"), "time_constant_s": lag, "dead_s": late}, found


def fit_words(measured: MeasuredStep, found: StepFit) -> str:
    """ "Fitted to 300 points: gain 2, lag 0.5 s, 80 ms before it moves; off by 0.01 (σ)." """
    return (f"Fitted to {len(measured.times_s)} points: gain {found.gain:.3g}, lag {show(found.time_constant_s, 's')},"
            f" {show(found.delay_s, 's')} before it moves; off by {found.residual_sd:.2g} (σ). What chain it has"
            " besides counts on top: leave it empty if the step was measured through it.")  # fmt: skip
