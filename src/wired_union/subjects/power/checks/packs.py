"""Checks on packs: runtime, the peak they may give, and whether start-up browns them out."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import (
    Finding,
    Remedy,
    Verdict,
    judged,
    nothing_to_offer,
    possible,
    share_verdict,
    tried,
)
from wired_union.project.model import Item
from wired_union.project.part_edits import set_count, set_use
from wired_union.subjects.power.edits import stagger
from wired_union.subjects.power.larger_pack import solved
from wired_union.subjects.power.packs import PackFigures, PackResult
from wired_union.subjects.power.scene import PowerScene, name_of, over
from wired_union.subjects.power.shares import energy_shares
from wired_union.subjects.power.tree import state_current
from wired_union.units import show


def check_runtime(scene: PowerScene) -> Iterator[Finding]:
    measure = judged(scene.result.measures[0], scene.project.brief.limit("runtime"))
    if measure.value is None or measure.limit is None:
        return
    drain = energy_shares(scene.result)
    lanes = {s.id: s.name for s in scene.result.concept.subsystems}
    limit = scene.result.limiting
    if not drain.by_subsystem or limit is None or limit.discharge is None:
        return
    top, energy = drain.by_subsystem[0]
    share = show(energy / drain.total_wh, fraction=True) if drain.total_wh else "0 %"
    ended = {"reserve": "its reserve", "cut-off": "its cut-off voltage"}.get(limit.discharge.ended_by, "what it can do")
    item = limit.figures.item

    def offer() -> tuple[Remedy, ...]:
        if measure.verdict not in {Verdict.BREAKS, Verdict.TIGHT}:
            return ()
        grown = solved(scene.project, item, scene.again) if scene.again is not None else ()
        return (*_one_more(scene, limit), *grown, *_quieter(scene))

    sun = " The sun is counted as under an overcast sky, day after day." if limit.figures.gained_per_h else ""
    yield Finding(
        "runtime", measure.verdict, "Runtime",
        f"{'At most ' if measure.missing else ''}{measure.shown} of the {measure.limit_shown} wanted,"
        f" until {item.name} is at {ended}." if measure.value != float("inf") else _endless(limit),
        f"{lanes[top]} draws {share} of the energy.{sun}",
        (item.id,), "runtime", offer, of_limit=True,
    )  # fmt: skip


def _endless(pack: PackResult) -> str:
    name = pack.figures.item.name
    if pack.figures.gained_per_h:
        return f"Even an overcast day brings {name} what a day takes: it does not end."
    return f"Nothing that is known draws from {name}: it does not end."


def _quieter(scene: PowerScene) -> tuple[Remedy, ...]:
    """Loads that stay awake in modes where they could sleep, the thirstiest first."""
    found = []
    for mode in scene.result.concept.modes:
        states = {u.item: u.state for u in mode.uses}
        for item in scene.result.concept.items:
            load = item.part.load
            if load is None or load.sleep_a is None or states.get(item.id, mode.otherwise) != "idle":
                continue
            saved = item.count * ((state_current(load, "idle") or 0.0) - load.sleep_a) * (load.rated_v or 0.0)
            if saved > 0:
                found.append((saved, mode, item))
    found.sort(key=lambda x: -x[0])
    return possible(*(
        (f"put {item.name} to sleep in {mode.name}", tried(set_use, scene.project, mode.id, item.id, "sleep"))
        for _, mode, item in found[:2]
    ))  # fmt: skip


def check_packs(scene: PowerScene) -> Iterator[Finding]:
    beside = {j.beside for joints in scene.result.tree.beside.values() for j in joints}
    for pack in scene.result.packs:
        if not pack.peak_current_a or pack.figures.item.id in beside:  # it gives as part of another
            continue
        item, mode = pack.figures.item, scene.result.concept.modes[pack.worst_mode]
        peak = pack.peak_current_a[pack.worst_mode]
        offer = partial(_peak_remedies, scene, pack)
        reserve = scene.result.energy_reserve
        ohm = float(pack.figures.ohm_at(reserve))
        if peak != peak:
            yield Finding(
                "pack", Verdict.BREAKS, item.name,
                f"Cannot deliver what {mode.name} asks for at its worst instant.",
                _most_words(pack, reserve),
                (item.id,), "peak-current", offer, hard=True, of=item.id,
            )  # fmt: skip
            continue
        for member in pack.figures.members or (pack.figures,):
            yield from _rated(scene, pack, member)
        yield from _through(scene, pack)
        volts, dips_in = scene.dips_to(item.id, pack.figures.cutoff_v)
        if pack.figures.converter is None and volts < pack.figures.cutoff_v:
            yield Finding(
                "brown-out", Verdict.BREAKS, f"{item.name} browns out",
                f"Start-up in {name_of(dips_in)} pulls it to {show(volts, 'V')}, under its cut-off of"
                f" {show(pack.figures.cutoff_v, 'V')}.",
                f"{show(peak, 'A')} through {show(ohm, 'Ω')} near the end of the charge.",
                (item.id,), "lowest-voltage", offer, hard=True, of=item.id, use=over(pack.figures.cutoff_v, volts),
            )  # fmt: skip


def _rated(scene: PowerScene, pack: PackResult, member: PackFigures) -> Iterator[Finding]:
    """What flows at the worst instant against what a pack may give; of several on one supply each must carry it."""
    item, mode = member.item, scene.result.concept.modes[pack.worst_mode]
    peak, volts = pack.peak_current_a[pack.worst_mode], pack.peak_voltage_v[pack.worst_mode]
    rating, briefly = _rating(scene, pack, item)
    if rating is None:
        return
    may = rating * member.copies
    verdict = share_verdict(peak / may)
    if verdict is not Verdict.BREAKS and scene.hard_only:
        return
    alone = " In the end it gives alone." if pack.figures.members else ""
    yield Finding(
        "pack", verdict, item.name,
        f"{show(peak, 'A')} at its worst instant in {mode.name}, of {show(may, 'A')} it may give{briefly}.",
        f"It sags to {show(volts, 'V')} then, with {show(scene.result.energy_reserve, fraction=True)} left.{alone}",
        (item.id,), "peak-current", partial(_peak_remedies, scene, pack) if verdict.rank < 2 else nothing_to_offer,
        hard=verdict is Verdict.BREAKS, of=item.id, use=peak / may,
    )  # fmt: skip


def _through(scene: PowerScene, pack: PackResult) -> Iterator[Finding]:
    """What flows at the worst instant against what the diodes or the switch between packs bear."""
    peak, item = pack.peak_current_a[pack.worst_mode], pack.figures.item
    for joint in scene.result.tree.beside.get(item.id, ()):
        what = "diodes" if joint.how == "diodes" else "switch"
        name = scene.result.tree.nodes[joint.beside].item.name
        if joint.max_current_a is None:
            if not scene.hard_only:
                yield Finding("joined", Verdict.UNKNOWN, f"The {what} between {item.name} and {name}",
                              "Not known yet: their most current." if what == "diodes" else
                              "Not known yet: its most current.",
                              "Until it is given nothing says whether they bear what flows.", (joint.beside,),
                              of=joint.beside)  # fmt: skip
            continue
        verdict = share_verdict(peak / joint.max_current_a)
        if scene.wants(verdict):
            yield Finding(
                "joined", verdict, f"The {what} between {item.name} and {name}",
                f"{show(peak, 'A')} at the worst instant, of {show(joint.max_current_a, 'A')}.", "",
                (item.id, joint.beside), "peak-current", partial(_peak_remedies, scene, pack),
                hard=verdict is Verdict.BREAKS, of=joint.beside, use=peak / joint.max_current_a,
            )  # fmt: skip


def _rating(scene: PowerScene, pack: PackResult, item: Item) -> tuple[float | None, str]:
    """Most current that one may give at its worst instant: for a moment, where the start is over in it and what lasts
    stays within what it gives for long; with how long, in words.
    """
    spec = item.part.pack
    if spec is None or spec.max_current_a is None:
        return None, ""
    if spec.pulse_current_a is None or spec.pulse_s is None or spec.pulse_current_a <= spec.max_current_a:
        return spec.max_current_a, ""
    root = pack.figures.item.id
    lasts = scene.first.lasts_s(pack.worst_mode, root)
    lasting = scene.lasting[root][0]
    if lasts > spec.pulse_s or not lasting <= spec.max_current_a * (item.count if pack.figures.shares else 1):
        return spec.max_current_a, " for long"
    return spec.pulse_current_a, f" for {show(spec.pulse_s, 's')}"


def _most_words(pack: PackResult, reserve: float) -> str:
    """What bounds the power that comes out: the pack's own resistance, or that of the wires where it has none."""
    ohm = float(pack.figures.ohm_at(reserve))
    if not ohm:
        return "The pack has no resistance of its own: its wires cannot pass that power (V²/4R of a wire)."
    most = pack.figures.open_circuit_at(reserve) ** 2 / (4 * ohm)
    return f"Through {show(ohm, 'Ω')} it gives {show(most, 'W')} at the most (V²/4R); wires take from that."


def _peak_remedies(scene: PowerScene, pack: PackResult) -> tuple[Remedy, ...]:
    mode, more = scene.result.concept.modes[pack.worst_mode], _one_more(scene, pack)
    if mode.staggered:
        return more
    one_by_one = tried(stagger, scene.project, mode.id, True)
    return (*possible((f"start motors one after another in {mode.name}", one_by_one)), *more)


def _one_more(scene: PowerScene, pack: PackResult) -> tuple[Remedy, ...]:
    """One more in parallel, where packs share: power banks and cells that are not charged do not (common practice)."""
    item = pack.figures.item
    if not pack.figures.shares:
        return ()
    change = tried(set_count, scene.project, item.id, item.count + 1)
    return possible((f"one more {item.name} in parallel", change))
