"""Missing protection: coils whose current has nowhere to go, packs that go in the wrong way round, late starters."""

from collections.abc import Iterator
from functools import partial

from wired_union.catalogue.parts import of_kind
from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.physics.solenoid import coil_release
from wired_union.project.model import Item, Regulator
from wired_union.project.part_edits import set_part_value
from wired_union.subjects.power.currents import is_coil
from wired_union.subjects.power.insert import IN_HAND, insert_behind
from wired_union.subjects.power.packs import PackFigures
from wired_union.subjects.power.scene import PowerScene, name_of, other_sources, over
from wired_union.subjects.power.tree import Node
from wired_union.units import show

COILS = frozenset({"solenoid", "valve", "relay", "contactor", "brake", "clutch"})
"""Classes of part that are coils to what switches them."""
ONE_WAY = ("ideal diode", "diode")
"""Classes of part that pass current one way only."""
DIODE_V, SUGGESTED = 0.7, 2


def check_coils(scene: PowerScene) -> Iterator[Finding]:
    """Coils that nothing is said to clamp; drivers of motors have their diodes (common practice)."""
    if scene.hard_only:
        return
    nodes = scene.result.tree.nodes
    for node in nodes.values():
        item, load = node.item, node.item.part.load
        above = scene.result.tree.source_of.get(item.id)
        if load is None or load.clamp_v is not None or above is None or nodes[above].item.part.driver is not None:
            continue
        if item.part.kind in COILS or is_coil(item):
            words = f"a diode across {item.name}"
            change = tried(set_part_value, scene.project, item.id, "load.clamp_v", DIODE_V)
            yield Finding(
                "no-clamp", Verdict.TIGHT, f"Nothing takes the current of {item.name}",
                f"As it is switched off, its coil drives its current on{_held(item)}: the voltage rises until something"
                " gives way.",
                "Common practice: a diode across the coil; a higher clamp where it has to let go quickly.", (item.id,),
                offer=partial(possible, (words, change)), of=item.id,
            )  # fmt: skip


def _held(item: Item) -> str:
    """What the coil holds, where that is known."""
    load = item.part.load
    amperes = load.active_a if load is not None else None
    if load is None or not amperes or load.inductance_h is None:
        return ""
    return f", {show(0.5 * load.inductance_h * amperes**2, 'J')} of energy,"


def released(item: Item) -> str:
    """How long the current of a coil lasts once it is off, in words; "" where that is not known."""
    load = item.part.load
    if load is None or not is_coil(item) or load.clamp_v is None or not load.active_a or load.inductance_h is None:
        return ""
    ohm = (load.rated_v or 0.0) / load.active_a
    gone = coil_release(load.inductance_h, ohm, load.active_a, load.clamp_v)
    return (
        f"Once {item.name} is switched off its current lasts {show(gone.release_time_s, 's')}; its clamp takes"
        f" {show(gone.energy_j, 'J')}."
    )


def check_polarity(scene: PowerScene) -> Iterator[Finding]:
    """Packs that go in either way with nothing behind them that passes current one way only."""
    if scene.hard_only:
        return
    for root in scene.result.tree.roots:
        spec = root.item.part.pack
        if spec is None or spec.plug != "either way" or not root.children:
            continue
        bare = [n.item.name for n in _first_behind(root) if n.item.part.kind not in ONE_WAY]
        if bare:
            yield Finding(
                "no-reverse", Verdict.TIGHT, f"{root.item.name} can go in the wrong way round",
                f"It fits either way; the other way round {bare[0]} gets its voltage reversed.",
                "Common practice: a plug that fits one way only, or an ideal diode behind the pack. Electrolytic"
                " capacitors and chips fail at once, and may burn.", (root.item.id,),
                offer=partial(_one_way, scene, root.item), of=root.item.id,
            )  # fmt: skip


def _first_behind(root: Node) -> Iterator[Node]:
    """The first thing on each way from a pack that is more than a fuse or a switch."""
    todo = list(root.children)
    while todo:
        node = todo.pop()
        part = node.item.part
        if part.rail is not None and part.kind not in ONE_WAY and part.load is None and part.regulator is None:
            todo.extend(node.children)
        else:
            yield node


def _one_way(scene: PowerScene, item: Item) -> tuple[Remedy, ...]:
    keyed = tried(set_part_value, scene.project, item.id, "pack.plug", "keyed")
    worst = next((p.highest_a for p in scene.result.packs if p.figures.item.id == item.id), 0.0)
    parts = (p for kind in ONE_WAY for p in of_kind(kind))
    fitting = [p for p in parts if p.rail and (p.rail.max_current_a or 0.0) * IN_HAND >= worst]
    found = ((f"add {p.name} behind it", tried(insert_behind, scene.project, item, p)) for p in fitting)
    return (*possible(("a plug that fits one way only", keyed)), *possible(*found)[:SUGGESTED])


def check_starting(scene: PowerScene) -> Iterator[Finding]:
    """Converters that need more to start than to run: never, or not on what is left at the end of the charge."""
    for node in scene.result.tree.nodes.values():
        regulator = node.item.part.regulator
        if regulator is None or regulator.start_v is None or node.item.part.pack is not None:
            continue
        full, low = scene.result.rested_v.get(node.item.id), _rested_low(scene, node.item.id)
        if full is None or low is None:
            continue
        lowest, mode = scene.lowest_v(node.item.id)
        if full < regulator.start_v:
            yield _does_not_start(scene, node.item, regulator, full, "even from a full pack", Verdict.BREAKS)
        elif low < regulator.start_v and not scene.hard_only:
            yield _does_not_start(scene, node.item, regulator, low, "near the end of the charge", Verdict.TIGHT)
        elif lowest < regulator.start_v and not scene.hard_only:
            during = f"at the worst instant in {name_of(mode)}"
            yield _does_not_start(scene, node.item, regulator, lowest, during, Verdict.TIGHT)


def _does_not_start(
    scene: PowerScene, item: Item, regulator: Regulator, volts: float, when: str, verdict: Verdict
) -> Finding:  # fmt: skip
    least = regulator.start_v or 0.0
    return Finding(
        "start", verdict, f"{item.name} does not start" if verdict is Verdict.BREAKS else f"{item.name} may not start",
        f"It gets {show(volts, 'V')} {when}; it starts from {show(least, 'V')}.",
        "Once off, it stays off until its input is higher than what it runs on.", (item.id,),
        offer=partial(other_sources, scene, item, least, regulator.most_input_v), hard=verdict is Verdict.BREAKS,
        of=item.id, use=over(least, volts),
    )  # fmt: skip


def _rested_low(scene: PowerScene, item_id: str) -> float | None:
    """Voltage at an item's input at the end of the charge, nothing drawn; None where it is not known."""
    tree = scene.result.tree
    for above in tree.above(item_id):
        made = tree.nodes[above].supply_v
        if made is not None:
            return made
        if above in scene.result.figures:
            figures = scene.result.figures[above]
            if isinstance(figures, PackFigures):
                return figures.open_circuit_at(scene.result.energy_reserve)
            return figures.rested_v if figures is not None else None
    return None
