"""Trials: what the runs show of every wish, and how each limit of the brief is proved."""

from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Measure, Verdict, judged, measure_id, worst
from wired_union.kernel.subject import Assessment, Given, Node
from wired_union.project.model import Limit, Project
from wired_union.project.trial_model import Trial
from wired_union.subjects.trials.shown import TrialResult, Wish, result_of
from wired_union.units import show


def wish_of(project: Project, trial: Trial) -> Wish | None:
    """What is wanted: by the limit that it proves, by a limit on the trial itself, else by its own figure."""
    limit = limit_of(project, trial)
    if trial.proves == "mean":
        fits = limit is not None and (not limit.own or limit.unit == trial.unit)
        return Wish(limit.value, limit.direction) if limit is not None and fits else None
    share = _share_of(project, limit, trial) if limit is not None else None
    if limit is not None and share is not None:
        return Wish(share, limit.direction)
    return Wish(trial.wanted) if trial.wanted is not None else None


def _share_of(project: Project, limit: Limit, trial: Trial) -> float | None:
    """The rate that a limit asks for; None for one of kilograms or seconds, of which a rate says nothing."""
    if limit.own and limit.unit == "%":
        return limit.value / 100
    shares = {measure_id("trial", trial.id), *(measure_id("throw", t.id) for t in project.concept.throws)}
    rates = (limit.own and limit.unit in {"", "share"}) or limit.measure in shares
    return limit.value if rates and limit.value <= 1 else None


def limit_of(project: Project, trial: Trial) -> Limit | None:
    """The limit that it proves, or one on the trial itself."""
    found = project.brief.limit(trial.limit) if trial.limit else None
    return found or project.brief.limit(measure_id("trial", trial.id))


def _work(project: Project, _: Given) -> tuple[TrialResult, ...]:
    return tuple(result_of(t, wish_of(project, t)) for t in project.trials)


def _read(project: Project) -> tuple[object, ...]:
    limits = tuple((x.measure, x.value, x.direction) for x in project.brief.limits)
    return project.trials, limits, tuple(t.id for t in project.concept.throws)


TRIALS = Node("trials", _read, _work)


def measures(assessment: Assessment) -> Iterator[Measure]:
    """Of each trial what it shows."""
    for r in assessment.of(TRIALS):
        made = _measure(r, "trial", r.trial.id)
        if r.wish is None and assessment.project.brief.limit(made.id) is not None:
            made = replace(made, missing=(*made.missing, f"{r.trial.name}: a wish that its runs could show"))
        yield made


def informs(assessment: Assessment) -> Iterator[tuple[str, Measure]]:
    """Limits of the team's own that a trial with runs proves."""
    for r in assessment.of(TRIALS):
        limit = assessment.project.brief.limit(r.trial.limit) if r.trial.limit else None
        if limit is not None and limit.own and r.rows and r.wish is not None:
            yield limit.measure, _in_percent(_measure(r, limit.measure, ""), limit)


def _in_percent(measure: Measure, limit: Limit) -> Measure:
    """A share as the limit has it, where that is in percent."""
    if limit.unit != "%" or measure.unit != "share":
        return measure
    value, low, high = (v * 100 if v is not None else None for v in (measure.value, measure.low, measure.high))
    return replace(measure, value=value, low=low, high=high, unit="%")


def _measure(r: TrialResult, kind: str, of: str) -> Measure:
    low, high = r.ends
    unit = "share" if r.is_rate else r.trial.unit
    return Measure(kind, r.trial.name, r.value, unit, missing=r.missing, of=of, low=low, high=high, told=r.verdict,
                   subject="trials")  # fmt: skip


class Proof(Struct, frozen=True):
    """How one limit of the brief is proved: by what, how far, by whom and when."""

    limit: Limit
    how: str
    """computed, measured, a trial, not yet"""
    said: str
    verdict: Verdict
    by: str = ""
    on: str = ""


def proofs_of(assessment: Assessment) -> tuple[Proof, ...]:
    """Every limit of the brief with what proves it: a trial before a measurement before what is computed."""
    trials = {r.trial.limit or f"trial:{r.trial.id}": r for r in assessment.of(TRIALS)}
    return tuple(_proof(assessment, x, trials.get(x.measure)) for x in assessment.project.brief.limits)


def _measured(limit: Limit, measure: Measure) -> Proof:
    """By what the team measured once; beside it what is computed, where something is, and the worse of both."""
    found = judged(Measure(measure.kind, measure.label, limit.measured, measure.unit), limit)
    said, verdicts = found.shown, [found.verdict]
    if not measure.measured and measure.value is not None:
        said, verdicts = f"{said}; {measure.shown} computed", [found.verdict, measure.verdict]
    return Proof(limit, "measured", said, worst(verdicts) or found.verdict, limit.measured_by, limit.measured_on)


def _proof(assessment: Assessment, limit: Limit, r: TrialResult | None) -> Proof:
    measure = assessment.measure(limit.measure)
    if r is not None and r.now is not None and r.verdict is not None:
        last = r.now.runs[-1]
        words = {Verdict.HOLDS: "shown", Verdict.TIGHT: "met, not yet shown", Verdict.BREAKS: "not met"}[r.verdict]
        runs = f"{len(r.now.runs)} run{'s' if len(r.now.runs) > 1 else ''} of {r.trial.name}"
        return Proof(
            limit, "a trial", f"{words} at {show(r.trial.confidence, 'share')} by {runs}", r.verdict, last.by, last.on
        )
    if limit.measured is not None:
        return _measured(limit, measure)
    if limit.own or measure.value is None:
        return Proof(limit, "not yet", "not tried" if limit.own or r is not None else "nothing informs it",
                     Verdict.UNKNOWN)  # fmt: skip
    lacks = "" if not measure.missing else "; not all of it is known"
    return Proof(limit, "computed", f"{measure.shown}{lacks}", measure.verdict)
