"""Mass and money: every gram with its allowance, every pound with where it comes from."""

import math
from collections.abc import Iterator

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Selection, Subject
from wired_union.project.model import Part
from wired_union.subjects.mass.assess import MASS, TOTAL_KG, added_cost, added_kg, findings, measures, summable
from wired_union.subjects.mass.balance import BALANCE
from wired_union.subjects.mass.beams import BEAMS, FREQUENCIES, beam_findings
from wired_union.subjects.mass.envelope import AXES, ENVELOPE, envelope_findings, hard_gate_findings, size_of
from wired_union.subjects.mass.money import MONEY
from wired_union.subjects.mass.stance import CARRIED, CENTRE
from wired_union.subjects.mass.tipping import hard_tip_findings, movable_lumps
from wired_union.subjects.mass.unready import unready
from wired_union.units import show


def _heavy(assessment: Assessment, _: Measure) -> list[Driver]:
    lanes = {s.id: s.name for s in assessment.project.concept.subsystems}
    sums = [(lanes[i], sum(x.total_kg for x in lines)) for i, lines in assessment.of(MASS).by_subsystem if lines]
    return [Driver(name, kg, show(kg, "kg"), "slate") for name, kg in sums]


def _dear(assessment: Assessment, _: Measure) -> list[Driver]:
    return [
        Driver(item.name, cost, show(cost, assessment.project.brief.currency), "moss")
        for item, cost in assessment.of(MONEY).by_item[:6]
    ]


def _dearest(assessment: Assessment, _: Measure) -> Selection:
    by_item = assessment.of(MONEY).by_item
    return Selection(item=by_item[0][0].id if by_item else "")


def _verdict(assessment: Assessment) -> Verdict | None:
    """The worst of its limits, of what bends, and of the gate."""
    beside = (*beam_findings(assessment), *envelope_findings(assessment))
    return worst([*assessment.own_verdicts("mass"), *(f.verdict for f in beside)])


def _biggest(assessment: Assessment, measure: Measure) -> list[Driver]:
    """The parts of a subsystem that take the most of its room."""
    items = [i for i in assessment.project.concept.items if i.subsystem == measure.of]
    sizes = [(i.name, math.prod(size) * i.count) for i in items if (size := size_of(i.part)) is not None]
    sizes.sort(key=lambda x: -x[1])
    return [Driver(name, volume, f"{volume * 1e3:.3g} l", "slate") for name, volume in sizes[:8]]


def _movers(assessment: Assessment, _: Measure) -> Selection:
    """The heaviest part that can be moved."""
    movable = movable_lumps(assessment.of(BALANCE))
    return Selection(item=movable[0].item.id if movable else "")


def _refuses_new(assessment: Assessment, part: Part) -> Iterator[str]:
    """What is more than the limits leave."""
    for measure_id, amount, unit in (
        ("mass", part.mass_kg, "kg"),
        ("money", part.price, assessment.project.brief.currency),
    ):
        measure = assessment.measure(measure_id)
        if amount is None or measure.limit is None or measure.value is None:
            continue
        left = measure.limit - measure.value
        if amount > left:
            yield f"{show(amount, unit)} is more than the {show(max(left, 0.0), unit)} left of the {measure_id}"


SUBJECT = Subject(
    id="mass", title="Mass", group="BUDGET",
    about=(
        "Mass is the sum of parts times their count, each with the growth allowance that its knowledge calls for, and"
        " the system margin on top. The brief may ask for another school: one share of all, or the root of the squares"
        " of what each part may grow by. Cables, screws, glue and paint are a share of the parts where the brief says"
        " one. Money counts what is bought or to buy.",
        "The machine's frame has x forward, y left, z up. A copy without a place may be anywhere in the room of its"
        " subsystem, and a mass anywhere within its allowance: the tip angle is the least that any of that gives, over"
        " the first edge of the polygon of wheels and feet, at rest on a slope in the worst direction.",
        "A pose says what moves, weighs else or is gone, how hard it brakes and what pushes; the worst pose"
        " counts. Length, width and height take parts as boxes. A beam bends under what hangs on it and its own"
        " weight, elastic and slender, of a typical grade; on a bump it pulls as often as its shock says, and"
        " twice that it should bear.",
        "Not checked: what swings, spills or moves while it drives, soft ground, wind,"
        " joints and screws of beams, tiredness of metal.",
    ),
    view="view:MassView", methods=(
        "mass-growth", "centre-of-mass", "box-inertia", "wheel-loads", "tip-angle", "beam-deflection", "beam-frequency",
        "plate-deflection", "bolt-group", "tolerance-stack", "thermal-growth", "drop-load", "imbalance-force",
    ),
    nodes=(MASS, TOTAL_KG, MONEY, BALANCE, CARRIED, CENTRE, ENVELOPE, BEAMS, FREQUENCIES),
    measures=measures, findings=findings,
    hard_findings=lambda a: (*hard_tip_findings(a), *hard_gate_findings(a)),
    explains=(
        MeasureKind("mass", "kg", "Carry and fit", drivers=_heavy,
                    about="every part with the allowance that its knowledge calls for"),
        MeasureKind("money", "£", "Cost", drivers=_dear, select=_dearest,
                    about="what is bought and what is still to buy"),
        MeasureKind("tip-angle", "°", "React", "at least", select=_movers,
                    about="the slope at which it tips over its first edge"),
        *(MeasureKind(name, "m", "Carry and fit", about=f"{name} of the whole machine, by the places of its parts")
          for name in AXES),
        MeasureKind("safety-factor", "", "Carry and fit", "at least", each=True,
                    about="how many times a beam bears what pulls on it"),
        MeasureKind("first-frequency", "Hz", "Carry and fit", "at least", each=True,
                    about="how fast a beam swings with what it carries"),
        MeasureKind("room", "share", "Carry and fit", each=True, drivers=_biggest,
                    about="share of the room of a subsystem that its parts take as boxes"),
    ),
    verdict=_verdict, section="section:section", papers="papers:papers",
    unready=unready, refuses_new=_refuses_new, sums={"mass": added_kg, "money": added_cost},
    summable=summable,
)  # fmt: skip
