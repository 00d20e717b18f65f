"""Trials: what runs show, and what is only hoped."""

from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.trials.assess import TRIALS, informs, measures
from wired_union.subjects.trials.findings import findings
from wired_union.subjects.trials.pick import TrialPick


def _verdict(assessment: Assessment) -> Verdict | None:
    """The worst of what trials show of their wishes, and of what is said of them; nothing without a trial."""
    results = assessment.of(TRIALS)
    if not results:
        return None
    found = [r.verdict or Verdict.UNKNOWN for r in results if r.wish is not None]
    found += [f.verdict for f in assessment.findings if f.subject == "trials"]
    return worst(found)


def _pick(_: Assessment, measure: Measure) -> TrialPick:
    return TrialPick(measure.of)


def _versions(assessment: Assessment, measure: Measure) -> list[Driver]:
    """Each version with its runs."""
    r = next((r for r in assessment.of(TRIALS) if r.trial.id == measure.of), None)
    rows = r.rows if r is not None else ()
    return [Driver(row.version or "as it is", float(len(row.runs)), f"{row.good} of {len(row.runs)}", "slate")
            for row in rows]  # fmt: skip


SUBJECT = Subject(
    id="trials", title="Trials", group="PROVE",
    about=(
        "A wish counts as shown when the one-sided bound of the rate (Clopper and Pearson) or of the mean (Student's t)"
        " at the confidence asked is what is wanted; as met when only the rate or mean itself is. Runs are taken as"
        " independent and of one kind: the version that ran last counts, its second half compared with its first.",
        "How many more: the fewest further runs after which the bound would be what is wanted. Versions are compared by"
        " Fisher's exact test, with Newcombe's interval of the difference. Boxes reach from quartile to quartile,"
        " whiskers to the last value within one and a half boxes. A sweep is a parabola by least squares; its best is"
        " said only where it bends that way between the settings tried, with two standard errors either side.",
        "No run is overwritten: one that must not count is struck out with its reason.",
    ),
    view="view:TrialsView",
    methods=("success-interval", "trials-for-proof", "mean-interval", "compare-rates", "compare-means",
             "runs-to-tell-apart", "streak-chance", "streak-length", "box-figures", "tolerance-interval"),
    nodes=(TRIALS,), measures=measures, informs=informs, findings=findings, hard_findings=lambda _: (),
    verdict=_verdict,
    explains=(
        MeasureKind("trial", "share", "Prove", "at least", each=True, select=_pick, drivers=_versions, own_units=True,
                    about="what the runs of a trial show"),
    ),
    section="section:section",
)  # fmt: skip
