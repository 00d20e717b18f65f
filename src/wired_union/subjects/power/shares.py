"""Reading a power result: the flow of a mode, the voltage of one item, and where the energy goes."""

from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct

from wired_union.kernel.subject import Driver
from wired_union.physics.battery import Array
from wired_union.project.model import Mission, Phase
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.flow import Flow
from wired_union.subjects.power.tree import Node
from wired_union.units import show

LEAST_S = 1e-9
"""What is shorter is rounding."""
NAMED = 3
"""Parts that are named besides their subsystems."""


def mode_flows(result: PowerResult, mode: int, *, peak: bool = False) -> dict[str, Flow]:
    """Flow of every node in a mode: on average with half the charge, or at its worst instant with the reserve left.

    Nodes of a pack that cannot deliver, or whose figures are not known, carry NaN. Heat in the pack is the pack's loss.
    """
    key = (mode, peak)
    if key not in result.columns:
        result.columns[key] = result.flows.at(mode + (len(result.concept.modes) if peak else 0))
    return result.columns[key]


def input_voltage(result: PowerResult, item_id: str, mode: int, *, peak: bool = False) -> float:
    """Voltage at the input of one item, as `mode_flows` gives it. Raises KeyError where no pack feeds it."""
    return float(result.input_v(item_id)[mode + (len(result.concept.modes) if peak else 0)])


class EnergyShares(Struct, frozen=True):
    """Energy of one mission cycle in watt-hours, by subsystem, with what is lost on the way apart."""

    by_subsystem: tuple[tuple[str, float], ...]
    losses_wh: float
    by_item: dict[str, float]

    @property
    def total_wh(self) -> float:
        return sum(wh for _, wh in self.by_subsystem) + self.losses_wh


def between(mission: Mission, start_s: float, end_s: float) -> list[Phase]:
    """How long each phase of a mission that repeats lies between two times, in the order of one cycle."""
    found, at = [], 0.0
    for phase in mission.phases:
        start, end = (_until(t, at, phase.duration_s, mission.cycle_s) for t in (start_s, end_s))
        lasts = end - start
        if lasts > LEAST_S:
            found.append(phase.but(duration_s=lasts))
        at += phase.duration_s
    return found


def _until(time_s: float, begins_s: float, lasts_s: float, cycle_s: float) -> float:
    """How long something has lasted by a time that comes at a moment of every cycle."""
    cycles, rest = divmod(time_s, cycle_s)
    return cycles * lasts_s + min(max(rest - begins_s, 0.0), lasts_s)


def energy_shares(result: PowerResult, phases: Sequence[Phase] | None = None) -> EnergyShares:
    """Where the energy of some phases goes, of one cycle of the mission where none are said, at half charge; what
    cannot be delivered is left out.
    """
    hours = np.zeros(len(result.concept.modes))
    for phase in result.concept.mission.phases if phases is None else phases:
        hours[result.mode_index[phase.mode]] += phase.duration_s / 3600
    used = hours > 0
    flows, modes = result.flows, len(hours)
    by_item: dict[str, float] = {}
    loads = np.nan_to_num(_load_power(result)[:, :modes][:, used]) @ hours[used]
    losses = float((np.nan_to_num(flows.loss_w[:, :modes][:, used]) @ hours[used]).sum())
    lanes = {s.id: 0.0 for s in result.concept.subsystems}
    for (item_id, node), energy in zip(result.tree.nodes.items(), loads.tolist(), strict=True):
        if node.item.part.load is not None and used.any():
            by_item[item_id] = energy
            lanes[node.item.subsystem] += energy
    ordered = tuple(sorted(lanes.items(), key=lambda x: -x[1]))
    return EnergyShares(ordered, losses, by_item)


def thirstiest(result: PowerResult, phases: Sequence[Phase] | None = None) -> list[tuple[str, float]]:
    """The parts that take most of the energy of some phases: name, and share of the whole."""
    shares, names = energy_shares(result, phases), {i.id: i.name for i in result.concept.items}
    whole = shares.total_wh or 1.0
    most = sorted(shares.by_item.items(), key=lambda x: -x[1])[:NAMED]
    return [(names[i], wh / whole) for i, wh in most if wh > 0]


def drains(result: PowerResult, phases: Sequence[Phase] | None = None) -> list[Driver]:
    """What the energy of some phases, or of one cycle, goes into, in Wh: each subsystem that draws, and the losses."""
    shares, names = energy_shares(result, phases), {s.id: s.name for s in result.concept.subsystems}
    whole = shares.total_wh or 1.0
    rows = [(names[i], wh, "copper") for i, wh in shares.by_subsystem if wh > 0]
    rows.append(("Losses", shares.losses_wh, "unknown"))
    return [Driver(name, wh, show(wh / whole, fraction=True), ink) for name, wh, ink in rows]


def _load_power(result: PowerResult) -> Array:
    """Power each node's own load takes, without what it passes on or burns on the way; shape (nodes, instants)."""
    flows = result.flows
    watts = flows.input_v * (flows.current_a - flows.output_a)
    plain = np.array([_is_plain(n) for n in result.tree.nodes.values()], dtype=bool)
    return np.where(plain[:, None], watts, 0.0) if len(plain) else watts


def _is_plain(node: Node) -> bool:
    part = node.item.part
    return part.load is not None and part.regulator is None and part.driver is None


def lane_power(result: PowerResult) -> dict[str, float]:
    """Most power each subsystem's loads take in any mode, on average over that mode, in watts."""
    modes = len(result.concept.modes)
    watts = np.nan_to_num(_load_power(result)[:, :modes])
    most: dict[str, float] = {}
    for lane, rows in _rows_by_lane(result):
        most[lane] = float(watts[rows].sum(axis=0).max(initial=0.0))
    return most


def _rows_by_lane(result: PowerResult) -> Iterator[tuple[str, list[int]]]:
    rows: dict[str, list[int]] = {}
    for n, node in enumerate(result.tree.nodes.values()):
        rows.setdefault(node.item.subsystem, []).append(n)
    yield from rows.items()
