"""Checks on what stands between pack and load: regulators, drivers, rails."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.physics.converter import efficiency_at, linear_regulator
from wired_union.project.model import Item, Mode, Part, Regulator
from wired_union.project.part_edits import set_count
from wired_union.subjects.power.bent import curves_of
from wired_union.subjects.power.checks.divided import busiest, most_of
from wired_union.subjects.power.checks.swaps import swapped
from wired_union.subjects.power.edits import stagger
from wired_union.subjects.power.insert import IN_HAND, between
from wired_union.subjects.power.scene import PowerScene, input_range, name_of, other_sources, over
from wired_union.subjects.power.tree import Node
from wired_union.units import show

SMALL_CASE_K_PER_W = 250.0
"""Junction to air of the smallest usual case, SOT-23, on little copper: common practice."""
JUNCTION_LIMIT_C = 125.0  # common practice for silicon regulators


def check_regulators(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        regulator = node.item.part.regulator
        if regulator is None:
            continue
        yield from _regulator_current(scene, node)
        if node.item.part.pack is not None:  # a power bank: its cells are matched to it by whoever made it
            continue
        yield from input_range(scene, node, regulator.input_min_v, regulator.most_input_v)
        lowest, mode = scene.lowest_v(node.item.id)
        needed = regulator.least_input_v
        if (regulator.input_min_v or 0.0) <= lowest < needed:
            yield Finding(
                "dropout", Verdict.BREAKS, f"{node.item.name} drops out",
                f"Its input falls to {show(lowest, 'V')} in {name_of(mode)}; it needs {show(needed, 'V')} to make"
                f" {show(regulator.output_v, 'V')}.",
                f"Dropout {show(regulator.dropout_v or 0.0, 'V')}.", (node.item.id,),
                offer=partial(other_sources, scene, node.item, needed, regulator.most_input_v), hard=True,
                of=node.item.id, use=over(needed, lowest),
            )  # fmt: skip
        yield from _regulator_heat(scene, node)


def _regulator_current(scene: PowerScene, node: Node) -> Iterator[Finding]:
    regulator, item = node.item.part.regulator, node.item
    assert regulator is not None
    if regulator.max_current_a is None:
        return
    current, mode, whose = _given(scene, node)
    most = regulator.max_current_a
    verdict = share_verdict(current / most)
    if not scene.wants(verdict):
        return
    heaviest = max(node.children, key=lambda c: scene.most(c.item.id, "current_a")[0], default=None)

    def offer() -> tuple[Remedy, ...]:
        again = "a second" if item.count == 1 else "one more"
        words = f"{again} {item.name}, with the loads divided between them"
        second = possible((words, tried(set_count, scene.project, item.id, item.count + 1)))
        if heaviest is None:
            return second
        low, high = regulator.output_v * 0.97, regulator.output_v * 1.03
        moved = other_sources(scene, heaviest.item, low, high, besides=item.id)
        larger = swapped(scene, item, partial(_bears, scene, node, current))
        return (*moved, *second, *larger[:1], *between(scene.project, scene.result, heaviest.item)[:1])

    several = " Several on one rail do not share: the one set highest would carry all." if item.count > 1 else ""
    yield Finding(
        "regulator", verdict, item.name,
        f"{show(current, 'A')} of {show(most, 'A')}{whose} at the worst instant in {name_of(mode)}.",
        f"{heaviest.item.name} takes the most of it.{several}" if heaviest else "",
        (item.id,), offer=offer, hard=verdict is Verdict.BREAKS, of=item.id, use=current / most,
    )  # fmt: skip


def _bears(scene: PowerScene, node: Node, current_a: float, part: Part) -> bool:
    """Whether another regulator makes the same voltage from the same input, and bears the current with some in hand."""
    mine, other = node.item.part.regulator, part.regulator
    if mine is None or other is None or abs(other.output_v / mine.output_v - 1) > 0.03:
        return False
    lowest, highest = scene.lowest_v(node.item.id)[0], scene.full_v.get(node.item.id, 0.0)
    fed = lowest >= other.least_input_v and highest <= (other.most_input_v or 0.0)
    return fed and (other.max_current_a or 0.0) * IN_HAND >= current_a


def _given(scene: PowerScene, node: Node) -> tuple[float, Mode | None, str]:
    """Most that one regulator gives at the worst instant, the mode, and which of several it is, in words."""
    if node.item.count == 1:
        return (*scene.most(node.item.id, "output_a"), "")
    worst = most_of(busiest(scene, node)[1], scene.result.concept.modes)
    return (*worst, f" on the busiest of {node.item.count}, with the loads divided between them,")


def _regulator_heat(scene: PowerScene, node: Node) -> Iterator[Finding]:
    """What it burns on average in its hungriest mode, in the warmest air of the brief."""
    regulator, item = node.item.part.regulator, node.item
    assert regulator is not None
    resistance, rested_v = regulator.thermal_resistance_k_per_w, scene.result.rested_v.get(item.id)
    if rested_v is None:
        return
    average = scene.result.average(item.id, "output_a") if item.count == 1 else busiest(scene, node)[0]
    current = max(float(np.nanmax(average, initial=0.0)), 0.0)
    loss_w, why = _burnt(regulator, current, rested_v)
    air_c = scene.project.brief.hottest_c
    junction_c = air_c + loss_w * (SMALL_CASE_K_PER_W if resistance is None else resistance)
    warmth = (junction_c - air_c) / (JUNCTION_LIMIT_C - air_c) if air_c < JUNCTION_LIMIT_C else float("inf")
    verdict = share_verdict(warmth)
    if resistance is None:
        if verdict is not Verdict.HOLDS and not scene.hard_only:
            yield _warmth_unknown(item, loss_w)
        return
    if not scene.wants(verdict):
        return
    yield Finding(
        "heat", verdict, f"{item.name} runs hot",
        f"{show(loss_w, 'W')} of heat brings it to {junction_c:.0f}\u202f°C in air of {air_c:.0f}\u202f°C;"
        f" {JUNCTION_LIMIT_C:.0f}\u202f°C is the usual limit.", why, (item.id,),
        offer=partial(other_sources, scene, item, regulator.least_input_v, rested_v * 0.8),
        hard=verdict is Verdict.BREAKS, of=item.id, use=warmth,
    )  # fmt: skip


def _warmth_unknown(item: Item, loss_w: float) -> Finding:
    """A regulator whose heat a small case would not shed, and that does not say how warm it gets."""
    return Finding(
        "heat", Verdict.UNKNOWN, f"{item.name}: its heat",
        f"Not known yet: how warm it gets with each watt; it burns {show(loss_w, 'W')}.",
        f"A small case warms by {SMALL_CASE_K_PER_W:g}\u202fK with each watt: too much here.", (item.id,), of=item.id,
    )  # fmt: skip


def _burnt(regulator: Regulator, current_a: float, input_v: float) -> tuple[float, str]:
    """Heat of one regulator, and why: a linear one burns the difference, another what its efficiency leaves."""
    if not regulator.passes_power:
        dropout_v, own_a = regulator.dropout_v or 0.0, regulator.quiescent_a or 0.0
        hot = linear_regulator(input_v, regulator.output_v, current_a, dropout_v, own_a)
        words = f"It burns {show(input_v - regulator.output_v, 'V')} at {show(current_a, 'A')}."
        return hot.loss_w, f"{words} A switching regulator, a lower input or a heat sink helps."
    share = min((efficiency_at(c, current_a) for c in curves_of(regulator)), default=1.0)
    given = regulator.output_v * current_a
    loss = given * (1 / share - 1) + (regulator.quiescent_a or 0.0) * input_v
    return loss, f"It passes {show(given, 'W')} at {show(share, 'share')}. A larger one, or two, or a heat sink helps."


def check_drivers(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        driver, item = node.item.part.driver, node.item
        if driver is None or not node.children:
            continue
        yield from input_range(scene, node, driver.input_min_v, driver.input_max_v)
        yield from _channels(scene, node)
        total, mode = _all_channels(scene, node)
        if driver.total_current_a is None or driver.channels * item.count == 1:
            continue
        most = driver.total_current_a * item.count
        verdict = share_verdict(total / most)
        if scene.wants(verdict):
            yield Finding(
                "driver-sum", verdict, f"{item.name}, all channels",
                f"{show(total, 'A')} of {show(most, 'A')} together at the worst instant in {name_of(mode)}.",
                "Channels share one supply, one earth and one heat path.", (item.id,),
                offer=partial(_driver_remedies, scene, item, mode, total / most), hard=verdict is Verdict.BREAKS,
                of=item.id, use=total / most,
            )  # fmt: skip


TWO_WINDINGS = ("stepper",)
"""Classes of motor whose windings take a channel each."""


def channels_of(item: Item) -> int:
    """Channels that one copy takes."""
    return 2 if item.part.stepper is not None or item.part.kind in TWO_WINDINGS else 1


def coil_a(item: Item) -> float | None:
    """Current that a driver holds in each winding of a stepper, not what it takes from the supply; else None."""
    return item.part.stepper.coil_current_a if item.part.stepper is not None else None


def _all_channels(scene: PowerScene, node: Node) -> tuple[float, Mode | None]:
    """Most current through all channels together: what the loads take, and for steppers what is held in windings."""
    total, mode = scene.most(node.item.id, "output_a")
    for child in node.children:
        if (coil := coil_a(child.item)) is not None:
            held = 2 * coil * child.item.count
            total += max(held - scene.most(child.item.id, "current_a")[0], 0.0)
    return total, mode


def _channels(scene: PowerScene, node: Node) -> Iterator[Finding]:
    driver, item = node.item.part.driver, node.item
    assert driver is not None
    channels = driver.channels * item.count
    motors = [c.item for c in node.children]
    wanted = sum(m.count * channels_of(m) for m in motors)
    shared = -(-wanted // channels)
    per_motor, mode, motor = max(
        (
            (coil_a(m) or current / m.count, mode, m)
            for m in motors
            for current, mode in [scene.most(m.id, "current_a")]
        ),
        key=lambda x: float("inf") if x[0] != x[0] else x[0],
    )
    if driver.channel_current_a is None:
        return
    if shared > 1 and any(m.part.stepper is not None for m in motors):
        yield _no_channel(scene, item, wanted, channels)
        return
    use = per_motor * shared / driver.channel_current_a
    verdict = share_verdict(use)
    if not scene.wants(verdict) and (shared == 1 or scene.hard_only):
        return
    crowd = f" {wanted} loads share {channels} channels: each gets 1/{shared} of one." if shared > 1 else ""
    when, why = f"when {motor.name} starts in {name_of(mode)}", "A brushed motor starts at its stall current."
    if coil_a(motor) is not None:
        when, why = f"in each winding of {motor.name}", "The driver holds that current, whatever the supply gives."
    elif not driver.current_limit_a:
        why += " This driver does not limit it."
    yield Finding(
        "driver", verdict, f"{item.name}, each channel",
        f"{show(per_motor * shared, 'A')} of {show(driver.channel_current_a, 'A')} on a channel {when}.",
        f"{why}{crowd}", (item.id,),
        offer=partial(_driver_remedies, scene, item, mode, use), hard=verdict is Verdict.BREAKS, of=item.id, use=use,
    )  # fmt: skip


def _no_channel(scene: PowerScene, item: Item, wanted: int, channels: int) -> Finding:
    """A stepper cannot share a channel: each winding has its own."""
    return Finding(
        "driver", Verdict.BREAKS, f"{item.name}, each channel",
        f"{wanted} channels are wanted and there are {channels}.",
        "Each winding of a stepper takes a channel of its own.", (item.id,),
        offer=partial(_driver_remedies, scene, item, None, wanted / channels), hard=True, of=item.id,
        use=wanted / channels,
    )  # fmt: skip


def _driver_remedies(scene: PowerScene, item: Item, mode: Mode | None, use: float) -> tuple[Remedy, ...]:
    more = (f"one more {item.name}", tried(set_count, scene.project, item.id, item.count + 1))
    larger = swapped(scene, item, partial(_drives, scene, item, use))
    if mode is None or mode.staggered:
        return (*possible(more), *larger)
    one_by_one = tried(stagger, scene.project, mode.id, True)
    return (*possible(more, (f"start motors one after another in {mode.name}", one_by_one)), *larger)


def _drives(scene: PowerScene, item: Item, use: float, part: Part) -> bool:
    """Whether another driver has the channels, takes the supply, and bears what this one is asked with some in hand."""
    mine, other = item.part.driver, part.driver
    if mine is None or other is None or other.channels < mine.channels:
        return False
    low, high = scene.lowest_v(item.id)[0], scene.full_v.get(item.id, 0.0)
    if low < (other.input_min_v or 0.0) or high > (other.input_max_v or 0.0):
        return False
    pairs = ((mine.channel_current_a, other.channel_current_a), (mine.total_current_a, other.total_current_a))
    return all((theirs or 0.0) * IN_HAND >= own * min(use, 1e3) for own, theirs in pairs if own is not None)
