"""Trials: what runs show, and what is only hoped."""

from collections.abc import Iterator

from wired_union.kernel.results import Finding, Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Driver, MeasureKind, Subject
from wired_union.subjects.trials.assess import TRIALS, informs
from wired_union.subjects.trials.assess import measures as trial_measures
from wired_union.subjects.trials.course import COURSE
from wired_union.subjects.trials.course import measures as course_measures
from wired_union.subjects.trials.findings import findings as trial_findings
from wired_union.subjects.trials.findings_course import findings as course_findings
from wired_union.subjects.trials.findings_throws import findings as throw_findings
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.trials.proved import shows, unready
from wired_union.subjects.trials.throws import CHARGES, THROWS
from wired_union.subjects.trials.throws import measures as throw_measures
from wired_union.units import show


def _verdict(assessment: Assessment) -> Verdict | None:
    """The worst of what trials show of their wishes, and of what is said of them; nothing without one or a course."""
    results = assessment.of(TRIALS)
    if not results and not assessment.project.concept.trips:
        return None
    found = [r.verdict or Verdict.UNKNOWN for r in results if r.wish is not None]
    found += [f.verdict for f in assessment.findings if f.subject == "trials"]
    return worst(found)


def _measures(assessment: Assessment) -> Iterator[Measure]:
    yield from trial_measures(assessment)
    yield from course_measures(assessment)
    yield from throw_measures(assessment)


def _findings(assessment: Assessment) -> Iterator[Finding]:
    yield from trial_findings(assessment)
    yield from course_findings(assessment)
    yield from throw_findings(assessment)


def _pick_course(_: Assessment, __: Measure) -> TrialPick:
    return TrialPick(course=True)


def _pick_throw(_: Assessment, measure: Measure) -> TrialPick:
    return TrialPick(throw=measure.of)


def _tasks(assessment: Assessment, _: Measure) -> list[Driver]:
    """Each task of the course by the points that it brings on average."""
    w = assessment.of(COURSE).walked
    done = sorted(w.done, key=lambda d: -d.leg.worth * d.in_time) if w is not None else []
    return [Driver(d.leg.task.name, d.leg.worth * d.in_time, show(d.leg.worth * d.in_time, "points"), "moss")
            for d in done]  # fmt: skip


def _pick(_: Assessment, measure: Measure) -> TrialPick:
    return TrialPick(measure.of)


def _versions(assessment: Assessment, measure: Measure) -> list[Driver]:
    """Each version with its runs."""
    r = next((r for r in assessment.of(TRIALS) if r.trial.id == measure.of), None)
    rows = r.rows if r is not None else ()
    return [Driver(row.version or "as it is", float(len(row.runs)), f"{row.good} of {row.tries}", "slate")
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
        "The course: times are independent and normal, driving and changes among them; a task counts where it is done"
        " in time and succeeds, and one that fails takes its time as well. The best order looks through every order of"
        " trips and all that may be left out, of plans that begin no task after the time is up as usual; it says"
        " whether that was proven.",
        "A throw flies with the drag of still air; its speed and angle spread as normal distributions do, apart from"
        " each other, and 441 equally likely throws stand for them. A charge is that of the curve with the least"
        " small-sample AIC through the runs, turned round; nothing is said beyond the charges tried.",
        "A link is as good as where fewest packets arrive: distance and condition are told apart, packets are taken as"
        " independent. Effects of two-level settings are least squares with products of two; of good and bad, 1 and 0.",
        "No run is overwritten: one that must not count is struck out with its reason.",
    ),
    view="view:TrialsView",
    methods=("success-interval", "trials-for-proof", "mean-interval", "compare-rates", "compare-means",
             "runs-to-tell-apart", "streak-chance", "streak-length", "box-figures", "tolerance-interval",
             "points-in-time", "factorial-effects", "wear-rate", "link-reach", "process-capability",
             "projectile-range", "flight-with-drag"),
    nodes=(TRIALS, COURSE, THROWS, CHARGES), measures=_measures, informs=informs, findings=_findings,
    hard_findings=lambda _: (), verdict=_verdict,
    explains=(
        MeasureKind("trial", "share", "Prove", "at least", each=True, select=_pick, drivers=_versions, own_units=True,
                    about="what the runs of a trial show"),
        MeasureKind("course", "points", "Prove", "at least", select=_pick_course, drivers=_tasks,
                    about="points of the course on average; it holds where nine of ten courses reach them"),
        MeasureKind("throw", "share", "Prove", "at least", each=True, select=_pick_throw,
                    about="throws that clear the wall and land in the band"),
        MeasureKind("course-time", "s", "Prove", select=_pick_course,
                    about="usual time of the course; it holds where nine of ten courses stay within it"),
    ),
    section="section:section", gist="section:gist", papers="papers:papers",
    shows=shows, unready=unready,
)  # fmt: skip
