"""What flows where: volts, amperes and watts of every node of the power tree, at many instants at once."""

from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

import numpy as np

from wired_union.physics.battery import Array
from wired_union.subjects.power.net import Draws, Net, Solved, efficiency_of, solve_points


class Flow(NamedTuple):
    """One node at work: voltage at its input, current and power into it, power it turns to heat on the way through."""

    item: str
    input_v: float
    current_a: float
    power_w: float
    output_a: float
    loss_w: float


@dataclass(frozen=True, eq=False)
class Flows:
    """Every node at every instant; shapes (nodes, instants), NaN below a pack that cannot deliver or is not known."""

    index: dict[str, int]
    input_v: Array = field(repr=False)
    current_a: Array = field(repr=False)
    output_a: Array = field(repr=False)
    loss_w: Array = field(repr=False)

    @cached_property
    def power_w(self) -> Array:
        return self.input_v * self.current_a

    def at(self, instant: int) -> dict[str, Flow]:
        """One instant, by item id."""
        columns = (
            t[:, instant].tolist() for t in (self.input_v, self.current_a, self.power_w, self.output_a, self.loss_w)
        )
        return {item: Flow(item, *row) for item, row in zip(self.index, zip(*columns, strict=True), strict=True)}


Packs = dict[str, tuple[float | None, Array]]
"""Each pack's resistance in ohms and its open-circuit voltage by instant; None where its figures are not known."""


def voltages_of(net: Net, draws: Draws, packs: Packs) -> Array:
    """Voltage at every point, shape (points, instants); NaN below a pack that cannot deliver or is not known."""
    instants = draws.current.shape[1]
    volts = np.full((len(net.up), instants), np.nan)
    for n, item in enumerate(net.items):  # packs first: what nothing feeds makes nothing
        if net.parent[n] < 0:
            ohm, open_v = packs[item.id]
            if ohm is not None:
                _put(volts, solve_points(net, n, open_v, ohm, draws))
        elif item.part.regulator is not None:
            made = np.where(np.isnan(volts[net.point[n]]), np.nan, item.part.regulator.output_v)
            _put(volts, solve_points(net, n, made, 0.0, draws))
    return volts


def _put(volts: Array, solved: Solved) -> None:
    for point, v in solved.items():
        volts[point] = v


def flows_of(net: Net, draws: Draws, volts: Array, packs: Packs) -> Flows:
    """Currents from what is drawn, added up from the ends; losses in wires, regulators, drivers and packs."""
    input_v = volts[net.point]
    current = np.zeros_like(input_v)
    output, loss = np.zeros_like(input_v), np.zeros_like(input_v)
    own = _own_currents(net, draws, input_v)
    for n in range(len(net.items) - 1, -1, -1):
        part, count = net.items[n].part, net.items[n].count
        if part.regulator is not None and net.parent[n] >= 0:
            current[n] = own[n] + _taken(net, n, draws, input_v[n], output[n])
            loss[n] = input_v[n] * current[n] - part.regulator.output_v * output[n]
        else:
            current[n] = own[n] + output[n]
        if part.driver is not None and part.regulator is None:
            current[n] = current[n] + part.driver.quiescent_a * count
            loss[n] = part.driver.quiescent_a * count * input_v[n]
            loss[n] += output[n] ** 2 * part.driver.on_resistance_ohm / (part.driver.channels * count)
        loss[n] += current[n] ** 2 * net.ohm[n]
        if net.parent[n] >= 0:
            output[net.parent[n]] += current[n]
    for item, (ohm, open_v) in packs.items():
        n = net.index[item]
        if ohm:
            current[n] = (open_v - input_v[n]) / ohm
        output[n] = current[n]
        loss[n] = current[n] ** 2 * (ohm or 0.0)
    return Flows(net.index, input_v, current, output, loss)


def _own_currents(net: Net, draws: Draws, input_v: Array) -> Array:
    """Current of each node's own load at the voltage it gets."""
    own = np.zeros_like(input_v)
    for n, amperes, kind, rated in draws.loads:
        if kind == "current":
            own[n] = np.where(np.isnan(input_v[n]), np.nan, amperes)
        else:
            own[n] = amperes * rated / input_v[n] if kind == "power" else amperes * input_v[n] / rated
    return own


def _taken(net: Net, n: int, draws: Draws, input_v: Array, output_a: Array) -> Array:
    """What a regulator takes at its input for what it gives."""
    item = net.items[n]
    regulator = item.part.regulator
    assert regulator is not None
    quiescent = regulator.quiescent_a * item.count
    if regulator.topology == "linear":
        return output_a + quiescent
    return output_a * regulator.output_v / efficiency_of(regulator, output_a / item.count) / input_v + quiescent
