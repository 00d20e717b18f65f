"""What each part turns to heat in each mode: regulators, drivers, wires, packs what they lose, loads what they take."""

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.model import Item
from wired_union.subjects.motion.gives import constants_of
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.currents import turns
from wired_union.subjects.power.flow import Flows


class Losses(Struct, frozen=True):
    """Watts of one item at each instant: the most that may become heat there, and the least."""

    most_w: Array
    least_w: Array


def losses_of(result: PowerResult) -> dict[str, Losses]:
    """Of every item that a known pack or supply feeds, in each mode; not a number where it cannot be delivered."""
    return losses_along(result, result.flows.part(slice(0, result.modes)), result.currents.average, result.currents.rms)


def losses_along(result: PowerResult, flows: Flows, average: Array, rms: Array) -> dict[str, Losses]:
    """The same at the instants of `flows`, with the loads' currents then: their mean, and root mean square."""
    found = {}
    for item_id, n in flows.index.items():
        item, row = result.tree.nodes[item_id].item, result.currents.row.get(item_id)
        most = least = np.zeros(flows.input_v.shape[1])
        if row is not None and item_id in result.tree.source_of:
            most, least = _own(item, average[row], rms[row], flows.input_v[n])
        found[item_id] = Losses(flows.loss_w[n] + most, flows.loss_w[n] + least)
    return found


def _own(item: Item, average: Array, rms: Array, input_v: Array) -> tuple[Array, Array]:
    """What a load makes of its own current: a motor warms by its winding and its friction, all else by all of it."""
    taken = average * _volts(item, input_v)
    motor = constants_of(item.part)
    if motor is not None:
        each = rms / item.count
        friction = np.minimum(motor.no_load_current_a, each) * np.maximum(input_v - each * motor.resistance_ohm, 0.0)
        warm = np.minimum((motor.resistance_ohm * each**2 + friction) * item.count, taken)
        return warm, warm
    return taken, np.zeros_like(taken) if turns(item.part) else taken


def _volts(item: Item, input_v: Array) -> Array:
    """What its current at rated voltage is multiplied with to give watts at the voltage that it gets."""
    load = item.part.load
    assert load is not None
    if load.draw == "power" and load.rated_v:
        return np.where(np.isnan(input_v), np.nan, load.rated_v)
    return input_v**2 / load.rated_v if load.draw == "resistance" and load.rated_v else input_v
