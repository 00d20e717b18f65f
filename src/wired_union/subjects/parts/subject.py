"""Parts: a lane for each subsystem, every figure edited in place."""

from collections.abc import Iterator

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Caution, MeasureKind, Subject
from wired_union.project.model import Concept
from wired_union.subjects.parts.climate import findings, refuses

BRIGHT = {"beam pair", "range sensor", "laser pointer"}
"""Classes of part that may shine a laser or a bright beam."""


def _measures(assessment: Assessment) -> tuple[Measure, ...]:
    items = assessment.project.concept.items
    return (Measure("part-count", "Parts", float(sum(i.count for i in items)), ""),)


def _verdict(assessment: Assessment) -> Verdict | None:
    return worst(list(assessment.item_verdicts.values())) or Verdict.HOLDS


def _cautions(concept: Concept) -> Iterator[Caution]:
    bright = tuple(i.id for i in concept.items if i.part.kind in BRIGHT)
    radios = tuple(i.id for i in concept.items if i.part.kind == "radio")
    if bright:
        text = "Use only a class that is safe to look into, never aim it at eyes, and follow the lab's laser rules."
        yield Caution("Laser or bright emitter", f"{text} {RULES}", bright)
    if radios:
        text = "Power, duty cycle and licence differ by country: check the rules where it will run."
        yield Caution("Radio", f"{text} {RULES}", radios)


SUBJECT = Subject(
    id="parts", title="Parts", group="CHOOSE",
    about=(
        "An alternative is worked out by assessing the whole project with it in place. Order: what helps the limits"
        " that break comes first, what breaks a hard requirement last. Supply range, logic level (high from 0.7 of the"
        " supply, common practice), driver and regulator ratings (20 % in hand, common practice) are checked; fit in"
        " space is not.",
    ),
    view="view:PartsView", edits_items=True,
    methods=("linear-regulator", "switching-converter", "voltage-drop", "wire-gauge"),
    measures=_measures, verdict=_verdict, findings=findings, refuses=refuses,
    explains=(MeasureKind("part-count", "", "Carry and fit", about="how many parts there are"),),
    cautions=_cautions, section="section:section", papers="papers:papers",
)  # fmt: skip
