"""What stands at its worst without a step: voltages, and what gives up."""

import math
from collections.abc import Mapping

from msgspec import Struct

from wired_union.project.model import Item
from wired_union.subjects.power.assess import PowerResult


class HeldUp(Struct, frozen=True):
    """Voltages of a mode that stands, by item, and whether something in it gives up."""

    volts: dict[str, float]
    gives_up: bool


def giver_of(result: PowerResult, root: str, mode: int) -> Item:
    """What gives below a pack or a supply in a mode: the supply that stands in for it while that is plugged in."""
    supply = result.tree.stands_in.get(root)
    return result.tree.nodes[supply if supply is not None and result.concept.modes[mode].plugged_in else root].item


def most_a(giver: Item) -> float:
    """Most current of a supply or a power bank: above it, it limits or switches off; copies of it do not share."""
    part = giver.part
    holds = part.supply or (part.regulator if part.pack is not None else None)
    return math.inf if holds is None or holds.max_current_a is None else holds.max_current_a


def limits_of(result: PowerResult, mode: int | None = None) -> dict[str, float]:
    """Most current of what has a limit: regulators, supplies, power banks; in a mode, or the least in any."""
    found, tree = dict[str, float](), result.tree
    modes = range(result.modes) if mode is None else (mode,)
    for item_id, node in tree.nodes.items():
        regulator = node.item.part.regulator
        if item_id not in tree.source_of:
            most = min((most_a(giver_of(result, item_id, m)) for m in modes), default=math.inf)
        elif regulator is not None and regulator.max_current_a is not None:
            most = regulator.max_current_a * node.item.count
        else:
            continue
        if most < math.inf:
            found[item_id] = most
    return found


def standing(result: PowerResult) -> list[HeldUp]:
    """Every mode with everything at its worst at once."""
    first = result.modes
    volts = {i: result.input_v(i)[first:].tolist() for i in result.tree.nodes}
    given = {i: result.flows.row(i, "output_a")[first:].tolist() for i in limits_of(result)}
    return [held_up(result, {i: v[m] for i, v in volts.items()}, {i: a[m] for i, a in given.items()},
                    limits_of(result, m)) for m in range(first)]  # fmt: skip


def held_up(
    result: PowerResult, volts: Mapping[str, float], given_a: Mapping[str, float], most: Mapping[str, float]
) -> HeldUp:  # fmt: skip
    """Voltages as they are when what gets too little, or is asked for more than it gives, gives nothing.

    `given_a` and `most` have what each with a limit is asked for, and its limit; not a number is too much.
    """
    found, starved = dict[str, float](), set[str]()
    for item, node in result.tree.nodes.items():  # parents first
        own, above, reg = volts[item], result.tree.source_of.get(item), node.item.part.regulator
        found[item] = 0.0 if above in starved or own != own else own
        gets_too_little = above is not None and reg is not None and found[item] < reg.least_input_v
        asked_too_much = item in most and not given_a[item] <= most[item]
        if above in starved or gets_too_little or asked_too_much:
            starved.add(item)
    return HeldUp(found, bool(starved))
