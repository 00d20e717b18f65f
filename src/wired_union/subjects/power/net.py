"""From loads up to the pack, for many instants at once: voltages of a tree of wires, regulators and loads.

The tree is a list of points, parents first. A point stands behind a wire, or at the output of a pack or regulator;
what draws at it takes I(V) = current + power/V + conductance·V. Behind a regulator in regulation the voltage is fixed,
so everything there folds into one current: a linear regulator passes it on, a switching one passes power through its
efficiency curve. Between a source and the ends of its wires the voltages are solved by Newton's method with one sweep
up and one down a step: Shirmohammadi et al. 1988, "A compensation-based power flow method for weakly meshed
distribution networks" (the backward and forward sweep), and Ortega & Rheinboldt 1970, 13.3.4 (monotone convergence from
above: currents are convex in V). Without wires the loop is the exact quadratic of `loaded_voltage`.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from wired_union.physics.battery import Array, loaded_voltage
from wired_union.project.model import Item, Regulator
from wired_union.subjects.power.currents import Currents
from wired_union.subjects.power.tree import PowerTree

STEPS = 60
SETTLED_V = 1e-6  # Newton squares the error: after a step this small less than 1e-11 V is left


@dataclass(frozen=True, eq=False)
class Net:
    """A power tree as lists: nodes and points, parents first."""

    items: tuple[Item, ...]
    index: dict[str, int]
    parent: tuple[int, ...]
    """Node that feeds each node, −1 for packs."""
    ohm: tuple[float, ...]
    point: Any
    """Point at each node's input; shape (nodes,)."""
    out: tuple[int, ...]
    """Point that each node gives to what it feeds."""
    up: tuple[int, ...]
    """Point above each point, −1 for outputs of packs and regulators."""
    up_ohm: tuple[float, ...]
    points_of: dict[int, list[int]]
    """Points that hang from a pack's or regulator's output, by node."""


def net_of(tree: PowerTree) -> Net:
    """The points of a power tree."""
    items = tuple(n.item for n in tree.nodes.values())
    index = {i.id: n for n, i in enumerate(items)}
    parent = tuple(index.get(tree.source_of.get(i.id, ""), -1) for i in items)
    ohm = tuple(n.wire_ohm for n in tree.nodes.values())
    point, out = [0] * len(items), [0] * len(items)
    up: list[int] = []
    up_ohm: list[float] = []
    source: list[int] = []
    points_of: dict[int, list[int]] = {}

    def add(above: int, resistance: float, of: int) -> int:
        up.append(above)
        up_ohm.append(resistance)
        source.append(of)
        points_of.setdefault(of, []).append(len(up) - 1)
        return len(up) - 1

    for n, item in enumerate(items):
        if parent[n] < 0:
            point[n] = out[n] = add(-1, 0.0, n)
            continue
        above = out[parent[n]]
        point[n] = add(above, ohm[n], source[above]) if ohm[n] > 0 else above
        out[n] = add(-1, 0.0, n) if item.part.regulator is not None else point[n]
    return Net(items, index, parent, ohm, np.array(point, dtype=np.intp), tuple(out), tuple(up), tuple(up_ohm),
               points_of)  # fmt: skip


@dataclass(eq=False)
class Draws:
    """What is drawn at each point: I(V) = current + power/V + conductance·V. Shapes (points, instants)."""

    current: Array
    power: Array
    conductance: Array
    output_a: Array
    """What each regulator or pack gives, over nodes; filled in from the ends to the packs."""
    loads: list[tuple[int, Array, str, float]] = field(default_factory=list)
    """Each load's node, current at rated voltage over the instants, what stays the same, and its rated voltage."""

    def at(self, point: int, volts: Any) -> Any:
        return self.current[point] + self.power[point] / volts + self.conductance[point] * volts


def draws_of(net: Net, currents: Currents, table: Array) -> Draws:
    """What is drawn at every point when loads take the currents of `table`, shape (loads, instants)."""
    points, instants = len(net.up), table.shape[1]
    current, power, conductance = (np.zeros((points, instants)) for _ in range(3))
    found = Draws(current, power, conductance, np.zeros((len(net.items), instants)))
    _add_loads(net, currents, table, found)
    for n in range(len(net.items) - 1, -1, -1):  # ends first: what hangs behind a regulator is known before it
        regulator = net.items[n].part.regulator
        if regulator is not None:
            _fold(net, n, regulator, found)
    return found


def _add_loads(net: Net, currents: Currents, table: Array, found: Draws) -> None:
    """Every load at its point, all of one kind at once."""
    rows: dict[str, list[tuple[int, int, float]]] = {"current": [], "power": [], "resistance": []}
    for n, item in enumerate(net.items):
        driver, load = item.part.driver, item.part.load
        if driver is not None and item.part.regulator is None:
            found.current[net.point[n]] += driver.quiescent_a * item.count
        if load is None:
            continue
        kind, rated = (load.draw, load.rated_v) if load.rated_v else ("current", 1.0)
        row = currents.row[item.id]
        rows[kind].append((int(net.point[n]), row, _SCALE[kind](rated)))
        found.loads.append((n, table[row], kind, rated))
    for kind, target in (("current", found.current), ("power", found.power), ("resistance", found.conductance)):
        if rows[kind]:
            places, wanted, scale = zip(*rows[kind], strict=True)
            np.add.at(target, list(places), table[list(wanted)] * np.array(scale)[:, None])


_SCALE = {"current": lambda rated: 1.0, "power": lambda rated: rated, "resistance": lambda rated: 1 / rated}
"""By what a load's current at rated voltage is multiplied to give amperes, watts or siemens."""


def _fold(net: Net, n: int, regulator: Regulator, found: Draws) -> None:
    """Add what a regulator takes at its input."""
    item, out, at = net.items[n], net.out[n], net.point[n]
    volts = np.full(found.current.shape[1], regulator.output_v)
    solved = solve_points(net, n, volts, 0.0, found)
    found.output_a[n] = current_out(net, n, solved, found)
    found.current[at] += regulator.quiescent_a * item.count
    assert out != at
    if regulator.topology == "linear":
        found.current[at] += found.output_a[n]
    else:
        efficiency = efficiency_of(regulator, found.output_a[n] / item.count)
        found.power[at] += found.output_a[n] * regulator.output_v / efficiency


def efficiency_of(regulator: Regulator, current_a: Any) -> Any:
    """Share of a switching regulator's input power that comes out; 1 while it is not given."""
    curve = regulator.efficiency_curve
    return np.interp(current_a, [i for i, _ in curve], [e for _, e in curve]) if curve else 1.0


Solved = dict[int, Array]
"""Voltage at every point that hangs from one source."""


def solve_points(net: Net, n: int, open_v: Array, resistance_ohm: float, draws: Draws, extra: int = 0) -> Solved:
    """Voltages at every point that hangs from node n, whose output is `open_v` behind a resistance; NaN where it cannot
    deliver. Instants run along the first axis of `open_v`; `extra` axes may follow.
    """
    points = net.points_of[n]
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        return _Stage(net, points, draws, extra).solve(open_v, resistance_ohm)


class _Stage:
    """The points that hang from one source, with what is drawn at each.

    Where everything behind a wire takes the same current at any voltage, the wire costs volts but no more amperes: such
    points are added to the one above them, and only those that are left (`live`) are solved together.
    """

    def __init__(self, net: Net, points: Sequence[int], draws: Draws, extra: int) -> None:
        self.net, self.points = net, points
        shape = (slice(None), *(None,) * extra)
        self.current: Solved = {p: draws.current[p][shape] for p in points}
        self.power: Solved = {}
        self.conductance: Solved = {}
        live = {points[0]}
        for p in reversed(points[1:]):
            if p in live or draws.power[p].any() or draws.conductance[p].any():
                live.update((p, net.up[p]))
            else:
                self.current[net.up[p]] = self.current[net.up[p]] + self.current[p]
        self.live = [p for p in points if p in live]
        for p in self.live:
            self.power[p], self.conductance[p] = draws.power[p][shape], draws.conductance[p][shape]

    def solve(self, open_v: Array, ohm: float) -> Solved:
        root = self.points[0]
        volts = {root: self._at_source(open_v, ohm, [root])}
        if len(self.live) > 1:
            volts = self._sweep(open_v, ohm)
        for p in self.points[1:]:
            if p not in volts:
                volts[p] = volts[self.net.up[p]] - self.net.up_ohm[p] * self.current[p]
                volts[p] = np.where(volts[p] > 0, volts[p], np.nan)
        return volts

    def _at_source(self, open_v: Array, ohm: float, points: Sequence[int]) -> Array:
        """Voltage of the source with some points' draws right at it."""
        if ohm == 0:
            return open_v
        folded = (sum(table[p] for p in points) for table in (self.current, self.power, self.conductance))
        return loaded_voltage(open_v, ohm, *folded)  # type: ignore[arg-type]

    def _sweep(self, open_v: Array, ohm: float) -> Solved:
        """Newton's method from the voltage that wires without resistance would leave."""
        net, live, root = self.net, self.live, self.live[0]
        start = self._at_source(open_v, ohm, live)
        volts: Solved = dict.fromkeys(live, start)
        for _ in range(STEPS):
            fixed: Solved = {p: self.current[p] + 2 * self.power[p] / volts[p] for p in live}
            slope: Solved = {p: self.conductance[p] - self.power[p] / (volts[p] * volts[p]) for p in live}
            below: Solved = {}
            for p in reversed(live[1:]):
                below[p] = 1 + net.up_ohm[p] * slope[p]
                fixed[net.up[p]] = fixed[net.up[p]] + fixed[p] / below[p]
                slope[net.up[p]] = slope[net.up[p]] + slope[p] / below[p]
            whole = 1 + ohm * slope[root]
            new: Solved = {root: (open_v - ohm * fixed[root]) / whole}
            good = whole > 0
            for p in live[1:]:
                new[p] = (new[net.up[p]] - net.up_ohm[p] * fixed[p]) / below[p]
                good = good & (below[p] > 0) & (new[p] > 0)  # else past the most that a wire or the source can pass
            moved = 0.0
            for p in live:
                new[p] = np.where(good, new[p], np.nan)
                moved = max(moved, float(np.fmax.reduce(np.abs(new[p] - volts[p]), axis=None, initial=0.0)))
            volts = new
            if moved <= SETTLED_V:
                return volts
        return {p: np.full(np.shape(v), np.nan) for p, v in volts.items()}


def current_out(net: Net, n: int, solved: Solved, draws: Draws, extra: int = 0) -> Array:
    """Current that a source gives, at the voltages solved."""
    shape = (slice(None), *(None,) * extra)
    total: Array = sum(draws.current[p][shape] for p in solved)
    for p, v in solved.items():
        if draws.power[p].any():
            total = total + draws.power[p][shape] / v
        if draws.conductance[p].any():
            total = total + draws.conductance[p][shape] * v
    return np.where(np.isnan(solved[net.out[n]]), np.nan, total)
