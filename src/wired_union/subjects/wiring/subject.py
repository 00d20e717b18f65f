"""Wiring: every thread from a pin to a part, and the cables they lie in."""

from collections.abc import Iterable

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Caution, Driver, MeasureKind, Subject
from wired_union.project.model import Concept
from wired_union.subjects.wiring.agreed import HANDED
from wired_union.subjects.wiring.assess import LEVELS, WIRES, measures
from wired_union.subjects.wiring.findings import findings, hard_findings, has_begun
from wired_union.subjects.wiring.laid import FEEDS, HARNESS, LAID, with_wires
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.subjects.wiring.pins import PINS
from wired_union.units import show


def _verdict(assessment: Assessment) -> Verdict | None:
    """The worst of what is judged; unknown until the team has begun, and nothing where there is nothing to join."""
    pins, wires = assessment.of(PINS), assessment.of(WIRES)
    found = [*assessment.own_verdicts("wiring"), *(x.verdict for x in assessment.of(LEVELS)),
             *(h.verdict for h in assessment.of(HANDED))]  # fmt: skip
    found += [f.verdict for f in assessment.findings if f.subject == "wiring" and f.check in SAID]
    if pins.wishes:
        found.append(Verdict.BREAKS if pins.clash else Verdict.HOLDS if pins.solved else Verdict.UNKNOWN)
    if has_begun(assessment):
        found += [*(b.verdict for b in wires.buses), *(c.verdict for c in wires.cables)]
    elif pins.wishes or wires.bare:
        found.append(Verdict.UNKNOWN)
    return worst(found)


SAID = {"start-pin", "no-cable", "main-switch", "stop-button", "noise", "cable-moves", "address", "wire-drop"}


def _pin(assessment: Assessment, measure: Measure) -> WiringPick:
    boards = assessment.of(PINS).boards()
    return WiringPick("pins", boards[0].id if boards else "")


def _longest(assessment: Assessment, measure: Measure) -> WiringPick:
    cables = [c for c in assessment.of(WIRES).cables if c.laid.all_m is not None]
    return WiringPick("cables", max(cables, key=lambda c: c.laid.all_m or 0.0).id if cables else "")


def _worst_drop(assessment: Assessment, measure: Measure) -> WiringPick:
    found = assessment.of(WIRES).worst_drop
    return WiringPick("cables", found[0]) if found is not None else WiringPick()


def _pins(assessment: Assessment, measure: Measure) -> list[Driver]:
    """Parts by the pins that they take."""
    names = {i.id: i.name for i in assessment.project.concept.items}
    count: dict[str, set[int]] = {}
    for w in assessment.of(PINS).wired:
        count.setdefault(names.get(w.wish.key.item, w.wish.name), set()).add(w.tooth.number)
    return [Driver(n, len(p), f"{len(p)}", "plum") for n, p in sorted(count.items(), key=lambda x: -len(x[1]))]


def _cables(assessment: Assessment, measure: Measure) -> list[Driver]:
    cables = [c.laid for c in assessment.of(WIRES).cables if c.laid.all_m]
    by_length = sorted(cables, key=lambda c: -(c.all_m or 0.0))
    return [Driver(c.cable.name, c.all_m or 0.0, show(c.all_m, "m"), "copper") for c in by_length]


def _drops(assessment: Assessment, measure: Measure) -> list[Driver]:
    wires = assessment.of(WIRES)
    known = [(wires.names.get(x.feed.load, ""), x.share) for _, x in wires.losses if x.share is not None]
    by_share = sorted(known, key=lambda x: -(x[1] or 0.0))
    return [Driver(name, min(share or 0.0, 1e6), show(share, "share"), "copper") for name, share in by_share]


def _cautions(concept: Concept) -> Iterable[Caution]:
    """Making cables: hot irons, and packs that are not unplugged."""
    if any(c.sold == "made by us" for c in concept.cables):
        yield Caution("Cables that you make",
                      "Unplug the pack first; a soldering iron burns, its fumes want air. Pull at every joint, measure"
                      f" each wire from end to end and against its neighbours before it carries anything. {RULES}",
                      ())  # fmt: skip


SUBJECT = Subject(
    id="wiring", title="Wiring", group="JOIN",
    about=(
        "Pins: each signal takes one pin that can do it. Matching in a bipartite graph decides that; where a timer has"
        " two frequencies, a bus two instances or a part two controllers, the search splits, and gives a side up when"
        " a matching is impossible. So an assignment is found, or it is proven that there is none, with the smallest"
        " set of wishes that clash. Pins read at start-up are left free while others do.",
        "Levels are compared wire by wire: what one side gives at least against what the other reads, by the thresholds"
        " of their family where no figures are given. Buses: pull-ups against the capacitance of pins and cables;"
        " clock and length. Lines that ring, ground that shifts and faults in time are not worked out.",
        "Cables: length as typed, or along, across and up between places, in the pose that asks for most, with slack."
        " Voltage lost at the worst instant of every mode, by Power, with copper as warm as the hottest air and what"
        " flows for long make it; heat by what flows for long, in the bundle, in the hottest air."
        " Mass by copper and PVC until it is weighed; price and mass go to Money and Mass.",
    ),
    view="view:WiringView",
    methods=("wire-gauge", "voltage-drop", "wire-ampacity", "warm-ampacity", "wire-temperature", "wire-mass",
             "logic-levels", "noise-margins", "voltage-divider", "i2c-pull-up", "bus-reach"),
    nodes=(LAID, FEEDS, HARNESS, PINS, WIRES, LEVELS, HANDED),
    measures=measures, findings=findings, hard_findings=hard_findings, verdict=_verdict, cautions=_cautions,
    explains=(
        MeasureKind("pins", "", "Join", select=_pin, drivers=_pins, about="pins of controllers that are taken"),
        MeasureKind("spare-pins", "", "Join", "at least", select=_pin, about="pins of controllers that are free"),
        MeasureKind("cable-length", "m", "Join", select=_longest, drivers=_cables, about="all cables together"),
        MeasureKind("wire-drop", "share", "Join", select=_worst_drop, drivers=_drops,
                    about="worst share of a rail that is lost in a wire"),
    ),
    section="section:section", commands="commands:add", papers="papers:papers", summable=with_wires,
)  # fmt: skip
