"""Why something resets, as a chain of causes in words, from what starts to the one that loses its supply."""

import math
from collections.abc import Iterator

from wired_union.project.model import Item
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.first.held import giver_of, most_a
from wired_union.subjects.power.first.run import Start, Watched
from wired_union.units import show


def started(start: Start, result: PowerResult) -> str:
    """What starts: "4 Gearmotor start in Drive"."""
    names = {i.id: i.name for i in result.concept.items}
    mode = result.concept.modes[start.mode].name
    many: dict[str, int] = {}
    for item, count in start.circuit.starting:
        many[item] = many.get(item, 0) + count
    each = [f"{n} × {names[i]}" if n > 1 else names[i] for i, n in many.items()]
    said = " and ".join(filter(None, (", ".join(each[:-1]), *each[-1:])))
    if not said:
        return f"What is at work in {mode}"
    how = f", {show(start.circuit.gap_s, 's')} apart," if start.circuit.gap_s else ""
    return f"{said}{how} start{'s' if sum(many.values()) == 1 else ''} in {mode}"


def chain(start: Start, watched: Watched, result: PowerResult) -> tuple[str, ...]:
    """One sentence a cause, the first first."""
    if start.course.collapsed_s is not None:
        giver = giver_of(result, start.circuit.root, start.mode)
        if most_a(giver) < math.inf:
            says = f"more than the {show(most_a(giver), 'A')} that {giver.name} gives; it limits or switches off"
            return (f"{started(start, result)}: {says}.",)
        return (f"{started(start, result)}: more than the pack can deliver at all.",)
    most = max(start.course.source_a, default=0.0)
    found = [f"{started(start, result)}: {show(most, 'A')} from {_name(result, start.circuit.root)}."]
    path = [*reversed([*result.tree.above(watched.item.id)]), watched.item.id]
    found += _on_the_way(start, path, result)
    dip = start.dips[watched.item.id]
    least = watched.least_v
    assert least is not None
    name = watched.item.name
    if dip.volts >= least:
        found.append(f"{name} keeps {show(dip.volts, 'V')}, {show(dip.volts - least, 'V')} above its reset.")
    else:
        found.append(f"{name} gets {show(dip.volts, 'V')} after {show(dip.time_s, 's')}; it resets below"
                     f" {show(least, 'V')}.")  # fmt: skip
    return tuple(found)


def _on_the_way(start: Start, path: list[str], result: PowerResult) -> Iterator[str]:
    """What sags and what gives up between the pack and the part."""
    said = None
    for item_id in path[:-1]:
        item, dip = result.tree.nodes[item_id].item, start.dips[item_id]
        if item.part.regulator is not None and result.tree.source_of.get(item_id):
            yield _regulator_says(start, item, dip.volts)
        elif said is None or said - dip.volts > 0.02 * said:
            yield f"{item.name} falls to {show(dip.volts, 'V')}."
            said = dip.volts


def _regulator_says(start: Start, item: Item, volts: float) -> str:
    reg = item.part.regulator
    assert reg is not None
    off = _off(start, item.id)
    if off is not None:
        starved = volts < (reg.input_min_v or 0.0)
        why = f"it works from {show(reg.input_min_v, 'V')}" if starved else "more is asked of it than it gives"
        return f"{item.name} gets {show(volts, 'V')}; {why}, and switches off."
    if volts < reg.least_input_v:
        needs = show(reg.least_input_v, "V")
        return f"{item.name} gets {show(volts, 'V')}, less than the {needs} it needs: its output falls."
    return f"{item.name} gets {show(volts, 'V')} and holds its {show(reg.output_v, 'V')}."


def _off(start: Start, item_id: str) -> float | None:
    """When a regulator's stage went off; None where it did not."""
    spot = start.circuit.spots[item_id]
    for n, stage in enumerate(start.circuit.stages):
        reg = stage.regulation
        if reg is not None and (reg.stage, reg.place) == (spot.stage, spot.place) and n in start.course.off_s:
            return start.course.off_s[n]
    return None


def _name(result: PowerResult, item_id: str) -> str:
    return next((i.name for i in result.concept.items if i.id == item_id), item_id)
