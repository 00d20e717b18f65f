"""Edits of trials: one more, other figures, a run, many runs, a run struck out. No run is ever overwritten."""

from collections.abc import Sequence

from wired_union.project.change import Change, by_id, checked_name, figures_of, new_id, replaced
from wired_union.project.dates import checked_day
from wired_union.project.errors import ProjectError
from wired_union.project.model import Limit, Project
from wired_union.project.trial_model import Factor, Run, Trial
from wired_union.project.value import checked, made
from wired_union.subjects.trials.shown import is_good, is_measured
from wired_union.units import plain_words, show, show_named


def add_trial(project: Project, name: str, limit: str = "", unit: str = "", **figures: object) -> Change:
    """One more trial, of a limit of the brief where one is named; `unit` is that of a limit that is computed, else of
    its values.
    """
    name = checked_name(name, "trial")
    wish = project.brief.limit(limit) if limit else None
    if limit and wish is None:
        raise ProjectError(f"There is no limit on {limit}. Choose one of the brief.")
    trial = _like(Trial(id=new_id(name, (t.id for t in project.trials)), name=name, limit=limit), wish, unit)
    with figures_of(name):
        trial = checked(trial, **({"unit": unit} if unit and wish is None else {}) | figures)
    return Change(project, project.but(trials=(*project.trials, trial)), f"{name}: one more trial")


def _like(trial: Trial, wish: Limit | None, unit: str) -> Trial:
    """What a trial of a limit begins as: a rate for a share, else the mean of what is measured in its unit."""
    if wish is not None and not wish.own:
        return trial.but(counts="a value", proves="mean", unit=unit)
    if wish is None or wish.unit in {"%", "share"} or (wish.own and not wish.unit and wish.value <= 1):
        return trial
    return trial.but(counts="a value", proves="mean", unit=wish.unit)


def set_trial(project: Project, trial_id: str, **figures: object) -> Change:
    """Other figures of a trial; its runs stay as they are. Raises ProjectError for what cannot be."""
    old = _trial(project, trial_id)
    if "name" in figures:
        figures["name"] = checked_name(str(figures["name"]), "trial")
    with figures_of(old.name):
        new = checked(old, **figures)
    if new.band_low is not None and new.band_high is not None and new.band_low > new.band_high:
        raise ProjectError("The band ends below where it begins. Give the lower end first.")
    if new.limit and new.unit != old.unit and "limit" not in figures:
        raise ProjectError("It is measured in the unit of the limit that it proves. Let it prove nothing first.")
    if "concept" in figures and new.concept and new.concept not in {c.id for c in project.concepts}:
        raise ProjectError("There is no such concept. Choose one that there is.")
    if "limit" in figures and new.limit and project.brief.limit(new.limit) is None:
        raise ProjectError("There is no such limit in the brief. Choose one that there is.")
    if old.runs and new.counts != old.counts and not (is_measured(new) and is_measured(old)):
        raise ProjectError(f"{old.name} has runs that were entered otherwise. Make a new trial for what counts now.")
    said = ", ".join(f"{plain_words(f)} {_said(f, getattr(new, f))}" for f in figures)
    return _with(project, old, new, said)


def _said(field: str, value: object) -> str:
    return show_named(field, value) if isinstance(value, int | float) else str(value or "not said")


def add_factor(project: Project, trial_id: str, name: str, low: str = "low", high: str = "high") -> Change:
    """A setting more that is tried at two levels. Raises ProjectError where runs were made without it."""
    trial = _trial(project, trial_id)
    if any(r.levels for r in trial.runs):
        raise ProjectError(f"{trial.name} has runs without {name}. Make a new trial for another set of settings.")
    with figures_of(name):
        factor = made(Factor, name=checked_name(name, "setting"), low=low.strip(), high=high.strip())
    return _with(project, trial, trial.but(factors=(*trial.factors, factor)), f"{factor.name} at two levels")


def remove_factor(project: Project, trial_id: str, number: int) -> Change:
    """A setting of two levels less, by its number from 1. Raises ProjectError where runs say its level."""
    trial = _trial(project, trial_id)
    if not 1 <= number <= len(trial.factors):
        raise ProjectError(f"{trial.name} has {len(trial.factors)} settings of two levels.")
    if any(r.levels for r in trial.runs):
        raise ProjectError(f"{trial.name} has runs that say the level of each setting; those are kept.")
    gone = trial.factors[number - 1]
    factors = (*trial.factors[: number - 1], *trial.factors[number:])
    return _with(project, trial, trial.but(factors=factors), f"{gone.name} no longer at two levels")


def remove_trial(project: Project, trial_id: str) -> Change:
    """One trial less. Raises ProjectError where it has runs: those are kept."""
    trial = _trial(project, trial_id)
    if trial.runs:
        raise ProjectError(f"{trial.name} holds {len(trial.runs)} runs, which are kept. Strike them out instead.")
    after = project.but(trials=tuple(t for t in project.trials if t is not trial))
    return Change(project, after, f"{trial.name}: no longer tried")


def add_run(project: Project, trial_id: str, **figures: object) -> Change:
    """One run, at the end. Raises ProjectError where what counts is not said."""
    trial = _trial(project, trial_id)
    run = _checked_run(trial, figures)
    word = result_words(trial, run)
    return _with(project, trial, trial.but(runs=(*trial.runs, run)), f"run {len(trial.runs) + 1} {word}")


def add_runs(project: Project, trial_id: str, rows: Sequence[dict[str, object]]) -> Change:
    """Several runs in their order. Raises ProjectError at the first that cannot be, with its number."""
    trial, runs = _trial(project, trial_id), list[Run]()
    if not rows:
        raise ProjectError("There is no run in it.")
    for number, figures in enumerate(rows, 1):
        try:
            runs.append(_checked_run(trial, figures))
        except ProjectError as error:
            raise ProjectError(f"Row {number}: {error} Nothing was taken.") from error
    said = f"{len(runs)} run{'s' if len(runs) > 1 else ''} more"
    return _with(project, trial, trial.but(runs=(*trial.runs, *runs)), said)


def strike(project: Project, trial_id: str, number: int, why: str) -> Change:
    """A run, by its number from 1, that does not count, with the reason; it stays in its place. "" counts it again."""
    trial = _trial(project, trial_id)
    if not 1 <= number <= len(trial.runs):
        raise ProjectError(f"{trial.name} has {len(trial.runs)} runs.")
    run = trial.runs[number - 1].but(struck=why.strip())
    runs = (*trial.runs[: number - 1], run, *trial.runs[number:])
    said = f"run {number} struck out: {why.strip()}" if why.strip() else f"run {number} counts again"
    return _with(project, trial, trial.but(runs=runs), said)


def show_in(trial: Trial, value: float | None) -> str:
    """A value in the unit of a trial."""
    return show(value, trial.unit)


def _checked_run(trial: Trial, figures: dict[str, object]) -> Run:
    if figures.get("on"):
        figures = {**figures, "on": checked_day(str(figures["on"]))}
    with figures_of(trial.name):
        run = made(Run, **figures)
    if run.levels and len(run.levels) != len(trial.factors):
        raise ProjectError(f"{trial.name} has {len(trial.factors)} settings of two levels. Say the level of each.")
    reason = _lacking(trial, run)
    if reason:
        raise ProjectError(reason)
    return run


def _lacking(trial: Trial, run: Run) -> str:
    """What a run of such a trial must say and does not, "" where it says all."""
    if trial.counts == "pass or fail":
        return "Say whether the run was good or bad." if run.good is None else ""
    if trial.counts == "what is seen":
        return "" if run.was.strip() and run.seen.strip() else "Say what was there, and what it was taken for."
    if trial.counts == "packets":
        if run.sent is None or run.received is None:
            return "Say how many packets were sent, and how many arrived."
        return "" if run.received <= run.sent else "More packets arrived than were sent. Look again."
    return "Say what was measured." if run.value is None else ""


def result_words(trial: Trial, run: Run) -> str:
    """What came of a run: "good", "152 mm", "shell taken for stone", "97 of 100 packets"."""
    if trial.counts == "what is seen":
        return f"{run.was} seen" if is_good(trial, run) else f"{run.was} taken for {run.seen}"
    if trial.counts == "packets":
        return f"{run.received} of {run.sent} packets"
    if run.value is not None:
        return show_in(trial, run.value)
    return "good" if run.good else "bad"


def _trial(project: Project, trial_id: str) -> Trial:
    return by_id(project.trials, trial_id, "trial")


def _with(project: Project, old: Trial, new: Trial, said: str) -> Change:
    return Change(project, project.but(trials=replaced(project.trials, old, new)), f"{new.name}: {said}")
