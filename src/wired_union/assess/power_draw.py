"""From loads up to the pack: how much constant current, constant power and conductance the pack sees in each mode.

Behind a regulator in regulation the voltage is fixed, so everything there folds into one figure: a linear regulator
passes the current on, a switching one passes power through its efficiency curve. What is left at the pack is
I(V) = current + power/V + conductance·V, plus branches behind a wire with resistance; `settle` solves that exactly.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from wired_union.assess.power_tree import Node, state_current
from wired_union.physics.battery import Array, loaded_voltage
from wired_union.physics.converter import efficiency_at
from wired_union.project.model import Item, Mode, Use

RATINGS_IN_HAND = 0.2


@dataclass(slots=True)
class Draw:
    """What a point of the tree takes: I(V) = current_a + power_w/V + conductance_s·V, and branches behind wires."""

    current_a: float = 0.0
    power_w: float = 0.0
    conductance_s: float = 0.0
    wired: tuple[tuple[float, "Draw"], ...] = ()

    def at(self, voltage_v: float) -> float:
        """Current at a voltage."""
        direct = self.current_a + self.power_w / voltage_v + self.conductance_s * voltage_v
        if not self.wired:
            return direct
        volts = np.array([voltage_v])
        return direct + sum(float((volts - settle(volts, ohm, draw))[0]) / ohm for ohm, draw in self.wired)


Currents = Mapping[str, float]
"""Item id to the current of all its copies together, at their rated voltage."""


def mode_currents(mode: Mode, loads: tuple[Item, ...]) -> tuple[dict[str, float], dict[str, float], set[str]]:
    """Average and undivided current of each load in a mode, and the ids of loads whose current is not known."""
    uses = {u.item: u for u in mode.uses}
    default = Use(item="default", state=mode.otherwise)
    average, steady, unknown = {}, {}, set()
    for item in loads:
        use = uses.get(item.id, default)
        load = item.part.load
        assert load is not None
        now = state_current(load, use.state)
        rest = now if use.duty >= 1 else state_current(load, use.rest)
        if now is None or rest is None:
            unknown.add(item.id)
            now, rest = now or 0.0, rest or 0.0
        average[item.id] = item.count * (use.duty * now + (1 - use.duty) * rest)
        steady[item.id] = item.count * now
    return average, steady, unknown


def draw_at_input(node: Node, currents: Currents) -> Draw:
    """What a node takes at its own input: its own load, and what it passes on."""
    part = node.item.part
    total = _draw_below(node, currents) if node.children else Draw()
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
    return total


def _draw_below(node: Node, currents: Currents) -> Draw:
    total, wired = Draw(), []
    for child in node.children:
        draw = draw_at_input(child, currents)
        if child.wire_ohm > 0 and (draw.power_w or draw.conductance_s or draw.wired):
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
    if not current:
        return Draw(current_a=quiescent)
    efficiency = efficiency_at(regulator.efficiency_curve, current / copies) if regulator.efficiency_curve else 1.0
    return Draw(current_a=quiescent, power_w=current * regulator.output_v / efficiency)


def settle(open_circuit_v: Array, resistance_ohm: Array | float, draw: Draw) -> Array:
    """Voltage behind a resistance that feeds `draw`; NaN where the source cannot deliver.

    Exact quadratic without wired branches; with them Newton's method on their current, to 1e-12 of a volt.
    """
    current, power, conductance = (np.asarray(x) for x in (draw.current_a, draw.power_w, draw.conductance_s))
    volts = loaded_voltage(open_circuit_v, resistance_ohm, current, power, conductance)
    for _ in range(40 if draw.wired else 0):
        step = 1e-6 * np.abs(volts)
        here, there = _wired_current(volts, draw), _wired_current(volts + step, draw)
        slope = (there - here) / step
        new = loaded_voltage(open_circuit_v, resistance_ohm, current + here - slope * volts, power, conductance + slope)
        moved = np.nanmax(np.abs(new - volts), initial=0.0)
        volts = new
        if not moved > 1e-12:
            break
    return volts


def _wired_current(volts: Array, draw: Draw) -> Array:
    total = np.zeros_like(volts)
    for ohm, branch in draw.wired:
        total = total + (volts - settle(volts, ohm, branch)) / ohm
    return total
