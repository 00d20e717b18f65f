"""Checks on loads: supply, logic level, and what is not known."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.physics.cell_state import FREEZING_C
from wired_union.project.model import Driver, Part
from wired_union.project.part_edits import set_part_value
from wired_union.subjects.power.edits import add_mode_at_work, add_phase
from wired_union.subjects.power.insert import ways_to_feed
from wired_union.subjects.power.missing import Gap
from wired_union.subjects.power.scene import PowerScene, input_range
from wired_union.subjects.power.warmth.sized import a_heater
from wired_union.units import show


def check_supplies(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        load = node.item.part.load
        if load is not None and node.item.id in scene.result.tree.source_of:
            yield from input_range(scene, node, load.supply_min_v, load.supply_max_v)


def check_ratings(scene: PowerScene) -> Iterator[Finding]:
    """Ratings without which nothing says whether a part bears what it gets: unknown, not fine."""
    for node in scene.result.tree.nodes.values():
        lacks = [words for words, figure in _ratings(node.item.part) if figure is None]
        if lacks:
            yield Finding(
                "rating", Verdict.UNKNOWN, node.item.name, f"Not known yet: {', '.join(lacks)}.",
                "Until it is given nothing says whether it bears what it gets.", (node.item.id,), of=node.item.id,
            )  # fmt: skip


def _ratings(part: Part) -> Iterator[tuple[str, float | None]]:
    """What a part's verdict rests on, in words, with the figure."""
    if part.load is not None:
        yield "its lowest supply", part.load.supply_min_v
        yield "its highest supply", part.load.supply_max_v
    if part.stepper is not None:
        yield "the current of its windings", part.stepper.coil_current_a
    if part.driver is not None:
        yield from _driver_ratings(part.driver)
    if part.rail is not None:
        yield "its most current", part.rail.max_current_a
    yield from _source_ratings(part)


def _driver_ratings(driver: Driver) -> Iterator[tuple[str, float | None]]:
    yield "its lowest supply", driver.input_min_v
    yield "its highest supply", driver.input_max_v
    yield "the most current of a channel", driver.channel_current_a
    if driver.channels > 1:
        yield "the most current of all channels", driver.total_current_a


def _source_ratings(part: Part) -> Iterator[tuple[str, float | None]]:
    """Of packs, supplies, regulators, and the power bank that is both: its cells are matched by whoever made it."""
    pack, regulator = part.pack, part.regulator
    if regulator is not None:
        if pack is None:
            yield "its lowest input", regulator.input_min_v
            yield "its highest input", regulator.input_max_v
        yield "its most output current", regulator.max_current_a
        if pack is not None:
            yield "the load below which it switches itself off", pack.least_load_a
    elif pack is not None:
        yield "the most current it may give", pack.max_current_a
    if part.supply is not None:
        yield "the current at which it limits", part.supply.max_current_a


def check_gaps(scene: PowerScene) -> Iterator[Finding]:
    for gap in (*scene.result.missing, *scene.result.by_itself):
        yield Finding(
            "missing", Verdict.UNKNOWN, "Not known yet", f"{gap.said}.",
            "Until it is known, runtime and peak current are bounds, not answers.",
            (gap.item,) if gap.item else (), "runtime", partial(_fillers, scene, gap), of=gap.said,
        )  # fmt: skip


def _fillers(scene: PowerScene, gap: Gap) -> tuple[Remedy, ...]:
    """Edits that would fill a gap."""
    project, concept = scene.project, scene.result.concept
    if gap.lacks == "a feed":
        item = next(i for i in concept.items if i.id == gap.item)
        return ways_to_feed(project, scene.result, item)
    if gap.lacks == "warmth":
        return tuple(a_heater(project, scene.heat, gap.item, FREEZING_C, scene.heat_of))
    if gap.lacks == "modes":
        return possible(("add a mode in which everything works", tried(add_mode_at_work, project)))
    if gap in scene.result.by_itself:
        return _typically(scene, gap)
    if gap.lacks == "a mission" and concept.modes:
        first = concept.modes[0]
        return possible((f"one hour of {first.name}", tried(add_phase, project, first.id, 3600.0)))
    return ()


def _typically(scene: PowerScene, gap: Gap) -> tuple[Remedy, ...]:
    """What such cells typically lose by themselves."""
    pack = next(p for p in scene.result.packs if p.figures.item.id == gap.item)
    typical = pack.figures.chemistry.self_discharge_a_month
    change = tried(set_part_value, scene.project, gap.item, "pack.self_discharge_a_month", typical)
    return possible((f"take {show(typical, fraction=True)} a month, typical of such cells", change))
