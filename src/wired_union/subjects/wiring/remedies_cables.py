"""What can be done about cables: thicker, shorter, another way, tied elsewhere; switches where they lack."""

from wired_union.catalogue.parts import catalogue, of_kind
from wired_union.kernel.checks import Check
from wired_union.kernel.results import Remedy, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.physics.wire import wire_ampacity, wire_gauge
from wired_union.project.change import Change, new_id, with_concept
from wired_union.project.model import Item, Part, Project
from wired_union.project.part_edits import set_wire
from wired_union.project.wiring_model import Cable, Reach
from wired_union.subjects.power.gives import POWER, insert_behind
from wired_union.subjects.wiring.edits import cables_for_all, set_cable
from wired_union.subjects.wiring.leads import CableResult, FeedLoss
from wired_union.subjects.wiring.pins import PINS
from wired_union.units import show

THICKEST, IN_HAND, FEW = 0, 0.8, 3
STOP_PARTS = ("switch-emergency-stop-10-a",)
"""Parts of the catalogue that stop by themselves, in the power path."""


def thicker_remedies(assessment: Assessment, cable: CableResult, check: Check) -> tuple[Remedy, ...]:
    """The thinnest gauge that has a fifth in hand; half the length where that is enough."""
    project, own = assessment.project, cable.laid.cable
    ways: list[tuple[str, Change | None]] = []
    awg = _thinnest(own.awg, check)
    if awg is not None:
        ways.append((f"AWG {awg}", tried(set_cable, project, value_id=own.id, awg=awg)))
    if check.id == "drop" and cable.laid.length_m is not None and cable.laid.length_m > 0:
        short = cable.laid.length_m * IN_HAND / check.use
        words = f"no longer than {show(short, 'm')}"
        ways.append((words, tried(set_cable, project, value_id=own.id, length_m=float(f"{short:.2g}"))))
    if check.id == "heat" and own.bundle:
        ways.append(("tied to no bundle", tried(set_cable, project, value_id=own.id, bundle="")))
    return possible(*ways)[:FEW]


def _thinnest(now: int | None, check: Check) -> int | None:
    """The thinnest gauge below today's that brings a check to four fifths; None where none does."""
    if now is None:
        return None
    here = wire_gauge(now).resistance_ohm_per_m
    for awg in range(now - 1, THICKEST - 1, -1):
        if check.id == "drop" and check.use * wire_gauge(awg).resistance_ohm_per_m / here <= IN_HAND:
            return awg
        if check.id == "heat":
            more = wire_ampacity(awg).ampacity_a / wire_ampacity(now).ampacity_a
            if check.use / more <= IN_HAND:
                return awg
    return None


def drop_remedies(assessment: Assessment, loss: FeedLoss, allowed: float) -> tuple[Remedy, ...]:
    """A thicker wire of the same length."""
    if loss.share is None or loss.feed.wire_awg is None:
        return ()
    check = Check("drop", "drop", loss.share / allowed, loss.share, allowed, "share")
    awg = _thinnest(loss.feed.wire_awg, check)
    if awg is None:
        return ()
    change = tried(set_wire, assessment.project, loss.feed.load, loss.feed.wire_length_m, awg)
    return possible((f"a wire of AWG {awg}", change))


def apart_remedies(
    assessment: Assessment, cable: CableResult | None, check: Check | None, cable_id: str = ""
) -> tuple[Remedy, ...]:  # fmt: skip
    """A longer cable, a wider bend, or leads that lie apart, are screened or have capacitors at the brushes."""
    project = assessment.project
    if cable is not None and check is not None:
        own = cable.laid.cable
        if check.id == "long enough":
            longer = float(f"{check.needed * (1 + own.slack) * 1.05:.2g}")
            return possible((f"{show(longer, 'm')} long", tried(set_cable, project, value_id=own.id, length_m=longer)),
                            ("as long as its places ask for",
                             tried(set_cable, project, value_id=own.id, length_m=None)))  # fmt: skip
        if check.id == "bend":
            wide = float(f"{check.needed * 1.3:.2g}")
            words = f"bent no tighter than {show(wide, 'm')}"
            return possible((words, tried(set_cable, project, value_id=own.id, bend_m=wide)))
        if check.id == "contacts" and cable.laid.wires is not None:
            ways = round(check.needed * 1.25 + 0.49)
            return possible((f"a plug of {ways} contacts", tried(set_cable, project, value_id=own.id, ways=ways)))
        return ()
    return possible(
        ("tied apart from it", tried(set_cable, project, value_id=cable_id, bundle="")),
        ("capacitors at the brushes of its motor", tried(set_cable, project, value_id=cable_id, suppressed=True)),
        ("a screen around it", tried(set_cable, project, value_id=cable_id, screened=True)),
    )


def bare_remedies(assessment: Assessment) -> tuple[Remedy, ...]:
    """A cable for each."""
    change = tried(cables_for_all, assessment.project, assessment.of(PINS))
    return possible(("a cable for each of them, lengths by their places", change))


def switch_at(project: Project, pack: Item, part: Part) -> Change:
    """A switch between a pack and all that it feeds, sitting at the pack, so that its cables stay what they are."""
    change = insert_behind(project, pack, part)
    known = {i.id for i in project.concept.items}
    new = next(i for i in change.after.concept.items if i.id not in known)
    if not project.concept.cables:
        return change
    name = f"{new.name} at {pack.name}"[:120]
    cable = Cable(id=new_id(name, (c.id for c in project.concept.cables)), name=name, start=pack.id,
                  reaches=(Reach(item=new.id),), length_m=0.0)  # fmt: skip
    after = with_concept(change.after, cables=(*change.after.concept.cables, cable))
    return Change(project, after, change.sentence)


def switch_remedies(assessment: Assessment, pack: Item, *, stop: bool) -> tuple[Remedy, ...]:
    """Switches of the catalogue between the pack and all that it feeds, the smallest that bears it first."""
    project = assessment.project
    flows = assessment.of(POWER).most(pack.id, "current_a")[0] if assessment.of(POWER).modes else 0.0
    bearing = [p for p in of_kind("switch") if p.rail is not None and (p.rail.max_current_a or 0.0) * IN_HAND >= flows]
    parts = [p for p in catalogue() if p.id in STOP_PARTS] if stop else bearing or list(of_kind("switch"))
    ways = [(f"add {p.name} behind {pack.name}", tried(switch_at, project, pack, p)) for p in parts]
    return possible(*ways)[: FEW + 1]
