"""Findings of cables, of what lies in none, and of what should protect and switch."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.checks import Check
from wired_union.kernel.results import Finding, Remedy, Verdict
from wired_union.kernel.subject import Assessment
from wired_union.project.model import Concept, Item
from wired_union.subjects.wiring.assess import WIRES, Wires
from wired_union.subjects.wiring.laid import LAID, LaidCable
from wired_union.subjects.wiring.leads import CableResult, FeedLoss
from wired_union.subjects.wiring.remedies_cables import (
    STOP_PARTS,
    apart_remedies,
    bare_remedies,
    drop_remedies,
    switch_remedies,
    thicker_remedies,
)
from wired_union.units import show

MOVING = {"gearmotor", "motor", "linear actuator", "servo", "stepper", "pump", "reaction wheel", "solenoid"}
SWITCHES = {"switch", "contactor", "low voltage switch"}
SAYS = {
    "drop": "loses much of its voltage", "heat": "gets warm", "contact": "carries much for its plug",
    "contacts": "has hardly contacts enough", "long enough": "is hardly long enough", "bend": "is bent tightly",
}  # fmt: skip
FAILS = {
    "drop": "loses too much voltage", "heat": "gets too hot", "contact": "carries too much for its plug",
    "contacts": "has too few contacts", "long enough": "is too short", "bend": "is bent too tightly",
}  # fmt: skip
WHY = {
    "drop": "3 % of the rail is common practice for a wire.", "heat": "In its bundle, at the hottest air of the brief.",
    "contact": "Two contacts for one wire, or a larger plug.", "contacts": "A wire more than the plug has contacts.",
    "long enough": "Straight from middle to middle; it pulls at its joints.",
    "bend": "A cable that moves is bent no tighter than ten times its thickness: common practice.",
}  # fmt: skip


def cable_findings(assessment: Assessment, *, begun: bool) -> Iterator[Finding]:
    """What does not hold of each cable, what is not known, and what lies in no cable."""
    wires = assessment.of(WIRES)
    for cable in wires.cables:
        yield from _checks(assessment, cable)
        for gap in cable.missing:
            yield Finding("cable-gap", Verdict.UNKNOWN, cable.laid.cable.name, f"Not known yet: {gap}.",
                          "Until it is known nothing says whether it does.", _items(cable.laid), "cable-length",
                          of=cable.id, detail=gap)  # fmt: skip
        yield from _moves(cable.laid)
    for loss in wires.bare:
        yield from _bare(assessment, wires, loss)
    if begun:
        yield from _unlaid(assessment, wires)
    yield from _noisy(assessment)


def _items(laid: LaidCable) -> tuple[str, ...]:
    return tuple(filter(None, (laid.cable.start, *(r.item for r in laid.cable.reaches))))


def _checks(assessment: Assessment, cable: CableResult) -> Iterator[Finding]:
    """The worst of each kind of check."""
    worst: dict[str, Check] = {}
    for check in cable.checks:
        if check.verdict is not Verdict.HOLDS and (check.id not in worst or check.use > worst[check.id].use):
            worst[check.id] = check
    for check in worst.values():
        breaks = check.verdict is Verdict.BREAKS
        said = _drop_said(cable, check) if check.id == "drop" else f"{check.said}."
        measure = "wire-drop" if check.id == "drop" else "cable-length"
        found = Finding(
            "cable",
            check.verdict,
            f"{cable.laid.cable.name} {(FAILS if breaks else SAYS)[check.id]}",
            said,
            WHY[check.id],
            _items(cable.laid),
            measure,
            partial(_offer, assessment, cable, check),
            of=cable.id,
            detail=check.id,
            use=check.use,
        )
        gaps = [x.missing for x in cable.losses if x.missing] if check.id in {"drop", "heat", "contact"} else []
        yield found.while_unknown("; ".join(gaps)) if gaps else found


def _drop_said(cable: CableResult, check: Check) -> str:
    loss = next((x for x in cable.losses if x.feed.load == check.of), None)
    return _lost(loss, check) if loss is not None and loss.rail_v is not None else f"{check.said}."


def _lost(loss: FeedLoss, check: Check) -> str:
    when = f" in {loss.mode}" if loss.mode else ""
    warm = f", copper at {show(loss.copper_c, '°C')}" if loss.copper_c is not None else ""
    return (
        f"{show(check.needed, 'share')} of {show(loss.rail_v, 'V')} at {show(loss.most_a, 'A')}{when}{warm};"
        f" {show(check.given, 'share')} allowed."
    )


def _offer(assessment: Assessment, cable: CableResult, check: Check) -> tuple[Remedy, ...]:
    if check.id in {"drop", "heat"}:
        return thicker_remedies(assessment, cable, check)
    return apart_remedies(assessment, cable, check)


def _moves(laid: LaidCable) -> Iterator[Finding]:
    """A cable beside something that moves must be held."""
    cable = laid.cable
    if cable.passes == "nothing that moves" or laid.is_plugged or (cable.relieved == "yes" and cable.bundle):
        return
    lacks = " and ".join(w for w, gone in (("its ends are not said to be held", cable.relieved != "yes"),
                                           ("it is tied to no bundle", not cable.bundle)) if gone)  # fmt: skip
    yield Finding(
        "cable-moves",
        Verdict.TIGHT,
        f"{cable.name} passes {cable.passes}",
        f"{lacks[:1].upper()}{lacks[1:]}.",
        "A loose cable beside what moves gets into it.",
        _items(laid),
        "cable-length",
        of=cable.id,
    )


def _bare(assessment: Assessment, wires: Wires, loss: FeedLoss) -> Iterator[Finding]:
    """A feed in no cable that loses too much."""
    allowed = assessment.project.concept.wiring.most_drop
    if loss.share is None or not loss.feed.wire_length_m or allowed <= 0:
        return
    check = Check("drop", "drop", loss.share / allowed, loss.share, allowed, "share")
    if check.verdict is Verdict.HOLDS:
        return
    name, breaks = wires.names.get(loss.feed.load, ""), check.verdict is Verdict.BREAKS
    found = Finding("wire-drop", check.verdict, f"The wire to {name} {(FAILS if breaks else SAYS)['drop']}",
                    _lost(loss, check), WHY["drop"], (loss.feed.load,), "wire-drop",
                    partial(drop_remedies, assessment, loss, allowed), of=loss.feed.load, use=check.use)  # fmt: skip
    yield found.while_unknown(loss.missing) if loss.missing else found


def _unlaid(assessment: Assessment, wires: Wires) -> Iterator[Finding]:
    """What lies in no cable, once for all."""
    names = [wires.names.get(x.feed.load, "") for x in wires.bare] + [x.item.name for x in wires.loose]
    if not names:
        return
    few = ", ".join(dict.fromkeys(names[:5])) + (f" and {len(names) - 5} more" if len(names) > 5 else "")
    yield Finding("no-cable", Verdict.UNKNOWN, "What lies in no cable", f"Not known yet: the cables to {few}.",
                  "The right one is often not sold: it has to be made, by somebody, in time.", (), "cable-length",
                  partial(bare_remedies, assessment))  # fmt: skip


def _noisy(assessment: Assessment) -> Iterator[Finding]:
    """Leads of brushed motors in one bundle with sensors' leads."""
    laid, items = assessment.of(LAID), {i.id: i for i in assessment.project.concept.items}
    bundles: dict[str, list[LaidCable]] = {}
    for one in laid:
        if one.cable.bundle:
            bundles.setdefault(one.cable.bundle, []).append(one)
    for bundle, members in bundles.items():
        loud = [m for m in members if not m.cable.screened and not m.cable.suppressed and _feeds_a_motor(m, items)]
        quiet = [m for m in members if m.signals and not m.cable.screened and not _feeds_a_motor(m, items)]
        if loud and quiet:
            one, other = loud[0], quiet[0]
            yield Finding("noise", Verdict.TIGHT, f"Motor and sensor leads together in “{bundle}”",
                          f"{one.cable.name} and {other.cable.name} lie side by side.",
                          "Brushes and PWM couple into signals; apart, screened or with capacitors at the brushes they"
                          " do not.", (*_items(one), *_items(other)), "",
                          partial(apart_remedies, assessment, None, None, one.cable.id), of=bundle)  # fmt: skip


def _feeds_a_motor(laid: LaidCable, items: dict[str, Item]) -> bool:
    return any(items[f.load].part.kind in MOVING and items[f.load].part.motor is not None
               for f in laid.feeds if f.load in items)  # fmt: skip


def protection_findings(assessment: Assessment) -> Iterator[Finding]:
    """A main switch behind each pack of cells, and a stop button where something moves."""
    concept = assessment.project.concept
    source_of = {f.load: f.source for f in concept.feeds}
    moved = [i for i in concept.items if i.part.kind in MOVING and i.id in source_of]
    packs = [i for i in concept.items if i.part.pack is not None and i.id in source_of.values()]
    for pack in packs:
        behind = {load for load, source in source_of.items() if source == pack.id}
        if not any(_switches(concept, i) for i in behind):
            yield Finding("main-switch", Verdict.TIGHT, f"No main switch behind {pack.name}",
                          "Nothing cuts all that it feeds at once.",
                          "Common practice: one switch that everybody knows, next to the pack.", (pack.id,), "",
                          partial(switch_remedies, assessment, pack, stop=False), of=pack.id)  # fmt: skip
    if moved and packs and not any(_is_stop(i) for i in concept.items):
        yield Finding("stop-button", Verdict.TIGHT, "No stop button",
                      f"{moved[0].name} moves, and nothing in reach stops it.",
                      "Common practice: a button that opens the power path by itself, without the program.",
                      (moved[0].id,), "", partial(switch_remedies, assessment, packs[0], stop=True))  # fmt: skip


def _switches(concept: Concept, item_id: str) -> bool:
    item = next((i for i in concept.items if i.id == item_id), None)
    return item is not None and item.part.kind in SWITCHES


def _is_stop(item: Item) -> bool:
    """Whether a part is a stop button, as the catalogue marks them."""
    return item.part.id in STOP_PARTS
