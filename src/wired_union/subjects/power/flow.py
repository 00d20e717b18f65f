"""What flows where: volts, amperes and watts of every node of the power tree, at many instants at once."""

from functools import cached_property

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.subjects.power.net import (
    Draws,
    Net,
    Solved,
    efficiency_of,
    input_watts,
    is_zero,
    output_v,
    per_instant,
    quiescent_a,
    solve_points,
)


class Flow(Struct, frozen=True):
    """One node at work: voltage at its input, current and power into it, power it turns to heat on the way through."""

    item: str
    input_v: float
    current_a: float
    power_w: float
    output_a: float
    loss_w: float


class Flows(Struct, frozen=True, eq=False, dict=True):
    """Every node at every instant; shapes (nodes, instants), NaN below a pack that cannot deliver or is not known."""

    index: dict[str, int]
    input_v: Array
    current_a: Array
    output_a: Array
    loss_w: Array

    @cached_property
    def power_w(self) -> Array:
        return self.input_v * self.current_a

    def table(self, figure: str) -> Array:
        """One figure over (nodes, instants). Raises KeyError for a name that is none."""
        return {"current_a": self.current_a, "output_a": self.output_a, "input_v": self.input_v}[figure]

    def row(self, item_id: str, figure: str) -> Array:
        """A figure of one node at every instant."""
        row: Array = self.table(figure)[self.index[item_id]]
        return row

    def part(self, own: slice) -> "Flows":
        """Some of the instants."""
        tables = (self.input_v, self.current_a, self.output_a, self.loss_w)
        return Flows(self.index, *(t[:, own] for t in tables))

    def at(self, instant: int) -> dict[str, Flow]:
        """One instant, by item id."""
        columns = (
            t[:, instant].tolist() for t in (self.input_v, self.current_a, self.power_w, self.output_a, self.loss_w)
        )
        return {item: Flow(item, *row) for item, row in zip(self.index, zip(*columns, strict=True), strict=True)}


Packs = dict[str, tuple[float | Array | None, Array]]
"""Each pack's resistance in ohms and its open-circuit voltage by instant; None where its figures are not known."""


def voltages_of(net: Net, draws: Draws, packs: Packs) -> Array:
    """Voltage at every point, shape (points, instants); NaN below a pack that cannot deliver or is not known."""
    instants = draws.current.shape[1]
    volts = np.full((len(net.up), instants), np.nan)
    for n, items in enumerate(net.items):  # packs first: what nothing feeds makes nothing
        if net.parent[n] < 0:
            ohm, open_v = packs[items[0].id]
            if ohm is not None:
                _put(volts, solve_points(net, n, open_v, ohm, draws))
        elif items[0].part.regulator is not None:
            made = np.where(np.isnan(volts[net.point[n]]), np.nan, per_instant(net, n, output_v, instants))
            _put(volts, solve_points(net, n, made, 0.0, draws))
    return volts


def _put(volts: Array, solved: Solved) -> None:
    for point, v in solved.items():
        volts[point] = v


def flows_of(net: Net, draws: Draws, volts: Array, packs: Packs) -> Flows:
    """Currents from what is drawn, added up from the ends; losses in wires, regulators, drivers and packs."""
    input_v = volts[net.point]
    current, instants = np.zeros_like(input_v), input_v.shape[1]
    output, loss = np.zeros_like(input_v), np.zeros_like(input_v)
    own = _own_currents(net, draws, input_v)
    for n in range(len(net.items) - 1, -1, -1):
        part = net.items[n][0].part
        if part.regulator is not None and net.parent[n] >= 0:
            current[n] = own[n] + _taken(net, n, draws, input_v[n], output[n])
            loss[n] += input_v[n] * current[n] - per_instant(net, n, output_v, instants) * output[n]
        else:
            current[n] = own[n] + output[n]
        if part.driver is not None and part.regulator is None:
            quiescent = per_instant(net, n, quiescent_a, instants) * draws.times(n)
            current[n] = current[n] + quiescent
            loss[n] += quiescent * input_v[n]
        loss[n] += current[n] ** 2 * (net.ohm[n] - net.channel_ohm[n])
        if part.rail is not None and net.parent[n] >= 0 and part.regulator is None:
            loss[n] += current[n] * net.drop_v[n]
        if net.parent[n] >= 0:
            output[net.parent[n]] += current[n]
            loss[net.parent[n]] += current[n] ** 2 * net.channel_ohm[n]
    for item, (ohm, open_v) in packs.items():
        n = net.index[item]
        if ohm is not None and not is_zero(ohm):
            current[n] = (open_v - input_v[n]) / ohm
            loss[n] = current[n] ** 2 * ohm
        elif net.items[n][0].part.regulator is not None:  # a power bank's converter
            loss[n] = input_v[n] * current[n] * (1 / efficiency_of(net, n, current[n]) - 1) * draws.times(n)
        else:
            loss[n] = current[n] * 0.0
        output[n] = current[n]
    return Flows(net.index, input_v, current, output, loss)


def handed_over(flows: Flows, pack: int, supply: int, plugged_in: Array) -> Flows:
    """What a pack gives, given by the supply that stands in for it at the instants in which that is plugged in."""
    volts, current, output, loss = (t.copy() for t in (flows.input_v, flows.current_a, flows.output_a, flows.loss_w))
    for table in (current, loss):
        table[supply], table[pack] = np.where(plugged_in, table[pack], 0.0), np.where(plugged_in, 0.0, table[pack])
    output[supply] = current[supply]
    volts[supply] = np.where(plugged_in, volts[pack], volts[supply])
    return Flows(flows.index, volts, current, output, loss)


def _own_currents(net: Net, draws: Draws, input_v: Array) -> Array:
    """Current of each node's own load at the voltage it gets."""
    own = np.zeros_like(input_v)
    for n, amperes, law, rated in draws.loads:
        if law == "current":
            own[n] = np.where(np.isnan(input_v[n]), np.nan, amperes)
        else:
            own[n] = amperes * rated / input_v[n] if law == "power" else amperes * input_v[n] / rated
    return own


def _taken(net: Net, n: int, draws: Draws, input_v: Array, output_a: Array) -> Array:
    """What a regulator takes at its input for what it gives."""
    regulator, instants = net.items[n][0].part.regulator, len(input_v)
    assert regulator is not None
    quiescent = per_instant(net, n, quiescent_a, instants) * draws.times(n)
    if not regulator.passes_power:
        return output_a + quiescent
    return np.asarray(input_watts(net, n, output_a, input_v, draws.times(n)) / input_v + quiescent)
