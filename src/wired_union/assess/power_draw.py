"""From loads up to the pack: how much constant current, constant power and conductance the pack sees in each mode.

Behind a regulator in regulation the voltage is fixed, so everything there folds into one figure: a linear regulator
passes the current on, a switching one passes power through its efficiency curve. What is left at the pack is
I(V) = current + power/V + conductance·V, plus branches behind a wire with resistance; `settle` solves that exactly.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from wired_union.assess.power_tree import Node, state_current
from wired_union.physics.battery import Array, loaded_voltage, loaded_voltage_at
from wired_union.physics.converter import efficiency_at
from wired_union.project.model import Item, Mode


@dataclass(slots=True)
class Draw:
    """What a point of the tree takes: I(V) = current_a + power_w/V + conductance_s·V, and branches behind wires.

    Figures are floats for one instant, or arrays with one place for each of several; see `column`.
    """

    current_a: Any = 0.0
    power_w: Any = 0.0
    conductance_s: Any = 0.0
    wired: tuple[tuple[float, "Draw"], ...] = ()

    def at(self, voltage_v: Any) -> Any:
        """Current at a voltage, for floats and arrays alike."""
        total = self.current_a + self.power_w / voltage_v + self.conductance_s * voltage_v
        for ohm, draw in self.wired:
            total = total + (voltage_v - _settled(voltage_v, ohm, draw)) / ohm
        return total


Currents = Mapping[str, Any]
"""Item id to the current of all its copies together, at their rated voltage: a float, or one for each instant."""


def mode_currents(mode: Mode, loads: tuple[Item, ...]) -> tuple[dict[str, float], dict[str, float], set[str]]:
    """Average and undivided current of each load in a mode, and the ids of loads whose current is not known."""
    uses = {u.item: u for u in mode.uses}
    average, steady, unknown = {}, {}, set()
    for item in loads:
        load, use = item.part.load, uses.get(item.id)
        assert load is not None
        if use is None:
            now = rest = state_current(load, mode.otherwise)
            duty = 1.0
        else:
            now, duty = state_current(load, use.state), use.duty
            rest = now if duty >= 1 else state_current(load, use.rest)
        if now is None or rest is None:
            unknown.add(item.id)
            now, rest = now or 0.0, rest or 0.0
        average[item.id] = item.count * (duty * now + (1 - duty) * rest)
        steady[item.id] = item.count * now
    return average, steady, unknown


def draw_at_input(node: Node, currents: Currents, seen: dict[str, Draw] | None = None) -> Draw:
    """What a node takes at its own input: its own load, and what it passes on. `seen` collects it for every node."""
    part = node.item.part
    total = _draw_below(node, currents, seen) if node.children else Draw()
    if part.regulator is not None:
        total = _through_regulator(node, total)
    elif part.driver is not None:
        total.current_a += part.driver.quiescent_a * node.item.count
    if part.load is not None:
        current = currents.get(node.item.id, 0.0)
        rated = part.load.rated_v
        if part.load.draw == "current" or not rated:
            total.current_a += current
        elif part.load.draw == "power":
            total.power_w += current * rated
        else:
            total.conductance_s += current / rated
    if seen is not None:
        seen[node.item.id] = total
    return total


def _draw_below(node: Node, currents: Currents, seen: dict[str, Draw] | None) -> Draw:
    total, wired = Draw(), []
    for child in node.children:
        draw = draw_at_input(child, currents, seen)
        if child.wire_ohm > 0 and not child.only_current:
            wired.append((child.wire_ohm, draw))
            continue
        total.current_a += draw.current_a
        total.power_w += draw.power_w
        total.conductance_s += draw.conductance_s
        wired.extend(draw.wired)
    total.wired = tuple(wired)
    return total


def _through_regulator(node: Node, out: Draw) -> Draw:
    regulator = node.item.part.regulator
    assert regulator is not None
    copies = node.item.count
    current = out.at(regulator.output_v)
    quiescent = regulator.quiescent_a * copies
    if regulator.topology == "linear":
        return Draw(current_a=current + quiescent)
    efficiency = _efficiency(regulator.efficiency_curve, current / copies)
    return Draw(current_a=quiescent, power_w=current * regulator.output_v / efficiency)


def _efficiency(curve: Sequence[tuple[float, float]], current_a: Any) -> Any:
    if not curve:
        return 1.0
    if isinstance(current_a, float):
        return efficiency_at(curve, current_a)
    return np.interp(current_a, [i for i, _ in curve], [e for _, e in curve])


def column(draw: Draw) -> Draw:
    """A draw over several instants with its figures as columns, to stand against rows of voltages."""

    def at(figure: Any) -> Any:
        return figure if isinstance(figure, float) else figure[:, None]

    wired = tuple((ohm, column(branch)) for ohm, branch in draw.wired)
    return Draw(at(draw.current_a), at(draw.power_w), at(draw.conductance_s), wired)


def settle(open_circuit_v: Array, resistance_ohm: float, draw: Draw) -> Array:
    """Voltage behind a resistance that feeds `draw`; NaN where the source cannot deliver.

    Exact quadratic without wired branches; with them Newton's method on their current, to better than 1e-7 V.
    """
    with np.errstate(invalid="ignore"):
        return np.asarray(_settle(open_circuit_v, resistance_ohm, draw, loaded_voltage, _largest)[0])


def settle_at(open_circuit_v: float, resistance_ohm: float, draw: Draw) -> float:
    """`settle` for one voltage."""
    return float(_settle(open_circuit_v, resistance_ohm, draw, loaded_voltage_at, abs)[0])


def _settled(open_v: Any, ohm: float, draw: Draw) -> Any:
    return settle_at(open_v, ohm, draw) if isinstance(open_v, float) else settle(open_v, ohm, draw)


def _largest(values: Array) -> float:
    return float(np.fmax.reduce(np.abs(values), axis=None, initial=0.0))


SETTLED_V = 2e-3  # Newton squares the error: after a step this small less than 1e-7 V is left, P·R·δ²/V³


def _settle(open_v: Any, ohm: float, draw: Draw, solve: Callable[..., Any], size: Callable[[Any], float]) -> Any:
    """Voltage and its derivative by the open-circuit voltage, for floats and arrays alike."""
    slope: Any = 0.0
    if not draw.wired:
        volts = solve(open_v, ohm, draw.current_a, draw.power_w, draw.conductance_s)
    else:
        volts = solve(open_v, ohm, *_folded(draw))  # wires without resistance: a volt's fraction away
    for _ in range(40 if draw.wired else 0):
        branch, slope = _wired_current(volts, draw, solve, size)
        new = solve(open_v, ohm, draw.current_a + branch - slope * volts, draw.power_w, draw.conductance_s + slope)
        moved = size(new - volts)
        volts = new
        if not moved > SETTLED_V:
            break
    conductance = slope + draw.conductance_s - draw.power_w / (volts * volts)
    return volts, 1.0 / (1.0 + ohm * conductance)


def _folded(draw: Draw) -> tuple[Any, Any, Any]:
    """A draw with its wires' resistance left out."""
    current, power, conductance = draw.current_a, draw.power_w, draw.conductance_s
    for _, branch in draw.wired:
        more = _folded(branch)
        current, power, conductance = current + more[0], power + more[1], conductance + more[2]
    return current, power, conductance


def _wired_current(volts: Any, draw: Draw, solve: Callable[..., Any], size: Callable[[Any], float]) -> Any:
    """Current into the wired branches at a voltage, and its derivative."""
    current: Any = 0.0
    slope: Any = 0.0
    for ohm, branch in draw.wired:
        inner, gain = _settle(volts, ohm, branch, solve, size)
        current = current + (volts - inner) / ohm
        slope = slope + (1.0 - gain) / ohm
    return current, slope
