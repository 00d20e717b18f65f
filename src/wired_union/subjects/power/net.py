"""From loads up to the pack, for many instants at once: voltages of a tree of wires, regulators and loads.

The tree is a list of points, parents first. A point stands behind a wire, or at the output of a pack or regulator;
what draws at it takes I(V) = current + power/V + conductance·V. Behind a regulator in regulation the voltage is fixed,
so everything there folds into one current: a linear regulator passes it on, a switching one passes power through its
efficiency (`bent` where that follows the input voltage too). Between a source and the ends of its wires the voltages
are solved by Newton's method with one sweep up and one down a step: Shirmohammadi et al. 1988, "A compensation-based
power flow method for weakly meshed distribution networks" (the backward and forward sweep), and Ortega & Rheinboldt
1970, 13.3.4, from memory (monotone convergence from above: currents are convex in V). Without wires the loop is the
exact quadratic of `loaded_voltage`.

Variants of one concept that differ only in what stands at its places are solved together: their instants stand side by
side on one axis.
"""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
from msgspec import Struct, field

from wired_union.physics.battery import Array, loaded_voltage
from wired_union.physics.converter import Curve
from wired_union.project.model import Item, Load
from wired_union.subjects.power.bent import Bent, at_two, curves_of
from wired_union.subjects.power.tree import Node, PowerTree, pack_is_known

STEPS, BENDS = 60, 8
SETTLED_V = 1e-6  # Newton squares the error: after a step this small less than 1e-11 V is left


class Net(Struct, frozen=True, eq=False):
    """Power trees of one shape as lists: nodes and points, parents first."""

    variants: int
    items: tuple[tuple[Item, ...], ...]
    """What stands at each node: one item where it is the same in every variant, else each variant's."""
    index: dict[str, int]
    parent: tuple[int, ...]
    """Node that feeds each node, −1 for packs and supplies."""
    ohm: tuple[float, ...]
    """All that lies before each node's input."""
    drop_v: tuple[float, ...]
    """Voltage that each node keeps for itself: a diode's."""
    channel_ohm: tuple[float, ...]
    """The part of it that is in a driver's channels."""
    point: Any
    """Point at each node's input; shape (nodes,)."""
    out: tuple[int, ...]
    """Point that each node gives to what it feeds."""
    up: tuple[int, ...]
    """Point above each point, −1 for outputs of packs and regulators."""
    up_ohm: tuple[float, ...]
    up_drop_v: tuple[float, ...]
    """Voltage that lies between each point and the one above, whatever flows: a diode's."""
    points_of: dict[int, list[int]]
    """Points that hang from a pack's or regulator's output, by node."""


def shape_of(tree: PowerTree) -> tuple[object, ...]:
    """What trees have in common that are solved together: who feeds whom, through which wire, and by which law."""
    return (
        tree.stands_in,
        tree.beside,
        *(
            (
                name,
                tree.source_of.get(name),
                node.wire_ohm,
                node.channel_ohm,
                node.own_ohm,
                node.drop_v,
                *_laws(node.item),
            )
            for name, node in tree.nodes.items()
        ),
    )


def _way(node: Node) -> tuple[float, ...]:
    """What lies between a node's source and its input."""
    return node.wire_ohm, node.channel_ohm, node.own_ohm, node.drop_v


def _laws(item: Item) -> tuple[object, ...]:
    part = item.part
    regulator, load, cells, supply = part.regulator, part.load, part.pack, part.supply
    return (
        None if regulator is None else regulator.passes_power,
        None if load is None else _law(load),
        part.driver is None,
        None if cells is None else (pack_is_known(cells), cells.cell_resistance_ohm == 0),
        None if supply is None else not supply.resistance_ohm,
    )


def _law(load: Load) -> str:
    return load.draw if load.rated_v else "current"


def net_of(trees: Sequence[PowerTree]) -> Net:
    """The points of power trees of one shape."""
    tree = trees[0]
    names = list(tree.nodes)
    index = {i: n for n, i in enumerate(names)}
    parent = tuple(index.get(tree.source_of.get(i, ""), -1) for i in names)
    ohm = tuple(n.feed_ohm for n in tree.nodes.values())
    point, out = [0] * len(names), [0] * len(names)
    up: list[int] = []
    up_ohm: list[float] = []
    up_drop: list[float] = []
    source: list[int] = []
    points_of: dict[int, list[int]] = {}

    def add(above: int, resistance: float, of: int, drop_v: float = 0.0) -> int:
        up.append(above)
        up_drop.append(drop_v)
        up_ohm.append(resistance)
        source.append(of)
        points_of.setdefault(of, []).append(len(up) - 1)
        return len(up) - 1

    for n, node in enumerate(tree.nodes.values()):
        if parent[n] < 0:
            point[n] = out[n] = add(-1, 0.0, n)
            continue
        above = out[parent[n]]
        between = ohm[n] > 0 or node.drop_v > 0
        point[n] = add(above, ohm[n], source[above], node.drop_v) if between else above
        out[n] = add(-1, 0.0, n) if node.item.part.regulator is not None else point[n]
    channels = tuple(n.channel_ohm for n in tree.nodes.values())
    drops = tuple(n.drop_v for n in tree.nodes.values())
    at = np.array(point, dtype=np.intp)
    return Net(len(trees), _items(trees), index, parent, ohm, drops, channels, at, tuple(out), tuple(up),
               tuple(up_ohm), tuple(up_drop), points_of)  # fmt: skip


def _items(trees: Sequence[PowerTree]) -> tuple[tuple[Item, ...], ...]:
    each = zip(*([n.item for n in t.nodes.values()] for t in trees), strict=True)
    return tuple(i[:1] if all(x is i[0] for x in i) else i for i in each)


class Draws(Struct, eq=False):
    """What is drawn at each point: I(V) = current + power/V + conductance·V. Shapes (points, instants)."""

    current: Array
    power: Array
    conductance: Array
    output_a: Array
    """What each regulator or pack gives, over nodes; filled in from the ends to the packs."""
    loads: list[tuple[int, Array, str, float | Array]] = field(default_factory=list)
    """Each load's node, current at rated voltage over the instants, what stays the same, and its rated voltage."""
    bent: list[Bent] = field(default_factory=list)
    """What converters take whose efficiency follows their input voltage; in no other table."""
    loss_times: Mapping[int, Array] = field(default_factory=dict)
    """By node, over the instants: times what its figures say it loses and takes for itself; 1 where nothing is said."""

    def times(self, n: int, extra: int = 0) -> Any:
        """Times what the figures of a node say it loses, at each instant; `extra` axes follow."""
        own = self.loss_times.get(n)
        return 1.0 if own is None else own[(slice(None), *(None,) * extra)]


AS_SAID: Mapping[int, Array] = {}


def draws_of(net: Net, row: Mapping[str, int], table: Array, loss_times: Mapping[int, Array] = AS_SAID) -> Draws:
    """What is drawn at every point when loads take the currents of `table`, shape (loads, instants); `row` says which
    row is whose. Converters lose `loss_times` of what their figures say.
    """
    points, instants = len(net.up), table.shape[1]
    current, power, conductance = (np.zeros((points, instants)) for _ in range(3))
    found = Draws(current, power, conductance, np.zeros((len(net.items), instants)), loss_times=loss_times)
    _add_loads(net, row, table, found)
    for n in range(len(net.items) - 1, -1, -1):  # ends first: what hangs behind a regulator is known before it
        if net.parent[n] >= 0 and net.items[n][0].part.regulator is not None:
            _fold(net, n, found)
    return found


def _add_loads(net: Net, row: Mapping[str, int], table: Array, found: Draws) -> None:
    """Every load at its point, all of one law at once."""
    rows: dict[str, list[tuple[int, int, float | Array]]] = {"current": [], "power": [], "resistance": []}
    for n, items in enumerate(net.items):
        part = items[0].part
        if part.driver is not None and part.regulator is None:
            found.current[net.point[n]] += per_instant(net, n, quiescent_a, table.shape[1]) * found.times(n)
        if part.load is None:
            continue
        law, place = _law(part.load), row[items[0].id]
        rated = per_instant(net, n, _rated_v, table.shape[1])
        rows[law].append((int(net.point[n]), place, _SCALE[law](rated)))
        found.loads.append((n, table[place], law, rated))
    for law, target in (("current", found.current), ("power", found.power), ("resistance", found.conductance)):
        if rows[law]:
            places, wanted, scale = zip(*rows[law], strict=True)
            np.add.at(target, list(places), table[list(wanted)] * _stacked(scale))


def _stacked(scale: Sequence[float | Array]) -> Array:
    """Numbers and rows over the instants as one table."""
    if not any(isinstance(x, np.ndarray) for x in scale):
        return np.array(scale)[:, None]
    return np.stack(np.broadcast_arrays(*(np.atleast_1d(x) for x in scale)))


_SCALE: dict[str, Callable[[Any], Any]] = {
    "current": lambda rated: 1.0, "power": lambda rated: rated, "resistance": lambda rated: 1 / rated,
}  # fmt: skip
"""By what a load's current at rated voltage is multiplied to give amperes, watts or siemens."""


def _rated_v(item: Item) -> float:
    load = item.part.load
    return (load.rated_v if load is not None else None) or 1.0


def quiescent_a(item: Item) -> float:
    """What an item takes for itself while it passes current on; 0 while it is not known, which `missing` tells."""
    takes = item.part.regulator or item.part.driver
    return ((takes.quiescent_a if takes is not None else None) or 0.0) * item.count


def output_v(item: Item) -> float:
    """Voltage that a regulator makes. Raises AssertionError for an item that is none."""
    assert item.part.regulator is not None
    return item.part.regulator.output_v


def is_zero(ohm: float | Array) -> bool:
    """Whether a source has no resistance, in any of its variants."""
    return not ohm.any() if isinstance(ohm, np.ndarray) else ohm == 0


def per_instant(net: Net, n: int, figure: Callable[[Item], float], instants: int) -> float | Array:
    """A figure of a node: a number where it is the same in every variant, else at each instant."""
    items = net.items[n]
    if len(items) == 1:
        return figure(items[0])
    return np.repeat([figure(i) for i in items], instants // net.variants)


def _fold(net: Net, n: int, found: Draws) -> None:
    """Add what a regulator takes at its input."""
    instants, at = found.current.shape[1], net.point[n]
    made = per_instant(net, n, output_v, instants)
    solved = solve_points(net, n, np.full(instants, made), 0.0, found)
    found.output_a[n] = current_out(net, n, solved, found)
    found.current[at] += per_instant(net, n, quiescent_a, instants) * found.times(n)
    if not net.items[n][0].part.regulator.passes_power:  # type: ignore[union-attr]
        found.current[at] += found.output_a[n]
    elif (bent := _bent(net, n, found.output_a[n], found.times(n))) is not None:
        found.bent.append(bent)
    else:
        found.power[at] += _input_w(net, n, found.output_a[n], found.times(n))


def input_watts(net: Net, n: int, output_a: Array, input_v: Array, times: Any = 1.0) -> Any:
    """What a switching regulator takes at its input for what it gives, at each instant; it loses `times` of what its
    figures say.
    """
    bent = _bent(net, n, output_a, times)
    return bent.watts_at(input_v) if bent is not None else _input_w(net, n, output_a, times)


def _input_w(net: Net, n: int, output_a: Array, times: Any) -> Any:
    """The same where it does not follow the input voltage."""
    given_w = output_a * per_instant(net, n, output_v, len(output_a))
    return lossier(given_w, given_w / efficiency_of(net, n, output_a), times)


def lossier(given_w: Any, taken_w: Any, times: Any) -> Any:
    """What is taken for what is given where so many times as much is lost."""
    return taken_w if isinstance(times, float) else given_w + (taken_w - given_w) * times


def _bent(net: Net, n: int, output_a: Array, times: Any) -> Bent | None:
    """What a node takes at two input voltages; None where no variant's efficiency follows that."""
    items = net.items[n]
    if all(i.part.regulator is None or at_two(i.part.regulator) is None for i in items):
        return None
    found = [_at_two(i, a) for i, a in zip(items, output_a.reshape(len(items), -1), strict=True)]
    low_v, high_v, low_w, high_w = (np.concatenate(row) for row in zip(*found, strict=True))
    given_w = output_a * per_instant(net, n, output_v, len(output_a))
    return Bent(int(net.point[n]), low_v, high_v, lossier(given_w, low_w, times), lossier(given_w, high_w, times))


def _at_two(item: Item, output_a: Array) -> tuple[Array, Array, Array, Array]:
    """Two input voltages of one item's instants, and what it takes at each; any two where it does not follow them."""
    assert item.part.regulator is not None
    given_w, two = output_a * output_v(item), at_two(item.part.regulator)
    if two is None:
        taken = given_w / _efficiency(item, output_a)
        return np.zeros_like(output_a), np.ones_like(output_a), taken, taken
    (low_v, low), (high_v, high) = two
    watts = (given_w / _share(curve, output_a / item.count) for curve in (low, high))
    return np.full_like(output_a, low_v), np.full_like(output_a, high_v), *watts


def efficiency_of(net: Net, n: int, current_a: Array) -> Any:
    """Share of a switching regulator's input power that comes out, at each instant; 1 while it is not given. Where it
    follows the input voltage too, the least at any.
    """
    items = net.items[n]
    if len(items) == 1:
        return _efficiency(items[0], current_a)
    each = current_a.reshape(net.variants, -1)
    return np.concatenate([np.broadcast_to(_efficiency(i, a), a.shape) for i, a in zip(items, each, strict=True)])


def _efficiency(item: Item, current_a: Array) -> Any:
    assert item.part.regulator is not None
    shares = [_share(curve, current_a / item.count) for curve in curves_of(item.part.regulator)]
    return np.minimum.reduce(shares) if shares else 1.0


def _share(curve: Curve, current_a: Array) -> Any:
    return np.interp(current_a, [i for i, _ in curve], [e for _, e in curve])


Solved = dict[int, Array]
"""Voltage at every point that hangs from one source."""


def solve_points(
    net: Net, n: int, open_v: Array, resistance_ohm: float | Array, draws: Draws, extra: int = 0
) -> Solved:
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
        self.bent = [b.rows(extra) for b in draws.bent if b.point in set(points)]
        live = {points[0], *(b.point for b in self.bent)}
        for p in reversed(points[1:]):
            if p in live or draws.power[p].any() or draws.conductance[p].any():
                live.update((p, net.up[p]))
            else:
                self.current[net.up[p]] = self.current[net.up[p]] + self.current[p]
        self.live = [p for p in points if p in live]
        for p in self.live:
            self.power[p], self.conductance[p] = draws.power[p][shape], draws.conductance[p][shape]

    def solve(self, open_v: Array, ohm: float | Array) -> Solved:
        """Voltages; where a converter's power runs straight between two input voltages and level outside them, on the
        side of its bends on which each instant turns out to lie.
        """
        if not self.bent:
            return self._solve(open_v, ohm)
        straight, sides = (dict(self.current), dict(self.power)), [np.zeros(np.shape(open_v), int) for _ in self.bent]
        for _ in range(BENDS):
            self._bend(straight, sides)
            volts = self._solve(open_v, ohm)
            now = [b.side_of(volts[b.point], side) for b, side in zip(self.bent, sides, strict=True)]
            moved = np.any([a != b for a, b in zip(now, sides, strict=True)], axis=0)
            if not moved.any():
                return volts
            sides = now
        return {p: np.where(moved, np.nan, v) for p, v in volts.items()}

    def _bend(self, straight: tuple[Solved, Solved], sides: Sequence[Any]) -> None:
        current, power = straight
        self.current.update(current)
        self.power.update(power)
        for bent, side in zip(self.bent, sides, strict=True):
            amperes, watts = bent.draws_on(side)
            self.current[bent.point] = self.current[bent.point] + amperes
            self.power[bent.point] = self.power[bent.point] + watts

    def _solve(self, open_v: Array, ohm: float | Array) -> Solved:
        root = self.points[0]
        volts = {root: self._at_source(open_v, ohm, [root])}
        if len(self.live) > 1:
            volts = self._sweep(open_v, ohm)
        for p in self.points[1:]:
            if p not in volts:
                volts[p] = volts[self.net.up[p]] - self.net.up_drop_v[p] - self.net.up_ohm[p] * self.current[p]
                volts[p] = np.where(volts[p] > 0, volts[p], np.nan)
        return volts

    def _at_source(self, open_v: Array, ohm: float | Array, points: Sequence[int]) -> Array:
        """Voltage of the source with some points' draws right at it."""
        if is_zero(ohm):
            return open_v
        folded = (sum(table[p] for p in points) for table in (self.current, self.power, self.conductance))
        return loaded_voltage(open_v, ohm, *folded)  # type: ignore[arg-type]

    def _sweep(self, open_v: Array, ohm: float | Array) -> Solved:
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
                given = fixed[p] if not net.up_drop_v[p] else fixed[p] - slope[p] * net.up_drop_v[p]
                fixed[net.up[p]] = fixed[net.up[p]] + given / below[p]
                slope[net.up[p]] = slope[net.up[p]] + slope[p] / below[p]
            whole = 1 + ohm * slope[root]
            new: Solved = {root: (open_v - ohm * fixed[root]) / whole}
            good = whole > 0
            for p in live[1:]:
                new[p] = (new[net.up[p]] - net.up_drop_v[p] - net.up_ohm[p] * fixed[p]) / below[p]
                good = good & (below[p] > 0) & (new[p] > 0)  # else past the most that a wire or the source can pass
            moved: Any = 0.0
            for p in live:
                new[p] = np.where(good, new[p], np.nan)
                moved = np.fmax(moved, np.abs(new[p] - volts[p]))
            volts = new
            if not (moved > SETTLED_V).any():
                return volts
        return {p: np.where(moved > SETTLED_V, np.nan, v) for p, v in volts.items()}


def current_out(net: Net, n: int, solved: Solved, draws: Draws, extra: int = 0) -> Array:
    """Current that a source gives, at the voltages solved."""
    shape = (slice(None), *(None,) * extra)
    total: Array = sum(draws.current[p][shape] for p in solved)
    for p, v in solved.items():
        if draws.power[p].any():
            total = total + draws.power[p][shape] / v
        if draws.conductance[p].any():
            total = total + draws.conductance[p][shape] * v
    for bent in (b.rows(extra) for b in draws.bent if b.point in solved):
        total = total + bent.watts_at(solved[bent.point]) / solved[bent.point]
    return np.where(np.isnan(solved[net.out[n]]), np.nan, total)
