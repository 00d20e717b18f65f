"""Checks on the power tree: ratings, ranges, levels and gaps, each with figures, a reason and remedies."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from wired_union.assess.power import PackResult, PowerResult, state_in
from wired_union.assess.power_flow import Flow, energy_shares, mode_flows
from wired_union.assess.power_tree import Node
from wired_union.assess.results import Finding, Remedy, Verdict, share_verdict, tried
from wired_union.physics.converter import linear_regulator
from wired_union.project import edits
from wired_union.project.model import Item, Project
from wired_union.units import show

JUNCTION_LIMIT_C = 125.0  # common practice for silicon regulators
HIGH_LEVEL_SHARE = 0.7  # common practice: a CMOS input reads high from 0.7 of its own supply


@dataclass(frozen=True)
class PowerScene:
    """A power result with what the checks look at: every node at the worst instant of every mode."""

    project: Project
    result: PowerResult

    @cached_property
    def worst(self) -> tuple[dict[str, Flow], ...]:
        charge = self.result.brief.energy_reserve
        return tuple(mode_flows(self.result, m, charge, peak=True) for m in range(len(self.result.concept.modes)))

    @cached_property
    def full_v(self) -> dict[str, float]:
        """Highest voltage at each node's input: full packs without load."""
        found: dict[str, float] = {}

        def walk(node: Node, volts: float) -> None:
            found[node.item.id] = volts
            for child in node.children:
                walk(child, node.supply_v or volts)

        for pack in self.result.packs:
            walk(pack.node, pack.figures.open_circuit_at(1.0))
        return found

    def most(self, item_id: str, field: str) -> tuple[float, str]:
        """Highest figure of a node over all modes, and the mode's name; NaN wins, since nothing can deliver it."""
        modes = self.result.concept.modes
        found = [(getattr(f[item_id], field), modes[m].name) for m, f in enumerate(self.worst) if item_id in f]
        return max(found, key=lambda x: float("inf") if x[0] != x[0] else x[0], default=(0.0, ""))

    def lowest_v(self, item_id: str) -> tuple[float, str]:
        modes = self.result.concept.modes
        found = [(f[item_id].input_v, modes[m].name) for m, f in enumerate(self.worst) if item_id in f]
        return min(found, key=lambda x: float("-inf") if x[0] != x[0] else x[0], default=(float("inf"), ""))


def power_findings(project: Project, result: PowerResult) -> list[Finding]:
    """Every finding of the power discipline, worst first within its kind."""
    scene = PowerScene(project, result)
    checks = (_runtime, _packs, _regulators, _drivers, _rails, _supplies, _levels, _gaps)
    return [finding for check in checks for finding in check(scene)]


def _runtime(scene: PowerScene) -> Iterator[Finding]:
    measure = next(m for m in scene.result.measures if m.id == "runtime")
    if measure.value is None or measure.limit is None:
        return
    drain = energy_shares(scene.result)
    lanes = {s.id: s.name for s in scene.result.concept.subsystems}
    top, energy = drain.by_subsystem[0]
    share = show(energy / drain.total_wh, fraction=True) if drain.total_wh else "0 %"
    limit = min(
        (p for p in scene.result.packs if p.discharge), key=lambda p: p.discharge.runtime_s if p.discharge else 0
    )
    assert limit.discharge is not None
    ended = {"reserve": "its reserve", "cut-off": "its cut-off voltage"}.get(limit.discharge.ended_by, "what it can do")
    needed = limit.figures.values.capacity_ah * measure.limit / measure.value if measure.value else 0.0
    short = measure.value < measure.limit
    remedies = []
    item = limit.figures.item
    if measure.verdict in {Verdict.BREAKS, Verdict.TIGHT}:
        change = tried(edits.set_count, scene.project, item.id, item.count + 1)
        remedies = [Remedy(f"one more {item.name} in parallel", change), *_quieter(scene)]
    yield Finding(
        "runtime", measure.verdict, "Runtime",
        f"{measure.shown} of the {measure.limit_shown} wanted, until {item.name} is at {ended}.",
        f"{lanes[top]} draws {share} of the energy."
        + (f" A pack of about {show(needed, 'Ah')} would hold." if short else ""),
        (item.id,), "runtime", tuple(remedies),
    )  # fmt: skip


def _quieter(scene: PowerScene) -> list[Remedy]:
    """Loads that stay awake in modes where they could sleep, the thirstiest first."""
    found = []
    for mode in scene.result.concept.modes:
        for item in scene.result.concept.items:
            load = item.part.load
            if load is None or load.sleep_a is None or state_in(mode, item.id) != "idle":
                continue
            saved = item.count * ((load.idle_a or load.active_a or 0.0) - load.sleep_a) * (load.rated_v or 0.0)
            change = tried(edits.set_use, scene.project, mode.id, item.id, "sleep")
            found.append((saved, Remedy(f"put {item.name} to sleep in {mode.name}", change)))
    found.sort(key=lambda x: -x[0])
    return [remedy for saved, remedy in found[:2] if saved > 0]


def _packs(scene: PowerScene) -> Iterator[Finding]:
    for pack in scene.result.packs:
        if not pack.peak_current_a:
            continue
        item, mode = pack.figures.item, scene.result.concept.modes[pack.worst_mode]
        peak, volts = pack.peak_current_a[pack.worst_mode], pack.peak_voltage_v[pack.worst_mode]
        remedies = _peak_remedies(scene, pack)
        if peak != peak:
            most = pack.figures.open_circuit_at(scene.result.brief.energy_reserve) ** 2 / (
                4 * pack.figures.values.resistance_ohm
            )
            yield Finding(
                f"pack:{item.id}", Verdict.BREAKS, item.name,
                f"Cannot deliver what {mode.name} asks for at its worst instant.",
                f"Through {show(pack.figures.values.resistance_ohm, 'Ω')} it gives {show(most, 'W')} at the most (V²/4R).",
                (item.id,), "peak-current", remedies, hard=True,
            )  # fmt: skip
            continue
        rating = item.part.pack.max_current_a if item.part.pack else None
        if rating is not None:
            verdict = share_verdict(peak / (rating * item.count))
            yield Finding(
                f"pack:{item.id}", verdict, item.name,
                f"{show(peak, 'A')} at its worst instant in {mode.name}, of {show(rating * item.count, 'A')} it may give.",
                f"It sags to {show(volts, 'V')} then, with {show(scene.result.brief.energy_reserve, fraction=True)} left.",
                (item.id,), "peak-current", remedies if verdict.rank < 2 else (), hard=verdict is Verdict.BREAKS,
            )  # fmt: skip
        if volts < pack.figures.cutoff_v:
            yield Finding(
                f"brown-out:{item.id}", Verdict.BREAKS, f"{item.name} browns out",
                f"Start-up in {mode.name} pulls it to {show(volts, 'V')}, under its cut-off of"
                f" {show(pack.figures.cutoff_v, 'V')}.",
                f"{show(peak, 'A')} through {show(pack.figures.values.resistance_ohm, 'Ω')} near the end of the charge.",
                (item.id,), "lowest-voltage", remedies, hard=True,
            )  # fmt: skip


def _peak_remedies(scene: PowerScene, pack: PackResult) -> tuple[Remedy, ...]:
    item, mode = pack.figures.item, scene.result.concept.modes[pack.worst_mode]
    found = []
    if not mode.staggered:
        change = tried(edits.stagger, scene.project, mode.id, True)
        found.append(Remedy(f"start motors one after another in {mode.name}", change))
    change = tried(edits.set_count, scene.project, item.id, item.count + 1)
    found.append(Remedy(f"one more {item.name} in parallel", change))
    return tuple(found)


def _regulators(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        regulator = node.item.part.regulator
        if regulator is None:
            continue
        yield from _regulator_current(scene, node)
        yield from _input_range(scene, node, regulator.input_min_v, regulator.input_max_v)
        lowest, mode = scene.lowest_v(node.item.id)
        needed = regulator.output_v + regulator.dropout_v
        if lowest < needed or lowest != lowest:
            yield Finding(
                f"dropout:{node.item.id}", Verdict.BREAKS, f"{node.item.name} drops out",
                f"Its input falls to {show(lowest, 'V')} in {mode}; it needs {show(needed, 'V')} to make"
                f" {show(regulator.output_v, 'V')}.",
                f"Dropout {show(regulator.dropout_v, 'V')}.", (node.item.id,),
                remedies=_other_sources(scene, node.item, needed, regulator.input_max_v), hard=True,
            )  # fmt: skip
        yield from _regulator_heat(scene, node)


def _regulator_current(scene: PowerScene, node: Node) -> Iterator[Finding]:
    regulator, item = node.item.part.regulator, node.item
    assert regulator is not None
    current, mode = scene.most(item.id, "output_a")
    if regulator.max_current_a is None:
        return
    most = regulator.max_current_a * item.count
    verdict = share_verdict(current / most)
    if verdict is Verdict.HOLDS:
        return
    heaviest = max(node.children, key=lambda c: scene.most(c.item.id, "current_a")[0], default=None)
    remedies = [Remedy(f"a second {item.name}", tried(edits.set_count, scene.project, item.id, item.count + 1))]
    if heaviest is not None:
        remedies[:0] = _other_sources(
            scene, heaviest.item, regulator.output_v * 0.97, regulator.output_v * 1.03, besides=item.id
        )
    yield Finding(
        f"regulator:{item.id}", verdict, item.name,
        f"{show(current, 'A')} of {show(most, 'A')} at the worst instant in {mode}.",
        f"{heaviest.item.name} takes the most of it." if heaviest else "",
        (item.id,), remedies=tuple(remedies), hard=verdict is Verdict.BREAKS,
    )  # fmt: skip


def _regulator_heat(scene: PowerScene, node: Node) -> Iterator[Finding]:
    regulator, item = node.item.part.regulator, node.item
    assert regulator is not None
    if regulator.topology != "linear" or regulator.thermal_resistance_k_per_w is None:
        return
    averages = [mode_flows(scene.result, m) for m in range(len(scene.result.concept.modes))]
    current = max((f[item.id].output_a / item.count for f in averages if item.id in f), default=0.0)
    hot = linear_regulator(
        scene.full_v[item.id], regulator.output_v, max(current, 0.0), regulator.dropout_v, regulator.quiescent_a,
        regulator.thermal_resistance_k_per_w,
    )  # fmt: skip
    verdict = share_verdict((hot.junction_c - 25.0) / (JUNCTION_LIMIT_C - 25.0))
    if verdict is Verdict.HOLDS:
        return
    yield Finding(
        f"heat:{item.id}", verdict, f"{item.name} runs hot",
        f"{show(hot.loss_w, 'W')} of heat brings it to {hot.junction_c:.0f}\u202f°C in air of 25\u202f°C;"
        f" {JUNCTION_LIMIT_C:.0f}\u202f°C is the usual limit.",
        f"It burns {show(scene.full_v[item.id] - regulator.output_v, 'V')} at {show(current, 'A')}. A switching"
        " regulator, a lower input or a heat sink helps.",
        (item.id,), remedies=_other_sources(
            scene, item, regulator.output_v + regulator.dropout_v, scene.full_v[item.id] * 0.8
        ), hard=verdict is Verdict.BREAKS,
    )  # fmt: skip


def _drivers(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        driver, item = node.item.part.driver, node.item
        if driver is None or not node.children:
            continue
        yield from _input_range(scene, node, driver.input_min_v, driver.input_max_v)
        yield from _channels(scene, node)
        total, mode = scene.most(item.id, "output_a")
        if driver.total_current_a is None:
            continue
        most = driver.total_current_a * item.count
        verdict = share_verdict(total / most)
        if verdict is not Verdict.HOLDS:
            yield Finding(
                f"driver-sum:{item.id}", verdict, f"{item.name}, all channels",
                f"{show(total, 'A')} of {show(most, 'A')} together at the worst instant in {mode}.",
                "Channels share one supply, one earth and one heat path.", (item.id,),
                remedies=_driver_remedies(scene, item, mode), hard=verdict is Verdict.BREAKS,
            )  # fmt: skip


def _channels(scene: PowerScene, node: Node) -> Iterator[Finding]:
    driver, item = node.item.part.driver, node.item
    assert driver is not None
    channels = driver.channels * item.count
    motors = [c.item for c in node.children]
    wanted = sum(m.count for m in motors)
    shared = -(-wanted // channels)
    per_motor, mode, motor = max(
        ((current / m.count, mode, m) for m in motors for current, mode in [scene.most(m.id, "current_a")]),
        key=lambda x: float("inf") if x[0] != x[0] else x[0],
    )
    if driver.channel_current_a is None:
        return
    verdict = share_verdict(per_motor * shared / driver.channel_current_a)
    if verdict is Verdict.HOLDS and shared == 1:
        return
    crowd = f" {wanted} loads share {channels} channels: each gets 1/{shared} of one." if shared > 1 else ""
    yield Finding(
        f"driver:{item.id}", verdict, f"{item.name}, each channel",
        f"{show(per_motor * shared, 'A')} of {show(driver.channel_current_a, 'A')} on a channel when {motor.name}"
        f" starts in {mode}.", f"A brushed motor starts at its stall current.{crowd}", (item.id,),
        remedies=_driver_remedies(scene, item, mode), hard=verdict is Verdict.BREAKS,
    )  # fmt: skip


def _driver_remedies(scene: PowerScene, item: Item, mode_name: str) -> tuple[Remedy, ...]:
    found = [Remedy(f"one more {item.name}", tried(edits.set_count, scene.project, item.id, item.count + 1))]
    mode = next((m for m in scene.result.concept.modes if m.name == mode_name), None)
    if mode is not None and not mode.staggered:
        change = tried(edits.stagger, scene.project, mode.id, True)
        found.append(Remedy(f"start motors one after another in {mode.name}", change))
    return tuple(found)


def _rails(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        rail, item = node.item.part.rail, node.item
        if rail is None or rail.max_current_a is None:
            continue
        current, mode = scene.most(item.id, "current_a")
        verdict = share_verdict(current / (rail.max_current_a * item.count))
        if verdict is not Verdict.HOLDS:
            yield Finding(
                f"rail:{item.id}", verdict, item.name,
                f"{show(current, 'A')} of {show(rail.max_current_a * item.count, 'A')} at the worst instant in {mode}.",
                "A fuse protects the wire behind it, not the load.", (item.id,), hard=verdict is Verdict.BREAKS,
            )  # fmt: skip


def _input_range(scene: PowerScene, node: Node, least_v: float | None, most_v: float | None) -> Iterator[Finding]:
    item = node.item
    lowest, mode = scene.lowest_v(item.id)
    highest = scene.full_v.get(item.id, 0.0)
    if most_v is not None and highest > most_v:
        yield Finding(
            f"input-high:{item.id}", Verdict.BREAKS, f"{item.name} gets too much",
            f"{show(highest, 'V')} from full packs; it takes at most {show(most_v, 'V')}.", "", (item.id,),
            remedies=_other_sources(scene, item, least_v, most_v), hard=True,
        )  # fmt: skip
    if least_v is not None and (lowest < least_v or lowest != lowest):
        yield Finding(
            f"input-low:{item.id}", Verdict.BREAKS, f"{item.name} gets too little",
            f"{show(lowest, 'V')} at the worst instant in {mode}; it works from {show(least_v, 'V')}.",
            "A sagging pack or a rail set too low.", (item.id,),
            remedies=_other_sources(scene, item, least_v, most_v), hard=True,
        )  # fmt: skip


def _supplies(scene: PowerScene) -> Iterator[Finding]:
    for node in scene.result.tree.nodes.values():
        load = node.item.part.load
        if load is not None and node.item.id in scene.result.tree.source_of:
            yield from _input_range(scene, node, load.supply_min_v, load.supply_max_v)


def _other_sources(
    scene: PowerScene, item: Item, least_v: float | None, most_v: float | None, besides: str = ""
) -> tuple[Remedy, ...]:
    """Sources already there whose whole range of voltage suits."""
    found = []
    for other in scene.result.tree.nodes.values():
        if other.item.id in {item.id, besides, scene.result.tree.source_of.get(item.id)}:
            continue
        if not edits.feeds_others(other.item.part) or other.item.part.driver is not None:
            continue
        high = other.supply_v or scene.full_v[other.item.id]
        low = other.supply_v or scene.lowest_v(other.item.id)[0]
        if (least_v is None or low >= least_v) and (most_v is None or high <= most_v):
            change = tried(edits.feed_from, scene.project, item.id, other.item.id)
            if change is not None:
                found.append(Remedy(f"feed {item.name} from {other.item.name}", change))
    return tuple(found[:3])


def _levels(scene: PowerScene) -> Iterator[Finding]:
    """Signals of each part against the controllers of the concept: one that matches is enough."""
    items = scene.result.concept.items
    brains = [i for i in items if i.part.kind in {"microcontroller", "computer"} and i.part.link]
    for item in items:
        link = item.part.link
        if link is None or link.logic_v is None or item in brains or not brains:
            continue
        reasons = [_level_clash(item, brain) for brain in brains]
        if all(reasons):
            yield Finding(
                f"level:{item.id}", Verdict.BREAKS, f"{item.name}: logic level", reasons[0] or "",
                "A level shifter between them, or a part of the controller's level, is the usual answer.",
                (item.id,), hard=True,
            )  # fmt: skip


def _level_clash(item: Item, brain: Item) -> str | None:
    mine, theirs = item.part.link, brain.part.link
    assert mine is not None
    assert theirs is not None
    if mine.logic_v is None or theirs.logic_v is None:
        return None
    survives = theirs.logic_max_v or theirs.logic_v
    if mine.logic_v > survives * 1.1:
        return f"It signals at {show(mine.logic_v, 'V')}; {brain.name} survives {show(survives, 'V')}."
    if theirs.logic_v < HIGH_LEVEL_SHARE * mine.logic_v:
        return (
            f"It reads high from {show(HIGH_LEVEL_SHARE * mine.logic_v, 'V')}; {brain.name} gives"
            f" {show(theirs.logic_v, 'V')}."
        )
    if theirs.logic_v > (mine.logic_max_v or mine.logic_v) * 1.1:
        return f"It survives {show(mine.logic_max_v or mine.logic_v, 'V')}; {brain.name} signals {show(theirs.logic_v, 'V')}."
    return None


def _gaps(scene: PowerScene) -> Iterator[Finding]:
    ids = {i.name: i.id for i in scene.result.concept.items}
    for gap in scene.result.missing:
        subject = ids.get(gap.split(":")[0])
        yield Finding(
            f"missing:{gap}", Verdict.UNKNOWN, "Not known yet", f"{gap}.",
            "Until it is known, runtime and peak current are bounds, not answers.",
            (subject,) if subject else (), "runtime",
        )  # fmt: skip
