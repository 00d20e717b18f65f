"""Strength and heat: plates, bolts, tethers, sizes in a row, growth, drops, lifting."""

from collections.abc import Iterable

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Caution, Driver, MeasureKind, Subject
from wired_union.project.model import Concept
from wired_union.project.strength_model import LiftTest, TetherTest
from wired_union.subjects.strength.assess import STRENGTH, findings, measures
from wired_union.subjects.strength.kinds import CATCHING, LIFTING
from wired_union.subjects.strength.pick import StrengthPick
from wired_union.units import show


def _verdict(assessment: Assessment) -> Verdict | None:
    return worst([*assessment.own_verdicts("strength"), *(r.verdict for r in assessment.of(STRENGTH))])


def _select(_: Assessment, measure: Measure) -> StrengthPick:
    return StrengthPick(measure.of)


def _drivers(assessment: Assessment, measure: Measure) -> list[Driver]:
    result = next((r for r in assessment.of(STRENGTH) if r.test.id == measure.of), None)
    checks = result.checks if result is not None else ()
    return [Driver(c.name, min(c.use, 1e6), show(min(c.use, 1e6), "share"), "slate") for c in checks]


def _cautions(concept: Concept) -> Iterable[Caution]:
    """Lifting by hand, and what hangs."""
    if any(isinstance(t, LiftTest) for t in concept.borne):
        yield Caution("Lifting by hand", f"{LIFTING} {RULES}", ())
    if any(isinstance(t, TetherTest) for t in concept.borne):
        yield Caution("What hangs or falls", f"{CATCHING} {RULES}", ())


SUBJECT = Subject(
    id="strength", title="Strength", group="BUDGET",
    about=(
        "Each thing is counted with the most that its parts may weigh. A plate bends by Navier's series, or by the"
        " table of clamped plates; beyond half its thickness that no longer holds and is said. Bolts bear shear and"
        " pull together by von Mises on the stress area of their thread, friction not counted.",
        "A tether or a drop is a mass on a spring, no energy lost. Sizes in a row add up all the same way, or each by"
        " itself; a hole and what goes in come out as their making usually gives them, each at its worst. Growth is"
        " between the coldest and the hottest air of the brief, from the temperature at which it was put together."
        " Strengths are typical of a grade; fatigue, creep, holes and notches are not worked out.",
    ),
    view="view:StrengthView",
    methods=("plate-deflection", "bolt-group", "drop-load", "tolerance-stack", "thermal-growth", "made-fit",
             "tightening-torque"),
    nodes=(STRENGTH,), measures=measures, findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    cautions=_cautions,
    explains=(MeasureKind("strength", "share", "Carry and fit", each=True, select=_select, drivers=_drivers,
                          about="share that it uses of what it bears"),),
    section="section:section", builds="builds:steps",
)  # fmt: skip
