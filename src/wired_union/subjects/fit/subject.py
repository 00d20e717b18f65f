"""Fit and sight: what touches, what must stay free, how high stacks are, what sensors see."""

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, MeasureKind, Subject
from wired_union.subjects.fit.assess import findings, measures
from wired_union.subjects.fit.boxes import FITTING
from wired_union.subjects.fit.pick import FitPick
from wired_union.subjects.fit.sights import SEEN
from wired_union.subjects.fit.stacks import STACKS


def _verdict(assessment: Assessment) -> Verdict | None:
    return worst([*assessment.own_verdicts("fit"), *(f.verdict for f in findings(assessment))])


def _sight(_: Assessment, measure: Measure) -> FitPick:
    return FitPick("sights", measure.of)


def _stack(_: Assessment, measure: Measure) -> FitPick:
    return FitPick("stacks", measure.of)


SUBJECT = Subject(
    id="fit", title="Fit and sight", group="BUDGET",
    about=(
        "Parts count as boxes at their places, turned and tilted. Two that reach into each other may touch: whether"
        " they do, only a look or a drawing tells. A part that others may be inside touches nothing. What has no place"
        " or no size is not looked at, and is said.",
        "A sensor sees a pinhole picture from its middle. The smallest thing that it finds is as many pixels as finding"
        " takes, where it may stop. Rays spread over the picture tell what of the machine is in the way, over a whole"
        " sweep where a servo turns it. Light, colour, dirt and glare are not worked out: a trial shows them.",
        "Room for a hand is 100 mm deep and wide, for a plug 50 by 30 mm, for a screwdriver 150 by 20 mm, for the bend"
        " of a cable 30 by 20 mm: common practice, from memory.",
    ),
    view="view:FitView", methods=("field-of-view", "ground-band", "beam-grid"),
    nodes=(FITTING, STACKS, SEEN), measures=measures, findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    explains=(
        MeasureKind("finds", "m", "React", each=True, select=_sight,
                    about="smallest thing that a sensor finds where it must"),
        MeasureKind("stack", "m", "Carry and fit", each=True, select=_stack,
                    about="height of a stack with its spacers"),
    ),
    section="section:section",
)  # fmt: skip
