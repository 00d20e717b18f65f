"""What flows where: volts, amperes and watts of every node of the power tree in a mode, and where the energy goes."""

from dataclasses import dataclass

from wired_union.assess.power import PackResult, PowerResult
from wired_union.assess.power_draw import Draw, draw_at_input, settle_at
from wired_union.assess.power_tree import Node

Currents = dict[str, float]


@dataclass(frozen=True, slots=True)
class Flow:
    """One node at work: voltage at its input, current and power into it, power it turns to heat on the way through."""

    item: str
    input_v: float
    current_a: float
    power_w: float
    output_a: float
    loss_w: float


def mode_flows(result: PowerResult, mode: int, charge: float = 0.5, *, peak: bool = False) -> dict[str, Flow]:
    """Flow of every node in a mode with `charge` left in the packs, on average or at the mode's worst instant.

    Nodes of a pack that cannot deliver carry NaN. Heat in the pack itself is the pack's loss.
    """
    key = (mode, charge, peak)
    if key in result.flows:
        known: dict[str, Flow] = result.flows[key]
        return known
    flows: dict[str, Flow] = {}
    result.flows[key] = flows
    for pack in result.packs:
        _flow_of_pack(flows, pack, charge, *_settled(result, pack, mode, charge, peak))
    return flows


def input_voltage(result: PowerResult, item_id: str, mode: int, charge: float = 0.5, *, peak: bool = False) -> float:
    """Voltage at the input of one item, walking down only the way to it; the same as `mode_flows` gives.

    NaN where its pack cannot deliver. Raises KeyError where no pack feeds it.
    """
    way = [item_id]
    while way[-1] in result.tree.source_of:
        way.append(result.tree.source_of[way[-1]])
    packs = {p.node.item.id: p for p in result.packs}
    volts, draws = _settled(result, packs[way.pop()], mode, charge, peak)
    supply_v: float | None = None
    for name in reversed(way):
        node = result.tree.nodes[name]
        above_v = supply_v or volts
        volts = settle_at(above_v, node.wire_ohm, draws[name]) if node.wire_ohm else above_v
        supply_v = node.supply_v
    return volts


def _settled(
    result: PowerResult, pack: PackResult, mode: int, charge: float, peak: bool
) -> tuple[float, dict[str, Draw]]:
    """Voltage of a pack under everything below it, and the draw of each node."""
    key = (pack.node.item.id, mode, charge, peak)
    if key not in result.settled:
        draws: dict[str, Draw] = {}
        draw = draw_at_input(pack.node, (result.starting_a if peak else result.average_a)[mode], draws)
        open_v, ohm = pack.figures.open_circuit_at(charge), pack.figures.values.resistance_ohm
        result.settled[key] = settle_at(open_v, ohm, draw), draws
    found: tuple[float, dict[str, Draw]] = result.settled[key]
    return found


def _flow_of_pack(
    flows: dict[str, Flow], pack: PackResult, charge: float, volts: float, draws: dict[str, Draw]
) -> None:
    ohm = pack.figures.values.resistance_ohm
    open_v = pack.figures.open_circuit_at(charge)
    item = pack.node.item
    current = (open_v - volts) / ohm if ohm else draws[item.id].at(volts)
    flows[item.id] = Flow(item.id, volts, current, volts * current, current, current**2 * ohm)
    for child in pack.node.children:
        _walk(flows, child, volts, draws)


def _walk(flows: dict[str, Flow], node: Node, above_v: float, draws: dict[str, Draw]) -> float:
    """Record a node and everything below it; the current it takes."""
    draw = draws[node.item.id]
    volts = settle_at(above_v, node.wire_ohm, draw) if node.wire_ohm else above_v
    current = draw.at(volts) if volts == volts else float("nan")
    out_v = node.supply_v or volts
    passed = sum(_walk(flows, child, out_v, draws) for child in node.children)
    part, loss = node.item.part, current**2 * node.wire_ohm
    if part.regulator is not None:
        loss += volts * current - out_v * passed
    elif part.driver is not None:
        channels = part.driver.channels * node.item.count
        loss += part.driver.quiescent_a * node.item.count * volts
        loss += passed**2 * part.driver.on_resistance_ohm / channels
    flows[node.item.id] = Flow(node.item.id, volts, current, volts * current, passed, loss)
    return current


@dataclass(frozen=True)
class EnergyShares:
    """Energy of one mission cycle in watt-hours, by subsystem, with what is lost on the way apart."""

    by_subsystem: tuple[tuple[str, float], ...]
    losses_wh: float
    by_item: dict[str, float]

    @property
    def total_wh(self) -> float:
        return sum(wh for _, wh in self.by_subsystem) + self.losses_wh


def energy_shares(result: PowerResult) -> EnergyShares:
    """Where the energy of one cycle of the mission goes, at half charge."""
    by_item: dict[str, float] = {}
    losses = 0.0
    by_mode: dict[int, dict[str, Flow]] = {}
    for phase in result.concept.mission.phases:
        mode = result.mode_index[phase.mode]
        if mode not in by_mode:
            by_mode[mode] = mode_flows(result, mode)
        hours = phase.duration_s / 3600
        for item_id, flow in by_mode[mode].items():
            node = result.tree.nodes[item_id]
            losses += flow.loss_w * hours
            if node.item.part.load is not None:
                by_item[item_id] = by_item.get(item_id, 0.0) + load_power(node, flow) * hours
    lanes = {s.id: 0.0 for s in result.concept.subsystems}
    for item_id, energy in by_item.items():
        lanes[result.tree.nodes[item_id].item.subsystem] += energy
    ordered = tuple(sorted(lanes.items(), key=lambda x: -x[1]))
    return EnergyShares(ordered, losses, by_item)


def load_power(node: Node, flow: Flow) -> float:
    """Power a node's own load takes, without what it passes on or burns on the way."""
    part = node.item.part
    if part.load is None or part.regulator is not None or part.driver is not None:
        return 0.0
    return flow.input_v * (flow.current_a - flow.output_a)


def lane_power(result: PowerResult) -> dict[str, float]:
    """Most power each subsystem's loads take in any mode, on average over that mode, in watts."""
    most: dict[str, float] = {}
    for mode in range(len(result.concept.modes)):
        now: dict[str, float] = {}
        for item_id, flow in mode_flows(result, mode).items():
            node = result.tree.nodes[item_id]
            lane = node.item.subsystem
            now[lane] = now.get(lane, 0.0) + load_power(node, flow)
        for lane, watts in now.items():
            most[lane] = max(most.get(lane, 0.0), watts)
    return most
