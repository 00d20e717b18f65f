"""Bench: one part at a time, in an order that needs the least to trust."""

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, MeasureKind, Subject
from wired_union.subjects.bench.assess import BENCH, begun
from wired_union.subjects.bench.calibrations import CALIBRATIONS, measures
from wired_union.subjects.bench.findings import findings
from wired_union.subjects.bench.pick import BenchPick


def _verdict(assessment: Assessment) -> Verdict | None:
    """Nothing until something was woken or read; unknown until all are."""
    if not begun(assessment.project):
        return None
    found = [f.verdict for f in assessment.findings if f.subject == "bench"]
    found.append(Verdict.HOLDS if all(w.stands == "woken" for w in assessment.of(BENCH)) else Verdict.UNKNOWN)
    return worst(found)


def _pick(_: Assessment, measure: Measure) -> BenchPick:
    return BenchPick(calibration=measure.of)


SUBJECT = Subject(
    id="bench", title="Bench", group="PROVE",
    about=(
        "A part comes after what feeds it and after the controller that its signals go to; among those that could come,"
        " power before logic, logic before links, links before sensors, sensors before what moves: common practice.",
        "Expected is what the plan counts with: the part's own figures, and the voltage of full packs that rest."
        " Voltages may differ by 5 %, currents by 20 %, speeds by 10 %: common practice.",
        "A calibration is a curve by least squares, of the form with the least small-sample AIC where none is chosen."
        " How far the quantity may be off is half the prediction band over the slope; nothing is said beyond the"
        " points, nor where the curve turns back. A point is odd where it lies more than four spreads from a curve"
        " through the others; it is struck out by hand alone.",
        "A reading is never overwritten. Taken as measured it stands in the place of the part's figure everywhere; how"
        " well the part's mass is known stays as it was. The simulated bench reads what the plan expects, with noise"
        " and one fault where that is chosen, and its readings say so.",
    ),
    view="view:BenchView",
    methods=("fit-calibration", "combined-uncertainty", "adc-noise"),
    nodes=(BENCH, CALIBRATIONS), measures=measures, findings=findings, hard_findings=lambda _: (), verdict=_verdict,
    explains=(
        MeasureKind("error", "", "Prove", each=True, select=_pick, own_units=True,
                    about="the most that a calibrated quantity may be off"),
    ),
    section="section:section",
)  # fmt: skip
