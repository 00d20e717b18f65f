"""Cells and packs: series and parallel, sag under constant power, and the charge a current leaves."""

import math
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.method import Impossible, method, require
from wired_union.physics.sources import PEUKERT

Array = np.ndarray[Any, np.dtype[np.float64]]  # as NDArray, whose module is slow to load


class PackValues(Struct, frozen=True):
    voltage_v: float
    capacity_ah: float
    resistance_ohm: float
    energy_wh: float
    max_power_w: float


@method(
    "pack",
    source="circuit theory; most power at V²/4R",
    checked="values worked by hand",
    limits="alike cells; no wiring or contact resistance",
)
def pack(
    series: int, parallel: int, cell_voltage_v: float, cell_capacity_ah: float, cell_resistance_ohm: float
) -> PackValues:
    """Voltage, capacity, resistance and energy of cells in series and parallel.

    Args:
        series: cells in series, 1 or more
        parallel: strings in parallel, 1 or more
        cell_voltage_v: nominal voltage of one cell
        cell_capacity_ah: capacity of one cell
        cell_resistance_ohm: internal resistance of one cell
    Returns:
        voltage_v: pack voltage without load
        capacity_ah: pack capacity
        resistance_ohm: internal resistance of the pack
        energy_wh: energy at the nominal voltage
        max_power_w: the most a matched load can draw, no limit when the resistance is zero
    Raises:
        ValueError: fewer than one cell, or a negative figure.
    """
    require(series >= 1 and parallel >= 1, "series and parallel are whole numbers of 1 or more")
    require(cell_voltage_v > 0 and cell_capacity_ah >= 0, "cell voltage is above 0, capacity 0 or more")
    require(cell_resistance_ohm >= 0, "cell resistance is 0 or more")
    voltage, resistance = series * cell_voltage_v, series * cell_resistance_ohm / parallel
    capacity = parallel * cell_capacity_ah
    most = voltage**2 / (4 * resistance) if resistance else math.inf
    return PackValues(voltage, capacity, resistance, voltage * capacity, most)


class Sag(Struct, frozen=True):
    current_a: float
    terminal_voltage_v: float


@method(
    "constant-power-sag",
    source="quadratic of the loop, V = E − R·P/V",
    checked="numpy.roots and scipy's brentq",
    limits="the upper branch, where a source works",
)
def constant_power_sag(open_circuit_voltage_v: float, resistance_ohm: float, power_w: float) -> Sag:
    """Current and terminal voltage of a source that feeds a load of constant power.

    Args:
        open_circuit_voltage_v: voltage without load
        resistance_ohm: internal resistance of the source
        power_w: power the load takes whatever the voltage
    Returns:
        current_a: current drawn
        terminal_voltage_v: voltage left at the terminals
    Raises:
        ValueError: the power is above V²/4R, which is named.
    """
    require(open_circuit_voltage_v > 0, "open-circuit voltage is above 0")
    require(resistance_ohm >= 0 and power_w >= 0, "resistance and power are 0 or more")
    left = open_circuit_voltage_v**2 - 4 * resistance_ohm * power_w
    if left < 0:
        most = open_circuit_voltage_v**2 / (4 * resistance_ohm)
        raise Impossible(f"cannot deliver {power_w:.4g} W: the most is V²/4R = {most:.4g} W")
    voltage = (open_circuit_voltage_v + math.sqrt(left)) / 2
    return Sag(power_w / voltage, voltage)


def loaded_voltage(
    open_circuit_v: Array, resistance_ohm: float | Array, current_a: Array, power_w: Array, conductance_s: Array
) -> Array:
    """Terminal voltage under constant current, constant power and conductance at once; NaN where it cannot deliver.

    Solves V = E − R·(I + P/V + G·V) exactly, upper branch: (1 + RG)V² − (E − RI)V + RP = 0. All arguments
    broadcast against each other. numpy warns of the roots that are not there: callers that expect some say so with
    `np.errstate(invalid="ignore")`. Source: quadratic of the loop, as for `constant_power_sag`.
    """
    lead = 1 + resistance_ohm * conductance_s
    linear = open_circuit_v - resistance_ohm * current_a
    volts = linear + np.sqrt(linear * linear - (4 * resistance_ohm) * lead * power_w)
    volts /= 2 * lead
    if not volts.min(initial=1.0) > 0:  # also where a NaN is among them
        volts[~(volts > 0)] = np.nan
    return volts


def loaded_voltage_at(
    open_circuit_v: float, resistance_ohm: float, current_a: float, power_w: float, conductance_s: float
) -> float:
    """`loaded_voltage` of plain numbers, without the cost of arrays."""
    lead = 1 + resistance_ohm * conductance_s
    linear = open_circuit_v - resistance_ohm * current_a
    inside = linear * linear - 4 * lead * resistance_ohm * power_w
    return (linear + math.sqrt(inside)) / (2 * lead) if inside >= 0 and linear > 0 else math.nan


class Runtime(Struct, frozen=True):
    runtime_h: float


@method(
    "peukert-runtime",
    source="t = H·(C/(I·H))^k",
    works=(PEUKERT,),
    checked="values worked by hand",
    limits="constant current near room temperature; below the rated current the capacity is not taken to grow",
)
def peukert_runtime(capacity_ah: float, rated_time_h: float, exponent: float, current_a: float) -> Runtime:
    """Time until a pack is empty at a constant current, when its capacity shrinks with the current.

    Args:
        capacity_ah: capacity at the rated discharge time
        rated_time_h: discharge time for which the capacity is given
        exponent: Peukert's exponent, 1 for an ideal cell
        current_a: discharge current
    Returns:
        runtime_h: time until empty
    Raises:
        ValueError: a figure that is not above zero, or an exponent below 1.
    """
    require(capacity_ah > 0 and rated_time_h > 0 and current_a > 0, "capacity, rated time and current are above 0")
    require(exponent >= 1, "Peukert's exponent is 1 or more")
    rate = capacity_ah / (current_a * rated_time_h)
    return Runtime(rated_time_h * rate ** (exponent if rate < 1 else 1.0))


class Chemistry(Struct, frozen=True):
    """Typical cell of a chemistry. Its figures are common practice, from memory, at 20 °C."""

    name: str
    nominal_v: float
    cutoff_v: float
    peukert_exponent: float
    rated_time_h: float
    charge: tuple[float, ...]
    open_circuit_v: tuple[float, ...]
    lithium: bool
    charge_end_v: float
    """Voltage of a cell at the end of its charge, which what hangs on the pack must survive; at rest where it is not
    charged."""
    rechargeable: bool = True
    self_discharge_a_month: float = 0.0
    """Share of its charge that it loses by itself in a month at 20 °C."""
    share_at_0_c: float = 1.0
    """Share of its capacity that it gives at 0 °C."""
    times_at_0_c: float = 2.0
    """Its resistance at 0 °C over that in a room."""
    stored_share: float = 0.97
    """Share of the energy put into it that it gives again."""


MONTH_H = 730.0
_TENTHS = (0.0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
CHEMISTRIES: dict[str, Chemistry] = {
    "lifepo4": Chemistry("LiFePO₄", 3.2, 2.6, 1.0, 5, _TENTHS,
        (2.50, 2.95, 3.10, 3.20, 3.22, 3.25, 3.26, 3.27, 3.28, 3.30, 3.32, 3.40), True, 3.65, True, 0.03, 0.80),
    "li-ion": Chemistry("Li-ion", 3.6, 3.0, 1.0, 5, _TENTHS,
        (3.00, 3.30, 3.42, 3.52, 3.58, 3.63, 3.68, 3.76, 3.85, 3.95, 4.06, 4.20), True, 4.20, True, 0.02, 0.85),
    "lipo": Chemistry("LiPo", 3.7, 3.2, 1.0, 1, _TENTHS,
        (3.27, 3.61, 3.69, 3.73, 3.77, 3.79, 3.82, 3.87, 3.92, 4.00, 4.08, 4.20), True, 4.20, True, 0.03, 0.85),
    "nimh": Chemistry("NiMH", 1.2, 0.95, 1.05, 5, _TENTHS,
        (1.00, 1.14, 1.18, 1.21, 1.23, 1.24, 1.25, 1.26, 1.27, 1.29, 1.33, 1.40), False, 1.55, True, 0.20, 0.85, 1.6,
        0.70),
    "lead-acid": Chemistry("lead acid", 2.0, 1.75, 1.2, 20, _TENTHS,
        (1.75, 1.89, 1.92, 1.95, 1.98, 2.00, 2.02, 2.04, 2.06, 2.08, 2.10, 2.13), False, 2.45, True, 0.04, 0.80, 1.4,
        0.80),
    "alkaline": Chemistry("alkaline", 1.5, 0.9, 1.15, 100, _TENTHS,
        (0.80, 0.98, 1.06, 1.13, 1.18, 1.22, 1.26, 1.30, 1.35, 1.41, 1.49, 1.60), False, 1.60, False, 0.003, 0.60),
    "lithium-manganese": Chemistry("lithium manganese, primary", 3.0, 2.0, 1.0, 1000, _TENTHS,
        (2.00, 2.50, 2.65, 2.75, 2.80, 2.84, 2.87, 2.89, 2.91, 2.93, 2.97, 3.10), True, 3.25, False, 0.001, 0.85),
    "lithium-primary": Chemistry("lithium primary", 3.6, 2.7, 1.0, 1000, _TENTHS,
        (2.70, 3.30, 3.45, 3.55, 3.60, 3.62, 3.63, 3.64, 3.65, 3.65, 3.66, 3.67), True, 3.67, False, 0.001, 0.90),
}  # fmt: skip


def peukert_rate(current_a: Array, capacity_ah: float | Array, chemistry: Chemistry) -> Array:
    """Rate in 1/h at which charge 1..0 runs down; follows Peukert above the rated current, the plain ratio below it.

    Source: Peukert 1897 in differential form; below the rated current capacity is not taken to grow.
    """
    plain = current_a / capacity_ah
    if chemistry.peukert_exponent == 1.0:
        return plain
    stretch = np.maximum(plain * chemistry.rated_time_h, 1.0) ** (chemistry.peukert_exponent - 1.0)
    return np.asarray(plain * stretch)
