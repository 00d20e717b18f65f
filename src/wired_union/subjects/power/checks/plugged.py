"""Checks on what is plugged in: supplies against their current, power banks that switch off, and packs on a charger."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, share_verdict, tried
from wired_union.project.model import Item, Mode, Part
from wired_union.subjects.power.checks.swaps import swapped
from wired_union.subjects.power.edits import stagger
from wired_union.subjects.power.insert import IN_HAND
from wired_union.subjects.power.packs import PackFigures
from wired_union.subjects.power.scene import PowerScene, name_of
from wired_union.subjects.power.supplies import SupplyResult
from wired_union.units import show


def check_plugged(scene: PowerScene) -> Iterator[Finding]:
    for supply in scene.result.supplies:
        yield from _supply_current(scene, supply)
    for root in scene.result.tree.roots:
        pack = root.item.part.pack
        if pack is not None and pack.least_load_a is not None:
            yield from _least_load(scene, root.item, pack.least_load_a)
    yield from _chargers(scene)
    yield from _side_by_side(scene)


def _supply_current(scene: PowerScene, supply: SupplyResult) -> Iterator[Finding]:
    item, modes = supply.node.item, scene.result.concept.modes
    rating = item.part.supply.max_current_a if item.part.supply is not None else None
    if not modes:
        return
    if not supply.delivers:
        mode = next(m for m, a in zip(modes, supply.peak_current_a, strict=True) if a != a)
        yield Finding(
            "supply", Verdict.BREAKS, item.name, f"Cannot deliver what {mode.name} asks for at its worst instant.",
            "Its own resistance and the wires do not pass that power.", (item.id,), "peak-current", hard=True,
            of=item.id,
        )  # fmt: skip
        return
    if rating is None:
        return
    peak, mode = max(zip(supply.peak_current_a, modes, strict=True), key=lambda x: x[0])
    verdict = share_verdict(peak / rating)
    if scene.wants(verdict):
        several = " Several side by side do not share." if item.count > 1 else ""
        yield Finding(
            "supply", verdict, item.name,
            f"{show(peak, 'A')} of {show(rating, 'A')} at the worst instant in {name_of(mode)}.",
            f"Above that it limits or switches off, and everything on it restarts.{several}", (item.id,),
            "peak-current", partial(_stronger, scene, item, peak, mode), hard=verdict is Verdict.BREAKS, of=item.id,
            use=peak / rating,
        )  # fmt: skip


def _stronger(scene: PowerScene, item: Item, peak_a: float, mode: Mode) -> tuple[Remedy, ...]:
    """Supplies of the same voltage that bear it, and starting one after another."""
    mine = item.part.supply
    assert mine is not None

    def bears(part: Part) -> bool:
        supply = part.supply
        same = supply is not None and abs(supply.output_v / mine.output_v - 1) <= 0.03
        return same and (supply.max_current_a or 0.0) * IN_HAND >= peak_a  # type: ignore[union-attr]

    found = swapped(scene, item, bears)
    if mode.staggered:
        return found
    one_by_one = tried(stagger, scene.project, mode.id, True)
    return (*possible((f"start motors one after another in {mode.name}", one_by_one)), *found)


def _least_load(scene: PowerScene, item: Item, least_a: float) -> Iterator[Finding]:
    """A power bank that takes a small load for none; pulses between may or may not keep it awake."""
    average = scene.result.average(item.id, "output_a")
    used = {p.mode for p in scene.result.concept.mission.phases}
    drawn = [
        (float(a), m) for a, m in zip(average, scene.result.concept.modes, strict=True)
        if m.id in used and a == a and not (m.plugged_in and item.id in scene.result.tree.stands_in)
    ]  # fmt: skip
    current, mode = min(drawn, key=lambda x: x[0], default=(least_a, None))
    if current >= least_a or mode is None:
        return
    yield Finding(
        "least-load", Verdict.BREAKS, f"{item.name} switches itself off",
        f"{mode.name} draws {show(current, 'A')} on average; below {show(least_a, 'A')} it takes that for nothing.",
        "Most power banks do so after about half a minute (common practice). A bank made for small loads, or a load"
        " that keeps it awake, helps.", (item.id,), offer=partial(_patient, scene, item, current), hard=True,
        of=item.id,
    )  # fmt: skip


def _patient(scene: PowerScene, item: Item, current_a: float) -> tuple[Remedy, ...]:
    """Power banks of the same voltage that stay on with so little."""
    mine = item.part.regulator

    def stays(part: Part) -> bool:
        if part.regulator is None or mine is None or part.pack is None or part.pack.least_load_a is None:
            return False
        return part.regulator.output_v == mine.output_v and part.pack.least_load_a <= current_a

    return swapped(scene, item, stays)


def _chargers(scene: PowerScene) -> Iterator[Finding]:
    """What feeds a pack, other than a supply that stands in for it."""
    if scene.hard_only:
        return
    tree, names = scene.result.tree, {i.id: i for i in scene.result.concept.items}
    for feed in scene.result.concept.feeds:
        pack = names[feed.load]
        if pack.part.pack is None or tree.stands_in.get(pack.id) == feed.source:
            continue
        yield Finding(
            "charging", Verdict.UNKNOWN, f"{pack.name} on {names[feed.source].name}",
            "What charges a pack is not worked out: the pack is taken to give all the time.",
            "A supply that feeds nothing but this pack stands in for it in the modes in which it is plugged in.",
            (pack.id, feed.source), of=pack.id,
        )  # fmt: skip


def _side_by_side(scene: PowerScene) -> Iterator[Finding]:
    """Several of what does not share a load: power banks, supplies, cells that are not charged together."""
    if scene.hard_only:
        return
    for root in scene.result.tree.roots:
        item, figures = root.item, scene.result.figures[root.item.id]
        if item.count == 1 or figures is None or (isinstance(figures, PackFigures) and figures.shares):
            continue
        yield Finding(
            "side-by-side", Verdict.TIGHT, f"{item.name}: {item.count} side by side",
            "They do not share a load: counted as one, the others are spares.",
            "One gives until it is down; cells that cannot be charged would charge each other without a diode each"
            " (common practice). Give each loads of its own as a part of its own.", (item.id,), of=item.id,
        )  # fmt: skip
