"""What each part turns to heat in each mode: regulators, drivers, wires, packs what they lose, loads what they take."""

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Item
from wired_union.subjects.motion.gives import constants_of
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.currents import turns


class Losses(Struct, frozen=True):
    """Watts of one item in each mode: the most that may become heat there, and the least."""

    most_w: Array
    least_w: Array


def losses_of(result: PowerResult) -> dict[str, Losses]:
    """Of every item that a known pack or supply feeds; not a number where it cannot be delivered."""
    flows, modes = result.flows, result.modes
    found = {}
    for item_id, n in flows.index.items():
        item = result.tree.nodes[item_id].item
        lost = flows.loss_w[n, :modes]
        most, least = _own(result, item, flows.input_v[n, :modes])
        found[item_id] = Losses(lost + most, lost + least)
    return found


def _own(result: PowerResult, item: Item, input_v: Array) -> tuple[Array, Array]:
    """What a load makes of its own current: a motor warms by its winding and its friction, all else by all of it."""
    row = result.currents.row.get(item.id)
    nothing = np.zeros(result.modes)
    if row is None or item.part.load is None or item.id not in result.tree.source_of:
        return nothing, nothing
    taken = result.currents.average[row] * _volts(item, input_v)
    motor = constants_of(item.part)
    if motor is not None:
        each = result.currents.rms[row] / item.count
        friction = np.minimum(motor.no_load_current_a, each) * np.maximum(input_v - each * motor.resistance_ohm, 0.0)
        warm = np.minimum((motor.resistance_ohm * each**2 + friction) * item.count, taken)
        return warm, warm
    return taken, nothing if turns(item.part) else taken


def _volts(item: Item, input_v: Array) -> Array:
    """What its current at rated voltage is multiplied with to give watts at the voltage that it gets."""
    load = item.part.load
    assert load is not None
    if load.draw == "power" and load.rated_v:
        return np.where(np.isnan(input_v), np.nan, load.rated_v)
    return input_v**2 / load.rated_v if load.draw == "resistance" and load.rated_v else input_v
