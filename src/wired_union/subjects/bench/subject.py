"""Bench: one part at a time, in an order that needs the least to trust."""

from collections.abc import Iterator

from wired_union.kernel.results import Finding, Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.bench.assess import BENCH, begun
from wired_union.subjects.bench.budgets import BUDGETS
from wired_union.subjects.bench.budgets import measures as budget_measures
from wired_union.subjects.bench.calibrations import CALIBRATIONS
from wired_union.subjects.bench.calibrations import measures as calibration_measures
from wired_union.subjects.bench.chains import CHAINS
from wired_union.subjects.bench.chains import measures as chain_measures
from wired_union.subjects.bench.findings import findings as bench_findings
from wired_union.subjects.bench.findings_budgets import findings as budget_findings
from wired_union.subjects.bench.findings_maps import findings as map_findings
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.surfaces import SURFACED
from wired_union.subjects.bench.surfaces import measures as surface_measures
from wired_union.units import show


def _verdict(assessment: Assessment) -> Verdict | None:
    """Nothing until something was woken or read; unknown until all are."""
    if not begun(assessment.project):
        return None
    found = [f.verdict for f in assessment.findings if f.subject == "bench"]
    found.append(Verdict.HOLDS if all(w.stands == "woken" for w in assessment.of(BENCH)) else Verdict.UNKNOWN)
    return worst(found)


def _pick(assessment: Assessment, measure: Measure) -> BenchPick:
    concept = assessment.project.concept
    if any(b.id == measure.of for b in concept.error_budgets):
        return BenchPick(budget=measure.of)
    if any(c.id == measure.of for c in concept.analogue_chains):
        return BenchPick(chain=measure.of)
    if any(s.id == measure.of for s in concept.surfaces):
        return BenchPick(surface=measure.of)
    return BenchPick(calibration=measure.of)


def _measures(assessment: Assessment) -> list[Measure]:
    found = (calibration_measures, budget_measures, chain_measures, surface_measures)
    return [m for measures in found for m in measures(assessment)]


def _findings(assessment: Assessment) -> Iterator[Finding]:
    yield from bench_findings(assessment)
    yield from budget_findings(assessment)
    yield from map_findings(assessment)


def _drivers(assessment: Assessment, measure: Measure) -> list[Driver]:
    """Contributions of an error budget by their share of the variance."""
    b = next((b for b in assessment.of(BUDGETS) if b.budget.id == measure.of), None)
    if b is None or b.missing:
        return []
    found = [Driver(p.doubt.name, s, show(s, "share"), "moss") for p, s in zip(b.parts, b.shares, strict=True)]
    return sorted(found, key=lambda d: -d.amount)


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
        "An analogue chain: steps of the converter as even noise, with the noise before it, less by averaging as long"
        " as noise hides the steps; a disturbance that is known adds at its worst, after a filter of one resistor and"
        " one capacitor, at the frequency to which sampling folds it. A surface is least squares of the form with the"
        " least small-sample AIC; its error is half the widest prediction band among its points.",
        "An error budget takes independent contributions together as squares (JCGM 100); those that move together add"
        " first. It widens by Student's t with the degrees of freedom of Welch and Satterthwaite. At their worst all"
        " are at their ends the same way; what has no ends counts with three standard deviations.",
        "A reading is never overwritten. Taken as measured it stands in the place of the part's figure everywhere; how"
        " well the part's mass is known stays as it was. The simulated bench reads what the plan expects, with noise"
        " and one fault where that is chosen, and its readings say so.",
    ),
    view="view:BenchView",
    methods=("fit-calibration", "combined-uncertainty", "coverage-factor", "adc-noise", "folded-frequency",
             "fit-surface"),
    nodes=(BENCH, CALIBRATIONS, BUDGETS, CHAINS, SURFACED), measures=_measures, findings=_findings,
    hard_findings=lambda _: (), verdict=_verdict,
    explains=(
        MeasureKind("error", "", "Prove", each=True, select=_pick, drivers=_drivers, own_units=True,
                    about="the most that a quantity may be off"),
    ),
    section="section:section", builds="builds:steps", papers="papers:papers",
)  # fmt: skip
